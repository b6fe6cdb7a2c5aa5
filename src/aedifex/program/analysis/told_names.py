"""Functions whose names a program asks for while it runs: as values they may be asked for what they are called."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from functools import cached_property

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.function_identity import holders
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.rules import Rules
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Symbol
from aedifex.program.model.statements import Function

_OTHERS = frozenset({Form.CLASS, Form.IMPORT, Form.STAR})


class ToldNames(Analysis):
    """Where what may be a function of the script is asked for its name."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.rules: Rules = module.dialect.rules

    def told(self, function: Function) -> int | None:
        """Where a function that is used as a value may be asked for a name that a method of that name shares."""
        return self._asked(function, {self.rules.name_attribute} - self.rules.full_name_attributes)

    def told_whole(self, function: Function) -> int | None:
        """Where it may be asked for a name that no method shares, whatever it is called."""
        return self._asked(function, self.rules.full_name_attributes)

    def _asked(self, function: Function, names: Collection[str]) -> int | None:
        asked = [expression for expression in self._askings if expression.name in names]
        uses = [use for use in function.symbol.references if use.mode is Mode.READ and not use.path]
        if not asked or not (uses or function.statement.decorators):
            return None
        held = holders(self.module, uses)
        return next((one.span.start for one in asked if self._may_be_held(one, function.symbol, held)), None)

    def _may_be_held(self, asking: Expression, symbol: Symbol, held: set[Symbol]) -> bool:
        root = asking.parts[0]
        while root.sense in (Sense.MEMBER, Sense.PART):
            root = root.parts[0]
        if root.reference is None:
            return not self.rules.many_have_names
        asked = root.reference.symbol
        if asked is symbol or asked in held:
            return True
        return not (self.rules.many_have_names or asked.forms & _OTHERS or Form.ROUTINE in asked.forms)

    @cached_property
    def _askings(self) -> list[Expression]:
        return list(self._all_askings())

    def _all_askings(self) -> Iterator[Expression]:
        wanted = {self.rules.name_attribute, *self.rules.full_name_attributes}
        if not any(wanted & set(statement.attributes) for statement in self.module.walk()):
            return
        for tree in Surroundings.of(self.module).trees:
            for expression in tree.walk():
                if expression.sense is Sense.MEMBER and expression.name in wanted and not self._is_of_class(expression):
                    yield expression

    def _is_of_class(self, asking: Expression) -> bool:
        """Whether the class of a thing is asked for its name."""
        base = asking.parts[0]
        if base.sense is Sense.CALL:
            callee = base.parts[0].reference
            return callee is not None and self.module.dialect.library.tells_class(callee.name)
        return base.sense is Sense.MEMBER and self.module.dialect.library.tells_class(base.name or "")
