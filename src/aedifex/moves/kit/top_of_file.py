"""What a file begins with, and how a move adds to it: constants, and imports."""

from __future__ import annotations

from itertools import takewhile

from aedifex.moves.kit.rewriter import Rewriter
from aedifex.program.analysis.values import is_settled
from aedifex.program.model.module import Module
from aedifex.program.model.names import Imported, Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.state import Constants, is_called_constant

_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS})


class TopOfFile:
    """Adds to the imports and constants with which a file begins."""

    def __init__(self, module: Module, rewriter: Rewriter) -> None:
        self.module = module
        self.rewriter = rewriter
        self.layout = rewriter.layout
        self.constants = Constants.of(module)

    def leading(self, before: int) -> list[Statement]:
        """The imports and constants at the top, as far as they end before an offset."""
        found: list[Statement] = []
        for statement in self.module.block.statements:
            assignment = statement.assignment if statement.kind is Kind.ASSIGN else None
            given = [pair.target.symbol for pair in assignment.pairs] if assignment is not None else []
            is_constant = bool(given) and all(self.constants.settles(s) or self._is_called_so(s) for s in given)
            is_leading = statement is self.module.doc or statement.kind is Kind.IMPORT or is_constant
            if not is_leading or before < statement.end:
                break
            found.append(statement)
        return found

    def _is_called_so(self, symbol: Symbol) -> bool:
        """Whether a variable is spelled as a constant, and gets a value once."""
        return is_called_constant(self.module, symbol) and is_settled(symbol)

    def define(self, line: str, before: int) -> None:
        """Put the line of a constant behind those that end before an offset."""
        leading = self.leading(before)
        rest = self.module.block.statements[len(leading) :]
        if leading:
            at = self.layout.own_lines(leading[-1]).end
            blank = self._blank_lines(at)
            gap = self.module.dialect.writer.gap if rest and rest[0].kind in _DEFINING else 1
            above = "" if leading[-1].kind is Kind.ASSIGN else "\n"
            below = "" if leading[-1].kind is Kind.ASSIGN else "\n" * max(0, gap - blank)
            self.rewriter.insert(at, above, line, below)
            return
        gap_below = self.layout.gap if rest[0].kind in _DEFINING else "\n"
        self.rewriter.insert(self.layout.lines(rest[0]).start, line, gap_below)

    def _blank_lines(self, at: int) -> int:
        """How many blank lines stand below an offset at the beginning of a line."""
        source = self.module.source
        first = source.line_of(at)
        lines = range(first, source.line_count + 1)
        return next((number - first for number in lines if source.line(number).strip()), 0)

    def has(self, imported: Imported) -> bool:
        """Whether the file imports something under its own name already."""
        found = self.module.scope.symbols.get(imported.name or "")
        return found is not None and found.imported == imported

    def _may_bring_too(self, statement: Statement, imported: Imported) -> bool:
        """Whether a line imports names from the module of something, and has room for one more."""
        names = [r.symbol.imported for r in statement.references] if statement.kind is Kind.IMPORT else []
        is_alike = bool(names) and all(i is not None and i.module == imported.module and i.name for i in names)
        return is_alike and self.module.dialect.writer.takes_more_imports(self.module.source.slice(statement.span))

    def bring(self, imported: Imported) -> None:
        """Import something, beside imports of its group, where the file does not yet."""
        if self.has(imported):
            return
        writer, source = self.module.dialect.writer, self.module.source
        beside = next((s for s in self.module.block.statements if self._may_bring_too(s, imported)), None)
        if beside is not None:
            at, name = writer.one_more_import(source.slice(beside.span), imported)
            self.rewriter.insert(beside.start + at, name)
            return
        line = writer.import_line(imported, imported.name or "")
        statements = self.module.block.statements
        first = list(takewhile(lambda s: s.kind is Kind.IMPORT or s.is_text, statements))
        imports = [statement for statement in first if statement.kind is Kind.IMPORT]
        alike = [s for s in imports if len(writer.in_groups([f"{source.slice(s.span)}\n", line])) == 1]
        if alike:
            self.rewriter.insert(self.layout.own_lines(alike[-1]).end, line)
        elif imports:
            is_first = writer.in_groups([f"{source.slice(imports[0].span)}\n", line])[0] == [line]
            at = self.layout.own_lines(imports[0]).start if is_first else self.layout.own_lines(imports[-1]).end
            self.rewriter.insert(at, *([line, "\n"] if is_first else ["\n", line]))
        elif first:
            self.rewriter.insert(self.layout.own_lines(first[-1]).end, "\n", line)
        else:
            self.rewriter.insert(self.layout.lines(statements[0]).start, line, "\n")
