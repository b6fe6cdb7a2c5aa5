"""What a program does with lists side by side."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import given_values
from aedifex.program.dialect.handling import CALLING, Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Origin, Reference, Symbol
from aedifex.program.model.statements import Function, Kind, Shape, Statement
from aedifex.program.structure.obstacles import Obstacle, variable_obstacles
from aedifex.source.text import Span
from aedifex.survey.kinds.column_places import ColumnPlaces
from aedifex.survey.kinds.plain_values import cannot_fail, is_plain
from aedifex.survey.kinds.spread_lists import counted_by, is_spread, spread

_FEWEST = 2
_SPLICING = 3
"""A method, a place, and how many."""
_READING = frozenset({Handling.LOOKS, Handling.SORTS, Handling.ELEMENT, Handling.MAKES})
_ADVICE = "Leave these lists as they are, or write that part in another way first."


@dataclass(frozen=True)
class Row:
    """A run of statements that does the same to each column: the expression for each, in the order of the text."""

    parts: dict[Symbol, Expression]
    statements: tuple[Statement, ...]


@dataclass(frozen=True)
class Walk:
    """A loop over columns: its header, the name that each column's element has in it, and the number's if it counts."""

    header: Expression
    names: dict[Symbol, Symbol]
    is_counted: bool = False


@dataclass
class ColumnUses:
    """All uses of some columns, by what is done; what is not understood is among the `obstacles`."""

    starts: list[Row] = field(default_factory=list)
    additions: list[Row] = field(default_factory=list)
    placings: list[Row] = field(default_factory=list)
    removals: list[Row] = field(default_factory=list)
    clearings: list[Row] = field(default_factory=list)
    elements: list[Expression] = field(default_factory=list)
    counts: list[Expression] = field(default_factory=list)
    walks: list[Walk] = field(default_factory=list)
    wholes: list[Expression] = field(default_factory=list)
    declarations: list[Reference] = field(default_factory=list)
    obstacles: list[Obstacle] = field(default_factory=list)

    @property
    def placed(self) -> set[Statement]:
        """The statements of the placings."""
        return {statement for row in self.placings for statement in row.statements}


def read_uses(module: Module, columns: Sequence[Symbol]) -> ColumnUses:
    """What is done with some columns."""
    return _Reader(module, columns).read()


class _Reader:
    """Reads what is done with some columns."""

    def __init__(self, module: Module, columns: Sequence[Symbol]) -> None:
        self.module = module
        self.columns = columns
        self.library = module.dialect.library
        self.effects = Effects.of(module)
        self.surroundings = Surroundings.of(module)
        self.uses = ColumnUses()
        self.runs: dict[str, dict[Statement, tuple[Symbol, Expression, str]]] = defaultdict(dict)

    def read(self) -> ColumnUses:
        for column in self.columns:
            self.uses.obstacles += variable_obstacles(self.module, column)
            for reference in column.references:
                if reference.form is Form.DECLARATION:
                    self.uses.declarations.append(reference)
                else:
                    self.read_reference(column, reference)
        self.uses.starts = self.rows("start")
        self.uses.additions = self.rows("addition")
        self.uses.removals = self.rows("removal")
        self.uses.clearings = self.rows("clearing")
        self.check_rows()
        if self.module.dialect.rules.ends_silently:
            self.find_placings()
            self.check_places()
        return self.uses

    def object(self, offset: int, reason: str) -> None:
        self.uses.obstacles.append(Obstacle(offset, reason, _ADVICE))

    # -- one use

    def read_reference(self, column: Symbol, reference: Reference) -> None:
        name = self.surroundings.of_reference(reference)
        around = self.surroundings.around(name) if name is not None else None
        if name is None or around is None or reference.statement is None:
            self.object(reference.start, f"`{column.name}` is used here in a way that is not followed")
        elif self.module.echo_at(reference.start) is not None:
            self.object(reference.start, f"a template shows `{column.name}` by its own text")
        elif around.sense is Sense.SET and around.parts[-1] is not name:
            self.note("start", around, column, spread(self.module, around.parts[-1]) or around.parts[-1])
        elif self.says_how_many(reference):
            pass
        elif around.sense is Sense.PART and around.parts[0] is name:
            self.read_part(column, around)
        elif around.sense is Sense.MEMBER and around.name == self.library.count_member:
            self.read_length(column, around)
        elif around.sense is Sense.MEMBER:
            self.read_method(column, around)
        elif around.sense is Sense.WALK and around.parts[1] is name:
            self.read_walk(around, [around.parts[0]], [column])
        elif around.sense is Sense.CALL and name in around.parts[1:] and self.is_spread_out(around, name):
            self.uses.wholes.append(name)
        elif around.sense is Sense.CALL and name in around.parts[1:]:
            self.read_call(column, around, name)
        elif (around.sense is Sense.WITHIN and around.parts[1] is name) or around.sense is Sense.SUM:
            self.uses.wholes.append(name)
        else:
            self.object(reference.start, f"`{column.name}` is used as a whole here")

    def is_spread_out(self, call: Expression, name: Expression) -> bool:
        """Whether a call is given all elements one by one, in a language that has them first."""
        ends_silently = self.module.dialect.rules.ends_silently
        return ends_silently and list(call.names)[call.parts.index(name) - 1] == "*"

    def says_how_many(self, reference: Reference) -> bool:
        """Whether a use only tells how often another column holds its first value."""
        assignment = reference.statement.assignment if reference.statement is not None else None
        pairs = assignment.pairs if assignment is not None else ()
        values = [pair.value for pair in pairs if pair.target.symbol in self.columns]
        around = [value for value in values if value.start <= reference.start < value.end]
        written = self.surroundings.by_span.get(around[0].span) if len(around) == 1 else None
        listed = spread(self.module, written) if written is not None else None
        return listed is not None and is_spread(listed)

    def note(self, what: str, expression: Expression, column: Symbol, value: Expression, key: str = "") -> None:
        """Note a statement that does something to one column."""
        statement = expression.statement
        if statement is None or statement in self.runs[what] or statement.kind is Kind.EACH:
            self.object(expression.start, f"`{column.name}` stands here beside others")
        else:
            self.runs[what][statement] = (column, value, key)

    def read_part(self, column: Symbol, part: Expression) -> None:
        around = self.surroundings.around(part)
        if around is not None and around.sense is Sense.DELETE and self.module.dialect.rules.ends_silently:
            self.object(part.start, f"an element of `{column.name}` is left empty here")
        elif around is not None and around.sense is Sense.DELETE:
            self.note("removal", around, column, part, self.module.source.slice(part.parts[1].span))
            if len(around.parts) != 1 or not cannot_fail(part.parts[1]):
                self.object(part.start, f"more than one element of `{column.name}` may go here")
        else:
            self.uses.elements.append(part)

    def read_length(self, column: Symbol, length: Expression) -> None:
        around = self.surroundings.around(length)
        is_set = around is not None and around.sense in (Sense.SET, Sense.UPDATE) and around.parts[0] is length
        if around is None or not is_set:
            self.uses.counts.append(length.parts[0])
        elif around.sense is Sense.SET and self.module.source.slice(around.parts[-1].span) == "0":
            self.note("clearing", around, column, around.parts[-1])
        else:
            self.object(length.start, f"the length of `{column.name}` is set here")

    def read_method(self, column: Symbol, method: Expression) -> None:
        call = self.surroundings.around(method)
        if call is None or call.sense is not Sense.CALL or call.parts[0] is not method:
            self.object(method.start, f"a method of `{column.name}` is used as a value here")
            return
        around = self.surroundings.around(call)
        is_alone = around is not None and around.sense is Sense.ALONE
        handling = self.library.handling_by_method(method.name or "")
        if self.library.adds_one(method.name or "") and is_alone and list(call.names) == [""]:
            self.note("addition", around or call, column, call.parts[1], method.name or "")
        elif handling is Handling.EMPTIES and is_alone:
            self.note("clearing", around or call, column, call)
        elif is_alone and self.takes_only(call, handling):
            given = self.module.source.slice(Span(method.end, call.end))
            self.note("removal", around or call, column, call, f"{method.name}{given}")
        elif self.library.only_reads_object(method.name or "") and not self.may_look_back(column, call, handling):
            self.uses.wholes.append(method.parts[0])
        else:
            self.object(method.start, f"`{column.name}` changes by itself here")

    @staticmethod
    def takes_only(call: Expression, handling: Handling | None) -> bool:
        """Whether a method takes elements out and puts none in, by numbers that do nothing."""
        is_taking = handling is Handling.TAKES or (handling is Handling.SPLICES and len(call.parts) == _SPLICING)
        return is_taking and not any(call.names) and all(map(cannot_fail, call.parts[1:]))

    def may_look_back(self, column: Symbol, call: Expression, handling: Handling | None) -> bool:
        """Whether the lists may change while what a method gives is gone through, or by what it calls."""
        if not self.module.dialect.rules.ends_silently:
            return False
        around = self.surroundings.around(call)
        if around is not None and around.sense is Sense.WALK:
            return True
        if handling not in CALLING:
            return False
        own = [r for r in self.module.references_within(call.span) if r.symbol in self.columns]
        return len(own) > 1 or (call.statement is not None and self.may_change_during(call.statement, column))

    def read_call(self, column: Symbol, call: Expression, name: Expression) -> None:
        callee = call.parts[0].reference
        if callee is None or callee.symbol.origin is not Origin.BUILTIN or call.parts[0].sense is not Sense.NAME:
            self.object(call.start, f"`{column.name}` is handed over as a whole here")
            return
        handling = self.library.handling_by_function(callee.name)
        around = self.surroundings.around(call)
        is_walked = around is not None and around.sense is Sense.WALK and around.parts[1] is call
        if handling is Handling.COUNTS and len(call.parts) == 2:
            self.uses.counts.append(name)
        elif is_walked and around is not None and handling is Handling.NUMBERED:
            self.read_counted(column, around, call)
        elif is_walked and around is not None and handling is Handling.SIDE_BY_SIDE:
            self.read_side_by_side(column, around, call)
        elif handling in _READING or self.library.only_reads_arguments(callee.name):
            self.uses.wholes.append(name)
        else:
            self.object(call.start, f"`{column.name}` is handed over as a whole here")

    # -- loops

    def read_counted(self, column: Symbol, header: Expression, call: Expression) -> None:
        target = header.parts[0]
        if target.sense is Sense.TUPLE and len(target.parts) == 2 and target.parts[0].sense is Sense.NAME:
            self.read_walk(header, [target.parts[1]], [column], is_counted=True)
        else:
            self.object(call.start, f"`{column.name}` is counted here in a way that is not followed")

    def read_side_by_side(self, column: Symbol, header: Expression, call: Expression) -> None:
        symbols = [part.reference.symbol if part.reference is not None else None for part in call.parts[1:]]
        target = header.parts[0]
        own = [symbol for symbol in symbols if symbol is not None and symbol in self.columns]
        is_whole = len(own) == len(symbols) == len(set(own)) and len(target.parts) == len(own)
        if not is_whole or target.sense is not Sense.TUPLE:
            self.object(call.start, f"`{column.name}` is walked over beside something else here")
        elif own[0] is column:
            self.read_walk(header, target.parts, own)

    def read_walk(
        self, header: Expression, targets: Sequence[Expression], columns: Sequence[Symbol], *, is_counted: bool = False
    ) -> None:
        names: dict[Symbol, Symbol] = {}
        statement = header.statement
        for target, column in zip(targets, columns, strict=True):
            reference = target.reference
            if target.sense is not Sense.NAME or reference is None or statement is None:
                self.object(header.start, f"`{column.name}` is walked over here in a way that is not followed")
                return
            symbol = reference.symbol
            names[column] = symbol
            inside = [r for r in symbol.references if statement.start <= r.start < statement.end]
            if len(symbol.bindings) != 1 or len(inside) != len(symbol.references):
                self.object(header.start, f"`{symbol.name}` is used outside of this loop as well")
            if any(r.scope.is_apart_from(symbol.scope) or r.form is not Form.PLAIN for r in inside if not r.binds):
                self.object(header.start, f"`{symbol.name}` may be used later than in its turn of this loop")
            if column in self.effects.of_any(statement).writes or self.may_change_during(statement, column):
                self.object(header.start, f"`{column.name}` may change in this loop")
        self.uses.walks.append(Walk(header, names, is_counted))

    def may_change_during(self, statement: Statement, column: Symbol) -> bool:
        routines = self.effects.may_run_in(statement)
        return any(column in self.effects.transitive[routine].writes for routine in routines)

    # -- runs of statements

    def rows(self, what: str) -> list[Row]:
        """The runs of one sort: each column once, on statements that follow one another."""
        noted = self.runs[what]
        found: list[Row] = []
        done: set[Statement] = set()
        for statement in sorted(noted, key=lambda s: s.start):
            if statement in done:
                continue
            run = self.run_from(statement, noted, what)
            parts = {noted[s][0]: noted[s][1] for s in run}
            keys = {noted[s][2] for s in run}
            if len(run) != len(self.columns) or len(parts) != len(self.columns) or len(keys) != 1:
                missing = next((c.name for c in self.columns if c not in parts), self.columns[0].name)
                self.object(statement.start, f"these lists do not change together here: not `{missing}`")
                done |= set(run)
                continue
            done |= set(run)
            found.append(Row(parts, tuple(run)))
        return found

    def run_from(
        self, first: Statement, noted: dict[Statement, tuple[Symbol, Expression, str]], what: str
    ) -> list[Statement]:
        run = [first]
        for statement in first.block.statements[first.index + 1 :]:
            if len(run) == len(self.columns):
                break
            if statement in noted:
                run.append(statement)
            elif what != "start" or not self.is_beside_the_point(statement):
                break
        return run

    def is_beside_the_point(self, statement: Statement) -> bool:
        """Whether a statement only gives other variables plain values, which nobody notices."""
        trees = [t for t in self.surroundings.trees if t.statement is statement]
        is_given = bool(trees) and all(t.sense is Sense.SET and is_plain(t.parts[-1]) for t in trees)
        return is_given and statement.kind is Kind.ASSIGN

    def check_rows(self) -> None:
        if not self.uses.starts:
            self.object(self.columns[0].references[0].start, "these lists do not begin together")
        for row in self.uses.starts:
            sizes = {len(part.parts) for part in row.parts.values()}
            if len(sizes) > 1:
                self.object(row.statements[0].start, "these lists begin with different lengths")
            if self.is_told_by_others(row):
                self.object(row.statements[0].start, "how many there are depends on what is no part of it")
            values = [value for part in row.parts.values() for value in part.parts]
            if not all(map(cannot_fail, values)) or any(v.sense is Sense.SPREAD for v in values):
                self.object(row.statements[0].start, "what these lists begin with is worked out one list at a time")
        for row in self.uses.additions:
            self.check_addition(row)

    def is_told_by_others(self, row: Row) -> bool:
        """Whether the length of a list is that of one which belongs to no column."""
        for part in row.parts.values():
            counted = counted_by(self.module, part) if is_spread(part) else None
            names = [e.reference.symbol for e in counted.walk() if e.reference is not None] if counted else []
            lists = [s for s in names if s not in self.columns and s.origin is not Origin.BUILTIN]
            if any(value.shape is Shape.DISPLAY for symbol in lists for value in given_values(symbol)):
                return True
        return False

    # -- numbers

    def find_placings(self) -> None:
        """Elements of all columns that get their values behind the end, one by one, are put there as a whole."""
        places, given = self.places(), {part: self.placed_by(part) for part in self.uses.elements}
        noted = {s.statement: part for part, s in given.items() if s is not None and s.statement is not None}
        for statement in sorted(noted, key=lambda s: s.start):
            run = [s for s in statement.block.statements[statement.index :][: len(self.columns)] if s in noted]
            parts = {r.symbol: noted[s] for s in run if (r := noted[s].parts[0].reference) is not None}
            numbers = {self.module.source.slice(part.parts[1].span) for part in parts.values()}
            if len(run) != len(self.columns) or len(parts) != len(run) or len(numbers) != 1:
                continue
            row = Row({c: s.parts[-1] for c, part in parts.items() if (s := given[part]) is not None}, tuple(run))
            if not places.is_there(noted[statement]) and not any(map(self.looks_at_columns, row.parts.values())):
                self.uses.placings.append(row)
                for one in run:
                    del noted[one]

    def placed_by(self, part: Expression) -> Expression | None:
        """The plain assignment by which an element gets its value, where that does nothing else."""
        around = self.surroundings.around(part)
        is_set = around is not None and around.sense is Sense.SET and around.parts[0] is part and len(around.parts) == 2
        statement = around.statement if around is not None else None
        is_plain = statement is not None and statement.kind is Kind.ASSIGN and part.parts[1].sense is Sense.NAME
        return around if is_set and is_plain else None

    def check_places(self) -> None:
        """What is not there is nothing here, and would have no members."""
        places, placed = self.places(), self.uses.placed
        for part in self.uses.elements:
            reference, around = part.parts[0].reference, self.surroundings.around(part)
            name = reference.name if reference is not None else ""
            if around is not None and around.sense is Sense.CALL and around.parts[0] is part:
                self.object(part.start, f"what `{name}` holds is called as its member here")
            elif part.statement not in placed and not places.is_there(part):
                self.object(part.start, f"`{name}` may be asked here for an element that it does not have")
        for row in self.uses.placings:
            self.check_addition(row)
            if not places.fills(row.statements[0]):
                self.object(row.statements[0].start, "an element may be put behind the end of these lists here")

    def places(self) -> ColumnPlaces:
        """Which numbers lead to elements, by what is known so far."""
        uses, placed = self.uses, self.uses.placed
        once = [row for row in uses.starts[:1] if self.is_made_once(row)]
        shorter = [row for row in (*uses.removals, *uses.clearings, *uses.starts) if row not in once]
        one_less = [row for row in uses.removals if self.is_one(row)]
        return ColumnPlaces(
            self.module,
            self.columns,
            [statement for row in shorter for statement in row.statements],
            [statement for row in one_less for statement in row.statements],
            [row.statements[-1] for row in (*uses.additions, *uses.placings)],
            [part for part in uses.elements if part.statement not in placed],
            min((len(part.parts) for row in once for part in row.parts.values()), default=0),
        )

    def is_made_once(self, row: Row) -> bool:
        """Whether lists are made at the top level, or where a runner begins."""
        block, rules = row.statements[0].block, self.module.dialect.rules
        if not isinstance(block.routine, Function):
            return block is self.module.block
        return rules.runs_first(self.module, block.routine) and len(block.routine.symbol.references) == 1

    def is_one(self, row: Row) -> bool:
        """Whether one element is taken, if there is one."""
        calls = [part for part in row.parts.values() if part.sense is Sense.CALL]
        return bool(calls) and all(
            len(call.parts) < _SPLICING or self.module.source.slice(call.parts[2].span) == "1" for call in calls
        )

    def check_addition(self, row: Row) -> None:
        _, *later = list(row.parts.values())
        guarded = any(self.is_guarded(statement) for statement in row.statements)
        for value in later:
            if guarded and not cannot_fail(value):
                self.object(value.start, "if this fails, one of these lists would be longer than another")
        for value in later:
            if self.looks_at_columns(value):
                self.object(value.start, "this looks at these lists while they grow")

    def looks_at_columns(self, value: Expression) -> bool:
        own = set(self.columns)
        for inner in value.walk():
            if inner.reference is not None and inner.reference.symbol in own:
                return True
        statement = value.statement
        routines = self.effects.run_until(statement, value.end) if statement is not None else set()
        return any(self.effects.transitive[routine].touches & own for routine in routines)

    def is_guarded(self, statement: Statement) -> bool:
        """Whether an error in a statement may be caught by the program."""
        guards = [s for s in self.module.walk() if s.kind is Kind.GUARDED]
        if any(guard.start <= statement.start < guard.end for guard in guards):
            return True
        routine = statement.block.routine_around
        if routine is None:
            return False
        return any(
            routine in self.effects.reached_from(self.effects.may_run_in(inner))
            for guard in guards
            for inner in _inside(guard)
        ) or (bool(guards) and routine in self.effects.escaping)


def _inside(guard: Statement) -> Iterable[Statement]:
    return [statement for block in guard.blocks for statement in block.walk()]
