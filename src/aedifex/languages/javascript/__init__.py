"""JavaScript: scripts, modules, and the scripts of pages."""

from aedifex.languages.javascript.dialect import DIALECT

__all__ = ["DIALECT"]
