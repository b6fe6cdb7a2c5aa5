"""Reading expressions: the references, calls and nameless routines inside them.

The tree is walked with a stack of our own, so that deep nesting costs memory and not the interpreter's stack.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TYPE_CHECKING

from tree_sitter import Node

from aedifex.languages.javascript.library.names import FILE_ITSELF
from aedifex.languages.javascript.reader.scopes import THIS, bind
from aedifex.languages.javascript.reader.shapes import (
    CONSTANTS,
    FUNCTIONS,
    has_operations,
    plain_key,
    shape_of,
    sort_of,
)
from aedifex.languages.javascript.reader.uses import LEAF_NODES
from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import CALL, DELETE, READ, TARGET, UPDATE, Living, Use
from aedifex.program.model.names import Access, AccessKind, Mode, Reference, Scope
from aedifex.program.model.statements import Argument, Call, Leave, Routine, Statement, Value
from aedifex.source.text import Span

if TYPE_CHECKING:
    from aedifex.languages.javascript.reader.routines import RoutineReader

_TAKEN_OUT = "shorthand_property_identifier_pattern"
_KEYS = frozenset({"shorthand_property_identifier", _TAKEN_OUT})
_NAMES = _KEYS | {"identifier"}
_PASS_USE_ON = frozenset("array_pattern object_pattern rest_pattern parenthesized_expression".split())
_CHAINS = frozenset({"member_expression", "subscript_expression"})
_IDENTITY = frozenset({"===", "!==", "==", "!="})

_Stack = list[tuple[Node, Use, Scope]]


class ExpressionReader:
    """Collects what stands in expressions into scopes and into the current statement."""

    def __init__(self, data: bytes) -> None:
        self.data = data
        self.statement: Statement | None = None
        self.routines: list[Routine] = []
        self.fixed: list[Span] = []
        self.strings: list[Span] = []
        self.identities: list[tuple[Span, Span]] = []
        self.nameless: RoutineReader
        self._handlers: dict[str, Callable[[Node, Use, Scope, _Stack], None]] = {
            "member_expression": self._path,
            "subscript_expression": self._path,
            "call_expression": self._call,
            "new_expression": self._call,
            "assignment_expression": self._assignment,
            "augmented_assignment_expression": self._update,
            "update_expression": self._update,
            "unary_expression": self._unary,
            "binary_expression": self._comparison,
            "assignment_pattern": self._default,
            "object_assignment_pattern": self._default,
            "pair_pattern": self._pair_pattern,
            "string": self._string,
            "template_string": self._template,
            "await_expression": self._leave,
            "yield_expression": self._leave,
            "class": self._class,
            "meta_property": self._about_module,
            "method_definition": self._function,
            **dict.fromkeys(FUNCTIONS, self._function),
        }

    def text(self, node: Node) -> bytes:
        """The node's text."""
        return self.data[node.start_byte : node.end_byte]

    def identifier(self, node: Node) -> str:
        """The node's text, as a name."""
        return self.text(node).decode("utf-8")

    def read(self, node: Node | None, scope: Scope, use: Use = READ) -> None:
        """Read everything below `node`."""
        if node is None:
            return
        stack: _Stack = [(node, use, scope)]
        handlers = self._handlers
        while stack:
            node, use, scope = stack.pop()
            kind = node.type
            if kind in _NAMES or kind in ("this", "undefined"):
                self.name(node, scope, use)
            elif kind in LEAF_NODES:
                continue
            elif (handler := handlers.get(kind)) is not None:
                handler(node, use, scope, stack)
            else:
                inner = use if kind in _PASS_USE_ON else READ
                stack.extend((child, inner, scope) for child in reversed(node.named_children))

    def read_all(self, nodes: Iterable[Node], scope: Scope, use: Use = READ) -> None:
        """Read everything below some nodes."""
        for node in nodes:
            self.read(node, scope, use)

    def name(
        self,
        node: Node,
        scope: Scope,
        use: Use,
        path: tuple[Access, ...] = (),
        path_mode: Mode | None = None,
    ) -> Reference:
        """Add a reference for an identifier, letting its name live where it is declared."""
        name = self.identifier(node)
        if use.living is Living.BLOCK:
            bind(scope, name)
        elif use.living is Living.FRAME:
            bind(scope.frame, name)
        reference = Reference(name, node.start_byte, node.end_byte, use.mode, use.form, scope, self.statement)
        reference.path, reference.path_mode = path, path_mode
        reference.declares = use.living is not Living.ELSEWHERE
        reference.is_key = node.type in _KEYS
        if node.type == _TAKEN_OUT:
            self._note_member(name)
        scope.uses.append(reference)
        if self.statement is not None:
            self.statement.references.append(reference)
        return reference

    def _about_module(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        """`import.meta` tells where the file is; `new.target` is no name."""
        if self.identifier(node) == FILE_ITSELF:
            self.name(node, scope, use)

    def value(self, node: Node) -> Value:
        """Span and shape of an expression."""
        shape = shape_of(node)
        operations = has_operations(node, shape)
        return Value(node.start_byte, node.end_byte, shape, sort_of(node), self._entries(node), operations)

    def span(self, node: Node) -> Span:
        """Where a node stands."""
        return Span(node.start_byte, node.end_byte)

    def key(self, node: Node) -> str | None:
        """The key that a node names, where that is written out."""
        return plain_key(node, self.text(node))

    def _entries(self, node: Node) -> tuple[tuple[str, Span], ...]:
        """The keys and values of an object literal that has nothing but plain keys, each given once."""
        found: dict[str, Span] = {}
        for child in parts(node) if node.type == "object" else ():
            key = child.child_by_field_name("key") if child.type == "pair" else child
            value = child.child_by_field_name("value") if child.type == "pair" else child
            name = self.key(key) if key is not None and child.type in ("pair", *_NAMES) else None
            if name is None or value is None or name in found:
                return ()
            found[name] = self.span(value)
        return tuple(found.items())

    # -- paths and calls

    def _path(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        self._access(node, use.mode, scope, stack)

    def _access(self, node: Node, mode: Mode, scope: Scope, stack: _Stack) -> Reference | None:
        """Read a chain of members and subscripts; return the reference that it begins with, if any."""
        steps: list[Access] = []
        while node.type in _CHAINS:
            inner = node.child_by_field_name("object")
            assert inner is not None
            member = node.child_by_field_name("property")
            if member is not None:
                name = self.identifier(member)
                self._note_member(name)
                steps.append(Access(AccessKind.ATTRIBUTE, name, member.start_byte, node.end_byte))
            else:
                steps.append(self._subscript(node, inner, scope, stack))
            node = inner
        if node.type == "identifier" or node.type == THIS:
            return self.name(node, scope, READ, tuple(reversed(steps)), mode)
        stack.append((node, READ, scope))
        return None

    def _subscript(self, node: Node, inner: Node, scope: Scope, stack: _Stack) -> Access:
        index = node.child_by_field_name("index")
        assert index is not None
        key = self.key(index)
        kind = AccessKind.INDEX if key is None else AccessKind.POSITION if index.type == "number" else AccessKind.KEY
        if key is None:
            stack.append((index, READ, scope))
        return Access(kind, key, inner.end_byte, node.end_byte)

    def _call(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        function = node.child_by_field_name("function") or node.child_by_field_name("constructor")
        arguments = node.child_by_field_name("arguments")
        assert function is not None
        is_plain = arguments is not None and arguments.type == "arguments"
        given = parts(arguments) if arguments is not None and is_plain else []
        inside = Span(arguments.start_byte + 1, arguments.end_byte - 1) if arguments is not None and is_plain else None
        stack.extend((child, READ, scope) for child in reversed(given))
        if arguments is not None and not is_plain:
            stack.append((arguments, READ, scope))
        callee: Reference | None = None
        if self._is_await(function, scope):
            return
        if function.type == "identifier":
            callee = self.name(function, scope, CALL)
        elif function.type in _CHAINS:
            callee = self._access(function, Mode.CALL, scope, stack)
        else:
            stack.append((function, READ, scope))
        if self.statement is not None:
            taken = tuple(self._argument(child) for child in given)
            self.statement.calls.append(Call(node.start_byte, node.end_byte, callee, taken, inside))

    def _is_await(self, function: Node, scope: Scope) -> bool:
        """Whether what the grammar takes for a call is `await` with parentheses behind it."""
        holder = scope.holder.routine
        if self.text(function) != b"await" or not (holder is None or holder.is_async):
            return False
        if self.statement is not None:
            self.statement.leaves.add(Leave.AWAIT)
        return True

    def _argument(self, node: Node) -> Argument:
        return Argument(node.start_byte, node.end_byte, None, "*" if node.type == "spread_element" else "")

    # -- what changes a name in passing

    def _assignment(self, node: Node, _use: Use, scope: Scope, stack: _Stack) -> None:
        left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
        assert left is not None and right is not None
        stack.append((right, READ, scope))
        stack.append((left, TARGET, scope))

    def _update(self, node: Node, _use: Use, scope: Scope, stack: _Stack) -> None:
        left = node.child_by_field_name("left") or node.child_by_field_name("argument")
        assert left is not None
        right = node.child_by_field_name("right")
        if right is not None:
            stack.append((right, READ, scope))
        stack.append((left, UPDATE, scope))

    def _unary(self, node: Node, _use: Use, scope: Scope, stack: _Stack) -> None:
        is_delete = node.children[0].type == "delete"
        stack.extend((child, DELETE if is_delete else READ, scope) for child in node.named_children)

    def _default(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        """A target in a pattern, and the value that it gets where there is none."""
        left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
        assert left is not None and right is not None
        stack.append((right, READ, scope))
        stack.append((left, use, scope))

    def _pair_pattern(self, node: Node, use: Use, scope: Scope, stack: _Stack) -> None:
        key, value = node.child_by_field_name("key"), node.child_by_field_name("value")
        assert key is not None and value is not None
        self._note_member(self.key(key) or "")
        stack.append((value, use, scope))
        stack.append((key, READ, scope))

    def _note_member(self, name: str) -> None:
        """Note that a member is asked for, of whatever object."""
        if self.statement is not None and name:
            self.statement.attributes.append(name)

    # -- the rest

    def _comparison(self, node: Node, _use: Use, scope: Scope, stack: _Stack) -> None:
        """Note the operands that are compared by identity, constants excepted."""
        left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
        operator = node.child_by_field_name("operator")
        if left is not None and right is not None and operator is not None and operator.type in _IDENTITY:
            if not {*CONSTANTS, "string", "template_string"} & {left.type, right.type}:
                self.identities.append((self.span(left), self.span(right)))
        stack.extend((child, READ, scope) for child in reversed(node.named_children))

    def _string(self, node: Node, _use: Use, _scope: Scope, _stack: _Stack) -> None:
        self.strings.append(self.span(node))

    def _template(self, node: Node, _use: Use, scope: Scope, stack: _Stack) -> None:
        if node.start_point[0] != node.end_point[0]:
            self.fixed.append(self.span(node))
        shown = [child for child in node.named_children if child.type == "template_substitution"]
        if not shown:
            self.strings.append(self.span(node))
        stack.extend((child, READ, scope) for child in reversed(shown))

    def _leave(self, node: Node, _use: Use, scope: Scope, stack: _Stack) -> None:
        leave = Leave.AWAIT if node.type == "await_expression" else Leave.YIELD
        if self.statement is not None:
            self.statement.leaves.add(leave)
        holder = scope.holder.routine
        if holder is not None and leave is Leave.YIELD:
            holder.is_generator = True
        stack.extend((child, READ, scope) for child in reversed(node.named_children))

    def _function(self, node: Node, _use: Use, scope: Scope, _stack: _Stack) -> None:
        self.nameless.read_nameless(node, scope)

    def _class(self, node: Node, _use: Use, scope: Scope, _stack: _Stack) -> None:
        self.nameless.read_class_expression(node, scope)
