"""loosen: a table that is the program's state becomes one variable for each key.

All other moves then understand the state. It is done only where the table never escapes whole: every use names one of
the keys that it was made with.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.design.drafting.naming import TABLE_WORDS
from aedifex.moves.kit.declaring import Declaring
from aedifex.moves.kit.description import Description
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriter import is_declaration
from aedifex.moves.kit.rewriting import Rewriting, Variable
from aedifex.program.analysis.values import OnlyValue, only_value
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Pair
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.obstacles import hindrance_obstacles, is_hard_to_echo
from aedifex.program.structure.room import has_room_for_declaration
from aedifex.program.structure.state import is_state, is_used_in_routine, state
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_KEYS = frozenset({AccessKind.KEY})
_MEMBERS = frozenset({AccessKind.KEY, AccessKind.ATTRIBUTE})


@dataclass(frozen=True)
class Loosen:
    """Turn the table that `variable` holds into variables."""

    name: ClassVar[str] = "loosen"

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
    """The variables that could be loosened; of objects those whose names say no more than that they are the state."""
    found = [symbol for symbol in state(module) if can_be_loosened(module, symbol)]
    if module.dialect.rules.keys_are_members:
        return [symbol for symbol in found if TABLE_WORDS.issuperset(words_of(symbol.name))]
    return found


def loose_names(module: Module, symbol: Symbol) -> Mapping[str, str]:
    """The variable for each key of a table."""
    found, joined = only_value(symbol), module.dialect.naming.joined
    return {key: joined(symbol.name, key) for key, _ in found.value.entries} if found is not None else {}


def can_be_loosened(module: Module, symbol: Symbol) -> bool:
    """Whether every use of a variable names one key of the table that it holds, and something changes under a key."""
    found = only_value(symbol)
    names = loose_names(module, symbol)
    if found is None or not names or len(found.pairs) != 1:
        return False
    if len(names) == 1 and not is_used_in_routine(symbol):  # then it is shared with nobody
        return False
    if hindrance_obstacles(module, [symbol.name, *names.values()]) or not is_state(symbol):
        return False
    rules = module.dialect.rules
    if rules.is_handed_out(module, symbol.name) or any(_is_used(module, name) for name in names.values()):
        return False
    if not all(rules.is_name(key) and not rules.has_meaning(key) for key in names):
        return False
    uses = [r for r in symbol.references if r is not found.pair.target and not is_declaration(r)]
    if not Layout.of(module).stands_alone(found.statement):
        return False
    return any(_sets_key(r) for r in uses) and all(_names_a_key(module, r, names) for r in uses)


def _is_used(module: Module, name: str) -> bool:
    return name in module.outside.symbols or any(name in scope.symbols for scope in module.scope.walk())


def _names_a_key(module: Module, reference: Reference, keys: Mapping[str, str]) -> bool:
    kinds = _MEMBERS if module.dialect.rules.keys_are_members else _KEYS
    if not reference.path or reference.path[0].kind not in kinds or reference.path[0].name not in keys:
        return False
    is_told = module.dialect.rules.calls_tell_owner and len(reference.path) == 1
    if is_told and reference.path_mode is Mode.CALL:
        return False  # what is called would no longer be told of which table it is
    if is_hard_to_echo(module, reference) or module.echo_at(reference.start) is not None:
        return False
    if len(reference.path) == 1 and reference.path_mode is Mode.DELETE:
        return False
    is_shared = bool(module.dialect.writer.declares)  # by its declaration, wherever it is set
    return is_shared or not _sets_key(reference) or has_room_for_declaration(module, reference.scope)


class _Loosening(Declaring):
    def __init__(self, module: Module, symbol: Symbol) -> None:
        super().__init__(module)
        self.symbol = symbol
        self.names = loose_names(module, symbol)

    def write(self) -> None:
        found = only_value(self.symbol)
        assert found is not None
        self.set_singly(found)
        settings: list[tuple[Reference, str]] = []
        for reference in self.symbol.references:
            if is_declaration(reference):
                self.rewriter.drop_declaration(reference)
            elif reference is not found.pair.target:
                name = self.names[reference.path[0].name or ""]
                self.rewriter.replace(reference, name, Variable(name), Span(reference.start, reference.path[0].end))
                if _sets_key(reference):
                    settings.append((reference, name))
        if not self.writer.declares:
            self.declare(settings)

    def set_singly(self, found: OnlyValue) -> None:
        """One assignment for each key, with the comments that stood beside it."""
        pieces: list[Piece] = []
        at = found.statement.start
        for key, value in found.value.entries:
            end = self.module.source.line_end(value.end)
            for comment in self.module.comments:
                if at <= comment.start < value.start:
                    pieces += [self.rewriter.taken(comment.span), "\n"]
            *setting, line_end = self.line(self.names[key], self.rewriter.taken(value))
            pieces += setting
            beside = [c for c in self.module.comments if value.end <= c.start < end]
            at = value.end
            if beside and self.is_last_on_line(found.pair, value):
                pieces += ["  ", self.rewriter.taken(beside[0].span)]
                at = beside[0].end
            pieces.append(line_end)
        self.rewriter.drop([found.pair.target])
        self.rewriting.changes.replace(self.module.path, self.layout.own_lines(found.statement), *pieces)

    def line(self, name: str, value: Piece) -> list[Piece]:
        """What gives a variable its first value: it gets others later."""
        word = self.writer.declares
        return self.writer.assignment(f"{word} {name}", [value]) if word else self.writer.variable(name, [value])

    def is_last_on_line(self, pair: Pair, value: Span) -> bool:
        """Whether no other value follows on the line, so that the comment at its end is about this one."""
        end = self.module.source.line_end(value.end)
        return not any(value.end <= other.start < end for _, other in pair.value.entries)


def _sets_key(reference: Reference) -> bool:
    return len(reference.path) == 1 and reference.path_mode is not None and reference.path_mode.writes


MOVE = Description(
    name="loosen",
    place=2,
    summary=(
        "A table that holds the state under fixed keys becomes one variable for each key.\n"
        "Refused where the table is used whole, or with a key that it was not made with."
    ),
    term="Replace Record Entries with Variables",
)
