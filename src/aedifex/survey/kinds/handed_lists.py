"""Lists of which a script keeps several, and hands them from function to function: each could be an object."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.holding.absence import Absence
from aedifex.program.analysis.holding.holding import Holding
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.holding.places import MEMBER
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Parameter, ParameterKind
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.survey.kinds.objects import ObjectCalls
from aedifex.survey.kinds.records import holder_name, in_order
from aedifex.survey.kinds.walks import builtin_called
from aedifex.survey.words import is_plural, plural, words_of

_WRITTEN = frozenset({Sense.LIST, Sense.EACH})
_MAKING = frozenset({Handling.MAKES, Handling.SORTS})
_ADDING = frozenset({Handling.ADDS, Handling.ADDS_ALL})
_GROWING = frozenset({Handling.ADDS, Handling.INSERTS, Handling.ADDS_ALL, Handling.TAKES})
_DISPLAYS = frozenset({Sense.LIST, Sense.TUPLE})
_NO_NOUNS = frozenset("list items item lst arr array data values seq things elements numbers".split())
_NO_HOMES = frozenset({ScopeKind.CLASS, ScopeKind.OUTSIDE})
_ITEMS = "items"
_FEWEST = 2
_SHORT = 2


@dataclass(eq=False)
class ListKind:
    """Lists that stand for things of one kind: variables hold them, and functions are given one of them.

    `symbols` are all names that such a list has; `made` the expressions that give a new one, `used` the names where the
    list itself is meant, and not the thing that has it.
    """

    module: Module
    symbols: tuple[Symbol, ...]
    made: list[Expression] = field(default_factory=list)
    used: list[Expression] = field(default_factory=list)

    @property
    def holders(self) -> list[str]:
        """By what such a thing is known: the variables first, then the parameters."""
        return [holder_name(symbol) for symbol in self.symbols]

    @cached_property
    def functions(self) -> list[Function]:
        """The functions that are given one."""
        own = set(self.symbols)
        return [f for f in self.module.functions if any(p.reference.symbol in own for p in f.parameters)]

    @cached_property
    def noun(self) -> str:
        """What one is called, by the commonest of its parameters; empty where that says nothing."""
        own = set(self.symbols)
        found: Counter[str] = Counter()
        for function in self.functions:
            found.update(p.name for p in function.parameters if p.reference.symbol in own)
        words = words_of(found.most_common(1)[0][0]) if found else []
        is_word = bool(words) and len(words[-1]) > _SHORT and not _NO_NOUNS.intersection(words)
        return self.module.dialect.naming.member_name(words) if is_word else ""

    @cached_property
    def key(self) -> str:
        """What is in one, by what is put there and by the loops over it."""
        surroundings, naming = Surroundings.of(self.module), self.module.dialect.naming
        found: Counter[str] = Counter()
        for use in self.used:
            around = surroundings.around(use)
            if around is None:
                continue
            if around.sense is Sense.WALK and around.parts[0].reference is not None:
                found[around.parts[0].reference.name] += 1
            call = surroundings.around(around) if around.sense is Sense.MEMBER else None
            adds = self.module.dialect.library.handling_by_method(around.name or "") in _ADDING
            if adds and call is not None and call.sense is Sense.CALL and call.parts[-1].reference is not None:
                found[call.parts[-1].reference.name] += 2
        names = [words for name, _ in found.most_common() if len((words := words_of(name))[-1]) > _SHORT]
        words = names[0] if names else [_ITEMS]
        name = naming.member_name([*words[:-1], words[-1] if is_plural(words[-1]) else plural(words[-1])])
        return name if name != self.noun and self.module.dialect.rules.is_name(name) else _ITEMS


class ListKinds(Analysis):
    """Finds the lists that are handed round and of which every use is understood."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        holdings = Holdings.of(module)
        everything = holdings.everything() if not module.hindrances else []
        found = (_Reader(module, holding).read() for holding in everything if _is_list(holding))
        self.kinds = sorted(filter(None, found), key=lambda kind: kind.made[0].start)


def list_kinds(module: Module) -> list[ListKind]:
    """The lists that a script hands from function to function, in the order of the text."""
    return ListKinds.of(module).kinds


def _is_list(holding: Holding) -> bool:
    is_other = holding.tables or holding.classes or holding.routines or holding.makers or holding.is_table
    is_written = any(row.sense is Sense.LIST for row in holding.rows)
    is_row = any(not name.startswith(MEMBER) for name in holding.parts)
    return is_written and not is_other and not is_row and len(holding.symbols) > _FEWEST


class _UnclearError(Exception):
    """Something is done with a list of which it is not certain what that means."""


class _Reader:
    def __init__(self, module: Module, holding: Holding) -> None:
        self.module = module
        self.holding = holding
        self.holdings = Holdings.of(module)
        self.surroundings = Surroundings.of(module)
        self.calls = ObjectCalls.of(module)
        self.own = set(holding.symbols)
        self.begun: set[Symbol] = set()
        self.kind = ListKind(module, tuple(in_order(self.own)))
        self.givers = {f for f in module.functions if any(map(self.is_held, self.results(f)))}

    def read(self) -> ListKind | None:
        """The kind, if several variables hold such a list, functions are given one, and no use is unclear."""
        try:
            for symbol in self.kind.symbols:
                self.read_symbol(symbol)
            for function in self.givers:
                self.read_giver(function)
        except _UnclearError:
            return None
        self.kind.made.sort(key=lambda made: made.start)
        is_worth_it = len(self.kind.functions) >= _FEWEST and self.are_several and self.grows and self.kind.noun
        if (
            not is_worth_it
            or self.may_part
            or hindrance_obstacles(self.module, [symbol.name for symbol in self.kind.symbols])
        ):
            return None
        return self.kind

    @property
    def are_several(self) -> bool:
        """Whether variables of the main code, or of one routine, hold several such lists of their own."""
        homes = Counter(symbol.scope for symbol in self.begun if not self.is_parameter(symbol))
        return any(number >= _FEWEST for number in homes.values())

    @property
    def grows(self) -> bool:
        """Whether elements come and go."""
        library = self.module.dialect.library
        members = [around for use in self.kind.used if (around := self.surroundings.around(use)) is not None]
        return any(library.handling_by_method(member.name or "") in _GROWING for member in members)

    @property
    def may_part(self) -> bool:
        """Whether what is added to under one name might not be added to under another: not all are surely lists."""
        around = [self.surroundings.around(use) for use in self.kind.used]
        is_updated = any(a is not None and a.sense is Sense.UPDATE and a.parts[0] in self.kind.used for a in around)
        return is_updated and any(made.sense is Sense.CALL for made in self.kind.made)

    def is_parameter(self, symbol: Symbol) -> bool:
        return any(p.reference.symbol is symbol for f in self.module.all_functions for p in f.parameters)

    def is_held(self, expression: Expression) -> bool:
        held = self.holdings.known.get(expression)
        return held is not None and held.now is self.holding

    # -- names

    def read_symbol(self, symbol: Symbol) -> None:
        is_plain = symbol.scope.kind not in _NO_HOMES and symbol not in Absence.of(self.module).symbols
        if not is_plain or self.module.is_known_outside(symbol.name) or symbol.imported is not None:
            raise _UnclearError
        parameters = {p.reference: f for f in self.module.all_functions for p in f.parameters}
        for reference in symbol.references:
            if reference in parameters:
                self.read_parameter(parameters[reference], reference)
            elif reference.form is not Form.DECLARATION:
                self.read_use(reference)

    def read_use(self, reference: Reference) -> None:
        use = self.surroundings.of_reference(reference)
        around = self.surroundings.around(use) if use is not None else None
        if use is None or around is None or is_hard_to_echo(self.module, reference):
            raise _UnclearError
        if around.sense in (Sense.DELETE, Sense.NAMED):
            raise _UnclearError
        if not reference.binds:
            if not self.is_flow(use, around):
                self.kind.used.append(use)
        elif around.sense is Sense.SET:
            self.read_setting(around)
        elif around.sense is Sense.TUPLE:
            self.read_unpacking(around, use)
        elif around.sense is Sense.WALK:
            self.read_walk(around)
        elif around.sense is Sense.UPDATE:
            self.kind.used.append(use)
        else:
            raise _UnclearError

    def read_setting(self, setting: Expression) -> None:
        *targets, value = setting.parts
        if not all(self.is_own_name(target) for target in targets):
            raise _UnclearError
        self.begin(targets, value)

    def begin(self, targets: Sequence[Expression], value: Expression) -> None:
        """Give names a thing, and note them where that is a new one."""
        self.give(value)
        if value in self.kind.made or self.giver_called(value) is not None:
            self.begun.update(target.reference.symbol for target in targets if target.reference is not None)

    def read_unpacking(self, target: Expression, use: Expression) -> None:
        """Several names are given several lists, each its own."""
        setting = self.surroundings.around(target)
        if setting is None or setting.sense is not Sense.SET or len(setting.parts) != 2:
            raise _UnclearError
        value = setting.parts[1]
        if value.sense is not Sense.TUPLE or len(value.parts) != len(target.parts):
            raise _UnclearError
        self.begin([use], value.parts[target.parts.index(use)])

    def read_walk(self, walk: Expression) -> None:
        """A loop goes over several that are written out side by side."""
        if walk.parts[1].sense not in _DISPLAYS:
            raise _UnclearError
        for part in walk.parts[1].parts:
            self.give(part)

    def read_parameter(self, function: Function, reference: Reference) -> None:
        """Every call gives a function one."""
        parameter = next(p for p in function.parameters if p.reference is reference)
        is_plain = parameter.kind is ParameterKind.PLAIN and parameter.default is None and not function.is_method
        if not is_plain or not self.is_only_called(function):
            raise _UnclearError
        for call in self.calls.of_function(function):
            self.give(self.argument(call, function, parameter))

    def argument(self, call: Expression, function: Function, parameter: Parameter) -> Expression:
        number = self.calls.argument_of(call, function, parameter)
        if number is None or any(name in ("*", "**") for name in call.names):
            raise _UnclearError
        return call.parts[1 + number]

    def is_only_called(self, function: Function) -> bool:
        """Whether a function of the script has one meaning, and is nothing but called."""
        if function not in self.module.functions or function.is_called_from_outside or function.statement.decorators:
            return False
        uses = [r for r in function.symbol.references if r is not function.named]
        is_known = self.module.is_known_outside(function.name) or function.is_postponed
        return not is_known and len(self.calls.of_function(function)) == len(uses)

    # -- values

    def give(self, value: Expression) -> None:
        """A name is given such a thing: one that there is, or a new one, that has the list."""
        if value.sense is Sense.CHOICE:
            for part in value.parts[1:]:
                self.give(part)
        elif not self.is_thing(value) and value not in self.kind.made:
            if not self.is_list(value):
                raise _UnclearError
            self.kind.made.append(value)

    def is_list(self, value: Expression) -> bool:
        """Whether an expression gives a list that nobody has yet."""
        if value.sense is Sense.SUM:
            return any(map(self.is_list, value.parts)) or all(map(self.is_own_name, value.parts))
        if value.sense is Sense.SLICE:
            return self.is_own_name(value.parts[0])
        if value.sense is not Sense.CALL:
            return value.sense in _WRITTEN
        library, method = self.module.dialect.library, value.parts[0]
        is_copy = library.handling_by_method(method.name or "") is Handling.COPIES
        is_own_copy = method.sense is Sense.MEMBER and self.is_own_name(method.parts[0]) and is_copy
        return is_own_copy or library.handling_by_function(builtin_called(value)) in _MAKING

    def is_thing(self, expression: Expression) -> bool:
        return self.is_own_name(expression) or self.giver_called(expression) is not None or self.picks(expression)

    def picks(self, call: Expression) -> bool:
        """Whether one of several that are written out side by side is picked, whatever is in them."""
        is_lone = call.sense is Sense.CALL and len(call.parts) == 2 and not any(call.names)
        if not is_lone or call.parts[1].sense not in _DISPLAYS or not all(map(self.is_own_name, call.parts[1].parts)):
            return False
        callee, library = call.parts[0], self.module.dialect.library
        root = callee.parts[0].reference if callee.sense is Sense.MEMBER else callee.reference
        name = callee.name or (root.name if root is not None else "")
        is_of_library = root is not None and root.symbol.imported is not None
        handlings = (library.handling_by_method(name), library.handling_by_function(name))
        return is_of_library and Handling.ELEMENT in handlings and not library.puts_in_order(name)

    def is_own_name(self, expression: Expression) -> bool:
        reference = expression.reference
        return expression.sense is Sense.NAME and reference is not None and reference.symbol in self.own

    def giver_called(self, call: Expression) -> Function | None:
        callee = call.parts[0] if call.sense is Sense.CALL else None
        symbol = callee.reference.symbol if callee is not None and callee.reference is not None else None
        return next((f for f in self.givers if f.symbol is symbol), None) if callee and not callee.parts else None

    def is_flow(self, use: Expression, around: Expression) -> bool:
        """Whether a thing is only handed on where it stands: to a name, to a function, out of a routine."""
        if around.sense is Sense.CHOICE:
            outer = self.surroundings.around(around)
            return use is not around.parts[0] and outer is not None and self.is_flow(around, outer)
        if around.sense is Sense.SET:
            return use is around.parts[-1] and all(map(self.is_own_name, around.parts[:-1]))
        if around.sense in _DISPLAYS:
            return self.is_side_by_side(around, use)
        if around.sense is Sense.RETURN:
            return self.holdings.routine_around(around.start) in self.givers
        if around.sense is Sense.CALL and use is not around.parts[0]:
            return self.is_given(around, use)
        return around.sense is Sense.ALONE

    def is_side_by_side(self, display: Expression, use: Expression) -> bool:
        outer = self.surroundings.around(display)
        if outer is None:
            return False
        if outer.sense is Sense.CALL and self.picks(outer):
            around = self.surroundings.around(outer)
            return around is not None and self.is_flow(outer, around)
        if outer.sense is Sense.WALK:
            return outer.parts[1] is display and self.is_own_name(outer.parts[0])
        if outer.sense is not Sense.SET or len(outer.parts) != 2 or outer.parts[1] is not display:
            return False
        target, at = outer.parts[0], display.parts.index(use)
        return target.sense is Sense.TUPLE and at < len(target.parts) and self.is_own_name(target.parts[at])

    def is_given(self, call: Expression, use: Expression) -> bool:
        """Whether a function of the script is given a thing for a parameter that is one of its names."""
        callee = call.parts[0].reference if not call.parts[0].parts else None
        function = next((f for f in self.module.functions if callee is not None and f.symbol is callee.symbol), None)
        if function is None:
            return False
        own = [p for p in function.parameters if p.reference.symbol in self.own]
        return any(self.argument(call, function, parameter) is use for parameter in own)

    # -- what routines give back

    def results(self, function: Function) -> Iterator[Expression]:
        for tree in self.surroundings.trees:
            if tree.sense is Sense.RETURN and tree.parts and self.holdings.routine_around(tree.start) is function:
                yield tree.parts[0]

    def read_giver(self, function: Function) -> None:
        """Every way out of a routine gives one back, and each call of it hands that on."""
        if not self.is_only_called(function) or function in Absence.of(self.module).routines:
            raise _UnclearError
        for result in self.results(function):
            self.give(result)
        for call in self.calls.of_function(function):
            around = self.surroundings.around(call)
            if around is None or not self.is_flow(call, around):
                raise _UnclearError
