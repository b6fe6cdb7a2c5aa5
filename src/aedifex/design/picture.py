"""What a picture of classes shows: boxes with members, and who makes and uses whom."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from aedifex.design.document.design import BasePlan, ClassPlan, Design, FieldPlan, KindPlan
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Routine
from aedifex.program.structure.main_code import MainCode


@dataclass(frozen=True)
class Box:
    """One class, or the whole script before the change; `is_many` tells that there are several objects of it.

    `whole` is the class of the script that it was a part of, `base` the class that it comes from; `is_base` tells that
    others come from it.
    """

    name: str
    fields: tuple[str, ...]
    methods: tuple[str, ...]
    is_owner: bool = False
    is_many: bool = False
    whole: str = ""
    base: str = ""
    is_base: bool = False

    @property
    def is_made_by_owner(self) -> bool:
        """Whether the owner makes its objects."""
        return not self.whole and not self.is_base


@dataclass(frozen=True)
class Link:
    """The owner makes an object of a class, or hands what it reads of one class to a method of another.

    Where `is_base`, the source comes from the target.
    """

    source: str
    target: str
    label: str = ""
    is_base: bool = False


@dataclass(frozen=True)
class ClassPicture:
    """The script as one box of loose state and functions, the classes that it becomes, and their links."""

    before: Box
    after: tuple[Box, ...]
    links: tuple[Link, ...] = field(default=())


def class_picture(program: Program, design: Design) -> ClassPicture:
    """What the picture of a prepared program and its design shows."""
    module = program.main
    main = MainCode.of(module)
    variables = [program.spellings.get(symbol.name, symbol.name) for symbol in main.fields]
    routines = [routine.name for routine in main.functions]
    before = _before(program)
    given = {field.variable for plan in design.classes for field in plan.fields}
    taken = {method.routine for plan in design.classes for method in plan.methods if method.lines is None}
    cut = [f"{method.name}()" for method in design.methods]
    owner = Box(
        design.owner,
        (*(plan.instance for plan in design.classes), *(name for name in variables if name not in given)),
        (*(f"{name}()" for name in routines if name not in taken), *cut, "run()"),
        is_owner=True,
    )
    plans = design.all_classes
    parts = [
        Box(part.name, _names(part.fields), tuple(f"{method.name}()" for method in part.methods), whole=part.whole)
        for part in design.parts
    ]
    parts += [Box(data.name, (data.variable,), tuple(f"{method}()" for method in data.methods)) for data in design.data]
    parts += [_base_box(base, design) for base in design.bases]
    from_base = {child: base.name for base in design.bases for child in base.children}
    boxes = [
        Box(
            plan.name,
            _names(plan.fields),
            tuple(f"{name}()" for name in plan.method_names),
            is_many=isinstance(plan, KindPlan) and plan.is_of_many,
            base=from_base.get(plan.name, ""),
        )
        for plan in plans
    ]
    makes = [Link(part.whole, part.name) for part in design.parts if part.whole in [plan.name for plan in plans]]
    makes += [Link(child, base.name, is_base=True) for base in design.bases for child in base.children]
    makes += [Link(design.owner, plan.name) for plan in [*plans, *design.data]]
    return ClassPicture(before, (owner, *parts, *boxes), (*makes, *_passed(program, design)))


def _base_box(base: BasePlan, design: Design) -> Box:
    """A class with what all have that come from it."""
    children = [plan for plan in design.all_classes if plan.name in base.children]
    fields = _in_all([_names(child.fields) for child in children])
    methods = _in_all([child.method_names for child in children])
    return Box(base.name, fields, tuple(f"{name}()" for name in methods), is_base=True)


def _in_all(rows: Sequence[Sequence[str]]) -> tuple[str, ...]:
    return tuple(name for name in rows[0] if all(name in row for row in rows)) if rows else ()


def _names(fields: Iterable[FieldPlan]) -> tuple[str, ...]:
    return tuple(field.name for field in fields)


def _before(program: Program) -> Box:
    """The script as it was before its classes were divided and its kinds became classes."""
    while (program.kinds or program.parts) and program.earlier is not None:
        program = program.earlier
    main = MainCode.of(program.main)
    variables = [program.spellings.get(symbol.name, symbol.name) for symbol in main.fields]
    routines = [f"{routine.name}()" for routine in main.functions]
    return Box(program.main.path.name, tuple(variables), (*routines, "main code"))


def _passed(program: Program, design: Design) -> list[Link]:
    """Which class's fields are handed to methods of which other class."""
    effects = Effects.of(program.main)
    routines: dict[str, Routine] = {routine.name: routine for routine in program.main.routines}
    home = {program_field.variable: plan for plan in design.classes for program_field in plan.fields}
    found: dict[tuple[str, str], list[str]] = {}
    for plan in design.classes:
        for method in plan.methods:
            routine = routines.get(method.routine) if method.lines is None else None
            for symbol in effects.transitive[routine].reads if routine is not None else ():
                other = home.get(program.spellings.get(symbol.name, symbol.name))
                if other is not None and other is not plan:
                    names = found.setdefault((other.name, plan.name), [])
                    names.append(_field_name(other, program.spellings.get(symbol.name, symbol.name)))
    return [Link(*ends, ", ".join(sorted(set(names)))) for ends, names in sorted(found.items())]


def _field_name(plan: ClassPlan, variable: str) -> str:
    return next(field.name for field in plan.fields if field.variable == variable)
