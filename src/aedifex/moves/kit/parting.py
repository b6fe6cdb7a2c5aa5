"""Some members of a class become a class of their own, and the first keeps its public face."""

from __future__ import annotations

from collections import defaultdict
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.field_values import FieldValue, FieldValues
from aedifex.moves.kit.hidden_use import hidden_uses, is_used_by_class
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.passed_fields import PassedFields
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import takes_by_keyword
from aedifex.moves.kit.rewriting import Parameter as NewParameter
from aedifex.moves.kit.rewriting import Receiver, Renamed, Rewriting
from aedifex.program.analysis.members import Members, Mention, Mentions
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Call, Function, Parameter, ParameterKind, Shape, call_of
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
        self.statement, scope = class_of(module, move.class_name)
        self.members = Members(Mentions.of(program), module, scope)
        self.names = {member.old: member.new for member in move.members}
        self.fields = [name for name in self.members.fields if name in self.names]
        self.methods = [function for function in self.members.functions if function.name in self.names]
        self.values = FieldValues(self.members, self.fields)
        self.passed = PassedFields(self.members, self.names)

    def write(self) -> None:
        self.write_class()
        self.write_creation()
        for function in self.methods:
            self.take_method(function)
        self.take_heading_away()
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
        for reason in hidden_uses(self.members):
            self.object(at, reason, _ADVICE)
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
        for offset, reason in self.passed.objections(function):
            self.object(offset, reason, _ADVICE)
        for mention in self.members.mentions(function.name):
            if mention.is_write:
                self.object(self.at_home(mention), f"`{function.name}` is given another value here", _ADVICE)
            elif not self.dialect.rules.binds_anew and not _is_call(mention):
                self.object(self.at_home(mention), f"`{function.name}` is handed on as a value here", _ADVICE)
        if self.passed.of(function):
            for mention in self.members.mentions(function.name):
                if mention.module is self.module and self.goes_along(mention.reference):
                    reason = f"`{function.name}` is called by what goes, which cannot give it what stays"
                    self.object(mention.reference.start, reason, _ADVICE)
        for reference in self.module.references_within(statement.span):
            if self.depends_on_class(reference):
                reason = f"what `{reference.name}` means in `{function.name}` depends on the class"
                self.object(reference.start, reason, _ADVICE)
        for call in statement.calls:
            self.object(call.start, f"the signature of `{function.name}` calls something", _ADVICE)
        if not all(_is_easy(parameter) for parameter in function.parameters):
            self.object(statement.start, f"`{function.name}` has a default that is worked out here", _ADVICE)
        if self.keeps_face(function) and any(p.kind is ParameterKind.PATTERN for p in function.parameters):
            self.object(statement.start, f"`{function.name}` takes apart what it would hand on", _ADVICE)
        if is_used_by_class(self.members, function):
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
        is_there = name in (*members.fields, *members.methods) or bool(members.mentions(name))
        if (is_there and name not in self.fields) or members.all.unsure[name] > 0:
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
            pieces += ["\n", *self.rewriter.lines_taken(self.lines_without_heading(function))]
        at = self.layout.lines(self.statement).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, whole.tail, self.layout.gap)

    def field_lines(self, value: FieldValue, margin: str) -> list[Piece]:
        name = self.names[value.field]
        begin, end = self.layout.lines(value.statement).start, self.layout.own_lines(value.statement).start
        given = name if value.is_argument else self.rewriter.taken(value.span, indent=margin)
        *setting, line_end = self.writer.assignment(self.writer.member(self.writer.receiver, name), [given])
        comments = [line for line in self.rewriter.comments(begin, end, margin) if not self.says_class(line)]
        return [*comments, margin, *setting, *self.rewriter.comment_behind(value.statement), line_end]

    def lines_without_heading(self, function: Function) -> Span:
        """The lines of a method that go with it: not the heading of the section that it is the first of."""
        lines, heading = self.layout.lines(function.statement), self.layout.heading(function.statement)
        is_apart = heading is not None and (heading.is_ruled or self.says_class(heading.text))
        return (
            Span(self.layout.behind_blank(heading.span.end), lines.end) if heading is not None and is_apart else lines
        )

    def lines_left(self, function: Function) -> Span:
        """The lines of a method that go from where they are: its heading too, where the new class is called so."""
        lines, heading = self.layout.lines(function.statement), self.layout.heading(function.statement)
        if heading is None or self.says_class(heading.text):
            return lines
        begin = self.lines_without_heading(function).start
        has_successor = begin == lines.start or self.keeps_face(function)
        return Span(begin, lines.end if has_successor else self.layout.behind_blank(lines.end))

    def take_heading_away(self) -> None:
        """What stays of the section that has become the class needs no heading that says so."""
        going = [function.statement for function in self.methods]
        for statement in self.statement.blocks[0].statements:
            heading = self.layout.heading(statement) if statement not in going else None
            if heading is not None and self.says_class(heading.text):
                self.rewriter.remove(Span(heading.span.start, self.layout.behind_blank(heading.span.end)))

    def says_class(self, comment: str) -> bool:
        """Whether a comment has the words of the new class, and no others."""
        return words_of(comment) == words_of(self.move.new_class)

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
        lines, new = self.layout.lines(function.statement), self.names[function.name]
        if self.keeps_face(function):
            self.rewriter.insert(lines.end, self.handing_on(function))
        self.rewriter.remove(self.lines_left(function))
        if new != function.name:
            self.rewriter.replace(function.named, new, Renamed(new))
        parameters = {passed.steps: passed.parameter for passed in self.passed.of(function)}
        for reference in self.passed.reads(function):
            steps = self.passed.steps_of(reference)
            span = Span(reference.start, reference.path[len(steps) - 1].end)
            self.rewriter.replace(reference, parameters[steps], NewParameter(new, parameters[steps]), span)
        self.rewriter.add_parameters(function, list(parameters.values()))

    def keeps_face(self, function: Function) -> bool:
        """Whether other code calls a method, or may do so; or the class must give it what stays, by no plain call."""
        if self.passed.of(function) and not self.is_given_where_called(function):
            return True
        if any(not mention.is_inside for mention in self.members.mentions(function.name)):
            return True
        is_elsewhere = self.module.is_known_outside(self.move.class_name)
        return is_elsewhere and not self.dialect.naming.is_sealed(function.name)

    def is_given_where_called(self, function: Function) -> bool:
        """Whether the class's own methods only call a method so that what stays can be put behind the arguments."""
        own = [p for p in function.parameters if p.reference.symbol is not function.receiver]
        is_simple = all(p.kind is ParameterKind.PLAIN and p.default is None for p in own)
        inside = [mention for mention in self.members.mentions(function.name) if mention.is_inside]
        calls = [self.call_at(mention) for mention in inside]
        return is_simple and all(
            call is not None
            and len(call.arguments) == len(own)
            and not any(a.keyword or a.stars for a in call.arguments)
            for call in calls
        )

    def call_at(self, mention: Mention) -> Call | None:
        """The call of a member where it is named, if it is one in this file."""
        return call_of(mention.reference) if _is_call(mention) and mention.module is self.module else None

    def handing_on(self, function: Function) -> str:
        statement, receiver = function.statement, function.receiver
        assert receiver is not None
        head = self.module.source.slice(Span(statement.start, statement.header_end))
        given = self.writer.handed_on([p for p in function.parameters if p.reference.symbol is not receiver])
        for passed in self.passed.of(function):
            value = self.writer.member(receiver.name, *passed.steps)
            by_keyword = takes_by_keyword(function.parameters)
            given.append(self.writer.named_argument(passed.parameter, value) if by_keyword else value)
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
        function = next((f for f in self.methods if f.name == old), None)
        if function is None:
            return (self.move.instance, new)
        passed = self.passed.of(function)
        if not mention.is_inside or (passed and not self.is_given_where_called(function)):
            return None
        call = self.call_at(mention)
        if passed and call is not None:
            values = (self.writer.member(mention.reference.name, *field.steps) for field in passed)
            self.rewriter.append_argument(call, ", ".join(values))
        return (self.move.instance, new)

    def goes_along(self, reference: Reference) -> bool:
        """Whether a reference stands in what moves to the new class."""
        spans = [function.statement.span for function in self.methods]
        is_in_method = any(span.start <= reference.start < span.end for span in spans)
        return is_in_method or any(reference in value.own for value in self.values.found)


def _is_call(mention: Mention) -> bool:
    """Whether a member is called where it is named, and the object that has it is a name."""
    return mention.reference.path_mode is Mode.CALL and len(mention.reference.path) == 1


def _is_easy(parameter: Parameter) -> bool:
    return parameter.default is None or parameter.default.shape is Shape.LITERAL
