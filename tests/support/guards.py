"""Random scripts in which errors are caught around some statements, and looked at behind them or not."""

from __future__ import annotations

import random

_NAMES = ("cart", "dock", "kite", "reed")
_DEEPEST = 3
_CALLED = """\
for n in range(4):
    try:
        print(f(n))
    except (ZeroDivisionError, NameError) as error:
        print(type(error).__name__)
"""


def write_guards(seed: int) -> str:
    """A script with a function, and perhaps main code, whose statements may fail inside of what catches that."""
    return _Writer(random.Random(f"guards {seed}")).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance

    def text(self) -> str:
        known = self.chance.sample(_NAMES, self.chance.randint(1, 4))
        lines = ["from contextlib import suppress", "", "", "def f(n):"]
        lines += [f"    {name} = n + {number}" for number, name in enumerate(known)]
        lines += [*self.block(0, "    "), *self.block(0, "    "), f"    return {self.name()}", "", "", _CALLED]
        if self.chance.random() < 0.4:
            lines += [f"{' = '.join(_NAMES)} = 1" if self.chance.random() < 0.8 else f"{_NAMES[0]} = 1"]
            lines += ["try:", *self.block(1, "    "), "except (NameError, ZeroDivisionError):", "    print('end')", ""]
        return "\n".join(lines)

    def name(self) -> str:
        return self.chance.choice(_NAMES)

    def block(self, depth: int, margin: str, *, in_loop: bool = False) -> list[str]:
        return [
            line for _ in range(self.chance.randint(1, 3)) for line in self.statement(depth, margin, in_loop=in_loop)
        ]

    def statement(self, depth: int, margin: str, *, in_loop: bool) -> list[str]:
        one, other, number = self.name(), self.name(), self.chance.randint(0, 3)
        inner = [
            *self.chance.choices(
                [self.guarded, self.suppressed, self.repeated, self.decided],
                k=1 if depth < _DEEPEST and self.chance.random() < 0.5 else 0,
            )
        ]
        if inner:
            return inner[0](depth + 1, margin, in_loop)
        if in_loop and self.chance.random() < 0.1:
            return [f"{margin}if {one} == 3:", f"{margin}    {self.chance.choice(['break', 'continue'])}"]
        plain = [f"{one} = {other} + {number}", f"{one} = 10 // ({other} % 3)", f"print('{one}', {one})", f"{one} += 1"]
        return [margin + self.chance.choice(plain)]

    def guarded(self, depth: int, margin: str, in_loop: bool) -> list[str]:
        lines = [f"{margin}try:", *self.block(depth, f"{margin}    ", in_loop=in_loop)]
        ways = self.chance.choice([("except",), ("except",), ("finally",), ("except", "finally"), ("except", "else")])
        heads = {"except": "except ZeroDivisionError:", "else": "else:", "finally": "finally:"}
        for way in ways:
            stays = in_loop and way != "finally"
            looks = [f"{margin}    print('{way}', {self.name()})"] if self.chance.random() < 0.7 else []
            lines += [margin + heads[way], *looks, *self.block(depth, f"{margin}    ", in_loop=stays)]
        return lines

    def suppressed(self, depth: int, margin: str, in_loop: bool) -> list[str]:
        head = f"{margin}with suppress(ZeroDivisionError):"
        return [head, *self.block(depth, f"{margin}    ", in_loop=in_loop)]

    def repeated(self, depth: int, margin: str, in_loop: bool) -> list[str]:
        return [
            f"{margin}for i in range({self.chance.randint(1, 3)}):",
            *self.block(depth, f"{margin}    ", in_loop=True),
        ]

    def decided(self, depth: int, margin: str, in_loop: bool) -> list[str]:
        first = [f"{margin}{self.name()} = 2"] if self.chance.random() < 0.3 else []
        head = f"{margin}if {self.name()} > {self.chance.randint(0, 4)}:"
        lines = [*first, head, *self.block(depth, f"{margin}    ", in_loop=in_loop)]
        return [*lines, f"{margin}else:", *self.block(depth, f"{margin}    ")] if self.chance.random() < 0.5 else lines
