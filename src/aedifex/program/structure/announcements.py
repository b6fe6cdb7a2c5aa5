"""What a program says before its main loop, and the plain or random first values that stand behind it."""

from __future__ import annotations

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.values import is_plainly_made, only_value, references_in, value_of
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin, Symbol
from aedifex.program.model.statements import Argument, Kind, Shape, Statement, final_name
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.start_of_run import StartOfRun
from aedifex.program.structure.state import Constants


class Announcements(Analysis):
    """The statements that speak right before the main loop; between them only first values stand that go unnoticed.

    `first` is the first that speaks, `behind` are the first values behind it that nothing of it has to do with. They
    are plain, or drawn at random from what is written down where all that is said is plain, too.
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
                if not all(map(self._is_plain, values)) and not self._says_plain_values(statement):
                    break
                said.insert(0, statement)
            elif self._is_plain(statement) or self._is_drawn(statement):
                values.insert(0, statement)
            else:
                break
        self.first = next(iter(said), None)
        values = [s for s in values if self.first is not None and s.start > self.first.start]
        self.behind = values if not any(self._is_about(statement, said) for statement in values) else []

    def _is_plain(self, statement: Statement) -> bool:
        """Whether a statement gives names plain values, for the first time, on lines of its own."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        names = {pair.target for pair in pairs}
        has_others = any(r not in names for r in statement.references)
        if not self._is_first_value(statement) or statement.calls or has_others:
            return False
        return all(pair.value.shape is not Shape.RISKY for pair in pairs)

    def _is_first_value(self, statement: Statement) -> bool:
        """Whether a statement of the top level gives names their first values, on lines of its own."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        if statement.kind is not Kind.ASSIGN or not pairs or statement.block is not self.module.block:
            return False
        is_first = all(pair.target.symbol.bindings[0] is pair.target for pair in pairs)
        return is_first and Layout.of(self.module).stands_alone(statement)

    def _is_drawn(self, statement: Statement) -> bool:
        """Whether a statement gives one name its first value, drawn at random in a way that cannot fail."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        if not self._is_first_value(statement) or len(pairs) != 1 or len(statement.calls) != 1:
            return False
        [call], [pair] = statement.calls, pairs
        imported = call.callee.symbol.imported if call.callee is not None else None
        texts = [self._written(argument, statement) for argument in call.arguments]
        if imported is None or call.callee is None or call.span != pair.value.span or None in texts:
            return False
        function = imported.name or final_name(call.callee)
        return self.module.dialect.library.surely_draws(imported.module, function, [text or "" for text in texts])

    def _written(self, argument: Argument, statement: Statement) -> str | None:
        """An argument of the statement's call as it is written, here or where the constant that it names is set."""
        if argument.keyword is not None or argument.stars:
            return None
        used = [r for r in statement.references if argument.start <= r.start < argument.end]
        if not used:
            return self.module.source.slice(argument.span)
        if used[0].span != argument.span or used[0].symbol not in Constants.of(self.module):
            return None
        found = only_value(used[0].symbol)
        is_set = found is not None and found.statement.start < statement.start
        return self.module.source.slice(found.value.span) if found is not None and is_set else None

    def _says_plain_values(self, statement: Statement) -> bool:
        """Whether nothing of the program's own runs while it is said: it is only about texts and numbers."""
        library = self.module.dialect.library
        used = [r for r in statement.references if r.symbol.origin is not Origin.BUILTIN or r.name != library.says]
        return all(is_plainly_made(self.module, [r]) or self._is_plainly_given(r.symbol) for r in used)

    def _is_plainly_given(self, symbol: Symbol) -> bool:
        """Whether a variable is only ever given what is written out, or what builtins make."""
        given = [(b.statement, value_of(b)) for b in symbol.bindings]
        return bool(given) and all(
            statement is not None
            and value is not None
            and (value.shape is Shape.LITERAL or is_plainly_made(self.module, references_in(statement, value)))
            for statement, value in given
        )

    def _is_about(self, value: Statement, said: list[Statement]) -> bool:
        """Whether what is said before a first value has to do with it."""
        effects = Effects.of(self.module)
        own = {r.symbol for r in value.references}
        above = (statement for statement in said if statement.start < value.start)
        return any(not own.isdisjoint(effects.of_statement(statement).touches) for statement in above)
