"""What a program does with lists side by side."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import given_values
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Origin, Reference, Symbol
from aedifex.program.model.statements import Kind, Shape, Statement
from aedifex.program.structure.obstacles import Obstacle, variable_obstacles
from aedifex.source.text import Span
from aedifex.survey.kinds.plain_values import cannot_fail, is_plain
from aedifex.survey.kinds.spread_lists import counted_by, is_spread, spread

_FEWEST = 2
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
    removals: list[Row] = field(default_factory=list)
    clearings: list[Row] = field(default_factory=list)
    elements: list[Expression] = field(default_factory=list)
    counts: list[Expression] = field(default_factory=list)
    walks: list[Walk] = field(default_factory=list)
    wholes: list[Expression] = field(default_factory=list)
    declarations: list[Reference] = field(default_factory=list)
    obstacles: list[Obstacle] = field(default_factory=list)


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
        elif around.sense is Sense.MEMBER:
            self.read_method(column, around)
        elif around.sense is Sense.WALK and around.parts[1] is name:
            self.read_walk(around, [around.parts[0]], [column])
        elif around.sense is Sense.CALL and name in around.parts[1:]:
            self.read_call(column, around, name)
        elif (around.sense is Sense.WITHIN and around.parts[1] is name) or around.sense is Sense.SUM:
            self.uses.wholes.append(name)
        else:
            self.object(reference.start, f"`{column.name}` is used as a whole here")

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
        if around is not None and around.sense is Sense.DELETE:
            self.note("removal", around, column, part, self.module.source.slice(part.parts[1].span))
            if len(around.parts) != 1 or not cannot_fail(part.parts[1]):
                self.object(part.start, f"more than one element of `{column.name}` may go here")
        else:
            self.uses.elements.append(part)

    def read_method(self, column: Symbol, method: Expression) -> None:
        call = self.surroundings.around(method)
        if call is None or call.sense is not Sense.CALL or call.parts[0] is not method:
            self.object(method.start, f"a method of `{column.name}` is used as a value here")
            return
        around = self.surroundings.around(call)
        is_alone = around is not None and around.sense is Sense.ALONE
        handling = self.library.handling_by_method(method.name or "")
        if handling is Handling.ADDS and is_alone and list(call.names) == [""]:
            self.note("addition", around or call, column, call.parts[1])
        elif handling is Handling.EMPTIES and is_alone:
            self.note("clearing", around or call, column, call)
        elif handling is Handling.TAKES and is_alone and not any(call.names) and all(map(cannot_fail, call.parts[1:])):
            given = self.module.source.slice(Span(method.end, call.end))
            self.note("removal", around or call, column, call, f"{method.name}{given}")
        elif self.library.only_reads_object(method.name or ""):
            self.uses.wholes.append(method.parts[0])
        else:
            self.object(method.start, f"`{column.name}` changes by itself here")

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
        routine = next((b.routine for b in statement.block.outwards() if b.routine is not None), None)
        if routine is None:
            return False
        return any(
            routine in self.effects.reached_from(self.effects.may_run_in(inner))
            for guard in guards
            for inner in _inside(guard)
        ) or (bool(guards) and routine in self.effects.escaping)


def _inside(guard: Statement) -> Iterable[Statement]:
    return [statement for block in guard.blocks for statement in block.walk()]
