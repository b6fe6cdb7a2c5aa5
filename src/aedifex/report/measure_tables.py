"""Figures of a program, as it stands and as a design would have it."""

from __future__ import annotations

from dataclasses import dataclass

from rich.table import Table
from rich.text import Text

from aedifex.report.layout import counted, table
from aedifex.survey.measures import Measures


def figures(found: Measures) -> Text:
    """The figures of a script in a line."""
    return Text(
        f"cohesion {_share(found.tight)} (tight), lack of it {_share(found.lack)}; "
        f"largest complexity {found.complexity}, longest routine {counted(found.longest, 'line')}",
        style="dim",
    )


@dataclass(frozen=True)
class MeasureRow:
    """One measure before and after, and which way is better."""

    name: str
    before: str
    after: str
    better: str


def measure_rows(before: Measures, after: Measures) -> list[MeasureRow]:
    """The measures of a script, and of the classes that it becomes."""
    return [
        MeasureRow("tight class cohesion", _share(before.tight), _share(after.tight), "more"),
        MeasureRow("lack of cohesion (LCOM*)", _share(before.lack), _share(after.lack), "less"),
        MeasureRow("other classes that a class uses", f"{before.coupling:.1f}", f"{after.coupling:.1f}", "less"),
        MeasureRow("largest cyclomatic complexity", str(before.complexity), str(after.complexity), "less"),
        MeasureRow("lines of the longest routine", str(before.longest), str(after.longest), "less"),
        MeasureRow("lines of main code", str(before.main_lines), str(after.main_lines), "less"),
        MeasureRow("writable module variables", str(before.variables), str(after.variables), "less"),
    ]


def _share(found: float | None) -> str:
    """A share in figures; a dash where there is nothing to tell it from."""
    return f"{found:.2f}" if found is not None else "-"


def before_and_after(before: Measures, after: Measures) -> Table:
    """The figures side by side, and which way is better."""
    shown = table("measure", "before", "after", "better", right=(1, 2))
    for row in measure_rows(before, after):
        shown.add_row(row.name, row.before, row.after, row.better)
    return shown
