"""A whole proposal: the drafted classes, and what can be carved out of long code for them."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from contextlib import suppress
from copy import deepcopy
from dataclasses import dataclass, replace

from aedifex.construction.build import build, rehearse, with_members
from aedifex.construction.data import Gathered, find_data
from aedifex.construction.fallbacks import buildable, in_script
from aedifex.construction.kinds import Found, find_kinds
from aedifex.construction.parts import Divided, find_parts
from aedifex.construction.prepare import (
    loosened,
    opened,
    why_not_fronted,
    why_not_joined,
    why_not_registered,
    why_not_unfolded,
    with_fronts,
)
from aedifex.construction.route_doubts import doubled_routes, failing_requests, late_routes
from aedifex.design.dividing.candidate import Candidate
from aedifex.design.dividing.method_candidates import candidates
from aedifex.design.document.design import GRAINS, ClassPlan, ConstantPlan, Design, MethodPlan, PartPlan, QuestionPlan
from aedifex.design.drafting.apart import SilentClass, draft_apart, is_named_by_its_fields
from aedifex.design.drafting.bases import bases_of, is_guessed
from aedifex.design.drafting.constants import constants_of
from aedifex.design.drafting.draft import draft, without_owner
from aedifex.design.drafting.kinds import object_plan
from aedifex.design.drafting.naming import Names
from aedifex.design.drafting.outcome import measures_after
from aedifex.design.drafting.questions import questions_of
from aedifex.design.drafting.texts import texts_of
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.parting import Part
from aedifex.moves.part import parts_of
from aedifex.moves.prefix import prefix_of, with_prefix
from aedifex.moves.tell import Tell
from aedifex.program.model.program import Program
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.state import is_own_object, state
from aedifex.source.errors import AedifexError, RefusedError
from aedifex.survey.facts import measures_before
from aedifex.survey.measures import Measures
from aedifex.survey.numbers import Number
from aedifex.survey.words import nouns_of

_MOST_TRIED = 60
_UNDIVIDED = "one"
_FOR_ALL = "what others find by its name shares all variables"


def propose(program: Program, grain: str = "usual", without: Collection[frozenset[str]] = ()) -> Design:
    """Draft a design for a program: the kinds that occur several times, and then what is left.

    Each kind, and each block that could become a method, is built on trial, and kept if that works; kinds `without`
    which it is wanted are named by all that they are made of, as `made_of` tells it.

    Raises:
        RefusedError: there is no state that could be gathered, or nothing of it can be built.
    """
    known = opened(program)
    ready, prefix = _with_prefix(known)
    wish = _Wish(grain, without)
    design = _fronted(ready, wish) or _divided_and_proposed(ready, wish)
    design.prefix = prefix
    design.doubts = [*doubled_routes(known), *late_routes(known), *design.doubts]
    return design


@dataclass(frozen=True)
class _Wish:
    """What a design is to be like: its grain, kinds that it is to leave, and which state the owner keeps, or all."""

    grain: str
    without: Collection[frozenset[str]] = ()
    owner_keeps: Collection[str] = ()
    owner_keeps_all: bool = False

    @property
    def is_divided(self) -> bool:
        """Whether there may be classes of several sorts."""
        return GRAINS[self.grain] is not None

    @property
    def draft_grain(self) -> str:
        """The grain in which what is no kind is divided."""
        return _UNDIVIDED if self.owner_keeps_all else self.grain


def _fronted(ready: Program, wish: _Wish) -> Design | None:
    """A design for the program with its functions behind others that a library finds.

    None where there would be no owner. Where he would have no state of his own the other classes do without him, and
    without fronts; where that cannot be, he keeps what of them is least of one thing, or all.
    """
    fronted = with_fronts(ready)
    if fronted is ready:
        return None
    with suppress(RefusedError):
        design = _divided_and_proposed(fronted, wish)
        if design.is_lifted and not _keeps_state(fronted, design):
            plain = _tried(ready, wish)
            if plain is not None and (plain.is_lifted or not MainCode.of(fronted.main).run):
                return plain
            if len(design.classes) > 1:
                loosest = min(design.classes, key=_held_by_its_name)
                design = _divided_and_proposed(fronted, replace(wish, owner_keeps=[f.variable for f in loosest.fields]))
            if not _keeps_state(fronted, design):
                design = _divided_and_proposed(fronted, replace(wish, owner_keeps_all=True))
                design.owner_why = design.owner_why and _FOR_ALL
        design.has_fronts = True
        return design if design.is_lifted and _keeps_state(fronted, design) else None
    return None


def _held_by_its_name(plan: ClassPlan) -> float:
    """The share of a class's fields, from 0 to 1, that were called by its name."""
    noun = nouns_of(plan.name)[-1]
    return sum(noun in nouns_of(field.variable) for field in plan.fields) / len(plan.fields)


def _tried(ready: Program, wish: _Wish) -> Design | None:
    """A design for the program, if it can be given classes."""
    with suppress(RefusedError):
        return _divided_and_proposed(ready, wish)
    return None


def _keeps_state(program: Program, design: Design) -> bool:
    """Whether a design leaves variables of the script to its owner, beside the objects of other classes."""
    kept = [symbol for symbol in state(program.main) if symbol.name in design.keeps]
    return not all(is_own_object(program.main, symbol) for symbol in kept)


def _with_prefix(ready: Program) -> tuple[Program, str]:
    """The program with a part of its application for routes that begin alike, and that beginning, where it can be."""
    prefix = prefix_of(ready)
    if prefix:
        with suppress(RefusedError):
            return with_prefix(ready, prefix), prefix
    return ready, ""


def _divided_and_proposed(ready: Program, wish: _Wish) -> Design:
    divided = find_parts(ready) if wish.is_divided else Divided(ready)
    if divided.plans:
        try:
            return _with_kinds_found(divided, wish)
        except RefusedError:
            divided = Divided(ready)
    return _with_kinds_found(divided, wish)


def _with_kinds_found(divided: Divided, wish: _Wish) -> Design:
    ready, parts = divided.program, divided.plans
    found = find_kinds(ready, wish.without) if wish.is_divided else Found(ready)
    if found.plans:
        try:
            return _proposed(found, wish, parts)
        except RefusedError as error:
            found = Found(ready, doubts=[f"no kinds of things are made classes: {error.reason}", *found.doubts])
    return _proposed(found, wish, parts)


def _proposed(found: Found, wish: _Wish, parts: list[PartPlan]) -> Design:
    gathered = find_data(found.program) if wish.is_divided else Gathered(found.program)
    if gathered.plans:
        with suppress(RefusedError):
            return _with_all_found(found, wish, parts, gathered)
    return _with_all_found(found, wish, parts, Gathered(found.program))


def _with_all_found(found: Found, wish: _Wish, parts: list[PartPlan], gathered: Gathered) -> Design:
    program, is_any_found = loosened(gathered.program), bool(found.plans or parts or gathered.plans)
    try:
        drafted = draft(program, wish.draft_grain, [*wish.owner_keeps, *(plan.variable for plan in gathered.plans)])
    except RefusedError as error:
        is_any_made = len(program.main.classes) > len(program.origin.main.classes)
        if not is_any_found and not is_any_made:
            reasons = (why_not_joined, why_not_unfolded, why_not_registered, why_not_fronted)
            raise next(filter(None, (why(program) for why in reasons)), error) from None
        drafted = without_owner(program)
    drafted.kinds, drafted.parts, drafted.data = found.plans, parts, gathered.plans
    if is_any_found and drafted.is_lifted:
        drafted.owner_why = ""
    drafted.doubts += found.doubts
    design = _with_blocks(program, _with_sure_files(program, drafted))
    if wish.is_divided and drafted.is_lifted:
        design = _with_talk_apart(program, design)
    design = _with_streams(program, _with_members_told(program, design))
    design = _with_bases(program, _with_texts(program, design))
    if not design.streams:  # they are given only where that could be built
        design = buildable(program, design)
    is_apart = design.owner != drafted.owner  # that what computes is one class says nothing against it
    misgivings = [] if is_apart else _misgivings(program, design)
    design.doubts = [*misgivings, *failing_requests(design), *design.doubts, *_several_jobs(program)]
    return design


def _misgivings(program: Program, design: Design) -> list[str]:
    """What speaks against the design as a whole: figures that are worse than before, classes without behaviour."""
    found: list[str] = []
    before, after = measures_before(program.main), measures_after(program, design, build(program, design).program)
    if _is_worse(before, after):
        found.append("its classes hold together less well than the script did; `--grain coarse` makes fewer")
    found += [
        f"{plan.name} has fields only: no function is about it alone" for plan in design.classes if not plan.methods
    ]
    return found


def _is_worse(before: Measures, after: Measures) -> bool:
    if None in (before.tight, before.lack, after.tight, after.lack):
        return False
    return (after.tight or 0) < (before.tight or 0) and (after.lack or 0) > (before.lack or 0)


def _with_sure_files(program: Program, design: Design) -> Design:
    """The design with its classes in the script's file, where other files would have several names."""
    script = program.main
    files = script.dialect.files
    if files.is_part_of_file(script) or not files.takes_class_files(program):
        return in_script(design, script.path.name)
    if not (design.classes or design.data) or script.dialect.files.is_found_by_one_name(script):
        return design
    made = in_script(design, script.path.name)
    made.doubts.append(f"the classes stay in {script.path.name}: in a package, it may be started in more than one way")
    return made


def _several_jobs(program: Program) -> list[str]:
    """The classes that the script has already and that do several jobs."""
    found: list[str] = []
    for scope in program.main.classes:
        if scope.name in program.parts:
            continue
        with suppress(RefusedError):
            moves = parts_of(program, scope.name)
            parts = ", ".join(move.new_class for move in moves if isinstance(move, Part))
            found.append(f"{scope.name} does other jobs too: `aedifex step part` would make {parts} of them")
    return found


def _with_talk_apart(program: Program, design: Design) -> Design:
    """The design, or one with what is silent in one class, where no class of it is more than a guess.

    The class gets the fields that its methods have to do with. All that talks must be the owner's.
    """
    living = [plan for plan in design.classes if plan.methods]
    if len(living) > 1 or any(map(is_named_by_its_fields, living)):
        return design
    apart = draft_apart(program, design)
    if apart is None:
        return design
    silent = apart.classes[0].name
    apart = _with_blocks(program, _with_sure_files(program, apart), silent)
    made = _with_its_members(program, apart)
    if made is None:
        return design
    for field in SilentClass(made, apart.classes[0]).idle:
        apart.classes[0].fields.remove(field)
        apart.keeps.append(field.variable)
    made = _with_its_members(program, apart) if apart.classes[0].fields else None
    if made is None or not SilentClass(made, apart.classes[0]).is_worth_it or not _with_streams(program, apart).streams:
        return design
    apart.doubts += design.doubts
    return apart


def _with_blocks(program: Program, design: Design, silent: str = "") -> Design:
    """The design with the blocks that can be carved: all at once but for those refused, or else one by one.

    One of its classes may be `silent`.
    """
    wanted = candidates(program, design, silent)[:_MOST_TRIED]
    while True:
        at_once = _with_all(design, wanted)
        if at_once is design:
            return design
        refused = _refused(program, at_once)
        if refused == []:
            return at_once
        if refused is None:
            break
        lines = {method.lines for method in refused}
        wanted = [candidate for candidate in wanted if (candidate.first, candidate.last) not in lines]
    taken: list[Candidate] = []
    for candidate in wanted:
        trial = _with(design, candidate, taken)
        if trial is not None and _refused(program, trial) == []:
            design = trial
            taken.append(candidate)
    return design


def _with_members_told(program: Program, design: Design) -> Design:
    """The design with names for numbers, and with what its classes and those of the script can answer themselves."""
    made = _with_its_members(program, design)
    if made is None:
        return design
    design = deepcopy(design)
    for constant in _constants(made):
        design.constants.append(constant)
    if design.constants:
        together = _with_its_members(program, design)
        made = together if together is not None else _with_some_constants(program, design, made)
    return _with_questions(made, design)


def _constants(made: Program) -> list[ConstantPlan]:
    def line_of(number: Number) -> int | None:
        return made.original_place(made.main.source.place(number.expression.start)).line

    return constants_of(made.main, line_of)


def _with_some_constants(program: Program, design: Design, made: Program) -> Program:
    """The program with those constants of a design that can be made; the others leave it."""
    wanted, design.constants = design.constants, []
    for constant in wanted:
        design.constants.append(constant)
        trial = _with_its_members(program, design)
        if trial is None:
            design.constants.pop()
        else:
            made = trial
    return made


def _with_its_members(program: Program, design: Design) -> Program | None:
    """The program with the classes of a design and all that is theirs; None where they cannot be made."""
    try:
        return with_members(program, design)
    except AedifexError:
        return None


def _with_texts(program: Program, design: Design) -> Design:
    """The design with its long texts in files, where that could be built."""
    texts = texts_of(program.origin.main)
    if not texts:
        return design
    made = deepcopy(design)
    made.texts = texts
    return made if _can_be_built(program, made) else design


def _with_bases(program: Program, design: Design) -> Design:
    """The design with classes from which others come that have something in common, where that could be built."""
    made = _with_its_members(program, design) if len(design.kinds) > 1 else None
    for base in bases_of(made, design) if made is not None else ():
        trial = deepcopy(design)
        trial.bases.append(base)
        if is_guessed(base):
            trial.doubts.append(
                f"{base.name} may need a better name: it says what {base.children[0]} and the others have"
            )
        if _can_be_built(program, trial):
            design = trial
    return design


def _with_questions(made: Program, design: Design) -> Design:
    """The design with what the classes of a program that has them can answer themselves; each is tried out."""
    for name in [scope.name for scope in made.main.classes]:
        plan = next((p for p in design.all_classes if p.name == name), None)
        scope = next(scope for scope in made.main.classes if scope.name == name)
        found: list[QuestionPlan] = []
        for question in questions_of(made.main, scope):
            with suppress(RefusedError):
                made = perform(made, Tell(made.main.path, name, question.asks, question.name))
                found.append(question)
        if found and plan is None:
            plan = object_plan(made.main, name, Names(made.main))
            design.kinds.append(plan)
        if plan is not None:
            plan.questions = found
    return design


def _with_streams(program: Program, design: Design) -> Design:
    """The design with a reader and a writer for the owner, where the program reads typed lines and that can be done."""
    if program.enclosed is not None or program.dialect.library.asks not in program.main.outside.symbols:
        return design
    made = deepcopy(design)
    made.streams = True
    return made if _can_be_built(program, made) else design


def _with_all(design: Design, wanted: Sequence[Candidate]) -> Design:
    taken: list[Candidate] = []
    for candidate in wanted:
        trial = _with(design, candidate, taken)
        if trial is not None:
            design = trial
            taken.append(candidate)
    return design


def _with(design: Design, candidate: Candidate, taken: Sequence[Candidate]) -> Design | None:
    """The design with one more method; None where that is not possible, or not worth the while."""
    if any(candidate.lies_across(other) or candidate.is_same(other) for other in taken):
        return None
    holders = [other for other in taken if other.holds(candidate)]
    if candidate.limit and ((candidate.is_outermost and holders) or _lines_left(candidate, taken) <= candidate.limit):
        return None
    made = deepcopy(design)
    home: ClassPlan | Design | None = made
    if candidate.plan is not None:
        home = next((plan for plan in made.classes if plan.name == candidate.plan.name), None)
    if home is None:
        return None
    names = {method.name for method in home.methods}
    if isinstance(home, ClassPlan):
        names |= {field.name for field in home.fields}
    name = next((name for name in candidate.names if name not in names), None)
    if name is None:
        return None
    lines = (candidate.first, candidate.last)
    home.methods.append(MethodPlan(candidate.routine, name, lines=lines, values=candidate.values))
    return made


def _lines_left(candidate: Candidate, taken: Sequence[Candidate]) -> int:
    """How many lines are left of what a candidate is to shorten when a call stands for each outermost block in it.

    Where it lies in a block that is taken already, that is what it shortens.
    """
    first, last = candidate.around
    holders = [c for c in taken if c.holds(candidate) and first <= c.first and c.last <= last]
    if holders:
        smallest = min(holders, key=lambda c: c.last - c.first)
        first, last = smallest.first, smallest.last
    inside = [c for c in taken if first <= c.first and c.last <= last and (c.first, c.last) != (first, last)]
    outermost = [c for c in inside if not any(other.holds(c) for other in inside)]
    return last - first + 1 - sum(c.last - c.first for c in outermost)


def _refused(program: Program, design: Design) -> list[MethodPlan] | None:
    """The methods of a design that cannot be carved; None where something else stands in its way."""
    try:
        return rehearse(program, design)
    except AedifexError:
        return None


def _can_be_built(program: Program, design: Design) -> bool:
    try:
        build(program, design)
    except AedifexError:
        return False
    return True
