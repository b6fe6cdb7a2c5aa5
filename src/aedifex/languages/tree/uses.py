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
    """How the names below a node are used; `living` says where they do in a language that declares its names."""

    mode: Mode
    form: Form
    living: Living = Living.ELSEWHERE


READ = Use(Mode.READ, Form.PLAIN)
CALL = Use(Mode.CALL, Form.PLAIN)
TARGET = Use(Mode.WRITE, Form.TARGET)
INNER_TARGET = Use(Mode.WRITE, Form.WALRUS)
UPDATE = Use(Mode.READ_WRITE, Form.TARGET)
DELETE = Use(Mode.DELETE, Form.TARGET)
LOOP = Use(Mode.WRITE, Form.LOOP)
