"""What `verify` shows."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from aedifex.report.layout import counted, table
from aedifex.verify.compare import Divergence, Verdict
from aedifex.verify.trace import Entry

_NOTHING = "nothing more"


def verdict_parts(verdict: Verdict, before: Path, after: Path) -> Iterator[RenderableType]:
    """The answer in one line, and the first divergence side by side."""
    runs = counted(len(verdict.scenarios), "scenario")
    if verdict.divergence is None:
        yield Text.assemble(
            ("Same", "bold"), f": {runs}, {counted(verdict.entries, 'trace entry', 'trace entries')} compared."
        )
        return
    divergence = verdict.divergence
    yield Text.assemble(
        ("Different", "bold"),
        f": in scenario {divergence.scenario.name}, after {counted(divergence.index, 'equal entry', 'equal entries')}.",
    )
    yield _side_by_side(divergence, before, after)


def _side_by_side(divergence: Divergence, before: Path, after: Path) -> Table:
    found = table("", f"before: {before.name}", f"after: {after.name}", shares=(None, 1, 1))
    for entry in divergence.leading:
        found.add_row("=", Text(str(entry), style="dim"), Text(str(entry), style="dim"))
    found.add_row("!", _told(divergence.before), _told(divergence.after))
    return found


def _told(entry: Entry | None) -> Text:
    if entry is None:
        return Text(_NOTHING, style="bold")
    text = Text(str(entry), style="bold")
    return text.append(f"\n({entry.where})", style="not bold") if entry.where else text
