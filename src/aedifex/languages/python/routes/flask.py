"""Flask: applications and blueprints, whose decorators all hand the function on as it is."""

from __future__ import annotations

from aedifex.languages.python.routes.known import AS_IT_STANDS, KnownRoutes, words
from aedifex.program.dialect.library import ApplicationPart, Refusal
from aedifex.program.model.names import Imported

_METHODS = words("get post put patch delete")
_HOOKS = words(
    "before_request after_request teardown_request context_processor url_value_preprocessor url_defaults "
    "before_app_request after_app_request teardown_app_request app_context_processor app_url_value_preprocessor "
    "app_url_defaults teardown_appcontext shell_context_processor"
)
_NAMED = words("template_filter template_test template_global app_template_filter app_template_test")

ROUTES = KnownRoutes(
    applications=words("flask.Flask flask.Blueprint flask.app.Flask flask.blueprints.Blueprint"),
    called={
        "route": "{app}.add_url_rule({first}, view_func={handler}{rest})",
        **{
            verb: f'{{app}}.add_url_rule({{first}}, view_func={{handler}}, methods=["{verb.upper()}"]{{rest}})'
            for verb in _METHODS
        },
        "errorhandler": "{app}.register_error_handler({first}, {handler})",
        "app_errorhandler": AS_IT_STANDS,
        "endpoint": AS_IT_STANDS,
        **{name: AS_IT_STANDS for name in _NAMED},
    },
    plain={name: "{how}({handler})" for name in _HOOKS},
    routes=words("route add_url_rule") | _METHODS,
    not_found=Refusal(Imported("flask", "abort"), "abort(404)"),
    part=ApplicationPart(
        imported=Imported("flask", "Blueprint"),
        making='Blueprint("{name}", __name__, url_prefix="{prefix}")',
        joining="{app}.register_blueprint({part})",
        telling="add_url_rule",
        seen_by=words("url_for endpoint view_functions url_map url_rule blueprint register_blueprint"),
        folders=("templates",),
    ),
)
