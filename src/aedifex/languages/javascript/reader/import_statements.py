"""Reading what a file imports, and what it hands out to others."""

from __future__ import annotations

from tree_sitter import Node

from aedifex.languages.javascript.reader.expressions import ExpressionReader
from aedifex.languages.javascript.reader.uses import IMPORT
from aedifex.languages.tree.grammar import parts
from aedifex.program.model.names import Imported, Scope
from aedifex.program.model.statements import Statement

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

    def read_export(self, node: Node, scope: Scope) -> None:
        """What a file hands out: a value, or names that it has."""
        for child in parts(node):
            if child.type != "export_clause":
                self.expressions.read(child, scope)
                continue
            for specifier in parts(child):
                self.expressions.read(specifier.child_by_field_name("name"), scope)
