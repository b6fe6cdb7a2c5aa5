"""streams: the class that talks to the user takes a reader and a writer, so that a test needs no keyboard."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Member, Rewriting
from aedifex.program.analysis.members import Members, Mentions, receiver_class
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, call_of
from aedifex.source.errors import RefusedError

_READER, _WRITER, _ASK = "reader", "writer", "ask"


@dataclass(frozen=True)
class Streams:
    """Let one class write to a writer and read typed lines from a reader: the standard streams unless others are given.

    All that the program prints and reads must stand in methods of that class.
    """

    name: ClassVar[str] = "streams"

    path: Path
    class_name: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Streaming(self, program, module).plan()


class _Streaming(Planner):
    def __init__(self, move: Streams, program: Program, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.program = program
        self.statement, self.scope = class_of(module, move.class_name)
        self.members = Members(Mentions.of(program), module, self.scope)

    @cached_property
    def talk(self) -> list[tuple[Reference, Call]]:
        """All calls by which the program prints and reads typed lines."""
        return [self.talk_of(*found) for found in self.uses()]

    def write(self) -> None:
        for reference, call in self.talk:
            self.rewrite(reference, call)
        self.give_streams()
        self.open_entry()

    # -- reasons against it

    def uses(self) -> Iterator[tuple[Module, Reference]]:
        """Where the program prints or reads a typed line."""
        for module in self.program.modules.values():
            for reference in module.references:
                symbol = reference.symbol
                is_library = symbol.scope.kind is ScopeKind.OUTSIDE and symbol.origin is Origin.BUILTIN
                if is_library and reference.name in (self.dialect.library.asks, self.dialect.library.says):
                    yield module, reference
                elif self.is_stream(symbol) and reference.form is not Form.IMPORT:
                    raise self.refusal(module, reference.start, f"`{reference.name}` is used itself")
            for statement in module.walk():
                if any(map(self.dialect.library.is_standard_stream, statement.attributes)):
                    raise self.refusal(module, statement.start, "a standard stream is used itself")

    def is_stream(self, symbol: Symbol) -> bool:
        imported = symbol.imported
        return imported is not None and self.dialect.library.is_standard_stream(imported.name or "")

    def talk_of(self, module: Module, reference: Reference) -> tuple[Reference, Call]:
        """The call by which a method of the class talks."""
        call = call_of(reference)
        if call is None or call.inside is None or reference.mode is not Mode.CALL:
            raise self.refusal(module, reference.start, f"`{reference.name}` is used as a value")
        receiver = reference.scope.find(self.writer.receiver)
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

    def find_objections(self) -> None:
        is_asking = any(reference.name == self.dialect.library.asks for reference, _ in self.talk)
        members = {access.name for scope in self.scope.walk() for use in scope.uses for access in use.path[:1]}
        names = {name for scope in self.scope.walk() for name in scope.symbols}
        for name in (_READER, _WRITER, _ASK):
            if name in members | names | self.module.scope.symbols.keys():
                self.object(self.scope.start, f"the name `{name}` is in use already", "Rename it in the script.")
        constructor = self.members.constructor
        if constructor is not None and len(constructor.parameters) != 1:
            self.object(constructor.scope.start, "the constructor takes arguments already", "Pass the streams by hand.")
        if not is_asking and not self.objections.found:
            self.object(self.scope.start, f"{self.move.class_name} reads no typed lines", "")

    # -- writing

    @property
    def parameters(self) -> list[str]:
        return [self.writer.optional_parameter(name) for name in (_READER, _WRITER)]

    def rewrite(self, reference: Reference, call: Call) -> None:
        """Say it to the writer, or ask by the new method."""
        receiver = self.writer.receiver
        if reference.name == self.dialect.library.asks:
            self.rewriter.replace(reference, self.writer.member(receiver, _ASK), Member(self.move.class_name, _ASK))
            return
        stream = self.writer.member(receiver, _WRITER)
        argument = self.writer.stream_argument(stream, [given.keyword for given in call.arguments])
        if argument is not None:
            self.rewriter.append_argument(call, argument)

    def give_streams(self) -> None:
        """The constructor keeps the streams; the method that asks stands below it."""
        unit, writer = self.layout.indent, self.writer
        kept: list[Piece] = []
        for name in (_READER, _WRITER):
            kept += [unit * 2, *writer.assignment(writer.member(writer.receiver, name), [name])]
        ask: list[Piece] = ["\n", writer.asking_method(_ASK, _READER, _WRITER, unit)]
        constructor = self.members.constructor
        if constructor is None:
            first = next(s for s in self.statement.blocks[0].statements if s.routine is not None)
            frame = writer.constructor_frame(self.parameters, unit, unit)
            self.rewriter.insert(self.layout.lines(first).start, frame.head, *kept, frame.tail, *ask, "\n")
            return
        self.rewriter.insert(constructor.signature.end, f", {', '.join(self.parameters)}")
        self.rewriter.insert(self.layout.lines(constructor.body.statements[0]).start, *kept)
        self.rewriter.insert(self.layout.own_lines(constructor.statement).end, *ask)

    def open_entry(self) -> None:
        """What makes the object hands both streams on."""
        symbol = self.module.scope.symbols[self.move.class_name]
        for function in self.module.functions:
            calls = [call for statement in function.body.walk() for call in statement.calls if not call.arguments]
            made = [call for call in calls if call.callee is not None and call.callee.symbol is symbol]
            if len(made) == 1 and not function.parameters:
                self.rewriter.insert(function.signature.start, ", ".join(self.parameters))
                self.rewriter.prepend_arguments(made[0], [_READER, _WRITER])


def _by_hand(program: Program, script: Path, given: Given) -> list[Streams]:
    return [Streams(script, given["class"])]


MOVE = Description(
    name="streams",
    place=90,
    summary=(
        "The class that talks takes a reader and a writer, the standard streams by default.\n"
        "Done only where it alone prints and reads typed lines."
    ),
    term="Parameterize Constructor",
    help="Let the one class that prints and reads typed lines take its streams from outside.",
    parameters=(StepParameter("class", Takes.ONE, "CLASS"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="Harbour",
        before="""\
class Harbour:
    def run(self):
        print("Hello", input("Who? "))


def main():
    Harbour().run()


if __name__ == "__main__":
    main()
""",
        after={
            "harbour.py": """\
class Harbour:
    def __init__(self, reader=None, writer=None):
        self.reader = reader
        self.writer = writer

    def ask(self, prompt=""):
        if self.reader is None:
            return input(prompt)
        print(prompt, end="", file=self.writer, flush=True)
        line = self.reader.readline()
        if not line:
            raise EOFError
        return line.removesuffix("\\n")

    def run(self):
        print("Hello", self.ask("Who? "), file=self.writer)


def main(reader=None, writer=None):
    Harbour(reader, writer).run()


if __name__ == "__main__":
    main()
""",
        },
    ),
)
