"""A class of things of one kind, without its methods: out of copies, tables, rows or lists side by side."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from aedifex.design.document.design import KindPlan
from aedifex.moves.bundle import Bundle
from aedifex.moves.collect import Collect
from aedifex.moves.columns import ColumnField, Columns
from aedifex.moves.entrust import Entrust
from aedifex.moves.equip import Equip
from aedifex.moves.go_through import GoThrough
from aedifex.moves.hold import Hold
from aedifex.moves.kit.binding_check import attempted, perform
from aedifex.moves.kit.move import Move
from aedifex.moves.label import Label
from aedifex.moves.name_part import NamePart
from aedifex.moves.pick import Pick
from aedifex.moves.point import Point
from aedifex.moves.records import RecordField, Records
from aedifex.moves.sessions import Sessions
from aedifex.moves.sift import Sift
from aedifex.moves.spare import Spare
from aedifex.moves.twins import Twins, kind_of
from aedifex.moves.walk import Walk
from aedifex.moves.whole import Whole
from aedifex.moves.wrap import Wrap
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.model.program import Program
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.kinds.picks import picks
from aedifex.survey.kinds.pointed import pointed
from aedifex.survey.kinds.records import RecordKind, container_of, record_kinds
from aedifex.survey.kinds.rows import RowKind, row_kinds
from aedifex.survey.kinds.twin_fields import TwinField
from aedifex.survey.kinds.twins import merged_name
from aedifex.survey.kinds.walks import numbered_walks
from aedifex.survey.words import words_of

_LISTED = frozenset({"columns", "held", "lists", "records", "rows", "twins"})
_COPIES = frozenset({"twins", "single"})


def merged(program: Program, plan: KindPlan) -> dict[str, tuple[str, ...]]:
    """The functions that become one for all copies, by the name of that one."""
    kind = kind_of(program.main, [f.sources for f in plan.fields]) if plan.store in _COPIES else None
    families = kind.routines.values() if kind is not None else ()
    return {merged_name(kind, family[0]): tuple(f.name for f in family) for family in families if kind is not None}


def class_made(program: Program, plan: KindPlan) -> Program:
    """The program with the class of a plan, still without its methods."""
    if plan.store in _COPIES:
        program = perform(program, _twins(program, plan))
    elif plan.store == "equipped":
        program = perform(program, Equip(program.main.path, plan.name, plan.instances[0]))
    elif plan.store == "records":
        program = perform(program, _records(program, plan))
    elif plan.store == "columns":
        program = perform(program, _columns(program, plan))
    elif plan.store == "held":
        program = _boxed(program, plan, Hold(program.main.path, container_of(plan.instances[0])))
    elif plan.store == "objects" and plan.fields:
        program = perform(program, Entrust(program.main.path, plan.name, tuple(f.variable for f in plan.fields)))
    elif plan.store == "lists":
        program = _boxed(program, plan, Collect(program.main.path, plan.instances[0]))
    elif plan.store == "rows":
        program = _rows_made(program, plan)
    elif plan.store == "bundles":
        kept = tuple((f.variable, f.name) for f in plan.fields)
        program = perform(program, Bundle(program.main.path, plan.name, plan.instances[0], kept))
    elif plan.store == "sessions":
        names = tuple(method.name for method in plan.methods)
        path, field = program.main.path, plan.fields[0].name
        program = perform(program, Sessions(path, plan.name, plan.instances[0], field, names))
    elif plan.store == "resources":
        held, *others = plan.fields
        second = others[0].name if others else ""
        program = perform(program, Wrap(program.main.path, held.variable, plan.name, held.name, plan.held, second))
    if plan.store in _LISTED:
        for holder in _lists_of(program, plan):
            program = _spared(_walked(program, holder, _item(program, plan)), holder)
    return with_kind(_given_whole(program, plan), plan)


def _lists_of(program: Program, plan: KindPlan) -> list[str]:
    """The variables of the script that hold several things of a kind."""
    holdings = Holdings.of(program.main)
    held = {symbol.name: holdings.of_symbol(symbol).element for symbol in program.main.scope.symbols.values()}
    makers = {name: class_of_objects(holdings, element.now) for name, element in held.items() if element is not None}
    return [name for name, scope in makers.items() if scope is not None and scope.name == plan.name]


def _walked(program: Program, holder: str, item: str) -> Program:
    """The program with loops by number over a list that name its things instead, where that can be done."""
    path, allows = program.main.path, program.dialect.allows
    while allows(Point.name) and any(pointed(program.main, program.main.scope.symbols[holder], item)):
        program = perform(program, Point(path, holder, item))
    program = attempted(program, GoThrough(path, holder))
    if numbered_walks(program.main, program.main.scope.symbols[holder], item):
        program = perform(program, Walk(path, holder, item))
    if allows(Pick.name) and picks(program.main, program.main.scope.symbols[holder], item):
        program = perform(program, Pick(path, holder, item))
    return attempted(attempted(program, NamePart(path, holder, item)), Sift(path, holder))


def _spared(program: Program, holder: str) -> Program:
    """The program with functions that use a list which they were always given."""
    while (after := attempted(program, Spare(program.main.path, holder))) is not program:
        program = after
    return program


def _given_whole(program: Program, plan: KindPlan) -> Program:
    """The program with functions that are given objects of a class in place of several of their fields."""
    if not any(scope.name == plan.name for scope in program.main.classes):
        return program
    whole = Whole(program.main.path, plan.name, program.dialect.naming.member_name(words_of(plan.name)))
    while (after := attempted(program, whole)) is not program:
        program = after
    return program


def with_kind(program: Program, plan: KindPlan) -> Program:
    """The program with a note that a kind has its class."""
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


def _holder(plan: KindPlan, kinds: Sequence[RecordKind | RowKind]) -> str:
    """The first of what a plan names as holding its things that does so in the script."""
    held = {holder for kind in kinds for holder in kind.holders}
    return next((holder for holder in plan.instances if holder in held), plan.instances[0])


def _records(program: Program, plan: KindPlan) -> Move:
    fields = tuple(RecordField(f.variable, f.name, f.start == "argument") for f in plan.fields)
    return Records(program.main.path, plan.name, _holder(plan, record_kinds(program.main)), fields)


def _twins(program: Program, plan: KindPlan) -> Move:
    fields = tuple(TwinField(f.sources, f.name, f.start == "argument") for f in plan.fields)
    item = _item(program, plan)
    return Twins(program.main.path, plan.name, tuple(plan.instances), plan.held, item, fields)


def _rows_made(program: Program, plan: KindPlan) -> Program:
    """The program with a class of rows, whose places get keys on the way."""
    holder = _holder(plan, row_kinds(program.main))
    labelled = perform(program, Label(program.main.path, holder, tuple(f.name for f in plan.fields)))
    fields = tuple(RecordField(f.name, f.name, f.start == "argument") for f in plan.fields)
    return perform(labelled, Records(program.main.path, plan.name, holder, fields))


def _boxed(program: Program, plan: KindPlan, box: Hold | Collect) -> Program:
    """The program with a class of things that a move puts into tables on the way."""
    fields = tuple(RecordField(f.variable, f.name, f.start == "argument") for f in plan.fields)
    return perform(perform(program, box), Records(program.main.path, plan.name, plan.instances[0], fields))


def _columns(program: Program, plan: KindPlan) -> Move:
    fields = tuple(ColumnField(f.variable, f.name, f.start == "argument") for f in plan.fields)
    return Columns(program.main.path, plan.name, plan.instances[0], _item(program, plan), fields)
