"""Recorded calls: what methods were given in real runs, and what they did."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from aedifex.program.dialect.runner import Runner
from aedifex.verify.running.run import Options, run
from aedifex.verify.scenarios.scenario import Scenario


@dataclass(frozen=True)
class Call:
    """One call of a method. Values are texts that make them anew, None where no text can.

    `before` and `after` are the object's fields; `given` the arguments by name, in order; `returned` what libraries
    answered, by their functions.
    """

    class_name: str
    method: str
    given: tuple[tuple[str, str | None], ...]
    result: str | None
    before: Mapping[str, str | None]
    after: Mapping[str, str | None]
    returned: Mapping[str, str | None] = field(default_factory=dict)

    @classmethod
    def of(cls, found: Mapping[str, Any]) -> Call:
        """From what the stage wrote down."""
        given = tuple((name, value) for name, value in found["given"])
        returned = found.get("returned", {})
        return cls(found["class"], found["method"], given, found["result"], found["before"], found["after"], returned)

    @property
    def is_plain(self) -> bool:
        """Whether texts can hold all that it was given and found."""
        values = [*self.before.values(), *(value for _, value in self.given), *self.returned.values()]
        return all(value is not None for value in values)

    @property
    def changed(self) -> frozenset[str]:
        """The fields that it left otherwise than it found them."""
        return frozenset(name for name, value in self.after.items() if self.before.get(name) != value)


def record(
    script: Path, around: Path, classes: Iterable[str], scenarios: Iterable[Scenario], runner: Runner
) -> list[Call]:
    """Run a built script in some scenarios and record the calls of its classes' methods.

    Raises:
        RunError: the script could not be run to its end.
    """
    options = Options(watch_classes=tuple(classes))
    found: list[Call] = []
    for scenario in scenarios:
        found += map(Call.of, run(script, scenario, runner, options=options, around=around).calls)
    return found
