"""Starlette: applications that are given their routes when they are made."""

from __future__ import annotations

from aedifex.languages.python.routes.known import KnownRoutes, words
from aedifex.program.dialect.library import Refusal
from aedifex.program.model.names import Imported

ROUTES = KnownRoutes(
    applications=words("starlette.applications.Starlette starlette.routing.Router"),
    not_found=Refusal(Imported("starlette.exceptions", "HTTPException"), "raise HTTPException(404)"),
    routes=words("Route add_route"),
)
