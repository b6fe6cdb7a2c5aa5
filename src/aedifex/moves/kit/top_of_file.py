"""What a file begins with, and how a move adds to it: constants, and imports."""

from __future__ import annotations

from itertools import takewhile

from aedifex.moves.kit.rewriter import Rewriter
from aedifex.program.model.module import Module
from aedifex.program.model.names import Imported
from aedifex.program.model.statements import Kind, Statement
from aedifex.program.structure.state import Constants


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
            is_constant = bool(given) and all(map(self.constants.settles, given))
            is_leading = statement is self.module.doc or statement.kind is Kind.IMPORT or is_constant
            if not is_leading or before < statement.end:
                break
            found.append(statement)
        return found

    def define(self, line: str, before: int) -> None:
        """Put the line of a constant behind those that end before an offset."""
        leading = self.leading(before)
        if leading and leading[-1].kind is Kind.ASSIGN:
            self.rewriter.insert(self.layout.own_lines(leading[-1]).end, line)
            return
        rest = self.module.block.statements[len(leading) :]
        at = self.layout.lines(rest[0]).start
        is_apart = not leading or not self.module.source.line(self.module.source.line_of(at) - 1).strip()
        gap = self.layout.gap if rest[0].kind in (Kind.ROUTINE, Kind.CLASS) else "\n"
        self.rewriter.insert(at, "" if is_apart else "\n", line, gap)

    def has(self, imported: Imported) -> bool:
        """Whether the file imports something under its own name already."""
        found = self.module.scope.symbols.get(imported.name or "")
        return found is not None and found.imported == imported

    def bring(self, imported: Imported) -> None:
        """Import something, beside imports of its group, where the file does not yet."""
        if self.has(imported):
            return
        writer, source = self.module.dialect.writer, self.module.source
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
