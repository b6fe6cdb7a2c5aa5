"""From a design to the new texts: which moves, in which order, and the last checks."""

from __future__ import annotations

from collections.abc import Collection, Iterator
from contextlib import suppress
from copy import deepcopy
from dataclasses import dataclass, replace
from pathlib import Path

from aedifex.construction.places import free_name, lines_now, parameter_for, routine_at
from aedifex.construction.prepare import prepared, table_and_key
from aedifex.construction.result_check import check_result
from aedifex.design.document.check import check_base, check_constant, check_design, check_question, check_text
from aedifex.design.document.design import ClassPlan, ConstantPlan, Design, MethodPlan, TextPlan
from aedifex.design.drafting.naming import CONTAINER_WORDS, TABLE_WORDS, VALUE_WORDS
from aedifex.moves.adopt import Adopt, NewMethod
from aedifex.moves.base import Base
from aedifex.moves.carve import Carve
from aedifex.moves.fold import Fold, has_long_lines
from aedifex.moves.form import Form as FormMove
from aedifex.moves.form import NewField
from aedifex.moves.front import ANSWERING, name_behind
from aedifex.moves.house import new_homes
from aedifex.moves.inject import Inject
from aedifex.moves.kit.binding_check import perform_all
from aedifex.moves.kit.move import Move
from aedifex.moves.lift import Lift
from aedifex.moves.name_value import NameValue
from aedifex.moves.rename import Rename
from aedifex.moves.seal import Seal
from aedifex.moves.streams import Streams
from aedifex.moves.supply import Supply
from aedifex.moves.tell import Tell, asked_of
from aedifex.moves.text_out import TextOut
from aedifex.moves.tidy import Tidy, is_untidy
from aedifex.moves.unname import Unname, passing_names
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Form, Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Routine
from aedifex.program.structure.fronts import Fronts
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.state import Constants, is_state, maker_of
from aedifex.source.errors import RefusedError
from aedifex.survey.long_texts import long_texts
from aedifex.survey.numbers import Numbers
from aedifex.survey.words import words_of


@dataclass(frozen=True)
class Built:
    """A built program, and the moves that made it."""

    program: Program
    steps: tuple[Move, ...]


def build(program: Program, design: Design) -> Built:
    """Carry out a design on a program, in memory.

    Raises:
        DesignError: the design does not fit the program.
        RefusedError: a move cannot be done safely.
    """
    last = program.answers.get(_LastBuilt)
    if isinstance(last, _LastBuilt) and last.is_of(design):
        return last.built
    ready = prepared(program, design)
    work = _carried(ready, design)
    if in_vain := work.given_in_vain:
        with suppress(RefusedError):
            work = _carried(ready, design, in_vain)
    check_result(program, work.program)
    built = Built(work.program, tuple(work.steps))
    program.answers[_LastBuilt] = _LastBuilt(deepcopy(design), built)
    return built


def _carried(ready: Program, design: Design, withheld: Collection[str] = ()) -> _Build:
    wanted = _in_our_names(design, ready)
    check_design(wanted, ready.main)
    work = _Build(ready, wanted, withheld=withheld)
    try:
        work.carry()
    except RefusedError as error:
        raise error.moved(work.program.original_place) from None
    return work


@dataclass(frozen=True)
class _LastBuilt:
    """What was built last of a program: drafting tries a design out before it is shown and carried out."""

    design: Design
    built: Built

    def is_of(self, design: Design) -> bool:
        return replace(self.design, doubts=[], path=None) == replace(design, doubts=[], path=None)


def rehearse(program: Program, design: Design) -> list[MethodPlan]:
    """Carry out a design on a prepared program as far as its classes have all their members.

    Methods made of lines that cannot be carved are left out, and answered. Where all that is carved is run by the
    owner, the classes are what they would be without it, and need no rehearsal.

    Raises:
        DesignError: the design does not fit the program.
        RefusedError: a move cannot be done safely.
    """
    design = _in_our_names(design, program)
    check_design(design, program.main)
    work = _Build(program, design, is_lenient=True)
    is_owners = all(method.lines is None for plan in design.classes for method in plan.methods)
    starts = [statement.start for statement in MainCode.of(program.main).run[:1]]
    work.carve()
    if not is_owners or any(_stands_before(program, method, starts) for method in design.methods):
        work.give_members()
    return work.refused


def with_members(program: Program, design: Design) -> Program:
    """A prepared program with the classes of a design and all their members; the main code is where it was.

    Raises:
        DesignError: the design does not fit the program.
        RefusedError: a move cannot be done safely.
    """
    design = _in_our_names(design, program)
    work = _Build(program, design)
    work.make_classes()
    return work.program


def _stands_before(program: Program, method: MethodPlan, starts: list[int]) -> bool:
    """Whether lines stand in the set-up, on which the first values of fields may depend."""
    if method.lines is None or method.routine != MAIN or not starts:
        return False
    line = program.line_now(program.main.path, method.lines[0])
    return line is None or line < program.main.source.line_of(starts[0])


class _Build:
    def __init__(
        self, program: Program, design: Design, *, is_lenient: bool = False, withheld: Collection[str] = ()
    ) -> None:
        self.program = program
        self.design = design
        self.steps: list[Move] = []
        self.is_lenient = is_lenient
        self.refused: list[MethodPlan] = []
        self.withheld = withheld

    @property
    def path(self) -> Path:
        return self.program.main.path

    def do(self, *moves: Move) -> None:
        self.program = perform_all(self.program, moves)
        self.steps += moves

    def carry(self) -> None:
        self.make_classes()
        if self.design.is_lifted:
            self.do(Lift(self.path, self.design.owner))
            self.shorten_fields()
            self.call_as_fronts()
        if any(passing_names(self.program.main)):
            self.do(Unname(self.path))
        if self.design.streams:
            self.do(Streams(self.path, self.design.owner))
        files = {plan.name: plan.file for plan in [*self.design.all_classes, *self.design.data]}
        self.do(Seal(self.path, (*files, *(part.name for part in self.design.parts))))
        for base in self.design.bases:
            check_base(self.design, base, self.program.main)
            self.do(Base(self.path, base.name, tuple(base.children)))
            files[base.name] = base.file
        if self.design.owner_file and self.design.is_lifted:
            files[self.design.owner] = self.design.owner_file
        files = {name: file for name, file in files.items() if Path(file) != Path(self.path.name)}
        if files:
            self.do(new_homes(self.program.main, files))
        for text in self.design.texts:
            self.move_text(text)
        if is_untidy(self.program, self.path) and not is_untidy(self.program.origin, self.path):
            self.do(Tidy(self.path))
        self.do(*(Fold(path) for path in self.program.modules if has_long_lines(self.program, path)))

    def shorten_fields(self) -> None:
        """Fields that were parts of a table are called after their keys, where the table's name says nothing."""
        vague = {*TABLE_WORDS, *words_of(self.design.owner)}
        for variable, spelling in self.program.spellings.items():
            table, key = table_and_key(spelling)
            if vague.issuperset(words_of(table)):
                with suppress(RefusedError):
                    self.do(Rename(self.path, f"{self.design.owner}.{variable}", key))

    def call_as_fronts(self) -> None:
        """Methods to which functions that are found by their names hand on get these, where they say what is done."""
        for front in Fronts.of(self.program.main).found:
            behind = name_behind(front, self.program.main)
            callee = front.deeds[0].calls[0].callee
            if callee is None or not callee.path or callee.path[-1].name != behind or behind == ANSWERING:
                continue
            homes = [scope.name for scope in self.program.main.classes if behind in scope.symbols]
            if len(homes) == 1:
                with suppress(RefusedError):
                    self.do(Rename(self.path, f"{homes[0]}.{behind}", front.name))

    def make_classes(self) -> None:
        """The classes with their fields and methods; the main code still stands at the top level."""
        self.carve()
        self.give_members()

    def give_members(self) -> None:
        """The classes with their fields, and the routines that are theirs as methods."""
        self.do(*(_form(self.path, plan) for plan in self.design.classes))
        for constant in self.design.constants:
            self.name_value(constant)
        while moves := self.injections():
            self.do(*moves)
        self.adopt()
        self.supply()
        for plan in self.design.all_classes:
            for question in plan.questions:
                check_question(self.design, question, asked_of(self.program.main, plan.name), self.program.main)
                self.do(Tell(self.path, plan.name, question.asks, question.name))

    def move_text(self, text: TextPlan) -> None:
        """Move a long text into a file, wherever it stands now."""
        begins = [long.line for long in long_texts(self.program.origin.main)]
        check_text(self.design, text, begins, self.program.origin.main)
        place = self.program.place_now(self.path, text.begins)
        if place is not None and place.path is not None and place.line is not None:
            self.do(TextOut(place.path, place.line, text.file, text.name))

    def name_value(self, constant: ConstantPlan) -> None:
        """Give a number a name on those of its lines that are still there."""
        found = (self.program.line_now(self.path, line) for line in constant.lines)
        lines = tuple(line for line in found if line is not None)
        known = [n.text for n in Numbers.of(self.program.main).found if self.line_of(n.expression.start) in lines]
        check_constant(self.design, constant, known, self.program.main)
        self.do(NameValue(self.path, constant.value, constant.name, lines, constant.computed))

    def line_of(self, offset: int) -> int:
        return self.program.main.source.line_of(offset)

    def carve(self) -> None:
        """Make routines of all lines that become methods: the outer ones first, in the order of the text."""
        homes: list[tuple[MethodPlan, ClassPlan | None]] = [(method, None) for method in self.design.methods]
        homes += [(method, plan) for plan in self.design.classes for method in plan.methods]
        made: dict[int, MethodPlan] = {}
        ranges = [method.lines for method, _ in homes if method.lines is not None]
        for method, plan in sorted(homes, key=lambda home: _depth_and_line(home[0], ranges)):
            wish = method.name if plan is None else self.joined(method.name, plan.instance)
            try:
                made[id(method)] = self.carved(method, wish)
            except RefusedError:
                if not self.is_lenient:
                    raise
                self.refused.append(method)
        for plan in self.design.classes:
            plan.methods = [made[id(method)] for method in plan.methods if id(method) in made]

    def carved(self, method: MethodPlan, wish: str) -> MethodPlan:
        """A method of whole routines only: what is some lines of one becomes a routine first."""
        if method.lines is None:
            return method
        first, last = lines_now(self.program, method.lines)
        function = free_name(self.program.main, wish)
        owned = frozenset(field.variable for other in self.design.classes for field in other.fields)
        self.do(Carve(self.path, routine_at(self.program.main, first), first, last, function, owned, method.values))
        return MethodPlan(function, method.name, method.line)

    def joined(self, *names: str) -> str:
        return self.program.dialect.naming.joined(*names)

    def adopt(self) -> None:
        """Make methods; where a class of the script stands in the way, it is first given the objects that it uses."""
        adoptions = [self.adoption(plan) for plan in self.design.classes if plan.methods]
        try:
            self.do(*adoptions)
        except RefusedError:
            if not self.supply({plan.instance for plan in self.design.classes}):
                raise
            self.do(*adoptions)

    def supply(self, only: Collection[str] | None = None) -> bool:
        """Give the script's own classes what they use of what moves, where that can be done; or `only` some of that.

        What stays for their sake is given to them too, where it would stay in front of what comes first today. Answers
        whether anything was given.
        """
        refused: set[tuple[str, str]] = set()
        steps = len(self.steps)
        while True:
            supplies = (s for s in self.supplies() if only is None or s.variable in only)
            wanted = next((s for s in supplies if (s.class_name, s.variable) not in refused), None)
            if wanted is None:
                return len(self.steps) > steps
            try:
                self.do(wanted)
            except RefusedError:
                refused.add((wanted.class_name, wanted.variable))

    @property
    def given_in_vain(self) -> set[str]:
        """What the script's classes were given, and what stays a variable all the same: no object of a new class."""
        given = {step.variable for step in self.steps if isinstance(step, Supply)} if self.design.is_lifted else set()
        given -= {plan.instance for plan in self.design.classes}
        bound = {name: {r.form for r in s.bindings} for name, s in self.program.main.scope.symbols.items()}
        return {name for name in given if bound.get(name, set()) - {Form.IMPORT}}

    def supplies(self) -> Iterator[Supply]:
        """What the script's own classes use of what moves, or should: its things, and then its functions."""
        module = self.program.main
        main, effects = MainCode.of(module), Effects.of(module)
        made = {plan.name for plan in self.design.all_classes}
        pinned = main.pinned.symbols
        state = {*main.fields, *(pinned if main.overtaking else (s for s in pinned if maker_of(s) in made))}
        moving = {symbol.name for symbol in state}
        moving |= {
            r.name for r in effects.transitive if r is not None and not state.isdisjoint(effects.transitive[r].touches)
        }
        moving |= {plan.instance for plan in self.design.classes}
        moving |= {method.routine for plan in self.design.classes for method in plan.methods}
        for statement in module.block.statements:
            if statement.kind is not Kind.CLASS or statement.defines is None or statement.defines.name in made:
                continue
            used = [r.symbol for r in module.references_within(statement.span) if r.symbol.is_module_level]
            bound = [s for s in used if s.name in moving and Form.CLASS not in s.forms and s.name not in self.withheld]
            for name in dict.fromkeys(symbol.name for symbol in sorted(bound, key=_is_function)):
                yield Supply(self.path, statement.defines.name, name)

    def adoption(self, plan: ClassPlan) -> Adopt:
        methods = tuple(NewMethod(method.routine, method.name) for method in plan.methods)
        return Adopt(self.path, plan.name, plan.instance, methods)

    def injections(self) -> list[Inject]:
        """What is to be passed next to routines that become methods; of those that call one another only the first."""
        module = self.program.main
        constants, effects = Constants.of(module), Effects.of(module)
        passed = {constant.name for constant in self.design.constants if constant.passed}
        found: list[Inject] = []
        busy: set[Routine] = set()
        for plan in self.design.classes:
            for method in plan.methods:
                routine = module.function(method.routine)
                reads = _foreign_reads(routine, plan, constants, passed) if routine is not None else iter(())
                reference = next(reads, None)
                if routine is None or reference is None:
                    continue
                reached = effects.reached_from([routine])
                if routine not in busy and reached.isdisjoint(busy):
                    found.append(self.injection(module, routine, reference))
                    busy |= {other for other in module.routines if routine in effects.reached_from([other])} | reached
        return found

    def injection(self, module: Module, routine: Routine, reference: Reference) -> Inject:
        variable = reference.symbol.name
        owner = next((c for c in self.design.classes if c.instance == variable), None)
        fields = {f.name for f in owner.fields} if owner is not None else set()
        attribute = reference.path[0].name if reference.path and reference.path[0].name in fields else None
        passed = next((c.passed for c in self.design.constants if c.name == variable), "")
        is_whole = attribute is None or attribute in CONTAINER_WORDS | VALUE_WORDS
        spelled = module.dialect.naming.as_field(variable)
        name = passed or (variable if is_whole else self.joined(spelled, attribute or ""))
        parameter = parameter_for(module, routine, reference.symbol, name)
        return Inject(module.path, routine.qualified_name, variable, attribute, parameter)


def _is_function(symbol: Symbol) -> bool:
    return Form.ROUTINE in symbol.forms


def _depth_and_line(method: MethodPlan, ranges: Collection[tuple[int, int]]) -> tuple[int, int]:
    """In how many of some ranges the lines of a method lie, and where they begin; zeroes for a whole routine."""
    if method.lines is None:
        return 0, 0
    first, last = method.lines
    return sum(begin <= first and last <= end for begin, end in ranges), first


def _in_our_names(design: Design, program: Program) -> Design:
    """The design with the parts of tables under the names of the variables that they have become."""
    names = {spelling: name for name, spelling in program.spellings.items()}
    classes = [
        replace(
            plan,
            fields=[replace(f, variable=names.get(_plain(f.variable), f.variable)) for f in plan.fields],
            methods=list(plan.methods),
        )
        for plan in design.classes
    ]
    return replace(design, classes=classes)


def _plain(spelling: str) -> str:
    """A part of a table as `spellings` has it."""
    return spelling.replace("'", '"').replace(" ", "")


def _form(path: Path, plan: ClassPlan) -> FormMove:
    fields = tuple(NewField(f.variable, f.name, f.start == "argument") for f in plan.fields)
    return FormMove(path, plan.name, plan.instance, fields)


def _foreign_reads(
    routine: Routine, plan: ClassPlan, constants: Constants, passed: Collection[str]
) -> Iterator[Reference]:
    for scope in routine.scope.walk():
        for use in scope.uses:
            symbol = use.symbol
            is_settled = constants.settles(symbol) and symbol.name not in passed
            if not symbol.is_module_level or symbol.name == plan.instance or is_settled:
                continue
            if is_state(symbol) and use.form is not Form.DECLARATION:
                yield use
