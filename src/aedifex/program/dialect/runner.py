"""How programs of a language are run in a scripted world."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import asdict, dataclass
from pathlib import Path
from typing import Any, Protocol


@dataclass(frozen=True)
class RunPlan:
    """All that a run is told, as a value on both sides: what runs beside the program reads the same fields.

    `script` is the file to run and `folder` its own, `home` where it may write besides; `seed`, `arguments`, `turns`
    and `events` are the scenario's (typed lines come in as standard input); `stand_ins` names modules to replace by
    doubles. What is noted goes to the files `trace`, `lines_file` and `calls_file`, which are open under these numbers,
    0 for one that is not wanted; `classes` are those whose calls are noted. `improvised`
    are the orders of one that makes up what is typed; what he hears goes to `heard_file`. `helpers` are folders of the
    runner's own library that the stage may take parts from. `network` tells whether the program may reach other
    machines. `memory` and `file` are limits in bytes, `seconds` is one of computing, `entries` one of the trace.
    """

    script: str
    folder: str
    home: str
    seed: int
    arguments: tuple[str, ...]
    turns: int
    events: tuple[Mapping[str, Any], ...]
    stand_ins: tuple[str, ...]
    trace: int
    lines_file: int
    calls_file: int
    heard_file: int
    improvised: Mapping[str, Any] | None
    classes: tuple[str, ...]
    helpers: tuple[str, ...]
    network: bool
    memory: int
    file: int
    seconds: int
    entries: int

    def as_json(self) -> dict[str, Any]:
        """As the other side reads it."""
        return asdict(self)


class Runner(Protocol):
    """Starts programs of one language. What runs beside them writes the trace that `verify` reads."""

    def command(self, plan: int) -> Sequence[str]:
        """The command that runs a program by the plan in a file that is open under a number."""
        ...

    def in_browser(self) -> Runner | None:
        """What runs programs of the language in a real browser; None where they are nothing for one."""
        ...

    def helpers(self) -> Sequence[str]:
        """Folders that hold what the stage may need and the program's own interpreter may lack."""
        ...

    def missing_advice(self, library: str) -> str:
        """What to do where a program stops because a library is not installed."""
        ...

    def without_places(self, lines: Iterable[str]) -> Iterator[str | None]:
        """Lines that a program printed, without what they tell of its code; None for one that tells just that."""
        ...

    def environment(self) -> Mapping[str, str]:
        """The variables of the environment that make runs alike."""
        ...

    def left_out(self) -> Sequence[str]:
        """The names, as patterns, of files and folders beside a script that are no part of the program."""
        ...

    def linked(self) -> Sequence[str]:
        """The names of folders, beside a script or above it, that a run finds where they are: installed libraries."""
        ...

    def from_above(self, script: str, folders: Sequence[Path]) -> Sequence[str]:
        """The files above its folder that a script has loaded, itself or by others, as relative names.

        The program is in one of the folders, or partly in several; what is in the last counts.
        """
        ...

    def replay_scripts(self) -> Sequence[Path]:
        """The files that play recorded calls again; the first is run, and reads `aedifex_cases.json` beside it."""
        ...

    def package_mark(self) -> str:
        """The name of the empty file that makes a folder a package."""
        ...

    def watch(self, script: Path, classes: Sequence[str]) -> None:
        """Let a copied script tell the stage what it needs to note the calls of these classes."""
        ...

    def trial(self, root: Path, tests: Path, *, backwards: bool) -> Sequence[str]:
        """The command that runs the tests of a file below a folder, without a stage; it prints what fails as JSON."""
        ...

    def trial_environment(self, number: int) -> Mapping[str, str]:
        """Variables of the environment that make one run of tests unlike another."""
        ...

    def uncovered_advice(self, what: str) -> tuple[str, str]:
        """What to say of a thing that a stand-in does not cover: the reason and the advice."""
        ...
