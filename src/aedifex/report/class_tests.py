"""Which recorded calls are worth a test, and the tests that the language writes of them."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from aedifex.program.dialect.testing import Played, TestedCall, TestedClass, TestedTalk, Testing
from aedifex.verify.calls import Call

_MOST_CASES = 4


@dataclass(frozen=True)
class Case:
    """One call to be tested: what it is played with, and the call that it was recorded from."""

    call: Call
    module: str
    start: Mapping[str, str | None]
    fields: Mapping[str, str | None]

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
    """The text of the tests, how many there are, and the methods that have none, with the reason."""

    text: str
    count: int
    left_out: list[str] = field(default_factory=list)


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
        for call in _telling(same):
            fields = {} if call.method == constructor else _other(call.before, start.after)
            found.append(Case(call, homes[name], dict(start.given), fields))
    return found


def _other(fields: Mapping[str, str | None], start: Mapping[str, str | None]) -> dict[str, str | None]:
    return {name: value for name, value in fields.items() if start.get(name) != value}


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
) -> TestFile:
    """The text of a test file: `answers` are what the replay says of the cases, `said` what it says of the talk."""
    good = [(case, played) for case, a in zip(cases, answers, strict=True) if (played := _played(a)) is not None]
    by_class: dict[str, list[tuple[Case, Played]]] = defaultdict(list)
    for case, played in good:
        by_class[case.call.class_name].append((case, played))
    classes = [_tested(name, own) for name, own in by_class.items()]
    conversation = None
    if talk is not None and said.get("said"):
        conversation = TestedTalk(talk.module, talk.lines, talk.seed, said["said"], said["ended"])
    written = testing.write(script, classes, conversation)
    tested = {(case.call.class_name, case.call.method) for case, _ in good}
    left_out = sorted({f"{c.call.class_name}.{c.call.method}" for c in cases} - {".".join(pair) for pair in tested})
    return TestFile(written.text, written.count, left_out)


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
