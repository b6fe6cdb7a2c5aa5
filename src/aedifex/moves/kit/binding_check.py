"""Carrying out one move, and proving that every name still leads where it should."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from pathlib import Path
from typing import NoReturn

from aedifex.moves.kit.move import Move
from aedifex.moves.kit.rewriting import (
    Awaited,
    Destination,
    Entry,
    Instead,
    Local,
    Member,
    Parameter,
    Receiver,
    Renamed,
    Rewriting,
    Variable,
    merged,
)
from aedifex.program.analysis.members import receiver_class
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind
from aedifex.program.reading import reread
from aedifex.source.edits import Applied, apply
from aedifex.source.errors import RefusedError, UnreadableError
from aedifex.source.text import Span

_ADVICE = "Leave this part out of the design, or rename what stands in the way, and try again."


def perform(program: Program, move: Move) -> Program:
    """Carry out a move and check the result.

    Raises:
        RefusedError: the move refuses, or a reference would not lead where the move says that its symbol went.
    """
    return _carry_out(program, _planned(program, move), move.name)


def attempted(program: Program, move: Move) -> Program:
    """The program after a move; as it is where that is refused."""
    try:
        return perform(program, move)
    except RefusedError:
        return program


def perform_all(program: Program, moves: Sequence[Move]) -> Program:
    """Carry out moves that do not build on one another: in one go where their edits allow, else one by one.

    Raises:
        RefusedError: as for `perform`.
    """
    together = merged([_planned(program, move) for move in moves]) if len(moves) > 1 else None
    if together is not None:
        try:
            return _carry_out(program, together, moves[0].name)
        except (RefusedError, ValueError):
            pass  # the edits of one reach into those of another
    for move in moves:
        program = perform(program, move)
    return program


def _planned(program: Program, move: Move) -> Rewriting:
    if not program.dialect.allows(move.name):
        raise RefusedError(f"`{move.name}` cannot be carried out in {program.dialect.title} yet", advice=_ADVICE)
    return move.plan(program)


def _carry_out(program: Program, rewriting: Rewriting, name: str) -> Program:
    applied = apply(program.texts, rewriting.changes)
    try:
        after = reread(program, applied)
    except UnreadableError as error:
        raise RefusedError(f"the move `{name}` would break the text: {error}", advice=_ADVICE) from None
    _Check(program, after, rewriting, applied).run()
    return replace(after, beside={**after.beside, **rewriting.beside}) if rewriting.beside else after


def _misplaced(module: Module) -> list[tuple[int, str]]:
    """What stands in the classes of a file and would mean something else outside of them."""
    classes = [s.span for s in module.walk() if s.kind is Kind.CLASS] if module.only_outside else []
    return [place for place in module.only_outside if any(span.start <= place[0] < span.end for span in classes)]


class _Check:
    """Follows every old reference into the new program."""

    def __init__(self, before: Program, after: Program, rewriting: Rewriting, applied: Applied) -> None:
        self.before = before
        self.after = after
        self.rewriting = rewriting
        self.applied = applied
        self.became: dict[object, object] = {}
        self.came_from: dict[object, object] = {}

    def run(self) -> None:
        for module in self.before.modules.values():
            for reference in module.references:
                if reference.name != "*" and module.source.data[reference.start : reference.end] != b"*":
                    self.follow(module, reference)

        self.check_echoes()
        self.check_classes()

    def check_classes(self) -> None:
        """Nothing may come into a class that means something else there."""
        known = sum(len(_misplaced(module)) for module in self.before.modules.values())
        found = [(module, *place) for module in self.after.modules.values() for place in _misplaced(module)]
        if len(found) > known:
            module, at, reason = found[-1]
            old = self.applied.old_offset_of(module.path, Span(at, at + 1))
            where = self.before.modules[old[0]].source.place(old[1]) if old is not None else None
            raise RefusedError(reason, where, _ADVICE)

    def check_echoes(self) -> None:
        """No template may begin to show another text of its own."""
        shown = {m.source.slice(echo.expression) for m in self.before.modules.values() for echo in m.echoes}
        for module in self.after.modules.values():
            for echo in module.echoes:
                text = module.source.slice(echo.expression)
                if text not in shown:
                    reason = f"a template would show `{text}`, which is not what it shows today"
                    raise RefusedError(reason, advice=_ADVICE)

    def follow(self, module: Module, reference: Reference) -> None:
        if reference in self.rewriting.dropped:
            self.is_gone(module, reference)
            return
        span = self.rewriting.spans.get(reference, reference.span)
        found = self.applied.new_span_of(module.path, span)
        if found is None:
            self.fail(module, reference, "would be lost")
        path, place = found
        now = self.after.modules[path].reference_at.get(place.start)
        if now is None:
            self.fail(module, reference, "would no longer be read as a name")
        destination = self.rewriting.destinations.get(reference)
        if destination is not None:
            if not self.leads_to(reference, now, destination, path):
                self.fail(module, reference, f"would not lead to {_in_words(destination)}")
        elif now.name != reference.name:
            self.fail(module, reference, f"would become `{now.name}`")
        elif not self.agree(_identity(reference.symbol), _identity(now.symbol)):
            self.fail(module, reference, "would mean something else")
        elif _steps(now) != self.rewriting.paths.get(reference, _steps(reference)) and not _is_put_in_quotes(
            reference, now
        ):
            self.fail(module, reference, "would lead elsewhere")

    def is_gone(self, module: Module, reference: Reference) -> None:
        found = self.applied.new_span_of(module.path, reference.span)
        if found is not None and found[1].start < found[1].end:
            now = self.after.modules[found[0]].reference_at.get(found[1].start)
            if now is not None and now.name == reference.name:
                self.fail(module, reference, "would stay behind")

    def leads_to(self, reference: Reference, now: Reference, destination: Destination, path: Path) -> bool:
        if isinstance(destination, Renamed):
            is_same = self.agree(_identity(reference.symbol), _identity(now.symbol))
            return now.name == destination.name and now.mode is reference.mode and is_same
        if isinstance(destination, Instead):
            is_same = self.agree(_identity(destination.symbol), _identity(now.symbol))
            steps = self.rewriting.paths.get(reference, _steps(reference))
            name = destination.name or destination.symbol.name
            return now.name == name and is_same and _steps(now) == steps
        if isinstance(destination, Local):
            is_same = self.agree((Local, destination.home), now.symbol)
            return now.name == destination.name and is_same and not now.symbol.is_module_level
        if isinstance(destination, Variable):
            return now.name == destination.name and now.symbol.final.is_module_level
        if isinstance(destination, Awaited):
            return now.name == destination.name and is_unbound(now.symbol)
        if isinstance(destination, Entry):
            return now.symbol.final.name == destination.name and now.symbol.final.is_module_level
        if isinstance(destination, Receiver):
            return self.is_object_of(now, destination.class_name)
        if isinstance(destination, Parameter):
            routine = now.symbol.scope.routine
            return now.name == destination.name and routine is not None and routine.name == destination.routine
        return (
            bool(now.path) and now.path[0].name == destination.name and self.is_object_of(now, destination.class_name)
        )

    def is_object_of(self, now: Reference, class_name: str) -> bool:
        """Whether a name is the receiver in a method of the class, or a variable that only ever holds one instance."""
        symbol = now.symbol
        home = receiver_class(symbol)
        if home is not None:
            return home.name == class_name
        if len(symbol.bindings) != 1:
            return False
        statement = symbol.bindings[0].statement
        is_given = statement is not None and (symbol.is_module_level or statement.kind is Kind.ASSIGN)
        return (
            statement is not None
            and is_given
            and any(call.callee is not None and call.callee.name == class_name for call in statement.calls)
        )

    def agree(self, old: object, new: object) -> bool:
        """Names keep apart what was apart and together what was together."""
        return self.became.setdefault(old, new) == new and self.came_from.setdefault(new, old) == old

    def fail(self, module: Module, reference: Reference, what: str) -> NoReturn:
        raise RefusedError(f"the name `{reference.name}` {what}", module.source.place(reference.start), _ADVICE)


def is_unbound(symbol: Symbol) -> bool:
    """Whether nothing in the program binds a name."""
    return symbol.scope.kind is ScopeKind.OUTSIDE or (symbol.imported is not None and symbol.target is None)


def _steps(reference: Reference) -> tuple[str | None, ...]:
    return tuple(step.name for step in reference.path)


def _identity(symbol: Symbol) -> object:
    """What a symbol is, whichever file names it."""
    final = symbol.final
    if final.imported is not None and final.target is None:
        return ("imported", final.imported)
    if final.scope.kind is ScopeKind.OUTSIDE:
        return ("outside", final.name)
    return final


def _is_put_in_quotes(reference: Reference, now: Reference) -> bool:
    """Whether a name in a declared type stands in quotes now: what is asked of it is only told there."""
    return reference.form is Form.ANNOTATION and now.form is Form.QUOTED


def _in_words(destination: Destination) -> str:
    if isinstance(destination, Member):
        return f"`{destination.name}` of {destination.class_name}"
    if isinstance(destination, Receiver):
        return f"the object of {destination.class_name}"
    if isinstance(destination, Instead):
        return f"`{destination.symbol.name}`"
    return f"`{destination.name}`"
