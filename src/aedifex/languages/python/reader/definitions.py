"""Reading definitions of functions and classes."""

from __future__ import annotations

from typing import TYPE_CHECKING

from tree_sitter import Node

from aedifex.languages.python.reader.parameters import read_parameters
from aedifex.languages.python.reader.scopes import bind, private_prefix
from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import Use
from aedifex.program.model.names import Form, Mode, Scope, ScopeKind
from aedifex.program.model.statements import Function, Kind, Role, Statement
from aedifex.source.text import Span

if TYPE_CHECKING:
    from aedifex.languages.python.reader.statements import StatementReader


class DefinitionReader:
    """Reads definitions, whose bodies go back to the reader of statements."""

    def __init__(self, reader: StatementReader) -> None:
        self.reader = reader
        self.expressions = reader.expressions

    def read_decorated(self, node: Node, scope: Scope, statement: Statement) -> None:
        """A definition with decorators above it."""
        for child in parts(node):
            if child.type == "decorator":
                statement.decorators.append(Span(child.start_byte, child.end_byte))
                self.expressions.read_all(parts(child), scope)
        inner = node.child_by_field_name("definition")
        assert inner is not None
        if inner.type == "class_definition":
            statement.kind = Kind.CLASS
            self.read_class(inner, scope, statement)
        else:
            self.read_function(inner, scope, statement)

    def read_function(self, node: Node, scope: Scope, statement: Statement) -> None:
        """A function or method."""
        name, body = node.child_by_field_name("name"), node.child_by_field_name("body")
        parameters, result = node.child_by_field_name("parameters"), node.child_by_field_name("return_type")
        assert name is not None and body is not None and parameters is not None
        reference = self.expressions.name(name, scope, Use(Mode.WRITE, Form.ROUTINE))
        around = self.type_parameters(node.child_by_field_name("type_parameters"), scope, reference.name, node)
        inner = self.scope(ScopeKind.ROUTINE, self.expressions.identifier(name), around, node)
        signature = Span(parameters.start_byte + 1, parameters.end_byte - 1)
        function = Function(self.expressions.identifier(name), inner, signature, statement, reference)
        function.is_async = node.children[0].type == "async"
        inner.routine = statement.routine = function
        statement.defines = inner
        self.expressions.routines.append(function)
        read_parameters(self.expressions, parameters, function, around)
        self.expressions.read(result, around)
        function.result_type = Span(result.start_byte, result.end_byte) if result is not None else None
        function.body = self.reader.block(body, Role.BODY, inner, statement, function)
        if function.body.statements and function.body.statements[0].is_text:
            function.doc = function.body.statements[0].span

    def read_class(self, node: Node, scope: Scope, statement: Statement) -> None:
        """A class."""
        name = node.child_by_field_name("name")
        assert name is not None
        reference = self.expressions.name(name, scope, Use(Mode.WRITE, Form.CLASS))
        private = private_prefix(self.expressions.identifier(name))
        parameters = node.child_by_field_name("type_parameters")
        around = self.type_parameters(parameters, scope, reference.name, node, private)
        bases = node.child_by_field_name("superclasses")
        if bases is not None:
            self.expressions.read(bases, around)
        inner = self.scope(ScopeKind.CLASS, self.expressions.identifier(name), around, node)
        inner.private = private
        statement.defines = inner
        for implicit in ("__module__", "__qualname__"):
            bind(inner, implicit)
        self.reader.block(node.child_by_field_name("body"), Role.BODY, inner, statement)

    def type_parameters(
        self, node: Node | None, scope: Scope, name: str, owner: Node, private: str | None = None
    ) -> Scope:
        """The scope of a definition's type parameters, or `scope` where there are none."""
        if node is None:
            return scope
        inner = self.scope(ScopeKind.TYPE_PARAMETERS, name, scope, owner)
        inner.private = private or inner.private
        for child in parts(node):
            parameter = parts(child)[0] if child.type == "type" else child
            bound: list[Node] = []
            if parameter.type == "constrained_type":
                bound = parts(parameter)[1:]
                parameter = parts(parameter)[0].named_children[0]
            elif parameter.type == "splat_type":
                parameter = parts(parameter)[0]
            self.expressions.name(parameter, inner, Use(Mode.WRITE, Form.TYPE_PARAMETER))
            for node in bound:
                around = self.scope(ScopeKind.TYPE_PARAMETERS, self.expressions.identifier(parameter), inner, node)
                self.expressions.read(node, around)
        return inner

    def scope(self, kind: ScopeKind, name: str, parent: Scope, node: Node) -> Scope:
        """A new scope inside another."""
        scope = Scope(kind, name, parent, node.start_byte, node.end_byte, private=parent.private)
        scope.runs_later = kind is ScopeKind.ROUTINE
        scope.hides_from_inner = kind is ScopeKind.CLASS
        parent.children.append(scope)
        return scope
