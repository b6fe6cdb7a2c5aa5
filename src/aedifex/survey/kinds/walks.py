"""Loops over the numbers of a list, or the keys of a table, that serve to reach its things."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import is_needed_after
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled, only_value
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Kind, Statement, final_name
from aedifex.survey.kinds.counted_loops import CountedLoop, loops_through
from aedifex.survey.kinds.loop_names import is_free_for
from aedifex.survey.kinds.spread_lists import count_of, length_of

_PLACES = frozenset({Sense.SET, Sense.UPDATE, Sense.DELETE, Sense.WALK, Sense.NAMED})


@dataclass(frozen=True)
class NumberedWalk:
    """A loop over the numbers of a list: its header, the list as it is named there, and the elements in its body.

    The number `is_needed` where it serves for more than to reach the elements. A loop over the keys of a table
    `is_by_key`: these are its numbers. One that `is_by_count` counts to the list's length without naming the list: it
    is named by the first element; one that `is_counting` keeps its counter itself. `alias` is a name that the body
    gives the element, and nothing else.
    """

    header: Expression
    container: Expression
    elements: tuple[Expression, ...]
    is_needed: bool
    is_by_key: bool = False
    is_by_count: bool = False
    is_counting: bool = False
    alias: Reference | None = None

    @property
    def statement(self) -> Statement:
        """The loop."""
        assert self.header.statement is not None
        return self.header.statement


def numbered_walks(module: Module, container: Symbol, item: str) -> list[NumberedWalk]:
    """The loops over the numbers of a list that could be loops over its elements, under the name `item`.

    Those over the keys of a table likewise.
    """
    surroundings = Surroundings.of(module)
    is_table = Holdings.of(module).of_symbol(container).is_table
    found: list[NumberedWalk] = []
    for reference in container.references:
        name = surroundings.of_reference(reference)
        header = (_over_keys if is_table else over_numbers)(surroundings, name) if name is not None else None
        walk = (
            _walk(surroundings, name, header, is_by_key=is_table) if name is not None and header is not None else None
        )
        if walk is not None and _can_change(module, surroundings, walk, container, item):
            found.append(walk)
    named = {walk.header for walk in found}
    for name, header in counted_loops(module, surroundings, container):
        if header in named:
            continue
        walk = _walk(surroundings, name, header, is_by_key=False)
        if walk is not None and _can_change(module, surroundings, walk, container, item):
            found.append(replace(walk, container=walk.elements[0].parts[0], is_by_count=True))
    for loop, listed in loops_through(module, container):
        counted = _counting_walk(surroundings, loop, listed)
        if counted is not None and _can_change(module, surroundings, counted, container, item):
            found.append(counted)
    return [walk for walk in found if not any(_is_inside(walk, other) for other in found)]


def _is_inside(walk: NumberedWalk, other: NumberedWalk) -> bool:
    """Whether a loop stands in another, which has the name of the element for itself."""
    return other.statement.start < walk.statement.start < other.statement.end


def _counting_walk(surroundings: Surroundings, loop: CountedLoop, listed: Expression) -> NumberedWalk | None:
    """A loop whose counter serves to reach the elements, and may be asked for besides."""
    header = next(t for t in surroundings.by_statement[loop.statement] if t.sense is Sense.SET)
    symbol = listed.reference.symbol if listed.reference is not None else None
    module = surroundings.module
    word = module.dialect.writer.loop_over("", "").partition(" ")[0]
    if not module.source.data.startswith(word.encode(), loop.statement.start):
        return None  # it has a label
    elements: list[Expression] = []
    for use in loop.uses:
        number = surroundings.of_reference(use)
        part = surroundings.around(number) if number is not None else None
        is_part = part is not None and part.sense is Sense.PART and part.parts[1] is number
        if part is not None and is_part and is_named(part.parts[0], symbol):
            elements.append(part)
    aliases = [alias for part in elements if (alias := _alias(surroundings, loop.statement, part)) is not None]
    alias = aliases[0] if len(aliases) == 1 else None
    is_needed = len(elements) < len(loop.uses)
    walk = NumberedWalk(header, listed, tuple(elements), is_needed, is_counting=True, alias=alias)
    return walk if elements else None


def counted_loops(
    module: Module, surroundings: Surroundings, container: Symbol
) -> Iterator[tuple[Expression, Expression]]:
    """The headers of loops that count as far as a list is long, as long as it lives, and where that is named first."""
    only = only_value(container)
    value = surroundings.by_span.get(only.value.span) if only is not None and is_settled(container) else None
    length = length_of(module, value) if value is not None else None
    uses = [r for r in container.references if not r.binds]
    if length is None or not all(only_looks(surroundings, use) for use in uses if use.form is not Form.DECLARATION):
        return
    known: set[Expression] = set()
    for reference in uses:
        name = surroundings.of_reference(reference)
        part = surroundings.around(name) if name is not None else None
        number = part.parts[1].reference if part is not None and part.sense is Sense.PART else None
        header = _header_of(surroundings, reference.statement, number.symbol) if number is not None else None
        if name is None or header is None or header in known or not _is_call(module, header.parts[1], Handling.UP_TO):
            continue
        known.add(header)
        if count_of(module, header.parts[1]) == length:
            yield name, header


def _header_of(surroundings: Surroundings, statement: Statement | None, number: Symbol) -> Expression | None:
    """The header of the innermost loop around a statement that gives a name its numbers."""
    for block in statement.block.outwards() if statement is not None else ():
        for tree in surroundings.by_statement[block.owner]:
            if tree.sense is Sense.WALK and is_named(tree.parts[0], number):
                return tree
    return None


def over_numbers(surroundings: Surroundings, name: Expression) -> Expression | None:
    """The header of a loop that counts the elements of a list."""
    module = surroundings.module
    count = surroundings.around(name)
    numbers = surroundings.around(count) if count is not None and _is_call(module, count, Handling.COUNTS) else None
    header = surroundings.around(numbers) if numbers is not None and _is_call(module, numbers, Handling.UP_TO) else None
    is_walk = header is not None and header.sense is Sense.WALK and header.parts[1] is numbers
    return header if is_walk else None


def _over_keys(surroundings: Surroundings, name: Expression) -> Expression | None:
    """The header of a loop over the keys of a table."""
    header = surroundings.around(name)
    return header if header is not None and header.sense is Sense.WALK and header.parts[1] is name else None


def _walk(surroundings: Surroundings, name: Expression, header: Expression, *, is_by_key: bool) -> NumberedWalk | None:
    """The loop with a header that gives numbers or keys, which leaves those alone."""
    target, statement = header.parts[0], header.statement
    if (
        target.reference is None
        or statement is None
        or statement.kind is not Kind.EACH
        or statement.start != header.start
    ):
        return None
    symbol = name.reference.symbol if name.reference is not None else None
    elements: list[Expression] = []
    is_needed = _is_number_needed_after(surroundings.module, target.reference, statement)
    for reference in target.reference.symbol.references:
        if reference.form is Form.DECLARATION:
            return None
        if not statement.start <= reference.start < statement.end:
            continue
        if reference is target.reference:
            continue
        if reference.mode is not Mode.READ:
            return None
        used = surroundings.of_reference(reference)
        part = surroundings.around(used) if used is not None else None
        if part is not None and part.sense is Sense.PART and part.parts[1] is used and is_named(part.parts[0], symbol):
            elements.append(part)
        else:
            is_needed = True
    aliases = [alias for part in elements if (alias := _alias(surroundings, statement, part)) is not None]
    alias = aliases[0] if len(aliases) == 1 else None
    return NumberedWalk(header, name, tuple(elements), is_needed, is_by_key, alias=alias) if elements else None


def _alias(surroundings: Surroundings, loop: Statement, element: Expression) -> Reference | None:
    """The name that a statement of a loop's body gives an element, if it has no other use than in that body."""
    given = surroundings.around(element)
    statement = given.statement if given is not None else None
    if given is None or statement is None or given.sense is not Sense.SET or len(given.parts) != 2:
        return None
    target = given.parts[0].reference
    if given.parts[0].sense is not Sense.NAME or target is None or statement.block is not loop.blocks[0]:
        return None
    uses = target.symbol.references
    is_own = all(r.start >= statement.start and r.end <= loop.blocks[0].end for r in uses)
    is_plain = all(r.form is not Form.DECLARATION and not r.scope.is_apart_from(target.scope) for r in uses)
    return target if is_own and is_plain and len(target.symbol.bindings) == 1 and len(uses) > 1 else None


def lone_call_around(surroundings: Surroundings, expression: Expression) -> str:
    """The builtin that is called with an expression and nothing else; empty where none is."""
    around = surroundings.around(expression)
    return _lone_call(around) if around is not None and around.parts[0] is not expression else ""


def builtin_called(call: Expression) -> str:
    """The builtin function that an expression calls; empty where it does not."""
    callee = call.parts[0].reference if call.sense is Sense.CALL else None
    return callee.name if callee is not None and callee.is_builtin else ""


def _lone_call(call: Expression) -> str:
    """The builtin that an expression calls with only one argument; empty where it does not."""
    return builtin_called(call) if len(call.parts) == 2 else ""


def _is_call(module: Module, call: Expression, handling: Handling) -> bool:
    """Whether an expression is a call of a builtin that does one thing with its only argument."""
    function = _lone_call(call)
    return bool(function) and module.dialect.library.handling_by_function(function) is handling


def _is_number_needed_after(module: Module, target: Reference, loop: Statement) -> bool:
    """Whether a loop's last number may be read when it is over."""
    symbol = target.symbol
    outside = [r for r in symbol.references if not loop.start <= r.start < loop.end]
    if any(r.scope is not symbol.scope or r.form is Form.DECLARATION for r in outside):
        return any(map(_is_left_over, outside))
    is_known = symbol.is_module_level and module.is_known_outside(symbol.name)
    return is_known or (bool(outside) and is_needed_after(module, symbol, loop))


def _is_left_over(reference: Reference) -> bool:
    """Whether a name may be read outside of the loops that give it a value."""
    if reference.binds:
        return False
    statement = reference.statement
    while statement is not None:
        if statement.kind is Kind.EACH and any(
            r.symbol is reference.symbol and r.binds and r.form is Form.LOOP for r in statement.references
        ):
            return False
        statement = statement.block.owner
    return True


def _can_change(module: Module, surroundings: Surroundings, walk: NumberedWalk, container: Symbol, item: str) -> bool:
    number = walk.header.parts[0].reference
    if number is None or number.scope.is_apart_from(number.symbol.scope):
        return False
    is_alias = walk.alias is not None and number.scope.find(item) is walk.alias.symbol
    if not is_alias and not is_free_for(module, number.scope, item, walk.statement):
        return False
    named = [r for r in module.references_within(walk.statement.span) if r.name == item]
    if any(walk.alias is None or r.symbol is not walk.alias.symbol for r in named):
        return False
    if any(
        part.parts[1].reference is not None and part.parts[1].reference.scope.is_apart_from(number.scope)
        for part in walk.elements
    ):
        return False
    if any(is_place(surroundings, part) for part in walk.elements):
        return False
    counter = module.dialect.writer.counter
    if walk.is_needed and not walk.is_by_key and any(counter in scope.symbols for scope in module.scope.walk()):
        return False
    held = Holdings.of(module).of_symbol(container)
    if len(held.symbols) > 1 or held.foreign or held.classes or (held.is_table and held.rows):
        return False
    if walk.is_counting and held.lost:
        return False
    effects = Effects.of(module)
    scopes = {routine.scope for routine in effects.may_run_in(walk.statement)}
    for reference in container.references:
        is_inside = walk.statement.start <= reference.start < walk.statement.end
        if is_inside or any(reference.scope.within(scope) for scope in scopes):
            if reference.form is not Form.DECLARATION and not only_looks(surroundings, reference):
                return False
    return container.scope.frame.kind in (ScopeKind.MODULE, ScopeKind.ROUTINE)


def is_place(surroundings: Surroundings, part: Expression) -> bool:
    """Whether an element is given another value itself."""
    around = surroundings.around(part)
    return around is not None and around.sense in _PLACES and part in around.parts[: max(len(around.parts) - 1, 1)]


def only_looks(surroundings: Surroundings, reference: Reference) -> bool:
    """Whether a list is only looked at: what is in it stays, and nothing comes in."""
    name = surroundings.of_reference(reference)
    around = surroundings.around(name) if name is not None else None
    if name is None or around is None or reference.binds:
        return False
    if around.sense is Sense.PART and around.parts[0] is name:
        return not is_place(surroundings, around)
    if around.sense is Sense.CALL and around.parts[0] is not name:
        return only_reads(surroundings, around)
    if around.sense is Sense.MEMBER:
        return surroundings.module.dialect.library.keeps_places(around.name or "")
    return around.sense is Sense.WALK and around.parts[0] is not name


def only_reads(surroundings: Surroundings, call: Expression) -> bool:
    """Whether what is called does nothing to what it is given: a builtin, or what a library has to write down data."""
    callee = next((part.reference for part in call.parts[0].walk() if part.reference is not None), None)
    if callee is None:
        return False
    library, is_library = surroundings.module.dialect.library, callee.symbol.imported is not None
    is_written = is_library and library.handling_by_function(final_name(callee)) is Handling.WRITES
    return (callee.is_builtin and call.parts[0].sense is Sense.NAME) or is_written
