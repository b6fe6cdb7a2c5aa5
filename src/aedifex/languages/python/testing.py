"""Writing tests for pytest."""

from __future__ import annotations

import ast
import io
import re
import tokenize
from collections import defaultdict
from collections.abc import Collection, Iterator, Mapping, Sequence
from itertools import pairwise
from pathlib import Path

from aedifex.languages.python.borders import borders_of
from aedifex.languages.python.mistakes import mutants_of
from aedifex.program.dialect.asserted import (
    calls_by_method,
    fields_to_assert,
    is_known,
    known_fields,
    moving_fields,
    shows_all,
)
from aedifex.program.dialect.testing import (
    Mutant,
    Played,
    TestedCall,
    TestedClass,
    TestedProgram,
    TestedTalk,
    TestText,
)
from aedifex.program.model.module import Module

_WIDTH = 100
_TALKS = ("a_conversation", "another_conversation", "a_third_conversation")
_MOCKS = ("ANY", "MagicMock", "call", "patch")
_NEW = re.compile(r"\ba_new_(\w+)\(")
_CONSTRUCTOR = "__init__"


class PythonTesting:
    """Writes tests for pytest."""

    command = "pytest"

    def beside(self, script: Path) -> PythonTesting:
        """The same for every project."""
        return self

    def file_name(self, script: Path) -> str:
        """`test_` and the script's name."""
        return f"test_{script.stem}.py"

    def module_name(self, path: Path) -> str:
        """The name that is imported."""
        return path.stem

    def why_not(self, script: Module) -> str:
        """All classes can be imported."""
        return ""

    def is_crash(self, ended: str) -> bool:
        """Whether a conversation ends with an error that is neither its end nor a way to leave."""
        return ended not in ("", "EOFError", "SystemExit")

    def is_quiet(self, text: str) -> bool:
        """Whether all that a script does stands behind a check of its name."""
        return "__name__" in text

    def mutants(
        self, text: str, count: int, seed: int, lines: frozenset[int] | None = None, *, has_routes: bool = False
    ) -> Sequence[Mutant]:
        """Changed numbers, swapped branches, dropped calls and the like."""
        return mutants_of(text, count, seed, lines, has_routes=has_routes)

    def borders(self, text: str) -> Mapping[str, Sequence[Mapping[str, str]]]:
        """What the methods compare with, and what is beside it."""
        return borders_of(text)

    def write(self, tested: TestedProgram) -> TestText:
        """The text of a test file: imports, stand-ins, a helper and the tests of each class, the conversations last."""
        standing = tested.standing
        inside = f"{standing.package}." if standing.package and not standing.is_bare else ""
        blocks = [block for each in tested.classes for block in _of_class(each)]
        blocks += [("", _conversation(talk, name, inside)) for talk, name in zip(tested.talks, _TALKS, strict=False)]
        body = "\n\n\n".join(text for _, text in blocks)
        if "outside." in body:
            own = {each.module for each in tested.classes}
            body = f"{_stand_ins(tested.stand_ins, own, inside)}\n\n\n{body}"
        head = [f'"""What the classes of {tested.script} do, as recorded from runs of it."""', ""]
        library = [name for name in ("contextlib", "io", "random", "runpy") if f"{name}." in body]
        head += [f"import {name}" for name in sorted([*library, *(["sys"] if standing.needs_path else [])])]
        head += ["from collections import defaultdict"] if "defaultdict(" in body else []
        head += ["from pathlib import Path"] if standing.needs_path else []
        mocks = [name for name in _MOCKS if re.search(rf"\b{name}\b", body)]
        head += [f"from unittest.mock import {', '.join(mocks)}"] if mocks else []
        head += [""] if len(head) > 2 else []
        if re.search(r"(?<!\")\bpygame\.", body):
            head += [
                "import pygame",
                *(["from pygame.event import Event"] if " Event(" in body or "[Event(" in body else []),
                "",
            ]
        if standing.needs_path:
            head += ["sys.path.insert(0, str(Path(__file__).parent))  # where the modules find one another", ""]
        wanted: dict[str, set[str]] = defaultdict(set)
        for each in tested.classes:
            wanted[each.module].add(each.name)
        for talk in tested.talks:
            wanted[talk.module] |= {"main"} if talk.streams else set()
        late = "  # noqa: E402" if standing.needs_path else ""
        head += [
            f"from {inside}{module} import {', '.join(sorted(names))}{late}"
            for module, names in sorted(wanted.items())
            if names
        ]
        tests = {text[4 : text.index("(")]: about for about, text in blocks if text.startswith("def test_")}
        gap = "\n\n" if body.startswith("outside") else "\n\n\n"
        return TestText("\n".join(head) + gap + body + "\n", tests)


def _stand_ins(found: Sequence[tuple[str, str]], own: Collection[str], inside: str) -> str:
    """What stands in for parts of libraries, and for objects of theirs; its calls are noted."""
    lines = ["outside = MagicMock()"]
    named = [(f"{inside}{target}" if target.partition(".")[0] in own else target, name) for target, name in found]
    if named:
        lines += ["stand_ins = [", *(f'    patch("{target}", outside.{name}),' for target, name in named), "]"]
    lines += [
        "",
        "",
        "def asked():",
        '    """What was asked of `outside`, but for what Python asks: whether it is true, or equal to something."""',
        '    return [each for each in outside.mock_calls if "__" not in each[0]]',
        "",
        "",
        "def setup_function():",
    ]
    if not named:
        return "\n".join(
            [*lines, '    """Forget what was asked of `outside`."""', "    outside.reset_mock(return_value=True)"]
        )
    lines += [
        '    """Put `outside` in place of what would show, play or wait; it notes what is asked of it."""',
        "    outside.reset_mock(return_value=True)",
        "    for stand_in in stand_ins:",
        "        stand_in.start()",
        "",
        "",
        "def teardown_function():",
        '    """Take it away."""',
        "    patch.stopall()",
    ]
    return "\n".join(lines)


def _of_class(tested: TestedClass) -> Iterator[tuple[str, str]]:
    """The helper that makes an object, then a test of its start and one of each method, each with what it is about."""
    noun = _snake(tested.name)
    start = ", ".join(f"{key}={_shown(value)}" for key, value in tested.start.items())
    moving = moving_fields(tested)
    uses_outside = any("outside." in text for call in tested.calls for text in _texts_of(call))
    yield "", "\n".join(_helper(tested.name, start, forgets=uses_outside))
    for method, calls in calls_by_method(tested).items():
        prints = any(call.played.said for call in calls)
        capsys = "capsys" if prints else ""
        if method == _CONSTRUCTOR:
            outcome = _start(noun, tested.name, start, calls[0])
            if not any(line.startswith("    assert ") for line in outcome):
                continue
            lines = [f"def test_{noun}_starts_as_in_the_script({capsys}):", *outcome]
        else:
            lines = [f"def test_{noun}_{method.strip('_')}({capsys}):"]
            for number, call in enumerate(calls):
                lines += [""] if number else []
                lines += _one_call(noun, call, prints, moving)
        yield f"{tested.name}.{method}", "\n".join(lines)


def _texts_of(call: TestedCall) -> Iterator[str]:
    yield from call.fields.values()
    yield from (value for _, value in call.given)
    yield from ("outside." for _ in (*call.played.calls, *call.returned))


def _helper(name: str, start: str, *, forgets: bool) -> list[str]:
    noun = _snake(name)
    lines = [
        f"def {_helper_of(noun)}(**fields):",
        f'    """A new {name} as the script makes it, with other fields where some are given."""',
        *_fitted(4, f"{noun} = {name}({start})"),
        f"    vars({noun}).update(fields)",
    ]
    return [*lines, *(["    outside.reset_mock()"] if forgets else []), f"    return {noun}"]


def _helper_of(noun: str) -> str:
    return f"{'an' if noun[0] in 'aeiou' else 'a'}_{noun}"


def _start(noun: str, name: str, start: str, call: TestedCall) -> list[str]:
    lines = ["    random.seed(1)"] if call.played.is_chance else []
    lines += _fitted(4, f"{noun} = {name}({start})")
    return [*lines, *_outcome(noun, call.played), *(_said(call.played.said) if call.played.said else [])]


def _one_call(noun: str, call: TestedCall, prints: bool, moving: Collection[str]) -> list[str]:
    given = ", ".join(f"{key}={_shown(value)}" for key, value in call.given)
    fields = ", ".join(f"{key}={_shown(value)}" for key, value in call.fields.items())
    made, played = f"{noun}.{call.method}({given})", call.played
    lines = _fitted(4, f"{noun} = {_helper_of(noun)}({fields})")
    for way, text in call.inner.items():
        lines += _fitted(4, f"{noun}.{way} = {_shown(text)}")
    if prints and played.greets:
        lines.append("    capsys.readouterr()  # what is said while it is made")
    for name, text in call.returned.items():
        lines += _fitted(4, f"outside.{name}.return_value = {_shown(text)}")
    if played.is_chance:
        lines.append(f"    random.seed({played.seed})")
    answers = played.result != "None" and is_known(played.result)
    lines += _fitted(4, f"assert {made} {_same(played.result)}" if answers else made)
    outcome = _outcome(noun, played, moving)
    said = _said(played.said) if prints else []
    return [*lines, *outcome, *said, *([] if outcome or said or answers else _unchanged(noun, played))]


def _said(text: str) -> list[str]:
    """What is asserted of what was printed, on a line of its own for each line where that is more than fits."""
    line = f"    assert capsys.readouterr().out == {_shown(repr(text))}"
    parts = text.splitlines(keepends=True)
    if len(line) <= _WIDTH or len(parts) < 2:
        return [line]
    shown = [f"        {_shown(repr(part))}" for part in parts]
    return ["    assert capsys.readouterr().out == (", *shown, "    )"]


def _outcome(noun: str, played: Played, moving: Collection[str] = ()) -> list[str]:
    """What is asserted after a call: fields, those of objects inside, and what was asked of libraries.

    Where there are many fields, those that changed; where none did, those that are `moving` otherwise.
    """
    lines: list[str] = []
    if played.calls:
        calls = ", ".join(_shown(text).replace("{}.", f"{noun}.") for text in played.calls)
        if played.call_count > len(played.calls):
            lines.append(f"    assert len(asked()) == {played.call_count}")
            lines += _fitted(4, f"assert asked()[:{len(played.calls)}] == [{calls}]")
        else:
            lines += _fitted(4, f"assert asked() == [{calls}]")
    for way, text in played.inner.items():
        lines += _fitted(4, f"assert {way.replace('{}', noun)} == {_shown(text)}")
    if shows_all(played):
        return [*_fitted(4, f"assert vars({noun}) == {_dict(known_fields(played))}"), *lines]
    for name, text in fields_to_assert(played, moving).items():
        lines += _fitted(4, f"assert {noun}.{name} {_same(text)}")
    return lines


def _unchanged(noun: str, played: Played) -> list[str]:
    """What is asserted after a call that shows nothing: all fields that can be told."""
    shown = [f"assert {noun}.{name} {_same(text)}" for name, text in known_fields(played).items()]
    return [line for text in shown for line in _fitted(4, text)]


def _same(text: str) -> str:
    return f"{'is' if text in ('None', 'True', 'False') else '=='} {_shown(text)}"


def _dict(texts: Mapping[str, str]) -> str:
    return "{" + ", ".join(f'"{name}": {_shown(text)}' for name, text in texts.items()) + "}"


def _fitted(indent: int, text: str) -> list[str]:
    """A line; where it is too long, what stands in its last pair of brackets goes to lines of its own."""
    line = " " * indent + text
    if len(line) <= _WIDTH or text[-1] not in ")]}":
        return [line]
    opening, commas = _last_brackets(text)
    if opening < 0 or not text[opening + 1 : -1] or _is_comprehension(text[opening:]):
        return [line]
    cuts = [opening, *commas, len(text) - 1]
    items = [text[start + 1 : end].strip() for start, end in pairwise(cuts)]
    inner = [each for item in items if item for each in _fitted(indent + 4, f"{item}")]
    inner = [each if each.rstrip()[-1] in "([{," else f"{each}," for each in inner]
    return [line[: indent + opening + 1], *inner, " " * indent + text[-1]]


def _is_comprehension(text: str) -> bool:
    try:
        return isinstance(ast.parse(text, mode="eval").body, ast.ListComp | ast.GeneratorExp)
    except SyntaxError:
        return False


def _last_brackets(text: str) -> tuple[int, list[int]]:
    """Where the pair of brackets opens that ends a text, and the commas right in it; -1 where that is not plain."""
    try:
        tokens = [t for t in tokenize.generate_tokens(io.StringIO(text).readline) if t.type == tokenize.OP]
    except (tokenize.TokenError, SyntaxError):
        return -1, []
    stack: list[tuple[int, list[int]]] = []
    found: tuple[int, list[int]] = (-1, [])
    for token in tokens:
        at = token.start[1]
        if token.string in "([{":
            stack.append((at, []))
        elif token.string in ")]}" and stack:
            found = stack.pop()
        elif token.string == "," and stack:
            stack[-1][1].append(at)
    return found


def _conversation(talk: TestedTalk, name: str, inside: str) -> str:
    """The whole program, driven by a text."""
    typed = _packed([_shown(repr(line)) for line in talk.lines])
    lines = [f"def test_{name}({'' if talk.streams else 'capsys'}):", f"    random.seed({talk.seed})", "    typed = ["]
    lines += [*(f"        {line}" for line in typed), "    ]"]
    text = 'io.StringIO("".join(f"{line}\\n" for line in typed))'
    if talk.streams:
        call, around = f"main({text}, out)", []
        lines += ["    out = io.StringIO()"]
    else:
        call = f'runpy.run_module("{inside}{talk.module}", run_name="__main__")'
        around = [f'patch("sys.stdin", {text})']
    around += [f"contextlib.suppress({talk.ended})"] if talk.ended else []
    over = "  # nothing more is typed" if talk.ended == "EOFError" else ""
    lines += [f"    with {', '.join(around)}:{over}", f"        {call}"] if around else [f"    {call}"]
    said = "out.getvalue()" if talk.streams else "capsys.readouterr().out"
    lines.append(f"    assert {said}.splitlines() == [")
    lines += [f"        {_shown(repr(line))}," for line in talk.said.splitlines()]
    return "\n".join([*lines, "    ]"])


def _packed(items: Sequence[str]) -> list[str]:
    """Lines that hold as many items as there is room for, each followed by a comma."""
    lines: list[str] = []
    for item in items:
        if lines and len(lines[-1]) + len(item) + 2 <= _WIDTH - 8:
            lines[-1] += f" {item},"
        else:
            lines.append(f"{item},")
    return lines


def _shown(text: str) -> str:
    """The text of a value with double quotes, where that means the same, and with the helpers that make objects."""
    text = _NEW.sub(lambda match: f"{_helper_of(_snake(match[1]))}(", text)
    doubled = text.replace("'", '"')
    try:
        is_same = '"' not in text and ast.dump(ast.parse(doubled)) == ast.dump(ast.parse(text))
    except (ValueError, SyntaxError):
        return text
    return doubled if is_same else text


def _snake(name: str) -> str:
    return "".join(f"_{c.lower()}" if c.isupper() else c for c in name).lstrip("_")
