"""Figures of a program, as it stands and as a design would have it."""

from __future__ import annotations

from dataclasses import dataclass

from rich.table import Table
from rich.text import Text

from aedifex.report.layout import table
from aedifex.survey.measures import Measures


def figures(found: Measures) -> Text:
    """The figures of a script in a line."""
    return Text(
        f"cohesion {found.tight:.2f} (tight), lack of it {found.lack:.2f}; largest complexity {found.complexity}",
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
        MeasureRow("tight class cohesion", f"{before.tight:.2f}", f"{after.tight:.2f}", "more"),
        MeasureRow("lack of cohesion (LCOM*)", f"{before.lack:.2f}", f"{after.lack:.2f}", "less"),
        MeasureRow("other classes that a class uses", f"{before.coupling:.1f}", f"{after.coupling:.1f}", "less"),
        MeasureRow("largest cyclomatic complexity", str(before.complexity), str(after.complexity), "less"),
        MeasureRow("lines of main code", str(before.main_lines), str(after.main_lines), "less"),
        MeasureRow("writable module variables", str(before.variables), str(after.variables), "less"),
    ]


def before_and_after(before: Measures, after: Measures) -> Table:
    """The figures side by side, and which way is better."""
    shown = table("measure", "before", "after", "better", right=(1, 2))
    for row in measure_rows(before, after):
        shown.add_row(row.name, row.before, row.after, row.better)
    return shown
