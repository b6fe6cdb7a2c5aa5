"""Reading a JavaScript file into the model: its statements and blocks."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from tree_sitter import Node

from aedifex.languages.javascript.reader import grammar
from aedifex.languages.javascript.reader.expressions import ExpressionReader
from aedifex.languages.javascript.reader.import_statements import ImportReader
from aedifex.languages.javascript.reader.routines import RoutineReader
from aedifex.languages.javascript.reader.scopes import new_scope
from aedifex.languages.javascript.reader.shapes import FUNCTIONS
from aedifex.languages.javascript.reader.uses import CAUGHT, ROUTINE, declaring
from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import LOOP, TARGET, UPDATE, Living, Use
from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Comment, Module
from aedifex.program.model.names import Form, Imported, Mode, Scope, ScopeKind
from aedifex.program.model.statements import Assignment, Block, Function, Kind, Lambda, Leave, Pair, Role, Statement
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText, Span

_DEEPEST = 90
_DIRECTIVES = frozenset({b"use strict", b"use asm"})
_DECLARATIONS = frozenset({"lexical_declaration", "variable_declaration"})


class StatementReader:
    """Walks a syntax tree block by block; `code` is the file's text with all that is not JavaScript blanked out."""

    def __init__(self, source: SourceText, code: bytes) -> None:
        self.source = source
        self.data = code
        self.expressions = ExpressionReader(code)
        self.routines = self.expressions.nameless = RoutineReader(self)
        self.imports = ImportReader(self.expressions)
        self.depth = 0
        self._readers: dict[str, Callable[[Node, Scope, Statement], None]] = {
            "expression_statement": self._expression,
            "function_declaration": self.routines.read_function,
            "generator_function_declaration": self.routines.read_function,
            "class_declaration": self.routines.read_class,
            "lexical_declaration": self._declaration,
            "variable_declaration": self._declaration,
            "if_statement": self._if,
            "while_statement": self._while,
            "do_statement": self._while,
            "for_statement": self._for,
            "for_in_statement": self._for_each,
            "try_statement": self._try,
            "switch_statement": self._switch,
            "statement_block": self._block,
            "with_statement": self._with,
            "labeled_statement": self._labelled,
            "import_statement": self.imports.read_import,
            "export_statement": self._export,
            "return_statement": self._leave,
            "throw_statement": self._leave,
            "break_statement": self._leave,
            "continue_statement": self._leave,
        }

    def module(self, root: Node, dialect: Dialect) -> Module:
        """Read a whole file."""
        outside = Scope(ScopeKind.OUTSIDE, "outside", None, 0, root.end_byte)
        scope = Scope(ScopeKind.MODULE, self.source.path.stem, outside, 0, root.end_byte)
        block = Block(Role.BODY, 0, root.end_byte)
        self._statements(parts(root), scope, block)
        expressions = self.expressions
        module = Module(self.source, dialect, scope, outside, block, expressions.routines)
        module.fixed = tuple(expressions.fixed)
        module.strings = tuple(expressions.strings)
        module.identities = tuple(expressions.identities)
        module.comments = [self._comment(node) for node in grammar.GRAMMAR.comments(root)]
        module.header_lines = int(self.data.startswith(b"#!"))
        return module

    def _comment(self, node: Node) -> Comment:
        start = self.source.line_start(node.start_byte)
        alone = not self.data[start : node.start_byte].strip()
        text = self.data[node.start_byte : node.end_byte].decode("utf-8")
        said = text.removeprefix("//") if text.startswith("//") else text.removeprefix("/*").removesuffix("*/")
        return Comment(node.start_byte, node.end_byte, alone, said.lstrip("*"))

    # -- blocks

    def statement(self, node: Node, block: Block) -> Statement:
        """A new statement at the end of a block."""
        kind = _KINDS.get(node.type, Kind.NOTHING)
        end, ending = _end_of(node)
        statement = Statement(kind, node.start_byte, end, block, len(block.statements))
        statement.header_end, statement.ending = end, ending
        block.statements.append(statement)
        self.expressions.statement = statement
        return statement

    def _statements(self, nodes: Iterable[Node], scope: Scope, block: Block) -> None:
        self.depth += 1
        for node in nodes:
            if self.depth > _DEEPEST:
                raise UnreadableError(
                    f"functions and blocks are nested deeper than {_DEEPEST} levels",
                    self.source.place(node.start_byte),
                    "Move the inner ones out.",
                )
            if node.type not in ("hash_bang_line", "empty_statement"):
                self._read(node, scope, self.statement(node, block))
        self.depth -= 1

    def _read(self, node: Node, scope: Scope, statement: Statement) -> None:
        reader = self._readers.get(node.type)
        if reader is not None:
            reader(node, scope, statement)
        else:
            self.expressions.read_all(parts(node), scope)

    def block(
        self, node: Node | None, role: Role, scope: Scope, owner: Statement, routine: Function | None = None
    ) -> Block:
        """Read a block of a statement: the body of a function, several statements, or one without braces."""
        assert node is not None
        block = Block(role, node.start_byte, _end_of(node)[0], owner, routine=routine)
        if not owner.blocks:
            owner.header_end = min(owner.header_end, node.start_byte)
        owner.blocks.append(block)
        is_braced = node.type == "statement_block"
        if is_braced and routine is None:
            scope = block.scope = new_scope(ScopeKind.BLOCK, "block", scope, node.start_byte, node.end_byte)
        self._statements(parts(node) if is_braced else [node], scope, block)
        self.expressions.statement = owner
        return block

    def routine_body(self, node: Node, scope: Scope, owner: Statement, routine: Function) -> Block:
        """Read the body of a function that has a name: a block, or the one value that an arrow gives back."""
        if node.type == "statement_block":
            return self.block(node, Role.BODY, scope, owner, routine)
        block = Block(Role.BODY, node.start_byte, node.end_byte, owner, routine=routine)
        owner.header_end = min(owner.header_end, node.start_byte)
        owner.blocks.append(block)
        statement = self.statement(node, block)
        statement.kind, statement.returned = Kind.LEAVE, self.expressions.span(node)
        statement.leaves.add(Leave.RETURN)
        self.expressions.read(node, scope)
        self.expressions.statement = owner
        return block

    def body(self, node: Node, scope: Scope, owner: Statement | None, routine: Lambda) -> Block:
        """Read the body of a nameless routine, which belongs to the statement that it stands in."""
        block = Block(Role.BODY, node.start_byte, node.end_byte, owner, routine=routine)
        if owner is not None:
            owner.bodies.append(block)
        self._statements(parts(node), scope, block)
        self.expressions.statement = owner
        return block

    # -- plain statements

    def _expression(self, node: Node, scope: Scope, statement: Statement) -> None:
        children = parts(node)
        inner = children[0] if children else node
        statement.is_text = inner.type == "string"
        if statement.is_text and self.expressions.text(inner)[1:-1] in _DIRECTIVES:
            statement.kind, statement.is_text = Kind.NOTHING, False
        if inner.type == "assignment_expression":
            self._assignment(inner, scope, statement)
        elif inner.type in ("augmented_assignment_expression", "update_expression"):
            self._update(inner, scope, statement)
        else:
            self.expressions.read_all(children, scope)

    def _assignment(self, node: Node, scope: Scope, statement: Statement) -> None:
        statement.kind = Kind.ASSIGN
        targets: list[Node] = []
        right: Node | None = node
        while right is not None and right.type == "assignment_expression":
            left = right.child_by_field_name("left")
            assert left is not None
            targets.append(left)
            right = right.child_by_field_name("right")
        assert right is not None
        for target in targets:
            self.expressions.read(target, scope, TARGET)
        self.expressions.read(right, scope)
        value = self.expressions.value(right)
        named = statement.references[0] if targets[0].type == "identifier" and len(targets) == 1 else None
        pairs = (Pair(named, value),) if named is not None else self._taken_apart(targets, right, statement)
        statement.assignment = Assignment(tuple(self.expressions.span(target) for target in targets), value, pairs)

    def _taken_apart(self, targets: list[Node], right: Node, statement: Statement) -> tuple[Pair, ...]:
        """The names of a list, each with its value, where both are written out: `[a, b] = [1, 2]`."""
        lefts, rights = parts(targets[0]), parts(right)
        is_list = targets[0].type == "array_pattern" and right.type == "array" and len(targets) == 1
        if not is_list or len(lefts) != len(rights) or any(left.type != "identifier" for left in lefts):
            return ()
        if any(value.type == "spread_element" for value in rights):
            return ()
        found = {reference.start: reference for reference in statement.references}
        pairs = zip(lefts, rights, strict=True)
        return tuple(Pair(found[left.start_byte], self.expressions.value(value)) for left, value in pairs)

    def _update(self, node: Node, scope: Scope, statement: Statement) -> None:
        statement.kind = Kind.UPDATE
        left = node.child_by_field_name("left") or node.child_by_field_name("argument")
        right = node.child_by_field_name("right")
        assert left is not None
        self.expressions.read(left, scope, UPDATE)
        self.expressions.read(right, scope)
        value = self.expressions.value(right) if right is not None else None
        statement.assignment = Assignment((self.expressions.span(left),), value)

    def _declaration(self, node: Node, scope: Scope, statement: Statement) -> None:
        """`let`, `const` or `var`: a function that gets a name so is a routine as others are."""
        statement.keyword = self.expressions.span(node.children[0])
        declarators = [child for child in parts(node) if child.type == "variable_declarator"]
        if self._is_required(declarators, _keyword(node), scope, statement):
            return
        function = self._named_function(declarators)
        if function is not None:
            name = declarators[0].child_by_field_name("name")
            assert name is not None
            reference = self.expressions.name(name, scope, declaring(_keyword(node), ROUTINE))
            self.routines.function(function, scope, statement, reference)
            return
        self._declare(declarators, _keyword(node), scope, statement)

    def _is_required(self, declarators: list[Node], keyword: str, scope: Scope, statement: Statement) -> bool:
        """Read a declaration that only brings one module, or things of it, by `require`."""
        value = declarators[0].child_by_field_name("value") if len(declarators) == 1 else None
        whole, part = self.imports.part_required(value)
        module, name = self.imports.required(whole), declarators[0].child_by_field_name("name")
        if module is None or name is None:
            return False
        home = scope.frame if keyword == "var" else scope
        if not self.imports.read_required(name, Imported(module, part), home, statement):
            return False
        statement.kind = Kind.IMPORT
        self.expressions.read(value, scope)
        return True

    def _named_function(self, declarators: list[Node]) -> Node | None:
        if len(declarators) != 1:
            return None
        name, value = declarators[0].child_by_field_name("name"), declarators[0].child_by_field_name("value")
        if name is None or name.type != "identifier" or value is None or value.type not in FUNCTIONS:
            return None
        body, own = value.child_by_field_name("body"), value.child_by_field_name("name")
        return value if body is not None and own is None else None

    def _declare(self, declarators: list[Node], keyword: str, scope: Scope, statement: Statement) -> None:
        targets: list[Span] = []
        pairs: list[Pair] = []
        given: Node | None = None
        for declarator in declarators:
            name, value = declarator.child_by_field_name("name"), declarator.child_by_field_name("value")
            assert name is not None
            bare = Use(Mode.DECLARE, Form.DECLARATION)
            before = len(statement.references)
            self.expressions.read(name, scope, declaring(keyword, TARGET if value is not None else bare))
            self.expressions.read(value, scope)
            targets.append(self.expressions.span(name))
            if value is not None:
                given = value
                if name.type == "identifier":
                    pairs.append(Pair(statement.references[before], self.expressions.value(value)))
                elif len(declarators) == 1:
                    pairs += self._taken_apart([name], value, statement)
        statement.kind = Kind.ASSIGN if given is not None else Kind.DECLARE
        value_of_one = self.expressions.value(given) if given is not None and len(declarators) == 1 else None
        if given is not None:
            statement.assignment = Assignment(tuple(targets), value_of_one, tuple(pairs))

    def _leave(self, node: Node, scope: Scope, statement: Statement) -> None:
        leave = _LEAVES[node.type]
        statement.leaves.add(leave)
        label = node.child_by_field_name("label")
        if label is not None:
            statement.leaves_label = self.expressions.identifier(label)
            return
        given = parts(node)
        if leave is Leave.RETURN and given:
            statement.returned = self.expressions.span(given[0])
        self.expressions.read_all(given, scope)

    def _labelled(self, node: Node, scope: Scope, statement: Statement) -> None:
        label, body = node.child_by_field_name("label"), node.child_by_field_name("body")
        assert label is not None and body is not None
        statement.label = self.expressions.identifier(label)
        statement.kind = _KINDS.get(body.type, Kind.NOTHING)
        self._read(body, scope, statement)

    def _export(self, node: Node, scope: Scope, statement: Statement) -> None:
        declared = node.child_by_field_name("declaration")
        if declared is not None:
            statement.kind = _KINDS.get(declared.type, Kind.NOTHING)
            self._read(declared, scope, statement)
        elif node.child_by_field_name("source") is None:
            self.imports.read_export(node, scope)

    # -- compound statements

    def _condition(self, node: Node, scope: Scope, field: str = "condition") -> None:
        self.expressions.read(node.child_by_field_name(field), scope)

    def _if(self, node: Node, scope: Scope, statement: Statement) -> None:
        role = Role.BODY
        while True:
            self._condition(node, scope)
            self.block(node.child_by_field_name("consequence"), role, scope, statement)
            clause = node.child_by_field_name("alternative")
            other = parts(clause)[0] if clause is not None and parts(clause) else None
            if other is None:
                return
            if other.type != "if_statement":
                self.block(other, Role.OTHERWISE, scope, statement)
                return
            node, role = other, Role.OTHER_CONDITION

    def _while(self, node: Node, scope: Scope, statement: Statement) -> None:
        statement.tests_last = node.type == "do_statement"
        self._condition(node, scope)
        self.block(node.child_by_field_name("body"), Role.BODY, scope, statement)

    def _for(self, node: Node, scope: Scope, statement: Statement) -> None:
        inner = new_scope(ScopeKind.BLOCK, "for", scope, node.start_byte, node.end_byte)
        first = node.child_by_field_name("initializer")
        statement.beginning = self.expressions.span(first) if first is not None else None
        if first is not None and first.type in _DECLARATIONS:
            declarators = [child for child in parts(first) if child.type == "variable_declarator"]
            statement.keyword = self.expressions.span(first.children[0])
            self._declare(declarators, _keyword(first), inner, statement)
            statement.kind, statement.assignment = Kind.LOOP, None
        else:
            self.expressions.read(first, inner)
        self._condition(node, inner)
        self._condition(node, inner, "increment")
        self.block(node.child_by_field_name("body"), Role.BODY, inner, statement)

    def _for_each(self, node: Node, scope: Scope, statement: Statement) -> None:
        inner = new_scope(ScopeKind.BLOCK, "for", scope, node.start_byte, node.end_byte)
        if any(child.type == "await" for child in node.children):
            statement.leaves.add(Leave.AWAIT)
        keyword = node.child_by_field_name("kind")
        statement.keyword = self.expressions.span(keyword) if keyword is not None else None
        use = declaring(self.expressions.identifier(keyword), LOOP) if keyword is not None else LOOP
        self.expressions.read(node.child_by_field_name("left"), inner, use)
        self.expressions.read(node.child_by_field_name("value"), inner)
        walked = inner if keyword is not None and use.living is Living.BLOCK else scope
        self.expressions.read(node.child_by_field_name("right"), walked)
        self.block(node.child_by_field_name("body"), Role.BODY, inner, statement)

    def _try(self, node: Node, scope: Scope, statement: Statement) -> None:
        self.block(node.child_by_field_name("body"), Role.BODY, scope, statement)
        handler, last = node.child_by_field_name("handler"), node.child_by_field_name("finalizer")
        if handler is not None:
            inner = new_scope(ScopeKind.BLOCK, "catch", scope, handler.start_byte, handler.end_byte)
            self.expressions.read(handler.child_by_field_name("parameter"), inner, CAUGHT)
            self.block(handler.child_by_field_name("body"), Role.HANDLER, inner, statement)
        if last is not None:
            self.block(last.child_by_field_name("body"), Role.FINALLY, scope, statement)

    def _switch(self, node: Node, scope: Scope, statement: Statement) -> None:
        statement.ends_at_break = True
        self._condition(node, scope, "value")
        body = node.child_by_field_name("body")
        assert body is not None
        statement.header_end = body.start_byte
        inner = new_scope(ScopeKind.BLOCK, "switch", scope, body.start_byte, body.end_byte)
        for case in parts(body):
            value = case.child_by_field_name("value")
            self.expressions.read(value, inner)
            role = Role.CASE if value is not None else Role.OTHERWISE
            block = Block(role, case.start_byte, case.end_byte, statement, falls_through=True)
            statement.blocks.append(block)
            self._statements(case.children_by_field_name("body"), inner, block)
            self.expressions.statement = statement

    def _block(self, node: Node, scope: Scope, statement: Statement) -> None:
        self.block(node, Role.BODY, scope, statement)

    def _with(self, node: Node, scope: Scope, statement: Statement) -> None:
        self._condition(node, scope, "object")
        self.block(node.child_by_field_name("body"), Role.BODY, scope, statement)


def _end_of(node: Node) -> tuple[int, int]:
    """Where a statement ends, and how long the mark is that ends it; one on a line below is for the next one's sake."""
    last = node.children[-1] if node.children else None
    before = last.prev_sibling if last is not None and last.type == ";" else None
    if last is not None and before is not None:
        is_below = last.start_point[0] > before.end_point[0]
        return (before.end_byte, 0) if is_below else (node.end_byte, node.end_byte - before.end_byte)
    if last is not None and (last.type.endswith("_statement") or last.type in (*_DECLARATIONS, "else_clause")):
        return _end_of(last)[0], 0
    return node.end_byte, 0


def _keyword(node: Node) -> str:
    return node.children[0].type


_LEAVES = {
    "return_statement": Leave.RETURN,
    "throw_statement": Leave.RAISE,
    "break_statement": Leave.BREAK,
    "continue_statement": Leave.CONTINUE,
}
_KINDS = {
    "expression_statement": Kind.EXPRESSION,
    "function_declaration": Kind.ROUTINE,
    "generator_function_declaration": Kind.ROUTINE,
    "class_declaration": Kind.CLASS,
    "lexical_declaration": Kind.ASSIGN,
    "variable_declaration": Kind.ASSIGN,
    "if_statement": Kind.BRANCH,
    "while_statement": Kind.LOOP,
    "do_statement": Kind.LOOP,
    "for_statement": Kind.LOOP,
    "for_in_statement": Kind.EACH,
    "try_statement": Kind.GUARDED,
    "statement_block": Kind.GUARDED,
    "switch_statement": Kind.CHOICE,
    "with_statement": Kind.RESOURCE,
    "import_statement": Kind.IMPORT,
    "export_statement": Kind.ALIAS,
    "return_statement": Kind.LEAVE,
    "throw_statement": Kind.LEAVE,
    "break_statement": Kind.LEAVE,
    "continue_statement": Kind.LEAVE,
    "class_static_block": Kind.EXPRESSION,
}
