"""Kinds that are stored as records: tables with plain keys, made in several places or again and again."""

from __future__ import annotations

import itertools
from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.holding.holding import Holding, Whole
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.holding.places import AT, KEY, MEMBER
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Kind, Routine, Statement
from aedifex.program.structure.early_uses import first_to_make
from aedifex.program.structure.obstacles import Obstacle, function_obstacles
from aedifex.program.structure.state import Constants
from aedifex.survey.kinds.library_things import maker_of
from aedifex.survey.kinds.plain_values import cannot_fail, is_plain
from aedifex.survey.words import words_of

_FEWEST_KEYS = 2
_FEWEST_FUNCTIONS = 2
_ALWAYS_FOR_EACH_OPTIONAL = 2
_STEADY = frozenset({Sense.CONSTANT, Sense.NOTHING})
_ADVICE = "Leave these records as they are, or write that part without them first."


@dataclass(frozen=True)
class Making:
    """One place where a record is made: the table written out there, and what is set in it on the lines that follow.

    `values` are the value of each key, in the order in which they are worked out; `later` the assignments that follow.
    """

    table: Expression
    values: dict[str, Expression]
    later: tuple[Expression, ...] = ()

    @property
    def statement(self) -> Statement:
        """The statement in which the table stands."""
        assert self.table.statement is not None
        return self.table.statement


@dataclass(frozen=True)
class RecordKind:
    """Things of one shape that are kept as records.

    `keys` begin with those that all are made with; `holders` name the places where they are held, `obstacles` tell why
    no class can be made of them.
    """

    module: Module
    holding: Holding
    makings: tuple[Making, ...]
    keys: tuple[str, ...]
    obstacles: tuple[Obstacle, ...]

    @property
    def optional(self) -> list[str]:
        """The keys that some are made without."""
        return _optional(self.makings, self.keys)

    def default(self, key: str) -> str:
        """What the program takes where a record is made without a key, as it is written there; empty for nothing."""
        found = _defaults(self.module, self.holding, key)
        return min(found, default="")

    @property
    def symbols(self) -> list[Symbol]:
        """The variables and parameters that hold one, in the order of the text."""
        return in_order(self.holding.symbols)

    @property
    def holders(self) -> list[str]:
        """Names by which the kind can be found again."""
        return holders_of(self.module, self.holding)

    @property
    def is_compared(self) -> bool:
        """Whether two of them are compared by their values."""
        return any(whole is Whole.EQUALITY for whole, _ in self.holding.wholes)


def holder_name(symbol: Symbol) -> str:
    """The name of a variable, with that of the routine that it belongs to."""
    around = symbol.scope.home.qualified_name
    return f"{around}.{symbol.name}" if around else symbol.name


def in_order(symbols: Iterable[Symbol]) -> list[Symbol]:
    """Variables in the order of the text."""
    return sorted(symbols, key=lambda s: s.references[0].start if s.references else 0)


def holders_of(module: Module, holding: Holding) -> list[str]:
    """Names by which a kind can be found again: of the variables that hold one, of what holds several, of members."""
    return [*map(holder_name, in_order(holding.symbols)), *containers_of(module, holding), *_members(module, holding)]


def _members(module: Module, holding: Holding) -> Iterator[str]:
    """The members of classes that hold one thing, or a container of several: `Quay.gull`, `Quay.kites[]`."""
    holdings = Holdings.of(module)
    for scope in module.classes:
        instance = holdings.instance_of(scope)
        for name in sorted(holdings.members_of(instance)):
            held, whole = holdings.member_of(instance, name), f"{scope.qualified_name}.{name}"
            if held is not None and held.now is holding:
                yield whole
            elif held is not None and held.now.element is not None and held.now.element.now is holding:
                yield several_in(whole)


def containers_of(module: Module, holding: Holding) -> list[str]:
    """The variables that hold containers of what one holding stands for, as `birds[]`."""
    holdings = Holdings.of(module)
    found = [
        s for s in in_order(holdings.symbols) if (held := holdings.of_symbol(s)).element and held.element.now is holding
    ]
    return [several_in(holder_name(symbol)) for symbol in found]


def several_in(container: str) -> str:
    """What holds one of the things in a container: `birds[]`."""
    return f"{container}[]"


def container_of(holder: str) -> str:
    """The container of which something holds one thing: `birds` of `birds[]`."""
    return holder.removesuffix(several_in(""))


def record_kinds(module: Module) -> list[RecordKind]:
    """The kinds that a file keeps as records, in the order in which they are first made."""
    if module.hindrances:
        return []
    holdings = Holdings.of(module)
    found = [kind for h in holdings.everything() if h.tables and (kind := _kind(module, holdings, h)) is not None]
    return sorted(found, key=lambda kind: kind.makings[0].table.start)


def kind_held_by(module: Module, holder: str) -> RecordKind | None:
    """The kind whose things a holder holds."""
    return next((kind for kind in record_kinds(module) if holder in kind.holders), None)


def _kind(module: Module, holdings: Holdings, holding: Holding) -> RecordKind | None:
    if holding.element is not None or holding.classes or holding.rows:
        return None
    makings = tuple(_making(holdings, table) for table in sorted(holding.tables, key=lambda t: t.start))
    found = list(dict.fromkeys(key for making in makings for key in making.values))
    optional = _optional(makings, found)
    keys = (*(key for key in found if key not in optional), *optional)
    is_bare = makings[0].table.sense is Sense.RECORD or _is_changed_object(holdings, holding)  # be it the only one
    is_repeated = len(makings) > 1 or _runs_again(module, makings[0])
    is_plain = len(keys) < _FEWEST_KEYS and not _holds_one_of_library(module, makings)
    if not (is_repeated or is_bare) or (is_plain and not _is_handed_on(module, holding)):
        return None
    if _is_only_written(module, holdings, holding):
        return None
    obstacles = tuple(_obstacles(module, holding, makings, keys))
    kind = RecordKind(module, holding, makings, keys, obstacles)
    return kind if is_bare or _are_several(kind) else None


def _optional(makings: Sequence[Making], keys: Iterable[str]) -> list[str]:
    """The keys that some records are made without."""
    return [key for key in keys if any(key not in making.values for making in makings)]


def _defaults(module: Module, holding: Holding, key: str) -> set[str]:
    """What lookups of a key take where it is not there, as it is written; empty for nothing."""
    calls = (call for whole, call in holding.wholes if whole is Whole.LOOKUP and call.parts[1].name == key)
    return {"".join(module.source.slice(part.span) for part in call.parts[2:]) for call in calls}


def is_only_looked_for(holdings: Holdings, holding: Holding) -> bool:
    """Whether what a holding stands for is nowhere asked for anything, but whether it is there."""
    if not holding.wholes or any(whole is not Whole.TRUTH for whole, _ in holding.wholes):
        return False
    known = {*holding.tables, *(expression for _, expression in holding.wholes)}
    return known.issuperset(holdings.expressions_of(holding))


def _is_only_written(module: Module, holdings: Holdings, holding: Holding) -> bool:
    """Whether nothing asks such records for anything, and they are only looked for, or written down at once."""
    if is_only_looked_for(holdings, holding):
        return True
    if not any(whole is Whole.WRITTEN for whole, _ in holding.wholes):
        return False
    keeping = [s for s in holdings.symbols if (held := holdings.of_symbol(s)).element and held.element.now is holding]
    is_kept = any(symbol.is_module_level for symbol in (*keeping, *holding.symbols))
    asked = (e for tree in holdings.trees for e in tree.walk() if e.sense in (Sense.MEMBER, Sense.PART))
    return not is_kept and not any(holdings.of_expression(e.parts[0]) is holding for e in asked)


def _is_changed_object(holdings: Holdings, holding: Holding) -> bool:
    """Whether a table is an object as well, of which the program changes a member."""
    if not holdings.module.dialect.rules.keys_are_members:
        return False
    changes = (tree for tree in holdings.trees if tree.sense in (Sense.SET, Sense.UPDATE))
    targets = [target for tree in changes for target in (tree.parts[:-1] or tree.parts)]
    return any(t.sense is Sense.MEMBER and holdings.of_expression(t.parts[0]) is holding for t in targets)


def _holds_one_of_library(module: Module, makings: Sequence[Making]) -> bool:
    """Whether such records have one value, which a library makes, under the name of its class there."""
    naming, surroundings = module.dialect.naming, Surroundings.of(module)
    held = [(key, maker_of(surroundings, value)) for making in makings for key, value in making.values.items()]
    return len(held) == len(makings) and all(key == naming.member_name(words_of(maker)) for key, maker in held)


def _is_handed_on(module: Module, holding: Holding) -> bool:
    """Whether several functions are given such a record."""
    given = [f for f in module.functions if any(p.reference.symbol in holding.symbols for p in f.parameters)]
    return len(given) >= _FEWEST_FUNCTIONS


def _are_several(kind: RecordKind) -> bool:
    """Whether there may be several such records at a time: they are held in a container, or known to more than one."""
    if containers_of(kind.module, kind.holding):
        return True
    homes = {symbol.scope for symbol in kind.holding.symbols}
    return len(homes) > 1 or len(kind.makings) > 1


def _runs_again(module: Module, making: Making) -> bool:
    """Whether a place may be reached more than once: it stands in a loop, or in a routine that is called again."""
    return _is_repeated(module, making.statement, making.table.start, set())


def _is_repeated(module: Module, statement: Statement | None, offset: int, seen: set[Routine]) -> bool:
    scopes = (scope for scope in module.scope.walk() if scope.start <= offset < scope.end)
    if statement is None or any(s.kind in (ScopeKind.COMPREHENSION, ScopeKind.LAMBDA) for s in scopes):
        return True
    for block in statement.block.outwards():
        if block.routine is not None:
            return _is_called_again(module, block.routine, seen)
        if block.owner is not None and block.owner.is_loop:
            return True
    return False


def _is_called_again(module: Module, function: Routine, seen: set[Routine]) -> bool:
    if not isinstance(function, Function) or function.is_called_from_outside or function.statement.decorators:
        return True
    uses = [r for r in function.symbol.references if r.mode.reads]
    if function.is_method or function in seen or len(uses) != 1 or uses[0].mode is not Mode.CALL:
        return bool(uses) or function.is_method
    return _is_repeated(module, uses[0].statement, uses[0].start, seen | {function})


def _making(holdings: Holdings, table: Expression) -> Making:
    values = {name: value for name, value in entries(table) if name is not None}
    later: list[Expression] = []
    name = _name_given(holdings, table)
    if name is not None:
        for expression in _following(holdings, table):
            target = expression.parts[0]
            if not _sets_key_of(holdings.module, expression, name, table.sense) or target.name in values:
                break
            if not cannot_fail(expression.parts[1]) and _is_seen_half_made(name, expression.statement):
                break
            values[target.name or ""] = expression.parts[1]
            later.append(expression)
    return Making(table, values, tuple(later))


def entries(table: Expression) -> list[tuple[str | None, Expression]]:
    """The plain keys of a table, or the members of a bare object, each with its first value."""
    values = table.parts[1:] if table.sense is Sense.RECORD else table.parts[1::2]
    return list(zip(table.names, values, strict=True))


def _name_given(holdings: Holdings, table: Expression) -> Symbol | None:
    """The variable that a record is given to, where that is all that its statement does."""
    for tree in holdings.trees:
        if tree.sense is Sense.SET and tree.parts[-1] is table and len(tree.parts) == 2:
            reference = tree.parts[0].reference
            return reference.symbol if reference is not None else None
    return None


def _following(holdings: Holdings, table: Expression) -> Iterator[Expression]:
    """The assignments on the statements right behind that of a table, as long as there are any."""
    statement = table.statement
    by_statement = {tree.statement: tree for tree in holdings.trees if tree.sense is Sense.SET}
    for later in statement.block.statements[statement.index + 1 :] if statement is not None else ():
        tree = by_statement.get(later)
        if tree is None or len(tree.parts) != 2 or later.kind is not Kind.ASSIGN:
            return
        yield tree


def factory_of(kind: RecordKind) -> Function | None:
    """The function that does nothing but to make such a record and give it back: it could be a constructor."""
    module = kind.module
    if len(kind.makings) != 1:
        return None
    making = kind.makings[0]
    function = Holdings.of(module).routine_around(making.table.start)
    if function is None or making.statement.block is not function.body or function.is_postponed:
        return None
    if function_obstacles(module, function) or _touches_state(module, function):
        return None
    if module.dialect.rules.keys_are_members and not _could_be_class(module, function):
        return None
    returned = [t for t in Holdings.of(module).trees if t.sense is Sense.RETURN and _is_in(t, function)]
    if len(returned) != 1 or returned[0].statement is not function.body.statements[-1] or len(returned[0].parts) != 1:
        return None
    if returned[0].parts[0] is making.table:
        return function
    name, given = returned[0].parts[0].reference, _name_given(Holdings.of(module), making.table)
    is_given_back = name is not None and name.symbol is given and given.scope is function.scope
    return function if is_given_back and _is_bound_once(given) else None


def _could_be_class(module: Module, function: Function) -> bool:
    """Whether a function is only called, and nowhere before the statement that makes it, as classes may not be."""
    calls = [r for r in function.symbol.references if r is not function.named]
    is_first = first_to_make(module, [function.body.start]).start >= function.statement.start
    is_declared = function.statement.keyword is None and function.statement.kind is Kind.ROUTINE
    return is_first and is_declared and all(r.mode is Mode.CALL and not r.path for r in calls)


def _is_bound_once(symbol: Symbol | None) -> bool:
    if symbol is None or len(symbol.bindings) != 1:
        return False
    return all(reference.scope.holder is symbol.scope for reference in symbol.references)


def _is_in(expression: Expression, function: Function) -> bool:
    return function.statement.start <= expression.start < function.statement.end


def _touches_state(module: Module, function: Function) -> bool:
    return bool(Constants.of(module).changing(Effects.of(module).transitive[function].touches))


def is_fixed(kind: RecordKind, key: str) -> bool:
    """Whether all such records begin with the same plain value under a key, made anew for each."""
    if key in kind.optional:
        return False
    values = [making.values[key] for making in kind.makings]
    texts = {kind.module.source.slice(value.span) for value in values}
    return len(texts) == 1 and all(map(is_plain, values))


def _is_seen_half_made(symbol: Symbol, statement: Statement | None) -> bool:
    """Whether somebody might see a record that was not finished, because working out a value failed."""
    if symbol.scope.frame.kind is not ScopeKind.ROUTINE or statement is None:
        return True
    inside = itertools.takewhile(lambda block: block.routine is None, statement.block.outwards())
    return any(block.owner is not None and block.owner.kind is Kind.GUARDED for block in inside)


def _sets_key_of(module: Module, expression: Expression, symbol: Symbol, sense: Sense) -> bool:
    target, value = expression.parts
    is_object = sense is Sense.RECORD or module.dialect.rules.keys_are_members
    is_entry = target.sense is (Sense.MEMBER if is_object else Sense.PART)
    owner = target.parts[0].reference if is_entry else None
    if owner is None or owner.symbol is not symbol or target.name is None:
        return False
    return not any(inner.reference is not None and inner.reference.symbol is symbol for inner in value.walk())


def _obstacles(
    module: Module, holding: Holding, makings: tuple[Making, ...], keys: tuple[str, ...]
) -> Iterator[Obstacle]:
    for trace in (holding.lost, holding.foreign):
        if trace is not None:
            yield Obstacle(trace.offset, f"a record with `{keys[0]}` {trace.reason}", _ADVICE)
    confused = _asks_for_kind_of_error(module)
    if confused is not None:
        reason = f"`{confused.name}` is caught here, and asking nothing at all for a part would raise another error"
        yield Obstacle(confused.start, reason, _ADVICE)
    for making in makings:
        if None in making.table.names or len(set(making.table.names)) < len(making.table.names):
            yield Obstacle(making.table.start, "this record has keys that are not written out once each", _ADVICE)
        missing = [key for key in keys if key not in making.values]
        if missing and _is_missed(module, holding, makings, keys):
            yield Obstacle(making.table.start, f"this record is made without `{missing[0]}`", _ADVICE)
    bare = [making.table.sense is Sense.RECORD for making in makings]
    if any(bare) and (not all(bare) or holding.accesses):
        yield Obstacle(makings[0].table.start, "this is used both as a table and as an object", _ADVICE)
    if module.dialect.rules.keys_are_members:
        yield from _object_obstacles(module, holding, makings, keys)
    else:
        yield from _table_obstacles(module, holding, makings, keys)
    for symbol in holding.symbols:
        if symbol.scope.kind is ScopeKind.CLASS:
            yield Obstacle(symbol.references[0].start, f"`{symbol.name}` belongs to a class", _ADVICE)


def _is_missed(module: Module, holding: Holding, makings: tuple[Making, ...], keys: tuple[str, ...]) -> bool:
    """Whether somebody could tell a key that records are made without from one under which they have nothing.

    Nor are records of one sort that have little in common.
    """
    optional = _optional(makings, keys)
    if _ALWAYS_FOR_EACH_OPTIONAL * len(optional) > len(keys) - len(optional):
        return True
    is_asked = any(access.name in optional and not _is_set(module, access) for access in holding.accesses)
    if not module.dialect.rules.keys_are_members and is_asked:
        return True
    if any(len(_defaults(module, holding, key)) > 1 for key in optional):
        return True
    return any(whole not in (Whole.TRUTH, Whole.LOOKUP) for whole, _ in holding.wholes)


def _is_set(module: Module, access: Expression) -> bool:
    """Whether a key is only given a value there."""
    around = Surroundings.of(module).around(access)
    return around is not None and around.sense is Sense.SET and access in around.parts[:-1]


def _object_obstacles(
    module: Module, holding: Holding, makings: tuple[Making, ...], keys: tuple[str, ...]
) -> Iterator[Obstacle]:
    """Why tables that are objects already cannot be objects of a class."""
    rules, first = module.dialect.rules, makings[0]
    for key in keys:
        if not rules.is_name(key) or rules.is_private(key) or rules.has_meaning(key):
            yield Obstacle(first.table.start, f"`{key}` is no name that a field could have", _ADVICE)
    for making in makings:
        functions = [value for value in making.values.values() if value.sense is Sense.FUNCTION]
        if functions:
            yield Obstacle(functions[0].start, "this object has a function of its own", _ADVICE)
        order = [key for key in keys if key in making.values]
        moved = [value for (key, value), other in zip(making.values.items(), order, strict=False) if key != other]
        if not all(value.sense in _STEADY for value in moved):
            yield Obstacle(making.table.start, "the values of this object are worked out in another order", _ADVICE)
    for name in sorted(Holdings.of(module).members_of(holding) - set(keys)):
        yield Obstacle(first.table.start, f"`{name}` of such an object is used as well", _ADVICE)
    if any(name.startswith(AT) for name in holding.parts):
        yield Obstacle(first.table.start, "such an object is asked for something by number", _ADVICE)
    orders = {tuple(making.values) for making in makings}
    for whole, expression in holding.wholes:
        if whole is Whole.WRITTEN and len(orders) > 1:
            yield Obstacle(
                expression.start, f"an object with `{keys[0]}` {whole.value} here, each in an order of its own", _ADVICE
            )


def _table_obstacles(
    module: Module, holding: Holding, makings: tuple[Making, ...], keys: tuple[str, ...]
) -> Iterator[Obstacle]:
    """Why what is done with tables could not be done with objects."""
    known = set(keys)
    for access in holding.accesses:
        if access.name not in known or not _is_key(access):
            yield Obstacle(access.start, f"`{access.name}` is no key that such a record is made with", _ADVICE)
        if module.echo_at(access.start) is not None:
            yield Obstacle(access.start, "a template shows this record by its own text", _ADVICE)
    for name in holding.parts:
        if makings[0].table.sense is Sense.RECORD and name.removeprefix(MEMBER) in known:
            continue
        is_method = module.dialect.library.handling_by_method(name.removeprefix(MEMBER)) is not None
        if not (name.startswith(MEMBER) and is_method) and name.removeprefix(KEY) not in known:
            yield Obstacle(makings[0].table.start, f"`{name.lstrip('.')}` of such a record is used as well", _ADVICE)
    for whole, expression in holding.wholes:
        if whole in (Whole.LOOK, Whole.COPY, Whole.WRITTEN) or (
            whole is Whole.LOOKUP and not _is_plain_lookup(expression)
        ):
            yield Obstacle(expression.start, f"a record with `{keys[0]}` {whole.value} here", _ADVICE)


def _asks_for_kind_of_error(module: Module) -> Reference | None:
    """Where the program tells apart the errors that come of asking nothing at all for a part, and for a member."""
    errors = module.dialect.library.errors_of_absence
    return next((r for r in module.references if r.name in errors and r.mode.reads), None)


def _is_key(access: Expression) -> bool:
    return access.parts[1].sense is Sense.CONSTANT and access.parts[1].name is not None


def _is_plain_lookup(call: Expression) -> bool:
    """Whether a lookup with a default could be one without: the key is always there, and the default does nothing."""
    return all(part.sense in (Sense.CONSTANT, Sense.NOTHING) for part in call.parts[1:])
