"""Which recorded calls are worth a test, and the tests that the language writes of them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from aedifex.program.dialect.testing import Played, Standing, TestedCall, TestedClass, TestedTalk, Testing
from aedifex.verify.calls import Call

_MOST_CASES = 4


@dataclass(frozen=True)
class Case:
    """One call to be tested: what it is played with, and the call that it was recorded from."""

    call: Call
    module: str
    start: Mapping[str, str | None]
    fields: Mapping[str, str | None]

    @property
    def name(self) -> str:
        """The method that is tested, by its class."""
        return f"{self.call.class_name}.{self.call.method}"

    def as_json(self, constructor: str) -> dict[str, Any]:
        """What the replay needs."""
        return {
            "class": self.call.class_name,
            "module": self.module,
            "method": self.call.method,
            "start": self.start,
            "fields": self.fields,
            "given": dict(self.call.given) if self.call.method != constructor else {},
        }


@dataclass(frozen=True)
class Talk:
    """A conversation with the whole program."""

    module: str
    lines: tuple[str, ...]
    seed: int

    def as_json(self) -> dict[str, Any]:
        """What the replay needs."""
        return {"module": self.module, "lines": list(self.lines), "seed": self.seed}


@dataclass
class TestFile:
    """The text of the tests, how many there are, and the methods that have none, each with the reason."""

    text: str
    count: int
    left_out: dict[str, str] = field(default_factory=dict)


Fails = Callable[[str], Mapping[str, str]]
"""Runs the text of a test file elsewhere; the tests that fail, each with its error, "" for the whole file."""


def cases_of(calls: Sequence[Call], homes: Mapping[str, str], constructor: str) -> list[Case]:
    """The calls worth a test: of each method those that ended differently, a few of them.

    `homes` names the module of each class, `constructor` the method that sets up an object.
    """
    starts = {c.class_name: c for c in calls if c.method == constructor and c.is_plain}
    by_method: dict[tuple[str, str], list[Call]] = defaultdict(list)
    for call in calls:
        if call.class_name in starts and call.class_name in homes and call.is_plain:
            by_method[call.class_name, call.method].append(call)
    found = []
    for (name, _), same in by_method.items():
        start = starts[name]
        for call in _telling(_unlike(same)):
            fields = {} if call.method == constructor else _other(call.before, start.after)
            found.append(Case(call, homes[name], dict(start.given), fields))
    return found


def _other(fields: Mapping[str, str | None], start: Mapping[str, str | None]) -> dict[str, str | None]:
    return {name: value for name, value in fields.items() if start.get(name) != value}


def _unlike(calls: Iterable[Call]) -> list[Call]:
    """Calls that are given different things, or find their object in different states."""
    found: dict[object, Call] = {}
    for call in calls:
        found.setdefault((call.given, tuple(sorted(call.before.items()))), call)
    return list(found.values())


def _telling(calls: Sequence[Call]) -> list[Call]:
    """The calls that differ most in what they did: the first of each kind, then others."""
    kinds: dict[object, Call] = {}
    for call in calls:
        kinds.setdefault((call.changed, call.result), call)
    chosen = list(kinds.values())[:_MOST_CASES]
    spread = calls[:: max(1, len(calls) // _MOST_CASES)]
    chosen += [call for call in spread if call not in chosen][: _MOST_CASES - len(chosen)]
    return [call for call in calls if call in chosen]


def class_tests(
    script: str,
    cases: Sequence[Case],
    answers: Sequence[Mapping[str, Any]],
    talk: Talk | None,
    said: Mapping[str, Any],
    testing: Testing,
    standing: Standing,
    fails: Fails,
) -> TestFile:
    """The text of a test file that holds: tests that fail elsewhere are left out.

    `answers` are what the replay says of the cases, `said` what it says of the talk; the modules stand at `standing`.
    """
    good = [(case, played) for case, a in zip(cases, answers, strict=True) if (played := _played(a)) is not None]
    tested = {case.name for case, _ in good}
    left_out = {case.name: "played again, it does not do the same" for case in cases if case.name not in tested}
    conversation = None
    if talk is not None and said.get("said"):
        conversation = TestedTalk(talk.module, talk.lines, talk.seed, said["said"], said["ended"])
    while True:
        by_class: dict[str, list[tuple[Case, Played]]] = defaultdict(list)
        for case, played in good:
            by_class[case.call.class_name].append((case, played))
        classes = [_tested(name, own) for name, own in by_class.items()]
        written = testing.write(script, classes, conversation, standing)
        failing = fails(written.text) if written.count else {}
        if not failing:
            return TestFile(written.text, written.count, left_out)
        gone = {written.tests[name]: error for name, error in failing.items() if name in written.tests}
        left_out |= {name or "the conversation": f"its test does not hold ({error})" for name, error in gone.items()}
        if not gone:  # the file itself cannot be read, so none of it can
            return TestFile("", 0, {**left_out, script: f"its tests cannot be run ({next(iter(failing.values()))})"})
        good = [(case, played) for case, played in good if case.name not in gone]
        conversation = None if "" in gone else conversation


def _played(answer: Mapping[str, Any]) -> Played | None:
    """What came of a call that was played again; None where that cannot be written down."""
    if "failed" in answer or None in (answer["result"], *answer["after"].values()):
        return None
    return Played(answer["result"], answer["after"], answer["said"], answer["by_chance"])


def _tested(name: str, own: Sequence[tuple[Case, Played]]) -> TestedClass:
    first = own[0][0]
    calls = tuple(
        TestedCall(case.call.method, _plain(case.call.given), dict(_plain(case.fields.items())), played)
        for case, played in own
    )
    return TestedClass(name, first.module, dict(_plain(first.start.items())), calls)


def _plain(values: Iterable[tuple[str, str | None]]) -> tuple[tuple[str, str], ...]:
    """Values of plain calls, which are texts all."""
    return tuple((name, value) for name, value in values if value is not None)
