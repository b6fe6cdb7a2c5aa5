"""Which variables are state, and which are constants."""

from __future__ import annotations

from aedifex.program.asked import Asked
from aedifex.program.names import AccessKind, Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.program import Module
from aedifex.program.statements import Kind, Pair, Shape, Statement, Value

_NOT_STATE = frozenset(
    {Form.IMPORT, Form.STAR, Form.ROUTINE, Form.CLASS, Form.TYPE_ALIAS, Form.PARAMETER, Form.TYPE_PARAMETER}
)


def state(module: Module) -> list[Symbol]:
    """The variables bound at module level by the script itself, in the order of the text."""
    found = [symbol for symbol in module.scope.symbols.values() if is_state(symbol)]
    return sorted(found, key=lambda symbol: symbol.references[0].start)


def is_state(symbol: Symbol) -> bool:
    """Whether a symbol is a variable: something other than an import, a definition or a parameter binds it."""
    return any(
        (reference.mode.writes or reference.mode is Mode.DECLARE)
        and reference.form not in _NOT_STATE
        and reference.form is not Form.DECLARATION
        for reference in symbol.references
    )


def only_pair(symbol: Symbol) -> tuple[Statement, Pair] | None:
    """The statement and pair that give the symbol its one and only value, if there is just one in plain sight."""
    bindings = [r for r in symbol.references if r.mode.writes]
    if len(bindings) != 1:
        return None
    statement = bindings[0].statement
    if statement is None or statement.block.owner is not None or statement.assignment is None:
        return None
    for pair in statement.assignment.pairs:
        if pair.target is bindings[0]:
            return statement, pair
    return None


class Constants(Asked):
    """Tells constants from changing state, for one module.

    A constant is bound once, at the top level, to a literal or to something computed from literals and other constants,
    and what it holds is never changed.
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

    def _may_stay(self, symbol: Symbol) -> bool:
        found = only_pair(symbol) if symbol in self else None
        if found is None or found[0].assignment is None:
            return False
        statement, pair = found
        used = {r.symbol for r in references_in(statement, pair.value)}
        return all(other.target.symbol in self for other in found[0].assignment.pairs) and all(
            self.settles(other) for other in used if other.is_module_level and is_state(other)
        )

    def _is_constant(self, symbol: Symbol) -> bool:
        found = only_pair(symbol)
        if found is None:
            return False
        statement, pair = found
        if pair.value.shape not in (Shape.LITERAL, Shape.COMPUTED, Shape.RISKY, Shape.DISPLAY):
            return False
        used = [r.symbol for r in references_in(statement, pair.value)]
        if not all(map(self._is_settled, used)):
            return False
        if pair.value.shape is Shape.RISKY and not all(map(self._is_positive, used)):
            return False
        return pair.value.shape is not Shape.DISPLAY or not any(
            self._may_change(reference) for reference in symbol.references
        )

    def _is_positive(self, symbol: Symbol) -> bool:
        """Whether a constant is a number above zero, written out, by which anything can be divided."""
        found = only_pair(symbol)
        text = self.module.source.slice(found[1].value.span) if found is not None else ""
        return text.replace(".", "", 1).replace("_", "").isdigit() and bool(text.strip("0._"))

    def _is_settled(self, symbol: Symbol) -> bool:
        if not symbol.is_module_level:
            return symbol.origin is not None
        return symbol.forms <= {Form.IMPORT, Form.STAR, Form.CLASS} or symbol in self

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
                callee = call.callee
                name = None if callee is None else callee.path[-1].name if callee.path else callee.name
                return name is None or not self.module.dialect.only_reads_arguments(name)
        return statement.kind not in (Kind.EACH, Kind.BRANCH, Kind.LOOP)


def references_in(statement: Statement, value: Value) -> list[Reference]:
    """The references of a statement that stand inside one of its values."""
    return [r for r in statement.references if value.start <= r.start < value.end]


def may_change_object(reference: Reference, module: Module) -> bool:
    """Whether a reference with a path may change the object that its name holds, without rebinding the name."""
    if not reference.path or reference.path_mode is None:
        return False
    if reference.path_mode.writes:
        return True
    if reference.path_mode is not Mode.CALL:
        return False
    last = reference.path[-1]
    if last.kind is not AccessKind.ATTRIBUTE or last.name is None:
        return True
    return not module.dialect.only_reads_object(last.name)


def holds_plain_values(symbol: Symbol) -> bool:
    """Whether everything the symbol is bound to in plain sight is a literal: such values cannot be changed inside."""
    values = [value_of(reference) for reference in symbol.bindings]
    return bool(values) and all(value is not None and value.shape is Shape.LITERAL for value in values)


def value_of(reference: Reference) -> Value | None:
    """The value that a binding reference gets, where the text tells."""
    statement = reference.statement
    if statement is None or statement.assignment is None:
        return None
    if statement.kind is Kind.UPDATE:
        return statement.assignment.value
    return next((pair.value for pair in statement.assignment.pairs if pair.target is reference), None)


def is_used_in_routine(symbol: Symbol) -> bool:
    """Whether code of a function or class uses a variable of the module."""
    for reference in symbol.references:
        scope = reference.scope
        while scope.parent is not None and scope.kind is not ScopeKind.MODULE:
            if scope.kind in (ScopeKind.ROUTINE, ScopeKind.CLASS):
                return True
            scope = scope.parent
    return False
