"""The common look of all tables."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from rich import box
from rich.table import Table

_MOST_LISTED = 12


def table(*headings: str, right: Sequence[int] = (), shares: Sequence[int | None] = ()) -> Table:
    """An empty table: a rule below the headings, no other lines.

    `right` numbers the columns to set flush right; `shares` says how the columns divide what width is left.
    """
    found = Table(box=box.SIMPLE_HEAD, pad_edge=False, header_style="bold", expand=any(shares))
    for number, heading in enumerate(headings):
        share = shares[number] if number < len(shares) else None
        found.add_column(
            heading,
            justify="right" if number in right else "left",
            overflow="fold",
            ratio=share,
        )
    return found


def counted(number: int, noun: str, plural: str | None = None) -> str:
    """A number and its noun."""
    return f"{number} {noun if number == 1 else plural or noun + 's'}"


def listed(names: Iterable[str]) -> str:
    """Names in a row; a dash for none."""
    all_names = list(names)
    shown = ", ".join(all_names[:_MOST_LISTED])
    left = len(all_names) - _MOST_LISTED
    return (f"{shown} and {left} more" if left > 0 else shown) or "-"
