"""Bottle: applications, and the functions of the module, which stand for the default application."""

from __future__ import annotations

from aedifex.languages.python.routes.known import KnownRoutes, words

_VERBS = words("route get post put patch delete")

ROUTES = KnownRoutes(
    applications=words("bottle.Bottle"),
    called={
        **{verb: "{how}({all}, callback={handler})" for verb in _VERBS},
        "error": "{how}({all})({handler})",
        "hook": "{how}({all})({handler})",
    },
    functions=frozenset(f"bottle.{name}" for name in [*_VERBS, "error", "hook"]),
    routes=_VERBS,
)
