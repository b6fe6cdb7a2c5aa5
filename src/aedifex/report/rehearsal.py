"""Noting what a built program does, playing it again with mistakes in it, and choosing what is worth a test."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from dataclasses import replace
from pathlib import Path
from typing import Any

from aedifex.program.dialect.dialect import Dialect
from aedifex.report.class_tests import Case, Talk, at_borders, cases_of, chosen_of, is_good, starts_of, with_seeds
from aedifex.report.conversations import answers_in, shortened
from aedifex.source.errors import RunError
from aedifex.source.text import SourceText
from aedifex.verify.calls import record
from aedifex.verify.replay import Mistake, Replayed, replay
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario

_MOST_SAID = (30, 60)
_TALKED = 4  # of the first, and of the last
_FEW = 8
_MOST_MISTAKES = 150
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
        self.texts = dict(self._texts())
        self.homes = {name: module for name, module in homes.items() if module in self.texts}
        self.cases: list[Case] = []
        self.talks: list[Talk] = []
        self.stand_ins: Sequence[tuple[str, str]] = ()
        self.left_out: dict[str, str] = {}

    def _texts(self) -> Iterator[tuple[str, str]]:
        """The built modules with their texts, as far as they can be imported without doing anything."""
        for path in sorted(self.script.parent.glob(f"*{self.script.suffix}")):
            text = SourceText.read(path).data.decode("utf-8")
            if path != self.script or self.dialect.testing.is_quiet(text):
                yield self.dialect.testing.module_name(path), text

    def record(self, scenarios: Sequence[Scenario]) -> None:
        """Note the calls in some scenarios, and the conversations of those in which something is typed."""
        calls = record(self.script, self.around, self.homes, scenarios, self.dialect.runner)
        self.cases = cases_of(calls, self.homes, self.dialect.rules.constructor)
        typed = [scenario for scenario in scenarios if scenario.lines]
        self.talks = self._talks([self._shortened(s) for s in typed[:_TALKED] + typed[_TALKED:][-_TALKED:]])

    def _shortened(self, scenario: Scenario) -> Scenario:
        """A scenario in which less is typed that tells nothing new."""

        def answers_of(lines: Sequence[str]) -> Sequence[str]:
            played = replace(scenario, lines=tuple(lines))
            return answers_in(run(self.script, played, self.dialect.runner, around=self.around).trace.entries)

        with suppress(RunError):
            return replace(scenario, lines=shortened(scenario.lines, answers_of))
        return scenario

    def _talks(self, scenarios: Sequence[Scenario]) -> list[Talk]:
        """The conversations of some scenarios, cut where they would crash, or be long to read; the short ones first."""
        module = self.dialect.testing.module_name(self.script)
        begun = [
            [Talk(module, scenario.lines[:count], scenario.seed, self.streams) for count in _cuts(scenario)]
            for scenario in scenarios
        ]
        played = [talk for talks in begun for talk in talks]
        lengths = {
            talk: len(answer["said"].splitlines())
            for talk, answer in zip(played, self.play(played).answers, strict=False)
            if not self.dialect.testing.is_crash(answer["ended"])
        }
        found: list[Talk] = []
        for talks in begun:
            for most in _MOST_SAID:
                found += [talk for talk in talks if talk in lengths and lengths[talk] <= most][-1:]
        return sorted(dict.fromkeys(found), key=lambda talk: len(talk.lines))

    def play(self, tested: Sequence[Case | Talk], mistakes: Sequence[Mistake] = ()) -> Replayed:
        """Play some of it again."""
        classes = starts_of(self.cases)
        cases = [case.as_json() for case in tested]
        return replay(self.script.parent, self.dialect.runner, [*self.texts], classes, cases, mistakes)

    def chosen(self) -> tuple[list[Case | Talk], list[Mapping[str, Any]]]:
        """What is worth a test, with what comes of it."""
        cases = [*self.cases, *at_borders(self.cases, self.borders())]
        answered = zip(cases, self.play(cases).answers, strict=True)
        known = [(case, answer) for case, answer in answered if not case.altered or is_good(answer)]
        cases = with_seeds([case for case, _ in known], [answer for _, answer in known])
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

    def borders(self) -> dict[str, Sequence[Mapping[str, str]]]:
        """For each method values at the borders of its conditions."""
        return {
            name: tried for text in self.texts.values() for name, tried in self.dialect.testing.borders(text).items()
        }

    def mistakes(self) -> list[Mistake]:
        """Texts of modules with a small mistake in each, as many of each module."""
        found = [
            [
                Mistake(module, mutant.routine, mutant.text)
                for mutant in self.dialect.testing.mutants(text, _MOST_MISTAKES, _CHANCE)
            ]
            for module, text in self.texts.items()
        ]
        most = max(map(len, found), default=0)
        return [each[number] for number in range(most) for each in found if number < len(each)]


def _cuts(scenario: Scenario) -> list[int]:
    """After how many lines a conversation may be cut: more and more of them, and all."""
    count, cuts = len(scenario.lines), list(range(1, _FEW))
    while (cut := cuts[-1] * 5 // 4) < count:
        cuts.append(cut)
    return [*(cut for cut in cuts if cut < count), count]
