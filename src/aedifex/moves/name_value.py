"""name_value: a number that stands in several places for one thing gets a name, which says what it is."""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.moves.kit.top_of_file import TopOfFile
from aedifex.program.analysis.values import only_value
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError, UsageError
from aedifex.survey.numbers import Number, Numbers, constants_at_top

_PRODUCT = re.compile(r"(\d+) \* (\w+)")


@dataclass(frozen=True)
class NameValue:
    """Make a constant of a number, and use it on the lines that are named, or wherever it stands for something.

    `computed` is the product of another constant that gives the same, or empty.
    """

    name: ClassVar[str] = "name_value"

    path: Path
    value: str
    constant: str
    lines: tuple[int, ...] = ()
    computed: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        found = numbers_on(module, self.value, self.lines)
        if not found:
            where = f" on line {', '.join(map(str, self.lines))}" if self.lines else ""
            raise RefusedError(
                f"no {self.value} stands{where} of {module.path.name} for something",
                advice="Name a number that something is compared with, given, changed, divided or multiplied by.",
            )
        return _Naming(self, program, module, found).plan()


def numbers_on(module: Module, value: str, lines: Collection[int]) -> list[Number]:
    """The places on some lines, or anywhere if there are none, where a number stands for something."""
    line_of, found = module.source.line_of, Numbers.of(module).found
    return [n for n in found if n.text == value and (not lines or line_of(n.expression.start) in lines)]


class _Naming(Planner):
    def __init__(self, move: NameValue, program: Program, module: Module, numbers: list[Number]) -> None:
        super().__init__(module)
        self.program = program
        self.move = move
        self.numbers = numbers
        self.first = min(number.expression.start for number in numbers)
        self.top = TopOfFile(module, self.rewriter)

    def find_objections(self) -> None:
        at, name = self.numbers[0].expression.start, self.move.constant
        is_used = any(name in module.names_in_use for module in self.program.modules.values())
        if not self.is_there and (is_used or self.dialect.rules.is_taken(name)):
            self.object(at, f"the name `{name}` is in use already", "Choose another.")
        if self.module.unknown_stars:
            reason = "a star import that cannot be read may bring the same name"
            self.object(at, reason, "Import the names that are used one by one.")
        if any(self.module.echo_at(number.expression.start) is not None for number in self.numbers):
            self.object(at, "a template shows this number by its own text", "Leave that line out.")
        if self.move.computed and not self.is_equal(self.move.computed):
            reason = f"`{self.move.computed}` is not {self.move.value}, or its constant is not there yet"
            self.object(at, reason, "Write a whole number, ` * ` and a constant that is defined further up.")

    @cached_property
    def is_there(self) -> bool:
        """Whether the file begins with a constant that has this name and value, and nothing else is called so."""
        return self.move.constant in constants_at_top(self.module, self.move.value, self.first)

    def is_equal(self, computed: str) -> bool:
        """Whether a product gives the number exactly."""
        return self.move.value == str(self.product(computed))

    def product(self, text: str) -> int | None:
        """A whole number that is written out, or the product of one and a constant that is one."""
        if text.isdigit():
            return int(text)
        found = _PRODUCT.fullmatch(text)
        symbol = self.module.scope.symbols.get(found[2]) if found is not None else None
        only = only_value(symbol) if symbol is not None and self.top.constants.settles(symbol) else None
        if found is None or only is None or only.statement not in self.top.leading(self.first):
            return None
        inner = self.product(self.module.source.slice(only.value.span))
        return int(found[1]) * inner if inner is not None else None

    def write(self) -> None:
        for number in self.numbers:
            self.rewriting.changes.replace(self.module.path, number.expression.span, self.move.constant)
        if self.is_there:
            return
        value = self.move.computed or self.move.value
        self.top.define("".join(map(str, self.writer.variable(self.move.constant, [value]))), self.first)


def _by_hand(program: Program, script: Path, given: Given) -> list[NameValue]:
    lines = given["line"]
    if not all(line.isdigit() for line in lines):
        raise UsageError("say the lines by their numbers")
    return [NameValue(script, given["value"], given["name"], tuple(map(int, lines)))]


MOVE = Description(
    name="name_value",
    place=64,
    summary=(
        "A number that stands in several places for one thing becomes a constant with a name.\n"
        "Refused where a template shows the number itself."
    ),
    term="Replace Magic Literal",
    help="Make a constant of a number, and use it wherever the number stands for something, or on some lines.",
    parameters=(
        StepParameter("value", Takes.ONE, "NUMBER"),
        StepParameter("name", Takes.ONE, "NAME"),
        StepParameter("line", Takes.OPTIONS, "LINE", "Use it on this line, and on no other that is not named."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="4 MOST_CARTS",
        before="""\
import sys

load = 0
for cart in ["hay", "milk", "wool", "seed", "peat"]:
    if load >= 4:
        print(cart, "waits")
    elif load < 4:
        load += 1
""",
        after={
            "harbour.py": """\
import sys

MOST_CARTS = 4

load = 0
for cart in ["hay", "milk", "wool", "seed", "peat"]:
    if load >= MOST_CARTS:
        print(cart, "waits")
    elif load < MOST_CARTS:
        load += 1
""",
        },
    ),
)
