"""What `history` shows."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rich.console import RenderableType
from rich.text import Text

from aedifex.report.layout import listed, table
from aedifex.source.history import Entry


def history_tables(entries: Sequence[Entry]) -> Iterator[RenderableType]:
    """One row for each change, and a word on those that were taken back."""
    if not entries:
        yield Text("Nothing was changed in place here.")
        return
    found = table("number", "when (UTC)", "what", "files", right=(0,), shares=(None, None, 2, 3))
    for entry in entries:
        when = entry.when.replace("T", " ").removesuffix("+00:00")
        state = "interrupted" if entry.state.is_under_way else "taken back" if entry.undone else ""
        what = f"{entry.what} ({state})" if state else entry.what
        found.add_row(str(entry.number), when, what, listed(changed.path for changed in entry.files))
    yield found
