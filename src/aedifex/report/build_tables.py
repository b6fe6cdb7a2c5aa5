"""What `build` shows when it is done."""

from __future__ import annotations

from collections.abc import Iterator
from pathlib import Path

from rich.console import RenderableType
from rich.text import Text

from aedifex.construction.build import Built
from aedifex.design.document.design import Design
from aedifex.report.layout import counted, listed, table
from aedifex.survey.facts import survey


def build_tables(built: Built, design: Design, folder: Path) -> Iterator[RenderableType]:
    """The files that were written, with the classes in each, and what is meant to change."""
    found = table("file", "lines", "classes", right=(1,))
    root = built.program.main.path.parent
    rows = [(facts.path, str(facts.lines), ", ".join(facts.classes) or "-") for facts in survey(built.program)]
    rows += [(path, str(data.count(b"\n")), "-") for path, data in built.program.beside.items()]
    for path, *figures in rows:
        if path.is_relative_to(root):  # what lies above is read, and stays as it is
            found.add_row(path.relative_to(root).as_posix(), *figures)
    yield found
    for plan in design.data:
        if plan.missing:
            handlers = listed(dict.fromkeys(handler for handler, _ in plan.spots))
            changed = f"a request for what {plan.name} does not have is answered with {plan.missing} in {handlers}"
            yield Text.assemble(("Changed: ", "bold"), f"{changed}, as the design asks; it failed before.")
    steps = counted(len(built.steps), "step")
    yield Text(
        f"{steps}, each checked: every name leads where it should. Written to {folder.resolve().name}.", no_wrap=False
    )
