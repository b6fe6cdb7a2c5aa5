"""How names are used, by the syntactic place in which they stand, and where a declared one lives."""

from __future__ import annotations

from enum import Enum
from typing import NamedTuple

from aedifex.program.model.names import Form, Mode


class Living(Enum):
    """In which scope a use lets a name live: none of its own, that of the block, or that of the routine."""

    ELSEWHERE = "elsewhere"
    BLOCK = "block"
    FRAME = "frame"


class Use(NamedTuple):
    """How the names below a node are used."""

    mode: Mode
    form: Form
    living: Living = Living.ELSEWHERE


READ = Use(Mode.READ, Form.PLAIN)
CALL = Use(Mode.CALL, Form.PLAIN)
TARGET = Use(Mode.WRITE, Form.TARGET)
INNER_TARGET = Use(Mode.WRITE, Form.WALRUS)
UPDATE = Use(Mode.READ_WRITE, Form.TARGET)
INNER_UPDATE = Use(Mode.READ_WRITE, Form.WALRUS)
DELETE = Use(Mode.DELETE, Form.TARGET)
LOOP = Use(Mode.WRITE, Form.LOOP)
PARAMETER = Use(Mode.WRITE, Form.PARAMETER, Living.BLOCK)
CAUGHT = Use(Mode.WRITE, Form.CATCH, Living.BLOCK)
ROUTINE = Use(Mode.WRITE, Form.ROUTINE, Living.BLOCK)
CLASS = Use(Mode.WRITE, Form.CLASS, Living.BLOCK)
FIELD = Use(Mode.WRITE, Form.TARGET, Living.BLOCK)
IMPORT = Use(Mode.WRITE, Form.IMPORT, Living.BLOCK)

LEAF_NODES = frozenset(
    "number true false null regex comment html_comment hash_bang_line string_fragment escape_sequence super "
    "property_identifier private_property_identifier statement_identifier meta_property import optional_chain "
    "debugger_statement empty_statement jsx_text".split()
)
"""The kinds of nodes in which no names stand."""


def declaring(keyword: str, use: Use) -> Use:
    """A use that declares its names with `var`, `let` or `const`."""
    return use._replace(living=Living.FRAME if keyword == "var" else Living.BLOCK)
