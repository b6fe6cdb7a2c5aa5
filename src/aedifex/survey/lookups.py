"""Who looks for records in a list or table of them."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property

from aedifex.program.analysis.flow import Flow, leaves
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import only_value
from aedifex.program.dialect.handling import CHANGING, Handling, Search
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Kind, Leave, Sort, Statement
from aedifex.program.structure.layout import Layout
from aedifex.source.text import Span
from aedifex.survey.kinds.walks import is_place, only_looks, only_reads
from aedifex.survey.record_deeds import deeds, kept_value
from aedifex.survey.record_questions import RecordQuestion, key_asked, record_questions, sign_between

_HOLDING = frozenset({Sense.LIST, Sense.TUPLE, Sense.TABLE, Sense.GROUP, Sense.SPREAD, Sense.EITHER, Sense.CHOICE})
_STEERING = frozenset({Leave.BREAK, Leave.CONTINUE})
_FEWEST = 2
_RECORDS = ({Sense.TABLE}, {Sense.CALL})


@dataclass(frozen=True)
class Lookup:
    """A loop over a list whose one statement asks each record for one value, and leaves the loop where it has it.

    `item` is the name of the record, `container` the list, `key` the text by which the record's value is asked for,
    `sign` the one of the comparison, `wanted` the value looked for; where it `is_first` the record stands on the left.
    """

    routine: Function
    loop: Statement
    item: Expression
    container: Expression
    branch: Statement
    asked: Expression
    key: str
    sign: str
    wanted: Expression
    is_first: bool

    @property
    def way(self) -> tuple[str, str, bool]:
        """How a record is compared with the value."""
        return self.key, self.sign, self.is_first

    @property
    def found(self) -> Sequence[Statement]:
        """What is done with the record."""
        return self.branch.blocks[0].statements

    @property
    def next(self) -> Statement | None:
        """The statement behind the loop."""
        behind = self.loop.block.statements[self.loop.index + 1 :]
        return behind[0] if behind else None


def lists_of_records(module: Module) -> Iterator[Symbol]:
    """The variables of a module that hold one list of tables or objects, which is written out, or begins empty."""
    for symbol, written in _written_out(module, Sort.LIST):
        if written.sense is not Sense.LIST:
            continue
        is_told = len(written.parts) >= _FEWEST and {part.sense for part in written.parts} in _RECORDS
        if is_told or (not written.parts and _is_filled(module, symbol)):
            yield symbol


def _is_filled(module: Module, symbol: Symbol) -> bool:
    """Whether a function puts tables or objects into a list."""
    adding = [deed for deed in deeds(module, symbol) if deed.handling is Handling.ADDS]
    element = Holdings.of(module).of_symbol(symbol).element
    is_of_records = element is not None and bool(element.now.tables or element.now.classes)
    return is_of_records and any(is_in_function(deed.call) for deed in adding)


def lists_looked_in(module: Module) -> list[Symbol]:
    """The lists of records in which functions look for one."""
    return [symbol for symbol in lists_of_records(module) if Askers.of_list(module, symbol).is_asked_within]


def tables_of_records(module: Module) -> Iterator[Symbol]:
    """The variables of a module that are set once, to a table of tables or objects that is written out."""
    for symbol, written in _written_out(module, Sort.TABLE):
        is_table = written.sense is Sense.TABLE and len(written.parts) >= 2 * _FEWEST
        keys, records = {part.sense for part in written.parts[::2]}, {part.sense for part in written.parts[1::2]}
        if is_table and keys == {Sense.CONSTANT} and records in _RECORDS:
            yield symbol


def _written_out(module: Module, sort: Sort) -> Iterator[tuple[Symbol, Expression]]:
    """The variables of a module that begin with a value of one sort, and keep it, with what is written there."""
    values = {t.statement: t.parts[-1] for t in Surroundings.of(module).trees if t.sense is Sense.SET}
    for symbol in module.scope.symbols.values():
        given = kept_value(module, symbol)
        if given is not None and given.value.sort is sort and given.statement in values:
            yield symbol, values[given.statement]


def askings(module: Module, container: Symbol) -> list[Expression]:
    """The places that ask a table for what is under a key; none where some give it others, or take them away.

    They all ask in one way, as most do: by the signs for an element, or by a method that has no other answer. Some
    function must ask by a key that is not written out.
    """
    surroundings = Surroundings.of(module)
    names = [surroundings.of_reference(r) for r in container.references if r.mode is Mode.READ]
    around = [surroundings.around(name) for name in names if name is not None]
    parts = [a for a in around if a is not None and a.sense is Sense.PART and is_named(a.parts[0], container)]
    calls = [surroundings.around(a) for a in around if a is not None and a.sense is Sense.MEMBER]
    gets = [call for call in calls if call is not None and _only_looks_up(module, call)]
    if any(is_place(surroundings, part) for part in parts):
        return []
    found = parts if len(parts) >= len(gets) else gets
    is_asked = any(one.parts[1].sense is not Sense.CONSTANT and is_in_function(one) for one in found)
    return found if is_asked else []


def _only_looks_up(module: Module, call: Expression) -> bool:
    """Whether an expression calls a method that looks something up by a key, and is given no other answer."""
    callee, library = call.parts[0], module.dialect.library
    if call.sense is not Sense.CALL or callee.sense is not Sense.MEMBER or len(call.parts) != 2 or any(call.names):
        return False
    name = callee.name or ""
    return library.handling_by_method(name) is Handling.LOOKS_UP and library.only_reads_object(name)


def is_in_function(expression: Expression) -> bool:
    """Whether an expression stands in a function, and not in the main code."""
    blocks = expression.statement.block.outwards() if expression.statement is not None else ()
    return any(block.routine is not None for block in blocks)


@dataclass(frozen=True)
class Askers:
    """Who looks for records of a list: loops, in the way of the most, and expressions, each sort by each key in one."""

    loops: list[Lookup]
    questions: list[RecordQuestion]
    key: str
    """The key by which most look for one record."""

    @classmethod
    def of_list(cls, module: Module, container: Symbol) -> Askers:
        """Who asks a list."""
        loops = list(_Finder(module, container).find())
        questions = [question for question in record_questions(module, container) if not question.is_contrary]
        looking: list[Lookup | RecordQuestion] = [*loops, *(q for q in questions if q.search is Search.FIRST)]
        ways = [one.way for one in looking or questions]
        most = max(ways, key=ways.count, default=None)
        own = {(q.search, q.key): q.way for q in reversed(questions)}
        if most is not None:
            own[Search.FIRST, most[0]] = most
        return cls(
            [one for one in loops if one.way == most],
            [one for one in questions if own[one.search, one.key] == one.way],
            most[0] if most is not None else "",
        )

    @property
    def firsts(self) -> list[RecordQuestion]:
        """The expressions that look for one record, by the key of the most."""
        return [q for q in self.questions if q.search is Search.FIRST and q.key == self.key]

    @property
    def for_all(self) -> list[RecordQuestion]:
        """The expressions that look for all of a sort."""
        return [q for q in self.questions if q.search is Search.ALL]

    @property
    def is_asked_within(self) -> bool:
        """Whether some function looks for a record."""
        return bool(self.loops) or any(is_in_function(one.whole) for one in self.questions)


def kept_name(module: Module, lookup: Lookup) -> Statement | None:
    """The statement above a lookup that only says `nothing` of the name which the record is then given."""
    trees = Surroundings.of(module).by_statement
    block, index = lookup.loop.block, lookup.loop.index
    above, given = block.statements[index - 1] if index else None, trees[lookup.found[0]]
    first = trees[above] if above is not None else []
    if len(given) != 1 or len(first) != 1 or lookup.item.reference is None or any(s.calls for s in lookup.found):
        return None
    name, begun = given[0].parts[0], first[0].parts[0]
    is_plain = all(t.sense is Sense.SET and len(t.parts) == 2 for t in (given[0], first[0]))
    is_same = name.reference is not None and is_named(begun, name.reference.symbol) and name.sense is Sense.NAME
    is_all = len(lookup.found) == 1 or (len(lookup.found) == 2 and lookup.found[1].leaves == {Leave.BREAK})
    is_kept = is_plain and is_same and is_all and is_named(given[0].parts[1], lookup.item.reference.symbol)
    return above if is_kept and finds_nothing(module, first[0].parts[1]) else None


def finds_nothing(module: Module, value: Expression) -> bool:
    """Whether a value is the one that a search for the first gives which finds none."""
    return value.sense is Sense.NOTHING and module.source.slice(value.span) == module.dialect.writer.no_value()


def lone_kept_name(module: Module, lookup: Lookup) -> Statement | None:
    """The same statement; None where it shares its line, or a comment stands in it or in the lookup."""
    above, layout = kept_name(module, lookup), Layout.of(module)
    if above is None or not layout.stands_alone(above):
        return None
    whole = Span(above.start, layout.own_lines(lookup.found[-1]).end)
    return None if any(whole.start <= comment.start < whole.end for comment in module.comments) else above


class _Finder:
    def __init__(self, module: Module, container: Symbol) -> None:
        self.module = module
        self.container = container
        self.surroundings = Surroundings.of(module)

    def find(self) -> Iterator[Lookup]:
        for function in self.module.all_functions:
            for statement in function.body.walk():
                lookup = self.lookup(function, statement)
                if lookup is not None and self.is_sure(lookup):
                    yield lookup

    def lookup(self, function: Function, loop: Statement) -> Lookup | None:
        walked = next((t for t in self.surroundings.by_statement[loop] if t.sense is Sense.WALK), None)
        if loop.kind is not Kind.EACH or walked is None or len(loop.blocks) != 1 or len(walked.parts) != 2:
            return None
        item, container = walked.parts
        branch = loop.blocks[0].statements[0]
        if len(loop.blocks[0].statements) != 1 or branch.kind is not Kind.BRANCH or len(branch.blocks) != 1:
            return None
        if not self.is_name(item) or not self.is_name(container) or self.symbol_of(container) is not self.container:
            return None
        tests = self.surroundings.conditions(branch)
        if len(tests) != 1 or not tests[0].is_equality:
            return None
        for number, asked in enumerate(tests[0].parts):
            wanted = tests[0].parts[1 - number]
            key = key_asked(self.module, asked, self.symbol_of(item))
            if key and self.is_plain(wanted, function, loop):
                sign = sign_between(self.module, tests[0])
                return Lookup(function, loop, item, container, branch, asked, key, sign, wanted, number == 0)
        return None

    def is_name(self, expression: Expression) -> bool:
        reference = expression.reference
        return expression.sense is Sense.NAME and reference is not None and not reference.path

    def symbol_of(self, expression: Expression) -> Symbol | None:
        return expression.reference.symbol if expression.reference is not None else None

    def is_plain(self, wanted: Expression, function: Function, loop: Statement) -> bool:
        """Whether a value is the same before the loop as in it, and cannot fail.

        It is a constant, a parameter, or a local variable that a statement above in the same block has set.
        """
        if wanted.sense is Sense.CONSTANT:
            return True
        if wanted.sense is not Sense.NAME or wanted.reference is None or wanted.reference.path:
            return False
        symbol = wanted.reference.symbol
        if symbol.scope is not function.scope or any(r.mode is Mode.DELETE for r in symbol.references):
            return False
        if any(r.form is Form.PARAMETER for r in symbol.references):
            return True
        only = symbol.bindings[0] if len(symbol.bindings) == 1 else None
        above = only.statement if only is not None else None
        is_set = above is not None and above.kind is Kind.ASSIGN and above.block is loop.block
        return is_set and above is not None and above.start < loop.start

    def is_sure(self, lookup: Lookup) -> bool:
        """Whether the first record that has the value is the only one that counts, and its name is of no other use."""
        if self.keeps_last(lookup):
            return self.is_of_no_other_use(lookup)
        last, others = lookup.found[-1], lookup.found[:-1]
        is_left_by = last.leaves & {Leave.RETURN, Leave.RAISE, Leave.BREAK} if last.kind is Kind.LEAVE else None
        if not is_left_by:
            return self.goes_on_in_vain(lookup) and self.is_of_no_other_use(lookup)
        if _STEERING & leaves(others) or (Leave.BREAK in is_left_by and not others):
            return False
        return self.is_of_no_other_use(lookup)

    def goes_on_in_vain(self, lookup: Lookup) -> bool:
        """Whether a loop that is not left finds no second record: no two can have the value, and it stays the same."""
        wanted = lookup.wanted.reference
        written = [r for r in self.module.references_within(lookup.loop.span) if r.mode.writes]
        is_same = wanted is None or all(r.symbol is not wanted.symbol for r in written)
        return is_same and not _STEERING & leaves(lookup.found) and self.is_unique(lookup.asked)

    def keeps_last(self, lookup: Lookup) -> bool:
        """Whether a loop gives the last record that has the value a name, and no two records can have the same."""
        return kept_name(self.module, lookup) is not None and len(lookup.found) == 1 and self.is_unique(lookup.asked)

    def is_unique(self, asked: Expression) -> bool:
        """Whether all records of the list are written out, keep what they are asked for, and none has another's."""
        if any(not r.binds and not self.is_looked_at(r) for r in self.container.references):
            return False
        key = asked.name if asked.sense is Sense.MEMBER else asked.parts[1].name
        if not self.are_kept(key):
            return False
        for tree in self.surroundings.trees:
            targets = tree.parts[:-1] if tree.sense in (Sense.SET, Sense.UPDATE) else []
            if any(self.key_name(target) == key and not self.is_first_value(target) for target in targets):
                return False
        only = only_value(self.container)
        written = self.surroundings.by_span.get(only.value.span) if only is not None else None
        values = [self.value_in(record, key) for record in (written.parts if written is not None else ())]
        return bool(values) and None not in values and len(set(values)) == len(values)

    def are_kept(self, key: str | None) -> bool:
        """Whether all that is done with the records is understood, and nothing gives one something else under a key."""
        holdings = Holdings.of(self.module)
        element = holdings.of_symbol(self.container).element
        if element is None:
            return False
        uses = [use for use, held in holdings.known.items() if held.now is element.now]
        several = [u for u, h in holdings.known.items() if h.now.element and h.now.element.now is element.now]
        return not any(self.may_change(use, key) for use in uses) and not any(
            map(self.is_given_away, (*uses, *several))
        )

    def is_given_away(self, use: Expression) -> bool:
        """Whether a record, or what holds some, is given to code that no one can see and that may change it."""
        around = self.surroundings.around(use)
        while around is not None and around.sense in _HOLDING:
            use, around = around, self.surroundings.around(around)
        if around is None or around.sense is not Sense.CALL or around.parts[0] is use:
            return False
        callee, library = around.parts[0], self.module.dialect.library
        held = Holdings.of(self.module).of_expression(callee)
        is_own = bool(held.routines or held.makers) and held.foreign is None
        is_put = callee.sense is Sense.MEMBER and library.handling_by_method(callee.name or "") in CHANGING
        return not is_own and not is_put and not only_reads(self.surroundings, around)

    def may_change(self, use: Expression, key: str | None) -> bool:
        """Whether an expression that gives a record stands where the record may get something else under a key."""
        around = self.surroundings.around(use)
        if around is None or not around.parts or around.parts[0] is not use:
            return False
        if around.sense is Sense.PART and is_place(self.surroundings, around):
            return around.parts[1].sense is not Sense.CONSTANT or around.parts[1].name in (None, key)
        if around.sense is Sense.MEMBER:
            call = self.surroundings.around(around)
            is_method = call is not None and call.sense is Sense.CALL and call.parts[0] is around
            is_known = around.name in self.own_methods or self.module.dialect.library.only_reads_object(
                around.name or ""
            )
            return is_method and not is_known
        return around.sense is Sense.UPDATE

    @cached_property
    def own_methods(self) -> frozenset[str]:
        return frozenset(function.name for function in self.module.all_functions if function.is_method)

    def is_looked_at(self, reference: Reference) -> bool:
        return reference.form is Form.DECLARATION or only_looks(self.surroundings, reference)

    @staticmethod
    def key_name(target: Expression) -> str | None:
        """The member or plain key that a target is."""
        if target.sense is Sense.PART:
            return target.parts[1].name
        return target.name if target.sense is Sense.MEMBER else None

    def is_first_value(self, target: Expression) -> bool:
        """Whether a target is a field of an object that its constructor sets."""
        statement = target.statement
        routine = statement.block.routine_around if statement else None
        return isinstance(routine, Function) and self.module.dialect.rules.is_constructor(routine.name)

    def value_in(self, record: Expression, key: str | None) -> str | None:
        """The constant that a record which is written out has under a key, as it is spelled; None for any other."""
        value: Expression | None = None
        if record.sense is Sense.TABLE:
            keys = [part.name for part in record.parts[::2]]
            value = record.parts[1 + 2 * keys.index(key)] if keys.count(key) == 1 else None
        elif record.sense is Sense.CALL and not any(record.names):
            number = self.argument_for(record.parts[0], key)
            value = record.parts[1 + number] if number is not None and number + 1 < len(record.parts) else None
        return self.module.source.slice(value.span) if value is not None and value.sense is Sense.CONSTANT else None

    def argument_for(self, maker: Expression, field: str | None) -> int | None:
        """Which argument a constructor of the script keeps in a field as it is."""
        name = maker.reference.name if maker.reference is not None and not maker.reference.path else ""
        scope = next((scope for scope in self.module.classes if scope.name == name), None)
        made = Holdings.of(self.module).places.constructor_of(scope) if scope is not None else None
        for statement in made.body.statements if made is not None else ():
            for tree in self.surroundings.by_statement[statement]:
                if tree.sense is Sense.SET and len(tree.parts) == 2 and self.key_name(tree.parts[0]) == field:
                    given = [p.reference.symbol for p in made.parameters] if made is not None else []
                    value = tree.parts[1].reference
                    is_given = tree.parts[1].sense is Sense.NAME and value is not None and value.symbol in given
                    return given.index(value.symbol) - 1 if is_given and value is not None else None
        return None

    def is_of_no_other_use(self, lookup: Lookup) -> bool:
        """Whether the name of a record serves for the lookup alone."""
        assert lookup.item.reference is not None
        item, scope = lookup.item.reference.symbol, lookup.routine.scope
        around = self.module.references_within(lookup.routine.statement.span)
        is_own = item.scope.frame is scope and all(r.scope.frame is scope for r in item.references)
        is_alone = item.scope is scope or all(r.symbol is item for r in around if r.name == item.name)
        if not is_own or not is_alone or scope.kind is not ScopeKind.ROUTINE:
            return False
        begin = Layout.of(self.module).lines(lookup.found[0]).start
        if any(lookup.loop.start <= comment.start < begin for comment in self.module.comments):
            return False  # it tells of the loop
        written = [r for r in self.module.references_within(lookup.loop.span) if r.symbol is item and not r.mode.reads]
        return len(written) == 1 and item not in Flow(self.module, lookup.routine).live_after(lookup.loop)
