"""Which numbers deserve a name, and what to call them: only where all that is known says that they mean one thing."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, field

from aedifex.design.document.design import ConstantPlan
from aedifex.program.model.expressions import Operator
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function
from aedifex.survey.numbers import Number, Numbers, Role, constants_at_top
from aedifex.survey.words import plural, singular, words_of

_SHORTER = frozenset({Operator.LESS, Operator.AT_MOST})
_LONGER = frozenset({Operator.MORE, Operator.AT_LEAST})
_UNITS = {
    "second": {60: "minute", 3600: "hour", 86400: "day"},
    "minute": {60: "hour", 1440: "day"},
    "hour": {24: "day"},
    "day": {7: "week", 365: "year"},
    "month": {12: "year"},
    "gram": {1000: "kilo"},
    "kilo": {1000: "ton"},
    "meter": {1000: "kilometer"},
    "metre": {1000: "kilometre"},
    "cent": {100: "euro"},
}
"""How many of one thing are one of another: where people speak of the one and count by the number, they mean that."""

_TIME = frozenset("t time clock seconds elapsed".split())
_TIME_STEP = "dt"
_STEP_WORDS = frozenset({"dt", "step", "tick", "delta"})
_FEWEST = 2
_SHORTEST_WORD = 3


@dataclass
class _Group:
    """Numbers that mean one thing, the words for that, and what is counted, where it is so many of something.

    Others that count the same may be computed from one that is a base. `named` is what the script calls it already.
    """

    words: list[str]
    numbers: list[Number] = field(default_factory=list)
    unit: str = ""
    why: str = ""
    is_base: bool = False
    passed: str = ""
    named: str = ""

    @property
    def text(self) -> str:
        return self.numbers[0].text


def constants_of(module: Module, line_of: Callable[[Number], int | None]) -> list[ConstantPlan]:
    """The numbers of a file that get a name, in the order in which they must be defined.

    `line_of` tells the line of the script as it was read on which a number stands.
    """
    return _Finder(module, line_of).plans()


class _Finder:
    def __init__(self, module: Module, line_of: Callable[[Number], int | None]) -> None:
        self.module = module
        self.line_of = line_of
        self.numbers = Numbers.of(module).found
        self.grown = {what.key for what, _ in Numbers.of(module).growths}

    def plans(self) -> list[ConstantPlan]:
        groups = [*self.conversions(), *self.steps_of_time(), *self.of_one_subject()]
        wishes = Counter(self.module.dialect.naming.constant_name(g.words) for g in groups if len(g.numbers) >= _FEWEST)
        taken: set[Number] = set()
        plans: list[ConstantPlan] = []
        units: list[tuple[_Group, str]] = []
        for group in sorted(groups, key=lambda g: (not g.unit, g.numbers[0].value if g.unit else 0)):
            numbers = [number for number in group.numbers if number not in taken]
            lines = sorted({line for number in numbers if (line := self.line_of(number)) is not None})
            name = self.module.dialect.naming.constant_name(group.words)
            is_told_apart = group.unit or wishes[name] == 1
            is_possible = bool(group.named) or self.is_free(name)
            name = group.named or name
            if len(numbers) < _FEWEST or not lines or not is_possible or not is_told_apart:
                continue
            if any(plan.name == name for plan in plans):
                continue
            taken.update(numbers)
            computed = self.computed(group, units)
            plans.append(ConstantPlan(name, group.text, tuple(lines), computed, group.passed, why=group.why))
            if group.is_base:
                units.append((group, name))
        return plans

    def is_free(self, name: str) -> bool:
        rules = self.module.dialect.rules
        return rules.is_name(name) and not rules.is_taken(name) and name not in self.module.names_in_use

    def computed(self, group: _Group, units: Sequence[tuple[_Group, str]]) -> str:
        """The product of another constant that a number is, where both count the same thing."""
        unit = group.unit or next((singular(w) for w in group.words if singular(w) in _UNITS), "")
        value = group.numbers[0].value
        for other, name in reversed(units):
            base = other.numbers[0].value
            is_same_unit = unit and other.unit == unit and "." not in group.text + other.text
            if is_same_unit and value > base and value % base == 0:
                return f"{value // base:.0f} * {name}"
        return ""

    # -- so many of one thing are one of another

    def conversions(self) -> list[_Group]:
        """Numbers by which minutes become hours, and the like."""
        found: dict[tuple[str, str], _Group] = {}
        loose: list[Number] = []
        for number in self.numbers:
            if number.role not in (Role.DIVISOR, Role.FACTOR):
                continue
            unit, whole = self.units_of(number)
            if whole:
                words = [plural(unit), "per", whole]
                why = f"so many {plural(unit)} are one {whole}"
                found.setdefault((unit, whole), _Group(words, unit=unit, why=why, is_base=True)).numbers.append(number)
            elif number.role is Role.DIVISOR:
                loose.append(number)
        for group in found.values():
            group.numbers += self.taken_apart(loose, group.text)
        return [*found.values(), *self.inverse()]

    def units_of(self, number: Number) -> tuple[str, str]:
        """Of what there are how many in what, by the words of what is divided, or of what comes of multiplying."""
        value = number.value
        asked = number.subject if number.role is Role.DIVISOR else number.target
        for word in map(singular, asked.words if asked is not None else ()):
            whole = _UNITS.get(word, {}).get(int(value)) if value == int(value) else None
            if whole is not None:
                return word, whole
        return "", ""

    def taken_apart(self, loose: Iterable[Number], text: str) -> list[Number]:
        """The numbers by which something is both divided and asked for what is left: whole ones, and the rest."""
        same = [number for number in loose if number.text == text]
        both = {Operator.WHOLE_DIVIDED, Operator.REST}
        return [n for n in same if {m.operator for m in same if m.subject.key == n.subject.key} >= both]

    def inverse(self) -> Iterator[_Group]:
        """Numbers that turn one thing into another in one place, and that one back in another."""
        direct = [number for number in self.numbers if number.is_direct]
        for divided in direct:
            if divided.operator is not Operator.DIVIDED or divided.target is None:
                continue
            factors = (n for n in direct if n.role is Role.FACTOR and n.text == divided.text)
            back = [number for number in factors if number.subject.key == divided.target.key]
            what = self.counted(divided)
            if back and what and divided.target.key != divided.subject.key:
                words = [*what, "per", *divided.target.words]
                unit = singular(what[-1])
                yield _Group(words, [divided, *back], unit if unit in _UNITS else "", "it is divided by, and back")

    def counted(self, number: Number) -> list[str]:
        """What a number divides, in words: where that has a short name, what it is added to elsewhere."""
        words = list(number.subject.words)
        if words and len(words[-1]) >= _SHORTEST_WORD:
            return words
        added = Numbers.of(self.module).added_to(number.subject)
        return list(added.words) if added is not None else []

    # -- steps of time

    def steps_of_time(self) -> Iterator[_Group]:
        """A fraction that is added to the time, and by which what changes with time is multiplied."""
        for step in self.numbers:
            is_time = not _TIME.isdisjoint(step.subject.words)
            if step.role is not Role.STEP or not is_time or step.operator is not Operator.PLUS or "." not in step.text:
                continue
            rates = [n for n in self.numbers if n.role is Role.FACTOR and n.text == step.text and n.target is not None]
            if rates:
                why = f"{' '.join(step.subject.words)} goes on by it"
                yield _Group(["time", "step"], [step, *rates], why=why, passed=_TIME_STEP, named=self.own_step(step))

    def own_step(self, step: Number) -> str:
        """The constant that the script has for the step of time already, whether it uses it or not."""
        named = constants_at_top(self.module, step.text, step.expression.start)
        return next((name for name in named if not _STEP_WORDS.isdisjoint(words_of(name))), "")

    # -- one variable or field

    def of_one_subject(self) -> Iterator[_Group]:
        """The same number for the same variable or field, as its limit, its first value, or its step both ways."""
        together: dict[tuple[object, str], list[Number]] = {}
        for number in self.numbers:
            together.setdefault((number.subject.key, number.text), []).append(number)
        for numbers in together.values():
            numbers = [n for n in numbers if n.role in (Role.LIMIT, Role.VALUE, Role.STEP)]
            name = list(numbers[0].subject.words) if len(numbers) >= _FEWEST else []
            if not name or (max(map(len, name)) < _SHORTEST_WORD and len(name) < _FEWEST):
                continue
            words = self.words_for(numbers, name)
            if words:
                yield _Group(words, numbers, why=f"{' '.join(name)} is {_listed(numbers)}")

    def words_for(self, numbers: Sequence[Number], name: list[str]) -> list[str]:
        roles = {number.role for number in numbers}
        asked = {number.operator for number in numbers if number.role is Role.LIMIT}
        if roles == {Role.LIMIT, Role.STEP}:
            is_spent = all(n.operator is Operator.MINUS for n in numbers if n.role is Role.STEP)
            return [*name, "needed"] if is_spent and asked <= {Operator.LESS, Operator.AT_LEAST} else []
        if roles == {Role.STEP}:
            return [*name, "step"] if {n.operator for n in numbers} == {Operator.PLUS, Operator.MINUS} else []
        if roles == {Role.VALUE}:
            return ["start", *name] if self.begins(numbers) and name[0] != "start" else []
        if roles not in ({Role.LIMIT}, {Role.LIMIT, Role.VALUE}):
            return []
        if Role.VALUE not in roles and asked == {Operator.LESS, Operator.AT_LEAST}:
            return ["max" if numbers[0].subject.key in self.grown else "min", *name]
        is_full_at_first = Role.VALUE in roles and self.begins([n for n in numbers if n.role is Role.VALUE])
        if asked <= _LONGER or (asked == {Operator.LESS} and is_full_at_first):
            return ["max", *name]
        return ["min", *name] if asked <= _SHORTER else []

    def begins(self, numbers: Sequence[Number]) -> bool:
        """Whether one of several values is the first, set where the program or the object begins."""
        first = min(number.expression.start for number in numbers)
        return any(self.is_beginning(number) for number in numbers if number.expression.start == first)

    def is_beginning(self, number: Number) -> bool:
        statement = number.expression.statement
        if statement is None:
            return False
        routine = statement.block.routine_around
        if routine is None:
            return statement.block.owner is None
        return isinstance(routine, Function) and self.module.dialect.rules.is_constructor(routine.name)


def _listed(numbers: Sequence[Number]) -> str:
    said = {Role.LIMIT: "compared with it", Role.VALUE: "given it", Role.STEP: "changed by it"}
    return " and ".join(dict.fromkeys(said[number.role] for number in numbers))
