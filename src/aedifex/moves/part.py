"""part: a class that does several jobs is divided: by the sections of its text, or by what is used together."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from pathlib import Path

from aedifex.design.drafting.jobs import Job, jobs_of
from aedifex.moves.carve import Carve
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import Move, class_of
from aedifex.moves.kit.parting import Part, PartMember
from aedifex.moves.kit.passed_fields import PassedFields
from aedifex.program.analysis.members import Members, Mentions
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Statement
from aedifex.source.errors import RefusedError, UsageError

_FEWEST_STATEMENTS = 2


def parts_of(program: Program, class_name: str) -> list[Move]:
    """The moves, one after the other, that give each job of a class a class of its own.

    Where a method has lines of several jobs, those of one may be carved out of it first.

    Raises:
        RefusedError: there is no such class, or it has no job that could stand on its own.
    """
    found: list[Move] = []
    refused: list[RefusedError] = []
    for job in list(jobs_of(_members(program, class_name))):
        divider = _Divider(program, class_name, job)
        try:
            after = divider.carry()
        except RefusedError as error:
            refused.append(error)
        else:
            program = after
            found += divider.moves
    if not found:
        why = refused[0] if refused else RefusedError(f"the members of {class_name} all do one job")
        raise RefusedError(why.reason, why.place, "Name the members that are to go, and --into their class.")
    return found


def _members(program: Program, class_name: str) -> Members:
    _, scope = class_of(program.main, class_name)
    return Members(Mentions.of(program), program.main, scope)


class _Divider:
    """Gives one job a class, with as many of its methods as can go."""

    def __init__(self, program: Program, class_name: str, job: Job) -> None:
        self.program = program
        self.class_name = class_name
        self.job = job
        self.names = dict(job.members)
        self.moves: list[Move] = []

    @property
    def members(self) -> Members:
        return _members(self.program, self.class_name)

    def carry(self) -> Program:
        """The program with the job's class.

        Raises:
            RefusedError: it cannot be made, or would have no behaviour.
        """
        while (unfit := next(self.unfit(), None)) is not None:
            self.carve_out_of(unfit)
            del self.names[unfit.name]
        left = {function.name for function in self.members.functions} & self.names.keys()
        if not left:
            raise RefusedError(f"no method of {self.class_name} is about {self.job.instance} alone")
        members = tuple(PartMember(old, new) for old, new in self.names.items())
        self.do(Part(self.program.main.path, self.class_name, self.job.class_name, self.job.instance, members))
        return self.program

    def do(self, move: Move) -> None:
        self.program = perform(self.program, move)
        self.moves.append(move)

    def unfit(self) -> Iterator[Function]:
        """The methods that cannot go as they are: they need what stays, or are called by what goes without it.

        First come those that are so by what they name themselves, for the others may go without them.
        """
        members = self.members
        passed = PassedFields(members, self.names)
        going = [function for function in members.functions if function.name in self.names]
        yield from (function for function in going if any(map(passed.why_not, passed.reads(function))))
        for function in going:
            inside = [m.reference.symbol.scope.routine for m in members.mentions(function.name) if m.is_inside]
            is_called = any(routine is not None and routine.name in self.names for routine in inside)
            if any(passed.objections(function)) or (is_called and passed.of(function)):
                yield function

    def carve_out_of(self, function: Function) -> None:
        """Make a method of the lines that are about the job, if there are any worth it."""
        run = self.best_run(function)
        naming, lines_of = self.program.dialect.naming, self.program.main.source.lines_of
        name = naming.joined(function.name, self.job.instance)
        if len(run) < _FEWEST_STATEMENTS or len(run) == len(function.body.statements):
            return
        first, last = lines_of(run[0].span)[0], lines_of(run[-1].span)[1]
        carve = Carve(self.program.main.path, function.qualified_name, first, last, name)
        try:
            after = perform(self.program, carve)
        except RefusedError:
            return
        names = {old: new for old, new in self.names.items() if old != function.name}
        trial = _Divider(after, self.class_name, replace(self.job, members={**names, name: name}))
        if all(unfit.name != name for unfit in trial.unfit()):
            self.program = after
            self.moves.append(carve)
            self.names[name] = self.names[function.name]

    def best_run(self, function: Function) -> list[Statement]:
        """The longest row of statements of a method that are about the job and name nothing else that must stay."""
        passed = PassedFields(self.members, self.names)
        best: list[Statement] = []
        run: list[Statement] = []
        for statement in function.body.statements:
            own = [r for s in statement.walk() for r in s.references if r.symbol is function.receiver]
            is_about = any(r.path and r.path[0].name in self.names for r in own)
            may_go = all((r.path and r.path[0].name in self.names) or not passed.why_not(r) for r in own)
            may_leave = any(inner.leaves for inner in statement.walk())
            run = [*run, statement] if is_about and may_go and not may_leave else []
            best = max(best, run, key=len)
        return best


def _by_hand(program: Program, script: Path, given: Given) -> list[Move]:
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
