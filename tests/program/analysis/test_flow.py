"""Liveness against running programs: poisoning a name that is not live must not be seen."""

from __future__ import annotations

import contextlib
import io
import random

import pytest

from aedifex.program.analysis.flow import Flow, leaves, reads, writes
from aedifex.program.model.statements import Leave
from tests.support.helpers import module_of

NAMES = ["a", "b", "c"]


def body(chance: random.Random, depth: int, in_loop: bool) -> list[str]:
    lines: list[str] = []
    for _ in range(chance.randint(1, 3)):
        one, two = chance.choice(NAMES), chance.choice(NAMES)
        form = chance.randrange(11 if depth < 3 else 5)
        inner = lambda loop=in_loop: [f"    {line}" for line in body(chance, depth + 1, loop)]  # noqa: E731
        if form == 0:
            lines.append(f"{one} = {two} + 1")
        elif form == 1:
            lines.append(f"{one} = 7")
        elif form == 2:
            lines.append(f"print({one})")
        elif form == 3:
            lines.append(f"{one} += {two}")
        elif form == 4:
            lines.append(chance.choice(["break", "continue"]) if in_loop else f"{one}, {two} = {two}, 3")
        elif form == 5:
            lines += [f"if {one} > {two}:", *inner(), "else:", *inner()]
        elif form == 6:
            lines += [f"if {one} % 2:", *inner()]
        elif form == 7:
            lines += [f"for {one} in range(2):", *inner(True), "else:", *inner()]
        elif form == 8:
            lines += ["try:", *inner(), f"    print(1 // ({one} % 2))", "except ZeroDivisionError:", *inner()]
        elif form == 9:
            lines += ["try:", *inner(False), "finally:", f"    print({one})"]
        else:
            lines += [f"g = lambda: {one}", "print(g())"]
    return lines


def script(seed: int) -> str:
    chance = random.Random(seed)
    lines = [
        "def f(a, b, c):",
        *(f"    {line}" for line in body(chance, 0, False)),
        f"    return {chance.choice(NAMES)}",
    ]
    return "\n".join([*lines, "for n in range(3):", "    print(f(n, n + 1, n * 2))"]) + "\n"


def outcome(text: str) -> str:
    out = io.StringIO()
    with contextlib.redirect_stdout(out):
        try:
            exec(compile(text, "x.py", "exec"), {})
        except Exception as error:
            print(type(error).__name__)
    return out.getvalue()


@pytest.mark.parametrize("seed", range(150))
def test_a_name_that_is_not_live_may_hold_anything(seed):
    text = script(seed)
    expected = outcome(text)
    module = module_of(text)
    routine = module.function("f")
    flow = Flow(module, routine)
    data = module.source.data
    for statement in routine.body.walk():
        live = {symbol.name for symbol in flow.live_before(statement)}
        for name in NAMES:
            if name not in live:
                at = module.source.line_start(statement.start)
                margin = data[at : statement.start].decode()
                poisoned = data[:at].decode() + f"{margin}{name} = None\n" + data[at:].decode()
                assert outcome(poisoned) == expected, (name, module.source.line_of(statement.start), text)


def test_not_everything_is_live():
    module = module_of("def f(a, b):\n    a = 1\n    print(a)\n    return b\n")
    routine = module.function("f")
    flow = Flow(module, routine)
    first, second, third = routine.body.statements
    assert {s.name for s in flow.live_before(first) if s.scope is routine.scope} == {"b"}
    assert {s.name for s in flow.inputs([first, second])} == set()
    assert {s.name for s in flow.outputs([first])} == {"a"}
    assert {s.name for s in flow.outputs([first, second])} == set()
    assert {s.name for s in flow.inputs([third])} == {"b"}


def test_how_control_leaves():
    module = module_of(
        """
        def f(a):
            for x in a:
                if x:
                    break
                else:
                    continue
            while a:
                return 1
            else:
                raise ValueError
            def g():
                yield 1
        """
    )
    loop, other, inner = module.function("f").body.statements
    assert leaves([loop]) == set()
    assert leaves(loop.blocks[0].statements) == {Leave.BREAK, Leave.CONTINUE}
    assert leaves([other]) == {Leave.RETURN, Leave.RAISE}
    assert leaves([inner]) == set()


def test_reads_and_writes_of_a_run():
    module = module_of("x = y\nz.w = 1\nq += 1\ndel r\nfor i in s: t = [u for u in v]\n")
    run = module.block.statements
    assert {s.name for s in reads(run)} == {"y", "z", "q", "s", "u", "v"}
    assert {s.name for s in writes(run)} == {"x", "q", "r", "i", "t", "u"}
