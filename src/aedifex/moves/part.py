"""part: some members of a class become a class of their own, and the first keeps its public face."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.design.drafting.jobs import jobs_of
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.field_values import FieldValue, FieldValues
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Receiver, Renamed, Rewriting
from aedifex.program.analysis.members import Members, Mention, Mentions
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Parameter, Shape
from aedifex.source.errors import RefusedError, UsageError
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

    path: Path
    class_name: str
    new_class: str
    instance: str
    members: tuple[PartMember, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Parting(self, program, module).plan()


class _Parting(Planner):
    def __init__(self, move: Part, program: Program, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.program = program
        self.statement, scope = class_of(module, move.class_name)
        self.members = Members(Mentions.of(program), module, scope)
        self.names = {member.old: member.new for member in move.members}
        self.fields = [name for name in self.members.fields if name in self.names]
        self.methods = [function for function in self.members.functions if function.name in self.names]
        self.values = FieldValues(self.members, self.fields)

    def write(self) -> None:
        self.write_class()
        self.write_creation()
        for function in self.methods:
            self.take_method(function)
        self.rewrite_mentions()

    # -- reasons against it

    def find_objections(self) -> None:
        self.object_to_class()
        for old in self.names:
            self.object_to_member(old)
        for function in self.methods:
            self.object_to_method(function)
        self.object_to_names()
        for offset, reason in self.values.objections():
            self.object(offset, reason, "Set it first, to a plain value or a parameter.")

    def object_to_class(self) -> None:
        at, home = self.statement.start, self.move.class_name
        if not self.members.is_plain:
            self.object(at, f"{home} inherits or is inherited from", _ADVICE)
        symbols = self.members.scope.symbols.values()
        if any(self.dialect.rules.customises_access(symbol.name) for symbol in symbols if symbol.bindings):
            self.object(at, f"{home} itself decides how its members are reached or copied", _ADVICE)
        if self.members.all.are_looked_up_by_text:
            self.object(at, f"members of {home} may be reached by their text", _ADVICE)
        copying = next((name for name in self.program.imported if self.dialect.library.copies_objects(name)), None)
        if copying is not None:
            self.object(at, f"objects of {home} may be copied or stored with `{copying}`", _ADVICE)
        if not self.fields:
            self.object(at, "none of the members named is a field", "Name a field that the new class is to keep.")

    def object_to_member(self, old: str) -> None:
        at, home = self.statement.start, self.move.class_name
        if old not in self.fields and not any(function.name == old for function in self.methods):
            self.object(at, f"{home} has no field or method `{old}` of its own", "Check the name.")
        elif self.dialect.rules.has_meaning(old):
            self.object(at, f"`{old}` has a meaning of its own in the language", _ADVICE)
        elif self.members.strangers(old) > 0:
            self.object(at, f"`.{old}` is also used on objects that may or may not be of {home}", _ADVICE)
        for mention in self.members.mentions(old):
            if mention.module.echo_at(mention.reference.start) is not None:
                reason = f"`{old}` stands in a template that shows its own text"
                self.object(self.at_home(mention), reason, "Write the text out before the value.")

    def at_home(self, mention: Mention) -> int:
        return mention.reference.start if mention.module is self.module else self.statement.start

    def object_to_method(self, function: Function) -> None:
        statement, receiver = function.statement, function.receiver
        if receiver is None or statement.block.owner is not self.statement:
            self.object(statement.start, f"`{function.name}` is no plain method", _ADVICE)
            return
        for reference in receiver.references[1:]:
            first = reference.path[0].name if reference.path else None
            if first not in self.names:
                what = f"uses `{first}`, which stays" if first is not None else "hands its object on"
                self.object(reference.start, f"`{function.name}` {what} in {self.move.class_name}", _ADVICE)
        for reference in self.module.references_within(statement.span):
            if self.depends_on_class(reference):
                reason = f"what `{reference.name}` means in `{function.name}` depends on the class"
                self.object(reference.start, reason, _ADVICE)
        for call in statement.calls:
            self.object(call.start, f"the signature of `{function.name}` calls something", _ADVICE)
        if not all(_is_easy(parameter) for parameter in function.parameters):
            self.object(statement.start, f"`{function.name}` has a default that is worked out here", _ADVICE)
        used = [use for use in self.members.scope.uses if use.name == function.name and not use.mode.writes]
        if used or len(function.symbol.bindings) != 1:
            self.object(statement.start, f"the class itself uses or redefines `{function.name}`", _ADVICE)

    def depends_on_class(self, reference: Reference) -> bool:
        """Whether a name would mean something else in the methods of another class."""
        dialect = self.dialect
        is_of_body = reference.scope is self.members.scope and reference.mode.reads
        return is_of_body or dialect.rules.is_private(reference.name) or dialect.rules.customises_access(reference.name)

    def object_to_names(self) -> None:
        at = self.statement.start
        module, members = self.module, self.members
        if self.move.new_class in module.names_in_use or not module.dialect.rules.is_name(self.move.new_class):
            self.object(at, f"the name `{self.move.new_class}` is in use already", "Choose another.")
        name = self.move.instance
        if name in (*members.fields, *members.methods) or members.mentions(name) or members.all.unsure[name] > 0:
            self.object(at, f"a member `{name}` is in use already", "Choose another name for the field.")
        if len(set(self.names.values())) < len(self.names):
            self.object(at, "two members would have the same name", "Give each a name of its own.")

    # -- writing

    def write_class(self) -> None:
        unit = self.layout.indent
        doc = f"The {' '.join(words_of(self.move.new_class))}."
        arguments = [self.names[value.field] for value in self.values.found if value.is_argument]
        whole = self.writer.class_frame(self.move.new_class, doc, unit)
        constructor = self.writer.constructor_frame(arguments, unit, unit)
        pieces: list[Piece] = [whole.head, constructor.head]
        for value in self.values.found:
            pieces += self.field_lines(value, unit * 2)
        pieces.append(constructor.tail)
        for function in self.methods:
            pieces += ["\n", *self.rewriter.lines_taken(self.layout.lines(function.statement))]
        at = self.layout.lines(self.statement).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, whole.tail, self.layout.gap)

    def field_lines(self, value: FieldValue, margin: str) -> list[Piece]:
        name = self.names[value.field]
        begin, end = self.layout.lines(value.statement).start, self.layout.own_lines(value.statement).start
        given = name if value.is_argument else self.rewriter.taken(value.span, indent=margin)
        *setting, line_end = self.writer.assignment(self.writer.member(self.writer.receiver, name), [given])
        comments = self.rewriter.comments(begin, end, margin)
        return [*comments, margin, *setting, *self.rewriter.comment_behind(value.statement), line_end]

    def write_creation(self) -> None:
        """One object of the new class is made where the first of its fields was set."""
        first = self.values.found[0].statement
        values = [self.rewriter.taken(value.span) for value in self.values.found if value.is_argument]
        creation = self.writer.creation(self.move.new_class, values)
        setting = self.writer.assignment(self.writer.member(self.receiver, self.move.instance), creation)
        self.rewriter.insert(self.layout.lines(first).start, self.layout.margin(first), *setting)
        for value in self.values.found:
            self.rewriter.remove(self.layout.lines(value.statement))
            self.rewriter.drop([value.target])

    @cached_property
    def receiver(self) -> str:
        constructor = self.members.constructor
        receiver = constructor.receiver if constructor is not None else None
        return receiver.name if receiver is not None else ""

    def take_method(self, function: Function) -> None:
        """A method goes; where other code may call it, one that hands the call on stands in its place."""
        lines = self.layout.lines(function.statement)
        if self.keeps_face(function):
            self.rewriter.insert(lines.end, self.handing_on(function))
        self.rewriter.remove(lines)
        if self.names[function.name] != function.name:
            self.rewriter.replace(function.named, self.names[function.name], Renamed(self.names[function.name]))

    def keeps_face(self, function: Function) -> bool:
        """Whether other code calls a method, or may do so."""
        if any(not mention.is_inside for mention in self.members.mentions(function.name)):
            return True
        is_elsewhere = self.module.is_known_outside(self.move.class_name)
        return is_elsewhere and not self.dialect.naming.is_sealed(function.name)

    def handing_on(self, function: Function) -> str:
        statement, receiver = function.statement, function.receiver
        assert receiver is not None
        head = self.module.source.slice(Span(statement.start, statement.header_end))
        given = self.writer.handed_on([p for p in function.parameters if p.reference.symbol is not receiver])
        target = self.writer.member(receiver.name, self.move.instance, self.names[function.name])
        call, margin = self.writer.call(target, given), self.layout.margin(statement)
        return self.writer.handing_on(head, call, margin, self.layout.indent, gives_value=self.gives_value(function))

    def gives_value(self, function: Function) -> bool:
        return function.is_postponed or any(statement.returned for statement in function.body.walk())

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
                        self.rewriting.changes.replace(mention.module.path, span, self.writer.member(*text))
        for reference, changed in steps.items():
            path: list[str | None] = []
            for at, step in enumerate(reference.path):
                path += changed.get(at, (step.name,))
            self.rewriting.paths[reference] = tuple(path)
        for value in self.values.found:
            for reference in value.own:
                self.rewriting.destinations[reference] = Receiver(self.move.new_class)

    def reached_by(self, mention: Mention, old: str, new: str) -> tuple[str, ...] | None:
        """The steps that lead to a member from now on; None where they stay as they are."""
        if mention.module is self.module and self.goes_along(mention.reference):
            return (new,)
        is_method = old not in self.fields
        return None if is_method and not mention.is_inside else (self.move.instance, new)

    def goes_along(self, reference: Reference) -> bool:
        """Whether a reference stands in what moves to the new class."""
        spans = [function.statement.span for function in self.methods]
        is_in_method = any(span.start <= reference.start < span.end for span in spans)
        return is_in_method or any(reference in value.own for value in self.values.found)


def _is_easy(parameter: Parameter) -> bool:
    return parameter.default is None or parameter.default.shape is Shape.LITERAL


def parts_of(program: Program, class_name: str) -> list[Part]:
    """The moves, one after the other, that give each job of a class a class of its own.

    Raises:
        RefusedError: there is no such class, or it has no job that could stand on its own.
    """
    module = program.main
    _, scope = class_of(module, class_name)
    found: list[Part] = []
    refused: list[RefusedError] = []
    for job in jobs_of(Members(Mentions.of(program), module, scope)):
        members = tuple(PartMember(old, new) for old, new in job.members.items())
        part = Part(module.path, class_name, job.class_name, job.instance, members)
        try:
            program = perform(program, part)
        except RefusedError as error:
            refused.append(error)
        else:
            found.append(part)
    if not found:
        why = refused[0] if refused else RefusedError(f"the members of {class_name} all do one job")
        raise RefusedError(why.reason, why.place, "Name the members that are to go, and --into their class.")
    return found


def _by_hand(program: Program, script: Path, given: Given) -> list[Part]:
    members, into = given["members"], given["into"]
    if bool(members) != bool(into):
        raise UsageError("name both: the members that go, and --into their class")
    if into is None:
        return parts_of(program, given["class"])
    chosen = tuple(PartMember(*named(text)) for text in members)
    return [Part(script, given["class"], into, given["object"] or into.lower(), chosen)]


MOVE = Description(
    name="part",
    place=80,
    summary=(
        "Some fields and methods of a class become a class of their own.\n"
        "The first keeps its public face: what others call is handed on."
    ),
    term="Extract Class, from a class",
    help="Give some members of a class a class of their own; the first class keeps one object of it.",
    parameters=(
        StepParameter("class", Takes.ONE, "CLASS"),
        StepParameter("members", Takes.ANY, "[MEMBER[=NEW]]..."),
        StepParameter("into", Takes.OPTION, "NAME", "The new class; without it, the jobs of the class are looked for."),
        StepParameter("object", Takes.OPTION, "FIELD", "The field that keeps its object."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="Harbour tide_level=level turn_tide=turn --into Tide",
        before="""\
class Harbour:
    def __init__(self):
        self.money = 5
        self.tide_level = 0

    def turn_tide(self, by):
        self.tide_level += by

    def run(self):
        self.turn_tide(2)
        print(self.money, self.tide_level)


Harbour().run()
""",
        after={
            "harbour.py": '''\
class Tide:
    """The tide."""

    def __init__(self):
        self.level = 0

    def turn(self, by):
        self.level += by


class Harbour:
    def __init__(self):
        self.money = 5
        self.tide = Tide()

    def run(self):
        self.tide.turn(2)
        print(self.money, self.tide.level)


Harbour().run()
''',
        },
    ),
)
