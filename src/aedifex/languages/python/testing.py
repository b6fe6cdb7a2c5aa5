"""Writing tests for pytest."""

from __future__ import annotations

import ast
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path

from aedifex.program.dialect.testing import Standing, TestedCall, TestedClass, TestedTalk, TestText

_WIDTH = 100
_CONSTRUCTOR = "__init__"


class PythonTesting:
    """Writes tests for pytest."""

    command = "pytest"

    def file_name(self, script: Path) -> str:
        """`test_` and the script's name."""
        return f"test_{script.stem}.py"

    def is_crash(self, ended: str) -> bool:
        """Whether a conversation ends with an error that is neither its end nor a way to leave."""
        return ended not in ("", "EOFError", "SystemExit")

    def write(
        self, script: str, classes: Sequence[TestedClass], talk: TestedTalk | None, standing: Standing
    ) -> TestText:
        """The text of a test file: its imports, a helper for each class, its tests, and the conversation last."""
        blocks = [block for tested in classes for block in _of_class(tested)]
        if talk is not None:
            blocks.append(("", _conversation(talk)))
        is_chance = talk is not None or any(call.played.is_chance for tested in classes for call in tested.calls)
        needed = {"contextlib": talk is not None and bool(talk.ended), "io": talk is not None, "random": is_chance}
        needed |= {"sys": standing.needs_path}
        library = [name for name, is_needed in sorted(needed.items()) if is_needed]
        head = [f'"""What the classes of {script} do, as recorded from runs of it."""', ""]
        head += [f"import {name}" for name in library] + (["from pathlib import Path"] if standing.needs_path else [])
        head += [""] if library else []
        if standing.needs_path:
            head += ["sys.path.insert(0, str(Path(__file__).parent))  # where the modules find one another", ""]
        wanted = {(tested.module, tested.name) for tested in classes}
        wanted |= {(talk.module, "main")} if talk is not None else set()
        inside = f"{standing.package}." if standing.package and not standing.is_bare else ""
        late = "  # noqa: E402" if standing.needs_path else ""
        head += [f"from {inside}{module} import {name}{late}" for module, name in sorted(wanted)]
        tests = {text[4 : text.index("(")]: about for about, text in blocks if text.startswith("def test_")}
        return TestText("\n".join(head) + "\n\n\n" + "\n\n\n".join(text for _, text in blocks) + "\n", tests)


def _of_class(tested: TestedClass) -> Iterator[tuple[str, str]]:
    """The helper that makes an object, then a test of its start and one of each method, each with what it is about."""
    noun = _snake(tested.name)
    helper = f"{'an' if noun[0] in 'aeiou' else 'a'}_{noun}"
    start = ", ".join(f"{key}={_shown(value)}" for key, value in tested.start.items())
    if any(call.fields for call in tested.calls):
        text = (
            f"def {helper}(**fields):\n"
            f'    """A new {tested.name} as the script makes it, with other fields where some are given."""\n'
            f"    {noun} = {tested.name}({start})\n    vars({noun}).update(fields)\n    return {noun}"
        )
    else:
        text = (
            f'def {helper}():\n    """A new {tested.name} as the script makes it."""\n    return {tested.name}({start})'
        )
    yield "", text
    by_method: dict[str, list[TestedCall]] = defaultdict(list)
    for call in tested.calls:
        by_method[call.method].append(call)
    for method, calls in by_method.items():
        if method == _CONSTRUCTOR:
            seed = ["    random.seed(1)"] if calls[0].played.is_chance else []
            lines = [f"def test_{noun}_starts_as_in_the_script():", *seed]
            lines += _assert_fields(f"vars({helper}())", calls[0].played.after)
        else:
            prints = any(call.played.said for call in calls)
            lines = [f"def test_{noun}_{method.strip('_')}({'capsys' if prints else ''}):"]
            for number, call in enumerate(calls):
                lines += [""] if number else []
                lines += _one_call(noun, helper, call, prints)
        yield f"{tested.name}.{method}", "\n".join(lines)


def _one_call(noun: str, helper: str, call: TestedCall, prints: bool) -> list[str]:
    given = ", ".join(f"{key}={_shown(value)}" for key, value in call.given)
    fields = ", ".join(f"{key}={_shown(value)}" for key, value in call.fields.items())
    made, played = f"{noun}.{call.method}({given})", call.played
    lines = [f"    {noun} = {helper}({fields})"]
    if played.is_chance:
        lines.append("    random.seed(1)")
    if played.result == "None":
        lines.append(f"    {made}")
    else:
        lines.append(
            f"    assert {made} {'is' if played.result in ('True', 'False') else '=='} {_shown(played.result)}"
        )
    lines += _assert_fields(f"vars({noun})", played.after)
    if prints:
        lines.append(f"    assert capsys.readouterr().out == {_shown(repr(played.said))}")
    return lines


def _assert_fields(what: str, after: Mapping[str, str]) -> list[str]:
    entries = [f'"{name}": {_shown(value)}' for name, value in after.items()]
    line = f"    assert {what} == {{{', '.join(entries)}}}"
    if len(line) <= _WIDTH:
        return [line]
    return [f"    assert {what} == {{", *(f"        {entry}," for entry in entries), "    }"]


def _conversation(talk: TestedTalk) -> str:
    """The whole program, driven by a text."""
    typed = _packed([_shown(repr(line)) for line in talk.lines])
    lines = ["def test_a_conversation():", f"    random.seed({talk.seed})", "    typed = ["]
    lines += [*(f"        {line}" for line in typed), "    ]"]
    lines += ["    out = io.StringIO()"]
    call = 'main(io.StringIO("".join(f"{line}\\n" for line in typed)), out)'
    if talk.ended:
        over = "  # nothing more is typed" if talk.ended == "EOFError" else ""
        lines += [f"    with contextlib.suppress({talk.ended}):{over}", f"        {call}"]
    else:
        lines.append(f"    {call}")
    lines.append("    assert out.getvalue().splitlines() == [")
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
    """The text of a value with double quotes, where that means the same."""
    doubled = text.replace("'", '"')
    try:
        return doubled if '"' not in text and ast.literal_eval(doubled) == ast.literal_eval(text) else text
    except (ValueError, SyntaxError):
        return text


def _snake(name: str) -> str:
    return "".join(f"_{c.lower()}" if c.isupper() else c for c in name).lstrip("_")
