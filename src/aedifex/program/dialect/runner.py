"""How programs of a language are run in a scripted world."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any, Protocol


@dataclass(frozen=True)
class RunPlan:
    """All that a run is told, as a value on both sides: what runs beside the program reads the same fields.

    `script` is the file to run and `folder` its own; `seed`, `arguments`, `lines`, `turns` and `events` are the
    scenario's; `stand_ins` names modules to replace by doubles. What is noted goes to the files `trace`, `lines_file`
    and `calls_file`, the last two only where they are named; `classes` are those whose calls are noted. `memory` and
    `file` are limits in bytes, `seconds` is one in real time, `entries` one of the trace.
    """

    script: str
    folder: str
    seed: int
    arguments: tuple[str, ...]
    lines: tuple[str, ...]
    turns: int
    events: tuple[Mapping[str, Any], ...]
    stand_ins: tuple[str, ...]
    trace: str
    lines_file: str
    calls_file: str
    classes: tuple[str, ...]
    memory: int
    file: int
    seconds: int
    entries: int

    def as_json(self) -> dict[str, Any]:
        """As the other side reads it."""
        return asdict(self)


class Runner(Protocol):
    """Starts programs of one language. What runs beside them writes the trace that `verify` reads."""

    def command(self, plan: Path) -> Sequence[str]:
        """The command that runs a program by the plan in a file."""
        ...

    def environment(self) -> Mapping[str, str]:
        """The variables of the environment that make runs alike."""
        ...

    def left_out(self) -> Sequence[str]:
        """The names, as patterns, of files and folders beside a script that are no part of the program."""
        ...

    def replay_script(self) -> Path:
        """The script that plays recorded calls again; it reads them from the file `aedifex_cases.json` beside it."""
        ...

    def uncovered_advice(self, what: str) -> tuple[str, str]:
        """What to say of a thing that a stand-in does not cover: the reason and the advice."""
        ...
