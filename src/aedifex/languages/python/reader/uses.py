"""How names are used, by the syntactic place in which they stand."""

from __future__ import annotations

from typing import NamedTuple

from aedifex.program.model.names import Form, Mode


class Use(NamedTuple):
    """How the names below a node are used."""

    mode: Mode
    form: Form


READ = Use(Mode.READ, Form.PLAIN)
CALL = Use(Mode.CALL, Form.PLAIN)
TARGET = Use(Mode.WRITE, Form.TARGET)
UPDATE = Use(Mode.READ_WRITE, Form.TARGET)
DELETE = Use(Mode.DELETE, Form.TARGET)
LOOP = Use(Mode.WRITE, Form.LOOP)
RESOURCE = Use(Mode.WRITE, Form.RESOURCE)
WALRUS = Use(Mode.WRITE, Form.WALRUS)
CAPTURE = Use(Mode.WRITE, Form.CAPTURE)

LEAF_NODES = frozenset(
    "integer float true false none ellipsis comment line_continuation type_conversion escape_sequence "
    "string_start string_content string_end pass_statement keyword_separator positional_separator "
    "escape_interpolation import_prefix".split()
)
"""The kinds of nodes in which no names stand."""
