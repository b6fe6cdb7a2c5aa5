"""Which places of a file may hold the same objects.

All values that flow into one another share one holding, whatever the order in which that happens (B. Steensgaard,
"Points-to analysis in almost linear time", 1996). What is not understood is taken for code that may do anything with
what it gets, and may give back anything.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.holding.holding import Holding, Trace, Whole, join, spread
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Function, ParameterKind, Routine

_UNBOUND_FORMS = frozenset({Form.ROUTINE, Form.CLASS, Form.PARAMETER, Form.DECLARATION, Form.ANNOTATION, Form.QUOTED})
KEY, AT, MEMBER = "key:", "at:", "."


@dataclass(eq=False)
class _Pending:
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


class Holdings(Analysis):
    """The holdings of one file: `of_expression` and `of_symbol` answer; nothing is changed by asking."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.library = module.dialect.library
        self.symbols: dict[Symbol, Holding] = {}
        self.results: dict[Routine, Holding] = {}
        self.instances: dict[Scope, Holding] = {}
        self.known: dict[Expression, Holding] = {}
        self.trees = Surroundings.of(module).trees
        self._pending: list[_Pending] = []
        self._loops: list[tuple[Holding, Holding]] = []
        self._within: list[tuple[Holding, Expression]] = []
        self._visited: set[Reference] = set()
        self._lambdas = {r.scope.start: r for r in module.routines if not isinstance(r, Function)}
        self._functions = sorted(module.all_functions, key=lambda f: f.statement.start)
        self._senses: dict[Sense, Callable[[Expression], Holding]] = {
            Sense.NAME: self._name,
            Sense.MEMBER: self._member,
            Sense.PART: self._part,
            Sense.SLICE: self._slice,
            Sense.CALL: self._call,
            Sense.LIST: self._row,
            Sense.TUPLE: self._row,
            Sense.GROUP: self._row,
            Sense.TABLE: self._table,
            Sense.EACH: self._each,
            Sense.CHOICE: self._choice,
            Sense.EITHER: self._joined,
            Sense.NOT: self._truth,
            Sense.SAME: self._looked_at,
            Sense.EQUAL: self._equal,
            Sense.WITHIN: self._is_within,
            Sense.SUM: self._joined,
            Sense.FUNCTION: self._function,
            Sense.NAMED: self._set,
            Sense.SET: self._set,
            Sense.UPDATE: self._update,
            Sense.WALK: self._walk,
            Sense.TEST: self._truth,
            Sense.RETURN: self._return,
            Sense.DELETE: self._delete,
            Sense.ALONE: self._looked_at,
            Sense.NOTHING: lambda _: Holding(is_optional=True),
            Sense.CONSTANT: lambda _: Holding(),
        }
        self._define()
        for tree in self.trees:
            self.value(tree)
        self._solve()
        self._doubt_unseen()
        self._settle()

    # -- questions

    def of_symbol(self, symbol: Symbol) -> Holding:
        """What a name may mean."""
        return self.symbols.setdefault(symbol, Holding(symbols={symbol: None})).now

    def of_expression(self, expression: Expression) -> Holding:
        """What an expression may give."""
        return self.known[expression].now

    def result_of(self, routine: Routine) -> Holding:
        """What a routine may give back."""
        return self.results.setdefault(routine, Holding()).now

    def instance_of(self, scope: Scope) -> Holding:
        """The objects of a class."""
        return self.instances.setdefault(scope, Holding(classes={scope: None})).now

    def everything(self) -> list[Holding]:
        """All holdings, each once."""
        found = [*self.symbols.values(), *self.results.values(), *self.instances.values(), *self.known.values()]
        return list(dict.fromkeys(holding.now for holding in found))

    def routine_around(self, offset: int) -> Function | None:
        """The innermost function around a place."""
        around = [f for f in self._functions if f.statement.start <= offset < f.statement.end]
        return max(around, key=lambda f: f.statement.start, default=None)

    # -- definitions

    def _define(self) -> None:
        for function in self.module.all_functions:
            self.of_symbol(function.symbol).routines[function] = None
            is_open = function.is_called_from_outside or bool(function.statement.decorators)
            if function.is_method:
                home = function.symbol.scope
                self.instance_of(home).part(MEMBER + function.name).routines[function] = None
                if function.receiver is not None:
                    join(self.instance_of(home), self.of_symbol(function.receiver))
                is_open = is_open or self.module.dialect.rules.has_meaning(function.name)
                is_open = is_open and not self.module.dialect.rules.is_constructor(function.name)
            if is_open:
                self._open(function, Trace(function.named.start, f"`{function.name}` is called from elsewhere"))
        for scope in self.module.scope.walk():
            if scope.kind is ScopeKind.CLASS:
                self._define_class(scope)
        for name, place in self.module.used_elsewhere.items():
            symbol = self.module.scope.symbols.get(name)
            if symbol is not None:
                here = symbol.references[0].start if symbol.references else 0
                self._give_away(self.of_symbol(symbol), Trace(here, f"`{name}` is used by {place}"))

    def _define_class(self, scope: Scope) -> None:
        statement = next((s for s in self.module.walk() if s.defines is scope), None)
        named = next((r for r in statement.references if r.form is Form.CLASS), None) if statement else None
        if statement is None or named is None:
            return
        self.of_symbol(named.symbol).makers[scope] = None
        for name, symbol in scope.symbols.items():
            join(self.instance_of(scope).part(MEMBER + name), self.of_symbol(symbol))
        bases = [
            r for r in statement.references if r.mode.reads and not self.module.dialect.rules.is_root_class(r.name)
        ]
        if bases or statement.decorators:
            trace = Trace(statement.start, f"{scope.name} has a base or a decorator")
            self._give_away(self.instance_of(scope), trace)
            for function in self.module.all_functions:
                if function.symbol.scope is scope:
                    self._open(function, trace)

    def _open(self, routine: Routine, trace: Trace) -> None:
        """Let a routine be called by code that no one can see."""
        for parameter in routine.parameters:
            if parameter.reference.symbol is not routine.receiver:
                holding = self.of_symbol(parameter.reference.symbol)
                holding.foreign = holding.foreign or trace
        self._lose(self.result_of(routine), trace)

    @staticmethod
    def _lose(holding: Holding, trace: Trace) -> None:
        holding = holding.now
        holding.lost = holding.lost or trace

    def _give_away(self, holding: Holding, trace: Trace) -> None:
        self._lose(holding, trace)
        holding.now.foreign = holding.now.foreign or trace

    # -- expressions

    def value(self, expression: Expression) -> Holding:
        """Follow the values of an expression, and answer what it gives."""
        handler = self._senses.get(expression.sense, self._unknown)
        found = handler(expression)
        self.known[expression] = found
        return found.now

    def _values(self, expressions: Sequence[Expression]) -> list[Holding]:
        return [self.value(expression) for expression in expressions]

    def _unknown(self, expression: Expression) -> Holding:
        for part in expression.parts:
            trace = Trace(part.start, "is used here in a way that no object could be")
            found = self.value(part)
            if part.reference is not None and part.reference.binds:
                self._give_away(found, trace)
            else:
                self._lose(found, trace)
        if expression.sense in (Sense.OPERATION, Sense.TEXT):
            return Holding()  # a number, a text or a truth: what may be more was lost on the way in
        return Holding(foreign=Trace(expression.start, "comes from an expression that is not followed"))

    def _name(self, expression: Expression) -> Holding:
        reference = expression.reference
        if reference is None:
            return Holding(foreign=Trace(expression.start, "is not followed"))
        self._visited.add(reference)
        symbol = reference.symbol
        found = self.of_symbol(symbol)
        is_outside = symbol.scope.kind is ScopeKind.OUTSIDE or symbol.imported is not None
        if is_outside and found.foreign is None:
            self._give_away(found, Trace(expression.start, f"`{symbol.name}` comes from outside"))
        return found

    def _member(self, expression: Expression) -> Holding:
        return self.value(expression.parts[0]).now.part(MEMBER + (expression.name or ""))

    def _part(self, expression: Expression) -> Holding:
        container, *keys = self._values(expression.parts)
        container = container.now
        if expression.name is None:
            key = keys[0] if len(keys) == 1 else Holding()
            join(container.any_key(), key)
            return container.any_element()
        container.accesses.append(expression)
        is_number = expression.parts[1].end - expression.parts[1].start == len(expression.name)
        return container.part((AT if is_number else KEY) + expression.name)

    def _slice(self, expression: Expression) -> Holding:
        container = self.value(expression.parts[0])
        self._values(expression.parts[1:])
        container.now.any_element()
        return container.now

    def _row(self, expression: Expression) -> Holding:
        holding = Holding(rows=[expression])
        for number, part in enumerate(expression.parts):
            if part.sense is Sense.SPREAD:
                join(holding.any_element(), self.value(part.parts[0]).now.any_element())
                self.known[part] = holding
            elif expression.sense is Sense.TUPLE:
                join(holding.part(f"{AT}{number}"), self.value(part))
            else:
                join(holding.any_element(), self.value(part))
        if expression.sense is not Sense.TUPLE:
            holding.now.any_element()
        return holding

    def _table(self, expression: Expression) -> Holding:
        holding = Holding(tables=[expression], is_table=True)
        if None in expression.names:
            holding.any_element()
        for name, key, part in zip(expression.names, expression.parts[::2], expression.parts[1::2], strict=True):
            join(holding.any_key(), self.value(key))
            join(holding.part(KEY + name) if name is not None else holding.now.any_element(), self.value(part))
        return holding

    def _each(self, expression: Expression) -> Holding:
        walks = [part for part in expression.parts if part.sense in (Sense.WALK, Sense.TEST)]
        made = [part for part in expression.parts if part not in walks]
        self._values(walks)
        holding = Holding(is_table=expression.name is not None)
        if expression.name is not None:
            join(holding.any_key(), self.value(made[0]))
        join(holding.any_element(), self.value(made[-1]))
        return holding

    def _choice(self, expression: Expression) -> Holding:
        condition, *others = expression.parts
        self._asked(self.value(condition), condition)
        first, second = self._values(others)
        join(first, second)
        return first.now

    def _joined(self, expression: Expression) -> Holding:
        first, *others = self._values(expression.parts)
        for part, holding in zip(expression.parts, [first, *others], strict=True):
            if expression.sense is Sense.EITHER:
                self._asked(holding, part)
            else:
                holding.now.wholes.append((Whole.LOOK, part))
        for other in others:
            join(first, other)
        return first.now

    def _truth(self, expression: Expression) -> Holding:
        for part in expression.parts:
            self._asked(self.value(part), part)
        return Holding()

    @staticmethod
    def _asked(holding: Holding, expression: Expression) -> None:
        holding.now.wholes.append((Whole.TRUTH, expression))

    def _looked_at(self, expression: Expression) -> Holding:
        self._values(expression.parts)
        return Holding()

    def _equal(self, expression: Expression) -> Holding:
        found = self._values(expression.parts)
        if not any(part.sense in (Sense.NOTHING, Sense.CONSTANT) for part in expression.parts):
            for part, holding in zip(expression.parts, found, strict=True):
                holding.now.wholes.append((Whole.EQUALITY, part))
                join(found[0], holding)
        return Holding()

    def _is_within(self, expression: Expression) -> Holding:
        one, container = self._values(expression.parts)
        one.now.wholes.append((Whole.EQUALITY, expression.parts[0]))
        container.now.wholes.append((Whole.LOOK, expression.parts[1]))
        self._within.append((container, expression))
        return Holding()

    def _function(self, expression: Expression) -> Holding:
        routine = self._lambdas.get(expression.start)
        body, *defaults = expression.parts
        result = self.value(body)
        for default in defaults:
            self._lose(self.value(default), Trace(default.start, "is the default of a parameter"))
        if routine is None:
            self._lose(result, Trace(body.start, "is given back by what is not followed"))
            return Holding(foreign=Trace(expression.start, "is not followed"))
        if any(p.default is not None for p in routine.parameters):
            self._open(routine, Trace(expression.start, "has defaults"))
        join(self.result_of(routine), result)
        return Holding(routines={routine: None})

    # -- statements

    def _set(self, expression: Expression) -> Holding:
        *targets, value = expression.parts
        found = self.value(value)
        for target in targets:
            self._bind(target, found)
        return found.now

    def _bind(self, target: Expression, value: Holding) -> None:
        if target.sense in (Sense.TUPLE, Sense.LIST):
            self.known[target] = value
            starred = any(part.sense is Sense.SPREAD for part in target.parts)
            for number, part in enumerate(target.parts):
                if part.sense is Sense.SPREAD:
                    rest = Holding()
                    join(rest.any_element(), value.now.any_element())
                    self._bind(part.parts[0], rest)
                else:
                    held = value.now.any_element() if starred else value.now.part(f"{AT}{number}")
                    self._bind(part, held)
            return
        join(self.value(target), value)

    def _update(self, expression: Expression) -> Holding:
        target, value = self._values(expression.parts)
        for part, holding in zip(expression.parts, (target, value), strict=True):
            holding.now.wholes.append((Whole.LOOK, part))
        join(target, value)
        return Holding()

    def _walk(self, expression: Expression) -> Holding:
        target, *containers = expression.parts
        element = Holding()
        for container in containers:
            found = self.value(container)
            self._loops.append((found, element))
        if len(containers) > 1:
            self._lose(element, Trace(expression.start, "is walked over together with others"))
        self._bind(target, element)
        return Holding()

    def _return(self, expression: Expression) -> Holding:
        routine = self.routine_around(expression.start)
        for part in expression.parts:
            found = self.value(part)
            if routine is None:
                self._lose(found, Trace(part.start, "is given back"))
            else:
                join(self.result_of(routine), found)
        if not expression.parts and routine is not None:
            self.result_of(routine).is_optional = True
        return Holding()

    def _delete(self, expression: Expression) -> Holding:
        for part in expression.parts:
            found = self.value(part)
            if part.sense is Sense.PART:
                self.of_expression(part.parts[0]).any_element()
            elif part.sense is Sense.MEMBER:
                self._give_away(self.of_expression(part.parts[0]), Trace(part.start, "loses a member"))
            elif part.sense not in (Sense.NAME, Sense.SLICE):
                self._give_away(found, Trace(part.start, "is deleted"))
        return Holding()

    # -- calls

    def _call(self, expression: Expression) -> Holding:
        callee, *given = expression.parts
        called = self.value(callee)
        owner = self.of_expression(callee.parts[0]) if callee.sense is Sense.MEMBER else None
        arguments = list(zip((name or "" for name in expression.names), self._values(given), strict=True))
        result = Holding()
        self._pending.append(_Pending(expression, called, owner, arguments, result))
        return result

    def _solve(self) -> None:
        """Bind calls and loops until nothing more is learnt; what is then unknown may do anything."""
        is_last = False
        while True:
            progress = self._bind_calls(is_last=is_last) | self._bind_loops(is_last=is_last)
            if is_last and not progress:
                return
            is_last = not progress or (is_last and progress)

    def _bind_loops(self, *, is_last: bool) -> bool:
        progress = False
        waiting: list[tuple[Holding, Holding]] = []
        for container, element in self._loops:
            container = container.now
            if not (container.is_table or container.element or container.rows or is_last):
                waiting.append((container, element))
                continue
            join(element, container.any_key() if container.is_table else container.any_element())
            if container.is_table:
                container.any_element()
            progress = True
        self._loops = waiting
        return progress

    def _bind_calls(self, *, is_last: bool) -> bool:
        return any([self._bind_call(call, is_last=is_last) for call in list(self._pending)])

    def _bind_call(self, call: _Pending, *, is_last: bool) -> bool:
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
        handling = self._handling(call)
        is_own = call.owner is not None and call.owner.now.classes
        if handling is not None and not is_own and not call.bound:
            subject = self._subject(call).now
            is_known = bool(subject.is_table or subject.element or subject.rows or subject.foreign)
            if handling in _OF_KIND and not (is_known or is_last):
                return progress
            call.is_done = True
            self._handle(call, handling)
            return True
        if is_last:
            call.is_done = True
            self._call_anything(call)
            return True
        return progress

    def _bind_to(self, call: _Pending, target: Routine | Scope) -> None:
        if isinstance(target, Scope):
            join(call.result, self.instance_of(target))
            constructor = next((f for f in self._functions if self._is_constructor(f, target)), None)
            if constructor is not None:
                self._pass(call, constructor, skip=1)
            elif call.arguments:
                self._call_anything(call)
            return
        is_bound = target.receiver is not None and call.owner is not None and bool(call.owner.now.classes)
        self._pass(call, target, skip=int(is_bound))
        if target.is_postponed:
            self._give_away(call.result, Trace(call.expression.start, "comes from what runs on later"))
            self._lose(self.result_of(target), Trace(call.expression.start, "is given back later"))
        else:
            join(call.result, self.result_of(target))

    def _is_constructor(self, function: Function, scope: Scope) -> bool:
        return function.symbol.scope is scope and self.module.dialect.rules.is_constructor(function.name)

    def _pass(self, call: _Pending, routine: Routine, *, skip: int) -> None:
        parameters = routine.parameters[skip:]
        plain = [p for p in parameters if p.kind in (ParameterKind.PLAIN, ParameterKind.POSITIONAL_ONLY)]
        by_name = {p.name: p for p in parameters if p.kind in (ParameterKind.PLAIN, ParameterKind.KEYWORD_ONLY)}
        is_loose = any(p.kind in (ParameterKind.REST, ParameterKind.KEYWORD_REST) for p in parameters)
        is_loose = is_loose or any(name in ("*", "**") for name, _ in call.arguments)
        trace = Trace(call.expression.start, "is passed with others in a row")
        if is_loose:
            for _, value in call.arguments:
                self._lose(value, trace)
            self._open(routine, trace)
            return
        for number, (name, value) in enumerate(call.arguments):
            parameter = by_name.get(name) if name else plain[number] if number < len(plain) else None
            if parameter is None:
                self._lose(value, trace)
            else:
                join(self.of_symbol(parameter.reference.symbol), value)
        if call.gets_more:
            for parameter in parameters[len(call.arguments) :]:
                holding = self.of_symbol(parameter.reference.symbol)
                holding.foreign = holding.foreign or trace
            self._lose(self.result_of(routine), trace)

    def _handling(self, call: _Pending) -> Handling | None:
        callee = call.expression.parts[0]
        if call.is_called_back:
            return None
        if call.owner is not None and callee.name is not None:
            base = callee.parts[0].reference
            if base is not None and base.symbol.imported is not None:
                return self.library.handling_by_function(callee.name)
            return self.library.handling_by_method(callee.name)
        reference = callee.reference
        if reference is None or not (reference.symbol.imported or reference.symbol.scope.kind is ScopeKind.OUTSIDE):
            return None
        return self.library.handling_by_function(reference.name)

    def _call_anything(self, call: _Pending) -> None:
        """A call of code that no one can see."""
        callee = call.expression.parts[0]
        name = callee.name or (callee.reference.name if callee.reference is not None else "")
        trace = Trace(call.expression.start, f"is handed to `{name}`" if name else "is handed over")
        for _, value in call.arguments:
            self._lose(value, trace)
        self._give_away(
            call.result, Trace(call.expression.start, f"comes from `{name}`" if name else "comes from a call")
        )

    def _handle(self, call: _Pending, handling: Handling) -> None:
        expression = call.expression
        plain = [value for name, value in call.arguments if not name]
        if any(name in ("*", "**") for name, _ in call.arguments):
            self._call_anything(call)
            return
        subject, rest = self._subject(call), plain if self._is_method(call) else plain[1:]
        place = expression.parts[0].parts[0] if self._is_method(call) else expression.parts[1:2] or [expression]
        place = place[0] if isinstance(place, list) else place
        self._call_back(call, subject)
        if self._handle_plainly(call, handling, subject, rest, place):
            return
        element, walked = subject.now.any_element(), self._walked(subject)
        if handling in (Handling.SAME, Handling.SORTS):
            join(call.result.now.any_element(), walked)
        elif handling in (Handling.VALUES, Handling.COPIES):
            join(call.result.now.any_element(), element)
        elif handling in (Handling.ELEMENT, Handling.TAKES):
            join(call.result, walked if handling is Handling.ELEMENT else element)
            for other in rest:
                join(call.result, other)
        elif handling is Handling.NUMBERED:
            self._pair(call.result, Holding(), walked)
        elif handling is Handling.SIDE_BY_SIDE:
            row = Holding()
            for number, holding in enumerate(plain):
                join(row.part(f"{AT}{number}"), self._walked(holding))
            join(call.result.now.any_element(), row)
        elif handling is Handling.ADDS:
            self._add(subject, rest[:1], rest[1:], place)
        elif handling is Handling.INSERTS:
            self._add(subject, rest[1:2], rest[:1] + rest[2:], place)
        elif handling is Handling.ADDS_ALL:
            for other in rest:
                join(subject.now.any_element(), self._walked(other))
        elif handling is Handling.COMPARES:
            subject.now.any_element().wholes.append((Whole.EQUALITY, place))
            for other in rest[:1]:
                other.now.wholes.append((Whole.EQUALITY, place))
                join(subject.now.any_element(), other)
        elif handling is Handling.ITEMS:
            self._pair(call.result, subject.now.any_key(), element)

    def _handle_plainly(
        self, call: _Pending, handling: Handling, subject: Holding, rest: list[Holding], place: Expression
    ) -> bool:
        """What does not make all elements of the container alike."""
        plain = [value for name, value in call.arguments if not name]
        if handling in (Handling.LOOKS, Handling.COUNTS, Handling.UP_TO):
            subject.now.wholes.append((Whole.LOOK, place))
            if rest and handling is Handling.LOOKS:  # as what a sum begins with
                self._call_anything(call)
        elif handling is Handling.MAKES:
            if plain:
                join(call.result.now.any_element(), self._walked(plain[0]))
            elif call.arguments:
                self._call_anything(call)
        elif handling is Handling.BINDS:
            given = [argument for argument in call.arguments if argument[1] is not subject]
            self._pending.append(_Pending(call.expression, subject, None, given, Holding(), True, True))
        elif handling is Handling.MAPPED or handling is Handling.SIFTED:
            routine, *walked = plain or [Holding()]
            elements = [self._walked(holding) for holding in walked]
            result = Holding()
            self._pending.append(_Pending(call.expression, routine, None, [("", e) for e in elements], result, True))
            join(call.result.now.any_element(), result if handling is Handling.MAPPED or not elements else elements[0])
        elif handling is Handling.LOOKS_UP:
            self._look_up(call, subject, rest)
        elif handling is Handling.KEYS:
            subject.now.is_table = True
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

    @staticmethod
    def _walked(holding: Holding) -> Holding:
        """What comes of a container, one by one: of a table its keys."""
        holding = holding.now
        if holding.is_table:
            holding.any_element()
            return holding.now.any_key()
        return holding.any_element()

    def _subject(self, call: _Pending) -> Holding:
        """What a function of the library works on."""
        if call.owner is not None and self._is_method(call):
            return call.owner
        return next((value for name, value in call.arguments if not name), Holding())

    def _is_method(self, call: _Pending) -> bool:
        if call.owner is None:
            return False
        base = call.expression.parts[0].parts[0].reference
        return base is None or base.symbol.imported is None

    def _add(self, container: Holding, added: list[Holding], others: list[Holding], place: Expression) -> None:
        for holding in added:
            join(container.now.any_element(), holding)
        for holding in others:
            self._lose(holding, Trace(place.start, "is handed over"))

    def _pair(self, container: Holding, first: Holding, second: Holding) -> None:
        row = Holding()
        join(row.part(f"{AT}0"), first)
        join(row.part(f"{AT}1"), second)
        join(container.now.any_element(), row)

    def _look_up(self, call: _Pending, subject: Holding, rest: list[Holding]) -> None:
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
        if len(rest) < 2:
            call.result.now.is_optional = True

    def _call_back(self, call: _Pending, subject: Holding) -> None:
        """What a function of the library is given to call: with the elements of what it works on."""
        for name, value in call.arguments:
            if not name:
                continue
            if self.library.calls_back(name):
                element = self._walked(subject)
                self._pending.append(_Pending(call.expression, value, None, [("", element)], Holding(), True))
            else:
                join(call.result, value)

    # -- the end

    def _doubt_unseen(self) -> None:
        """What a tree does not show may be anything."""
        for reference in self.module.references:
            if reference in self._visited or reference.form in _UNBOUND_FORMS:
                continue
            trace = Trace(reference.start, f"`{reference.name}` is used here in a way that is not followed")
            self._give_away(self.of_symbol(reference.symbol), trace)

    def _settle(self) -> None:
        for container, expression in self._within:
            found = container.now
            if found.element is not None and not found.is_table:
                join(found.any_element(), self.of_expression(expression.parts[0]))
        opened: set[Routine] = set()
        while True:
            spread(self.everything())
            gone = [r for h in self.everything() if h.lost for r in h.routines if r not in opened]
            if not gone:
                return
            for routine in gone:
                opened.add(routine)
                at = routine.scope.start
                self._open(routine, Trace(at, f"`{routine.name}` is called from elsewhere"))


_OF_KIND = frozenset(Handling) - {
    *(Handling.LOOKS, Handling.COUNTS, Handling.UP_TO, Handling.ADDS, Handling.INSERTS, Handling.ITEMS, Handling.KEYS)
}
"""What means another thing for a table than for a list."""
