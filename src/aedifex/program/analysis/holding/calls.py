"""What becomes of the arguments of calls: they go to parameters, into containers, or to code that no one can see."""

from __future__ import annotations

from dataclasses import dataclass, field

from aedifex.program.analysis.holding.holding import Holding, Trace, Whole, give_away, join, lose
from aedifex.program.analysis.holding.places import AT, KEY, Places
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import CALLING, Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.names import AccessKind, Mode, Origin, Reference, Scope, ScopeKind
from aedifex.program.model.statements import ParameterKind, Routine

_OF_KIND = frozenset(Handling) - {
    *(Handling.LOOKS, Handling.COUNTS, Handling.UP_TO, Handling.ADDS, Handling.INSERTS, Handling.ITEMS, Handling.KEYS),
    Handling.BINDS,
}
"""What means another thing for a table than for a list."""
_BY_PLACE = frozenset({ParameterKind.PLAIN, ParameterKind.POSITIONAL_ONLY, ParameterKind.PATTERN})


@dataclass(eq=False)
class Call:
    """A call that waits until it is known what is called, with the routines and classes that it was bound to.

    `is_called_back` marks the call that a library makes of what it was given; `gets_more` tells that it gives more than
    the arguments.
    """

    expression: Expression
    callee: Holding
    owner: Holding | None
    arguments: list[tuple[str, Holding]]
    result: Holding
    is_called_back: bool = False
    gets_more: bool = False
    bound: set[object] = field(default_factory=set)
    is_done: bool = False


class Calls:
    """The calls of one file."""

    def __init__(self, places: Places) -> None:
        self.places = places
        self.library = places.module.dialect.library
        self.surroundings = Surroundings.of(places.module)
        self.pending: list[Call] = []
        self.written: list[tuple[Holding, Expression]] = []
        self.asked: dict[Reference, list[Holding]] = {}
        self.own_members = {name for scope in places.module.classes for name in scope.symbols}

    def bind(self, *, is_last: bool) -> bool:
        """Bind all calls to what is known by now to be called; answers whether that was more than before."""
        return any([self._bind_call(call, is_last=is_last) for call in list(self.pending)])

    def _bind_call(self, call: Call, *, is_last: bool) -> bool:
        callee = call.callee.now
        progress = False
        targets: list[Routine | Scope] = [*callee.routines, *callee.makers]
        for target in targets:
            if target not in call.bound:
                call.bound.add(target)
                progress = True
                self._bind_to(call, target)
        if call.is_done or (call.bound and not callee.foreign):
            return progress
        if self._rebuilds(call):
            call.is_done = True
            return True
        handling = self._handling(call)
        is_own = call.owner is not None and call.owner.now.classes
        if handling is not None and not is_own and not call.bound:
            subject = self._subject(call).now
            is_known = bool(subject.is_table or subject.element or subject.rows or subject.foreign)
            if (handling in _OF_KIND or self._may_be_own(call)) and not (is_known or is_last):
                return progress
            call.is_done = True
            self._handle(call, handling)
            return True
        if is_last:
            call.is_done = True
            self._call_anything(call)
            return True
        return progress

    def _bind_to(self, call: Call, target: Routine | Scope) -> None:
        if isinstance(target, Scope):
            join(call.result, self.places.instance_of(target))
            constructor = self.places.constructor_of(target)
            if constructor is not None:
                self._pass(call, constructor, is_bound=True)
            elif target in self.places.fields:
                self._fill(call, target)
            elif call.arguments:
                self._call_anything(call)
            return
        is_bound = target.receiver is not None and call.owner is not None and bool(call.owner.now.classes)
        self._pass(call, target, is_bound=is_bound)
        if target.is_postponed:
            give_away(call.result, Trace(call.expression.start, "comes from what runs on later"))
            lose(self.places.result_of(target), Trace(call.expression.start, "is given back later"))
        else:
            join(call.result, self.places.result_of(target))

    def _fill(self, call: Call, scope: Scope) -> None:
        """A constructor that a library has written gives each field its value."""
        fields, instance = self.places.fields[scope], self.places.instance_of(scope)
        for number, (name, value) in enumerate(call.arguments):
            field = name or (fields[number] if number < len(fields) else "")
            if field in fields:
                join(instance.now.part(self.places.member(field)), value)
            else:
                lose(value, Trace(call.expression.start, "is passed with others in a row"))

    def _rebuilds(self, call: Call) -> bool:
        """Whether a call gives an object like the one it is about, with other values in some fields; bind it then."""
        callee = call.expression.parts[0]
        if call.owner is not None and callee.name is not None and self.library.rebuilds_record(callee.name):
            subject, rest = call.owner.now, call.arguments
        elif callee.reference is not None and self.library.copies_record(callee.reference) and call.arguments:
            subject, rest = call.arguments[0][1].now, call.arguments[1:]
        else:
            return False
        fields = [self.places.fields.get(scope) for scope in subject.classes]
        if len(fields) != 1 or fields[0] is None or not all(name in fields[0] for name, _ in rest):
            return False
        join(call.result, subject)
        for name, value in rest:
            join(subject.now.part(self.places.member(name)), value)
        return True

    def _pass(self, call: Call, routine: Routine, *, is_bound: bool) -> None:
        """What a call gives goes to the parameters; a receiver among these `is_bound` already, or given as well."""
        is_receiver = [p.reference.symbol is routine.receiver for p in routine.parameters[:1]]
        parameters = routine.parameters[is_bound and any(is_receiver) :]
        plain = [p for p in parameters if p.kind in _BY_PLACE]
        by_name = {p.name: p for p in parameters if p.kind in (ParameterKind.PLAIN, ParameterKind.KEYWORD_ONLY)}
        is_loose = any(p.kind in (ParameterKind.REST, ParameterKind.KEYWORD_REST) for p in parameters)
        is_loose = is_loose or any(name in ("*", "**") for name, _ in call.arguments)
        trace = Trace(call.expression.start, "is passed with others in a row")
        if is_loose:
            for _, value in call.arguments:
                lose(value, trace)
            self.places.open(routine, trace)
            return
        for number, (name, value) in enumerate(call.arguments):
            parameter = by_name.get(name) if name else plain[number] if number < len(plain) else None
            if parameter is not None and parameter.keys:
                for key, reference in parameter.keys:
                    join(self.places.of_symbol(reference.symbol), value.now.part(self.places.member(key)))
            elif parameter is not None and parameter.kind is ParameterKind.PATTERN:
                lose(value, Trace(call.expression.start, "is taken apart where it is given"))
            elif parameter is None and not call.is_called_back:
                lose(value, trace)
            elif parameter is not None and self._only_writes(parameter.reference):
                self.written.append((value, call.expression))
            elif parameter is not None and (members := self._asks_only(parameter.reference)):
                self.asked.setdefault(parameter.reference, []).append(value)
                for member in map(self.places.member, members):
                    join(self.places.of_symbol(parameter.reference.symbol).part(member), value.now.part(member))
            elif parameter is not None:
                join(self.places.of_symbol(parameter.reference.symbol), value)
        if call.gets_more:
            for parameter in parameters[len(call.arguments) :]:
                holding = self.places.of_symbol(parameter.reference.symbol)
                holding.foreign = holding.foreign or trace
            lose(self.places.result_of(routine), trace)

    def settle_asked(self) -> None:
        """What a routine only asks for members may be of several sorts, which stay apart; those of one are alike."""
        for parameter, values in self.asked.items():
            holding = self.places.of_symbol(parameter.symbol)
            if len({_sort_of(value.now) for value in values}) == 1:
                for value in values:
                    join(holding, value)
            else:
                trace = Trace(parameter.start, "may be of several sorts")
                holding.foreign = holding.foreign or trace

    def _asks_only(self, parameter: Reference) -> set[str]:
        """The members that a routine asks what it is given for; none where it does anything else with that."""
        uses = [r for r in parameter.symbol.references if r is not parameter]
        return {r.path[0].name or "" for r in uses} if all(map(_is_asked, uses)) else set()

    def _only_writes(self, parameter: Reference) -> bool:
        """Whether a routine writes down what it is given, and asks for no more than whether there is anything."""
        uses = [r for r in parameter.symbol.references if r is not parameter]
        left = [use for use in uses if not self._is_written(use)]
        return len(left) < len(uses) and all(map(self._is_asked_whether, left))

    def _is_asked_whether(self, use: Reference) -> bool:
        """Whether a name is compared with nothing at all, or decides what a choice gives."""
        name = self.surroundings.of_reference(use)
        around = self.surroundings.around(name) if name is not None and not use.binds and not use.path else None
        if around is None or name is None:
            return False
        others = [part for part in around.parts if part is not name]
        is_compared = around.sense in (Sense.SAME, Sense.EQUAL) and all(p.sense is Sense.NOTHING for p in others)
        return is_compared or (around.sense is Sense.CHOICE and around.parts[0] is name)

    def _is_written(self, use: Reference) -> bool:
        """Whether a name is all that a call is given which writes it down, but for how that is done."""
        name = self.surroundings.of_reference(use)
        call = self.surroundings.around(name) if name is not None and not use.binds and not use.path else None
        if call is None or call.sense is not Sense.CALL or len(call.parts) == 1 or call.parts[1] is not name:
            return False
        callee = call.parts[0]
        is_member = callee.sense is Sense.MEMBER and callee.name not in self.own_members
        is_plain = all(part.sense in (Sense.CONSTANT, Sense.NOTHING) for part in call.parts[2:])
        return is_member and is_plain and self.library.handling_by_method(callee.name or "") is Handling.WRITES

    def _may_be_own(self, call: Call) -> bool:
        """Whether a class of the script has a method of the name that is called on an object."""
        return call.owner is not None and call.expression.parts[0].name in self.own_members

    def _handling(self, call: Call) -> Handling | None:
        callee = call.expression.parts[0]
        if call.is_called_back:
            return None
        if call.owner is not None and callee.name is not None:
            base = callee.parts[0].reference
            if base is not None and base.symbol.imported is not None:
                return self.library.handling_by_function(callee.name)
            handling = self.library.handling_by_method(callee.name)
            if self._is_of_builtin(call) and base is not None and handling is not Handling.WRITES:
                is_alone = len(call.arguments) == 1  # it is about what it is given
                return self.library.handling_by_function(f"{base.name}.{callee.name}") if is_alone else None
            return handling
        reference = callee.reference
        if reference is None or not (reference.symbol.imported or reference.symbol.scope.kind is ScopeKind.OUTSIDE):
            return None
        return self.library.handling_by_function(reference.name)

    def _call_anything(self, call: Call) -> None:
        """A call of code that no one can see."""
        callee = call.expression.parts[0]
        name = callee.name or (callee.reference.name if callee.reference is not None else "")
        trace = Trace(call.expression.start, f"is handed to `{name}`" if name else "is handed over")
        for _, value in call.arguments:
            lose(value, trace)
        if call.owner is not None and self.library.may_hand_elements_on(name):
            lose(call.owner, Trace(call.expression.start, f"takes part in `{name}`"))
        give_away(call.result, Trace(call.expression.start, f"comes from `{name}`" if name else "comes from a call"))

    def _write_down(self, call: Call) -> None:
        """What a function is given is written down, but for what it calls back."""
        trace = Trace(call.expression.start, "is handed over")
        if any(value.now.routines for _, value in call.arguments[1:]):
            self._call_anything(call)
            return
        for name, value in call.arguments:
            if name and self.library.calls_back(name):
                lose(value, trace)
            else:
                self.written.append((value, call.expression))
        give_away(call.result, Trace(call.expression.start, "is what was written down"))

    def _handle(self, call: Call, handling: Handling) -> None:
        expression = call.expression
        plain = [value for name, value in call.arguments if not name]
        if any(name in ("*", "**") for name, _ in call.arguments):
            self._call_anything(call)
            return
        if handling is Handling.WRITES:
            self._write_down(call)
            return
        subject, rest = self._subject(call), plain if self._is_method(call) else plain[1:]
        place = expression.parts[0].parts[0] if self._is_method(call) else expression.parts[1:2] or [expression]
        place = place[0] if isinstance(place, list) else place
        self._call_back(call, subject)
        if self._is_of_builtin(call) and handling in (Handling.KEYS, Handling.VALUES, Handling.ITEMS):
            if _is_like_record(subject.now):
                self._call_anything(call)
                return
            subject.now.wholes.append((Whole.LOOK, place))
        if handling in CALLING and rest and self._is_method(call):
            self._call_with_elements(call, handling, subject, rest)
            return
        if self._handle_plainly(call, handling, subject, rest, place):
            return
        element = subject.now.any_element()
        if handling in (Handling.SAME, Handling.SORTS):
            join(call.result.now.any_element(), self.places.walked(subject))
        elif handling in (Handling.VALUES, Handling.COPIES):
            join(call.result.now.any_element(), element)
        elif handling in (Handling.ELEMENT, Handling.TAKES):
            join(call.result, self.places.walked(subject) if handling is Handling.ELEMENT else element)
            for other in rest:
                join(call.result, other)
        elif handling is Handling.NUMBERED:
            self._pair(call.result, Holding(), self.places.walked(subject))
        elif handling is Handling.SIDE_BY_SIDE:
            row = Holding()
            for number, holding in enumerate(plain):
                join(row.part(f"{AT}{number}"), self.places.walked(holding))
            join(call.result.now.any_element(), row)
        elif handling is Handling.ADDS:
            self._add(subject, rest[:1], rest[1:], place)
        elif handling is Handling.SPLICES:
            self._add(subject, rest[2:], [], place)
            join(call.result.now.any_element(), element)
        elif handling is Handling.INSERTS:
            self._add(subject, rest[1:2], rest[:1] + rest[2:], place)
        elif handling is Handling.ADDS_ALL:
            for other in rest:
                join(subject.now.any_element(), self.places.walked(other))
        elif handling is Handling.COMPARES:
            subject.now.any_element().wholes.append((Whole.EQUALITY, place))
            for other in rest[:1]:
                other.now.wholes.append((Whole.EQUALITY, place))
                join(subject.now.any_element(), other)
        elif handling is Handling.ITEMS:
            self._pair(call.result, subject.now.any_key(), element)

    def _call_with_elements(self, call: Call, handling: Handling, subject: Holding, rest: list[Holding]) -> None:
        """A method calls what it is given: with an element, its place and the container, or with two elements."""
        gives_pairs, result = subject.now.gives_pairs, Holding()
        element = subject.now.any_element() if gives_pairs else self.places.walked(subject)
        given = [element, subject.now.any_key() if gives_pairs else Holding(), subject]
        if handling is Handling.SORTS:
            given = [element, element]
        elif handling is Handling.FOLDS:
            given = [result, *given]
            for first in rest[1:] or [element]:
                join(result, first)
        self.pending.append(Call(call.expression, rest[0], None, [("", value) for value in given], result, True))
        if handling in (Handling.FINDS, Handling.FOLDS):
            join(call.result, element if handling is Handling.FINDS else result)
        elif handling is not Handling.EACH:
            join(call.result.now.any_element(), result if handling is Handling.MAPPED else element)

    def _handle_plainly(
        self, call: Call, handling: Handling, subject: Holding, rest: list[Holding], place: Expression
    ) -> bool:
        """What does not make all elements of the container alike."""
        plain = [value for name, value in call.arguments if not name]
        if handling in (Handling.LOOKS, Handling.COUNTS, Handling.UP_TO):
            subject.now.wholes.append((Whole.LOOK, place))
            if rest and handling is Handling.LOOKS:  # as what a sum begins with
                self._call_anything(call)
        elif handling is Handling.MAKES_PAIRS:
            for argument in plain[:1]:
                pair = self.places.walked(argument)
                join(call.result.now.any_key(), pair.now.part(f"{AT}0"))
                join(call.result.now.any_element(), pair.now.part(f"{AT}1"))
        elif handling in (Handling.MAKES, Handling.MAKES_GROUP):
            if plain:
                join(call.result.now.any_element(), self.places.walked(plain[0]))
            elif call.arguments:
                self._call_anything(call)
        elif handling is Handling.BINDS:
            given = [argument for argument in call.arguments if argument[1] is not subject]
            self.pending.append(Call(call.expression, subject, None, given, Holding(), True, True))
        elif handling is Handling.MAPPED or handling is Handling.SIFTED:
            routine, *walked = plain or [Holding()]
            elements = [self.places.walked(holding) for holding in walked]
            result = Holding()
            self.pending.append(Call(call.expression, routine, None, [("", e) for e in elements], result, True))
            join(call.result.now.any_element(), result if handling is Handling.MAPPED or not elements else elements[0])
        elif handling is Handling.REBINDS:
            self._rebind(call, subject, rest)
        elif handling is Handling.LOOKS_UP:
            self._look_up(call, subject, rest)
        elif handling is Handling.KEYS:
            subject.now.is_table |= not self.places.module.dialect.rules.keys_are_members
            subject.now.any_element()
            join(call.result.now.any_element(), subject.now.any_key())
        elif handling in (Handling.ARRANGES, Handling.EMPTIES):
            subject.now.any_element()
        elif handling is Handling.COPIES and subject.now.is_table and subject.now.element is None:
            subject.now.wholes.append((Whole.COPY, call.expression))
            join(call.result, subject)
        else:
            return False
        return True

    def _subject(self, call: Call) -> Holding:
        """What a function of the library works on."""
        if call.owner is not None and self._is_method(call):
            return call.owner
        return next((value for name, value in call.arguments if not name), Holding())

    def _is_method(self, call: Call) -> bool:
        if call.owner is None or self._is_of_builtin(call):
            return False
        base = call.expression.parts[0].parts[0].reference
        return base is None or base.symbol.imported is None

    @staticmethod
    def _is_of_builtin(call: Call) -> bool:
        """Whether a function is called that belongs to something of the language itself, under its name."""
        callee = call.expression.parts[0]
        base = callee.parts[0].reference if callee.sense is Sense.MEMBER else None
        is_name = callee.sense is Sense.MEMBER and callee.parts[0].sense is Sense.NAME
        return is_name and base is not None and base.symbol.origin is Origin.BUILTIN

    def _add(self, container: Holding, added: list[Holding], others: list[Holding], place: Expression) -> None:
        for holding in added:
            join(container.now.any_element(), holding)
        for holding in others:
            lose(holding, Trace(place.start, "is handed over"))

    def _pair(self, container: Holding, first: Holding, second: Holding) -> None:
        row = Holding()
        join(row.part(f"{AT}0"), first)
        join(row.part(f"{AT}1"), second)
        join(container.now.any_element(), row)

    def _rebind(self, call: Call, subject: Holding, rest: list[Holding]) -> None:
        """A routine comes back with an object of its own, which its class knows anyway if it is a method of that."""
        routines = subject.now.routines
        trace = Trace(call.expression.start, "is bound to a function")
        for number, value in enumerate(rest):
            receivers = [r.receiver and self.places.of_symbol(r.receiver) for r in routines]
            if number > 0 or not receivers or any(receiver is not value.now for receiver in receivers):
                lose(value, trace)
        for routine in routines if len(rest) > 1 else ():
            self.places.open(routine, trace)
        join(call.result, subject)

    def _look_up(self, call: Call, subject: Holding, rest: list[Holding]) -> None:
        key = call.expression.parts[1] if len(call.expression.parts) > 1 else None
        name = key.name if key is not None and key.sense is Sense.CONSTANT else None
        if name is None:
            held = subject.now.any_element()
        else:
            subject.now.wholes.append((Whole.LOOKUP, call.expression))
            held = subject.now.part(KEY + name)
        join(call.result, held)
        for other in rest[1:]:
            join(call.result, other)

    def _call_back(self, call: Call, subject: Holding) -> None:
        """What a function of the library is given to call: with the elements of what it works on."""
        for name, value in call.arguments:
            if not name:
                continue
            if self.library.calls_back(name):
                element = self.places.walked(subject)
                self.pending.append(Call(call.expression, value, None, [("", element)], Holding(), True))
            if not value.now.routines:
                join(call.result, value)


def _is_like_record(holding: Holding) -> bool:
    """Whether something is written out under plain keys, and holds nothing that holds others."""
    held = [part.now for part in holding.parts.values()]
    return bool(holding.tables) and holding.element is None and not any(p.tables or p.classes for p in held)


def _is_asked(use: Reference) -> bool:
    """Whether a name stands there to be asked for a member, which is not called, and gets no value."""
    if not use.path or use.path[0].kind is not AccessKind.ATTRIBUTE or use.binds:
        return False
    return len(use.path) > 1 or use.path_mode is Mode.READ


def _sort_of(holding: Holding) -> object:
    """What tells sorts of things apart: the keys of the tables, the classes; what comes from elsewhere is its own."""
    keys = frozenset(frozenset(table.names) for table in holding.tables)
    is_plain = bool(keys or holding.classes) and holding.foreign is None
    return (keys, frozenset(holding.classes)) if is_plain else holding
