"""Texts that are written out in JavaScript."""

from __future__ import annotations

import re

_PLAIN = re.compile(r"""(?P<mark>['"`])(?P<inside>(?:\\['"`\\nt]|(?!\\|(?P=mark)|\$\{)[^\r])*)(?P=mark)""", re.DOTALL)
_ESCAPED = re.compile(r"\\(.)", re.DOTALL)
_MEANT = {"n": "\n", "t": "\t"}


def text_value(literal: str) -> str | None:
    """What a plain text says that is written out; None for one with rarer escapes, or that shows a value."""
    found = _PLAIN.fullmatch(literal)
    if found is None or (found["mark"] != "`" and "\n" in found["inside"]):
        return None
    return _ESCAPED.sub(lambda escaped: _MEANT.get(escaped[1], escaped[1]), found["inside"])
