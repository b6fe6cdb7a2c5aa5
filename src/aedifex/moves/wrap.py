"""wrap: a thing of a library comes into a class of its own, so that what is done with it can have names there."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Instead, Renamed, Rewriting
from aedifex.moves.kit.rewriting import Parameter as Local
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.resources import Derived, ResourceKind, resource_kinds
from aedifex.survey.words import words_of

_ADVICE = "Choose another name."


@dataclass(frozen=True)
class Wrap:
    """Make a class with one field, for what `variable` holds of a library; its object is called `instance`.

    A `second` field has what is derived from that right behind it.
    """

    name: ClassVar[str] = "wrap"

    path: Path
    variable: str
    class_name: str
    field: str
    instance: str
    second: str = ""

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: nothing of a library is called often by that name.
        """
        module = module_of(program, self.path)
        kinds = resource_kinds(module)
        kind = next((kind for kind in kinds if kind.symbol.name == self.variable), None)
        if kind is None:
            known = ", ".join(f"`{kind.symbol.name}`" for kind in kinds)
            raise RefusedError(
                f"`{self.variable}` holds nothing of a library that is called often, in several places",
                advice=f"There is {known}." if known else "There is no such thing in the script.",
            )
        return _Wrapping(self, module, kind).plan()


class _Wrapping(Planner):
    def __init__(self, move: Wrap, module: Module, kind: ResourceKind) -> None:
        super().__init__(module)
        self.move = move
        self.kind = kind

    def find_objections(self) -> None:
        for obstacle in self.kind.obstacles:
            self.object(*obstacle)
        at = self.kind.symbol.references[0].start
        if self.move.class_name in self.module.names_in_use:
            self.object(at, f"the name `{self.move.class_name}` is in use already", _ADVICE)
        if self.kind.routine is None and self.is_renamed and self.module.is_known_outside(self.kind.symbol.name):
            self.object(at, f"`{self.kind.symbol.name}` is used by other files", "Let the object keep that name.")
        if self.is_renamed and self.move.instance in self.module.names_in_use:
            self.object(at, f"the name `{self.move.instance}` is in use already", _ADVICE)
        if self.move.second and self.derived is None:
            reason = f"nothing is derived from `{self.kind.symbol.name}` right behind it, once and for all"
            self.object(at, reason, "Leave the second field out.")
        if self.derived is not None and not self.layout.stands_alone(self.derived.statement):
            self.object(self.derived.statement.start, "this shares its line with another statement", "Break the line.")
        if self.derived is not None and self.module.is_known_outside(self.derived.symbol.name):
            self.object(at, f"`{self.derived.symbol.name}` is used by other files", "Leave the second field out.")
        for reference in [*self.references, *(self.derived.symbol.references if self.derived is not None else ())]:
            if is_hard_to_echo(self.module, reference):
                self.object(reference.start, "a template shows this by its text", "Write it out.")
        if self.kind.routine is not None and self.first_line is None:
            self.object(at, f"`{self.kind.routine.name}` has no line of its own", "Break the line.")

    @property
    def derived(self) -> Derived | None:
        """What is derived from the thing, if it is to be its second field."""
        return self.kind.derived if self.move.second else None

    @property
    def is_renamed(self) -> bool:
        """Whether names get that of the new object."""
        return self.move.instance != self.kind.symbol.name

    @cached_property
    def references(self) -> list[Reference]:
        """All names that hold the new object afterwards."""
        symbols = [self.kind.symbol, *self.kind.holders]
        found = [r for symbol in symbols for r in symbol.references]
        is_handed = self.kind.routine is not None  # a parameter still holds the thing itself
        return [r for r in found if not is_handed or r.symbol is not self.kind.symbol or not r.mode.writes]

    @cached_property
    def first_line(self) -> Span | None:
        """The line of the routine above which the object is made."""
        body = self.kind.routine.deeds if self.kind.routine is not None else []
        return self.layout.own_lines(body[0]) if body and self.layout.stands_alone(body[0]) else None

    def write(self) -> None:
        self.write_class()
        self.write_creation()
        uses, gone = set(self.kind.uses), self.write_derived()
        for reference in self.references:
            if reference not in gone:
                self.write_reference(reference, is_use=reference in uses)

    def write_derived(self) -> set[Reference]:
        """What is derived is asked of the object; the names in the statement that made it are gone."""
        if self.derived is None:
            return set()
        gone = set(self.module.references_within(self.derived.statement.span))
        self.rewriter.remove(self.layout.lines(self.derived.statement))
        self.rewriter.drop(gone)
        for reference in (r for r in self.derived.symbol.references if r not in gone):
            self.rewriting.paths[reference] = (self.move.second, *(step.name for step in reference.path))
            text = self.writer.member(self.move.instance, self.move.second)
            self.rewriter.replace(reference, text, Instead(self.kind.symbol, self.move.instance))
        return gone

    def write_class(self) -> None:
        unit, field = self.layout.indent, self.move.field
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        constructor = self.writer.constructor_frame([field], unit, unit)
        setting = [unit * 2, *self.writer.assignment(self.writer.member(self.writer.receiver, field), [field])]
        if self.derived is not None:
            second = self.writer.member(self.writer.receiver, self.move.second)
            made_of = self.writer.call(self.writer.member(self.writer.receiver, field, self.derived.method), [])
            setting += [unit * 2, *self.writer.assignment(second, [made_of])]
        statements = self.module.block.statements
        made = self.kind.value.start if self.kind.value is not None else len(self.module.source.data)
        first = next(s for s in statements if s.kind in (Kind.ROUTINE, Kind.CLASS) or s.end > made)
        at = self.layout.lines(first).start
        head = [self.layout.gap_before(at), frame.head, constructor.head, *setting]
        self.rewriter.insert(at, *head, constructor.tail, frame.tail, self.layout.gap)

    def write_creation(self) -> None:
        call = self.writer.call(self.move.class_name, [])
        if self.kind.value is not None:
            self.rewriter.insert(self.kind.value.start, call[:-1])
            self.rewriter.insert(self.kind.value.end, call[-1])
            return
        assert self.kind.routine is not None and self.first_line is not None
        first = self.kind.routine.deeds[0]
        made = self.writer.variable(self.move.instance, [self.writer.call(self.move.class_name, [self.move.variable])])
        self.rewriter.insert(self.layout.lines(first).start, self.layout.margin(first), *made)

    def write_reference(self, reference: Reference, *, is_use: bool) -> None:
        name = self.move.instance if self.is_renamed else reference.name
        if is_use:
            steps = tuple(step.name for step in reference.path)
            self.rewriting.paths[reference] = (self.move.field, *steps)
        if self.is_renamed:
            text = self.writer.member(name, self.move.field) if is_use else name
            self.rewriter.replace(reference, text, self.destination(reference.symbol))
        elif is_use:
            self.rewriter.insert(reference.end, self.writer.member("", self.move.field))

    def destination(self, symbol: Symbol) -> Renamed | Local:
        """Where a name leads: a parameter has another name, and what was handed over is held by a variable now."""
        routine = self.kind.routine
        if symbol is self.kind.symbol and routine is not None:
            return Local(routine.name, self.move.instance)
        return Renamed(self.move.instance)


def _by_hand(program: Program, script: Path, given: Given) -> list[Wrap]:
    fields = {kind.symbol.name: kind.resource.field for kind in resource_kinds(program.main)}
    variable, class_name = given["variable"], given["name"]
    instance = program.dialect.naming.member_name(words_of(class_name))
    return [Wrap(script, variable, class_name, fields.get(variable, ""), instance)]


MOVE = Description(
    name="wrap",
    place=6,
    summary=(
        "A thing of a library comes into a class of its own, as its one field.\n"
        "Refused where its name is bound again, or what is handed it is called otherwise too."
    ),
    term="Introduce Gateway",
    help="Make a class around a thing of a library that is called again and again.",
    parameters=(
        StepParameter("variable", Takes.ONE, "VARIABLE"),
        StepParameter("name", Takes.ONE, "CLASS"),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="con Database",
        before="""\
import sqlite3

con = sqlite3.connect(":memory:")


def prepare():
    con.execute("create table boats (name text)")
    con.commit()


def add(name):
    con.execute("insert into boats values (?)", (name,))
    con.commit()


prepare()
add("Heron")
print(con.execute("select * from boats").fetchall())
con.close()
""",
        after={
            "harbour.py": """\
import sqlite3


class Database:
    def __init__(self, connection):
        self.connection = connection


database = Database(sqlite3.connect(":memory:"))


def prepare():
    database.connection.execute("create table boats (name text)")
    database.connection.commit()


def add(name):
    database.connection.execute("insert into boats values (?)", (name,))
    database.connection.commit()


prepare()
add("Heron")
print(database.connection.execute("select * from boats").fetchall())
database.connection.close()
""",
        },
    ),
)
