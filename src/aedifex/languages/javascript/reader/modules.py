"""Reading a whole JavaScript file: its tree, its names, and what hinders."""

from __future__ import annotations

from aedifex.languages.javascript import callers, pages
from aedifex.languages.javascript.library.names import BUILTINS
from aedifex.languages.javascript.reader import grammar, hindrances
from aedifex.languages.javascript.reader.scopes import bind_implicit, resolve
from aedifex.languages.javascript.reader.statements import StatementReader
from aedifex.languages.tree.collection import no_collection
from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Module
from aedifex.program.model.names import Imported
from aedifex.program.model.statements import Shape
from aedifex.source.text import SourceText

_REQUIRE = "require"


def code_of(source: SourceText) -> bytes:
    """The JavaScript of a file: all of a script, and of a page what stands in its script elements."""
    is_page = source.path.suffix.lower() in pages.SUFFIXES
    return pages.code_of(source.parse_view) if is_page else source.parse_view


def read_module(source: SourceText, dialect: Dialect) -> Module:
    """Read one file.

    Raises:
        UnreadableError: it does not parse, or is nested too deeply.
    """
    with no_collection():
        code = code_of(source)
        tree = grammar.parse(source, code)
        module = StatementReader(source, code).module(tree.root_node, dialect)
        bind_implicit(module.scope, BUILTINS)
        resolve(module.scope, module.outside, BUILTINS)
        _bring_required(module)
        module.hindrances = hindrances.find(module)
        module.found_by_name = callers.find(module)
        for function in module.functions:
            function.is_called_from_outside = function.name in module.found_by_name
        return module


def _bring_required(module: Module) -> None:
    """Note where variables come from that `require` gives a value: `const fs = require("fs")`."""
    for statement in module.walk():
        for pair in statement.assignment.pairs if statement.assignment is not None else ():
            call = next((call for call in statement.calls if call.span == pair.value.span), None)
            is_required = call is not None and call.callee is not None and call.callee.name == _REQUIRE
            if pair.value.shape is not Shape.CALL or not is_required or call is None or len(call.arguments) != 1:
                continue
            symbol, text = pair.target.symbol, module.source.slice(call.arguments[0].span)
            if call.arguments[0].span in module.strings and len(symbol.bindings) == 1:
                symbol.imported = Imported(text[1:-1], None)
