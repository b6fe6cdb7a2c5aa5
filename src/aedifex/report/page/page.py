"""One self-contained page that shows a script before and after, for those who look rather than read."""

from __future__ import annotations

import base64
from collections.abc import Sequence
from dataclasses import dataclass, fields, is_dataclass
from functools import cache
from pathlib import Path
from typing import Any, cast

from aedifex.construction.build import Built
from aedifex.design.document.design import Design, MethodPlan
from aedifex.moves.kit.move import Move
from aedifex.moves.registry import descriptions
from aedifex.program.model.names import MAIN
from aedifex.report.measure_tables import measure_rows
from aedifex.report.page.code import listings
from aedifex.survey.measures import Measures
from aedifex.verify.compare import Verdict


@dataclass(frozen=True)
class Step:
    """One move of the build, in words, with the textbook's term for it."""

    name: str
    what: str
    term: str


@dataclass(frozen=True)
class ReportFacts:
    """All that the page shows. `classes` and `usage` are pictures in SVG; `verdict` is None where nothing was run."""

    built: Built
    design: Design
    before: Measures
    after: Measures
    verdict: Verdict | None
    classes: bytes
    usage: bytes


def report_page(facts: ReportFacts) -> str:
    """The page as one HTML text that fetches nothing."""
    from jinja2 import Environment, PackageLoader

    environment = Environment(
        loader=PackageLoader("aedifex.report.page", "templates"), autoescape=True, trim_blocks=True, lstrip_blocks=True
    )
    before, after = listings(facts.built.program)
    return environment.get_template("report.html.j2").render(
        script=facts.built.program.origin.main.path.name,
        design=facts.design,
        verdict=facts.verdict,
        seen=_seen(facts.verdict),
        then=facts.before,
        now=facts.after,
        measures=measure_rows(facts.before, facts.after),
        steps=[_step(move) for move in facts.built.steps],
        before=before,
        after=after,
        files=len(after),
        pictures=(
            ("Who reads and writes what", facts.usage, "The variables of the script against its functions"),
            ("The classes", facts.classes, "The script as one box, and the classes that it becomes"),
        ),
        data_url=_data_url,
        origin=_origin,
    )


def _data_url(picture: bytes) -> str:
    return f"data:image/svg+xml;base64,{base64.b64encode(picture).decode()}"


def _origin(method: MethodPlan) -> str:
    """Which lines a method was made of, in words."""
    assert method.lines is not None
    first, last = method.lines
    lines = f"line {first}" if first == last else f"lines {first} to {last}"
    return f"{lines} of {'the main code' if method.routine == MAIN else method.routine}"


def _seen(verdict: Verdict | None) -> list[tuple[str, str, list[int]]]:
    """For each file of the script the share of its lines that ran, and those that never did."""
    if verdict is None:
        return []
    return [(name, f"{lines.share:.0%}", sorted(lines.missing)) for name, lines in sorted(verdict.lines.items())]


@cache
def _terms() -> dict[str, str]:
    return {description.name: description.term for description in descriptions()}


def _step(move: Move) -> Step:
    """A move by its name and what it was given."""
    shown = []
    for name in (field.name for field in fields(cast(Any, move))):
        value = getattr(move, name)
        if isinstance(value, Path) or value in (None, "", (), frozenset()):
            continue
        shown.append(f"{name.replace('_', ' ')} {_words(value)}")
    return Step(move.name, "; ".join(shown), _terms().get(move.name, ""))


def _words(value: object) -> str:
    if isinstance(value, frozenset):
        return f"{len(value)} names"
    if isinstance(value, Sequence) and not isinstance(value, str):
        return ", ".join(_words(item) for item in value)
    if is_dataclass(value):
        parts = [getattr(value, field.name) for field in fields(value)]
        return " as ".join(
            str(part.name if isinstance(part, Path) else part) for part in parts if isinstance(part, str | Path)
        )
    return str(value)
