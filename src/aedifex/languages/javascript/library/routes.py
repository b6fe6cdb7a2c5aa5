"""What makes an application that answers requests, and how it is told of handlers."""

from aedifex.program.dialect.library import Refusal

APPLICATIONS = frozenset("express express.Router express.default express.default.Router".split())
ANSWERING_ERRORS = frozenset({"express"})
NOT_FOUND = Refusal(None, "throw Object.assign(new Error({text}), {{ status: 404 }})")
REQUEST_PARTS = frozenset({"params", "query"})
TELLING = frozenset("get post put patch delete head options all use param route".split())
