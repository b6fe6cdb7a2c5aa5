"""sessions: what opens something of a library, asks it once and closes it stands once, in a class for that."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Statement
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.sessions import Session, session_names, sessions
from aedifex.survey.words import words_of


@dataclass(frozen=True)
class Sessions:
    """Make a class with a method for each sort of such runs, in order, and `instance`, one object of it.

    Its `field` is what is opened.
    """

    name: ClassVar[str] = "sessions"

    path: Path
    class_name: str
    instance: str
    field: str
    methods: tuple[str, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: nothing is opened, asked and closed in several functions.
        """
        module = module_of(program, self.path)
        groups = sessions(module)
        if not groups:
            raise RefusedError(f"nothing in {module.path.name} is opened, asked and closed again in several functions")
        return _Gathering(self, module, groups).plan()


class _Gathering(Planner):
    def __init__(self, move: Sessions, module: Module, groups: Sequence[Sequence[Session]]) -> None:
        super().__init__(module)
        self.move = move
        self.groups = groups

    @cached_property
    def first(self) -> Statement:
        """The first definition of the script."""
        return next(s for s in self.module.block.statements if s.kind in (Kind.ROUTINE, Kind.CLASS))

    def find_objections(self) -> None:
        one = self.groups[0][0]
        at = one.run[0].start
        if len(self.move.methods) != len(self.groups) or len(set(self.move.methods)) != len(self.groups):
            self.object(at, f"there are {len(self.groups)} sorts of such runs", "Name a method for each of them.")
        for name in (self.move.class_name, self.move.instance):
            if name in self.module.names_in_use:
                self.object(at, f"the name `{name}` is in use already", "Choose another name.")
        for reference in self.module.references_within(one.opened):
            statement = next((b.statement for b in reference.symbol.bindings), None)
            if statement is None or statement.start > self.first.start:
                self.object(reference.start, f"`{reference.name}` is set below the first function", "Set it above.")

    def write(self) -> None:
        for name, group in zip(self.move.methods, self.groups, strict=True):
            for session in group:
                self.write_call(session, name)
        self.write_class()

    def write_call(self, session: Session, name: str) -> None:
        """What is given stays where it is; all around it becomes the call."""
        run, path = session.run, self.module.path
        answer = [session.answer.name] if session.answer is not None else []
        call = self.writer.call(self.writer.member(self.move.instance, name), [])
        changes = self.rewriting.changes
        changes.replace(path, Span(run[0].start, session.given.start), self.writer.result(answer, call[:-1]))
        changes.replace(path, Span(session.given.end, run[-1].end), call[-1])
        references = self.module.references_within(Span(run[0].start, run[-1].end))
        self.rewriter.drop(r for r in references if not session.given.holds(r.span))

    def write_class(self) -> None:
        unit, field = self.layout.indent, self.move.field
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        constructor = self.writer.constructor_frame([field], unit, unit)
        setting = self.writer.assignment(self.writer.member(self.writer.receiver, field), [field])
        pieces: list[Piece] = [frame.head, constructor.head, unit * 2, *setting, constructor.tail]
        for name, group in zip(self.move.methods, self.groups, strict=True):
            pieces += ["\n", *self.method(name, group)]
        opened = self.module.source.slice(self.groups[0][0].opened)
        made = self.writer.variable(self.move.instance, [self.writer.call(self.move.class_name, [opened])])
        at = self.layout.lines(self.first).start
        gap = self.layout.gap
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, frame.tail, gap, *made, gap)

    def method(self, name: str, group: Sequence[Session]) -> list[Piece]:
        """The run of the first, as a method that is given what differs; what is opened is closed after an error too."""
        unit, session = self.layout.indent, group[0]
        facts = session.facts
        most = max(one.arguments for one in group)
        frame = self.writer.method_frame(name, facts.parameters[:most], unit, unit)
        given = ", ".join(facts.arguments[:most])
        first, *lines, last = (self.text(s.span, session, given) for s in session.run)
        if session.answer is not None:
            value = self.last_value(session)
            if value is not None:
                lines.pop()
            answer = self.text(value, session, given) if value is not None else session.answer.name
            lines.append("".join(map(str, self.writer.returning([answer]))))
        body = self.writer.ensuring(lines, last, unit * 2, unit)
        return [frame.head, f"{unit * 2}{first}\n", body, frame.tail]

    def last_value(self, session: Session) -> Span | None:
        """The answer's value, where that is all that is worked out before the end."""
        assignment = session.run[-2].assignment
        pair = assignment.pairs[0] if assignment is not None and len(assignment.pairs) == 1 else None
        is_answer = pair is not None and pair.target.symbol is session.answer
        return Span(pair.value.start, pair.value.end) if pair is not None and is_answer else None

    def text(self, part: Span, session: Session, arguments: str) -> str:
        """A part of a run with what it is given in the place of what stood there."""
        opened = self.writer.member(self.writer.receiver, self.move.field)
        return self.module.source.slice_with(part, {session.opened: opened, session.given: arguments})


def _by_hand(program: Program, script: Path, given: Given) -> list[Sessions]:
    class_name = given["name"]
    instance = program.dialect.naming.member_name(words_of(class_name))
    groups = sessions(program.main)
    field = groups[0][0].facts.field if groups else ""
    return [Sessions(script, class_name, instance, field, session_names(groups))]


MOVE = Description(
    name="sessions",
    place=6,
    summary=(
        "What functions each open, ask once and close again is a method of one class.\n"
        "Refused where more is done in between, or what is asked could fail too early."
    ),
    term="Extract Repository",
    help="Make a class of what functions open, ask once and close again.",
    parameters=(StepParameter("name", Takes.ONE, "CLASS"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="Database",
        before="""\
import sqlite3

FILE = "boats.db"


def prepare():
    con = sqlite3.connect(FILE)
    con.execute("create table if not exists boats (name text, berth integer)")
    con.commit()
    con.close()


def add(name, berth):
    con = sqlite3.connect(FILE)
    con.execute("insert into boats values (?, ?)", (name, berth))
    con.commit()
    con.close()


def boats():
    con = sqlite3.connect(FILE)
    found = con.execute("select * from boats").fetchall()
    con.close()
    return found


prepare()
add("Heron", 3)
print(len(boats()) > 0)
""",
        after={
            "harbour.py": """\
import sqlite3

FILE = "boats.db"


class Database:
    def __init__(self, file):
        self.file = file

    def run(self, query, values=()):
        con = sqlite3.connect(self.file)
        try:
            con.execute(query, values)
            con.commit()
        finally:
            con.close()

    def rows(self, query):
        con = sqlite3.connect(self.file)
        try:
            return con.execute(query).fetchall()
        finally:
            con.close()


database = Database(FILE)


def prepare():
    database.run("create table if not exists boats (name text, berth integer)")


def add(name, berth):
    database.run("insert into boats values (?, ?)", (name, berth))


def boats():
    found = database.rows("select * from boats")
    return found


prepare()
add("Heron", 3)
print(len(boats()) > 0)
""",
        },
    ),
)
