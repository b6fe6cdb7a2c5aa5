"""Kinds of things that can become classes: found and tried out for a draft."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, field, replace

from aedifex.construction.kind_building import WITH_THEIR_METHODS
from aedifex.construction.kind_classes import class_made, merged, with_kind
from aedifex.construction.kind_methods import (
    tried,
    with_answering_methods,
    with_branch_methods,
    with_carved_methods,
)
from aedifex.construction.resource_methods import with_resource_methods
from aedifex.design.document.design import FieldPlan, KindPlan, MethodPlan
from aedifex.design.drafting.bundle_plans import bundle_plan, is_unnamed
from aedifex.design.drafting.column_plans import column_plan
from aedifex.design.drafting.kinds import (
    equipped_plan,
    list_plan,
    object_plan,
    record_plan,
    resource_plan,
    session_plan,
    single_plan,
    twin_plan,
)
from aedifex.design.drafting.naming import Names
from aedifex.design.drafting.object_methods import method_plans
from aedifex.design.drafting.thing_words import BARE_NOUN
from aedifex.moves.collect import Collect
from aedifex.moves.entrust import Entrust
from aedifex.moves.hold import Hold
from aedifex.moves.kit.binding_check import attempted
from aedifex.moves.kit.move import Move
from aedifex.moves.label import Label
from aedifex.moves.records import record_fields
from aedifex.program.model.names import Scope
from aedifex.program.model.program import Program
from aedifex.program.structure.obstacles import Obstacle
from aedifex.program.structure.shared_modules import replaceable
from aedifex.source.errors import Place, RefusedError
from aedifex.survey.kinds.bundles import Bundle, bundles
from aedifex.survey.kinds.columns import ColumnKind, column_kinds
from aedifex.survey.kinds.entrusted import entrusted
from aedifex.survey.kinds.hand_made import HandMadeClasses
from aedifex.survey.kinds.handed_lists import ListKind, list_kinds
from aedifex.survey.kinds.held import HeldKind, held_kinds
from aedifex.survey.kinds.lone_objects import LoneObjects
from aedifex.survey.kinds.records import RecordKind, kind_held_by, record_kinds
from aedifex.survey.kinds.resources import ResourceKind, resource_kinds
from aedifex.survey.kinds.row_names import row_names
from aedifex.survey.kinds.rows import RowKind, row_kinds
from aedifex.survey.kinds.sessions import Session, sessions
from aedifex.survey.kinds.set_ups import SetUpKind, SetUps
from aedifex.survey.kinds.single import single_kinds
from aedifex.survey.kinds.twins import TwinKind, twin_kinds
from aedifex.survey.lookups import lists_looked_in

_MOST_TOLD = 3
_MOST_NAMED = 4
_MOST_CARVED = 12
_FEWEST_OF_RESOURCE = 3
_FEWEST_OF_BUNDLE = 2
_FEWEST_OF_LISTS = 2
_UNNAMED = "value"
_PAIR = 2
_NAMELESS_PLACES = "nothing in the script says what stands at most of their places"
_LISTED = frozenset({"columns", "records", "rows"})


@dataclass
class Found:
    """The kinds of a program: their plans, the program with classes made of them, and what was doubtful."""

    program: Program
    plans: list[KindPlan] = field(default_factory=list)
    doubts: list[str] = field(default_factory=list)


_Kind = TwinKind | SetUpKind | ColumnKind | RecordKind | RowKind


def find_kinds(program: Program, without: Collection[frozenset[str]] = ()) -> Found:
    """The kinds of an opened program that can become classes; each is tried out, but for those that are not wanted."""
    found = Found(program)
    names = Names(program.main, replaceable(program))
    refused: set[tuple[str, ...]] = set()
    families: dict[str, tuple[str, ...]] = {}
    for made in HandMadeClasses.of(program.main).found:
        if made.methods and made.obstacles:
            reason, place = _told(program, made.obstacles[0])
            found.doubts.append(f"{made.function.name} is no class yet: {reason}{_at_line(program, place)}")
    for lone in LoneObjects.of(program.main).found:
        if lone.obstacles:
            reason, place = _told(program, lone.obstacles[0])
            found.doubts.append(f"{lone.symbol.name} stays an object of its own: {reason}{_at_line(program, place)}")
    while (kind := next((k for k in _kinds(found.program) if _known_by(k) not in refused), None)) is not None:
        refused.add(_known_by(kind))
        if not isinstance(kind, RowKind | SetUpKind) and kind.obstacles:
            _doubt(found, kind, *_told(found.program, kind.obstacles[0]))
            continue
        plan = _row_plan(found.program, kind, names) if isinstance(kind, RowKind) else _plan(kind, names)
        if plan is None:
            if isinstance(kind, RowKind) and kind.length > _PAIR and not _has_names(row_names(kind)):
                _doubt(found, kind, _NAMELESS_PLACES, found.program.main.source.place(kind.begin))
            continue
        is_for_others = isinstance(kind, ColumnKind) and _is_nameless(plan) and kind.only_fills_another
        if made_of(plan) in without or is_for_others:
            continue
        one_for_all = merged(found.program, plan)
        try:
            found.program = class_made(found.program, plan)
        except RefusedError as error:
            _doubt(found, kind, error.reason, error.place)
            continue
        found.plans.append(plan)
        families.update(one_for_all)
        if isinstance(kind, TwinKind):
            _doubt_unlike(found, kind)
        unnamed = [f.name for f in plan.fields if f.name == program.dialect.naming.joined(_UNNAMED, f.variable)]
        if unnamed and plan.store == "rows":
            found.doubts.append(f"{plan.name}.{unnamed[0]} needs a better name: nothing says what stands at that place")
        if _is_nameless(plan):
            found.doubts.append(f"{plan.name} needs a better name: nothing in the script says what {_said(kind)} are")
    for held in held_kinds(found.program.main):
        _hold(found, held, names, without)
    for listed in list_kinds(found.program.main):
        _collect(found, listed, names, without)
    if groups := sessions(found.program.main):
        _gather(found, groups, names, without)
    for resource in resource_kinds(found.program.main):
        _wrap(found, resource, names, without)
    for bundle in bundles(found.program.main):
        _bundle(found, bundle, names, without)
    wrapped = {plan.name for plan in found.plans if plan.store in WITH_THEIR_METHODS}
    given_none = wrapped | {name for one in without for name in one if len(one) == 1}
    _find_methods(found, [s.name for s in found.program.main.classes if s.name not in given_none], names)
    for scope in found.program.main.classes:
        _entrust(found, scope, names, without)
    for plan in found.plans:
        for method in plan.methods:
            if method.routine in families:
                method.routine, *copies = families[method.routine]
                method.copies = tuple(copies)
    return found


def _is_nameless(plan: KindPlan) -> bool:
    """Whether nothing in the script says what the things of a class are."""
    return plan.name.lower().startswith(BARE_NOUN)


def _made(found: Found, plan: KindPlan, without: Collection[frozenset[str]]) -> Program | None:
    """The program with the class of a plan, if that is wanted and can be made."""
    if made_of(plan) in without:
        return None
    try:
        return class_made(found.program, plan)
    except RefusedError:
        return None


def _gather(
    found: Found, groups: Sequence[Sequence[Session]], names: Names, without: Collection[frozenset[str]]
) -> None:
    """Make a class of what functions open, ask and close again, where that can be done."""
    plan = session_plan(found.program, groups, names)
    made = _made(found, plan, without) if plan is not None else None
    if plan is not None and made is not None:
        found.program = made
        found.plans.append(plan)


def _record_after(program: Program, move: Move, holder: str) -> RecordKind | None:
    """The kind of the tables that a move makes of what something holds, if they can become objects."""
    record = kind_held_by(attempted(program, move).main, holder)
    return record if record is not None and not record.obstacles else None


def _hold(found: Found, kind: HeldKind, names: Names, without: Collection[frozenset[str]]) -> None:
    """Make a class of what a list has of a library, where something is done with one that can be its method."""
    record = _record_after(found.program, Hold(found.program.main.path, kind.holder.name), kind.holders[0])
    if record is None:
        return
    plan = record_plan(record, record_fields(record), names)
    plan.store, plan.instances = "held", kind.holders
    plan.why = f"{kind.holder.name} has several {kind.maker} that are told what to do one by one"
    made = _made(found, plan, without)
    if made is not None and with_carved_methods(made, plan.name).methods:
        found.program = made
        found.plans.append(plan)


def _collect(found: Found, kind: ListKind, names: Names, without: Collection[frozenset[str]]) -> None:
    """Make a class of lists that functions are given, where some of these can be its methods."""
    record = _record_after(found.program, Collect(found.program.main.path, kind.holders[0]), kind.holders[0])
    if record is None:
        return
    plan = list_plan(kind, record_fields(record), names)
    made = _made(found, plan, without)
    if made is not None and len(method_plans(made.main, plan.name, is_about_one=False)) >= _FEWEST_OF_LISTS:
        found.program = made
        found.plans.append(plan)


def _entrust(found: Found, scope: Scope, names: Names, without: Collection[frozenset[str]]) -> None:
    """Give a class whose objects a library makes the variables that only its methods use, but for data to look in."""
    module = found.program.main
    data = lists_looked_in(module)
    variables = tuple(s.name for s in entrusted(module, scope) if s not in data)
    if not variables or frozenset({scope.name}) in without:
        return
    made = attempted(found.program, Entrust(module.path, scope.name, variables))
    if made is found.program:
        return
    plan = next((p for p in found.plans if p.name == scope.name), None)
    if plan is None:
        plan = object_plan(module, scope.name, names)
        plan.file, plan.why = module.path.name, "a library makes its objects"
        found.plans.append(plan)
    plan.fields += [FieldPlan(name, name, "fixed", why="only its methods know it") for name in variables]
    found.program = with_kind(made, plan)


def _bundle(found: Found, bundle: Bundle, names: Names, without: Collection[frozenset[str]]) -> None:
    """Make a class of what functions hand to one another, where most of them can be its methods."""
    plan = bundle_plan(bundle, names)
    made = _made(found, plan, without)
    if made is None or len(method_plans(made.main, plan.name, is_about_one=False)) < _FEWEST_OF_BUNDLE:
        return
    found.program = made
    found.plans.append(plan)
    if is_unnamed(plan):
        listed = ", ".join(symbol.name for symbol in bundle.symbols)
        found.doubts.append(f"{plan.name} needs a better name: nothing says what {listed} are for together")


def _wrap(found: Found, kind: ResourceKind, names: Names, without: Collection[frozenset[str]]) -> None:
    """Make a class around a thing of a library, with what is done with it, where that can be done."""
    plan = resource_plan(kind, names)
    made = _made(found, plan, without) if not kind.obstacles else None
    given = with_resource_methods(made, plan, kind.resource) if made is not None else None
    if given is not None and len(given.methods) >= _FEWEST_OF_RESOURCE:
        plan.methods = given.methods
        found.program = with_kind(given.program, plan)
        found.plans.append(plan)


def made_of(plan: KindPlan) -> frozenset[str]:
    """All that a kind is made of: its variables, lists or keys, what holds its rows, or the class of the script."""
    if plan.store in ("rows", "held", "lists"):
        return frozenset(plan.instances)
    sources = [source for f in plan.fields for source in f.sources]
    return frozenset(sources) if sources else frozenset({plan.name})


def _has_names(keys: Sequence[str]) -> bool:
    """Whether more than half of the places of rows have a name."""
    return 2 * sum(map(bool, keys)) > len(keys)


def _row_plan(program: Program, kind: RowKind, names: Names) -> KindPlan | None:
    """The plan of a class for rows, as for records with the places' names as keys; None where too few have a name."""
    keys = row_names(kind)
    if not _has_names(keys) or not kind.holders:
        return None
    keys = [key or program.dialect.naming.joined(_UNNAMED, str(number)) for number, key in enumerate(keys)]
    label = Label(program.main.path, kind.holders[0], tuple(keys))
    record = _record_after(program, label, kind.holders[0])
    if record is None:
        return None
    plan = record_plan(record, record_fields(record), names)
    fields = {field.variable: field for field in plan.fields}
    plan.fields = [replace(fields[key], variable=str(number)) for number, key in enumerate(keys)]
    plan.why = f"rows of {len(keys)} values are asked for each by its place"
    plan.store, plan.instances = "rows", kind.holders[: len(plan.instances)]
    return plan


def _plan(kind: TwinKind | SetUpKind | ColumnKind | RecordKind, names: Names) -> KindPlan:
    if isinstance(kind, TwinKind):
        return single_plan(kind, names) if kind.is_single else twin_plan(kind, names)
    if isinstance(kind, SetUpKind):
        return equipped_plan(kind, names)
    if isinstance(kind, ColumnKind):
        return column_plan(kind, names)
    return record_plan(kind, record_fields(kind), names)


def _doubt_unlike(found: Found, kind: TwinKind) -> None:
    """Functions that look like copies and are not quite: perhaps one of them was forgotten in some change."""
    for hole in kind.constants:
        texts = [kind.module.source.slice(constant.span) for constant in hole.constants]
        line = kind.module.source.line_of(hole.constants[0].start)
        found.doubts.append(
            f"the functions of the {kind.noun or 'copies'} differ: {', '.join(texts)} (from line {line})"
        )
    for one, other in kind.unlike:
        lines = [kind.module.source.line_of(f.statement.start) for f in (one, other)]
        found.doubts.append(f"{one.name} and {other.name} do not do the same (from lines {lines[0]} and {lines[1]})")


def _kinds(program: Program) -> Iterator[_Kind]:
    yield from twin_kinds(program.main)
    yield from single_kinds(program.main)
    yield from SetUps.of(program.main).kinds
    yield from column_kinds(program.main)
    yield from record_kinds(program.main)
    yield from row_kinds(program.main)


def _known_by(kind: _Kind) -> tuple[str, ...]:
    """What a kind is known by when the text around it has changed: how it is called, and what holds its records."""
    return (_said(kind), *(kind.holders[:1] if isinstance(kind, RecordKind) else ()))


def _said(kind: _Kind) -> str:
    """A kind in words."""
    if isinstance(kind, TwinKind):
        return f"the copies {', '.join(s.name for s in kind.variables[:_MOST_NAMED])}"
    if isinstance(kind, SetUpKind):
        return f"what {kind.holder} holds"
    if isinstance(kind, ColumnKind):
        return f"the lists {', '.join(kind.names[:_MOST_NAMED])}"
    if isinstance(kind, RowKind):
        return f"the rows of {kind.holders[0] if kind.holders else 'no name'}"
    return f"the records with {', '.join(kind.keys[:_MOST_NAMED])}"


def _told(program: Program, obstacle: Obstacle) -> tuple[str, Place]:
    return obstacle.reason, program.main.source.place(obstacle.offset)


def _doubt(found: Found, kind: _Kind, reason: str, place: Place | None) -> None:
    """Say why things stay as they are stored, but of those that might as well."""
    is_unsaid = isinstance(kind, SetUpKind) or (isinstance(kind, TwinKind) and kind.is_single)
    if is_unsaid or len(found.doubts) >= _MOST_TOLD:
        return
    found.doubts.append(f"{_said(kind)} stay as they are: {reason}{_at_line(found.program, place)}")


def _at_line(program: Program, place: Place | None) -> str:
    line = program.original_place(place).line if place is not None else None
    return f" (line {line})" if line is not None else ""


def _find_methods(found: Found, class_names: Sequence[str], names: Names) -> None:
    """Give classes what is about one object of them, each only if that can be done.

    Where a function is about objects of several classes, lines of it go to the one before the whole goes to the other;
    so do lines about what is in a list before the whole goes to the list.
    """
    taken: dict[str, list[MethodPlan]] = {name: [] for name in class_names}
    of_lists = {plan.name for plan in found.plans if plan.store == "lists"}
    for name in (name for name in class_names if name not in of_lists):
        taken[name] += _whole_methods(found, name, is_about_one=True)
    for name in class_names:
        for give in (with_answering_methods, with_carved_methods):
            given = give(found.program, name)
            found.program = given.program
            taken[name] += given.methods
    for name in class_names:
        branches = with_branch_methods(found.program, name)
        found.program = branches.program
        taken[name] += [*_whole_methods(found, name, is_about_one=False), *branches.methods]
        plan = next((p for p in found.plans if p.name == name), None)
        if plan is None and taken[name]:
            plan = object_plan(found.program.main, name, names)
            if taken[name] == branches.methods:
                plan.file, plan.why = found.program.main.path.name, "a long chain in it has branches of their own"
            found.plans.append(plan)
        if plan is not None:
            plan.methods = taken[name]
            found.program = with_kind(found.program, plan)


def _whole_methods(found: Found, class_name: str, *, is_about_one: bool) -> list[MethodPlan]:
    """Make methods of the functions that are about one object of a class, and perhaps of others too."""
    refused: set[str] = set()
    taken: list[MethodPlan] = []
    while wanted := [
        m for m in method_plans(found.program.main, class_name, is_about_one=is_about_one) if m.routine not in refused
    ]:
        together = tried(found.program, class_name, wanted)
        if together is not None:
            found.program = together
            taken += wanted
            continue
        for method in wanted:
            alone = tried(found.program, class_name, [method])
            if alone is None:
                refused.add(method.routine)
            else:
                found.program = alone
                taken.append(method)
    return taken
