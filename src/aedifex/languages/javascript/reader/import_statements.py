"""Reading what a file imports, and what it hands out to others."""

from __future__ import annotations

from tree_sitter import Node

from aedifex.languages.javascript.reader.expressions import ExpressionReader
from aedifex.languages.javascript.reader.uses import IMPORT
from aedifex.languages.tree.grammar import parts
from aedifex.program.model.names import Imported, Scope
from aedifex.program.model.statements import Statement

_REQUIRE = "require"
DEFAULT = "default"
"""The name under which a module hands out what others may call as they like."""


class ImportReader:
    """Reads `import` and `export`; the names of what is imported live in the module."""

    def __init__(self, expressions: ExpressionReader) -> None:
        self.expressions = expressions

    def read_import(self, node: Node, scope: Scope, statement: Statement) -> None:
        """What an import brings: a module, its default, or things by name."""
        source = node.child_by_field_name("source")
        module = self.expressions.key(source) if source is not None else None
        for clause in (child for child in parts(node) if child.type == "import_clause"):
            for child in parts(clause):
                if child.type == "identifier":
                    self._bring(child, Imported(module or "", DEFAULT), scope, statement)
                elif child.type == "namespace_import":
                    self._bring(parts(child)[0], Imported(module or "", None), scope, statement)
                else:
                    for specifier in parts(child):
                        self._bring_by_name(specifier, module or "", scope, statement)

    def _bring_by_name(self, node: Node, module: str, scope: Scope, statement: Statement) -> None:
        name = node.child_by_field_name("name")
        assert name is not None
        there = self.expressions.key(name) or self.expressions.identifier(name)
        self._bring(node.child_by_field_name("alias") or name, Imported(module, there), scope, statement)

    def _bring(self, node: Node, imported: Imported, scope: Scope, statement: Statement) -> None:
        reference = self.expressions.name(node, scope, IMPORT)
        scope.symbols[reference.name].imported = imported
        statement.imports.append(imported)

    def required(self, value: Node | None) -> str | None:
        """The module that a value asks for by `require("fs")`; None for any other value."""
        called = value.child_by_field_name("function") if value is not None else None
        if value is None or called is None or called.type != "identifier":
            return None
        arguments = value.child_by_field_name("arguments")
        given = parts(arguments) if arguments is not None else []
        is_plain = self.expressions.identifier(called) == _REQUIRE and len(given) == 1 and given[0].type == "string"
        return self.expressions.key(given[0]) if is_plain else None

    def part_required(self, value: Node | None) -> tuple[Node | None, str | None]:
        """The value of which one member is taken, as in `require("util").inspect`, and that; else the value itself."""
        if value is None or value.type != "member_expression":
            return value, None
        taken = value.child_by_field_name("property")
        return value.child_by_field_name("object"), self.expressions.identifier(taken) if taken is not None else None

    def read_required(self, target: Node, imported: Imported, scope: Scope, statement: Statement) -> bool:
        """The names that a module, or things of it, get so; answers whether all are plain, which else are not read."""
        module, part = imported
        if target.type == "identifier":
            self._bring(target, imported, scope, statement)
            return True
        if part is not None:
            return False
        named = [(child, *self._names_of(child)) for child in parts(target)] if target.type == "object_pattern" else []
        if not named or any(name is None for _, _, name in named):
            return False
        for _, there, name in named:
            if name is not None:
                self._bring(name, Imported(module, there), scope, statement)
        return True

    def _names_of(self, node: Node) -> tuple[str, Node | None]:
        """What a part of a pattern is called in the module, and here."""
        if node.type == "shorthand_property_identifier_pattern":
            return self.expressions.identifier(node), node
        key, value = node.child_by_field_name("key"), node.child_by_field_name("value")
        is_plain = node.type == "pair_pattern" and key is not None and value is not None and value.type == "identifier"
        return (self.expressions.key(key) or "", value) if is_plain and key is not None else ("", None)

    def read_export(self, node: Node, scope: Scope) -> None:
        """What a file hands out: a value, or names that it has."""
        for child in parts(node):
            if child.type != "export_clause":
                self.expressions.read(child, scope)
                continue
            for specifier in parts(child):
                self.expressions.read(specifier.child_by_field_name("name"), scope)
