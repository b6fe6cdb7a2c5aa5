"""Reading expressions: the references, calls and scopes inside them.

The tree is walked with a stack of our own, so that deep nesting costs memory and not the interpreter's stack.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable

from tree_sitter import Node

from aedifex.languages.python.reader import grammar
from aedifex.languages.python.reader.parameters import read_parameters
from aedifex.languages.python.reader.scopes import bind, bind_walrus, normalise
from aedifex.languages.python.reader.shapes import CONSTANTS, has_operations, shape_of, sort_of
from aedifex.languages.python.reader.uses import LEAF_NODES, RESOURCE
from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import CALL, INNER_TARGET, LOOP, READ, Use
from aedifex.program.model.module import Echo
from aedifex.program.model.names import Access, AccessKind, Form, Mode, Reference, Scope, ScopeKind
from aedifex.program.model.statements import (
    Argument,
    Call,
    Lambda,
    Leave,
    Routine,
    Statement,
    Value,
)
from aedifex.source.text import Span

_PASS_USE_ON = frozenset(
    "pattern_list tuple_pattern list_pattern list_splat_pattern tuple list list_splat parenthesized_expression "
    "expression_list as_pattern_target".split()
)
_COMPREHENSIONS = {
    "list_comprehension": "listcomp",
    "set_comprehension": "setcomp",
    "dictionary_comprehension": "dictcomp",
    "generator_expression": "genexpr",
}
_IDENTITY = frozenset({"is", "is not"})


_Stack = list[tuple[Node, Use, Scope]]


class ExpressionReader:
    """Collects what stands in expressions into scopes and into the current statement."""

    def __init__(self, data: bytes) -> None:
        self.data = data
        self.statement: Statement | None = None
        self.routines: list[Routine] = []
        self.fixed: list[Span] = []
        self.strings: list[Span] = []
        self.echoes: list[Echo] = []
        self.identities: list[tuple[Span, Span]] = []
        self._offset = 0
        self._quoted = False
        self._annotating = False
        self._handlers: dict[str, Callable[[Node, Use, Scope, _Stack], None]] = {
            "attribute": self._path,
            "subscript": self._path,
            "call": self._call,
            "lambda": self._lambda,
            "named_expression": self._walrus,
            "string": self._string,
            "keyword_argument": self._keyword_argument,
            "as_pattern": self._as_pattern,
            "type": self._annotation,
            "member_type": self._member_type,
            "yield": self._leave,
            "await": self._leave,
            "for_in_clause": self._for_clause,
            "interpolation": self._interpolation,
            "comparison_operator": self._comparison,
            **dict.fromkeys(_COMPREHENSIONS, self._comprehension),
        }

    def text(self, node: Node) -> bytes:
        """The node's text."""
        return self.data[node.start_byte + self._offset : node.end_byte + self._offset]

    def read(self, node: Node | None, scope: Scope, use: Use = READ) -> None:
        """Read everything below `node`."""
        if node is None:
            return
        stack: _Stack = [(node, use, scope)]
        handlers = self._handlers
        while stack:
            node, use, scope = stack.pop()
            kind = node.type
            if kind == "identifier":
                self.name(node, scope, use)
            elif kind in LEAF_NODES:
                continue
            elif (handler := handlers.get(kind)) is not None:
                handler(node, use, scope, stack)
            else:
                inner = use if kind in _PASS_USE_ON else READ
                for child in reversed(node.named_children):
                    stack.append((child, inner, scope))

    def read_all(self, nodes: Iterable[Node], scope: Scope, use: Use = READ) -> None:
        """Read everything below some nodes."""
        for node in nodes:
            self.read(node, scope, use)

    def identifier(self, node: Node) -> str:
        """The node's text, as a name."""
        return self.text(node).decode("utf-8")

    def name(
        self,
        node: Node,
        scope: Scope,
        use: Use,
        path: tuple[Access, ...] = (),
        path_mode: Mode | None = None,
    ) -> Reference:
        """Add a reference for an identifier, binding its name where it is written."""
        name = normalise(self.text(node), scope.private)
        mode, form = use.mode, use.form
        if mode is not Mode.READ and mode is not Mode.CALL and form is not Form.DECLARATION:
            if form is Form.WALRUS:
                bind_walrus(scope, name)
            else:
                bind(scope, name)
        if self._annotating and form is Form.PLAIN:
            form = Form.QUOTED if self._quoted else Form.ANNOTATION
        start, end = node.start_byte + self._offset, node.end_byte + self._offset
        reference = Reference(name, start, end, mode, form, scope, self.statement, path, path_mode)
        scope.uses.append(reference)
        if self.statement is not None:
            self.statement.references.append(reference)
        return reference

    def value(self, node: Node) -> Value:
        """Span and shape of an expression."""
        shape, sort = shape_of(node), sort_of(self.text(node))
        return Value(node.start_byte, node.end_byte, shape, sort, self._entries(node), has_operations(node, shape))

    def _entries(self, node: Node) -> tuple[tuple[str, Span], ...]:
        """The keys and values of a dict display whose keys are all plain strings, each given once."""
        if node.type != "dictionary":
            return ()
        found: dict[str, Span] = {}
        for child in parts(node):
            key = child.child_by_field_name("key")
            value = child.child_by_field_name("value")
            name = constant_key(self.text(key), key) if key is not None and key.type == "string" else None
            if name is None or value is None or name in found:
                return ()
            found[name] = Span(value.start_byte, value.end_byte)
        return tuple(found.items())

    def _comparison(self, node: Node, _use: Use, scope: Scope, stack: _Stack) -> None:
        """Note the operands that are compared by identity, literals excepted."""
        operands = parts(node)
        operators = [child.type for child in node.children if not child.is_named or child.type in _IDENTITY]
        if _IDENTITY & set(operators) and len(operators) == len(operands) - 1:
            for left, operator, right in zip(operands, operators, operands[1:], strict=False):
                if operator in _IDENTITY and not CONSTANTS & {left.type, right.type}:
                    self.identities.append((self.span(left), self.span(right)))
        stack.extend((child, READ, scope) for child in reversed(operands))

    def span(self, node: Node) -> Span:
        """Where a node stands."""
        return Span(node.start_byte + self._offset, node.end_byte + self._offset)

    def _path(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        self._access(node, use.mode, scope, stack)

    def _access(self, node: Node, mode: Mode, scope: Scope, stack: _Stack) -> Reference | None:
        """Read a chain of attributes and subscripts; return the reference that it begins with, if any."""
        steps: list[Access] = []
        subscripts: list[Node] = []
        while True:
            kind = node.type
            if kind == "attribute":
                attribute = node.child_by_field_name("attribute")
                inner = node.child_by_field_name("object")
                assert attribute is not None and inner is not None
                name = normalise(self.text(attribute), scope.private)
                if self.statement is not None:
                    self.statement.attributes.append(name)
                steps.append(Access(AccessKind.ATTRIBUTE, name, *self._bounds(attribute, node)))
            elif kind == "subscript":
                inner = node.child_by_field_name("value")
                assert inner is not None
                indices = node.children_by_field_name("subscript")
                key = constant_key(self.text(indices[0]), indices[0]) if len(indices) == 1 else None
                is_position = indices[0].type == "integer"
                access = AccessKind.INDEX if key is None else AccessKind.POSITION if is_position else AccessKind.KEY
                steps.append(Access(access, key, *self._bounds(inner, node, after=True)))
                if key is None:
                    subscripts += indices
            else:
                break
            # the grammar takes the star of `(*a.b,) = …` for a part of the object
            node = parts(inner)[0] if inner.type == "list_splat" else inner
        for subscript in subscripts:
            stack.append((subscript, READ, scope))
        if node.type == "identifier":
            return self.name(node, scope, READ, tuple(reversed(steps)), mode)
        stack.append((node, READ, scope))
        return None

    def _bounds(self, first: Node, last: Node, *, after: bool = False) -> tuple[int, int]:
        start = first.end_byte if after else first.start_byte
        return start + self._offset, last.end_byte + self._offset

    def _call(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        function = node.child_by_field_name("function")
        arguments = node.child_by_field_name("arguments")
        assert function is not None and arguments is not None
        callee: Reference | None = None
        if arguments.type == "argument_list":
            children = parts(arguments)
        else:
            children = [arguments]
        inside = Span(arguments.start_byte + 1, arguments.end_byte - 1)
        for child in reversed(children):
            stack.append((child, READ, scope))
        if function.type == "identifier":
            callee = self.name(function, scope, CALL)
        elif function.type in ("attribute", "subscript"):
            callee = self._access(function, Mode.CALL, scope, stack)
        else:
            stack.append((function, READ, scope))
        if self.statement is not None and not self._quoted:
            given = tuple(self._argument(child) for child in children)
            self.statement.calls.append(Call(node.start_byte, node.end_byte, callee, given, inside))

    def _argument(self, node: Node) -> Argument:
        keyword, stars = None, ""
        if node.type == "keyword_argument":
            name = node.child_by_field_name("name")
            keyword = self.text(name).decode("utf-8") if name is not None else None
        elif node.type in ("list_splat", "dictionary_splat", "parenthesized_list_splat"):
            stars = "**" if node.type == "dictionary_splat" else "*"
        return Argument(node.start_byte, node.end_byte, keyword, stars)

    def _lambda(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        inner = Scope(ScopeKind.LAMBDA, "lambda", scope, node.start_byte, node.end_byte, runs_later=True)
        inner.private = scope.private
        scope.children.append(inner)
        parameters = node.child_by_field_name("parameters")
        signature = Span(parameters.start_byte, parameters.end_byte) if parameters else Span(0, 0)
        body = node.child_by_field_name("body")
        assert body is not None
        routine = Lambda("lambda", inner, signature, self.statement, self.span(body))
        inner.routine = routine
        self.routines.append(routine)
        read_parameters(self, parameters, routine, scope)
        stack.append((body, READ, inner))

    def _comprehension(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        inner = Scope(ScopeKind.COMPREHENSION, _COMPREHENSIONS[node.type], scope, node.start_byte, node.end_byte)
        inner.private = scope.private
        inner.runs_later = node.type == "generator_expression"
        scope.children.append(inner)
        work: _Stack = []
        first = True
        for child in node.named_children:
            if child.type == "for_in_clause" and first:
                first = False
                left, rights = _clause_parts(child)
                work.append((left, LOOP, inner))
                work += [(right, READ, scope) for right in rights]
            else:
                work.append((child, READ, inner))
        stack.extend(reversed(work))

    def _for_clause(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        left, rights = _clause_parts(node)
        for right in reversed(rights):
            stack.append((right, READ, scope))
        stack.append((left, LOOP, scope))

    def _walrus(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        name, value = node.child_by_field_name("name"), node.child_by_field_name("value")
        assert name is not None and value is not None
        stack.append((value, READ, scope))
        stack.append((name, INNER_TARGET, scope))

    def _string(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        if node.start_point[0] != node.end_point[0] and not self._offset:
            self.fixed.append(Span(node.start_byte, node.end_byte))
        if node.named_child_count > 3 or any(c.type == "interpolation" for c in node.named_children):
            for child in reversed(node.named_children):
                stack.append((child, READ, scope))
        elif not self._offset:
            self.strings.append(Span(node.start_byte, node.end_byte))

    def _interpolation(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        equals = next((child for child in node.children if child.type == "="), None)
        if equals is not None:
            end = equals.end_byte
            while self.data[end : end + 1].isspace():
                end += 1
            shown = Span(node.start_byte + 1, end)
            formats = any(c.type in ("type_conversion", "format_specifier") for c in node.named_children)
            self.echoes.append(Echo(node.start_byte, shown, formats))
        for child in reversed(node.named_children):
            stack.append((child, READ, scope))

    def _keyword_argument(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        value = node.child_by_field_name("value")
        assert value is not None
        stack.append((value, READ, scope))

    def _as_pattern(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        alias = node.child_by_field_name("alias")
        for child in reversed(node.named_children):
            stack.append((child, RESOURCE if child == alias else READ, scope))

    def _member_type(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        stack.append((parts(node)[0], READ, scope))

    def _leave(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        is_yield = node.type == "yield"
        runner = scope
        while runner.kind is ScopeKind.COMPREHENSION and runner.parent is not None:
            runner = runner.parent
        if is_yield and runner.routine is not None:
            runner.routine.is_generator = True
        if self.statement is not None and runner.kind is not ScopeKind.LAMBDA:
            self.statement.leaves.add(Leave.YIELD if is_yield else Leave.AWAIT)
        for child in reversed(node.named_children):
            stack.append((child, READ, scope))

    def _annotation(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        if self._annotating:
            stack.extend((child, READ, scope) for child in reversed(node.named_children))
            return
        self._annotating = True
        try:
            for child in node.named_children:
                if child.type == "string":
                    self._quoted_annotation(child, scope)
                else:
                    self.read(child, scope)
        finally:
            self._annotating = False

    def _quoted_annotation(self, node: Node, scope: Scope) -> None:
        """Read the expression inside a quoted annotation, where it is a plain one."""
        text = self.data[node.start_byte : node.end_byte]
        if text[:1] not in b"'\"" or b"\\" in text or text[:3] in (b"'''", b'"""') or b"\n" in text:
            self.read(node, scope)
            return
        tree = grammar.GRAMMAR.parse(text[1:-1])
        if tree.root_node.has_error or tree.root_node.named_child_count != 1:
            return
        self._offset, self._quoted = node.start_byte + 1, True
        try:
            self.read(tree.root_node, scope)
        finally:
            self._offset, self._quoted = 0, False


def _clause_parts(node: Node) -> tuple[Node, list[Node]]:
    left = node.child_by_field_name("left")
    assert left is not None
    return left, node.children_by_field_name("right")


def constant_key(text: bytes, node: Node) -> str | None:
    """The key of a constant subscript: a plain string's content, or the digits of an integer."""
    if node.type == "integer":
        return text.decode("utf-8")
    if node.type == "string" and text[:1] in b"'\"" and text[:3] not in (b"'''", b'"""') and b"\\" not in text:
        return text[1:-1].decode("utf-8")
    return None
