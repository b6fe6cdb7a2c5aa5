"""The tables of `survey`."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from aedifex.report.layout import counted, listed, table
from aedifex.report.measure_tables import figures
from aedifex.survey.facts import ModuleFacts


def survey_tables(facts: Sequence[ModuleFacts]) -> Iterator[RenderableType]:
    """What `survey` shows of each file: a summary, the state, the routines, the hindrances."""
    for number, module in enumerate(facts):
        if number:
            yield Text()
        yield _summary(module)
        if module.routines:
            yield figures(module.measures)
        if module.whole:
            yield Text(f"{module.whole}() is the whole program: `draft` takes its locals for the state.")
        if module.state:
            yield _state(module)
        if module.kinds:
            yield _kinds(module)
        if module.routines:
            yield _routines(module)
        if module.hindrances:
            yield _hindrances(module)


def _summary(facts: ModuleFacts) -> Text:
    text = Text(str(facts.path), style="bold")
    parts = [
        counted(facts.lines, "line"),
        f"{facts.main_lines} of main code",
        counted(len(facts.variables), "variable"),
        counted(len(facts.state) - len(facts.variables), "constant"),
        counted(len(facts.routines), "routine"),
        counted(len(facts.classes), "class", "classes"),
    ]
    return text.append(": " + ", ".join(parts), style="not bold")


def _state(facts: ModuleFacts) -> Table:
    found = table("state", "line", "read by", "written by", right=(1,), shares=(None, None, 1, 1))
    for fact in facts.state:
        if not fact.constant:
            readers = [*fact.reads, *([fact.elsewhere] if fact.elsewhere else [])]
            found.add_row(fact.name, str(fact.line), listed(readers), listed(fact.writes))
    constants = [fact for fact in facts.state if fact.constant]
    for fact in constants:
        found.add_row(fact.name, str(fact.line), listed(fact.reads), Text("constant", style="dim"))
    return found


def _kinds(facts: ModuleFacts) -> Table:
    found = table("things of one shape", "line", "stored as", "in the way", right=(1,), shares=(2, None, 1, 2))
    for kind in facts.kinds:
        count = f"{kind.count} things: " if kind.count is not None else "several things: "
        at = f" (line {kind.hindrance_line})" if kind.hindrance_line is not None else ""
        found.add_row(count + listed(kind.shape), str(kind.line), kind.store, f"{kind.hindrance}{at}" or "nothing")
    return found


def _routines(facts: ModuleFacts) -> Table:
    found = table("routine", "lines", "reads", "writes", right=(1,), shares=(None, None, 1, 1))
    for routine in facts.routines:
        only_read = [name for name in routine.state_reads if name not in routine.state_writes]
        found.add_row(
            f"{routine.name}({', '.join(routine.parameters)})",
            f"{routine.line}-{routine.end_line}",
            listed(only_read),
            listed(routine.state_writes),
        )
    return found


def _hindrances(facts: ModuleFacts) -> Table:
    found = table("line", "hindrance", "may touch", right=(0,), shares=(None, 2, 1))
    for hindrance in facts.hindrances:
        touches = "everything" if hindrance.touches is None else listed(sorted(hindrance.touches))
        found.add_row(str(hindrance.line), hindrance.reason, touches)
    return found
