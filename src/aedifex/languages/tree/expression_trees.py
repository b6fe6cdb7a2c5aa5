"""What all builders of expression trees share."""

from __future__ import annotations

from collections.abc import Sequence

from tree_sitter import Node

from aedifex.languages.tree.grammar import parts
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Statement


class TreeBuilder:
    """Builds the expressions of a file, one statement after the other, into `roots`."""

    def __init__(self, module: Module, data: bytes) -> None:
        self.data = data
        self.references = module.reference_at
        self.statements: dict[int, Statement] = {}
        for statement in module.walk():
            self.statements.setdefault(statement.start, statement)
        self.roots: list[Expression] = []
        self.statement: Statement | None = None

    def build(self, node: Node, depth: int) -> Expression:
        """The expression of a node, which stands so deep in others."""
        raise NotImplementedError

    def statement_of(self, node: Node) -> Statement | None:
        """The statement that begins with a node, or of which it is a clause."""
        around: Node | None = node
        while around is not None and around.start_byte not in self.statements:
            around = around.parent
        return self.statements[around.start_byte] if around is not None else None

    def add(self, sense: Sense, node: Node, nodes: Sequence[Node | None]) -> None:
        """One more root, of the parts that are there; a `return` is one without any."""
        built = [self.build(inner, 0) for inner in nodes if inner is not None]
        if built or sense is Sense.RETURN:
            self.roots.append(Expression(sense, node.start_byte, node.end_byte, built, statement=self.statement))

    def made(self, sense: Sense, node: Node, built: list[Expression] | None = None) -> Expression:
        """An expression where a node stands."""
        return Expression(sense, node.start_byte, node.end_byte, built or [], statement=self.statement)

    def other(self, node: Node, depth: int) -> Expression:
        """What has no sense of its own, but for its parts."""
        return self.made(Sense.OTHER, node, [self.build(child, depth + 1) for child in parts(node)])

    def flat(self, node: Node) -> Expression:
        """What is nested too deeply: only the names in it."""
        found, waiting = self.made(Sense.OTHER, node), [node]
        while waiting:
            inner = waiting.pop()
            if inner.type == "identifier" and inner.start_byte in self.references:
                found.parts.append(self.name(inner, 0))
            waiting.extend(inner.named_children)
        return found

    def name(self, node: Node, _depth: int) -> Expression:
        """A name, with the reference that it is."""
        found = self.made(Sense.NAME, node)
        found.reference = self.references.get(node.start_byte)
        return found

    def text_of(self, node: Node) -> bytes:
        """The node's text."""
        return self.data[node.start_byte : node.end_byte]
