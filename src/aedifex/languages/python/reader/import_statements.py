"""Reading import statements."""

from __future__ import annotations

import re

from tree_sitter import Node

from aedifex.languages.python.reader.expressions import ExpressionReader
from aedifex.languages.tree.grammar import parts
from aedifex.languages.tree.uses import Use
from aedifex.program.model.names import Form, Home, Imported, Mode, Reference, Scope
from aedifex.program.model.statements import Statement


class ImportReader:
    """Reads what imports bring. `stars` are the star imports, each with the module that it is of."""

    def __init__(self, expressions: ExpressionReader) -> None:
        self.expressions = expressions
        self.stars: list[tuple[str, Reference]] = []

    def read_import(self, node: Node, scope: Scope, statement: Statement) -> None:
        """`import a, b.c as d`."""
        for child in parts(node):
            if child.type == "aliased_import":
                self._import_alias(child, scope, None)
            elif child.type == "dotted_name":
                name = self.expressions.text(parts(child)[0]).decode("utf-8")
                statement.imports.append(Imported(self._dotted(child), None))
                self._import_name(parts(child)[0], scope, Imported(name, None))

    def _dotted(self, node: Node) -> str:
        return ".".join(self.expressions.identifier(part) for part in parts(node))

    def read_import_from(self, node: Node, scope: Scope, statement: Statement) -> None:
        """`from a import b as c`, with a star too."""
        source = node.child_by_field_name("module_name")
        statement.holds_for_file = source is None
        origin = self.expressions.identifier(source) if source is not None else "__future__"
        origin = re.sub(r"\s", "", origin)
        for child in parts(node):
            if child == source:
                continue
            if child.type == "wildcard_import":
                self._star(child, scope, origin, statement)
            elif child.type == "aliased_import":
                statement.imports.append(Imported(origin, self._original(child)))
                self._import_alias(child, scope, origin)
            elif child.type == "dotted_name":
                name = self.expressions.identifier(child)
                statement.imports.append(Imported(origin, name))
                self._import_name(parts(child)[0], scope, Imported(origin, name))

    def _import_alias(self, node: Node, scope: Scope, origin: str | None) -> None:
        alias, what = node.child_by_field_name("alias"), self._original(node)
        assert alias is not None
        self._import_name(alias, scope, Imported(what, None) if origin is None else Imported(origin, what))

    def _original(self, node: Node) -> str:
        """The name that an alias stands for."""
        name = node.child_by_field_name("name")
        assert name is not None
        return self.expressions.identifier(name)

    def _import_name(self, node: Node, scope: Scope, imported: Imported) -> None:
        reference = self.expressions.name(node, scope, Use(Mode.WRITE, Form.IMPORT))
        home = scope.module_scope if scope.declared.get(reference.name) is Home.MODULE else scope
        symbol = home.symbols.get(reference.name)
        if symbol is not None and symbol.imported is None:
            symbol.imported = imported

    def _star(self, node: Node, scope: Scope, origin: str, statement: Statement) -> None:
        star = Reference("*", node.start_byte, node.end_byte, Mode.WRITE, Form.STAR, scope, statement)
        self.stars.append((origin, star))
