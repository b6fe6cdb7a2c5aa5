"""Loops by number that go through a list from its end, and take out what is to go."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.flow import is_needed_after
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.kinds.picks import changes
from aedifex.survey.kinds.walks import builtin_called, is_place, only_looks

_BACKWARDS = 4
_STEP = "-1"


@dataclass(frozen=True)
class BackwardSifting:
    """A loop that counts a list down: its header, the elements it asks for, and the statement that takes one out."""

    loop: Statement
    header: Expression
    elements: tuple[Expression, ...]
    removal: Statement


def backward_siftings(module: Module, container: Symbol) -> list[BackwardSifting]:
    """The loops that count a list down and could as well go over its elements, which are all different objects."""
    finder = _Finder(module, container)
    return list(finder.find()) if finder.are_all_new else []


class _Finder:
    def __init__(self, module: Module, container: Symbol) -> None:
        self.module = module
        self.container = container
        self.surroundings = Surroundings.of(module)
        self.effects = Effects.of(module)
        self.holdings = Holdings.of(module)

    @property
    def are_all_new(self) -> bool:
        """Whether each element is made where it comes into the list, and the list has no other name."""
        if len(self.holdings.of_symbol(self.container).symbols) > 1:
            return False
        uses = [r for r in self.container.references if r.form is not Form.DECLARATION]
        names = [(r, self.surroundings.of_reference(r)) for r in uses]
        return all(name is not None and self.brings_new(reference, name) for reference, name in names)

    def brings_new(self, reference: Reference, name: Expression) -> bool:
        """Whether a use of the list leaves it as it is, takes something out, or puts in an object made there."""
        around = self.surroundings.around(name)
        if around is None:
            return False
        if reference.binds:
            value = around.parts[-1]
            is_list = around.sense is Sense.SET and len(around.parts) == 2 and value.sense is Sense.LIST
            return is_list and all(map(self.makes_object, value.parts))
        call = self.surroundings.around(around) if around.sense is Sense.MEMBER else None
        if call is not None and call.sense is Sense.CALL and call.parts[0] is around:
            handling = self.module.dialect.library.handling_by_method(around.name or "")
            is_new = len(call.parts) == 2 and self.makes_object(call.parts[1])
            return (
                is_new
                if handling is Handling.ADDS
                else self.module.dialect.library.only_reads_object(around.name or "")
            )
        part = around if around.sense is Sense.PART and around.parts[0] is name else None
        if part is not None and is_place(self.surroundings, part):
            outer = self.surroundings.around(part)
            return outer is not None and outer.sense is Sense.DELETE
        return only_looks(self.surroundings, reference)

    def makes_object(self, value: Expression) -> bool:
        """Whether a value is a call of a class of the script."""
        callee = value.parts[0].reference if value.sense is Sense.CALL else None
        is_class = callee is not None and not callee.path and Form.CLASS in callee.symbol.forms
        return is_class and class_of_objects(self.holdings, self.holdings.of_expression(value)) is not None

    def find(self) -> Iterator[BackwardSifting]:
        for reference in self.container.references:
            header = self.header_of(reference)
            loop = header.statement if header is not None else None
            if header is None or loop is None or loop.kind is not Kind.EACH or len(loop.blocks) != 1:
                continue
            found = self.sifting(loop, header) if header.parts[0].sense is Sense.NAME else None
            if found is not None:
                yield found

    def header_of(self, reference: Reference) -> Expression | None:
        """The header of a loop over the numbers from the last of the list down to the first."""
        name = self.surroundings.of_reference(reference)
        count = self.surroundings.around(name) if name is not None else None
        last = self.surroundings.around(count) if count is not None else None
        numbers = self.surroundings.around(last) if last is not None else None
        header = self.surroundings.around(numbers) if numbers is not None else None
        if count is None or last is None or numbers is None or header is None or header.sense is not Sense.WALK:
            return None
        handling, slice_ = self.module.dialect.library.handling_by_function, self.module.source.slice
        is_last = last.operator is Operator.MINUS and last.parts[0] is count and slice_(last.parts[1].span) == "1"
        is_counted = len(count.parts) == 2 and handling(builtin_called(count)) is Handling.COUNTS
        is_down = len(numbers.parts) == _BACKWARDS and handling(builtin_called(numbers)) is Handling.UP_TO
        is_down = is_down and [slice_(part.span) for part in numbers.parts[2:]] == [_STEP, _STEP]
        is_first = is_down and numbers.parts[1] is last and header.parts[1] is numbers
        return header if is_last and is_counted and is_first else None

    def sifting(self, loop: Statement, header: Expression) -> BackwardSifting | None:
        number = header.parts[0].reference
        if number is None or any(r.scope is not number.scope for r in number.symbol.references):
            return None
        inside = [r for r in self.module.references_within(loop.span) if r.start >= header.parts[1].end or r is number]
        uses = [r for r in inside if r.symbol is number.symbol and r is not number]
        parts = [self.element(reference) for reference in uses]
        removals = [part for part in parts if part is not None and self.is_removed(part)]
        elements = [part for part in parts if part is not None and part not in removals]
        if None in parts or len(removals) != 1 or removals[0].statement is None:
            return None
        is_last = all(part.start < removals[0].start and not is_place(self.surroundings, part) for part in elements)
        known = {part.parts[0].reference for part in (*elements, *removals)}
        others = [r for r in inside if r.symbol is self.container and r not in known]
        if not is_last or not all(only_looks(self.surroundings, reference) for reference in others):
            return None
        is_over = not is_needed_after(self.module, number.symbol, loop)
        running = self.effects.may_run_in(loop)
        is_alone = not any(changes(self.surroundings, self.container, run.scope) for run in running)
        return BackwardSifting(loop, header, tuple(elements), removals[0].statement) if is_over and is_alone else None

    def element(self, number: Reference) -> Expression | None:
        """The list's element that a number stands for, where it serves for nothing else."""
        name = self.surroundings.of_reference(number)
        part = self.surroundings.around(name) if name is not None and not number.path else None
        is_part = part is not None and part.sense is Sense.PART and part.parts[1] is name
        return part if is_part and part is not None and is_named(part.parts[0], self.container) else None

    def is_removed(self, part: Expression) -> bool:
        """Whether a statement does nothing but to delete an element."""
        around = self.surroundings.around(part)
        return around is not None and around.sense is Sense.DELETE and len(around.parts) == 1
