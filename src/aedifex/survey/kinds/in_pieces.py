"""Functions that are given several fields of one object, one by one."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.concurrency import runs_beside
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.absence import Absence
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.parameter_passing import run_before
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Scope
from aedifex.program.model.statements import Function, Parameter, ParameterKind
from aedifex.program.structure.obstacles import function_obstacles, is_hard_to_echo
from aedifex.program.structure.own_names import uses_own
from aedifex.survey.kinds.objects import ObjectCalls, class_of_objects
from aedifex.survey.kinds.walks import is_place

_FEWEST = 2
_OF_ONE = re.compile(r"(?P<letter>[a-z])_?[a-z]|[a-z]+_?(?P<number>\d)")
_OTHER = "other"
_ASKING = frozenset({Mode.READ, Mode.CALL})
_NAMING = frozenset({Sense.NAME, Sense.MEMBER})
_QUIET = frozenset(
    {
        *_NAMING,
        *(Sense.CONSTANT, Sense.NOTHING, Sense.TEXT, Sense.PART, Sense.LIST, Sense.TUPLE, Sense.CHOICE, Sense.EITHER),
        *(Sense.NOT, Sense.SAME, Sense.KIND, Sense.EQUAL, Sense.WITHIN, Sense.OPERATION, Sense.SUM),
    }
)
"""What changes nothing while it is worked out."""


@dataclass(frozen=True)
class Piece:
    """A parameter that is always given one field of an object, and the arguments that do so, call by call."""

    parameter: Parameter
    field: str
    arguments: tuple[Expression, ...]


@dataclass(frozen=True)
class InPieces:
    """A function that is given fields of one object, the parameters for these, and a name for that object in it."""

    function: Function
    pieces: tuple[Piece, ...]
    item: str


def in_pieces(module: Module, scope: Scope, item: str) -> Iterator[InPieces]:
    """The functions that could be given an object of a class, called `item`, in place of several of its fields.

    The fields are then asked for where they are used. That is the same where nothing that runs until the function is
    done gives them other values, and where there is certainly an object.
    """
    if module.hindrances or runs_beside(module):
        return
    finder = _Finder(module, scope)
    for function in module.functions:
        found = finder.found(function, item)
        if found is not None:
            yield found


class _Finder:
    def __init__(self, module: Module, scope: Scope) -> None:
        self.module = module
        self.scope = scope
        self.holdings = Holdings.of(module)
        self.calls = ObjectCalls.of(module)

    @cached_property
    def fields(self) -> set[str]:
        """The fields that every object of the class has from the begin, and for which it is asked by their names."""
        rules = self.module.dialect.rules
        if any(rules.customises_access(name) and not rules.is_constructor(name) for name in self.scope.symbols):
            return set()
        own = (f for f in self.module.all_functions if f.symbol.scope is self.scope and rules.is_constructor(f.name))
        constructor = next(own, None)
        if constructor is None or constructor.receiver is None:
            return set()
        return {
            reference.path[0].name or ""
            for reference in constructor.receiver.references
            if len(reference.path) == 1
            and reference.path_mode is not None
            and reference.path_mode.writes
            and reference.statement in constructor.body.statements
        } - self.scope.symbols.keys()

    def found(self, function: Function, item: str) -> InPieces | None:
        """What a function is given in pieces, if that could be handed over as a whole."""
        if not self.may_be_given_less(function):
            return None
        pieces = [piece for parameter in function.parameters if (piece := self.piece(function, parameter)) is not None]
        for group in self.of_one_object(pieces):
            wishes = (item, self.module.dialect.naming.joined(_OTHER, item))
            name = next((wish for wish in wishes if self.is_free(function, wish)), None)
            if len(group) < _FEWEST or name is None or self.is_part_of_family(function, group):
                continue
            if self.is_given_besides(function, group, pieces):
                continue
            if not self.may_change(function, group):
                return InPieces(function, tuple(group), name)
        return None

    def may_be_given_less(self, function: Function) -> bool:
        """Whether all that calls a function is seen, and gives it what it takes by places."""
        calls = self.calls.of_function(function)
        is_seen = calls and not self.calls.others.get(function) and not self.calls.bindings_of(function)
        if not is_seen or function.is_postponed or self.module.is_known_outside(function.name):
            return False
        if any(function_obstacles(self.module, function)) or any(name for call in calls for name in call.names):
            return False
        is_counted = bool(self.module.dialect.writer.declares) and uses_own(function)
        return not is_counted and all(self.is_quiet(part) for call in calls for part in call.parts[1:])

    @staticmethod
    def is_quiet(argument: Expression) -> bool:
        """Whether working an argument out changes nothing."""
        return all(part.sense in _QUIET for part in argument.walk())

    def piece(self, function: Function, parameter: Parameter) -> Piece | None:
        """What a parameter is given, if that is the same field of an object in all calls."""
        symbol, number = parameter.reference.symbol, 1 + function.parameters.index(parameter)
        is_plain = parameter.kind in (ParameterKind.PLAIN, ParameterKind.POSITIONAL_ONLY)
        if not is_plain or parameter.default is not None or parameter.annotation is not None:
            return None
        uses = [reference for reference in symbol.references if reference is not parameter.reference]
        if any(r.mode not in _ASKING or is_hard_to_echo(self.module, r) for r in uses):
            return None
        if any(use.scope.is_apart_from(function.scope) for use in uses):
            return None
        calls = self.calls.of_function(function)
        given = [call.parts[number] for call in calls if number < len(call.parts)]
        if len(given) < len(calls) or not all(map(self.is_field, given)):
            return None
        fields = {argument.name or "" for argument in given}
        return Piece(parameter, fields.pop(), tuple(given)) if len(fields) == 1 else None

    def is_field(self, argument: Expression) -> bool:
        """Whether an argument is a field that an object of the class has, and the object is named."""
        if argument.sense is not Sense.MEMBER or argument.name not in self.fields:
            return False
        owner = argument.parts[0]
        if not all(part.sense in _NAMING for part in owner.walk()):
            return False
        is_plain = self.module.source.slice(argument.span) == f"{self.module.source.slice(owner.span)}.{argument.name}"
        is_there = not Absence.of(self.module).may_be_absent(owner)
        return (
            is_plain and is_there and class_of_objects(self.holdings, self.holdings.of_expression(owner)) is self.scope
        )

    def of_one_object(self, pieces: Sequence[Piece]) -> list[list[Piece]]:
        """Pieces by the objects that they are of, which are named alike in each call."""
        groups: dict[tuple[str, ...], list[Piece]] = {}
        for piece in pieces:
            owners = tuple(self.module.source.slice(argument.parts[0].span) for argument in piece.arguments)
            groups.setdefault(owners, []).append(piece)
        return list(groups.values())

    @staticmethod
    def is_part_of_family(function: Function, group: Sequence[Piece]) -> bool:
        """Whether parameters are some of those that a letter or a number says are of one thing: `ax` of `ax`, `aw`.

        That tells something where there are several such things.
        """
        families: dict[str, list[Parameter]] = {}
        for parameter in function.parameters:
            told = _OF_ONE.fullmatch(parameter.name)
            if told is not None:
                families.setdefault(told["number"] or told["letter"], []).append(parameter)
        own = {piece.parameter for piece in group}
        several = [family for family in families.values() if len(family) > 1]
        return len(several) > 1 and any(own & {*family} and not own >= {*family} for family in several)

    def is_given_besides(self, function: Function, group: Sequence[Piece], pieces: Sequence[Piece]) -> bool:
        """Whether a call gives something else that has to do with the object, or the same fields of another at times.

        The function is about a place beside the object then, `ferry.y - 30`, or about several such things. What is a
        field of another object in all calls, as the other `pieces` are, is no such thing.
        """
        fields, taken = {piece.field for piece in group}, {piece.parameter for piece in pieces}
        numbers = [n for n, parameter in enumerate(function.parameters, 1) if parameter not in taken]
        for number, call in enumerate(self.calls.of_function(function)):
            owner = self.module.source.slice(group[0].arguments[number].parts[0].span)
            others = [call.parts[n] for n in numbers if n < len(call.parts)]
            if any(argument.name in fields and self.is_field(argument) for argument in others):
                return True
            inside = (part for argument in others for part in argument.walk() if part.sense in _NAMING)
            if any(self.module.source.slice(part.span) == owner for part in inside):
                return True
        return False

    def is_free(self, function: Function, name: str) -> bool:
        """Whether a name means nothing in a function."""
        scopes = list(function.scope.walk())
        named = any(use.name == name for scope in scopes for use in scope.uses)
        return not named and not any(name in scope.symbols for scope in scopes)

    def may_change(self, function: Function, group: Sequence[Piece]) -> bool:
        """Whether a field of such a name may get another value until a function is done."""
        fields, effects = {piece.field for piece in group}, Effects.of(self.module)
        uses = [use for piece in group for use in piece.parameter.reference.symbol.references]
        run = {function, *effects.reached_from([function]), *run_before(effects, function, uses)}
        scopes = [routine.scope for routine in run if routine is not None]
        return None in run or any(s.start <= at < s.end for at in self.places_of(fields) for s in scopes)

    def places_of(self, fields: Collection[str]) -> Iterator[int]:
        """Where something gets a value, or loses it, that may be a field of such a name."""
        surroundings = Surroundings.of(self.module)
        members = (
            e for tree in surroundings.trees for e in tree.walk() if e.sense is Sense.MEMBER and e.name in fields
        )
        yield from (e.start for e in members if is_place(surroundings, e))
        for reference in self.module.references:
            mode = reference.path_mode
            if mode is not None and mode.writes and reference.path and reference.path[-1].name in fields:
                yield reference.start
