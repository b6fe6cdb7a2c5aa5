"""Random scripts in two languages whose functions share variables, most of which they set before they ask."""

from __future__ import annotations

import random

from aedifex.moves.declare import Declare, is_for_declaring
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.narrow import Narrow
from aedifex.program.model.program import Program
from aedifex.program.structure.passing_values import PassingValues
from aedifex.source.errors import RefusedError
from tests.support.javascript_scripts import compared
from tests.support.scripts import changed_outcome

_SHARED = ("depth", "row", "mark")
_ROUTINES = ("rise", "load", "show", "sail")
_DEEPEST = 3


def narrowed(text: str, *, is_python: bool) -> str:
    """Narrow all variables that may be, and run both: `same N`, `refused` where none may be, or `different: …`."""
    counts: list[str] = []

    def change(program: Program) -> Program:
        if is_for_declaring(program.main):
            program = perform(program, Declare(program.main.path))
        for symbol in PassingValues.of(program.main).found:
            program = perform(program, Narrow(program.main.path, symbol.name))
            counts.append(symbol.name)
        if not counts:
            raise RefusedError("nothing passes")
        return program

    end = changed_outcome(text, change) if is_python else compared(text, change)
    return f"{end} {len(counts)}" if end == "same" else end


class _Script:
    def __init__(self, seed: int, *, is_python: bool) -> None:
        self.chance = random.Random(seed)
        self.is_python = is_python
        self.oddity = self.chance.choice([0.0, 0.0, 0.15, 0.5])
        self.is_inside = True
        self.routines: list[str] = []
        self.set: set[str] = set()

    def said(self, python: str, other: str) -> str:
        return python if self.is_python else other

    def line(self, depth: int, python: str, other: str = "") -> list[str]:
        return [f"{'    ' * depth}{python if self.is_python else (other or f'{python};')}"]

    def head(self, depth: int, python: str, other: str) -> list[str]:
        return [f"{'    ' * depth}{f'{python}:' if self.is_python else f'{other} {{'}"]

    def foot(self, depth: int) -> list[str]:
        return [] if self.is_python else [f"{'    ' * depth}}}"]

    def value(self) -> str:
        known = [*self.set] if self.chance.random() > self.oddity else [*_SHARED]
        return self.chance.choice([*known, *known, "total", str(self.chance.randint(0, 4))])

    def block(self, depth: int, room: int) -> list[str]:
        known = set(self.set)
        lines = [line for _ in range(self.chance.randint(1, room)) for line in self.statement(depth)]
        self.set = known
        return lines

    def statement(self, depth: int) -> list[str]:
        ways = [self.give, self.give, self.add, self.show, self.call]
        ways += [self.branch, self.loop, self.loop, self.attempt, self.leave] if depth < _DEEPEST else []
        ways += [self.capture, self.change, self.give_two] if self.chance.random() < self.oddity else []
        return self.chance.choice(ways)(depth)

    def give(self, depth: int) -> list[str]:
        name = self.chance.choice(_SHARED)
        lines = self.line(depth, f"{name} = {self.value()} + {self.value()}")
        self.set.add(name)
        return lines

    def give_two(self, depth: int) -> list[str]:
        one, other = self.chance.sample(_SHARED, 2)
        values = f"{self.value()}, {self.value()}"
        self.set |= {one, other}
        if self.chance.random() < 0.5:
            return self.line(depth, f"{one} = {other} = {self.chance.randint(1, 3)}")
        return self.line(depth, f"{one}, {other} = {values}", f";[{one}, {other}] = [{values}];")

    def add(self, depth: int) -> list[str]:
        return self.line(depth, f"total = (total + {self.value()}) % 50")

    def change(self, depth: int) -> list[str]:
        return self.line(depth, f"{self.chance.choice(_SHARED)} += 1")

    def show(self, depth: int) -> list[str]:
        shown = f"{self.value()}, {self.value()}"
        return self.line(depth, f"print({shown})", f"console.log({shown});")

    def call(self, depth: int) -> list[str]:
        if not self.routines:
            return self.show(depth)
        name = self.chance.choice(self.routines)
        if self.chance.random() < 0.5:
            return self.line(depth, f"{name}()")
        return self.line(depth, f"total = (total + {name}()) % 50")

    def branch(self, depth: int) -> list[str]:
        condition = f"{self.value()} > {self.chance.randint(0, 4)}"
        lines = [*self.head(depth, f"if {condition}", f"if ({condition})"), *self.block(depth + 1, 2)]
        if self.chance.random() < 0.5:
            return [*lines, *self.foot(depth)]
        other = self.said(f"{'    ' * depth}else:", f"{'    ' * depth}}} else {{")
        return [*lines, other, *self.block(depth + 1, 2), *self.foot(depth)]

    def loop(self, depth: int) -> list[str]:
        name, times = self.chance.choice(_SHARED), self.chance.randint(1, 3)
        head = f"for ({name} = 0; {name} < {times}; {name}++)"
        if self.chance.random() < 0.3:
            head = f"for ({name} of [4, 2, 1])"
        lines = self.head(depth, f"for {name} in range({times})", head)
        known = set(self.set)
        self.set.add(name)
        lines += self.counted(depth + 1, name)
        self.set = known | ({name} if self.chance.random() < 0.3 else set())
        return [*lines, *self.foot(depth)]

    def counted(self, depth: int, name: str) -> list[str]:
        """A block that ends, whatever is in it: it counts how often it has run."""
        lines = self.line(depth, "rounds += 1")
        lines += [*self.head(depth, "if rounds > 60", "if (rounds > 60)"), *self.line(depth + 1, "break")]
        return [*lines, *self.foot(depth), *self.block(depth, 2)]

    def attempt(self, depth: int) -> list[str]:
        margin = "    " * depth
        lines = [*self.head(depth, "try", "try"), *self.block(depth + 1, 2)]
        lines += self.line(depth + 1, f"check({self.value()})")
        lines += self.block(depth + 1, 1)
        return [
            *lines,
            self.said(f"{margin}except ValueError:", f"{margin}}} catch {{"),
            *self.block(depth + 1, 2),
            *self.foot(depth),
        ]

    def leave(self, depth: int) -> list[str]:
        if not self.is_inside or depth < 2 or self.chance.random() < 0.5:
            return self.show(depth)
        lines = self.head(depth, f"if total > {self.chance.randint(10, 40)}", "if (total > 20)")
        return [*lines, *self.line(depth + 1, f"return {self.value()}"), *self.foot(depth)]

    def capture(self, depth: int) -> list[str]:
        name = self.chance.choice(_SHARED)
        python = f"print((lambda: {name})())"
        return self.line(depth, python, f"[1, 2].forEach((x) => {{ {self.chance.choice([name, 'total'])} = x; }});")

    def routine(self, name: str) -> list[str]:
        self.set = set()
        lines = self.head(0, f"def {name}()", f"function {name}()")
        names = ", ".join(["total", "rounds", *_SHARED])
        lines += self.line(1, f"global {names}") if self.is_python else []
        for _ in range(self.chance.randint(2, 4)):
            lines += self.statement(1)
        lines += self.line(1, f"return {self.value()}")
        return [*lines, *self.foot(0), ""]

    def write(self) -> str:
        lines = self.line(0, "total = 5", "let total = 5;") + self.line(0, "rounds = 0", "let rounds = 0;")
        for name in _SHARED:
            how = [f"let {name};", f"var {name} = 2;", f"let {name} = 0; // of the river", f"{name} = 1;"]
            lines += self.line(0, f"{name} = {self.chance.randint(0, 3)}", self.chance.choice(how))
        lines += ["", *self.head(0, "def check(value)", "function check(value)")]
        lines += self.head(1, "if value > 4", "if (value > 4)")
        lines += self.line(2, 'raise ValueError("high")', 'throw new Error("high");')
        lines += [*self.foot(1), *self.foot(0), ""]
        for name in _ROUTINES[: self.chance.randint(1, 4)]:
            lines += self.routine(name)
            self.routines.append(name)
        self.set, self.is_inside = set(), False
        for _ in range(self.chance.randint(1, 4)):
            lines += self.statement(0)
        lines += [line for name in self.routines for line in self.line(0, f"{name}()")]
        return "\n".join([*lines, *self.line(0, "print(total)", "console.log(total);")]) + "\n"


def write_passing(seed: int, *, is_python: bool) -> str:
    """A script with one to four functions, and variables that some of them set for themselves only."""
    return _Script(seed, is_python=is_python).write()
