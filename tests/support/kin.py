"""Random scripts with classes that have something in common, and a move that takes it out."""

from __future__ import annotations

import random
import tempfile
from pathlib import Path

from aedifex.languages.python import DIALECT
from aedifex.moves.base import Base
from aedifex.moves.kit.binding_check import perform
from aedifex.program.reading import read_program
from aedifex.source.errors import RefusedError
from aedifex.source.text import SourceText
from tests.support.scripts import play_here

_NAMES = ("Kite", "Gull", "Buoy", "Ferry")
_FIELDS = ("x", "y", "name", "load", "_mood", "log")
_METHODS = ("move", "show", "is_over", "take")


def write_kin(seed: int) -> str:
    """The script of a seed: some classes with fields set alike or not, and methods alike or not."""
    return _Writer(random.Random(seed)).text()


def with_base(text: str, chance: random.Random) -> str:
    """`same`, `refused: …` or `different: …` for some of the classes given a base."""
    names = [name for name in _NAMES if f"class {name}" in text]
    chosen = tuple(chance.sample(names, chance.randint(2, len(names))))
    with tempfile.TemporaryDirectory() as work:
        script = Path(work) / "script.py"
        script.write_text(text)
        try:
            after = perform(read_program([SourceText.read(script)], DIALECT), Base(script, "Thing", chosen))
        except RefusedError as error:
            return f"refused: {error.reason}"
        before = play_here(script.parent, script.name)
        script.write_bytes(after.main.source.encode())
        now = play_here(script.parent, script.name)
        return "same" if before == now else f"different:\n{text}\n----\n{after.main.source.data.decode()}"


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.common = chance.sample(_FIELDS, chance.randint(1, 4))
        self.starts = {name: chance.choice(["", "", "3", "[]", '"red"']) for name in _FIELDS}
        self.bodies = {name: self.body(self.common) for name in _METHODS}

    def text(self) -> str:
        names = self.chance.sample(_NAMES, self.chance.randint(2, 4))
        lines = ["LIMIT = 9", ""]
        uses: list[str] = []
        for name in names:
            lines += ["", *self.class_of(name, uses), ""]
        lines += ["things = [", *(f"    {use}," for use in uses), "]"]
        lines += ["for turn in range(3):", "    for thing in things:"]
        lines += [
            f"        print(type(thing).__name__, thing.{method}())" for method in self.chance.sample(_METHODS, 3)
        ]
        lines += (
            [f"print([getattr(t, '{self.common[0]}', None) for t in things])"] if self.chance.random() < 0.1 else []
        )
        return "\n".join(lines) + "\n"

    def class_of(self, name: str, uses: list[str]) -> list[str]:
        own = [f for f in _FIELDS if f not in self.common and self.chance.random() < 0.3]
        fields = [*self.common, *own]
        if self.chance.random() < 0.3:
            self.chance.shuffle(fields)
        given = [f.lstrip("_") for f in fields if not self.start(f)]
        uses.append(f"{name}({', '.join(str(self.chance.randint(1, 9)) for _ in given)})")
        lines = [f"class {name}{self.chance.choice(['', '', '()'])}:"]
        lines += [f'    """A {name.lower()}."""', ""] if self.chance.random() < 0.3 else []
        lines.append(f"    def __init__({', '.join(['self', *given])}):")
        for field in fields:
            lines.append(f"        self.{field} = {self.start(field) or field.lstrip('_')}")
            if self.chance.random() < 0.1:
                lines.append(f"        print('made', self.{field})")
        for method in _METHODS:
            if self.chance.random() < 0.9:
                body = self.bodies[method] if self.chance.random() < 0.6 else self.body(fields)
                lines += ["", f"    def {method}(self):", *(f"        {line}" for line in body)]
        return lines

    def start(self, field: str) -> str:
        return self.starts[field]

    def body(self, fields: list[str]) -> list[str]:
        field = self.chance.choice(fields)
        return self.chance.choice(
            [
                [f"return self.{field}"],
                [f"self.{field} = self.{field} * 2", f"return (self.{field}, LIMIT)"],
                [f"print(self.{field})  # so it is"],
                [f"if self.{field} == LIMIT:", "    return True", "return False"],
                ["return [self.LIMIT for _ in 'ab'] if False else 4"],
            ]
        )
