"""Reading a Python file into the model: its statements, blocks and routines."""

from __future__ import annotations

import re
from collections.abc import Callable

from tree_sitter import Node

from aedifex.languages.python.reader import grammar
from aedifex.languages.python.reader.expressions import CALL, DELETE, LOOP, READ, TARGET, UPDATE, ExpressionReader, Use
from aedifex.languages.python.reader.grammar import parts
from aedifex.languages.python.reader.scopes import bind, declare, private_prefix
from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Comment, Module
from aedifex.program.model.names import Form, Home, Imported, Mode, Reference, Scope, ScopeKind
from aedifex.program.model.statements import Assignment, Block, Function, Kind, Leave, Pair, Role, Statement
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText, Span

_DEEPEST = 100
_HEADER_LINES = 2
_GUARD = re.compile(
    rb"""\(?\s*(__name__\s*==\s*(?P<q>["'])__main__(?P=q)|(?P<p>["'])__main__(?P=p)\s*==\s*__name__)\s*\)?"""
)


class StatementReader:
    """Walks a syntax tree block by block."""

    def __init__(self, source: SourceText) -> None:
        self.source = source
        self.data = source.data
        self.expressions = ExpressionReader(source.data)
        self.stars: list[tuple[str, Reference]] = []
        self.depth = 0
        self._readers: dict[str, Callable[[Node, Scope, Statement], None]] = {
            "expression_statement": self._expression,
            "function_definition": self._function,
            "class_definition": self._class,
            "decorated_definition": self._decorated,
            "if_statement": self._if,
            "while_statement": self._while,
            "for_statement": self._for,
            "with_statement": self._with,
            "try_statement": self._try,
            "match_statement": self._match,
            "import_statement": self._import,
            "import_from_statement": self._import_from,
            "future_import_statement": self._import_from,
            "global_statement": self._declaration,
            "nonlocal_statement": self._declaration,
            "delete_statement": self._delete,
            "return_statement": self._leave,
            "raise_statement": self._leave,
            "break_statement": self._leave,
            "continue_statement": self._leave,
            "type_alias_statement": self._alias,
            "print_statement": self._print,
        }

    def module(self, root: Node, dialect: Dialect) -> Module:
        """Read a whole file."""
        outside = Scope(ScopeKind.OUTSIDE, "outside", None, 0, root.end_byte)
        scope = Scope(ScopeKind.MODULE, self.source.path.stem, outside, 0, root.end_byte)
        block = Block(Role.BODY, 0, root.end_byte)
        self._statements(parts(root), scope, block)
        module = Module(self.source, dialect, scope, outside, block, self.expressions.routines)
        module.fixed = tuple(self.expressions.fixed)
        module.strings = tuple(self.expressions.strings)
        module.echoes = tuple(self.expressions.echoes)
        module.identities = tuple(self.expressions.identities)
        module.comments = [self._comment(node) for node in grammar.comments(root)]
        module.header_lines = _HEADER_LINES if self.data.startswith(b"#!") else 0
        module.guard = next((s for s in block.statements if self._is_guard(s)), None)
        if block.statements and block.statements[0].is_text:
            module.doc = block.statements[0]
        return module

    def _comment(self, node: Node) -> Comment:
        start = self.source.line_start(node.start_byte)
        alone = not self.data[start : node.start_byte].strip()
        text = self.data[node.start_byte + 1 : node.end_byte].decode("utf-8")
        return Comment(node.start_byte, node.end_byte, alone, text)

    def _is_guard(self, statement: Statement) -> bool:
        return statement.kind is Kind.BRANCH and _GUARD.fullmatch(self._header(statement)) is not None

    def _header(self, statement: Statement) -> bytes:
        text = self.data[statement.start : statement.header_end].partition(b"#")[0]
        return text.removeprefix(b"if").rstrip().removesuffix(b":").strip()

    # -- blocks

    def _statements(self, nodes: list[Node], scope: Scope, block: Block) -> None:
        self.depth += 1
        if self.depth > _DEEPEST:
            raise UnreadableError(
                f"blocks are nested deeper than {_DEEPEST} levels, which Python itself refuses",
                self.source.place(nodes[0].start_byte),
                "Move the inner blocks into functions.",
            )
        readers = self._readers
        for node in nodes:
            kind = node.type
            statement = Statement(
                _KINDS.get(kind, Kind.NOTHING), node.start_byte, node.end_byte, block, len(block.statements)
            )
            statement.header_end = node.end_byte
            block.statements.append(statement)
            self.expressions.statement = statement
            reader = readers.get(kind)
            if reader is not None:
                reader(node, scope, statement)
            else:
                self._read_all(parts(node), scope)
        self.depth -= 1

    def _block(
        self, node: Node | None, role: Role, scope: Scope, owner: Statement, routine: Function | None = None
    ) -> Block:
        assert node is not None
        block = Block(role, node.start_byte, node.end_byte, owner, routine=routine)
        if not owner.blocks:
            owner.header_end = min(owner.header_end, node.start_byte)
        owner.blocks.append(block)
        self._statements(parts(node), scope, block)
        self.expressions.statement = owner
        return block

    def _read_all(self, nodes: list[Node], scope: Scope, use: Use = READ) -> None:
        for node in nodes:
            self.expressions.read(node, scope, use)

    # -- plain statements

    def _expression(self, node: Node, scope: Scope, statement: Statement) -> None:
        children = parts(node)
        inner = children[0] if children else node
        statement.is_text = (
            inner.type == "string" and self.data[inner.start_byte : inner.start_byte + 1] not in b"fFbBtT"
        )
        if inner.type == "assignment":
            self._assignment(inner, scope, statement)
        elif inner.type == "augmented_assignment":
            statement.kind = Kind.UPDATE
            right = inner.child_by_field_name("right")
            left = inner.child_by_field_name("left")
            assert left is not None and right is not None
            self.expressions.read(left, scope, UPDATE)
            self.expressions.read(right, scope)
            value = self.expressions.value(right)
            statement.assignment = Assignment((Span(left.start_byte, left.end_byte),), value)
        else:
            self._read_all(children, scope)

    def _assignment(self, node: Node, scope: Scope, statement: Statement) -> None:
        statement.kind = Kind.ASSIGN
        targets: list[Node] = []
        annotation: Node | None = None
        right: Node | None = node
        while right is not None and right.type == "assignment":
            left = right.child_by_field_name("left")
            assert left is not None
            targets.append(left)
            annotation = right.child_by_field_name("type") or annotation
            right = right.child_by_field_name("right")
        use = Use(Mode.DECLARE, Form.TARGET) if right is None else TARGET
        for target in targets:
            if right is None and target.type != "identifier":
                self.expressions.read(target, scope)
            else:
                self.expressions.read(target, scope, use)
        self.expressions.read(annotation, scope)
        self.expressions.read(right, scope)
        spans = tuple(Span(target.start_byte, target.end_byte) for target in targets)
        value = self.expressions.value(right) if right is not None else None
        pairs = self._pairs(targets[0], right, statement) if right is not None and len(targets) == 1 else ()
        note = Span(annotation.start_byte, annotation.end_byte) if annotation is not None else None
        statement.assignment = Assignment(spans, value, pairs, note)

    def _pairs(self, target: Node, value: Node, statement: Statement) -> tuple[Pair, ...]:
        if target.type == "identifier":
            lefts, rights = [target], [value]
        elif target.type in ("pattern_list", "tuple_pattern", "list_pattern"):
            if value.type not in ("expression_list", "tuple", "list"):
                return ()
            lefts, rights = parts(target), parts(value)
        else:
            return ()
        if len(lefts) != len(rights) or any(left.type != "identifier" for left in lefts):
            return ()
        if any(right.type in ("list_splat", "yield") for right in rights):
            return ()
        references = {reference.start: reference for reference in statement.references}
        return tuple(
            Pair(references[left.start_byte], self.expressions.value(right))
            for left, right in zip(lefts, rights, strict=True)
        )

    def _delete(self, node: Node, scope: Scope, statement: Statement) -> None:
        self._read_all(parts(node), scope, DELETE)

    def _leave(self, node: Node, scope: Scope, statement: Statement) -> None:
        leave = _LEAVES[node.type]
        statement.leaves.add(leave)
        given = parts(node)
        if leave is Leave.RETURN and given:
            statement.returned = Span(given[0].start_byte, node.end_byte)
        self._read_all(given, scope)

    def _print(self, node: Node, scope: Scope, statement: Statement) -> None:
        # The grammar takes `print >> file, x` for a statement of old; today it is an expression on the name.
        self.expressions.name(node.children[0], scope, READ)
        self._read_all(parts(node), scope)

    def _declaration(self, node: Node, scope: Scope, statement: Statement) -> None:
        home = Home.MODULE if node.type == "global_statement" else Home.AROUND
        word = node.children[0]
        statement.declares, statement.keyword = home, Span(word.start_byte, word.end_byte)
        for child in parts(node):
            if child.type == "identifier":
                reference = self.expressions.name(child, scope, Use(Mode.DECLARE, Form.DECLARATION))
                declare(scope, reference.name, home)

    def _alias(self, node: Node, scope: Scope, statement: Statement) -> None:
        left, right = node.child_by_field_name("left"), node.child_by_field_name("right")
        assert left is not None
        inner = parts(left)[0]
        if inner.type not in ("identifier", "generic_type"):
            self._call_of_type(node, left, scope, statement)
            return
        parameters = None
        if inner.type == "generic_type":
            parameters = parts(inner)[1]
            inner = parts(inner)[0]
        self.expressions.name(inner, scope, Use(Mode.WRITE, Form.TYPE_ALIAS))
        around = self._type_parameters(parameters, scope, self._identifier(inner), node)
        value_scope = self._scope(ScopeKind.TYPE_PARAMETERS, self._identifier(inner), around, node)
        self.expressions.read(right, value_scope)

    def _call_of_type(self, node: Node, left: Node, scope: Scope, statement: Statement) -> None:
        # The grammar takes `type(x).y = z` for a type alias; it is an assignment to an attribute.
        right = node.child_by_field_name("right")
        assert right is not None
        statement.kind = Kind.ASSIGN
        self.expressions.name(node.children[0], scope, CALL)
        self._read_all([*parts(left), right], scope)
        target = Span(node.start_byte, left.end_byte)
        statement.assignment = Assignment((target,), self.expressions.value(right))

    # -- imports

    def _import(self, node: Node, scope: Scope, statement: Statement) -> None:
        for child in parts(node):
            if child.type == "aliased_import":
                self._import_alias(child, scope, None)
            elif child.type == "dotted_name":
                name = self.expressions.text(parts(child)[0]).decode("utf-8")
                statement.imports.append(Imported(self._dotted(child), None))
                self._import_name(parts(child)[0], scope, Imported(name, None))

    def _dotted(self, node: Node) -> str:
        return ".".join(self._identifier(part) for part in parts(node))

    def _import_from(self, node: Node, scope: Scope, statement: Statement) -> None:
        source = node.child_by_field_name("module_name")
        statement.holds_for_file = source is None
        origin = self._identifier(source) if source is not None else "__future__"
        origin = re.sub(r"\s", "", origin)
        for child in parts(node):
            if child == source:
                continue
            if child.type == "wildcard_import":
                self._star(child, scope, origin, statement)
            elif child.type == "aliased_import":
                self._import_alias(child, scope, origin)
            elif child.type == "dotted_name":
                name = self._identifier(child)
                self._import_name(parts(child)[0], scope, Imported(origin, name))

    def _import_alias(self, node: Node, scope: Scope, origin: str | None) -> None:
        name, alias = node.child_by_field_name("name"), node.child_by_field_name("alias")
        assert name is not None and alias is not None
        what = self._identifier(name)
        self._import_name(alias, scope, Imported(what, None) if origin is None else Imported(origin, what))

    def _import_name(self, node: Node, scope: Scope, imported: Imported) -> None:
        reference = self.expressions.name(node, scope, Use(Mode.WRITE, Form.IMPORT))
        home = scope.module_scope if scope.declared.get(reference.name) is Home.MODULE else scope
        symbol = home.symbols.get(reference.name)
        if symbol is not None and symbol.imported is None:
            symbol.imported = imported

    def _star(self, node: Node, scope: Scope, origin: str, statement: Statement) -> None:
        star = Reference("*", node.start_byte, node.end_byte, Mode.WRITE, Form.STAR, scope, statement)
        self.stars.append((origin, star))

    # -- compound statements

    def _if(self, node: Node, scope: Scope, statement: Statement) -> None:
        self.expressions.read(node.child_by_field_name("condition"), scope)
        self._block(node.child_by_field_name("consequence"), Role.BODY, scope, statement)
        for clause in node.children_by_field_name("alternative"):
            if clause.type == "elif_clause":
                self.expressions.read(clause.child_by_field_name("condition"), scope)
                self._block(clause.child_by_field_name("consequence"), Role.OTHER_CONDITION, scope, statement)
            else:
                self._block(clause.child_by_field_name("body"), Role.OTHERWISE, scope, statement)

    def _while(self, node: Node, scope: Scope, statement: Statement) -> None:
        self.expressions.read(node.child_by_field_name("condition"), scope)
        self._block(node.child_by_field_name("body"), Role.BODY, scope, statement)
        self._else(node, scope, statement)

    def _for(self, node: Node, scope: Scope, statement: Statement) -> None:
        if node.children[0].type == "async":
            statement.leaves.add(Leave.AWAIT)
        self.expressions.read(node.child_by_field_name("left"), scope, LOOP)
        self._read_all(node.children_by_field_name("right"), scope)
        self._block(node.child_by_field_name("body"), Role.BODY, scope, statement)
        self._else(node, scope, statement)

    def _else(self, node: Node, scope: Scope, statement: Statement) -> None:
        clause = node.child_by_field_name("alternative")
        if clause is not None:
            self._block(clause.child_by_field_name("body"), Role.OTHERWISE, scope, statement)

    def _with(self, node: Node, scope: Scope, statement: Statement) -> None:
        if node.children[0].type == "async":
            statement.leaves.add(Leave.AWAIT)
        body = node.child_by_field_name("body")
        for child in parts(node):
            if child != body:
                self.expressions.read(child, scope)
        self._block(body, Role.BODY, scope, statement)

    def _try(self, node: Node, scope: Scope, statement: Statement) -> None:
        for child in parts(node):
            if child.type == "block":
                self._block(child, Role.BODY, scope, statement)
            elif child.type.startswith("except"):
                self._except(child, scope, statement)
            elif child.type in _CLAUSES:
                body = child.child_by_field_name("body") or parts(child)[-1]
                self._block(body, _CLAUSES[child.type], scope, statement)

    def _except(self, node: Node, scope: Scope, statement: Statement) -> None:
        for child in parts(node):
            if child.type == "block":
                self._block(child, Role.HANDLER, scope, statement)
            elif child.type == "as_pattern":
                alias = child.child_by_field_name("alias")
                self._read_all([c for c in parts(child) if c != alias], scope)
                if alias is not None:
                    caught = Use(Mode.WRITE, Form.CATCH)
                    self._read_all(parts(alias), scope, caught)
            else:
                self.expressions.read(child, scope)

    def _match(self, node: Node, scope: Scope, statement: Statement) -> None:
        self._read_all(node.children_by_field_name("subject"), scope)
        body = node.child_by_field_name("body")
        assert body is not None
        statement.header_end = body.start_byte
        for clause in parts(body):
            if clause.type != "case_clause":
                continue
            for child in parts(clause):
                if child.type == "block":
                    self._block(child, Role.CASE, scope, statement)
                elif child.type == "if_clause":
                    self.expressions.read(child, scope)
                else:
                    self.expressions.pattern(child, scope)

    # -- definitions

    def _decorated(self, node: Node, scope: Scope, statement: Statement) -> None:
        for child in parts(node):
            if child.type == "decorator":
                statement.decorators.append(Span(child.start_byte, child.end_byte))
                self._read_all(parts(child), scope)
        inner = node.child_by_field_name("definition")
        assert inner is not None
        statement.kind = _KINDS[inner.type]
        self._readers[inner.type](inner, scope, statement)

    def _function(self, node: Node, scope: Scope, statement: Statement) -> None:
        name, body = node.child_by_field_name("name"), node.child_by_field_name("body")
        parameters, result = node.child_by_field_name("parameters"), node.child_by_field_name("return_type")
        assert name is not None and body is not None and parameters is not None
        reference = self.expressions.name(name, scope, Use(Mode.WRITE, Form.ROUTINE))
        around = self._type_parameters(node.child_by_field_name("type_parameters"), scope, reference.name, node)
        inner = self._scope(ScopeKind.ROUTINE, self._identifier(name), around, node)
        signature = Span(parameters.start_byte + 1, parameters.end_byte - 1)
        function = Function(self._identifier(name), inner, signature, statement, reference)
        function.is_async = node.children[0].type == "async"
        inner.routine = statement.routine = function
        statement.defines = inner
        self.expressions.routines.append(function)
        self.expressions.parameters(parameters, function, around)
        self.expressions.read(result, around)
        function.result_type = Span(result.start_byte, result.end_byte) if result is not None else None
        function.body = self._block(body, Role.BODY, inner, statement, function)
        if function.body.statements and function.body.statements[0].is_text:
            function.doc = function.body.statements[0].span

    def _class(self, node: Node, scope: Scope, statement: Statement) -> None:
        name = node.child_by_field_name("name")
        assert name is not None
        reference = self.expressions.name(name, scope, Use(Mode.WRITE, Form.CLASS))
        private = private_prefix(self._identifier(name))
        parameters = node.child_by_field_name("type_parameters")
        around = self._type_parameters(parameters, scope, reference.name, node, private)
        bases = node.child_by_field_name("superclasses")
        if bases is not None:
            self.expressions.read(bases, around)
        inner = self._scope(ScopeKind.CLASS, self._identifier(name), around, node)
        inner.private = private
        statement.defines = inner
        for implicit in ("__module__", "__qualname__"):
            bind(inner, implicit)
        self._block(node.child_by_field_name("body"), Role.BODY, inner, statement)

    def _type_parameters(
        self, node: Node | None, scope: Scope, name: str, owner: Node, private: str | None = None
    ) -> Scope:
        """The scope of a definition's type parameters, or `scope` where there are none."""
        if node is None:
            return scope
        inner = self._scope(ScopeKind.TYPE_PARAMETERS, name, scope, owner)
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
                around = self._scope(ScopeKind.TYPE_PARAMETERS, self._identifier(parameter), inner, node)
                self.expressions.read(node, around)
        return inner

    def _scope(self, kind: ScopeKind, name: str, parent: Scope, node: Node) -> Scope:
        scope = Scope(kind, name, parent, node.start_byte, node.end_byte, private=parent.private)
        scope.runs_later = kind is ScopeKind.ROUTINE
        scope.hides_from_inner = kind is ScopeKind.CLASS
        parent.children.append(scope)
        return scope

    def _identifier(self, node: Node) -> str:
        return self.expressions.text(node).decode("utf-8")


_LEAVES = {f"{leave.value}_statement": leave for leave in (Leave.RETURN, Leave.RAISE, Leave.BREAK, Leave.CONTINUE)}
_CLAUSES = {"else_clause": Role.OTHERWISE, "finally_clause": Role.FINALLY}
_KINDS = {
    "expression_statement": Kind.EXPRESSION,
    "function_definition": Kind.ROUTINE,
    "class_definition": Kind.CLASS,
    "decorated_definition": Kind.ROUTINE,
    "if_statement": Kind.BRANCH,
    "while_statement": Kind.LOOP,
    "for_statement": Kind.EACH,
    "with_statement": Kind.RESOURCE,
    "try_statement": Kind.GUARDED,
    "match_statement": Kind.CHOICE,
    "import_statement": Kind.IMPORT,
    "import_from_statement": Kind.IMPORT,
    "future_import_statement": Kind.IMPORT,
    "global_statement": Kind.DECLARE,
    "nonlocal_statement": Kind.DECLARE,
    "delete_statement": Kind.DELETE,
    "return_statement": Kind.LEAVE,
    "raise_statement": Kind.LEAVE,
    "break_statement": Kind.LEAVE,
    "continue_statement": Kind.LEAVE,
    "assert_statement": Kind.CHECK,
    "type_alias_statement": Kind.ALIAS,
    "print_statement": Kind.EXPRESSION,
    "exec_statement": Kind.EXPRESSION,
}
