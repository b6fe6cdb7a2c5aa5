"""part: some members of a class become a class of their own, and the first keeps its public face."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.field_values import FirstValue, FirstValues
from aedifex.moves.kit.move import Objections, class_of, module_of
from aedifex.moves.kit.rewriter import Rewriter, handed_on
from aedifex.moves.kit.rewriting import Receiver, Renamed, Rewriting
from aedifex.program.analysis.members import Members, Mention, Mentions
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Leave, Parameter, Routine, Shape
from aedifex.source.edits import Taken
from aedifex.source.text import Span
from aedifex.survey.words import words_of

_ADVICE = "Leave it in the class that it is in."


@dataclass(frozen=True, slots=True)
class PartMember:
    """A field or method that goes to the new class, and its name there."""

    old: str
    new: str


@dataclass(frozen=True)
class Part:
    """Move members of a class of the file into a new class, of which each object keeps one in the field `instance`.

    What other code calls stays, as a method that hands the call on.
    """

    name: ClassVar[str] = "part"
    summary: ClassVar[str] = (
        "Some fields and methods of a class become a class of their own.\n"
        "The first keeps its public face: what others call is handed on."
    )

    path: Path
    class_name: str
    new_class: str
    instance: str
    members: tuple[PartMember, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Parting(self, program, module).plan()


class _Parting:
    def __init__(self, move: Part, program: Program, module: Module) -> None:
        self.move = move
        self.program = program
        self.module = module
        self.statement, scope = class_of(module, move.class_name)
        self.members = Members(Mentions.of(program), module, scope)
        self.names = {member.old: member.new for member in move.members}
        self.fields = [name for name in self.members.fields if name in self.names]
        self.methods = [routine for routine in self.members.routines if routine.name in self.names]
        self.rewriting = Rewriting()
        self.rewriter = Rewriter(module, self.rewriting)
        self.layout = self.rewriter.layout
        self.objections = Objections(module)
        self.values = FirstValues(self.members, self.fields)

    def plan(self) -> Rewriting:
        self.object()
        self.objections.raise_any()
        self.write_class()
        self.write_creation()
        for routine in self.methods:
            self.take_method(routine)
        self.rewrite_mentions()
        self.rewriter.finish()
        return self.rewriting

    # -- reasons against it

    def object(self) -> None:
        self.object_to_class()
        for old in self.names:
            self.object_to_member(old)
        for routine in self.methods:
            self.object_to_method(routine)
        self.object_to_names()
        for offset, reason in self.values.objections():
            self.objections.add(offset, reason, "Set it first, to a plain value or a parameter.")

    def object_to_class(self) -> None:
        at, home = self.statement.start, self.move.class_name
        if not self.members.is_plain:
            self.objections.add(at, f"{home} inherits or is inherited from", _ADVICE)
        symbols = self.members.scope.symbols.values()
        if any(self.module.dialect.steers_access(symbol.name) for symbol in symbols if symbol.bindings):
            self.objections.add(at, f"{home} itself decides how its members are reached or copied", _ADVICE)
        if self.members.all.are_looked_up_by_text:
            self.objections.add(at, f"members of {home} may be reached by their text", _ADVICE)
        copying = next((name for name in self.program.imported if self.module.dialect.copies_objects(name)), None)
        if copying is not None:
            self.objections.add(at, f"objects of {home} may be copied or stored with `{copying}`", _ADVICE)
        if not self.fields:
            self.objections.add(
                at, "none of the members named is a field", "Name a field that the new class is to keep."
            )

    def object_to_member(self, old: str) -> None:
        at, home = self.statement.start, self.move.class_name
        if old not in self.fields and not any(routine.name == old for routine in self.methods):
            self.objections.add(at, f"{home} has no field or method `{old}` of its own", "Check the name.")
        elif old.startswith("__"):
            self.objections.add(at, f"`{old}` has a meaning of its own in the language", _ADVICE)
        elif self.members.strangers(old) > 0:
            self.objections.add(at, f"`.{old}` is also used on objects that may or may not be of {home}", _ADVICE)
        for mention in self.members.mentions(old):
            if mention.module.echo_around(mention.reference) is not None:
                reason = f"`{old}` stands in a template that shows its own text"
                self.objections.add(self.at_home(mention), reason, "Write the text out before the value.")

    def at_home(self, mention: Mention) -> int:
        return mention.reference.start if mention.module is self.module else self.statement.start

    def object_to_method(self, routine: Routine) -> None:
        statement = routine.statement
        assert statement is not None
        if statement.decorators or not routine.parameters or statement.block.owner is not self.statement:
            self.objections.add(statement.start, f"`{routine.name}` is no plain method", _ADVICE)
            return
        receiver = routine.parameters[0].reference.symbol
        if len(receiver.bindings) != 1:
            self.objections.add(statement.start, f"`{routine.name}` gives its receiver another value", _ADVICE)
        for reference in receiver.references[1:]:
            first = reference.path[0].name if reference.path else None
            if first not in self.names:
                what = f"uses `{first}`, which stays" if first is not None else "hands its object on"
                self.objections.add(reference.start, f"`{routine.name}` {what} in {self.move.class_name}", _ADVICE)
        for reference in self.module.references_within(statement.span):
            if self.depends_on_class(reference):
                reason = f"what `{reference.name}` means in `{routine.name}` depends on the class"
                self.objections.add(reference.start, reason, _ADVICE)
        for call in statement.calls:
            self.objections.add(call.start, f"the signature of `{routine.name}` calls something", _ADVICE)
        if not all(_is_easy(parameter) for parameter in routine.parameters):
            self.objections.add(statement.start, f"`{routine.name}` has a default that is worked out here", _ADVICE)
        used = [use for use in self.members.scope.uses if use.name == routine.name and not use.mode.writes]
        if used or routine.symbol is None or len(routine.symbol.bindings) != 1:
            self.objections.add(statement.start, f"the class itself uses or redefines `{routine.name}`", _ADVICE)

    def depends_on_class(self, reference: Reference) -> bool:
        """Whether a name would mean something else in the methods of another class."""
        dialect = self.module.dialect
        is_of_body = reference.scope is self.members.scope and reference.mode.reads
        return is_of_body or dialect.is_private(reference.name) or dialect.steers_access(reference.name)

    def object_to_names(self) -> None:
        at = self.statement.start
        module, members = self.module, self.members
        if self.move.new_class in module.names_in_use or not module.dialect.is_name(self.move.new_class):
            self.objections.add(at, f"the name `{self.move.new_class}` is in use already", "Choose another.")
        name = self.move.instance
        if name in (*members.fields, *members.methods) or members.mentions(name) or members.all.unsure[name] > 0:
            self.objections.add(at, f"a member `{name}` is in use already", "Choose another name for the field.")
        if len(set(self.names.values())) < len(self.names):
            self.objections.add(at, "two members would have the same name", "Give each a name of its own.")

    # -- writing

    def write_class(self) -> None:
        unit, dialect = self.layout.indent, self.module.dialect
        doc = f"The {' '.join(words_of(self.move.new_class))}."
        arguments = [self.names[value.field] for value in self.values.found if value.is_argument]
        pieces: list[str | Taken] = [dialect.class_head(self.move.new_class, doc, unit)]
        pieces.append(dialect.constructor_head(arguments, unit))
        for value in self.values.found:
            pieces += self.field_lines(value, unit * 2)
        for routine in self.methods:
            assert routine.statement is not None
            pieces += ["\n", *self.rewriter.lines_taken(self.layout.lines(routine.statement))]
        at = self.layout.lines(self.statement).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, "\n\n")

    def field_lines(self, value: FirstValue, margin: str) -> list[str | Taken]:
        name = self.names[value.field]
        begin, end = self.layout.lines(value.statement).start, self.layout.own_lines(value.statement).start
        pieces: list[str | Taken] = [*self.rewriter.comments(begin, end, margin)]
        given = name if value.is_argument else self.rewriter.taken(value.span, indent=margin)
        pieces += [f"{margin}{self.module.dialect.receiver}.{name} = ", given]
        trailing = self.layout.trailing_comment(value.statement)
        if trailing is not None:
            pieces += ["  ", self.rewriter.taken(Span(trailing.start, trailing.end))]
        return [*pieces, "\n"]

    def write_creation(self) -> None:
        """One object of the new class is made where the first of its fields was set."""
        first = self.values.found[0].statement
        pieces: list[str | Taken] = [f"{self.receiver}.{self.move.instance} = {self.move.new_class}("]
        arguments = [value for value in self.values.found if value.is_argument]
        for number, value in enumerate(arguments):
            pieces += [", "] if number else []
            pieces.append(self.rewriter.taken(value.span))
        lines = self.layout.lines(first)
        self.rewriter.insert(lines.start, self.layout.margin(first), *pieces, ")\n")
        for value in self.values.found:
            self.rewriter.remove(self.layout.lines(value.statement))
            self.rewriter.drop([value.target])

    @cached_property
    def receiver(self) -> str:
        constructor = self.members.constructor
        return constructor.parameters[0].name if constructor is not None else ""

    def take_method(self, routine: Routine) -> None:
        """A method goes; where other code may call it, one that hands the call on stands in its place."""
        statement = routine.statement
        assert statement is not None
        lines = self.layout.lines(statement)
        if self.keeps_face(routine):
            self.rewriter.insert(lines.end, *self.handing_on(routine))
        self.rewriter.remove(lines)
        if routine.named is not None and self.names[routine.name] != routine.name:
            self.rewriter.replace(routine.named, self.names[routine.name], Renamed(self.names[routine.name]))

    def keeps_face(self, routine: Routine) -> bool:
        """Whether other code calls a method, or may do so."""
        if any(not mention.is_inside for mention in self.members.mentions(routine.name)):
            return True
        return self.move.class_name in self.module.used_elsewhere and not routine.name.startswith("_")

    def handing_on(self, routine: Routine) -> list[str]:
        statement = routine.statement
        assert statement is not None
        unit = self.layout.indent
        head = self.module.source.slice(Span(statement.start, statement.header_end)).removeprefix("async ").strip()
        given = ", ".join(handed_on(routine.parameters[1:]))
        receiver = routine.parameters[0].name
        call = f"{receiver}.{self.move.instance}.{self.names[routine.name]}({given})"
        says = "return " if self.gives_value(routine) else ""
        margin = self.layout.margin(statement)
        return [f"{margin}{head.removesuffix(':')}:\n{margin}{unit}{says}{call}\n"]

    def gives_value(self, routine: Routine) -> bool:
        inner = routine.body.walk() if routine.body is not None else ()
        returned = (self.module.source.slice(s.span).strip() for s in inner if Leave.RETURN in s.leaves)
        return routine.is_generator or routine.is_async or any(text != "return" for text in returned)

    # -- mentions

    def rewrite_mentions(self) -> None:
        steps: dict[Reference, dict[int, tuple[str, ...]]] = defaultdict(dict)
        for old, new in self.names.items():
            for mention in self.members.mentions(old):
                text = self.reached_by(mention, old, new)
                if text is not None and mention.reference not in self.rewriting.dropped:
                    steps[mention.reference][mention.at] = text
                    span = Span(mention.access.end - len(old.encode()), mention.access.end)
                    if text != (old,):
                        self.rewriting.changes.replace(mention.module.path, span, ".".join(text))
        for reference, changed in steps.items():
            path: list[str | None] = []
            for at, step in enumerate(reference.path):
                path += changed.get(at, (step.name,))
            self.rewriting.paths[reference] = tuple(path)
        for value in self.values.found:
            for reference in value.own:
                self.rewriting.went[reference] = Receiver(self.move.new_class)

    def reached_by(self, mention: Mention, old: str, new: str) -> tuple[str, ...] | None:
        """The steps that lead to a member from now on; None where they stay as they are."""
        if mention.module is self.module and self.goes_along(mention.reference):
            return (new,)
        is_method = old not in self.fields
        return None if is_method and not mention.is_inside else (self.move.instance, new)

    def goes_along(self, reference: Reference) -> bool:
        """Whether a reference stands in what moves to the new class."""
        spans = [r.statement.span for r in self.methods if r.statement is not None]
        is_in_method = any(span.start <= reference.start < span.end for span in spans)
        return is_in_method or any(reference in value.own for value in self.values.found)


def _is_easy(parameter: Parameter) -> bool:
    return parameter.default is None or parameter.default.shape is Shape.LITERAL
