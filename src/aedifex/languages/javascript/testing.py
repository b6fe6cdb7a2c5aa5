"""Writing tests for the runner that Node brings along, or the one that the package names."""

from __future__ import annotations

import json
import re
from collections.abc import Collection, Iterator, Mapping, Sequence
from functools import cache
from itertools import pairwise
from pathlib import Path

from tree_sitter import Node

from aedifex.languages.javascript.borders import borders_of
from aedifex.languages.javascript.library.names import FILE_ITSELF
from aedifex.languages.javascript.mistakes import mutants_of
from aedifex.languages.javascript.page_code import code_of
from aedifex.languages.javascript.reader.grammar import GRAMMAR
from aedifex.languages.javascript.reader.shapes import FUNCTIONS
from aedifex.languages.javascript.sharing import MODULE_SUFFIX, is_in_module_package
from aedifex.languages.javascript.test_runners import NODE, TestRunner, runner_beside
from aedifex.program.dialect.asserted import (
    calls_by_method,
    fields_to_assert,
    is_known,
    known_fields,
    moving_fields,
    shows_all,
)
from aedifex.program.dialect.testing import Mutant, Played, TestedCall, TestedClass, TestedProgram, TestedTalk, TestText
from aedifex.program.model.module import Module

_HERE = Path(__file__).parent / "replay"
_WIDTH = 100
_CARRIED_OUT_LATER = FUNCTIONS | {"function_declaration", "generator_function_declaration", "method_definition"}
_CONSTRUCTOR = "constructor"
_TALKS = ("a conversation", "another conversation", "a third conversation")
_NEEDED = re.compile(r'^const \{ ([\w, ]+) \} = require\("([^"]+)"\);\n', re.MULTILINE)
_OUTSIDE = re.compile(r"\boutside\.(\w+)")
_SIMPLE = re.compile(r'-?[\d.]+(?:e[-+]?\d+)?|"(?:[^"\\]|\\.)*"|true|false|null|undefined|NaN|-?Infinity')
_RESET = (
    "/** Forget what was asked, and let what is outside be as it is at first. */",
    "function reset() {",
    "  forget();",
)
_HEARD = """\
/** What is printed from now on, until the test is over. */
function heard(t) {
  const texts = [];
  t.mock.method(process.stdout, "write", (text) => texts.push(text) > 0);
  return () => texts.splice(0).join("");
}"""
_TALK = """\
/** What the whole program says when these lines are typed. */
function saidTo(lines) {
  const input = lines.map((line) => `${line}\\n`).join("");
  return spawnSync(process.execPath, [file], { input, encoding: "utf8" }).stdout;
}"""


class JavaScriptTesting:
    """Writes tests for one runner, Node's own if no other is given."""

    def __init__(self, runner: TestRunner = NODE) -> None:
        self.runner = runner
        self.command = runner.command

    def beside(self, script: Path) -> JavaScriptTesting:
        """For the runner that the package of a script names."""
        return JavaScriptTesting(runner_beside(script))

    def file_name(self, script: Path) -> str:
        """The script's name and `.test.js`, by which runners find it; another ending where that is a module and this is
        none, or the other way round.
        """
        is_module = script.suffix == MODULE_SUFFIX or is_in_module_package(script)
        other = "mjs" if self.runner.as_module else "cjs"
        return f"{script.stem}.test.{'js' if is_module == self.runner.as_module else other}"

    def module_name(self, path: Path) -> str:
        """The name of the file: several sorts of files hold scripts."""
        return path.name

    def why_not(self, script: Module) -> str:
        """Tests load a module as they load a script: it must not wait, nor ask where it stands."""
        root = GRAMMAR.parse(code_of(script.source)).root_node
        if any(node.type == "await_expression" for node in _outside_of_functions(root)):
            return "tests of a module that waits while it is loaded are not written"
        is_asking = FILE_ITSELF in script.outside.symbols
        return f"tests of a module that asks for `{FILE_ITSELF}` are not written" if is_asking else ""

    def is_crash(self, ended: str) -> bool:
        """Whether a conversation ends with an error, or chance decides in it."""
        return ended != ""

    def is_quiet(self, text: str) -> bool:
        """Scripts are loaded without the line that starts them, and with stand-ins for what they would show."""
        return True

    def mutants(
        self, text: str, count: int, seed: int, lines: frozenset[int] | None = None, *, has_routes: bool = False
    ) -> Sequence[Mutant]:
        """Changed numbers, swapped branches, dropped calls and the like."""
        return mutants_of(text, count, seed, lines, has_routes=has_routes)

    def borders(self, text: str) -> Mapping[str, Sequence[Mapping[str, str]]]:
        """What the methods compare with, and what is beside it."""
        return borders_of(text)

    def write(self, tested: TestedProgram) -> TestText:
        """What loads the classes and stands in for others, then the tests, conversations last."""
        told = "\n".join(text for each in tested.classes for text in _texts(each))
        tests = [test for each in tested.classes for test in _of_class(each, dict(tested.stand_ins), told)]
        tests += [(_TALKS[n], "", _conversation(talk, _TALKS[n])) for n, talk in enumerate(tested.talks[: len(_TALKS)])]
        body = "\n\n".join(text for _, _, text in tests)
        head = _head(tested, body, self.runner)
        about = {name: method for name, method, _ in tests if name}
        return TestText(f"{head}\n\n{body}\n", about)


def _outside_of_functions(node: Node) -> Iterator[Node]:
    for child in node.named_children:
        if child.type not in _CARRIED_OUT_LATER:
            yield child
            yield from _outside_of_functions(child)


def _head(tested: TestedProgram, body: str, runner: TestRunner) -> str:
    """All that stands above the tests."""
    names = [each.name for each in tested.classes]
    known = {name: value for name, value in tested.stand_ins if value}
    others = dict.fromkeys(name for name, value in tested.stand_ins if not value)
    others |= dict.fromkeys(name for name in _OUTSIDE.findall(body) if name not in known)
    needed = {"node:path": {"join"}}
    parts = [runner.before] if runner.before else []
    setting = [f"const file = {_placed(tested.script)};"] if "saidTo(" in body else []
    if names:
        parts += [_piece("stand_ins.cjs"), _piece("loading.cjs")]
        if runner.console:
            known["console"] = runner.console
            needed["node:console"] = {"Console"}
        made = [f"{name}: standIn({json.dumps(name)})" for name in sorted(others)]
        made += [f"{name}: {value}" for name, value in sorted(known.items())]
        setting += ["const outside = {};", "", *_RESET, *_put(made), "}", "", "reset();"]
        listed = ", ".join(f"[{_placed(module)}]: [{inside}]" for module, inside in _by_module(tested).items())
        setting += _fitted(0, f"const {{ {', '.join(names)} }} = classesOf({{ {listed} }}, outside);")
        setting += ["", "beforeEach(reset);"]
    if "dice(" in body:
        parts.append(_piece("chance.cjs"))
    if "heard(t)" in body:
        parts.append(_HEARD)
    if "saidTo(" in body:
        parts.append(_TALK)
        needed["node:child_process"] = {"spawnSync"}
    text = "\n\n".join(parts)
    for found, module in _NEEDED.findall(text):
        if not module.startswith("."):
            needed.setdefault(module, set()).update(found.split(", "))
    text = re.sub(r"\n{3,}", "\n\n", _NEEDED.sub("", text)).strip()
    if runner.module:
        needed[runner.module] = {name for name in runner.names if name != "beforeEach" or names}
    lines = [
        *runner.heading(f"// What the classes of {tested.script} do, as noted in runs of it."),
        *runner.taking(needed),
    ]
    return "\n".join([*lines, "", *([text, ""] if text else []), *setting])


def _put(values: Sequence[str]) -> list[str]:
    return _fitted(2, f"Object.assign(outside, {{ {', '.join(values)} }});") if values else []


def _placed(file: str) -> str:
    return f"join(__dirname, {json.dumps(file)})"


def _by_module(tested: TestedProgram) -> dict[str, str]:
    """The names of the classes by the file that they are in, as texts: the script comes first."""
    modules = sorted({each.module for each in tested.classes}, key=lambda module: (module != tested.script, module))
    return {m: ", ".join(json.dumps(each.name) for each in tested.classes if each.module == m) for m in modules}


@cache
def _piece(name: str) -> str:
    """What tests share with the replay of calls, as it stands in their file."""
    text = (_HERE / name).read_text(encoding="utf-8")
    return text[: text.index("\nmodule.exports")].removeprefix('"use strict";\n').strip()


def _of_class(tested: TestedClass, values: Mapping[str, str], told: str) -> Iterator[tuple[str, str, str]]:
    """The function that makes an object, then a test of its start and one of each method: names, methods, texts."""
    noun, start = _noun(tested.name), ", ".join(tested.start.values())
    moving = moving_fields(tested)
    methods = calls_by_method(tested)
    if set(methods) - {_CONSTRUCTOR} or re.search(rf"\b{_maker(tested.name)}\(", told):
        yield "", "", "\n".join(_helper(tested.name, noun, start))
    for method, calls in methods.items():
        prints = any(call.played.said for call in calls)
        if method == _CONSTRUCTOR:
            name, lines = f"a new {tested.name}", _start(noun, tested.name, start, calls[0])
        else:
            name, lines = f"{tested.name}.{method}", ["  const said = heard(t);"] if prints else []
            word = "let" if len(calls) > 1 else "const"
            for number, call in enumerate(calls):
                lines += [""] if number else []
                made = "" if number else f"{word} "
                lines += _one_call(f"{made}{noun} = {_maker(tested.name)}", noun, call, prints, moving, values)
        if not any("assert." in line for line in lines):
            continue  # all that it does is private
        given = "t" if any(re.search(r"\bt\b[.)]", line) for line in lines) else ""
        waits = "async " if any(call.played.waits for call in calls) else ""
        yield name, f"{tested.name}.{method}", "\n".join([f'test("{name}", {waits}({given}) => {{', *lines, "});"])


def _texts(tested: TestedClass) -> Iterator[str]:
    for call in tested.calls:
        yield from call.fields.values()
        yield from (value for _, value in call.given)


def _helper(name: str, noun: str, start: str) -> list[str]:
    made = f"Object.assign(new {name}({start}), fields)"
    return [
        f"/** A new {name} as the script makes it, with other fields where some are given. */",
        f"function {_maker(name)}(fields) {{",
        *_fitted(2, f"const {noun} = {made};"),
        "  asked.length = 0;",
        f"  return {noun};",
        "}",
    ]


def _start(noun: str, name: str, start: str, call: TestedCall) -> list[str]:
    lines = ['  t.mock.method(Math, "random", dice(1));'] if call.played.is_chance else []
    lines += ["  const said = heard(t);"] if call.played.said else []
    lines += _fitted(2, f"const {noun} = new {name}({start});")
    return [*lines, *_outcome(noun, call.played), *(_said(call.played.said) if call.played.said else [])]


def _one_call(
    making: str, noun: str, call: TestedCall, prints: bool, moving: Collection[str], values: Mapping[str, str]
) -> list[str]:
    """One call: what is set before it, the call, and what came of it."""
    given = ", ".join(value for _, value in call.given)
    fields = ", ".join(f"{key}: {value}" for key, value in call.fields.items())
    played = call.played
    made = f"{'await ' if played.waits else ''}{noun}.{call.method}({given})"
    lines = _fitted(2, f"{making}({f'{{ {fields} }}' if fields else ''});")
    for way, text in call.inner.items():
        lines += _fitted(2, f"{noun}.{way} = {text};")
    for way, text in call.returned.items():
        lines += _fitted(2, f"outside.{way} = {text};") if values.get(way) != text and way in values else []
    if prints and played.greets:
        lines.append("  said(); // while it is made")
    if played.is_chance:
        lines.append(f'  t.mock.method(Math, "random", dice({played.seed}));')
    answers = played.result != "undefined" and is_known(played.result)
    found, result = (
        (f"{{ ...({made}) }}" if played.waits else f"{{ ...{made} }}", played.result[3:])
        if played.result.startswith("...")
        else (made, played.result)
    )
    lines += _fitted(2, _equal(found, result) if answers else f"{made};")
    outcome = _outcome(noun, played, moving) if played.changed or not answers else []
    said = _said(played.said) if prints else []
    return [*lines, *outcome, *said, *([] if outcome or said or answers else _unchanged(noun, played))]


def _outcome(noun: str, played: Played, moving: Collection[str] = ()) -> list[str]:
    """What is asserted after a call: fields, those of objects inside, and what was asked of others."""
    lines: list[str] = []
    if played.calls:
        calls = ", ".join(json.dumps(text, ensure_ascii=False) for text in played.calls)
        some = f"asked.slice(0, {len(played.calls)})" if played.call_count > len(played.calls) else "asked"
        if some != "asked":
            lines.append(f"  assert.equal(asked.length, {played.call_count});")
        lines += _fitted(2, f"assert.deepEqual({some}, [{calls}]);")
    for way, text in played.inner.items():
        lines += _fitted(2, f"assert.deepEqual({way.replace('{}', noun)}, {text});")
    if shows_all(played):
        shown = ", ".join(f"{name}: {text}" for name, text in known_fields(played).items())
        if not shown:
            return lines
        return [*_fitted(2, f"assert.deepEqual({{ ...{noun} }}, {{ {shown} }});"), *lines]
    for name, text in fields_to_assert(played, moving).items():
        lines += _fitted(2, _equal(f"{noun}.{name}", text))
    return lines


def _unchanged(noun: str, played: Played) -> list[str]:
    """What is asserted after a call that shows nothing: all fields that can be told."""
    shown = [_equal(f"{noun}.{name}", text) for name, text in known_fields(played).items()]
    return [line for text in shown for line in _fitted(2, text)]


def _equal(found: str, text: str) -> str:
    return f"assert.{'equal' if _SIMPLE.fullmatch(text) else 'deepEqual'}({found}, {text});"


def _said(text: str) -> list[str]:
    """What is asserted of what was printed, on a line of its own for each line where that is more than fits."""
    line = f"  assert.equal(said(), {json.dumps(text, ensure_ascii=False)});"
    parts = text.splitlines(keepends=True)
    if len(line) <= _WIDTH or len(parts) < 2:
        return [line]
    shown = [json.dumps(part, ensure_ascii=False) for part in parts]
    return ["  assert.equal(", "    said(),", *(f"    {part} +" for part in shown[:-1]), f"    {shown[-1]}", "  );"]


def _conversation(talk: TestedTalk, name: str) -> str:
    """The whole program, driven by a text."""
    typed = ", ".join(json.dumps(line, ensure_ascii=False) for line in talk.lines)
    said = ", ".join(json.dumps(line, ensure_ascii=False) for line in talk.said.split("\n"))
    lines = [f'test("{name}", () => {{', *_fitted(2, f"const typed = [{typed}];")]
    return "\n".join([*lines, *_fitted(2, f'assert.deepEqual(saidTo(typed).split("\\n"), [{said}]);'), "});"])


def _fitted(indent: int, text: str) -> list[str]:
    """A line; where it is too long, what stands in its last brackets goes to lines of its own, the innermost first."""
    line = " " * indent + text
    if len(line) <= _WIDTH:
        return [line]
    opening, closing, commas = _brackets(text)
    if opening < 0 or not text[opening + 1 : closing].strip():
        return [line]
    last = (commas or [opening])[-1] + 1
    if text[closing - 1] in "]}":
        inner_opening, inner_closing, inner_commas = _brackets(text[last:closing])
        if inner_closing + 1 == closing - last and indent + last + inner_opening < _WIDTH:
            opening, closing, commas = last + inner_opening, closing - 1, [last + each for each in inner_commas]
    cuts = [opening, *commas, closing]
    items = [text[start + 1 : end].strip() for start, end in pairwise(cuts)]
    inner = [each for item in items if item for each in _fitted(indent + 2, f"{item},")]
    return [line[: indent + opening + 1], *inner, " " * indent + text[closing:]]


def _brackets(text: str) -> tuple[int, int, list[int]]:
    """Where the last pair of brackets that holds most of a text opens and closes, and the commas right in it."""
    stack: list[tuple[int, list[int]]] = []
    found: tuple[int, int, list[int]] = (-1, -1, [])
    mark, at = "", 0
    while at < len(text):
        sign = text[at]
        if mark:
            at += sign == "\\"
            mark = "" if sign == mark else mark
        elif sign in "\"'`":
            mark = sign
        elif sign in "([{":
            stack.append((at, []))
        elif sign in ")]}" and stack:
            opening, commas = stack.pop()
            if not stack and at - opening >= found[1] - found[0]:
                found = (opening, at, commas)
        elif sign == "," and stack:
            stack[-1][1].append(at)
        at += 1
    return found


def _maker(name: str) -> str:
    return f"{'an' if name[0] in 'AEIOU' else 'a'}{name}"


def _noun(name: str) -> str:
    return name[:1].lower() + name[1:]
