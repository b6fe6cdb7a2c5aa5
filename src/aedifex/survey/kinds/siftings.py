"""Loops by number that go through a list and take out what is to go."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import Flow, leaves
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Role, Statement
from aedifex.survey.kinds.picks import changes
from aedifex.survey.kinds.walks import only_looks

_USES = 3


@dataclass(frozen=True)
class Sifting:
    """A loop that counts through a list: how it begins to count, its condition, and the statements that matter.

    `pick` gives the element its name `item`; `branch` is the last of the body, in which the `removals` take the element
    out, and `otherwise` goes on to the next.
    """

    beginning: Statement
    loop: Statement
    condition: Expression
    pick: Statement
    item: Reference
    branch: Statement
    removals: tuple[Statement, ...]
    otherwise: Block


def siftings(module: Module, container: Symbol) -> list[Sifting]:
    """The loops of a file that take elements out of a list, and could as well go over a copy of it."""
    if len(Holdings.of(module).of_symbol(container).symbols) > 1:
        return []
    finder = _Finder(module, container)
    return list(finder.find())


class _Finder:
    def __init__(self, module: Module, container: Symbol) -> None:
        self.module = module
        self.container = container
        self.surroundings = Surroundings.of(module)
        self.effects = Effects.of(module)
        self.trees = self.surroundings.by_statement

    def find(self) -> Iterator[Sifting]:
        for routine, loop in self.loops():
            found = self.sifting(loop)
            if found is not None and self.is_sure(found, routine):
                yield found

    def loops(self) -> Iterator[tuple[Function | None, Statement]]:
        for statement in self.module.walk():
            if statement.kind is Kind.LOOP and len(statement.blocks) == 1 and statement.blocks[0].statements:
                routine = statement.block.routine_around
                if routine is None or isinstance(routine, Function):
                    yield routine, statement

    def sifting(self, loop: Statement) -> Sifting | None:
        condition = next(iter(self.surroundings.conditions(loop)), None)
        number = self.counted_by(condition) if condition is not None else None
        body = loop.blocks[0].statements
        pick, branch = body[0], body[-1]
        item = self.picked(pick, number)
        beginning = loop.block.statements[loop.index - 1] if loop.index else None
        if condition is None or number is None or item is None or beginning is None or len(body) < 2:
            return None
        if not self.sets_to_zero(beginning, number) or branch.kind is not Kind.BRANCH or len(branch.blocks) < 2:
            return None
        *taking, no = branch.blocks
        found = [next((s for s in block.statements if self.takes_out(s, number)), None) for block in taking]
        removals = tuple(statement for statement in found if statement is not None)
        if no.role is not Role.OTHERWISE or not self.goes_on(no, number) or len(removals) < len(taking):
            return None
        return Sifting(beginning, loop, condition, pick, item, branch, removals, no)

    # -- the pieces

    def counted_by(self, condition: Expression) -> Symbol | None:
        """The number of `number < len(list)`."""
        if condition.operator is not Operator.LESS or len(condition.parts) != 2:
            return None
        number, count = condition.parts
        callee = count.parts[0].reference if count.sense is Sense.CALL and len(count.parts) == 2 else None
        library = self.module.dialect.library
        if callee is None or callee.path or library.handling_by_function(callee.name) is not Handling.COUNTS:
            return None
        is_own = number.sense is Sense.NAME and self.is_container(count.parts[1])
        return number.reference.symbol if is_own and number.reference is not None else None

    def is_container(self, expression: Expression) -> bool:
        reference = expression.reference if expression.sense is Sense.NAME else None
        return reference is not None and reference.symbol is self.container and not expression.parts

    def is_element(self, expression: Expression, number: Symbol | None) -> bool:
        """Whether an expression is the list's element under the number."""
        if expression.sense is not Sense.PART or not self.is_container(expression.parts[0]):
            return False
        key = expression.parts[1]
        return key.sense is Sense.NAME and key.reference is not None and key.reference.symbol is number

    def only(self, statement: Statement, sense: Sense, parts: int) -> list[Expression]:
        """The parts of the one expression that is a whole statement, if it does this with so many; else none."""
        trees = self.trees[statement]
        is_it = len(trees) == 1 and trees[0].sense is sense and len(trees[0].parts) == parts
        return trees[0].parts if is_it else []

    def is_number_with(self, expression: Expression, number: Symbol, written: Expression, value: str) -> bool:
        """Whether an expression is the number, and another a value written so."""
        is_it = expression.reference is not None and expression.reference.symbol is number
        return is_it and expression.sense is Sense.NAME and self.module.source.slice(written.span) == value

    def picked(self, statement: Statement, number: Symbol | None) -> Reference | None:
        parts = self.only(statement, Sense.SET, 2)
        target = parts[0] if parts and self.is_element(parts[1], number) else None
        is_name = target is not None and target.sense is Sense.NAME
        return target.reference if target is not None and is_name else None

    def sets_to_zero(self, statement: Statement, number: Symbol) -> bool:
        parts = self.only(statement, Sense.SET, 2)
        return bool(parts) and self.is_number_with(parts[0], number, parts[1], "0")

    def takes_out(self, statement: Statement, number: Symbol) -> bool:
        return any(self.is_element(part, number) for part in self.only(statement, Sense.DELETE, 1))

    def goes_on(self, block: Block, number: Symbol) -> bool:
        first = block.statements[0]
        parts = self.only(first, Sense.UPDATE, 2) if len(block.statements) == 1 else []
        if not parts or self.trees[first][0].operator is not Operator.PLUS or self.has_comment_before(block):
            return False
        return self.is_number_with(parts[0], number, parts[1], "1")

    def has_comment_before(self, block: Block) -> bool:
        """Whether a comment stands between the last block of a branch and the one before it, or in it."""
        assert block.owner is not None
        source, above = self.module.source, block.owner.blocks[-2].statements[-1]
        begin, end = source.line_end(above.end - 1), source.line_end(block.owner.end - 1)
        return any(begin <= comment.start < end for comment in self.module.comments)

    # -- nothing else

    def is_sure(self, found: Sifting, routine: Function | None) -> bool:
        """Whether nothing else counts, changes the list, or leaves the loop, and the number is of no more use."""
        number = next(r.symbol for r in found.beginning.references if r.binds)
        inside = self.module.references_within(found.loop.span)
        uses = [r for r in inside if r.symbol is number]
        going = (found.condition.span, found.pick.span, *(removal.span for removal in found.removals))
        others = [r for r in inside if r.symbol is self.container and not any(s <= r.start < e for s, e in going)]
        if len(uses) != _USES + len(found.removals) or leaves(found.loop.blocks[0].statements):
            return False
        if not all(only_looks(self.surroundings, reference) for reference in others):
            return False
        if number.scope is not (routine.scope if routine is not None else self.module.scope):
            return False
        if any(r.form is Form.DECLARATION or r.scope is not number.scope for r in number.references):
            return False
        after = Flow(self.module, routine).live_after(found.loop)
        is_bound_once = [r for r in inside if r.symbol is found.item.symbol and r.mode in (Mode.WRITE, Mode.DELETE)]
        if number in after or found.item.symbol in after or len(is_bound_once) != 1:
            return False
        running = self.effects.may_run_in(found.loop)
        return not any(changes(self.surroundings, self.container, routine.scope) for routine in running)
