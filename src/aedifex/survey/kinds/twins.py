"""Kinds that are stored as copies: variables and functions whose names differ in a number or in one word."""

from __future__ import annotations

import re
from collections import defaultdict
from collections.abc import Collection, Iterable, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.definite_assignment import bound_before
from aedifex.program.analysis.values import first_value, value_of
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Shape, Statement
from aedifex.program.structure.obstacles import Obstacle, function_obstacles, variable_obstacles
from aedifex.program.structure.state import Constants, state
from aedifex.source.text import Span
from aedifex.survey.kinds.beginnings import Beginning, beginning_of
from aedifex.survey.kinds.choices import Choice, choices_in
from aedifex.survey.kinds.handed_copies import is_handed_together
from aedifex.survey.kinds.likeness import Hole, Likeness, alike
from aedifex.survey.kinds.repeated import Repeated, repeated_in

_FEWEST_FIELDS = 2
_FEWEST_STEPS = 3
_FEWEST_PLACES = 2
_MOST_CONSTANTS = 4
_ADVICE = "Leave these variables as they are, or write that part alike for each of them first."
_NUMBER = re.compile(r"(.*?)_?(\d+)(.*)")
_SIDES = (
    "left right",
    "top bottom",
    "upper lower",
    "red blue green yellow black white gold golden purple orange pink grey gray brown",
    "first second third",
    "north south east west",
    "big small",
    "player computer",
    "player opponent",
    "player enemy",
    "human computer",
    "front back",
    "inner outer",
)
"""Words that tell copies of one thing apart, those in a row beside one another."""


@dataclass(frozen=True)
class TwinKind:
    """Things of one kind that are kept in variables of their own.

    `marks` tell the copies apart, `fields` are the variables of each attribute, copy by copy, and `routines` the
    functions that are alike but for the copy.
    """

    module: Module
    noun: str
    marks: tuple[str, ...]
    fields: dict[str, tuple[Symbol, ...]]
    routines: dict[str, tuple[Function, ...]]

    @property
    def is_single(self) -> bool:
        """Whether there is one thing of it."""
        return len(self.marks) == 1

    @property
    def variables(self) -> list[Symbol]:
        """All variables of all copies."""
        return [symbol for symbols in self.fields.values() for symbol in symbols]

    def copy_of(self, number: int) -> set[Symbol]:
        """The variables and functions of one copy."""
        own = {symbols[number] for symbols in self.fields.values()}
        return own | {functions[number].symbol for functions in self.routines.values()}

    def mapping(self, number: int) -> dict[Symbol, Symbol]:
        """From the symbols of the first copy to those of another."""
        found = {symbols[0]: symbols[number] for symbols in self.fields.values()}
        return found | {functions[0].symbol: functions[number].symbol for functions in self.routines.values()}

    @property
    def mappings(self) -> list[dict[Symbol, Symbol]]:
        """From the first copy to each of the others."""
        return [self.mapping(number) for number in range(1, len(self.marks))]

    @cached_property
    def beginning(self) -> Beginning | None:
        """Where they begin; None where that is not alike for all."""
        return beginning_of(self)

    @cached_property
    def repeated(self) -> list[Repeated]:
        """The statements that stand once for each copy, outside of where they begin and of their functions."""
        return list(repeated_in(self))

    @cached_property
    def choices(self) -> list[Choice]:
        """The branches that do the same with each copy, as a constant tells which is meant.

        None where a copy is there before the others are.
        """
        is_apart = self.beginning is not None and not self.beginning.is_close
        return [] if is_apart or self.is_single else choices_in(self)

    @cached_property
    def keys(self) -> tuple[str, ...]:
        """The constants by which the copies are known, in their order; none where they are not."""
        return self.choices[0].keys if self.choices else ()

    @cached_property
    def obstacles(self) -> list[Obstacle]:
        """Why no class can be made of them."""
        found = [o for symbol in self.variables for o in variable_obstacles(self.module, symbol)]
        if self.beginning is None:
            first = self.variables[0]
            reason = f"`{first.name}` and its like do not begin in the same way"
            found.append(Obstacle(first.references[0].start, reason, _ADVICE))
        return found

    @cached_property
    def constants(self) -> list[Hole]:
        """The constants that differ between functions, or branches, which are alike otherwise, docstrings aside."""
        found: list[Hole] = []
        for family in self.routines.values():
            likeness = _likeness(self, family)
            doc = family[0].doc
            for hole in likeness.holes if likeness is not None else []:
                if doc is None or not doc.start <= hole.constants[0].start < doc.end:
                    found.append(hole)
        found += [hole for choice in self.choices for hole in choice.holes]
        return found + [hole for repeated in self.repeated for hole in repeated.holes]

    @cached_property
    def unlike(self) -> list[tuple[Function, Function]]:
        """Functions that are named alike and do not do the same: the first, and the first that differs from it."""
        found: list[tuple[Function, Function]] = []
        for functions in _families(self.module, self.marks):
            about = [self._is_about(function, number) for number, function in enumerate(functions)]
            if functions not in self.routines.values() and any(about):
                found.append((functions[0], functions[1]))
        return found

    def _is_about(self, function: Function, number: int) -> bool:
        own = {symbols[number] for symbols in self.fields.values()}
        return any(r.symbol in own for scope in function.scope.walk() for r in scope.uses)


def twin_kinds(module: Module) -> list[TwinKind]:
    """The kinds that a file keeps as numbered or named copies at its top level, in the order of the text."""
    if module.hindrances:
        return []
    groups: dict[tuple[str, tuple[str, ...]], dict[str, tuple[Symbol, ...]]] = defaultdict(dict)
    for (prefix, suffix), copies in _marked(state(module)).items():
        marks = tuple(sorted(copies, key=_order))
        symbols = tuple(copies[mark] for mark in marks)
        groups[prefix if suffix else "", marks][suffix or prefix] = symbols
    groups = _with_bare(groups)
    found = [_kind_that_begins(module, prefix, marks, fields) for (prefix, marks), fields in groups.items()]
    kinds = [kind for kind in found if len(kind.fields) >= _FEWEST_FIELDS or kind.routines or _is_alike_alone(kind)]
    constants, taken = Constants.of(module), {symbol for kind in kinds for symbol in kind.variables}
    kinds += [kind for kind in _kinds_by_deeds(module) if taken.isdisjoint(kind.variables)]
    taken = {symbol for kind in kinds for symbol in kind.variables}
    kinds += list(_kinds_by_setting_up(module, taken))
    kinds = [k for k in kinds if not all(map(constants.settles, k.variables)) or is_handed_together(k)]
    return sorted(kinds, key=lambda kind: min(s.references[0].start for s in kind.variables))


def _kinds_by_deeds(module: Module) -> Iterator[TwinKind]:
    """Kinds whose marks are any words: what tells is that there are functions which do the same with each copy."""
    parts: dict[tuple[str, str], dict[str, Symbol]] = defaultdict(dict)
    for symbol in state(module):
        for prefix, mark, suffix in _cut(symbol.name):
            parts[prefix, mark].setdefault(suffix, symbol)
    shapes: dict[tuple[str, frozenset[str]], list[str]] = defaultdict(list)
    for (prefix, mark), known in parts.items():
        shapes[prefix, frozenset(known)].append(mark)
    for (prefix, attributes), marks in shapes.items():
        if len(marks) > 1:
            first = parts[prefix, marks[0]]
            named = sorted(attributes, key=lambda attribute: first[attribute].references[0].start)
            fields = {a: tuple(parts[prefix, mark][a] for mark in marks) for a in named}
            kind = _kind_that_begins(module, prefix, tuple(marks), fields)
            is_enough = len(fields) >= _FEWEST_FIELDS or len(_first_run(kind)) >= _FEWEST_STEPS
            if kind.routines and is_enough:
                yield kind


def _kinds_by_setting_up(module: Module, taken: Collection[Symbol]) -> Iterator[TwinKind]:
    """Kinds of things with names of their own, each in one variable: they are made and set up in the same steps."""
    alike: dict[tuple[str, ...], list[Symbol]] = defaultdict(list)
    for symbol in state(module):
        steps = _set_up_steps(symbol) if symbol not in taken else ()
        if len(steps) >= _FEWEST_STEPS:
            alike[steps].append(symbol)
    for symbols in alike.values():
        if len(symbols) > 1:
            kind = _kind_that_begins(module, "", tuple(s.name for s in symbols), {"": tuple(symbols)})
            if _is_set_up_alike(kind):
                yield kind


def _set_up_steps(symbol: Symbol) -> tuple[str, ...]:
    """What makes the object in a variable, and what that is told right behind; none where nothing is called for it."""
    first = next((r for r in symbol.references if r.binds and r.scope.kind is ScopeKind.MODULE), None)
    making = first.statement if first is not None else None
    value = value_of(first) if first is not None else None
    if making is None or making.block.owner is not None or value is None or value.shape is not Shape.CALL:
        return ()
    maker = next((call.callee for call in making.calls if call.span == value.span), None)
    steps = [".".join([maker.name, *(step.name or "" for step in maker.path)])] if maker is not None else []
    for statement in making.block.statements[making.index + 1 :]:
        told = statement.references[0] if statement.references else None
        if told is None or told.symbol is not symbol or told.start != statement.start or not told.path:
            break
        steps.append(told.path[0].name or "")
    return tuple(steps)


def _is_alike_alone(kind: TwinKind) -> bool:
    """Whether things that are one variable each are set up in several steps, or objects that are treated alike."""
    values = [first_value(symbol) for symbol in kind.variables]
    are_made = all(value is not None and value.shape is Shape.CALL for value in values)
    return _is_set_up_alike(kind) or (are_made and len(kind.repeated) >= _FEWEST_PLACES)


def _is_set_up_alike(kind: TwinKind) -> bool:
    """Whether things that are one variable each are set up in several steps, and then treated one after another."""
    return len(_first_run(kind)) >= _FEWEST_STEPS and bool(kind.repeated)


def _first_run(kind: TwinKind) -> tuple[Statement, ...]:
    """The statements in which the first copy is set up."""
    runs = kind.beginning.runs if kind.beginning is not None else ()
    return runs[0] if runs else ()


def _with_bare(
    groups: dict[tuple[str, tuple[str, ...]], dict[str, tuple[Symbol, ...]]],
) -> dict[tuple[str, tuple[str, ...]], dict[str, tuple[Symbol, ...]]]:
    """A variable that has the thing's own name goes with those that have more."""
    bare = [key for key in groups if not key[0]]
    for key in bare:
        for attribute in list(groups[key]):
            whole = (attribute, key[1])
            if whole in groups:
                groups[whole] = {"": groups[key].pop(attribute), **groups[whole]}
        if not groups[key]:
            del groups[key]
    return groups


def is_side(mark: str) -> bool:
    """Whether a mark is one of the words that tell copies of anything apart."""
    return any(mark.lower() in side.split() for side in _SIDES)


def _marked(symbols: Iterable[Symbol]) -> dict[tuple[str, str], dict[str, Symbol]]:
    """Variables by what their names have before and behind a mark, those with several marks."""
    found: dict[tuple[str, str], dict[str, Symbol]] = defaultdict(dict)
    for symbol in symbols:
        for prefix, mark, suffix in _split(symbol.name):
            found[prefix, suffix].setdefault(mark, symbol)
    # what is called by the mark alone is one of several only beside others that are
    marks = [set(copies) for key, copies in found.items() if key != ("", "")]
    whole = found.pop(("", ""), {})
    fitting = next((m for m in marks if len(m) > 1 and m <= set(whole)), set())
    if fitting:
        found["", ""] = {mark: symbol for mark, symbol in whole.items() if mark in fitting}
    return {key: copies for key, copies in found.items() if len(copies) > 1 and _go_together(copies)}


def _split(name: str) -> Iterator[tuple[str, str, str]]:
    """The ways in which a name is one of several: what stands before the mark, the mark, and what stands behind it."""
    numbered = _NUMBER.fullmatch(name)
    if numbered is not None and (numbered[1] or numbered[3]):
        yield numbered[1], numbered[2], numbered[3].strip("_")
        return
    if "_" not in name and is_side(name):
        yield "", name, ""
    for prefix, word, suffix in _cut(name):
        if is_side(word):
            yield prefix, word, suffix


def _cut(name: str) -> Iterator[tuple[str, str, str]]:
    """A name of several words with each of them taken out: what stands before it, the word, and what stands behind."""
    words = name.split("_")
    for number, word in enumerate(words if len(words) > 1 else ()):
        yield "_".join(words[:number]), word, "_".join(words[number + 1 :])


def _split_by(name: str, marks: Collection[str]) -> Iterator[tuple[str, str, str]]:
    """The ways in which a name is one of several that have some marks, or such as copies have."""
    yield from dict.fromkeys([*_split(name), *(cut for cut in _cut(name) if cut[1] in marks)])


def _go_together(copies: Iterable[str]) -> bool:
    marks = {mark.lower() for mark in copies}
    if all(mark.isdigit() for mark in marks):
        return True
    return any(marks <= set(side.split()) for side in _SIDES)


def _order(mark: str) -> tuple[int, str]:
    return (int(mark), "") if mark.isdigit() else (0, "")


def _kind_that_begins(
    module: Module, prefix: str, marks: tuple[str, ...], fields: dict[str, tuple[Symbol, ...]]
) -> TwinKind:
    """A kind with all its attributes, or with those that begin alike, if they are enough."""
    kind = _kind(module, prefix, marks, fields)
    if kind.beginning is not None:
        return kind
    alone = {name: _kind(module, prefix, marks, {name: symbols}) for name, symbols in fields.items()}
    plain = {name: fields[name] for name, one in alone.items() if one.beginning is not None and one.beginning.pairs}
    less = _kind(module, prefix, marks, plain) if len(plain) >= _FEWEST_FIELDS else kind
    return less if less.beginning is not None else kind


def _kind(module: Module, prefix: str, marks: tuple[str, ...], fields: dict[str, tuple[Symbol, ...]]) -> TwinKind:
    """A kind with the functions that are alike; what calls one another must be alike together."""
    families = list(_families(module, marks))
    order = sorted(range(len(marks)), key=lambda n: fields[next(iter(fields))][n].references[0].start)
    marks = tuple(marks[n] for n in order)
    fields = {name: tuple(symbols[n] for n in order) for name, symbols in fields.items()}
    families = [tuple(family[n] for n in order) for family in families]
    while True:
        routines = {family[0].name: family for family in families}
        kind = TwinKind(module, prefix, marks, fields, routines)
        unlike = [family for family in families if _likeness(kind, family) is None]
        if not unlike:
            return kind
        families = [family for family in families if family not in unlike]


def _families(module: Module, marks: Sequence[str]) -> Iterator[tuple[Function, ...]]:
    found: dict[tuple[str, str], dict[str, Function]] = defaultdict(dict)
    for function in module.functions:
        for prefix, mark, suffix in _split_by(function.name, marks):
            found[prefix, suffix][mark] = function
    for copies in found.values():
        if set(copies) == set(marks):
            yield tuple(copies[mark] for mark in marks)


def _likeness(kind: TwinKind, family: Sequence[Function]) -> Likeness | None:
    """How functions are alike, if they are, and about nothing but their copy of the kind."""
    module = kind.module
    if any(function_obstacles(module, function) or function.is_postponed for function in family):
        return None
    for number, function in enumerate(family):
        if any(r.path for r in function.symbol.references) or _asks_when_defined(kind, function):
            return None
        others = {s for n in range(len(kind.marks)) if n != number for s in kind.copy_of(n)}
        used = {r.symbol for r in module.references_within(function.statement.span)}
        if used & others or not used & {symbols[number] for symbols in kind.fields.values()}:
            return None
    found = alike(module, [_span_of(function) for function in family], kind.mappings)
    if found is None or len(found.holes) > _MOST_CONSTANTS or any(_is_asked_early(family[0], h) for h in found.holes):
        return None
    # an error that names a local variable without a value would name another one
    return found if all(map(_has_value, found.renamed)) else None


def _is_asked_early(function: Function, hole: Hole) -> bool:
    """Whether a constant stands in a signature, which is read before there is an object."""
    return function.signature.start <= hole.constants[0].start < function.signature.end


def _has_value(local: Symbol) -> bool:
    """Whether a local name certainly has a value wherever it is read."""
    reads = [r for r in local.references if r.mode.reads]
    return Form.PARAMETER in local.forms or all(
        r.statement is not None and r.scope is local.scope and bound_before(r.statement, local) for r in reads
    )


def _asks_when_defined(kind: TwinKind, function: Function) -> bool:
    """Whether a function looks at the copies when it is defined, in a default."""
    own = set(kind.variables)
    return any(r.symbol in own and r.scope is not function.scope for r in function.statement.references)


def _span_of(function: Function) -> Span:
    return function.statement.span


def merged_name(kind: TwinKind, function: Function) -> str:
    """The name of the one function that takes the place of those that are alike."""
    naming = kind.module.dialect.naming
    for prefix, mark, suffix in _split_by(function.name, kind.marks):
        if mark in kind.marks:
            parts = [part.strip("_") for part in (prefix, suffix) if part.strip("_")]
            name = naming.joined(*parts)
            is_free = name not in kind.module.names_in_use and not kind.module.dialect.rules.is_taken(name)
            return name if is_free or not kind.noun else naming.joined(name, kind.noun)
    return function.name
