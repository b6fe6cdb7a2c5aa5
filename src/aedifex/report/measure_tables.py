"""Figures of a program, as it stands and as a design would have it."""

from __future__ import annotations

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


def before_and_after(before: Measures, after: Measures) -> Table:
    """The figures side by side, and which way is better."""
    shown = table("measure", "before", "after", "better", right=(1, 2))
    rows = (
        ("tight class cohesion", f"{before.tight:.2f}", f"{after.tight:.2f}", "more"),
        ("lack of cohesion (LCOM*)", f"{before.lack:.2f}", f"{after.lack:.2f}", "less"),
        ("other classes that a class uses", f"{before.coupling:.1f}", f"{after.coupling:.1f}", "less"),
        ("largest cyclomatic complexity", str(before.complexity), str(after.complexity), "less"),
        ("lines of main code", str(before.main_lines), str(after.main_lines), "less"),
        ("writable module variables", str(before.variables), str(after.variables), "less"),
    )
    for row in rows:
        shown.add_row(*row)
    return shown
