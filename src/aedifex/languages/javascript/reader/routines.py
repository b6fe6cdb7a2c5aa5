"""Reading routines and classes: their parameters, their scopes, and their bodies."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from tree_sitter import Node

from aedifex.languages.javascript.reader.scopes import IMPLICIT, THIS, bind, new_scope
from aedifex.languages.javascript.reader.shapes import pattern_pairs
from aedifex.languages.javascript.reader.uses import CLASS, FIELD, PARAMETER, ROUTINE
from aedifex.languages.tree.grammar import parts, text_of
from aedifex.program.model.names import Reference, Scope, ScopeKind
from aedifex.program.model.statements import (
    Assignment,
    Block,
    Function,
    Kind,
    Lambda,
    Pair,
    Parameter,
    ParameterKind,
    Role,
    Routine,
    Statement,
)
from aedifex.source.text import Span

if TYPE_CHECKING:
    from aedifex.languages.javascript.reader.statements import StatementReader

_NAMELESS = "lambda"
_STATIC = "static"
_PLAIN_KEYS = frozenset({"property_identifier", "shorthand_property_identifier_pattern"})
_PLAIN_NAMES = frozenset({"identifier", "shorthand_property_identifier_pattern"})
_PARAMETERS = {
    "rest_pattern": ParameterKind.REST,
    "object_pattern": ParameterKind.PATTERN,
    "array_pattern": ParameterKind.PATTERN,
}


class RoutineReader:
    """Reads what can be called, whose bodies go back to the reader of statements."""

    def __init__(self, reader: StatementReader) -> None:
        self.reader = reader
        self.expressions = reader.expressions

    # -- functions

    def read_function(self, node: Node, scope: Scope, statement: Statement) -> None:
        """A function that a statement declares."""
        name = node.child_by_field_name("name")
        reference = self.expressions.name(name or node.children[0], scope, ROUTINE)
        self.function(node, scope, statement, reference)

    def function(self, node: Node, scope: Scope, statement: Statement, named: Reference) -> Function:
        """A function that has a name, in the scope around it."""
        inner = self._scope(ScopeKind.ROUTINE, named.name, scope, node)
        function = Function(named.name, inner, _signature(node), statement, named)
        statement.kind, statement.routine, statement.defines = Kind.ROUTINE, function, inner
        self._set_up(node, function)
        body = node.child_by_field_name("body")
        assert body is not None
        function.body = self.reader.routine_body(body, inner, statement, function)
        return function

    def read_nameless(self, node: Node, scope: Scope) -> None:
        """A function that is a value; its own name, if it has one, is known in it alone."""
        statement = self.expressions.statement
        name, key = node.child_by_field_name("name"), node.type == "method_definition"
        if name is not None and key:
            self._read_computed(name, scope)
        elif name is not None:
            scope = new_scope(ScopeKind.BLOCK, _NAMELESS, scope, node.start_byte, node.end_byte)
            self.expressions.name(name, scope, ROUTINE)
        inner = self._scope(ScopeKind.LAMBDA, _NAMELESS, scope, node)
        routine = Lambda(_NAMELESS, inner, _signature(node), statement)
        self._set_up(node, routine)
        body = node.child_by_field_name("body")
        assert body is not None
        if body.type == "statement_block":
            routine.body = self.reader.body(body, inner, statement, routine)
        else:
            routine.expression = self.expressions.span(body)
            self.expressions.read(body, inner)

    def _scope(self, kind: ScopeKind, name: str, parent: Scope, node: Node) -> Scope:
        inner = new_scope(kind, name, parent, node.start_byte, node.end_byte)
        if node.type != "arrow_function":
            for implicit in IMPLICIT:
                bind(inner, implicit)
        return inner

    def _set_up(self, node: Node, routine: Routine) -> None:
        """What is known of a routine before its body: how it runs, and its parameters."""
        routine.scope.routine = routine
        self.expressions.routines.append(routine)
        words = {child.type for child in node.children if not child.is_named}
        routine.is_async = "async" in words
        routine.is_generator = "*" in words or node.type.startswith("generator")
        parameters = node.child_by_field_name("parameters") or node.child_by_field_name("parameter")
        if parameters is not None:
            listed = parts(parameters) if parameters.type == "formal_parameters" else [parameters]
            for child in listed:
                self._parameter(child, routine)

    def _parameter(self, node: Node, routine: Routine) -> None:
        """One parameter; of one that is taken apart, the first name stands for it."""
        expressions, scope = self.expressions, routine.scope
        is_first = len(scope.uses)
        default = node.child_by_field_name("right") if node.type == "assignment_pattern" else None
        target = node.child_by_field_name("left") if default is not None else node
        expressions.read(target, scope, PARAMETER)
        named = next((use for use in scope.uses[is_first:] if use.form is PARAMETER.form), None)
        expressions.read(default, scope)
        if named is not None:
            kind = _PARAMETERS.get(target.type if target is not None else "", ParameterKind.PLAIN)
            value = expressions.value(default) if default is not None else None
            keys = self._keys(target, scope.uses[is_first:]) if kind is ParameterKind.PATTERN else ()
            routine.parameters.append(Parameter(named, node.start_byte, node.end_byte, kind, value, keys=keys))

    @staticmethod
    def _keys(pattern: Node | None, uses: Sequence[Reference]) -> tuple[tuple[str, Reference], ...]:
        """The members that a pattern asks for by plain keys; none where it does more than that."""
        pairs = pattern_pairs(pattern) if pattern is not None and pattern.type == "object_pattern" else None
        named = {use.start: use for use in uses if use.form is PARAMETER.form}
        found: list[tuple[str, Reference]] = []
        for key, value in pairs or ():
            if key.type not in _PLAIN_KEYS or value.start_byte not in named or value.type not in _PLAIN_NAMES:
                return ()
            found.append((text_of(key), named[value.start_byte]))
        return tuple(found)

    def _read_computed(self, name: Node, scope: Scope) -> None:
        if name.type == "computed_property_name":
            self.expressions.read_all(parts(name), scope)

    # -- classes

    def read_class(self, node: Node, scope: Scope, statement: Statement) -> None:
        """A class that a statement declares."""
        name = node.child_by_field_name("name")
        reference = self.expressions.name(name or node.children[0], scope, CLASS)
        inner = self._class_scope(node, reference.name, scope)
        statement.defines = inner
        body = node.child_by_field_name("body")
        assert body is not None
        statement.header_end = body.start_byte
        block = Block(Role.BODY, body.start_byte, body.end_byte, statement)
        statement.blocks.append(block)
        self._members(body, inner, block)
        self.expressions.statement = statement

    def read_class_expression(self, node: Node, scope: Scope) -> None:
        """A class that is a value; its own name, if it has one, is known in it alone."""
        statement, name = self.expressions.statement, node.child_by_field_name("name")
        if name is not None:
            scope = new_scope(ScopeKind.BLOCK, _NAMELESS, scope, node.start_byte, node.end_byte)
            self.expressions.name(name, scope, CLASS)
        inner = self._class_scope(node, self.expressions.identifier(name) if name is not None else _NAMELESS, scope)
        body = node.child_by_field_name("body")
        assert body is not None and statement is not None
        block = Block(Role.BODY, body.start_byte, body.end_byte, statement)
        statement.bodies.append(block)
        self._members(body, inner, block)
        self.expressions.statement = statement

    def _class_scope(self, node: Node, name: str, scope: Scope) -> Scope:
        for child in parts(node):
            if child.type == "class_heritage":
                self.expressions.read_all(parts(child), scope)
        return new_scope(ScopeKind.CLASS, name, scope, node.start_byte, node.end_byte)

    def _members(self, body: Node, scope: Scope, block: Block) -> None:
        for node in parts(body):
            statement = self.reader.statement(node, block)
            if node.type == "method_definition":
                self._method(node, scope, statement)
            elif node.type == "field_definition":
                self._field(node, scope, statement)
            elif node.type == "class_static_block":
                self._static_block(node, scope, statement)

    def _method(self, node: Node, scope: Scope, statement: Statement) -> None:
        name = node.child_by_field_name("name")
        assert name is not None
        around = scope.parent or scope
        self._read_computed(name, around)
        reference = self.expressions.name(name, scope, ROUTINE)
        function = self.function(node, scope, statement, reference)
        if not any(child.type == _STATIC for child in node.children):
            function.receiver = function.scope.symbols[THIS]

    def _field(self, node: Node, scope: Scope, statement: Statement) -> None:
        name, value = node.child_by_field_name("property"), node.child_by_field_name("value")
        assert name is not None
        self._read_computed(name, scope.parent or scope)
        reference = self.expressions.name(name, scope, FIELD)
        statement.kind = Kind.ASSIGN
        inner = self._scope(ScopeKind.LAMBDA, reference.name, scope, node)
        self.expressions.read(value, inner)
        pairs = (Pair(reference, self.expressions.value(value)),) if value is not None else ()
        given = pairs[0].value if pairs else None
        statement.assignment = Assignment((self.expressions.span(name),), given, pairs)

    def _static_block(self, node: Node, scope: Scope, statement: Statement) -> None:
        inner = self._scope(ScopeKind.LAMBDA, _STATIC, scope, node)
        inner.runs_later = False
        routine = Lambda(_STATIC, inner, Span(node.start_byte, node.start_byte), statement)
        inner.routine = routine
        self.expressions.routines.append(routine)
        body = node.child_by_field_name("body")
        assert body is not None
        routine.body = self.reader.body(body, inner, statement, routine)


def _signature(node: Node) -> Span:
    """The text between the parentheses of a routine, or its one parameter."""
    parameters = node.child_by_field_name("parameters")
    if parameters is not None:
        return Span(parameters.start_byte + 1, parameters.end_byte - 1)
    one = node.child_by_field_name("parameter")
    return Span(one.start_byte, one.end_byte) if one is not None else Span(node.start_byte, node.start_byte)
