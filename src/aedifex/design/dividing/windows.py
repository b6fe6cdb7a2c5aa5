"""How the code that puts a window together falls into methods."""

from __future__ import annotations

from collections.abc import Collection, Sequence

from aedifex.design.dividing.names_from_calls import called_name
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Call, Kind, Statement

_FEWEST = 6


class Windows:
    """Finds, in set-up code, what puts a window together, and what fills each part of it.

    `fields` are the variables that other code looks at.
    """

    def __init__(self, module: Module, fields: Collection[Symbol]) -> None:
        self.module = module
        self.fields = fields

    def whole(self, statements: Sequence[Statement]) -> Sequence[Statement]:
        """From the first part of a window to the last, with what is done to that; nothing where they are few."""
        made = [number for number, statement in enumerate(statements) if self.makes(statement)]
        if sum(len(self.makes(statement)) for statement in statements) < _FEWEST:
            return []
        run = list(statements[made[0] : made[-1] + 1])
        own = {r.symbol for statement in run for r in statement.references if r.binds}
        for statement in statements[made[-1] + 1 :]:
            first = statement.references[0] if statement.references else None
            if statement.kind is not Kind.EXPRESSION or first is None or first.symbol not in own:
                break
            if first.symbol in self.fields and not self._is_last_made(first.symbol, run):
                break
            run.append(statement)
        return run

    def _is_last_made(self, symbol: Symbol, run: Sequence[Statement]) -> bool:
        last = next(statement for statement in reversed(run) if self.makes(statement))
        return any(r.symbol is symbol and r.binds for r in last.references)

    def makes(self, statement: Statement) -> list[Call]:
        """The calls of a statement that make parts of a window."""
        makes = self.module.dialect.library.makes_widget
        return [call for call in statement.calls if makes(called_name(call))]

    def containers(self, run: Sequence[Statement]) -> list[Symbol]:
        """The parts of a window that a run makes and puts others into, and that nothing else uses."""
        made = [r.symbol for statement in run if self.makes(statement) for r in statement.references if r.binds]
        given = [symbol for statement in run for call in self.makes(statement) for symbol in self._given_to(call)]
        return [symbol for symbol in dict.fromkeys(made) if given.count(symbol) > 1 and symbol not in self.fields]

    def _given_to(self, call: Call) -> list[Symbol]:
        """The names that a call is given as they are."""
        places = {argument.span for argument in call.arguments}
        return [r.symbol for r in self.module.references_within(call.span) if r.span in places]

    def filling(self, run: Sequence[Statement], container: Symbol) -> list[Statement]:
        """From where a part of a window is made to the last that is put into it, with what is done to that."""
        within = {container}
        found: list[Statement] = []
        for statement in run:
            if not within.isdisjoint(r.symbol for r in statement.references):
                found.append(statement)
                within |= {r.symbol for r in statement.references if r.binds}
            elif found:
                break
        return found
