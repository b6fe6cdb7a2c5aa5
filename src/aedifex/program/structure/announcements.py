"""What a program says before its main loop, and the plain first values that stand behind it."""

from __future__ import annotations

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Kind, Shape, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.start_of_run import StartOfRun


class Announcements(Analysis):
    """The statements that speak right before the main loop; between them only plain first values stand.

    `first` is the first that speaks, `behind` are the plain first values behind it that nothing of it has to do with.
    """

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.first: Statement | None = None
        self.behind: list[Statement] = []
        main = MainCode.of(module)
        start = StartOfRun(module, main.statements)
        if start.loop is None or main.routes.handlers:
            return
        numbers = {statement: number for number, statement in enumerate(main.statements)}
        constants = [s for s in module.block.statements if s not in numbers and self._is_plain(s)]
        before = [s for s in (*main.statements, *constants) if s.start < start.loop.start]
        said: list[Statement] = []
        values: list[Statement] = []
        for statement in sorted(before, key=lambda s: -s.start):
            if statement in numbers and start.announces(numbers[statement]):
                said.insert(0, statement)
            elif self._is_plain(statement):
                values.insert(0, statement)
            else:
                break
        self.first = next(iter(said), None)
        values = [s for s in values if self.first is not None and s.start > self.first.start]
        self.behind = values if not any(self._is_about(statement, said) for statement in values) else []

    def _is_plain(self, statement: Statement) -> bool:
        """Whether a statement gives names plain values, for the first time, on lines of its own."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        if (
            statement.kind is not Kind.ASSIGN
            or not pairs
            or statement.calls
            or statement.block is not self.module.block
        ):
            return False
        if not Layout.of(self.module).stands_alone(statement):
            return False
        names = {pair.target for pair in pairs}
        others = [r for r in statement.references if r not in names]
        is_first = all(pair.target.symbol.bindings[0] is pair.target for pair in pairs)
        return is_first and not others and all(pair.value.shape is not Shape.RISKY for pair in pairs)

    def _is_about(self, value: Statement, said: list[Statement]) -> bool:
        """Whether what is said before a first value has to do with it."""
        effects = Effects.of(self.module)
        own = {r.symbol for r in value.references}
        above = (statement for statement in said if statement.start < value.start)
        return any(not own.isdisjoint(effects.of_statement(statement).touches) for statement in above)
