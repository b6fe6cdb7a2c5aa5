"""Texts of long lists: what stands in them again and again is written once."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import groupby

_MANY = 6


def text_of_list(texts: Sequence[str], *, is_shared: bool) -> str:
    """The text of a list with elements of such texts; `is_shared` tells that equal elements may be one and the same."""
    parts: list[str] = []
    alone: list[str] = []
    for text, same in groupby(texts):
        count = len(list(same))
        if count < _MANY:
            alone += [text] * count
            continue
        parts += [f"[{', '.join(alone)}]"] if alone else []
        alone = []
        parts.append(f"[{text}] * {count}" if is_shared else f"[{text} for _ in range({count})]")
    parts += [f"[{', '.join(alone)}]"] if alone or not parts else []
    return " + ".join(parts)
