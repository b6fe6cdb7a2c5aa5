"""Texts that differ in one number or word, as one f-string."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import takewhile

from aedifex.program.dialect.writer import VaryingText

_PLAIN = re.compile(r"""(?P<quote>["'])(?P<text>[^\\{}"'\n]*)(?P=quote)""")
_START_OF_WORD = re.compile(r"\w*\Z")
_END_OF_WORD = re.compile(r"\A\w*")
_WORD = re.compile(r"[A-Za-z]+")
_NUMBER = re.compile(r"0|[1-9][0-9]*")


def varying_text(literals: Sequence[str]) -> VaryingText | None:
    """How plain texts in the same quotes could be one; None where they differ in more than one number or word."""
    found = [_PLAIN.fullmatch(literal) for literal in literals]
    quotes = {match["quote"] if match is not None else "" for match in found}
    if len(quotes) != 1 or "" in quotes:
        return None
    quote = quotes.pop()
    texts = [match["text"] for match in found if match is not None]
    before = _START_OF_WORD.sub("", _common_start(texts))
    rests = [text[len(before) :] for text in texts]
    behind = _END_OF_WORD.sub("", _common_start([rest[::-1] for rest in rests])[::-1])
    words = [rest[: len(rest) - len(behind)] for rest in rests]
    are_numbers = all(map(_NUMBER.fullmatch, words))
    if not (before or behind) or not (are_numbers or all(map(_WORD.fullmatch, words))):
        return None
    values = words if are_numbers else [f"{quote}{word}{quote}" for word in words]
    return VaryingText(f"f{quote}{before}{{", f"}}{behind}{quote}", tuple(values), are_numbers)


def _common_start(texts: Sequence[str]) -> str:
    """What all texts begin with."""
    return "".join(signs[0] for signs in takewhile(lambda signs: len(set(signs)) == 1, zip(*texts, strict=False)))
