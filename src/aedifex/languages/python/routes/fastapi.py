"""FastAPI: applications and routers."""

from __future__ import annotations

from aedifex.languages.python.routes.known import AS_IT_STANDS, KnownRoutes, words
from aedifex.program.dialect.library import Refusal
from aedifex.program.model.names import Imported

_VERBS = words("get post put patch delete head options trace")

ROUTES = KnownRoutes(
    applications=words("fastapi.FastAPI fastapi.APIRouter fastapi.applications.FastAPI fastapi.routing.APIRouter"),
    called={
        **{
            verb: f'{{app}}.add_api_route({{first}}, {{handler}}, methods=["{verb.upper()}"]{{rest}})'
            for verb in _VERBS
        },
        "api_route": "{app}.add_api_route({first}, {handler}{rest})",
        "websocket": "{app}.add_api_websocket_route({first}, {handler}{rest})",
        "exception_handler": "{app}.add_exception_handler({first}, {handler})",
        "on_event": AS_IT_STANDS,
        "middleware": AS_IT_STANDS,
    },
    only_decorators_take=words("callbacks **"),
    not_found=Refusal(Imported("fastapi", "HTTPException"), "raise HTTPException(404)"),
    routes=_VERBS | words("api_route add_api_route websocket"),
)
