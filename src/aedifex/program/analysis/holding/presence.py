"""Whether the program has asked, on the way to a name, if there is an object."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import ScopeKind, Symbol
from aedifex.program.model.statements import Block, Kind, Leave, Role, Statement
from aedifex.source.text import Span

_LATER = frozenset({Sense.FUNCTION, Sense.EACH})
_NAMELESS = frozenset({Sense.PART, Sense.MEMBER})


class Presence:
    """What the conditions of a file tell of its names: the branch in which one stands, what was left before.

    A name that was asked for a part or a member held an object, too. Nothing is told of names that other code than that
    of their own routine, or of the top level, may give another value.
    """

    def __init__(self, module: Module) -> None:
        self.module = module
        self.surroundings = Surroundings.of(module)

    def is_certain(self, name: Expression) -> bool:
        """Whether a name certainly holds an object where it stands."""
        reference, statement = name.reference, name.statement
        if reference is None or statement is None or reference.scope is not reference.symbol.scope:
            return False
        symbol = reference.symbol
        if symbol.scope.kind is ScopeKind.CLASS or any(b.scope is not symbol.scope for b in symbol.bindings):
            return False
        if symbol.is_module_level and self.module.is_known_outside(symbol.name):
            return False
        return self._is_told_beside(name, statement, symbol) or self._is_told_before(statement, symbol)

    def _is_told_beside(self, name: Expression, statement: Statement, symbol: Symbol) -> bool:
        """Whether the same expression has asked before: `kite and kite.fly()`."""
        inner, around = name, self.surroundings.around(name)
        while around is not None and around.sense not in _LATER:
            at = around.parts.index(inner)
            if around.sense is Sense.EITHER:
                holds = around.operator is Operator.BOTH
                if any(_tells(part, symbol, holds=holds) for part in around.parts[:at]):
                    return True
            if around.sense is Sense.CHOICE and at > 0 and _tells(around.parts[0], symbol, holds=at == 1):
                return True
            inner, around = around, self.surroundings.around(around)
        tests = self._tests(statement)
        earlier = tests[: tests.index(inner.parts[0])] if inner.sense is Sense.TEST and inner.parts[0] in tests else []
        return any(_tells(test, symbol, holds=False) for test in earlier)

    def _is_told_before(self, statement: Statement, symbol: Symbol) -> bool:
        """Whether what was run before, or the branch in which a statement stands, tells it."""
        while True:
            block = statement.block
            for earlier in reversed(block.statements[: statement.index]):
                if self._writes(earlier.span, symbol):
                    return False
                if self._told_by(earlier, symbol):
                    return True
            if block.owner is None or block.routine is not None:
                return False
            statement = block.owner
            if any(self._told_within(statement, block, symbol)):
                return True
            if statement.kind is not Kind.BRANCH and self._writes(statement.span, symbol):
                return False

    def _told_by(self, earlier: Statement, symbol: Symbol) -> bool:
        """Whether it is certain once a statement is over."""
        if not earlier.blocks:
            return any(_asks(tree, symbol) for tree in self.surroundings.by_statement.get(earlier, ()))
        tests = self._tests(earlier)
        if not tests:
            return False
        is_whole = any(block.role is Role.OTHERWISE for block in earlier.blocks)
        gone_through = [block for block in earlier.blocks if not _never_ends(block.statements)]
        is_passed = is_whole or any(_tells(test, symbol, holds=False) for test in tests)
        return is_passed and all(any(self._told_within(earlier, block, symbol)) for block in gone_through)

    def _told_within(self, owner: Statement, block: Block, symbol: Symbol) -> Iterator[bool]:
        """What the conditions before a block, and its own, tell in it."""
        if owner.kind is Kind.LOOP and block.role is Role.BODY and not owner.tests_last:
            yield any(_tells(test, symbol, holds=True) for test in self.surroundings.conditions(owner))
        tests = self._tests(owner)
        if tests:
            at = owner.blocks.index(block)
            yield from (_tells(test, symbol, holds=False) for test in tests[:at])
            yield at < len(tests) and _tells(tests[at], symbol, holds=True)

    def _tests(self, statement: Statement) -> list[Expression]:
        """The conditions of a branch in order, one for each block that has one."""
        return [test for _, test in self.surroundings.cases(statement)]

    def _writes(self, span: Span, symbol: Symbol) -> bool:
        return any(r.symbol is symbol and r.mode.writes for r in self.module.references_within(span))


def _tells(test: Expression, symbol: Symbol, *, holds: bool) -> bool:
    """Whether a name certainly holds an object where a condition has come out as it did."""
    if test.sense is Sense.NOT:
        return _tells(test.parts[0], symbol, holds=not holds)
    if test.sense is Sense.EITHER:
        is_each = (test.operator is Operator.BOTH) == holds
        told = (_tells(part, symbol, holds=holds) for part in test.parts)
        return (any(told) if is_each else all(told)) or _asks(test, symbol)
    if test.sense in (Sense.SAME, Sense.EQUAL) and test.parts[-1].sense is Sense.NOTHING:
        return _is_name(test.parts[0], symbol) and holds == test.is_negated
    return (holds and _is_name(test, symbol)) or _asks(test, symbol)


def _asks(expression: Expression, symbol: Symbol) -> bool:
    """Whether a name is asked for a part or a member whenever an expression is worked out: nothing has none."""
    if expression.sense in _LATER:
        return False
    if expression.sense in _NAMELESS and _is_name(expression.parts[0], symbol):
        return True
    certain = expression.parts[:1] if expression.sense in (Sense.EITHER, Sense.CHOICE) else expression.parts
    return any(_asks(part, symbol) for part in certain)


def _is_name(expression: Expression, symbol: Symbol) -> bool:
    reference = expression.reference
    return expression.sense is Sense.NAME and reference is not None and reference.symbol is symbol


def _never_ends(statements: Sequence[Statement]) -> bool:
    """Whether control leaves a run of statements otherwise than at its end."""
    if not statements:
        return False
    last = statements[-1]
    if last.kind is Kind.LEAVE:
        return last.leaves.isdisjoint((Leave.YIELD, Leave.AWAIT))
    is_whole = last.kind is Kind.BRANCH and any(block.role is Role.OTHERWISE for block in last.blocks)
    return is_whole and all(_never_ends(block.statements) for block in last.blocks)
