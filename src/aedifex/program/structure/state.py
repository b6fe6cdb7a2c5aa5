"""Which variables are state, and which are constants."""

from __future__ import annotations

from collections.abc import Iterable

from aedifex.program.analysis.aliases import Aliases
from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import may_change_object, only_value, references_in
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import BRINGING, Kind, Routine, Shape, Statement, final_name
from aedifex.program.structure.early_uses import may_ask_for
from aedifex.program.structure.library_parts import LibraryParts

_NOT_STATE = frozenset(
    {Form.IMPORT, Form.STAR, Form.ROUTINE, Form.CLASS, Form.TYPE_ALIAS, Form.PARAMETER, Form.TYPE_PARAMETER}
)
_FIXED = frozenset({Shape.LITERAL, Shape.COMPUTED, Shape.RISKY, Shape.DISPLAY})


def state(module: Module) -> list[Symbol]:
    """The variables bound at module level by the script itself, in the order of the text."""
    found = [symbol for symbol in module.scope.symbols.values() if is_state(symbol)]
    return sorted(found, key=lambda symbol: symbol.references[0].start)


def is_called_constant(module: Module, symbol: Symbol) -> bool:
    """Whether a variable is spelled as a constant."""
    return module.dialect.naming.as_field(symbol.name) != symbol.name


def is_state(symbol: Symbol) -> bool:
    """Whether a symbol is a variable: something other than an import, a definition or a parameter binds it."""
    return any(
        (reference.mode.writes or reference.mode is Mode.DECLARE)
        and reference.form not in _NOT_STATE
        and (reference.declares or reference.form is not Form.DECLARATION)
        for reference in symbol.references
    )


class Constants(Analysis):
    """Tells constants from changing state, for one module.

    A constant is bound once, at the top level, to a literal or to something computed from literals and other constants,
    and what it holds is never changed. A shorter name for something of a library is one as well. What was a routine's
    own, and is called like something of the world around, would be that at the top level.
    """

    def __init__(self, module: Module) -> None:
        self.module = module
        self._known: dict[Symbol, bool] = {}
        self._settling: dict[Symbol, bool] = {}

    def __contains__(self, symbol: object) -> bool:
        if not isinstance(symbol, Symbol) or not symbol.is_module_level:
            return False
        if symbol not in self._known:
            self._known[symbol] = False
            self._known[symbol] = self._is_constant(symbol)
        return self._known[symbol]

    def settles(self, symbol: Symbol) -> bool:
        """Whether a symbol is a constant that may stay where it is set.

        All that its assignment sets must be constant, and all that it is computed from must stay as well.
        """
        if symbol not in self._settling:
            self._settling[symbol] = False
            self._settling[symbol] = self._may_stay(symbol)
        return self._settling[symbol]

    def changing(self, symbols: Iterable[Symbol]) -> list[Symbol]:
        """Those of some symbols that are state, and no constants that may stay where they are set."""
        return [symbol for symbol in symbols if is_state(symbol) and not self.settles(symbol)]

    def shares_out(self, statement: Statement) -> bool:
        """Whether a statement gives several names a number or text each, and does nothing else."""
        counts = self.module.dialect.library.gives_numbers
        return (statement.assignment is not None and statement.assignment.is_fixed) and all(
            call.callee is not None and call.callee.symbol.origin is Origin.BUILTIN and counts(call.callee.name)
            for call in statement.calls
        )

    def _may_stay(self, symbol: Symbol) -> bool:
        if symbol not in self or self._may_be_empty_first(symbol):
            return False
        found = only_value(symbol)
        if found is None:
            only = _only_statement(symbol)
            return only is not None and all(r.symbol in self for r in only.references if r.mode.writes)
        used = {r.symbol for r in references_in(found.statement, found.value)}
        return all(other.target.symbol in self for other in found.pairs) and all(
            self.settles(other) for other in used if other.is_module_level and is_state(other)
        )

    def _may_be_empty_first(self, symbol: Symbol) -> bool:
        """Whether a variable may be asked for what it holds when it is there, and has not been given its value yet."""
        declared = min((r for r in symbol.references if r.declares), key=lambda r: r.start, default=None)
        if declared is None or declared.statement is None:
            return False
        above = self.module.block.statements[: declared.statement.outermost.index]
        is_early = self.module.dialect.rules.is_there_early(self.module, symbol)
        return is_early and any(may_ask_for(self.module, s, symbol) for s in above if s.kind not in BRINGING)

    def _is_constant(self, symbol: Symbol) -> bool:
        if self.module.waiting_names is not None and self.module.dialect.rules.is_of_world(symbol.name):
            return False
        if symbol in LibraryParts.of(self.module).symbols:
            return True
        found = only_value(symbol)
        if found is None:
            only = _only_statement(symbol)
            return only is not None and self.shares_out(only)
        if found is None or found.value.shape not in _FIXED:
            return False
        used = [r.symbol for r in references_in(found.statement, found.value)]
        if not all(map(self._is_settled, used)):
            return False
        if found.value.shape is Shape.RISKY and not all(map(self._is_positive, used)):
            return False
        return found.value.shape is not Shape.DISPLAY or not any(
            self._may_change(reference) for reference in symbol.references
        )

    def _is_positive(self, symbol: Symbol) -> bool:
        """Whether a constant is a number above zero, written out, by which anything can be divided."""
        found = only_value(symbol)
        text = self.module.source.slice(found.value.span) if found is not None else ""
        return text.replace(".", "", 1).replace("_", "").isdigit() and bool(text.strip("0._"))

    def _is_settled(self, symbol: Symbol) -> bool:
        if not symbol.is_module_level:
            return symbol.origin is not None
        if symbol.forms <= {Form.IMPORT, Form.STAR, Form.CLASS}:
            return symbol not in Aliases.of(self.module).changed
        return symbol in self

    def _may_change(self, reference: Reference) -> bool:
        if reference.mode.writes:
            return False
        if reference.path:
            return may_change_object(reference, self.module)
        statement = reference.statement
        if statement is None:
            return True
        for call in statement.calls:
            if any(a.start == reference.start and a.end == reference.end for a in call.arguments):
                return not self.module.dialect.library.only_reads_arguments(final_name(call.callee))
        return not statement.is_loop and statement.kind is not Kind.BRANCH and not self._is_looked_in(reference)

    def _is_looked_in(self, reference: Reference) -> bool:
        """Whether a name stands for the container that is asked whether it has something, or what it has all in all."""
        surroundings = Surroundings.of(self.module)
        name = surroundings.of_reference(reference)
        around = surroundings.around(name) if name is not None else None
        is_asked = around is not None and around.sense is Sense.WITHIN and around.parts[-1] is name
        return is_asked or (around is not None and around.sense is Sense.SPREAD)


def _only_statement(symbol: Symbol) -> Statement | None:
    """The one statement of the top level, carried out just once, that binds a symbol."""
    writes = [r for r in symbol.references if r.mode.writes]
    statement = writes[0].statement if len(writes) == 1 else None
    return statement if statement is not None and statement.block.owner is None else None


def is_used_in_routine(symbol: Symbol) -> bool:
    """Whether code of a function or class uses a variable of the module."""
    for reference in symbol.references:
        scope = reference.scope
        while scope.parent is not None and scope.kind is not ScopeKind.MODULE:
            if scope.kind in (ScopeKind.ROUTINE, ScopeKind.CLASS):
                return True
            scope = scope.parent
    return False


def uses_state(routine: Routine) -> bool:
    """Whether a routine, or one inside it, names a variable of the module."""
    uses = (use for scope in routine.scope.walk() for use in scope.uses)
    return any(use.symbol.is_module_level and is_state(use.symbol) for use in uses)


def is_own_object(module: Module, symbol: Symbol) -> bool:
    """Whether a variable is given its one value by a class of the script."""
    return maker_of(symbol) in {scope.name for scope in module.classes}


def maker_of(symbol: Symbol) -> str:
    """The class or function of the script that gives a variable its one value; empty where none does."""
    only = only_value(symbol)
    callee = only.call.callee if only is not None and only.call is not None else None
    return callee.name if callee is not None and not callee.path else ""
