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
    for facts in survey(built.program):
        found.add_row(_shown(facts.path, built), str(facts.lines), ", ".join(facts.classes) or "-")
    for path, data in built.program.beside.items():
        found.add_row(_shown(path, built), str(data.count(b"\n")), "-")
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


def _shown(path: Path, built: Built) -> str:
    """A file by its place in the script's folder."""
    return path.relative_to(built.program.main.path.parent).as_posix()
