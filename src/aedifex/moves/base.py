"""base: what several classes share goes into one that they come from."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.hidden_use import hidden_uses, is_used_by_class
from aedifex.moves.kit.move import class_of, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Receiver, Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, ParameterKind, Statement
from aedifex.source.text import Span
from aedifex.survey.shared_members import PlainClass, equal_methods, header, same_value, shared_fields, shared_methods
from aedifex.survey.words import words_of

_ADVICE = "Leave the classes as they are."


@dataclass(frozen=True)
class Base:
    """Give some classes of a file a class from which they come, with the fields and methods that they share.

    Methods that are written alike go there; those that only have the same name and parameters are declared there.
    """

    name: ClassVar[str] = "base"

    path: Path
    new_class: str
    children: tuple[str, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Basing(self, program, module_of(program, self.path)).plan()


class _Basing(Planner):
    def __init__(self, move: Base, program: Program, module: Module) -> None:
        super().__init__(module)
        self.move = move
        scopes = [class_of(module, name)[1] for name in move.children]
        self.children = sorted(
            (PlainClass(program, module, scope) for scope in scopes), key=lambda child: child.members.statement.start
        )
        self.fields = shared_fields(self.children)
        self.methods = shared_methods(self.children)
        self.equal = equal_methods(self.children)

    def write(self) -> None:
        self.write_base()
        for child in self.children:
            self.write_child(child)

    # -- reasons against it

    def find_objections(self) -> None:
        first = self.children[0]
        at = first.members.statement.start
        if len(self.children) < 2:
            self.object(at, "one class shares nothing", "Name two classes or more.")
        if self.move.new_class in self.module.names_in_use or not self.dialect.rules.is_name(self.move.new_class):
            self.object(at, f"the name `{self.move.new_class}` is in use already", "Choose another.")
        if not self.fields and not self.equal:
            names = ", ".join(child.name for child in self.children)
            self.object(at, f"{names} share neither a field that they set alike nor a method", _ADVICE)
        for child in self.children:
            self.object_to_child(child)

    def object_to_child(self, child: PlainClass) -> None:
        at, home = child.members.statement.start, child.name
        if not child.is_plain:
            self.object(at, f"{home} inherits, is inherited from, or has no constructor of its own", _ADVICE)
        if self.writer.inheriting(header(child), self.move.new_class) is None:
            self.object(at, f"the heading of {home} says more than its name", _ADVICE)
        for reason in hidden_uses(child.members):
            self.object(at, reason, _ADVICE)
        for name in self.equal:
            self.object_to_method(child, child.methods[name])

    def object_to_method(self, child: PlainClass, function: Function) -> None:
        rules = self.dialect.rules
        for reference in self.module.references_within(function.statement.span):
            private = [step.name for step in reference.path if step.name and rules.is_private(step.name)]
            if (
                (reference.scope is child.scope and reference.mode.reads)
                or rules.customises_access(reference.name)
                or private
            ):
                reason = f"what `{reference.name}` means in `{function.name}` depends on the class"
                self.object(reference.start, reason, _ADVICE)
        if is_used_by_class(child.members, function):
            self.object(function.statement.start, f"the class itself uses or redefines `{function.name}`", _ADVICE)

    # -- writing

    def write_base(self) -> None:
        first, unit = self.children[0], self.layout.indent
        whole = self.writer.class_frame(self.move.new_class, f"The {' '.join(words_of(self.move.new_class))}.", unit)
        pieces: list[Piece] = [whole.head]
        if self.fields:
            frame = self.writer.constructor_frame(list(self.parameters.values()), unit, unit)
            pieces.append(frame.head)
            for name in self.fields:
                value = self.parameters.get(name) or same_value(self.children, name)
                target = self.writer.member(self.writer.receiver, name)
                pieces += [unit * 2, *self.writer.assignment(target, [value])]
            pieces.append(frame.tail)
        for name in self.methods:
            pieces += ["\n" if len(pieces) > 1 else "", *self.method(first, name)]
        at = self.layout.lines(first.members.statement).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, whole.tail, self.layout.gap)

    def method(self, first: PlainClass, name: str) -> Iterator[Piece]:
        """The method that all have, or the heading that says that all have one."""
        function, unit = first.methods[name], self.layout.indent
        if name in self.equal:
            for reference in function.receiver.references if function.receiver is not None else ():
                self.rewriting.destinations[reference] = Receiver(self.move.new_class)
            yield from self.rewriter.lines_taken(self.layout.lines(function.statement))
            return
        frame = self.writer.method_frame(name, first.takes(name)[1:], unit, unit)
        yield from (frame.head, f"{unit * 2}{self.writer.not_made()}\n", frame.tail)

    @cached_property
    def parameters(self) -> dict[str, str]:
        """What the base's constructor is given, by field: all but what every class begins with."""
        found: dict[str, str] = {}
        for name in self.fields:
            if not same_value(self.children, name):
                known = [child.fields[name].parameter for child in self.children if child.fields[name].parameter]
                found[name] = known[0] if known else self.dialect.naming.member_name(words_of(name))
        return found

    def given(self, child: PlainClass) -> list[str]:
        """What a class gives to the base's constructor."""
        return [child.fields[name].parameter or child.fields[name].value for name in self.parameters]

    def write_child(self, child: PlainClass) -> None:
        named = next(r for r in child.members.statement.references if r.binds)
        inherited = self.writer.inheriting(header(child), self.move.new_class)
        assert inherited is not None
        length, heading = inherited
        self.rewriting.changes.replace(self.module.path, Span(named.end, named.end + length), heading)
        if self.fields and self.is_all_the_same(child):
            constructor = child.members.constructor
            assert constructor is not None
            self.take_away(constructor.statement)
        elif self.fields:
            self.write_constructor(child)
        for name in self.equal:
            function = child.methods[name]
            if child is self.children[0]:
                self.rewriter.remove(self.layout.lines(function.statement))
            else:
                self.take_away(function.statement)

    def take_away(self, statement: Statement) -> None:
        self.rewriter.remove(self.layout.lines(statement))
        self.rewriter.drop(self.module.references_within(statement.span))

    def is_all_the_same(self, child: PlainClass) -> bool:
        """Whether the child's constructor does what the base's does, is given the same, and nothing else remains."""
        constructor = child.members.constructor
        assert constructor is not None
        own = [statement for statement in constructor.body.statements if not statement.is_text]
        shared = [child.fields[name].statement for name in self.fields]
        is_same = [p.name for p in child.parameters] == self.given(child) == list(self.parameters.values())
        has_rest = any(p.default is not None or p.kind is not ParameterKind.PLAIN for p in child.parameters)
        has_words = any(statement.is_text for statement in constructor.body.statements)
        comments = any(constructor.statement.start <= c.start < constructor.statement.end for c in self.module.comments)
        going = [constructor.statement, *(child.methods[name].statement for name in self.equal)]
        has_more = any(s not in going and not s.is_text for s in child.members.statement.blocks[0].statements)
        return own == shared and is_same and has_more and not (has_rest or has_words or comments)

    def write_constructor(self, child: PlainClass) -> None:
        statements = [child.fields[name].statement for name in self.fields]
        first = min(statements, key=lambda statement: statement.start)
        at = self.layout.lines(first).start
        self.rewriter.insert(at, f"{self.layout.margin(first)}{self.writer.base_call(self.given(child))}\n")
        for statement in statements:
            self.take_away(statement)


def _by_hand(program: Program, script: Path, given: Given) -> list[Base]:
    return [Base(script, given["into"], tuple(given["classes"]))]


MOVE = Description(
    name="base",
    place=85,
    summary=(
        "What fields and methods several classes share goes into one that they come from.\n"
        "Refused where a class inherits already, or its members may be reached by their text."
    ),
    term="Extract Superclass",
    help="Give classes that share fields and methods a class from which they come.",
    parameters=(
        StepParameter("classes", Takes.MANY, "CLASS..."),
        StepParameter("into", Takes.NEEDED, "NAME", "The new class."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="Kite Gull --into Flier",
        before="""\
class Kite:
    def __init__(self, x, y, line):
        self.x = x
        self.y = y
        self.line = line

    def move(self):
        self.y += self.line

    def show(self):
        print(self.x, self.y)


class Gull:
    def __init__(self, x, y):
        self.x = x
        self.y = y

    def move(self):
        self.x += 1

    def show(self):
        print(self.x, self.y)


for flier in [Kite(1, 2, 3), Gull(4, 5)]:
    flier.move()
    flier.show()
""",
        after={
            "harbour.py": '''\
class Flier:
    """The flier."""

    def __init__(self, x, y):
        self.x = x
        self.y = y

    def move(self):
        raise NotImplementedError

    def show(self):
        print(self.x, self.y)


class Kite(Flier):
    def __init__(self, x, y, line):
        super().__init__(x, y)
        self.line = line

    def move(self):
        self.y += self.line


class Gull(Flier):
    def move(self):
        self.x += 1


for flier in [Kite(1, 2, 3), Gull(4, 5)]:
    flier.move()
    flier.show()
''',
        },
    ),
)
