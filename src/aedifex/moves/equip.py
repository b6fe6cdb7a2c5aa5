"""equip: what sets a new object up, right where it is made, goes into its constructor."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import at_top, module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Instead, Parameter, Receiver, Renamed, Rewriting
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import is_settled
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.likeness import Hole
from aedifex.survey.kinds.set_ups import SetUp, SetUpKind, set_up_kind

_MOST_UNNAMED = 4


@dataclass(frozen=True)
class Equip:
    """Give the class of what `holder` holds a constructor; one of a library has an heir `class_name` for that."""

    name: ClassVar[str] = "equip"

    path: Path
    class_name: str
    holder: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: there are no such objects, or they are not set up alike.
        """
        module = module_of(program, self.path)
        kind = set_up_kind(module, self.holder)
        if kind is None:
            raise RefusedError(
                f"`{self.holder}` in {module.path.name} holds nothing that is set up where it is made",
                advice="Its fields must be set right behind the line that makes it, in the same way everywhere.",
            )
        return _Equipping(self, module, kind).plan()


class _Equipping(Planner):
    def __init__(self, move: Equip, module: Module, kind: SetUpKind) -> None:
        super().__init__(module)
        self.move = move
        self.kind = kind
        self.first = kind.set_ups[0]

    # -- reasons against it

    def find_objections(self) -> None:
        at, scope = self.first.making.start, self.kind.scope
        if scope is None and self.move.class_name in self.module.names_in_use:
            self.object(at, f"the name `{self.move.class_name}` is in use already", "Choose another name.")
        if scope is not None and scope.name != self.move.class_name:
            self.object(at, f"the class of `{self.move.holder}` is {scope.name}", "Name that.")
        used = {r.name for s in self.first.run for r in s.references} - set(self.first.given)
        if len(set(self.parameters)) < len(self.parameters) or not used.isdisjoint(self.parameters):
            self.object(at, "two things would have the same name in the constructor", "Rename one of them.")
        if scope is None and self.dialect.rules.reaches_base in self.module.scope.symbols:
            self.object(at, f"`{self.dialect.rules.reaches_base}` means something else here", "Rename that.")

    # -- the constructor

    @cached_property
    def named_holes(self) -> list[tuple[str, Hole]]:
        """The constants that differ, each with the name of what it is given to."""
        found: list[tuple[str, Hole]] = []
        for hole in self.kind.holes:
            name = self.name_for(hole)
            taken = {*self.taken_as.values(), *(known for known, _ in found)}
            same = [known for known, other in found if self.texts(other) == self.texts(hole) and known == name]
            joined = self.dialect.naming.joined
            free = (n for n in (name, *(joined(name, str(number)) for number in range(2, 99))) if n not in taken)
            found.append((same[0] if same else next(free), hole))
        return found

    @cached_property
    def parameters(self) -> list[str]:
        """What the constructor takes."""
        return [*self.taken_as.values(), *dict.fromkeys(name for name, _ in self.named_holes)]

    @cached_property
    def taken_as(self) -> dict[str, str]:
        """What the constructor calls what it is given from around: a certain object is what it is to the new one."""
        found: dict[str, str] = {}
        for name in self.first.given:
            uses = [(s, r) for s in self.first.run for r in s.references if r.name == name]
            statement, use = uses[0]
            value = statement.assignment.value if statement.assignment is not None else None
            is_all = len(uses) == 1 and value is not None and value.span == use.span
            is_certain = use.symbol.is_module_level and is_settled(use.symbol)
            member = statement.references[0].path[-1].name or ""
            found[name] = member if is_all and is_certain and member not in self.first.given else name
        return found

    def texts(self, hole: Hole) -> list[str]:
        return [self.module.source.slice(constant.span) for constant in hole.constants]

    def name_for(self, hole: Hole) -> str:
        """A name for a constant: that of the member, or of the parameter, that it is given to."""
        constant = hole.constants[0]
        around = Surroundings.of(self.module).around(constant)
        if around is not None and around.sense is Sense.SET and around.parts[0].name:
            return around.parts[0].name
        if around is None or around.sense is not Sense.CALL:
            return self.member_around(constant)
        at = around.parts.index(constant) - 1
        if at >= 0 and around.names[at]:
            return str(around.names[at])
        callee = around.parts[0].name or ""
        return self.dialect.library.parameter_name(callee, at) or callee or "value"

    def member_around(self, constant: Expression) -> str:
        """The member that a constant has a part in."""
        around: Expression | None = constant
        while around is not None and around.sense is not Sense.SET:
            around = Surroundings.of(self.module).around(around)
        return (around.parts[0].name if around is not None else "") or "value"

    def constructor(self) -> list[Piece]:
        """The constructor, with the first object's statements in it; or the function that makes such objects."""
        unit = self.layout.indent
        if self.kind.factory is not None:
            return self.rewriter.lines_taken(self.layout.own_lines(self.kind.factory.statement), indent=unit)
        frame = self.writer.constructor_frame(self.parameters, unit, unit)
        run = self.first.run
        lines = Span(self.layout.own_lines(self.first.making).end, self.layout.own_lines(run[-1]).end)
        base: list[Piece] = [unit * 2, self.base_call(), "\n"] if self.kind.scope is None else []
        body = self.rewriter.lines_taken(lines, dedent=self.layout.margin(run[0]), indent=unit * 2)
        return [frame.head, *base, *body, frame.tail]

    def base_call(self) -> str:
        """The call of the constructor of what is inherited from, with what made the object."""
        inside = self.module.source.slice(self.first.call.inside) if self.first.call.inside is not None else ""
        return self.writer.base_call([inside] if inside.strip() else [])

    # -- writing

    def write(self) -> None:
        if self.kind.scope is None:
            self.write_heir()
        else:
            self.write_into_class()
        if self.kind.factory is not None:
            self.rewrite_factory(self.kind.factory)
        else:
            self.write_makings()

    def rewrite_factory(self, factory: Function) -> None:
        """A function becomes the constructor, and its calls those of the class."""
        making = self.first.making
        self.rewriter.remove(self.layout.own_lines(factory.statement))
        self.rewriter.drop([self.first.maker])
        self.rewriter.make_constructor(factory)
        known = None if self.kind.scope is None else self.first.maker.symbol
        goal = Renamed(self.move.class_name) if known is None else Instead(known)
        for reference in factory.symbol.references:
            if reference is not factory.named:
                self.rewriter.replace(reference, self.move.class_name, goal)
        self.rewriter.drop([r for r in making.references if r.binds])
        if self.kind.scope is None:
            self.rewriting.changes.replace(self.module.path, making.span, self.base_call())
        else:
            self.rewriter.remove(self.layout.own_lines(making))
        last = factory.body.statements[-1]
        self.rewriter.drop(last.references)
        self.rewriter.remove(self.layout.own_lines(last))
        for reference in self.first.symbol.references:
            if reference not in self.rewriting.dropped:
                self.rewriter.replace(reference, self.writer.receiver, Receiver(self.move.class_name))

    def write_makings(self) -> None:
        for name, hole in self.named_holes:
            self.rewriting.changes.replace(self.module.path, hole.constants[0].span, name)
        constructor = self.dialect.rules.constructor
        for reference in (r for s in self.first.run for r in s.references):
            if reference.symbol is self.first.symbol:
                self.rewriter.replace(reference, self.writer.receiver, Receiver(self.move.class_name))
            elif reference.name in self.first.given:
                name = self.taken_as[reference.name]
                self.rewriter.replace(reference, name, Parameter(constructor, name))
        for number, made in enumerate(self.kind.set_ups):
            self.write_making(number, made)

    def write_heir(self) -> None:
        maker = self.first.maker
        base = self.module.source.slice(maker.reach)
        frame = self.writer.class_frame(self.move.class_name, "", self.layout.indent, base)
        at = self.layout.lines(at_top(self.first.making)).start
        pieces = [frame.head, *self.constructor(), frame.tail, self.layout.gap]
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces)

    def write_into_class(self) -> None:
        statement = next(s for s in self.module.block.statements if s.defines is self.kind.scope)
        body = statement.blocks[0].statements
        fillers = [s for s in body if s.kind is Kind.NOTHING and not s.is_text and not s.references]
        if len(body) == 1 and body == fillers and self.layout.stands_alone(body[0]):
            own = self.layout.own_lines(body[0])
            self.rewriter.insert(own.end, *self.constructor())
            self.rewriter.remove(own)
            return
        first = next((s for s in body if s.defines is not None), None)
        if first is None:
            self.rewriter.insert(self.layout.own_lines(body[-1]).end, "\n", *self.constructor())
        else:
            self.rewriter.insert(self.layout.lines(first).start, *self.constructor(), "\n")

    def write_making(self, number: int, made: SetUp) -> None:
        """The call of the class in place of what made the object, with what its constructor takes."""
        given: list[Piece] = [*made.given]
        differing = {name: self.texts(hole)[number] for name, hole in self.named_holes}
        by_name = len(self.parameters) > _MOST_UNNAMED
        given += [self.writer.named_argument(n, text) if by_name else text for n, text in differing.items()]
        if by_name:
            given[: len(made.given)] = [self.writer.named_argument(self.taken_as[n], n) for n in made.given]
        self.rewriter.drop([made.maker])
        self.rewriting.changes.replace(
            self.module.path, made.call.span, *self.writer.creation(self.move.class_name, given)
        )
        behind = Span(self.layout.own_lines(made.making).end, self.layout.own_lines(made.run[-1]).end)
        self.rewriter.remove(behind)
        if number:
            self.rewriter.drop([r for s in made.run for r in s.references])


def _by_hand(program: Program, script: Path, given: Given) -> Sequence[Equip]:
    return [Equip(script, given["class"], given["holder"])]


MOVE = Description(
    name="equip",
    place=5,
    summary=(
        "What sets a new object up, right where it is made, goes into its constructor.\n"
        "Refused where its objects are not set up alike, or what that needs may change."
    ),
    term="Extract Subclass",
    help="Give what is set up where it is made a constructor.",
    parameters=(
        StepParameter("holder", Takes.ONE, "VARIABLE"),
        StepParameter("class", Takes.NEEDED, "NAME", "The class; a new one inherits from the library's."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="notice --class Notice",
        before="""\
import textwrap

notices = []
for width in (12, 20):
    notice = textwrap.TextWrapper()
    notice.width = width
    notice.read = 0
    notices.append(notice)

for notice in notices:
    notice.read += 1
    print(notice.wrap("the ferry crosses at noon"), notice.read)
""",
        after={
            "harbour.py": """\
import textwrap

notices = []


class Notice(textwrap.TextWrapper):
    def __init__(self, width):
        super().__init__()
        self.width = width
        self.read = 0


for width in (12, 20):
    notice = Notice(width)
    notices.append(notice)

for notice in notices:
    notice.read += 1
    print(notice.wrap("the ferry crosses at noon"), notice.read)
""",
        },
    ),
)
