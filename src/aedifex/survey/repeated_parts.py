"""What functions ask a table for again and again by one key: an element that deserves a name of its own."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled, may_change_object
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Statement
from aedifex.program.structure.layout import Layout

_FEWEST = 2
_ASKED_FIRST = frozenset({Kind.ASSIGN, Kind.UPDATE, Kind.EXPRESSION, Kind.BRANCH, Kind.EACH, Kind.LEAVE})
_LOGIC = frozenset({Operator.BOTH, Operator.EITHER})
_LOOKING = frozenset({Sense.WITHIN, Sense.WALK, Sense.PART})
_LATER = frozenset({Sense.FUNCTION, Sense.EACH, Sense.CHOICE, Sense.OTHER})


@dataclass(frozen=True)
class RepeatedPart:
    """An element that a function asks for several times by one name, and the statement that asks for it first."""

    function: Function
    first: Statement
    parts: tuple[Expression, ...]

    @property
    def container(self) -> Reference:
        """Where the table is named first."""
        found = self.parts[0].parts[0].reference
        assert found is not None
        return found


def repeated_parts(module: Module, table: Symbol) -> Iterator[RepeatedPart]:
    """The elements of a table that functions ask for again and again, while nothing gives it other elements."""
    surroundings = Surroundings.of(module)
    uses = [r for r in table.references if not r.mode.writes]
    if not is_settled(table) or any(_may_be_known_otherwise(surroundings, use) for use in uses):
        return
    changes = [use for use in uses if may_change_object(use, module) and len(use.path) < _FEWEST]
    names = [surroundings.of_reference(r) for r in table.references if r.mode is Mode.READ]
    around = [(name, surroundings.around(name)) for name in names if name is not None]
    found: dict[tuple[Function, Symbol], list[Expression]] = {}
    for name, part in around:
        key = part.parts[1].reference if part is not None and part.sense is Sense.PART else None
        if part is None or key is None or part.parts[0] is not name or part.parts[1].sense is not Sense.NAME:
            continue
        routine = key.scope.routine
        if isinstance(routine, Function) and key.scope is routine.scope and not routine.is_postponed:
            found.setdefault((routine, key.symbol), []).append(part)
    for (function, key_symbol), parts in found.items():
        group = _Group(module, function, key_symbol, sorted(parts, key=lambda p: p.start), changes).known()
        if group is not None:
            yield group


def _may_be_known_otherwise(surroundings: Surroundings, reference: Reference) -> bool:
    """Whether a use of a table may give it another name, by which it could get other elements."""
    name = surroundings.of_reference(reference)
    around = surroundings.around(name) if name is not None else None
    if reference.path or reference.form is Form.DECLARATION:
        return False
    return around is None or not _looks(surroundings.module, around)


def _looks(module: Module, around: Expression) -> bool:
    """Whether an expression only looks at the table that is a part of it."""
    callee = around.parts[0].reference if around.sense is Sense.CALL else None
    only_reads = module.dialect.library.only_reads_arguments
    return around.sense in _LOOKING or (callee is not None and callee.is_builtin and only_reads(callee.name))


class _Group:
    def __init__(
        self,
        module: Module,
        function: Function,
        key: Symbol,
        parts: Sequence[Expression],
        changes: Sequence[Reference],
    ) -> None:
        self.module = module
        self.function = function
        self.key = key
        self.parts = parts
        self.changes = changes
        self.effects = Effects.of(module)
        self.surroundings = Surroundings.of(module)

    def known(self) -> RepeatedPart | None:
        """The places that mean one element, if it can be asked for once above the first of them."""
        block = self.function.body
        while True:
            inside = [s for s in block.statements if any(self.is_in(part, s) for part in self.parts)]
            deeper = [b for b in inside[0].blocks if all(self.is_within(part, b) for part in self.parts)]
            if len(inside) != 1 or not deeper:
                break
            block = deeper[0]
        first = inside[0]
        if not self.asks_at_once(first) or not Layout.of(self.module).stands_alone(first):
            return None
        end = self.end_of_meaning(block.statements[first.index :])
        kept = tuple(part for part in self.parts if part.start < end)
        return RepeatedPart(self.function, first, kept) if len(kept) >= _FEWEST else None

    def end_of_meaning(self, statements: Sequence[Statement]) -> int:
        """How far the key, and the element under it, surely are what they are at the beginning of some statements."""
        for statement in (inner for outer in statements for inner in outer.walk()):
            if statement.is_loop and any(map(self.may_rebind, statement.walk())):
                return statement.start
            if self.may_rebind(statement):
                is_quiet = not self.may_run_rebinding(statement) and not self.changes_table(statement)
                is_last = statement.kind is Kind.ASSIGN and is_quiet
                return statement.end if is_last else statement.start
        return statements[-1].end

    def asks_at_once(self, first: Statement) -> bool:
        """Whether a statement asks for the element whatever happens, before it does anything else."""
        part = next(part for part in self.parts if self.is_in(part, first))
        if (
            first.kind not in _ASKED_FIRST
            or part.statement is not first
            or (first.is_loop and first.kind is not Kind.EACH)
        ):
            return False
        if any(call.end <= part.start for call in first.calls):
            return False
        inner, around = part, self.surroundings.around(part)
        while around is not None:
            is_second = around.parts and around.parts[0] is not inner
            if around.sense in _LATER or (around.operator in _LOGIC and is_second):
                return False
            inner, around = around, self.surroundings.around(around)
        return True

    def may_rebind(self, statement: Statement) -> bool:
        """Whether the key, or the table, may hold something else once a statement, but for its blocks, is over."""
        is_set = any(r.symbol is self.key and r.mode.writes for r in statement.references)
        return is_set or self.changes_table(statement) or self.may_run_rebinding(statement)

    def changes_table(self, statement: Statement) -> bool:
        """Whether a statement itself, but for its blocks, may give the table other elements."""
        return any(change.statement is statement for change in self.changes)

    def may_run_rebinding(self, statement: Statement) -> bool:
        may_run = self.effects.run_until(statement, statement.end)
        homes = {change.scope.routine for change in self.changes}
        may_change = not homes.isdisjoint({*may_run, *self.effects.reached_from(may_run)})
        return may_change or any(self.key in self.effects.transitive[routine].rebinds for routine in may_run)

    @staticmethod
    def is_in(part: Expression, statement: Statement) -> bool:
        return statement.start <= part.start < statement.end

    @staticmethod
    def is_within(part: Expression, block: Block) -> bool:
        return block.routine is None and block.start <= part.start < block.end
