"""Tests for built classes, made from what they did in real runs."""

from __future__ import annotations

import ast
import textwrap
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from aedifex.verify.calls import Call

_MOST_CASES = 4
_WIDTH = 100
_CONSTRUCTOR = "__init__"


@dataclass(frozen=True)
class Case:
    """One call to be tested: what it is played with, and the call that it was recorded from."""

    call: Call
    module: str
    start: Mapping[str, str | None]
    fields: Mapping[str, str | None]

    def as_json(self) -> dict[str, Any]:
        """What the replay needs."""
        return {
            "class": self.call.class_name,
            "module": self.module,
            "method": self.call.method,
            "start": self.start,
            "fields": self.fields,
            "given": dict(self.call.given) if self.call.method != _CONSTRUCTOR else {},
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
class Made:
    """The text of the tests, how many there are, and the methods that have none, with the reason."""

    text: str
    count: int
    left_out: list[str] = field(default_factory=list)


def cases_of(calls: Sequence[Call], homes: Mapping[str, str]) -> list[Case]:
    """The calls worth a test: of each method those that ended differently, a few of them.

    `homes` names the module of each class.
    """
    starts = {c.class_name: c for c in calls if c.method == _CONSTRUCTOR and c.is_plain}
    by_method: dict[tuple[str, str], list[Call]] = defaultdict(list)
    for call in calls:
        if call.class_name in starts and call.class_name in homes and call.is_plain:
            by_method[call.class_name, call.method].append(call)
    found = []
    for (name, _), same in by_method.items():
        start = starts[name]
        for call in _telling(same):
            fields = {} if call.method == _CONSTRUCTOR else _other(call.before, start.after)
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
    script: str, cases: Sequence[Case], answers: Sequence[Mapping[str, Any]], talk: Talk | None, said: Mapping[str, Any]
) -> Made:
    """The text of a test file: `answers` are what the replay says of the cases, `said` what it says of the talk."""
    good = [(case, answer) for case, answer in zip(cases, answers, strict=True) if _is_good(answer)]
    tested = {(case.call.class_name, case.call.method) for case, _ in good}
    by_class: dict[str, list[tuple[Case, Mapping[str, Any]]]] = defaultdict(list)
    for case, answer in good:
        by_class[case.call.class_name].append((case, answer))
    blocks = [block for name, own in by_class.items() for block in _of_class(name, own)]
    has_talk = talk is not None and bool(said.get("said"))
    if talk is not None and has_talk:
        blocks.append(_conversation(talk, said))
    count = sum(block.startswith("def test_") for block in blocks)
    by_chance = has_talk or any(answer["by_chance"] for _, answer in good)
    modules = sorted({(case.module, case.call.class_name) for case, _ in good})
    library = [name for name, needed in (("io", has_talk), ("random", by_chance)) if needed]
    head = [f'"""What the classes of {script} do, as recorded from runs of it."""', ""]
    head += [f"import {name}" for name in library] + ([""] if library else [])
    wanted = [*modules, *([(talk.module, "main")] if talk is not None and has_talk else [])]
    head += [f"from {module} import {name}" for module, name in sorted(wanted)]
    left_out = sorted({f"{c.call.class_name}.{c.call.method}" for c in cases} - {".".join(pair) for pair in tested})
    return Made("\n".join(head) + "\n\n\n" + "\n\n\n".join(blocks) + "\n", count, left_out)


def _is_good(answer: Mapping[str, Any]) -> bool:
    return "failed" not in answer and None not in (answer["result"], *answer["after"].values())


def _of_class(name: str, own: Sequence[tuple[Case, Mapping[str, Any]]]) -> Iterator[str]:
    """The helper that makes an object, then a test of its start and one of each method."""
    helper = f"a_{_snake(name)}"
    start = ", ".join(f"{key}={_shown(value)}" for key, value in own[0][0].start.items())
    yield (
        f"def {helper}(**fields):\n"
        f'    """A new {name} as the script makes it, with other fields where some are given."""\n'
        f"    made = {name}({start})\n    vars(made).update(fields)\n    return made"
    )
    by_method: dict[str, list[tuple[Case, Mapping[str, Any]]]] = defaultdict(list)
    for case, answer in own:
        by_method[case.call.method].append((case, answer))
    for method, cases in by_method.items():
        if method == _CONSTRUCTOR:
            lines = [f"def test_{_snake(name)}_starts_as_in_the_script():"]
            lines += _assert_fields(f"vars({helper}())", cases[0][1]["after"])
        else:
            prints = any(answer["said"] for _, answer in cases)
            lines = [f"def test_{_snake(name)}_{method.strip('_')}({'capsys' if prints else ''}):"]
            for number, (case, answer) in enumerate(cases):
                lines += [""] if number else []
                lines += _one_call(helper, case, answer)
        yield "\n".join(lines)


def _one_call(helper: str, case: Case, answer: Mapping[str, Any]) -> list[str]:
    given = ", ".join(f"{key}={_shown(value)}" for key, value in case.call.given)
    fields = ", ".join(f"{key}={_shown(value)}" for key, value in case.fields.items())
    call = f"made.{case.call.method}({given})"
    lines = [f"    made = {helper}({fields})"]
    if answer["by_chance"]:
        lines.append("    random.seed(1)")
    result = answer["result"]
    if result == "None":
        lines.append(f"    {call}")
    else:
        lines.append(f"    assert {call} {'is' if result in ('True', 'False') else '=='} {_shown(result)}")
    lines += _assert_fields("vars(made)", answer["after"])
    if answer["said"]:
        lines.append(f"    assert capsys.readouterr().out == {_shown(repr(answer['said']))}")
    return lines


def _assert_fields(what: str, after: Mapping[str, str]) -> list[str]:
    entries = [f'"{name}": {_shown(value)}' for name, value in after.items()]
    line = f"    assert {what} == {{{', '.join(entries)}}}"
    if len(line) <= _WIDTH:
        return [line]
    return [f"    assert {what} == {{", *(f"        {entry}," for entry in entries), "    }"]


def _conversation(talk: Talk, said: Mapping[str, Any]) -> str:
    """The whole program, driven by a text."""
    typed = textwrap.wrap(", ".join(_shown(repr(line)) for line in talk.lines), _WIDTH - 8, break_long_words=False)
    lines = ["def test_a_conversation():", f"    random.seed({talk.seed})", "    typed = ["]
    lines += [*(f"        {line}" for line in typed), "    ]"]
    lines += ["    out = io.StringIO()"]
    call = 'main(io.StringIO("".join(f"{line}\\n" for line in typed)), out)'
    if said["ended"]:
        lines += ["    try:", f"        {call}", f"    except {said['ended']}:", "        pass"]
    else:
        lines.append(f"    {call}")
    lines.append("    assert out.getvalue().splitlines() == [")
    lines += [f"        {_shown(repr(line))}," for line in said["said"].splitlines()]
    return "\n".join([*lines, "    ]"])


def _shown(text: str | None) -> str:
    """The text of a value with double quotes, where that means the same."""
    assert text is not None
    doubled = text.replace("'", '"')
    try:
        return doubled if '"' not in text and ast.literal_eval(doubled) == ast.literal_eval(text) else text
    except (ValueError, SyntaxError):
        return text


def _snake(name: str) -> str:
    return "".join(f"_{c.lower()}" if c.isupper() else c for c in name).lstrip("_")


def test_file_name(script: Path) -> str:
    """The name of the test file of a script."""
    return f"test_{script.stem}.py"
