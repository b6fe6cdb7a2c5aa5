"""streams: the class that talks to the user takes a reader and a writer, so that a test needs no keyboard."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.move import Objections, class_of, module_of
from aedifex.moves.kit.rewriter import Rewriter
from aedifex.moves.kit.rewriting import Member, Rewriting
from aedifex.program.analysis.members import receiver_class
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, ScopeKind
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Routine
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError

_READER, _WRITER, _ASK = "reader", "writer", "ask"
_PARAMETERS = f"{_READER}=None, {_WRITER}=None"
_STREAMS = frozenset({"stdin", "stdout"})


@dataclass(frozen=True)
class Streams:
    """Let one class write to a writer and read typed lines from a reader: the standard streams unless others are given.

    All that the program prints and reads must stand in methods of that class.
    """

    name: ClassVar[str] = "streams"
    summary: ClassVar[str] = (
        "The class that talks takes a reader and a writer, the standard streams by default.\n"
        "Done only where it alone prints and reads typed lines."
    )

    path: Path
    class_name: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Streaming(self, program, module).plan()


class _Streaming:
    def __init__(self, move: Streams, program: Program, module: Module) -> None:
        self.move = move
        self.program = program
        self.module = module
        self.dialect = module.dialect
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.statement, self.scope = class_of(module, move.class_name)

    def plan(self) -> Rewriting:
        talk = [self.talk_of(*found) for found in self.uses()]
        self.object_to_names()
        if not any(reference.name == self.dialect.asking for reference, _ in talk):
            raise RefusedError(
                f"{self.move.class_name} reads no typed lines", self.module.source.place(self.scope.start)
            )
        for reference, call in talk:
            self.rewrite(reference, call)
        self.give_streams()
        self.open_entry()
        self.rewriter.finish()
        return self.rewriting

    # -- reasons against it

    def uses(self) -> Iterator[tuple[Module, Reference]]:
        """Where the program prints or reads a typed line."""
        for module in self.program.modules.values():
            for reference in module.references:
                symbol = reference.symbol
                is_library = symbol.scope.kind is ScopeKind.OUTSIDE and symbol.origin is Origin.BUILTIN
                if is_library and reference.name in (self.dialect.asking, self.dialect.saying):
                    yield module, reference
                elif symbol.brought is not None and symbol.brought[1] in _STREAMS and reference.form is not Form.IMPORT:
                    raise self.refusal(module, reference.start, f"`{reference.name}` is used itself")
            for statement in module.walk():
                if _STREAMS.intersection(statement.attributes):
                    raise self.refusal(module, statement.start, "a standard stream is used itself")

    def talk_of(self, module: Module, reference: Reference) -> tuple[Reference, Call]:
        """The call by which a method of the class talks."""
        calls = reference.statement.calls if reference.statement is not None else []
        call = next((call for call in calls if call.callee is reference), None)
        if call is None or call.inside is None or reference.mode is not Mode.CALL:
            raise self.refusal(module, reference.start, f"`{reference.name}` is used as a value")
        receiver = reference.scope.find(self.dialect.receiver)
        if receiver is None or receiver_class(receiver) is not self.scope:
            raise self.refusal(module, reference.start, f"`{reference.name}` is called outside the class's methods")
        if any(argument.stars == "**" for argument in call.arguments):
            raise self.refusal(module, reference.start, "a call is given keywords that no text shows")
        return reference, call

    def refusal(self, module: Module, at: int, reason: str) -> RefusedError:
        return RefusedError(
            f"{reason}, so not all that the program says would go to the writer of {self.move.class_name}",
            module.source.place(at),
            "Leave `streams` out of the design, or let the owner do all the talking.",
        )

    def object_to_names(self) -> None:
        objections = Objections(self.module)
        members = {access.name for scope in self.scope.walk() for use in scope.uses for access in use.path[:1]}
        names = {name for scope in self.scope.walk() for name in scope.symbols}
        for name in (_READER, _WRITER, _ASK):
            if name in members | names | self.module.scope.symbols.keys():
                objections.add(self.scope.start, f"the name `{name}` is in use already", "Rename it in the script.")
        constructor = self.constructor
        if constructor is not None and len(constructor.parameters) != 1:
            objections.add(
                constructor.scope.start, "the constructor takes arguments already", "Pass the streams by hand."
            )
        objections.raise_any()

    # -- writing

    @property
    def methods(self) -> list[Routine]:
        return [r for r in self.module.routines if r.symbol is not None and r.symbol.scope is self.scope]

    @property
    def constructor(self) -> Routine | None:
        return next((r for r in self.methods if self.dialect.is_constructor(r.name)), None)

    def rewrite(self, reference: Reference, call: Call) -> None:
        """Say it to the writer, or ask by the new method."""
        receiver = self.dialect.receiver
        if reference.name == self.dialect.asking:
            self.rewriter.replace(reference, f"{receiver}.{_ASK}", Member(self.move.class_name, _ASK))
        elif all(argument.keyword != self.dialect.target for argument in call.arguments):
            assert call.inside is not None
            more = f"{self.dialect.target}={receiver}.{_WRITER}"
            if call.arguments:
                self.rewriter.insert(call.arguments[-1].end, f", {more}")
            else:
                self.rewriter.insert(call.inside.start, more)

    def give_streams(self) -> None:
        """The constructor keeps the streams; the method that asks stands below it."""
        unit, receiver = self.layout.indent, self.dialect.receiver
        kept = "".join(f"{unit * 2}{receiver}.{name} = {name}\n" for name in (_READER, _WRITER))
        ask: list[str | Taken] = ["\n", self.dialect.asking_method(_ASK, _READER, _WRITER, unit)]
        constructor = self.constructor
        if constructor is None or constructor.statement is None or constructor.body is None:
            first = next(s for s in self.statement.blocks[0].statements if s.routine is not None)
            head = self.dialect.constructor_head([f"{_READER}=None", f"{_WRITER}=None"], unit)
            self.rewriter.insert(self.layout.lines(first).start, head, kept, *ask, "\n")
            return
        self.rewriter.insert(constructor.signature.end, f", {_PARAMETERS}")
        self.rewriter.insert(self.layout.lines(constructor.body.statements[0]).start, kept)
        self.rewriter.insert(self.layout.own_lines(constructor.statement).end, *ask)

    def open_entry(self) -> None:
        """What makes the object hands both streams on."""
        symbol = self.module.scope.symbols[self.move.class_name]
        for routine in self.module.routines:
            made = [
                call
                for statement in (routine.body.walk() if routine.body is not None else ())
                for call in statement.calls
                if call.callee is not None and call.callee.symbol is symbol and not call.arguments
            ]
            is_entry = routine.symbol is not None and routine.symbol.is_module_level and not routine.parameters
            if len(made) == 1 and is_entry and made[0].inside is not None:
                self.rewriter.insert(routine.signature.start, _PARAMETERS)
                self.rewriter.insert(made[0].inside.start, f"{_READER}, {_WRITER}")
