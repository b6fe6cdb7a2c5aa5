"""How names are used in Python, by the syntactic place in which they stand."""

from __future__ import annotations

from aedifex.languages.tree.uses import Use
from aedifex.program.model.names import Form, Mode

RESOURCE = Use(Mode.WRITE, Form.RESOURCE)
CAPTURE = Use(Mode.WRITE, Form.CAPTURE)

LEAF_NODES = frozenset(
    "integer float true false none ellipsis comment line_continuation type_conversion escape_sequence "
    "string_start string_content string_end pass_statement keyword_separator positional_separator "
    "escape_interpolation import_prefix".split()
)
"""The kinds of nodes in which no names stand."""
