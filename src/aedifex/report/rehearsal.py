"""Noting what a built program does, playing it again with mistakes in it, and choosing what is worth a test."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

from aedifex.program.dialect.dialect import Dialect
from aedifex.report.class_tests import Case, Talk, cases_of, chosen_of, is_good, starts_of, with_seeds
from aedifex.verify.calls import record
from aedifex.verify.replay import Mistake, Replayed, replay
from aedifex.verify.scenarios.scenario import Scenario

_MOST_SAID = 60
_TALKED = 3  # of the first, and of the last
_MOST_MISTAKES = 60
_CHANCE = 7


class Rehearsal:
    """A built script whose calls are recorded and played again.

    `homes` names the module of each class, `around` is the folder of the original; a script that `streams` takes a
    reader and a writer.
    """

    def __init__(
        self, script: Path, around: Path, homes: Mapping[str, str], dialect: Dialect, *, streams: bool
    ) -> None:
        self.script = script
        self.around = around
        self.dialect = dialect
        self.streams = streams
        self.texts = dict(self._texts(homes))
        self.homes = {name: module for name, module in homes.items() if module in self.texts}
        self.cases: list[Case] = []
        self.talks: list[Talk] = []
        self.stand_ins: Sequence[tuple[str, str]] = ()
        self.left_out: dict[str, str] = {}

    def _texts(self, homes: Mapping[str, str]) -> Iterator[tuple[str, str]]:
        """The modules of the classes with their texts, as far as they can be imported without doing anything."""
        for module in sorted({*homes.values()}):
            path = self.script.with_name(f"{module}{self.script.suffix}")
            text = path.read_text(encoding="utf-8") if path.is_file() else ""
            if text and (path != self.script or self.dialect.testing.is_quiet(text)):
                yield module, text

    def record(self, scenarios: Sequence[Scenario]) -> None:
        """Note the calls in some scenarios, and the conversations of those in which something is typed."""
        calls = record(self.script, self.around, self.homes, scenarios, self.dialect.runner)
        self.cases = cases_of(calls, self.homes, self.dialect.rules.constructor)
        typed = [scenario for scenario in scenarios if scenario.lines]
        found = [self._talk(scenario) for scenario in typed[:_TALKED] + typed[_TALKED:][-_TALKED:]]
        self.talks = [talk for talk in found if talk is not None]

    def _talk(self, scenario: Scenario) -> Talk | None:
        """The conversation of a scenario, cut where it would crash, or be long to read."""
        best: Talk | None = None
        good, bad = 0, len(scenario.lines) + 1
        while bad - good > 1:
            middle = (good + bad) // 2
            talk = Talk(self.script.stem, scenario.lines[:middle], scenario.seed, self.streams)
            [answer] = self.play([talk]).answers
            if self.dialect.testing.is_crash(answer["ended"]) or len(answer["said"].splitlines()) > _MOST_SAID:
                bad = middle
            else:
                good, best = middle, talk
        return best

    def play(self, tested: Sequence[Case | Talk], mistakes: Sequence[Mistake] = ()) -> Replayed:
        """Play some of it again."""
        classes = starts_of(self.cases)
        cases = [case.as_json() for case in tested]
        return replay(self.script.parent, self.dialect.runner, [*self.texts], classes, cases, mistakes)

    def chosen(self) -> tuple[list[Case | Talk], list[Mapping[str, Any]]]:
        """What is worth a test, with what comes of it."""
        first = self.play(self.cases)
        cases = with_seeds(self.cases, first.answers)
        tested: list[Case | Talk] = [*cases, *self.talks]
        done = self.play(tested, self.mistakes())
        chosen = chosen_of(tested, done, self.dialect.rules.constructor)
        self.stand_ins = done.stand_ins
        names = {tested[number].name for number in chosen}
        for case, answer in zip(tested, done.answers, strict=True):
            is_in_talk = "" in names and answer.get("asks")
            if case.name and case.name not in names and not is_good(answer) and not is_in_talk:
                self.left_out[case.name] = f"played again, it stops with {answer['failed']}"
        return [tested[number] for number in chosen], [done.answers[number] for number in chosen]

    def mistakes(self) -> list[Mistake]:
        """Texts of modules with a small mistake in each, as many of each module."""
        found = [
            [Mistake(module, *other) for other in self.dialect.testing.mistakes(text, _MOST_MISTAKES, _CHANCE)]
            for module, text in self.texts.items()
        ]
        most = max(map(len, found), default=0)
        return [each[number] for number in range(most) for each in found if number < len(each)]
