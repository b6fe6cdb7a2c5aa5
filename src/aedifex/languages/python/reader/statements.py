"""Reading a Python file into the model: its statements, blocks and routines."""

from __future__ import annotations

import re
from collections.abc import Callable

from tree_sitter import Node

from aedifex.languages.python.reader import grammar
from aedifex.languages.python.reader.definitions import DefinitionReader
from aedifex.languages.python.reader.doc_texts import movable_docs
from aedifex.languages.python.reader.expressions import ExpressionReader
from aedifex.languages.python.reader.import_statements import ImportReader
from aedifex.languages.python.reader.patterns import read_pattern
from aedifex.languages.python.reader.scopes import declare
from aedifex.languages.python.reader.shapes import PATTERNS, gives_fixed
from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import CALL, DELETE, LOOP, READ, TARGET, UPDATE, Use
from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Comment, Module
from aedifex.program.model.names import Form, Home, Mode, Scope, ScopeKind
from aedifex.program.model.statements import Assignment, Block, Function, Kind, Leave, Pair, Role, Statement
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText, Span

_DEEPEST = 100
_EDITOR = re.compile(rb"#\s*(?:-\*-|(?:vim?|ex|kate):)")
_ENCODING = re.compile(rb"[ \t\f]*#.*?coding[:=][ \t]*[-\w.]+")
_GUARD = re.compile(
    rb"""\(?\s*(__name__\s*==\s*(?P<q>["'])__main__(?P=q)|(?P<p>["'])__main__(?P=p)\s*==\s*__name__)\s*\)?"""
)


class StatementReader:
    """Walks a syntax tree block by block."""

    def __init__(self, source: SourceText) -> None:
        self.source = source
        self.data = source.data
        self.expressions = ExpressionReader(source.data)
        self.imports = ImportReader(self.expressions)
        self.definitions = DefinitionReader(self)
        self.depth = 0
        self._readers: dict[str, Callable[[Node, Scope, Statement], None]] = {
            "expression_statement": self._expression,
            "function_definition": self.definitions.read_function,
            "class_definition": self.definitions.read_class,
            "decorated_definition": self.definitions.read_decorated,
            "if_statement": self._if,
            "while_statement": self._while,
            "for_statement": self._for,
            "with_statement": self._with,
            "try_statement": self._try,
            "match_statement": self._match,
            "import_statement": self.imports.read_import,
            "import_from_statement": self.imports.read_import_from,
            "future_import_statement": self.imports.read_import_from,
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
        movable = set(movable_docs(module)) if self.expressions.fixed else ()
        module.fixed = tuple(span for span in self.expressions.fixed if span not in movable)
        module.strings = tuple(self.expressions.strings)
        module.echoes = tuple(self.expressions.echoes)
        module.identities = tuple(self.expressions.identities)
        module.comments = [self._comment(node) for node in grammar.GRAMMAR.comments(root)]
        module.header_lines = self._header_lines()
        module.guard = next((s for s in block.statements if self._is_guard(s)), None)
        if block.statements and block.statements[0].is_text:
            module.doc = block.statements[0]
        return module

    def _header_lines(self) -> int:
        """How many of the first lines say something to the system or to an editor: by what the file is run, say.

        The encoding may be named in a comment on one of the first two lines (PEP 263).
        """
        count = self._lines_to_the_system()
        for line in self.data.split(b"\n")[count:]:
            if not line.startswith(b"#") or not _EDITOR.match(line):
                return count
            count += 1
        return count

    def _lines_to_the_system(self) -> int:
        lines = self.data.split(b"\n", 2)[:2]
        if _ENCODING.match(lines[0]):
            return 1
        is_open = not lines[0].strip() or lines[0].lstrip().startswith(b"#")
        if is_open and len(lines) > 1 and _ENCODING.match(lines[1]):
            return 2
        return int(lines[0].startswith(b"#!"))

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
                self.expressions.read_all(parts(node), scope)
        self.depth -= 1

    def block(
        self, node: Node | None, role: Role, scope: Scope, owner: Statement, routine: Function | None = None
    ) -> Block:
        """Read a block of a statement, which may be the body of a function."""
        assert node is not None
        block = Block(role, node.start_byte, node.end_byte, owner, routine=routine)
        if not owner.blocks:
            owner.header_end = min(owner.header_end, node.start_byte)
        owner.blocks.append(block)
        self._statements(parts(node), scope, block)
        self.expressions.statement = owner
        return block

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
            self.expressions.read_all(children, scope)

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
        is_fixed = right is not None and not pairs and all(gives_fixed(target, right) for target in targets)
        statement.assignment = Assignment(spans, value, pairs, note, is_fixed)

    def _pairs(self, target: Node, value: Node, statement: Statement) -> tuple[Pair, ...]:
        if target.type == "identifier":
            lefts, rights = [target], [value]
        elif target.type in PATTERNS:
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
        self.expressions.read_all(parts(node), scope, DELETE)

    def _leave(self, node: Node, scope: Scope, statement: Statement) -> None:
        leave = _LEAVES[node.type]
        statement.leaves.add(leave)
        given = parts(node)
        if leave is Leave.RETURN and given:
            statement.returned = Span(given[0].start_byte, node.end_byte)
        self.expressions.read_all(given, scope)

    def _print(self, node: Node, scope: Scope, statement: Statement) -> None:
        # The grammar takes `print >> file, x` for a statement of old; today it is an expression on the name.
        self.expressions.name(node.children[0], scope, READ)
        self.expressions.read_all(parts(node), scope)

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
        around = self.definitions.type_parameters(parameters, scope, self.expressions.identifier(inner), node)
        value_scope = self.definitions.scope(
            ScopeKind.TYPE_PARAMETERS, self.expressions.identifier(inner), around, node
        )
        self.expressions.read(right, value_scope)

    def _call_of_type(self, node: Node, left: Node, scope: Scope, statement: Statement) -> None:
        # The grammar takes `type(x).y = z` for a type alias; it is an assignment to an attribute.
        right = node.child_by_field_name("right")
        assert right is not None
        statement.kind = Kind.ASSIGN
        self.expressions.name(node.children[0], scope, CALL)
        self.expressions.read_all([*parts(left), right], scope)
        target = Span(node.start_byte, left.end_byte)
        statement.assignment = Assignment((target,), self.expressions.value(right))

    # -- compound statements

    def _if(self, node: Node, scope: Scope, statement: Statement) -> None:
        self.expressions.read(node.child_by_field_name("condition"), scope)
        self.block(node.child_by_field_name("consequence"), Role.BODY, scope, statement)
        for clause in node.children_by_field_name("alternative"):
            if clause.type == "elif_clause":
                self.expressions.read(clause.child_by_field_name("condition"), scope)
                self.block(clause.child_by_field_name("consequence"), Role.OTHER_CONDITION, scope, statement)
            else:
                self.block(clause.child_by_field_name("body"), Role.OTHERWISE, scope, statement)

    def _while(self, node: Node, scope: Scope, statement: Statement) -> None:
        self.expressions.read(node.child_by_field_name("condition"), scope)
        self.block(node.child_by_field_name("body"), Role.BODY, scope, statement)
        self._else(node, scope, statement)

    def _for(self, node: Node, scope: Scope, statement: Statement) -> None:
        if node.children[0].type == "async":
            statement.leaves.add(Leave.AWAIT)
        self.expressions.read(node.child_by_field_name("left"), scope, LOOP)
        self.expressions.read_all(node.children_by_field_name("right"), scope)
        self.block(node.child_by_field_name("body"), Role.BODY, scope, statement)
        self._else(node, scope, statement)

    def _else(self, node: Node, scope: Scope, statement: Statement) -> None:
        clause = node.child_by_field_name("alternative")
        if clause is not None:
            self.block(clause.child_by_field_name("body"), Role.OTHERWISE, scope, statement)

    def _with(self, node: Node, scope: Scope, statement: Statement) -> None:
        if node.children[0].type == "async":
            statement.leaves.add(Leave.AWAIT)
        body = node.child_by_field_name("body")
        for child in parts(node):
            if child != body:
                self.expressions.read(child, scope)
        self.block(body, Role.BODY, scope, statement)

    def _try(self, node: Node, scope: Scope, statement: Statement) -> None:
        for child in parts(node):
            if child.type == "block":
                self.block(child, Role.BODY, scope, statement)
            elif child.type.startswith("except"):
                self._except(child, scope, statement)
            elif child.type in _CLAUSES:
                body = child.child_by_field_name("body") or parts(child)[-1]
                self.block(body, _CLAUSES[child.type], scope, statement)

    def _except(self, node: Node, scope: Scope, statement: Statement) -> None:
        for child in parts(node):
            if child.type == "block":
                self.block(child, Role.HANDLER, scope, statement)
            elif child.type == "as_pattern":
                alias = child.child_by_field_name("alias")
                self.expressions.read_all([c for c in parts(child) if c != alias], scope)
                if alias is not None:
                    caught = Use(Mode.WRITE, Form.CATCH)
                    self.expressions.read_all(parts(alias), scope, caught)
            else:
                self.expressions.read(child, scope)

    def _match(self, node: Node, scope: Scope, statement: Statement) -> None:
        self.expressions.read_all(node.children_by_field_name("subject"), scope)
        body = node.child_by_field_name("body")
        assert body is not None
        statement.header_end = body.start_byte
        for clause in parts(body):
            if clause.type != "case_clause":
                continue
            for child in parts(clause):
                if child.type == "block":
                    self.block(child, Role.CASE, scope, statement)
                elif child.type == "if_clause":
                    self.expressions.read(child, scope)
                else:
                    read_pattern(self.expressions, child, scope)


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
