"""Kinds of things become classes: found and tried out for a draft, carried out for a build."""

from __future__ import annotations

from collections.abc import Collection, Iterator, Sequence
from dataclasses import dataclass, field, replace

from aedifex.construction.places import free_name, lines_now, routine_at
from aedifex.design.dividing.object_answers import is_short_step, object_answers
from aedifex.design.dividing.object_blocks import object_blocks
from aedifex.design.document.check import check_kind, check_kind_methods
from aedifex.design.document.design import Design, KindPlan, MethodPlan
from aedifex.design.drafting.kinds import (
    BARE_NOUN,
    column_plan,
    method_name,
    method_plans,
    object_plan,
    record_plan,
    twin_plan,
)
from aedifex.design.drafting.naming import Names
from aedifex.moves.adopt import NewMethod
from aedifex.moves.answer import Answer
from aedifex.moves.attach import Attach
from aedifex.moves.carve import Carve
from aedifex.moves.columns import ColumnField, Columns
from aedifex.moves.inline import Inline
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.move import Move
from aedifex.moves.label import Label
from aedifex.moves.pick import Pick
from aedifex.moves.records import RecordField, Records, record_fields
from aedifex.moves.sift import Sift
from aedifex.moves.twins import Twins, kind_of
from aedifex.moves.walk import Walk
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.model.program import Program
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import Obstacle
from aedifex.source.errors import Place, RefusedError
from aedifex.survey.kinds.columns import ColumnKind, column_kinds
from aedifex.survey.kinds.objects import class_of_objects, member_names
from aedifex.survey.kinds.picks import picks
from aedifex.survey.kinds.records import RecordKind, kind_held_by, record_kinds
from aedifex.survey.kinds.row_names import row_names
from aedifex.survey.kinds.rows import RowKind, row_kinds
from aedifex.survey.kinds.siftings import siftings
from aedifex.survey.kinds.twin_fields import TwinField
from aedifex.survey.kinds.twins import TwinKind, merged_name, twin_kinds
from aedifex.survey.kinds.walks import numbered_walks
from aedifex.survey.words import words_of

_MOST_TOLD = 3
_MOST_NAMED = 4
_MOST_CARVED = 12
_UNNAMED = "value"
_LISTED = frozenset({"columns", "records", "rows"})


@dataclass
class Found:
    """The kinds of a program: their plans, the program with classes made of them, and what was doubtful."""

    program: Program
    plans: list[KindPlan] = field(default_factory=list)
    doubts: list[str] = field(default_factory=list)


_Kind = TwinKind | ColumnKind | RecordKind | RowKind


# -- for a draft


def find_kinds(program: Program, without: Collection[frozenset[str]] = ()) -> Found:
    """The kinds of an opened program that can become classes; each is tried out, but for those that are not wanted."""
    found = Found(program)
    names = Names(program.main)
    refused: set[str] = set()
    families: dict[str, tuple[str, ...]] = {}
    while (kind := next((k for k in _kinds(found.program) if _said(k) not in refused), None)) is not None:
        refused.add(_said(kind))
        if not isinstance(kind, RowKind) and kind.obstacles:
            _doubt(found, kind, *_told(found.program, kind.obstacles[0]))
            continue
        plan = _row_plan(found.program, kind, names) if isinstance(kind, RowKind) else _plan(kind, names)
        if plan is None:
            continue
        if made_of(plan) in without:
            continue
        merged = _merged(found.program, plan)
        try:
            found.program = _class_made(found.program, plan)
        except RefusedError as error:
            _doubt(found, kind, error.reason, error.place)
            continue
        found.plans.append(plan)
        families.update((name, sources) for name, sources in merged.items())
        if isinstance(kind, TwinKind):
            _doubt_unlike(found, kind)
        if plan.name.lower().startswith(BARE_NOUN):
            found.doubts.append(f"{plan.name} needs a better name: nothing in the script says what {_said(kind)} are")
    for scope in found.program.main.classes:
        if frozenset({scope.name}) in without:
            continue
        _find_methods(found, scope.name, names)
    for plan in found.plans:
        for method in plan.methods:
            if method.routine in families:
                method.routine, *copies = families[method.routine]
                method.copies = tuple(copies)
    return found


def made_of(plan: KindPlan) -> frozenset[str]:
    """All that a kind is made of: its variables, lists or keys, or the class that the script has."""
    sources = [source for f in plan.fields for source in f.sources]
    return frozenset(sources) if sources else frozenset({plan.name})


def _row_plan(program: Program, kind: RowKind, names: Names) -> KindPlan | None:
    """The plan of a class for rows, as for records with the places' names as keys; None where too few have a name."""
    keys = row_names(kind)
    unnamed = [number for number, key in enumerate(keys) if not key]
    if 2 * len(unnamed) >= len(keys) or not kind.holders:
        return None
    keys = [key or program.dialect.naming.joined(_UNNAMED, str(number)) for number, key in enumerate(keys)]
    try:
        labelled = perform(program, Label(program.main.path, kind.holders[0], tuple(keys)))
    except RefusedError:
        return None
    record = kind_held_by(labelled.main, kind.holders[0])
    if record is None or record.obstacles:
        return None
    plan = record_plan(record, record_fields(record), names)
    fields = {field.variable: field for field in plan.fields}
    plan.fields = [replace(fields[key], variable=str(number)) for number, key in enumerate(keys)]
    plan.why = f"rows of {len(keys)} values are asked for each by its place"
    plan.store = "rows"
    return plan


def _plan(kind: TwinKind | ColumnKind | RecordKind, names: Names) -> KindPlan:
    if isinstance(kind, TwinKind):
        return twin_plan(kind, names)
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
    yield from column_kinds(program.main)
    yield from record_kinds(program.main)
    yield from row_kinds(program.main)


def _said(kind: _Kind) -> str:
    """A kind in words, by which it is known again when the text around it has changed."""
    if isinstance(kind, TwinKind):
        return f"the copies {', '.join(s.name for s in kind.variables[:_MOST_NAMED])}"
    if isinstance(kind, ColumnKind):
        return f"the lists {', '.join(kind.names[:_MOST_NAMED])}"
    if isinstance(kind, RowKind):
        return f"the rows of {kind.holders[0] if kind.holders else 'no name'}"
    return f"the records with {', '.join(kind.keys[:_MOST_NAMED])}"


def _told(program: Program, obstacle: Obstacle) -> tuple[str, Place]:
    return obstacle.reason, program.main.source.place(obstacle.offset)


def _doubt(found: Found, kind: _Kind, reason: str, place: Place | None) -> None:
    if len(found.doubts) >= _MOST_TOLD:
        return
    line = found.program.original_place(place).line if place is not None else None
    at = f" (line {line})" if line is not None else ""
    found.doubts.append(f"{_said(kind)} stay as they are: {reason}{at}")


def _find_methods(found: Found, class_name: str, names: Names) -> None:
    """Give a class the functions that are about one object of it, each only if that can be done."""
    plan = next((p for p in found.plans if p.name == class_name), None)
    refused: set[str] = set()
    taken: list[MethodPlan] = []
    while wanted := [m for m in method_plans(found.program.main, class_name) if m.routine not in refused]:
        together = _tried(found.program, class_name, wanted)
        if together is not None:
            found.program = together
            taken += wanted
            continue
        for method in wanted:
            alone = _tried(found.program, class_name, [method])
            if alone is None:
                refused.add(method.routine)
            else:
                found.program = alone
                taken.append(method)
    taken += _answering_methods(found, class_name)
    taken += _carved_methods(found, class_name)
    if plan is None and taken:
        plan = object_plan(found.program.main, class_name, names)
        found.plans.append(plan)
    if plan is not None:
        plan.methods = taken
        found.program = _with_kind(found.program, plan)


def _answering_methods(found: Found, class_name: str) -> list[MethodPlan]:
    """Give a class what functions do with one object of it before the program's part, each only if that can be done."""
    taken: list[MethodPlan] = []
    refused: set[str] = set()
    while len(taken) < _MOST_CARVED:
        module = found.program.main
        scope = next((s for s in module.classes if s.name == class_name), None)
        known = object_answers(module, scope) if scope is not None else ()
        answer = next((a for a in known if a.routine.name not in refused), None)
        if answer is None or scope is None:
            break
        refused.add(answer.routine.name)
        lines = _lines_then(found.program, *answer.lines)
        if lines is None:
            continue
        name = method_name(module, answer.routine, class_name, answer.parameter, member_names(module, scope))
        why = "this is about one object of it, and it says whether to go on"
        method = MethodPlan(answer.routine.qualified_name, name, lines=lines, why=why, answers=True)
        try:
            found.program = _answer_attached(found.program, class_name, method)
        except RefusedError:
            continue
        taken.append(method)
    return taken


def _carved_methods(found: Found, class_name: str) -> list[MethodPlan]:
    """Give a class the statements that are about one object of it, each run only if that can be done."""
    taken: list[MethodPlan] = []
    refused: set[tuple[int, int]] = set()
    while len(taken) < _MOST_CARVED:
        module = found.program.main
        scope = next((s for s in found.program.main.classes if s.name == class_name), None)
        blocks = [b for b in object_blocks(module, scope) if b.names] if scope is not None else []
        then = ((b, _lines_then(found.program, b.first, b.last)) for b in blocks)
        block, lines = next(((b, lines) for b, lines in then if lines and lines not in refused), (None, None))
        if block is None or scope is None:
            break
        assert lines is not None
        refused.add(lines)
        method = MethodPlan(block.routine, block.names[0], lines=lines, why="these lines are about one object of it")
        try:
            found.program = _block_attached(found.program, class_name, method)
        except RefusedError:
            continue
        taken.append(method)
    return taken


def _lines_then(program: Program, first: int, last: int) -> tuple[int, int] | None:
    """Some lines in the script as it was read."""
    found = program.original_lines(first, last)
    now = [program.line_now(program.main.path, line) for line in found or ()]
    return found if now == [first, last] else None


def _answer_attached(program: Program, class_name: str, method: MethodPlan) -> Program:
    """The program with a method that answers whether its routine is to go on; a short rest goes where it is called.

    Raises:
        RefusedError: the routine cannot be divided there, or is not about one object of the class.
    """
    assert method.lines is not None
    path, module, naming = program.main.path, program.main, program.dialect.naming
    first, last = lines_now(program, method.lines)
    routine = routine_at(module, first)
    function = module.function(routine)
    lines = (module.source.line_of(s.start) for s in function.body.walk()) if function is not None else ()
    rest = next((line for line in lines if line > last), last)
    name = free_name(module, naming.joined(method.name, naming.member_name(words_of(class_name))))
    divided = perform(program, Answer(path, routine, rest, name))
    attached = perform(divided, Attach(path, class_name, (NewMethod(name, method.name),)))
    return _put_in_place(attached, routine) if is_short_step(attached.main, routine) else attached


def _put_in_place(program: Program, routine: str) -> Program:
    """The program with a routine in the place of its call, if that can be done and all state stays shared."""
    try:
        made = perform(program, Inline(program.main.path, routine))
    except RefusedError:
        return program
    shared = [{symbol.name for symbol in MainCode.of(p.main).fields} for p in (program, made)]
    return made if shared[0] == shared[1] else program


def _block_attached(program: Program, class_name: str, method: MethodPlan) -> Program:
    """The program with some lines as a method of a class.

    Raises:
        RefusedError: they cannot be carved, or are not about one object of the class.
    """
    assert method.lines is not None
    path, naming = program.main.path, program.dialect.naming
    first, last = lines_now(program, method.lines)
    name = free_name(program.main, naming.joined(method.name, naming.member_name(words_of(class_name))))
    carved = perform(program, Carve(path, routine_at(program.main, first), first, last, name))
    return perform(carved, Attach(path, class_name, (NewMethod(name, method.name),)))


def _tried(program: Program, class_name: str, methods: Sequence[MethodPlan]) -> Program | None:
    try:
        return perform(program, _attach(program, class_name, methods))
    except RefusedError:
        return None


# -- for a build


def with_kinds(program: Program, design: Design) -> Program:
    """An opened program with classes made of its kinds; those that are made already stay as they are.

    Raises:
        DesignError: the script has no such kind, or no such function.
        RefusedError: a kind cannot become a class as the plan says.
    """
    wanted = [plan for plan in design.kinds if plan.name not in program.kinds]
    one_for_all: dict[str, str] = {}
    for plan in wanted:
        check_kind(design, plan, program.main)
        one_for_all |= {sources[0]: name for name, sources in _merged(program, plan).items()}
        program = _class_made(program, plan)
    for plan in wanted:
        check_kind_methods(design, plan, program.main)
        whole = [m for m in plan.methods if m.lines is None]
        methods = [replace(m, routine=one_for_all.get(m.routine, m.routine)) for m in whole]
        if methods:
            program = _tried(program, plan.name, methods) or _one_by_one(program, plan.name, methods)
        for method in plan.methods:
            if method.lines is not None:
                made = _answer_attached if method.answers else _block_attached
                program = made(program, plan.name, method)
    return program


def _one_by_one(program: Program, class_name: str, methods: Sequence[MethodPlan]) -> Program:
    for method in methods:
        program = perform(program, _attach(program, class_name, [method]))
    return program


def _merged(program: Program, plan: KindPlan) -> dict[str, tuple[str, ...]]:
    """The functions that become one for all copies, by the name of that one."""
    kind = kind_of(program.main, [f.sources for f in plan.fields]) if plan.store == "twins" else None
    families = kind.routines.values() if kind is not None else ()
    return {merged_name(kind, family[0]): tuple(f.name for f in family) for family in families if kind is not None}


def _class_made(program: Program, plan: KindPlan) -> Program:
    """The program with the class of a plan, still without its methods."""
    if plan.store == "twins":
        program = perform(program, _twins(program, plan))
    elif plan.store == "records":
        program = perform(program, _records(program, plan))
    elif plan.store == "columns":
        program = perform(program, _columns(program, plan))
    elif plan.store == "rows":
        program = _rows_made(program, plan)
    if plan.store in _LISTED:
        for holder in _lists_of(program, plan):
            program = _walked(program, holder, _item(program, plan))
    return _with_kind(program, plan)


def _lists_of(program: Program, plan: KindPlan) -> list[str]:
    """The variables of the script that hold several things of a kind."""
    holdings = Holdings.of(program.main)
    held = {symbol.name: holdings.of_symbol(symbol).element for symbol in program.main.scope.symbols.values()}
    makers = {name: class_of_objects(holdings, element.now) for name, element in held.items() if element is not None}
    return [name for name, scope in makers.items() if scope is not None and scope.name == plan.name]


def _walked(program: Program, holder: str, item: str) -> Program:
    """The program with loops by number over a list that name its things instead, where that can be done."""
    path = program.main.path
    if numbered_walks(program.main, program.main.scope.symbols[holder], item):
        program = perform(program, Walk(path, holder, item))
    if picks(program.main, program.main.scope.symbols[holder], item):
        program = perform(program, Pick(path, holder, item))
    return _sifted(program, holder)


def _sifted(program: Program, container: str) -> Program:
    """The program with loops over a copy of a list where things are taken out of it, if that can be done."""
    if not siftings(program.main, program.main.scope.symbols[container]):
        return program
    try:
        return perform(program, Sift(program.main.path, container))
    except RefusedError:
        return program


def _with_kind(program: Program, plan: KindPlan) -> Program:
    return replace(program, kinds=program.kinds | {plan.name})


def _item(program: Program, plan: KindPlan) -> str:
    """What one object is called in a loop over all of them."""
    naming = program.dialect.naming
    name = naming.member_name(words_of(plan.name))
    is_taken = name in program.main.scope.symbols or name in program.main.outside.symbols
    own = {source for field in plan.fields for source in field.sources}
    if is_taken and name not in own:
        return naming.joined("one", name)
    return name if _is_item_free(program, plan, name) else naming.joined("one", name)


def _is_item_free(program: Program, plan: KindPlan, name: str) -> bool:
    """Whether a name for one object means nothing else where it would be used."""
    module = program.main
    symbols = [module.scope.symbols.get(source) for field in plan.fields for source in field.sources]
    symbols += [module.scope.symbols.get(instance) for instance in plan.instances]
    scopes = {r.scope.home for symbol in symbols if symbol is not None for r in symbol.references}
    return not any(name in scope.symbols for home in scopes if home is not module.scope for scope in home.walk())


def _records(program: Program, plan: KindPlan) -> Move:
    fields = tuple(RecordField(f.variable, f.name, f.start == "argument") for f in plan.fields)
    held = {holder for kind in record_kinds(program.main) for holder in kind.holders}
    holder = next((holder for holder in plan.instances if holder in held), plan.instances[0])
    return Records(program.main.path, plan.name, holder, fields)


def _twins(program: Program, plan: KindPlan) -> Move:
    fields = tuple(TwinField(f.sources, f.name, f.start == "argument") for f in plan.fields)
    item = _item(program, plan)
    return Twins(program.main.path, plan.name, tuple(plan.instances), plan.held, item, fields)


def _rows_made(program: Program, plan: KindPlan) -> Program:
    """The program with a class of rows, whose places get keys on the way."""
    holders = {holder for kind in row_kinds(program.main) for holder in kind.holders}
    holder = next((holder for holder in plan.instances if holder in holders), plan.instances[0])
    labelled = perform(program, Label(program.main.path, holder, tuple(f.name for f in plan.fields)))
    fields = tuple(RecordField(f.name, f.name, f.start == "argument") for f in plan.fields)
    return perform(labelled, Records(program.main.path, plan.name, holder, fields))


def _columns(program: Program, plan: KindPlan) -> Move:
    fields = tuple(ColumnField(f.variable, f.name, f.start == "argument") for f in plan.fields)
    return Columns(program.main.path, plan.name, plan.instances[0], _item(program, plan), fields)


def _attach(program: Program, class_name: str, methods: Sequence[MethodPlan]) -> Move:
    return Attach(program.main.path, class_name, tuple(NewMethod(m.routine, m.name) for m in methods))
