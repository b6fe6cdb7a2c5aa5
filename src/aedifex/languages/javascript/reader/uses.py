"""How names are used in JavaScript, by the syntactic place in which they stand."""

from __future__ import annotations

from aedifex.languages.tree.uses import Living, Use
from aedifex.program.model.names import Form, Mode

PARAMETER = Use(Mode.WRITE, Form.PARAMETER, Living.BLOCK)
CAUGHT = Use(Mode.WRITE, Form.CATCH, Living.BLOCK)
ROUTINE = Use(Mode.WRITE, Form.ROUTINE, Living.BLOCK)
CLASS = Use(Mode.WRITE, Form.CLASS, Living.BLOCK)
FIELD = Use(Mode.WRITE, Form.TARGET, Living.BLOCK)
IMPORT = Use(Mode.WRITE, Form.IMPORT, Living.BLOCK)

LEAF_NODES = frozenset(
    "number true false null regex comment html_comment hash_bang_line string_fragment escape_sequence super "
    "property_identifier private_property_identifier statement_identifier import optional_chain "
    "debugger_statement empty_statement jsx_text".split()
)
"""The kinds of nodes in which no names stand."""


def declaring(keyword: str, use: Use) -> Use:
    """A use that declares its names with `var`, `let` or `const`."""
    return use._replace(living=Living.FRAME if keyword == "var" else Living.BLOCK)
