"""What `demo` tells at each step."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from pathlib import Path

from rich.console import RenderableType
from rich.table import Table
from rich.text import Text

from aedifex.construction.build import Built
from aedifex.design.document.design import Design
from aedifex.report.layout import counted, table
from aedifex.report.verdict import verdict_parts
from aedifex.survey.facts import ModuleFacts
from aedifex.verify.compare import Verdict

_FIGURES: dict[str, Callable[[Sequence[ModuleFacts]], int]] = {
    "files": len,
    "lines of main code": lambda facts: sum(module.main_lines for module in facts),
    "variables at the top level": lambda facts: sum(len(module.variables) for module in facts),
    "functions": lambda facts: sum(1 for m in facts for r in m.routines if "." not in r.name),
    "classes": lambda facts: sum(len(module.classes) for module in facts),
    "longest routine or main code": lambda facts: max(module.longest_routine for module in facts),
}


def after_survey(facts: Sequence[ModuleFacts]) -> Text:
    """What stood in the script."""
    main = facts[0]
    return _step(
        "survey",
        f"{main.path.name} has {counted(len(main.variables), 'variable')} of state, "
        f"{counted(len(main.routines), 'function')} and {counted(main.main_lines, 'line')} of main code.",
    )


def after_draft(design: Design) -> Text:
    """Which classes were found."""
    names = ", ".join(plan.name for plan in [*design.parts, *design.data, *design.bases, *design.all_classes]) or "none"
    return _step("draft", f"classes {names}; {design.owner} owns the rest and runs the program.")


def after_build(built: Built) -> Text:
    """How they were built."""
    moves = [step.name for step in built.steps]
    told = ", ".join(f"{name} x{moves.count(name)}" if moves.count(name) > 1 else name for name in dict.fromkeys(moves))
    return _step("build", f"{counted(len(moves), 'step')} ({told}), every name checked after each.")


def after_verify(
    verdict: Verdict, before: Sequence[ModuleFacts], after: Sequence[ModuleFacts], old: Path, new: Path
) -> Iterator[RenderableType]:
    """Whether it still does the same, and what has become of the script."""
    first, *rest = verdict_parts(verdict, old, new)
    typed = sum(len(scenario.lines) for scenario in verdict.scenarios)
    events = [event.what for scenario in verdict.scenarios for event in scenario.events]
    sent = events.count("request")
    given = counted(sent, "request") if sent else counted(typed, "typed line")
    given = counted(len(events), "event") if events and not sent else given
    yield _step("verify", f"both versions run with {given}.")
    yield first
    yield from rest
    yield _before_and_after(before, after)


def _before_and_after(before: Sequence[ModuleFacts], after: Sequence[ModuleFacts]) -> Table:
    found = table("", "before", "after", right=(1, 2))
    for name, count in _FIGURES.items():
        found.add_row(name, str(count(before)), str(count(after)))
    return found


def _step(name: str, what: str) -> Text:
    return Text.assemble((f"{name:<7}", "bold"), what)
