"""Models made by hand, of what the language at hand does not have: blocks with names of their own, choices that fall
through, labels, loops that ask at their end, functions inside expressions.
"""

from __future__ import annotations

from collections.abc import Iterable
from pathlib import Path

from aedifex.languages.python import DIALECT
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Lambda, Leave, Role, Statement
from aedifex.source.text import SourceText, Span


class Hand:
    """Builds the model of a text, statement by statement, in the order of the text."""

    def __init__(self, text: str) -> None:
        self.text = text
        self.at = 0
        size = len(text)
        outside = Scope(ScopeKind.OUTSIDE, "outside", None, 0, size)
        self.scope = Scope(ScopeKind.MODULE, "hand", outside, 0, size)
        self.block = Block(Role.BODY, 0, size)
        self.module = Module(SourceText(Path("hand.py"), text.encode()), DIALECT, self.scope, outside, self.block)

    def statement(
        self,
        block: Block,
        kind: Kind,
        text: str,
        *,
        reads: Iterable[str] = (),
        writes: Iterable[str] = (),
        leaves: Iterable[Leave] = (),
        scope: Scope | None = None,
        **facts: object,
    ) -> Statement:
        """A statement whose text comes next; the names in it are found where they first stand."""
        start = self.text.index(text, self.at)
        made = Statement(kind, start, start + len(text), block, len(block.statements), start + len(text))
        made.leaves = set(leaves)
        for name, value in facts.items():
            setattr(made, name, value)
        block.statements.append(made)
        for name, mode in [*((n, Mode.WRITE) for n in writes), *((n, Mode.READ) for n in reads)]:
            self.refer(made, name, mode, scope or self.scope_of(block))
        self.at = start
        return made

    def refer(self, statement: Statement, name: str, mode: Mode, scope: Scope, form: Form | None = None) -> Reference:
        """A name in a statement's own text."""
        at = self.text.index(name, statement.start)
        form = form or (Form.TARGET if mode is Mode.WRITE else Form.PLAIN)
        reference = Reference(name, at, at + len(name), mode, form, scope, statement)
        if mode is Mode.WRITE and scope.find(name) is None:
            scope.symbols[name] = Symbol(name, scope)
        reference.symbol = scope.find(name) or scope.symbols.setdefault(name, Symbol(name, scope))
        reference.symbol.references.append(reference)
        scope.uses.append(reference)
        statement.references.append(reference)
        return reference

    def inner(self, owner: Statement, role: Role, scope: Scope | None = None, **facts: object) -> Block:
        """A block of a statement."""
        made = Block(role, owner.start, owner.end, owner, scope=scope)
        for name, value in facts.items():
            setattr(made, name, value)
        owner.blocks.append(made)
        return made

    def block_scope(self, parent: Scope, *names: str) -> Scope:
        """A scope that a block has, with names that live in it alone."""
        made = Scope(ScopeKind.BLOCK, "block", parent, parent.start, parent.end)
        parent.children.append(made)
        made.symbols.update({name: Symbol(name, made) for name in names})
        return made

    def function(self, statement: Statement, name: str) -> Function:
        """A function that a statement defines."""
        named = self.refer(statement, name, Mode.WRITE, self.scope, Form.ROUTINE)
        scope = Scope(ScopeKind.ROUTINE, name, self.scope, statement.start, statement.end, runs_later=True)
        self.scope.children.append(scope)
        made = Function(name, scope, Span(0, 0), statement, named)
        scope.routine = statement.routine = made
        statement.defines = scope
        made.body = self.inner(statement, Role.BODY, routine=made)
        self.module.routines.append(made)
        return made

    def nameless(self, statement: Statement) -> Lambda:
        """A function with statements of its own that stands inside an expression."""
        scope = Scope(ScopeKind.LAMBDA, "nameless", self.scope, statement.start, statement.end, runs_later=True)
        self.scope.children.append(scope)
        made = Lambda("nameless", scope, Span(0, 0), statement)
        scope.routine = made
        made.body = self.inner(statement, Role.BODY, routine=made)
        self.module.routines.append(made)
        return made

    def scope_of(self, block: Block) -> Scope:
        """The scope in which the statements of a block stand."""
        inner: Block | None = block
        while inner is not None:
            if inner.scope is not None:
                return inner.scope
            if inner.routine is not None:
                return inner.routine.scope
            inner = inner.owner.block if inner.owner is not None else None
        return self.scope
