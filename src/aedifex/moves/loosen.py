"""loosen: a table that is the program's state becomes one variable for each key.

All other moves then understand the state. It is done only where the table never escapes whole: every use names one of
the keys that it was made with.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriter import Rewriter, is_declaration
from aedifex.moves.kit.rewriting import Rewriting, Variable
from aedifex.program.analysis.values import only_pair
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, Scope, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Pair, Routine, Statement
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.program.structure.state import is_state, state
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_FEWEST = 2


@dataclass(frozen=True)
class Loosen:
    """Turn the table that `variable` holds into variables."""

    name: ClassVar[str] = "loosen"
    summary: ClassVar[str] = (
        "A table that holds the state under fixed keys becomes one variable for each key.\n"
        "Refused where the table is used whole, or with a key that it was not made with."
    )

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        symbol = module.scope.symbols.get(self.variable)
        if symbol is None or not can_be_loosened(module, symbol):
            raise RefusedError(f"`{self.variable}` is no table that could become variables")
        return _Loosening(module, symbol).plan()


def tables(module: Module) -> list[Symbol]:
    """The variables that could be loosened."""
    return [symbol for symbol in state(module) if can_be_loosened(module, symbol)]


def loose_names(symbol: Symbol) -> Mapping[str, str]:
    """The variable for each key of a table."""
    found = only_pair(symbol)
    return {key: f"{symbol.name}_{key}" for key, _ in found[1].value.entries} if found is not None else {}


def can_be_loosened(module: Module, symbol: Symbol) -> bool:
    """Whether every use of a variable names one key of the table that it holds, and something changes under a key."""
    found = only_pair(symbol)
    names = loose_names(symbol)
    if found is None or len(names) < _FEWEST or len(found[0].assignment.pairs if found[0].assignment else ()) != 1:
        return False
    if hindrance_obstacles(module, [symbol.name, *names.values()]) or not is_state(symbol):
        return False
    if not all(module.dialect.is_name(key) for key in names) or any(_is_used(module, n) for n in names.values()):
        return False
    uses = [r for r in symbol.references if r is not found[1].target and not is_declaration(r)]
    if not Layout.of(module).stands_alone(found[0]):
        return False
    return any(_sets_key(r) for r in uses) and all(_names_a_key(module, r, names) for r in uses)


def _is_used(module: Module, name: str) -> bool:
    return name in module.outside.symbols or any(name in scope.symbols for scope in module.scope.walk())


def _names_a_key(module: Module, reference: Reference, keys: Mapping[str, str]) -> bool:
    if not reference.path or reference.path[0].kind is not AccessKind.KEY or reference.path[0].name not in keys:
        return False
    if is_hard_to_echo(module, reference) or module.echo_around(reference) is not None:
        return False
    if len(reference.path) == 1 and reference.path_mode is Mode.DELETE:
        return False
    key = module.source.slice(Span(reference.end, reference.path[0].end)).strip()
    if key[1:-1].strip()[:1] not in ("'", '"'):
        return False
    return not _sets_key(reference) or _can_declare(module, reference.scope)


def _can_declare(module: Module, scope: Scope) -> bool:
    """Whether a scope is the top level, or a function with room for a line above its first statement."""
    if scope.kind is ScopeKind.MODULE:
        return True
    routine = scope.routine
    if scope.kind is not ScopeKind.ROUTINE or routine is None or routine.body is None:
        return False
    layout = Layout.of(module)
    first = _first_after_doc(routine)
    return first is not None and layout.stands_alone(first) and bool(layout.margin(first))


def _first_after_doc(routine: Routine) -> Statement | None:
    assert routine.body is not None
    statements = routine.body.statements[1:] if routine.doc is not None else routine.body.statements
    return statements[0] if statements else None


class _Loosening:
    def __init__(self, module: Module, symbol: Symbol) -> None:
        self.module = module
        self.symbol = symbol
        self.names = loose_names(symbol)
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout

    def plan(self) -> Rewriting:
        found = only_pair(self.symbol)
        assert found is not None
        statement, pair = found
        self.set_singly(statement, pair)
        declared: dict[Routine, dict[str, None]] = {}
        for reference in self.symbol.references:
            if is_declaration(reference):
                self.rewriter.drop_declaration(reference)
            elif reference is not pair.target:
                name = self.names[reference.path[0].name or ""]
                self.rewriter.replace(reference, name, Variable(name), Span(reference.start, reference.path[0].end))
                routine = reference.scope.routine
                if _sets_key(reference) and routine is not None:
                    declared.setdefault(routine, {})[name] = None
        for routine, names in declared.items():
            self.declare(routine, list(names))
        self.rewriter.finish()
        return self.rewriting

    def set_singly(self, statement: Statement, pair: Pair) -> None:
        """One assignment for each key, with the comments that stood beside it."""
        pieces: list[str | Taken] = []
        at = statement.start
        for key, value in pair.value.entries:
            end = self.module.source.line_end(value.end)
            for comment in self.module.comments:
                if at <= comment.start < value.start:
                    pieces += [self.rewriter.taken(Span(comment.start, comment.end)), "\n"]
            pieces += [f"{self.names[key]} = ", self.rewriter.taken(value)]
            beside = [c for c in self.module.comments if value.end <= c.start < end]
            at = value.end
            if beside and self.is_last_on_line(pair, value):
                pieces += ["  ", self.rewriter.taken(Span(beside[0].start, beside[0].end))]
                at = beside[0].end
            pieces.append("\n")
        lines = self.layout.own_lines(statement)
        self.rewriter.drop([pair.target])
        self.rewriting.changes.replace(self.module.path, lines, *pieces)

    def is_last_on_line(self, pair: Pair, value: Span) -> bool:
        """Whether no other value follows on the line, so that the comment at its end is about this one."""
        end = self.module.source.line_end(value.end)
        return not any(value.end <= other.start < end for _, other in pair.value.entries)

    def declare(self, routine: Routine, names: Sequence[str]) -> None:
        first = _first_after_doc(routine)
        assert first is not None
        word = self.module.dialect.module_word
        at = self.layout.own_lines(first).start
        self.rewriter.insert(at, f"{self.layout.margin(first)}{word} {', '.join(names)}\n")


def _sets_key(reference: Reference) -> bool:
    return len(reference.path) == 1 and reference.path_mode is not None and reference.path_mode.writes
