"""Names for the places of rows: by what is put there, and by what is done with it."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from itertools import pairwise

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.survey.kinds.rows import RowKind, row_kinds
from aedifex.survey.words import is_plural, words_of

_PAIRS = (("x", "y"), ("width", "height"))
_STEP, _USED_UP, _COLLECTED, _PROMPT = "speed", "lives", "points", "prompt"
_MEASURING = frozenset({Sense.OPERATION, Sense.SUM, Sense.EQUAL})
_ROWS = frozenset({Sense.TUPLE, Sense.LIST, Sense.CALL})
_PLACES = frozenset("x y row column col".split())
_LONE_LETTERS = frozenset("xyzwhr")


def row_names(kind: RowKind) -> list[str]:
    """A name for each place of a row; empty where nothing tells what it is."""
    names = _told(kind)
    evidence = _Evidence(kind)
    others = [(other, _told(other)) for other in row_kinds(kind.module) if other.holding is not kind.holding]
    for number, other, place in evidence.measured_against(others):
        _give(names, number, other[place])
    if names[:2] == ["x", ""]:
        _give(names, 1, "y")
    steps = {one: other for one, other in evidence.steps() if names[one] and not names[other]}
    for moved, step in steps.items():
        _give(names, step, _STEP if len(steps) == 1 else f"d{names[moved]}")
    for number, name in evidence.sorts():
        _give(names, number, name)
    return names


def _told(kind: RowKind) -> list[str]:
    """The names that the script itself gives to what stands at each place."""
    rules, naming = kind.module.dialect.rules, kind.module.dialect.naming
    votes: defaultdict[int, Counter[str]] = defaultdict(Counter)
    for number, name, weight in _Evidence(kind).votes():
        if rules.is_name(name):
            votes[number][naming.member_name(words_of(name))] += weight
    names = [""] * kind.length
    for number in sorted(votes, key=lambda n: -votes[n].most_common(1)[0][1]):
        for name, _ in votes[number].most_common():
            _give(names, number, name)
    return names


def _give(names: list[str], number: int, name: str) -> None:
    """Give a place that has no name one that no other has."""
    if name and not names[number] and name not in names:
        names[number] = name


def _of_place(name: str) -> str:
    """A name without whose place it is, if it is one of a place: `x` for `ferry_x`."""
    words = words_of(name)
    return words[-1] if words and words[-1] in _PLACES else name


class _Evidence:
    def __init__(self, kind: RowKind) -> None:
        self.kind = kind
        self.surroundings = Surroundings.of(kind.module)
        self.numbers = {id(part): kind.place(part) for part in kind.asked}

    def votes(self) -> Iterator[tuple[int, str, int]]:
        """The number of a place, a name for it, and how much that counts.

        A letter by itself is a name where it is one of a place, or where a row gives all its places to names.
        """
        for number, name, weight in self.told():
            if len(name) > 1 or name.lower() in _LONE_LETTERS:
                yield number, name, weight
        for target in self.kind.unpacked:
            for number, part in enumerate(target.parts):
                name = part.reference.name if part.reference is not None else ""
                if name.strip("_"):
                    yield number, name, 4 if len(name) > 1 else 1

    def told(self) -> Iterator[tuple[int, str, int]]:
        """Names by what is put at a place, and by where one is asked for."""
        for row in self.kind.rows:
            for number, value in enumerate(row.parts):
                name = value.name if value.sense is Sense.MEMBER else value.reference.name if value.reference else ""
                if value.sense in (Sense.NAME, Sense.MEMBER) and name:
                    yield number, name, 4
                if made := self.maker_of(value):
                    yield number, made, 5
        for part in self.kind.asked:
            if part.parts[1].reference is not None:
                yield self.numbers[id(part)], part.parts[1].reference.name, 6
            yield from self.by_place(part)

    def maker_of(self, value: Expression) -> str:
        """What the object of a class is that a row is given, or that a short name holds: a `rect`."""
        if value.reference is not None and value.sense is Sense.NAME and len(value.reference.name) == 1:
            trees = (tree for tree in self.surroundings.trees if tree.sense is Sense.SET and len(tree.parts) == 2)
            symbol = value.reference.symbol
            given = [t.parts[1] for t in trees if t.parts[0].reference and t.parts[0].reference.symbol is symbol]
            value = given[0] if len(given) == 1 == len(symbol.bindings) else value
        callee = value.parts[0] if value.sense is Sense.CALL else None
        name = callee.name or (callee.reference.name if callee.reference else "") if callee is not None else ""
        return self.kind.module.dialect.naming.member_name(words_of(name)) if name[:1].isupper() else ""

    def by_place(self, part: Expression) -> Iterator[tuple[int, str, int]]:
        """Names by where a place is asked for: what it is given to, what stands beside it."""
        number, around = self.numbers[id(part)], self.surroundings.around(part)
        if around is None:
            return
        if around.sense is Sense.SET and around.parts[-1] is part:
            target = around.parts[0]
            yield from [(number, target.reference.name, 3)] if target.reference is not None else []
        if around.sense is Sense.CALL:
            keyword = around.names[around.parts.index(part) - 1] if around.parts[0] is not part else ""
            yield from [(number, keyword, 3)] if keyword else []
        yield from ((number, name, weight) for name, weight in self.told_with(part, around))
        shifted = around if self.place_shifted(around) == number else part
        around = self.surroundings.around(shifted)
        if around is not None and around.sense in _ROWS and not self.is_said(around):
            beside = [self.place_shifted(other) for other in around.parts]
            pairs = [one for one, other in pairwise(beside) if one >= 0 and other == one + 1]
            first = pairs[:1]
            second = [at for at in pairs if at == first[0] + 2] if first else []
            for at, names in zip([*first, *second], _PAIRS, strict=False):
                yield from ((at + offset, name, 2) for offset, name in enumerate(names) if at + offset == number)

    def place_shifted(self, expression: Expression) -> int:
        """The number of the place that is asked for, be a plain number added to that; -1 for other expressions."""
        if expression.sense not in (Sense.OPERATION, Sense.SUM):
            return self.numbers.get(id(expression), -1)
        found = [self.numbers[id(part)] for part in expression.parts if id(part) in self.numbers]
        is_plain = all(part.sense is Sense.CONSTANT or id(part) in self.numbers for part in expression.parts)
        return found[0] if len(found) == 1 and is_plain else -1

    def is_said(self, around: Expression) -> bool:
        """Whether an expression is a call that only says what it is given, one thing behind the other."""
        callee = around.parts[0].reference if around.sense is Sense.CALL else None
        return callee is not None and not callee.path and callee.name == self.kind.module.dialect.library.says

    def told_with(self, part: Expression, around: Expression) -> Iterator[tuple[str, int]]:
        """Names for a place that is compared with a name, added to one, said with a word behind it, or asked with."""
        names = [e.reference.name for e in around.parts if e.sense is Sense.NAME and e.reference is not None]
        is_added = around.sense is Sense.UPDATE and around.parts[-1] is part
        if around.sense is Sense.EQUAL or is_added:
            yield from ((_of_place(name), 2) for name in names[:1])
        library = self.kind.module.dialect.library
        call = self.surroundings.call_around(part)
        if call is around and self.is_said(call):
            behind = around.parts[around.parts.index(part) + 1 :]
            words = words_of(behind[0].name or "") if behind and behind[0].sense is Sense.CONSTANT else []
            yield from ((word, 3) for word in words[:1] if is_plural(word))
        callee = call.parts[0].reference if call is not None else None
        if callee is not None and not callee.path and callee.name == library.asks:
            yield _PROMPT, 2

    def steps(self) -> Iterator[tuple[int, int]]:
        """The places that are changed by what stands in another: `bird[0] += bird[2]`."""
        for part in self.kind.asked:
            around = self.surroundings.around(part)
            if around is not None and around.sense is Sense.UPDATE and around.parts[0] is part:
                within = [self.numbers[id(e)] for e in around.parts[1].walk() if id(e) in self.numbers]
                yield from ((self.numbers[id(part)], number) for number in within[:1])

    def measured_against(self, others: Sequence[tuple[RowKind, list[str]]]) -> Iterator[tuple[int, list[str], int]]:
        """The places that are compared or computed with places of other rows: they mean the same."""
        known = {id(part): (names, other.place(part)) for other, names in others for part in other.asked}
        for part in self.kind.asked:
            around = self.surroundings.around(part)
            for beside in around.parts if around is not None and around.sense in _MEASURING else ():
                if id(beside) in known:
                    yield self.numbers[id(part)], *known[id(beside)]

    def sorts(self) -> Iterator[tuple[int, str]]:
        """What places without any name may be, by what is first put there, or that they are used up or collected."""
        for number in range(self.kind.length):
            texts = [self.kind.module.source.slice(row.parts[number].span) for row in self.kind.rows]
            if all(self.kind.module.dialect.writer.text_value(text) is not None for text in texts):
                yield number, "name"
        steps: defaultdict[int, set[Operator | None]] = defaultdict(set)
        for part in self.kind.asked:
            around = self.surroundings.around(part)
            is_step = around is not None and around.sense is Sense.UPDATE and around.parts[0] is part
            if around is not None and is_step and around.parts[1].sense is Sense.CONSTANT:
                steps[self.numbers[id(part)]].add(around.operator)
        for number, operators in steps.items():
            yield number, _USED_UP if operators == {Operator.MINUS} else _COLLECTED
