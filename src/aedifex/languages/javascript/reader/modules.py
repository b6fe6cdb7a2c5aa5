"""Reading a whole JavaScript file: its tree, its names, and what hinders."""

from __future__ import annotations

from aedifex.languages.javascript import callers
from aedifex.languages.javascript.library.names import BUILTINS
from aedifex.languages.javascript.page_code import code_of
from aedifex.languages.javascript.reader import grammar, hindrances, strictness
from aedifex.languages.javascript.reader.scopes import bind_implicit, resolve
from aedifex.languages.javascript.reader.statements import StatementReader
from aedifex.languages.tree.collection import no_collection
from aedifex.program.dialect.dialect import Dialect
from aedifex.program.model.module import Module
from aedifex.source.text import SourceText


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
        module.hindrances = hindrances.find(module)
        module.only_outside = strictness.find(module)
        module.found_by_name = callers.find(module)
        for function in module.functions:
            function.is_called_from_outside = function.name in module.found_by_name
        return module
