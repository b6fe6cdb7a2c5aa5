"""Which recorded calls are worth a test, and the tests that the language writes of them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any

from aedifex.program.dialect.testing import (
    Played,
    Standing,
    TestedCall,
    TestedClass,
    TestedProgram,
    TestedTalk,
    Testing,
)
from aedifex.verify.calls import Call
from aedifex.verify.replay import Replayed

_MOST_CANDIDATES = 12
_MOST_CASES = 6
_MOST_TALKS = 3
_SEEDS = (2, 3, 4, 5)
_MOST_BY_CHANCE = 3
_MOST_ALTERED = 4


@dataclass(frozen=True)
class Case:
    """One call to be tested: what it is played with, and the call that it was recorded from.

    `altered` are other values than the recorded ones, by what has them (see `Testing.borders`).
    """

    call: Call
    module: str
    start: Mapping[str, str | None]
    fields: Mapping[str, str | None]
    seed: int = 1
    altered: Mapping[str, str] = field(default_factory=dict)

    @property
    def name(self) -> str:
        """The method that is tested, by its class."""
        return f"{self.call.class_name}.{self.call.method}"

    def as_json(self) -> dict[str, Any]:
        """What the replay needs."""
        return {
            "class": self.call.class_name,
            "method": self.call.method,
            "fields": self.fields,
            "given": dict(self.call.given),
            "altered": self.altered,
            "returned": self.call.returned,
            "seed": self.seed,
        }


@dataclass(frozen=True)
class Talk:
    """A conversation with the whole program, which takes a reader and a writer if it `streams`."""

    module: str
    lines: tuple[str, ...]
    seed: int
    streams: bool = False

    name = ""

    def as_json(self) -> dict[str, Any]:
        """What the replay needs."""
        return {"module": self.module, "lines": list(self.lines), "seed": self.seed, "streams": self.streams}


@dataclass
class TestFile:
    """The text of the tests, how many there are, and the methods that have none, each with the reason."""

    text: str
    count: int
    left_out: dict[str, str] = field(default_factory=dict)


Fails = Callable[[str], Mapping[str, str]]
"""Runs the text of a test file elsewhere; the tests that fail, each with its error, "" for the whole file."""


def cases_of(calls: Sequence[Call], homes: Mapping[str, str], constructor: str) -> list[Case]:
    """The calls that may be worth a test: of each method those that found or did different things.

    `homes` names the module of each class, `constructor` the method that sets up an object.
    """
    starts: dict[str, Call] = {}
    for call in calls:
        if call.method == constructor and call.is_plain:
            starts.setdefault(call.class_name, call)
    by_method: dict[tuple[str, str], list[Call]] = defaultdict(list)
    for call in calls:
        if call.class_name in starts and call.class_name in homes and call.is_plain:
            by_method[call.class_name, call.method].append(call)
    found = []
    for (name, method), same in by_method.items():
        start = starts[name]
        for call in [start] if method == constructor else _telling(_unlike(same)):
            fields = {} if method == constructor else _other(call.before, start.after)
            found.append(Case(call, homes[name], dict(start.given), fields))
    return sorted(_with_fresh(found), key=lambda case: len("".join(map(str, case.fields.values()))))


def _with_fresh(cases: Sequence[Case]) -> Iterator[Case]:
    """Cases, and what they would be with a new object: that is easier to read."""
    for case in cases:
        yield case
        if case.fields:
            yield replace(case, fields={})


def starts_of(cases: Iterable[Case]) -> dict[str, dict[str, Any]]:
    """For each class of some cases its module, and what a new object is given."""
    return {case.call.class_name: {"module": case.module, "start": case.start} for case in cases}


def at_borders(cases: Sequence[Case], borders: Mapping[str, Sequence[Mapping[str, str]]]) -> list[Case]:
    """Some cases of each method with values at the borders of its conditions, which are given by the method."""
    found: list[Case] = []
    left: dict[str, int] = defaultdict(lambda: _MOST_ALTERED)
    for case in cases:
        if left[case.name]:
            left[case.name] -= 1
            found += [replace(case, altered=altered) for altered in borders.get(case.name, ())]
    return found


def with_seeds(cases: Sequence[Case], answers: Sequence[Mapping[str, Any]]) -> list[Case]:
    """Cases in which chance decides also with other beginnings of it."""
    found = list(cases)
    left: dict[str, int] = defaultdict(lambda: _MOST_BY_CHANCE)
    for case, answer in zip(cases, answers, strict=True):
        if answer.get("by_chance") and left[case.name]:
            left[case.name] -= 1
            found += [replace(case, seed=seed) for seed in _SEEDS]
    return found


def _other(fields: Mapping[str, str | None], start: Mapping[str, str | None]) -> dict[str, str | None]:
    return {name: value for name, value in fields.items() if start.get(name) != value}


def _unlike(calls: Iterable[Call]) -> list[Call]:
    """Calls that are given different things, or find their object in different states."""
    found: dict[object, Call] = {}
    for call in calls:
        found.setdefault((call.given, tuple(sorted(call.before.items())), tuple(call.returned.items())), call)
    return list(found.values())


def _telling(calls: Sequence[Call]) -> list[Call]:
    """The calls that differ most in what they did: the first of each kind, then others."""
    kinds: dict[object, Call] = {}
    for call in calls:
        kinds.setdefault((call.changed, call.result, tuple(call.returned)), call)
    chosen = list(kinds.values())[:_MOST_CANDIDATES]
    spread = calls[:: max(1, len(calls) // _MOST_CANDIDATES)]
    chosen += [call for call in spread if call not in chosen][: _MOST_CANDIDATES - len(chosen)]
    return [call for call in calls if call in chosen]


def chosen_of(tested: Sequence[Case | Talk], done: Replayed, constructor: str) -> list[int]:
    """The numbers of the cases that see the mistakes, a few of each method, and of one case at least of each.

    Constructors come first, for their tests show what the others begin with.
    """
    good = [number for number, answer in enumerate(done.answers) if is_good(answer)]
    chosen: list[int] = []
    counts: dict[str, int] = defaultdict(int)
    for number in [number for number in done.seen if number in good]:
        if counts[tested[number].name] < (_MOST_CASES if tested[number].name else _MOST_TALKS):
            chosen.append(number)
            counts[tested[number].name] += 1
    for number in sorted(good, key=lambda number: not done.answers[number].get("is_telling")):
        if not counts[tested[number].name]:
            chosen.append(number)
            counts[tested[number].name] += 1
    return sorted(chosen, key=lambda number: (not tested[number].name.endswith(f".{constructor}"), number))


def is_good(answer: Mapping[str, Any]) -> bool:
    """Whether a test can be written of what came of a case."""
    return "failed" not in answer and ("said" in answer if "ended" in answer else True)


def class_tests(
    script: str,
    tested: Sequence[Case | Talk],
    answers: Sequence[Mapping[str, Any]],
    testing: Testing,
    standing: Standing,
    fails: Fails,
    stand_ins: Sequence[tuple[str, str]] = (),
    left_out: Mapping[str, str] | None = None,
) -> TestFile:
    """The text of a test file that holds: tests that fail elsewhere are left out.

    `answers` are what the replay says of the cases and the conversations; the modules stand at `standing`.
    `left_out` are methods that have no test, each with the reason.
    """
    good = [(case, answer) for case, answer in zip(tested, answers, strict=True) if is_good(answer)]
    missing = dict(left_out or {})
    while True:
        by_class: dict[str, list[tuple[Case, Played]]] = defaultdict(list)
        talks = []
        for case, answer in good:
            if isinstance(case, Talk):
                talks.append(
                    TestedTalk(case.module, case.streams, case.lines, case.seed, answer["said"], answer["ended"])
                )
            else:
                by_class[case.call.class_name].append((case, _played(answer, case.seed)))
        classes = [_tested(name, own) for name, own in by_class.items()]
        written = testing.write(TestedProgram(script, classes, talks, standing, stand_ins))
        failing = fails(written.text) if written.count else {}
        if not failing:
            return TestFile(written.text, written.count, missing)
        gone = {written.tests[name]: error for name, error in failing.items() if name in written.tests}
        missing |= {name or "the conversation": f"its test does not hold ({error})" for name, error in gone.items()}
        if not gone:  # the file itself cannot be read, so none of it can
            return TestFile("", 0, {**missing, script: f"its tests cannot be run ({next(iter(failing.values()))})"})
        good = [(case, answer) for case, answer in good if case.name not in gone]


def _played(answer: Mapping[str, Any], seed: int) -> Played:
    """What came of a call that was played again."""
    return Played(
        answer["result"],
        answer["after"],
        answer["said"],
        answer["by_chance"],
        seed,
        answer["changed"],
        answer["inner"],
        answer["calls"],
        answer["call_count"],
        answer["greets"],
        answer.get("waits", False),
    )


def _tested(name: str, own: Sequence[tuple[Case, Played]]) -> TestedClass:
    first = own[0][0]
    calls = tuple(
        TestedCall(
            case.call.method,
            tuple((name, case.altered.get(name, value)) for name, value in _plain(case.call.given)),
            dict(_plain(case.fields.items())) | _of_object(case.altered, depth=1),
            played,
            dict(_plain(case.call.returned.items())),
            _of_object(case.altered, depth=2),
        )
        for case, played in sorted(own, key=lambda each: bool(each[0].call.returned))
    )
    return TestedClass(name, first.module, dict(_plain(first.start.items())), calls)


def _of_object(altered: Mapping[str, str], depth: int) -> dict[str, str]:
    """The values of an object's fields, or those of the things in its fields."""
    return {way[1:]: value for way, value in altered.items() if way.count(".") == depth}


def _plain(values: Iterable[tuple[str, str | None]]) -> tuple[tuple[str, str], ...]:
    """Values of plain calls, which are texts all."""
    return tuple((name, value) for name, value in values if value is not None)
