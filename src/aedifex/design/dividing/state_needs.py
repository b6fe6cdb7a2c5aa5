"""Whether code needs the program's state, so that no method of one object among many can do it."""

from __future__ import annotations

from collections.abc import Collection

from aedifex.design.drafting.handing import MOST_VALUES, are_only_read
from aedifex.design.drafting.naming import is_resource
from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, Symbol
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.state import Constants


class StateNeeds(Analysis):
    """What of the state of one file its code needs."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.effects = Effects.of(module)
        self.constants = Constants.of(module)
        self.shared = set(MainCode.of(module).fields)
        self.handed = {symbol for symbol in self.shared if is_resource(symbol)}

    def exist(self, references: Collection[Reference], symbol: Symbol) -> bool:
        """Whether names stand for state other than what one symbol holds, or for routines that need such.

        What is drawn on, or written to, can be handed over, and so can a few values that are only read.
        """
        state = [r for r in references if r.symbol is not symbol and r.symbol in self.shared - self.handed]
        if not are_only_read(state) or len({r.symbol for r in state}) > MOST_VALUES:
            return True
        used = {r.symbol for r in references if Form.ROUTINE in r.symbol.forms}
        routines = {routine for symbol in used for routine in self.effects.routines_behind(symbol)}
        touched = {s for routine in routines for s in self.effects.transitive[routine].touches}
        return any(symbol.is_module_level for symbol in self.constants.changing(touched))
