"""What makes an application that answers requests, and how it is told of handlers."""

APPLICATIONS = frozenset("express express.Router express.default express.default.Router".split())
TELLING = frozenset("get post put patch delete head options all use param".split())
