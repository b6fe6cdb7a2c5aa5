"""Python: reading it into the model, and writing it."""

from aedifex.languages.python.dialect import DIALECT

__all__ = ["DIALECT"]
