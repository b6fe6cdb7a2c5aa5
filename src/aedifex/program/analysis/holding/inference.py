"""Which places of a file may hold the same objects.

All values that flow into one another share one holding, whatever the order in which that happens (B. Steensgaard,
"Points-to analysis in almost linear time", 1996). What is not understood is taken for code that may do anything with
what it gets, and may give back anything.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.holding.calls import Call, Calls
from aedifex.program.analysis.holding.holding import Holding, Trace, Whole, give_away, join, lose, reach, spread
from aedifex.program.analysis.holding.places import AT, KEY, MEMBER, Places
from aedifex.program.analysis.members import is_empty_field
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Origin, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Routine
from aedifex.program.structure.record_classes import record_fields

_PAIR = 2
_UNBOUND_FORMS = frozenset({Form.ROUTINE, Form.CLASS, Form.PARAMETER, Form.DECLARATION, Form.ANNOTATION, Form.QUOTED})


class Holdings(Analysis):
    """The holdings of one file: `of_expression` and `of_symbol` answer; nothing is changed by asking."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.places = Places(module)
        self.calls = Calls(self.places)
        self.trees = Surroundings.of(module).trees
        self._loops: list[tuple[Holding, Holding]] = []
        self._within: list[tuple[Holding, Expression]] = []
        self._visited: set[Reference] = set()
        self._inheriting: list[tuple[Scope, list[Reference]]] = []
        self._own_bases: set[Reference] = set()
        self._spread_out: list[Holding] = []
        self._by_start = {r.scope.start: r for r in module.routines}
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
            Sense.RECORD: self._record,
            Sense.EACH: self._each,
            Sense.CHOICE: self._choice,
            Sense.EITHER: self._joined,
            Sense.NOT: self._truth,
            Sense.SAME: self._looked_at,
            Sense.KIND: self._looked_at,
            Sense.EQUAL: self._equal,
            Sense.WITHIN: self._is_within,
            Sense.SUM: self._joined,
            Sense.FUNCTION: self._function,
            Sense.BASE: self._base,
            Sense.NAMED: self._set,
            Sense.SET: self._set,
            Sense.UPDATE: self._update,
            Sense.WALK: self._walk,
            Sense.TEST: self._truth,
            Sense.RETURN: self._return,
            Sense.DELETE: self._delete,
            Sense.ALONE: self._looked_at,
            Sense.NOTHING: lambda _: Holding(),
            Sense.CONSTANT: lambda _: Holding(),
        }
        self._define()
        for tree in self.trees:
            self.value(tree)
        self._open_inherited()
        self._solve()
        self.calls.settle_asked()
        self._open_inherited()
        self._doubt_unseen()
        self._settle()

    # -- questions

    @property
    def symbols(self) -> list[Symbol]:
        """All names that were met."""
        return self.places.symbols

    @property
    def known(self) -> Mapping[Expression, Holding]:
        """What each expression may give."""
        return self.places.known

    def of_symbol(self, symbol: Symbol) -> Holding:
        """What a name may mean."""
        return self.places.of_symbol(symbol)

    def of_expression(self, expression: Expression) -> Holding:
        """What an expression may give."""
        return self.places.of_expression(expression)

    def expressions_of(self, holding: Holding) -> list[Expression]:
        """The expressions that may give what a holding stands for, and the patterns that take it apart."""
        return self.places.expressions_of(holding)

    def instance_of(self, scope: Scope) -> Holding:
        """The objects of a class."""
        return self.places.instance_of(scope)

    def member_of(self, holding: Holding, name: str) -> Holding | None:
        """What a member of some objects may be, if the program asks for it."""
        return holding.now.parts.get(self.places.member(name))

    def members_of(self, holding: Holding) -> set[str]:
        """The names of the members of some objects that the program asks for."""
        return self.places.members_of(holding)

    def everything(self) -> list[Holding]:
        """All holdings, each once."""
        return self.places.everything()

    def routine_around(self, offset: int) -> Function | None:
        """The innermost function around a place."""
        return self.places.routine_around(offset)

    def innermost(self, offset: int) -> Routine | None:
        """The innermost routine around a place, be it nameless."""
        return self.places.innermost(offset)

    # -- definitions

    def _define(self) -> None:
        for function in self.module.all_functions:
            self.of_symbol(function.symbol).routines[function] = None
            is_open = function.is_called_from_outside or bool(function.statement.decorators)
            if function.is_method:
                home = function.symbol.scope
                self.instance_of(home).part(self.places.member(function.name)).routines[function] = None
                if function.receiver is not None:
                    join(self.instance_of(home), self.of_symbol(function.receiver))
                is_open = is_open or self.module.dialect.rules.has_meaning(function.name)
                is_open = is_open and not self.module.dialect.rules.is_constructor(function.name)
            if is_open:
                self.places.open(function, Trace(function.named.start, f"`{function.name}` is called from elsewhere"))
        for scope in self.module.scope.walk():
            if scope.kind is ScopeKind.CLASS:
                self._define_class(scope)
        for name, place in self.module.used_elsewhere.items():
            symbol = self.module.scope.symbols.get(name)
            if symbol is not None:
                here = symbol.references[0].start if symbol.references else 0
                give_away(self.of_symbol(symbol), Trace(here, f"`{name}` is used by {place}"))

    def _define_class(self, scope: Scope) -> None:
        statement = next((s for s in self.module.walk() if s.defines is scope), None)
        named = next((r for r in statement.references if r.form is Form.CLASS), None) if statement else None
        if statement is None or named is None:
            return
        self.of_symbol(named.symbol).makers[scope] = None
        for name, symbol in scope.symbols.items():
            join(self.instance_of(scope).part(self.places.member(name)), self.of_symbol(symbol))
        fields = record_fields(self.module, statement)
        if fields is not None:
            self.places.fields[scope] = fields
            return
        bases = [
            r for r in statement.references if r.mode.reads and not self.module.dialect.rules.is_root_class(r.name)
        ]
        own = [base for base in map(self._own_class, bases) if base is not None]
        if bases and not statement.decorators and len(own) == len(bases):
            self._own_bases.update(bases)
            self.places.bases[scope] = own
            for base in own:
                join(self.instance_of(scope), self.instance_of(base))
        elif bases and not statement.decorators and all(map(self._is_plain_base, bases)):
            self._inheriting.append((scope, bases))
        elif bases or statement.decorators:
            trace = Trace(statement.start, f"{scope.name} has a base or a decorator")
            give_away(self.instance_of(scope), trace)
            for function in self.module.all_functions:
                if function.symbol.scope is scope:
                    self.places.open(function, trace)

    def _own_class(self, base: Reference) -> Scope | None:
        """The class of the script that a name in a heading means."""
        symbol = base.symbol
        if base.path or base.form is not Form.PLAIN or len(symbol.bindings) != 1 or symbol.forms != {Form.CLASS}:
            return None
        statement = symbol.bindings[0].statement
        return statement.defines if statement is not None else None

    def _is_plain_base(self, base: Reference) -> bool:
        """Whether a class of a library lets its heirs be made, and have fields, as if it were not there."""
        library, folder = self.module.dialect.library, self.module.path.parent
        return base.symbol.imported is not None and not library.may_take_part_in_objects(base, folder)

    def _open_inherited(self) -> None:
        """What a library may know of objects whose class inherits from it may be anything, and be called by it."""
        library, folder = self.module.dialect.library, self.module.path.parent
        for scope, bases in self._inheriting:
            for name, part in list(self.instance_of(scope).parts.items()):
                member = name.removeprefix(MEMBER)
                if any(library.may_have_member(base, member, folder) for base in bases):
                    give_away(part, Trace(bases[0].start, f"`{member}` may belong to `{bases[0].name}`"))

    # -- expressions

    def value(self, expression: Expression) -> Holding:
        """Follow the values of an expression, and answer what it gives."""
        handler = self._senses.get(expression.sense, self._unknown)
        found = handler(expression)
        self.places.known[expression] = found
        return found.now

    def _values(self, expressions: Sequence[Expression]) -> list[Holding]:
        return [self.value(expression) for expression in expressions]

    def _unknown(self, expression: Expression) -> Holding:
        for part in expression.parts:
            if part.reference in self._own_bases:
                self.value(part)
                continue
            trace = Trace(part.start, "is used here in a way that no object could be")
            found = self.value(part)
            if part.reference is not None and part.reference.binds:
                give_away(found, trace)
            else:
                lose(found, trace)
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
            give_away(found, Trace(expression.start, f"`{symbol.name}` comes from outside"))
        return found

    def _member(self, expression: Expression) -> Holding:
        return self.value(expression.parts[0]).now.part(self.places.member(expression.name or ""))

    def _part(self, expression: Expression) -> Holding:
        container, *keys = self._values(expression.parts)
        container = container.now
        if expression.name is None:
            key = keys[0] if len(keys) == 1 else Holding()
            join(container.any_key(), key)
            return container.any_element()
        container.accesses.append(expression)
        is_number = expression.parts[1].end - expression.parts[1].start == len(expression.name)
        return container.part(AT + expression.name if is_number else self._key(expression.name))

    def _key(self, name: str) -> str:
        """What the part of a table is called that is asked for by a plain key."""
        return self.places.member(name) if self.module.dialect.rules.keys_are_members else KEY + name

    def _slice(self, expression: Expression) -> Holding:
        container = self.value(expression.parts[0])
        self._values(expression.parts[1:])
        container.now.any_element()
        return container.now

    def _row(self, expression: Expression) -> Holding:
        holding = Holding(rows=[expression])
        for number, part in enumerate(expression.parts):
            if part.sense is Sense.SPREAD:
                spread_out = self.value(part.parts[0])
                join(holding.any_element(), spread_out.now.any_element())
                self._spread_out.append(spread_out)
                self.places.known[part] = holding
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
            join(holding.part(self._key(name)) if name is not None else holding.now.any_element(), self.value(part))
        return holding

    def _record(self, expression: Expression) -> Holding:
        maker, *values = expression.parts
        self.value(maker)
        holding = Holding(tables=[expression])
        for name, part in zip(expression.names, values, strict=True):
            join(holding.part(self.places.member(name or "")), self.value(part))
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
        if self.module.dialect.rules.keys_are_members:
            if any(part.sense is Sense.NOTHING for part in expression.parts):
                for part, holding in zip(expression.parts, found, strict=True):
                    self._asked(holding, part)
            return Holding()
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
        routine = self._by_start.get(expression.start)
        body, *defaults = expression.parts
        result = Holding() if is_written_out(expression) and routine is not None else self.value(body)
        for default in defaults:
            lose(self.value(default), Trace(default.start, "is the default of a parameter"))
        if routine is None:
            lose(result, Trace(body.start, "is given back by what is not followed"))
            return Holding(foreign=Trace(expression.start, "is not followed"))
        if any(p.default is not None for p in routine.parameters):
            self.places.open(routine, Trace(expression.start, "has defaults"))
        join(self.places.result_of(routine), result)
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
            self.places.known[target] = value
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
        if target.sense is Sense.TABLE:
            self.places.known[target] = value
            self._values(target.parts[::2])
            for name, part in zip(target.names, target.parts[1::2], strict=True):
                self._bind(part, value.now.part(self._key(name)) if name is not None else value.now.any_element())
            return
        join(self.value(target), value)
        if target.sense is Sense.OTHER:
            trace = Trace(target.start, "takes it apart in a way that is not followed")
            for inner in target.walk():
                give_away(self.of_expression(inner), trace)

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
            lose(element, Trace(expression.start, "is walked over together with others"))
        self._bind(target, element)
        return Holding()

    def _return(self, expression: Expression) -> Holding:
        routine = self.innermost(expression.start)
        for part in expression.parts:
            found = self.value(part)
            if routine is None:
                lose(found, Trace(part.start, "is given back"))
            else:
                join(self.places.result_of(routine), found)
        return Holding()

    def _delete(self, expression: Expression) -> Holding:
        for part in expression.parts:
            found = self.value(part)
            if part.sense is Sense.PART:
                self.of_expression(part.parts[0]).any_element()
            elif part.sense is Sense.MEMBER:
                give_away(self.of_expression(part.parts[0]), Trace(part.start, "loses a member"))
            elif part.sense not in (Sense.NAME, Sense.SLICE):
                give_away(found, Trace(part.start, "is deleted"))
        return Holding()

    # -- calls

    def _base(self, expression: Expression) -> Holding:
        """The object itself: what its class has of the same name it may be, too."""
        self._visited.update(part.reference for part in expression.parts if part.reference is not None)
        scope = self._class_around(expression)
        if scope is None or not self.places.bases.get(scope):
            return Holding(foreign=Trace(expression.start, "comes from what is not followed"))
        return self.instance_of(scope)

    def _class_around(self, expression: Expression) -> Scope | None:
        """The class of whose objects a method is about that an expression stands in."""
        routine = self.innermost(expression.start)
        scope = routine.scope if routine is not None else None
        while scope is not None and not (isinstance(scope.routine, Function) and scope.routine.is_method):
            if scope.routine is not None and self.module.dialect.rules.has_receiver(self.module, scope.routine):
                return None
            scope = scope.parent
        return scope.parent if scope is not None else None

    def _called(self, callee: Expression) -> Holding:
        """What a call calls: by the word for what a class comes from it sets up the object."""
        found = self.value(callee)
        scope = self._class_around(callee) if callee.sense is Sense.BASE else None
        bases = self.places.bases.get(scope, []) if scope is not None else []
        return Holding(makers=dict.fromkeys(bases)) if bases else found

    def _makes_pairs(self, callee: Expression) -> bool:
        """Whether a function of the language makes a container that gives pairs: that is known before all else."""
        reference, library = callee.reference, self.module.dialect.library
        if reference is None or reference.symbol.origin is not Origin.BUILTIN:
            return False
        return library.handling_by_function(reference.name) is Handling.MAKES_PAIRS

    def _call(self, expression: Expression) -> Holding:
        callee, *given = expression.parts
        called = self._called(callee)
        owner = self.of_expression(callee.parts[0]) if callee.sense is Sense.MEMBER else None
        gives_pairs = self._makes_pairs(callee)
        if gives_pairs and all(map(_are_pairs, given)):
            return self._of_pairs(given)
        arguments = list(zip((name or "" for name in expression.names), self._values(given), strict=True))
        result = Holding(is_table=gives_pairs, gives_pairs=gives_pairs)
        self.calls.pending.append(Call(expression, called, owner, arguments, result))
        return result

    def _of_pairs(self, written: Sequence[Expression]) -> Holding:
        """A container of pairs of a key and an element that are written out."""
        result = Holding(is_table=True, gives_pairs=True)
        for pair in (pair for pairs in written for pair in pairs.parts):
            key, element = self._values(pair.parts)
            join(result.any_key(), key)
            join(result.now.any_element(), element)
            self.places.known[pair] = self.places.pair_of(result)
        for pairs in written:
            self.places.known[pairs] = Holding()
        result.now.any_element()
        return result

    def _solve(self) -> None:
        """Bind calls and loops until nothing more is learnt; what is then unknown may do anything."""
        is_last = False
        while True:
            progress = self.calls.bind(is_last=is_last) | self._bind_loops(is_last=is_last)
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
            join(element, self.places.walked(container))
            progress = True
        self._loops = waiting
        return progress

    # -- the end

    def _doubt_unseen(self) -> None:
        """What a tree does not show may be anything."""
        for reference in self.module.references:
            if reference in self._visited or reference.form in _UNBOUND_FORMS or is_empty_field(reference):
                continue
            trace = Trace(reference.start, f"`{reference.name}` is used here in a way that is not followed")
            give_away(self.of_symbol(reference.symbol), trace)

    def _settle(self) -> None:
        self.places.lose_misread()
        for container in self._spread_out:
            if container.now.gives_pairs:
                lose(container, Trace(self.module.block.start, "is spread out in pairs"))
        for container, expression in self._within:
            found = container.now
            if found.element is not None and not found.is_table:
                join(found.any_element(), self.of_expression(expression.parts[0]))
        opened: set[Routine] = set()
        while True:
            spread(self.everything())
            gone = [r for h in self.everything() if h.lost for r in h.routines if r not in opened]
            if not gone:
                break
            for routine in gone:
                opened.add(routine)
                at = routine.scope.start
                self.places.open(routine, Trace(at, f"`{routine.name}` is called from elsewhere"))
        for holding, expression in self.calls.written:
            for held in reach(holding):
                held.wholes.append((Whole.WRITTEN, expression))


def is_written_out(function: Expression) -> bool:
    """Whether a nameless routine has a body of statements, which say by themselves what it gives back."""
    body = function.parts[0]
    return body.sense is Sense.OTHER and not body.parts


def _are_pairs(expression: Expression) -> bool:
    """Whether pairs are written out in a list."""
    is_list = expression.sense is Sense.LIST
    return is_list and all(part.sense is Sense.LIST and len(part.parts) == _PAIR for part in expression.parts)
