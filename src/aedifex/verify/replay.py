"""Playing recorded cases again on the built classes, in a child process of their own."""

from __future__ import annotations

import json
import shutil
import tempfile
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any

from aedifex.program.dialect.runner import Runner
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario

_CASES = "aedifex_cases.json"


@dataclass(frozen=True)
class Replayed:
    """What came of cases that were played again.

    Of each case the result, the fields and what it asked of others, or how it failed. `seen` are the numbers of some
    cases that together see the mistakes: each sees one that none before it does. `stand_ins` are the dotted names of
    what was replaced, each with the name under which its calls were noted.
    """

    answers: Sequence[Mapping[str, Any]] = ()
    seen: Sequence[int] = ()
    stand_ins: Sequence[tuple[str, str]] = ()


@dataclass(frozen=True)
class Mistake:
    """Another text of a module, with a mistake in a routine, or in none."""

    module: str
    routine: str
    text: str


def replay(
    built: Path,
    runner: Runner,
    modules: Sequence[str],
    classes: Mapping[str, Mapping[str, Any]],
    cases: Sequence[Mapping[str, Any]],
    mistakes: Sequence[Mistake] = (),
) -> Replayed:
    """Play cases on the built `modules`, and those about a mistake once more with each.

    `classes` says of each in which module it is and what a new object is given.

    Raises:
        RunError: they could not be played.
    """
    if not cases:
        return Replayed()
    orders = {"modules": modules, "classes": classes, "cases": cases, "mistakes": [*map(asdict, mistakes)]}
    with tempfile.TemporaryDirectory(prefix="aedifex-replay-") as work:
        script, *_ = [shutil.copy(path, work) for path in runner.replay_scripts()]
        Path(work, _CASES).write_text(json.dumps(orders), encoding="utf-8")
        done = run(Path(script), Scenario(), runner, around=built)
    said = "".join(entry.text for entry in done.trace.entries if entry.kind == "out").strip()
    if not said:
        return Replayed()
    found = json.loads(said.splitlines()[-1])
    stand_ins = [(target, name) for target, name in found["stand_ins"]]
    return Replayed(found["answers"], found["seen"], stand_ins)
