"""Bottle: applications, and the functions of the module, which stand for the default application."""

from __future__ import annotations

from aedifex.languages.python.routes.known import AS_IT_STANDS, KnownRoutes, words
from aedifex.program.dialect.library import Refusal
from aedifex.program.model.names import Imported

_VERBS = words("route get post put patch delete")

ROUTES = KnownRoutes(
    applications=words("bottle.Bottle"),
    called={
        **{verb: "{how}({all}, callback={handler})" for verb in _VERBS},
        "error": AS_IT_STANDS,
        "hook": AS_IT_STANDS,
    },
    functions=frozenset(f"bottle.{name}" for name in [*_VERBS, "error", "hook"]),
    routes=_VERBS,
    not_found=Refusal(Imported("bottle", "abort"), "abort(404)"),
)
