"""Checking a design against the program that it is for."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from pathlib import Path
from typing import TypeVar

from aedifex.design.document.design import (
    BasePlan,
    ClassPlan,
    ConstantPlan,
    DataPlan,
    Design,
    FieldPlan,
    KindPlan,
    MethodPlan,
    PartPlan,
    QuestionPlan,
    TextPlan,
)
from aedifex.design.document.reading import nearest
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN
from aedifex.program.structure.state import state
from aedifex.source.errors import DesignError, Place, RefusedError
from aedifex.survey.kinds.bundles import bundles
from aedifex.survey.kinds.columns import column_kinds
from aedifex.survey.kinds.entrusted import entrusted
from aedifex.survey.kinds.handed_lists import ListKind, list_kinds
from aedifex.survey.kinds.held import HeldKind, held_kinds
from aedifex.survey.kinds.records import RecordKind, record_kinds
from aedifex.survey.kinds.resources import resource_kinds
from aedifex.survey.kinds.rows import RowKind, row_kinds
from aedifex.survey.kinds.sessions import sessions
from aedifex.survey.kinds.set_ups import SetUps
from aedifex.survey.kinds.single import single_kinds
from aedifex.survey.kinds.twins import twin_kinds

Held = TypeVar("Held", RecordKind, RowKind, HeldKind, ListKind)


def check_digest(design: Design, module: Module) -> None:
    """Check that the script is still the one that the design was made for.

    Raises:
        RefusedError: it has changed since.
    """
    source = design.sources[0]
    if source.digest != module.source.digest:
        raise RefusedError(
            f"{module.path.name} has changed since this design was made",
            _place(design, source.line),
            "Draft again, or put the script back as it was.",
        )


def check_design(design: Design, module: Module) -> None:
    """Check that a design names what the script has, and nothing twice.

    Raises:
        DesignError: it does not; with the line in the design file and the nearest valid name.
    """
    variables = [symbol.name for symbol in state(module)]
    functions = [function.qualified_name for function in module.all_functions]
    seen: dict[str, ClassPlan] = {}
    for method in design.methods:
        if method.lines is None:
            raise _error(
                design, method.line, "a method of the owner needs `lines`", "All other functions are its own anyway."
            )
        _check_known(design, method.line, "function", method.routine, [*functions, MAIN])
        _check_name(design, method.line, method.name, module, is_member=True)
    for plan in design.classes:
        _check_names(design, plan, module)
        for field in plan.fields:
            _check_known(design, field.line, "variable", field.variable, variables)
            _check_single(design, field.line, field.variable, plan, seen)
        for method in plan.methods:
            if method.lines is None:
                _check_known(design, method.line, "function", method.routine, functions)
                _check_single(design, method.line, method.routine, plan, seen)
            else:
                _check_known(design, method.line, "function", method.routine, [*functions, MAIN])
        _check_members(design, plan, module)
    _check_unique(design)
    _check_name(design, design.owner_line, design.owner, module)
    if design.owner_file:
        _check_file(design, design.owner_file, design.owner_line, design.owner.lower(), module)


def check_kind(design: Design, plan: KindPlan, module: Module) -> None:
    """Check that a kind of a design is one that the script has.

    Raises:
        DesignError: it is not; with the line in the design file and the nearest valid name.
    """
    _check_name(design, plan.line, plan.name, module)
    _check_file(design, plan.file, plan.line, plan.name.lower(), module)
    if plan.store == "objects":
        classes = [s.defines.name for s in module.block.statements if s.defines is not None]
        _check_known(design, plan.line, "class", plan.name, [name for name in classes if name])
        own = next((scope for scope in module.classes if scope.name == plan.name), None)
        known = [symbol.name for symbol in entrusted(module, own)] if own is not None else []
        for field in plan.fields:
            _check_known(design, field.line, f"variable that only {plan.name} knows", field.variable, known)
        return
    if plan.store == "equipped":
        holders = [kind.holder for kind in SetUps.of(module).kinds]
        _check_known(design, plan.line, "object that is set up where it is made", plan.instances[0], holders)
        return
    if plan.store in ("twins", "single"):
        is_one = plan.store == "single"
        kinds = list(single_kinds(module)) if is_one else twin_kinds(module)
        what = "thing of a library or variable of one" if is_one else "variable that is one of several copies"
        copies = [symbol.name for kind in kinds for symbol in kind.variables]
        for field in plan.fields:
            for variable in field.sources:
                _check_known(design, field.line, what, variable, copies)
            _check_name(design, field.line, field.name, module, is_member=True)
        functions = [function.qualified_name for function in module.functions]
        for routine in (routine for method in plan.methods for routine in method.copies and method.sources):
            _check_known(design, plan.line, "function", routine, functions)
        for name in (*plan.instances, *([plan.held] if plan.held else [])):
            _check_name(design, plan.line, name, module)
        return
    if plan.store == "columns":
        lists = [column for kind in column_kinds(module) for column in kind.names]
        for field in plan.fields:
            _check_known(design, field.line, "list beside others", field.variable, lists)
            _check_name(design, field.line, field.name, module, is_member=True)
        _check_name(design, plan.line, plan.instances[0], module)
        return
    if plan.store == "rows":
        _check_rows(design, plan, module)
        return
    if plan.store == "held":
        listed = _held(design, plan, held_kinds(module), "list of things of a library that holds")
        if listed is not None:
            _check_keys(design, plan, "such thing", [listed.key], module)
        return
    if plan.store == "lists":
        handed = _held(design, plan, list_kinds(module), "list that functions are given")
        if handed is not None:
            _check_keys(design, plan, "such list", [handed.key], module)
        return
    if plan.store in ("sessions", "resources") and not 1 <= len(plan.fields) <= 1 + (plan.store == "resources"):
        raise _error(design, plan.line, f"{plan.name} needs one field: what it holds of a library", "Name it.")
    if plan.store == "sessions":
        _check_name(design, plan.line, plan.instances[0], module)
        opened = [module.source.slice(group[0].opened) for group in sessions(module)]
        for field in plan.fields:
            _check_known(design, field.line, "thing that is opened, asked and closed", field.variable, opened)
            _check_name(design, field.line, field.name, module, is_member=True)
        return
    if plan.store == "bundles":
        known = [symbol.name for bundle in bundles(module) for symbol in bundle.symbols]
        for field in plan.fields:
            _check_known(design, field.line, "variable that is handed on", field.variable, known)
            _check_name(design, field.line, field.name, module, is_member=True)
        return
    if plan.store == "resources":
        found_things = resource_kinds(module)
        held = [kind.symbol.name for kind in found_things]
        derived = [kind.derived.symbol.name for kind in found_things if kind.derived is not None]
        if plan.held not in held:
            _check_name(design, plan.line, plan.held, module)
        for field, known in zip(plan.fields, (held, derived), strict=False):
            _check_known(design, field.line, "thing of a library that is called often", field.variable, known)
            _check_name(design, field.line, field.name, module, is_member=True)
        return
    found = _held(design, plan, record_kinds(module), "record held by")
    if found is not None:
        _check_keys(design, plan, "such record with the key", found.keys, module)


def _check_keys(design: Design, plan: KindPlan, what: str, keys: Sequence[str], module: Module) -> None:
    """Check the fields of things that have such keys."""
    for field in plan.fields:
        _check_known(design, field.line, what, field.variable, keys)
        _check_name(design, field.line, field.name, module, is_member=True)


def _held(design: Design, plan: KindPlan, kinds: Sequence[Held], what: str) -> Held | None:
    """The kind of which one of the plan's instances holds some; without one, they are no such thing."""
    found = next((kind for kind in kinds if not set(plan.instances).isdisjoint(kind.holders)), None)
    if found is None:
        holders = [holder for kind in kinds for holder in kind.holders]
        _check_known(design, plan.line, what, plan.instances[0], holders)
    return found


def _check_rows(design: Design, plan: KindPlan, module: Module) -> None:
    found = _held(design, plan, row_kinds(module), "row held by")
    if found is None:
        return
    places = [str(number) for number in range(found.length)]
    if [field.variable for field in plan.fields] != places:
        reason = f"{plan.name} needs a field for each place of its rows, in order"
        raise _error(design, plan.line, reason, f"The places are {', '.join(places)}.")
    for field in plan.fields:
        _check_name(design, field.line, field.name, module, is_member=True)


def check_kind_methods(design: Design, plan: KindPlan, module: Module) -> None:
    """Check that a kind of a design names functions that the script has.

    Raises:
        DesignError: it does not; with the line in the design file and the nearest valid name.
    """
    if plan.store == "sessions":
        return
    functions = [function.qualified_name for function in module.functions]
    for method in plan.methods:
        if not method.copies and method.lines is None and not is_call_of_field(plan, method):
            _check_known(design, method.line, "function", method.routine, functions)
        _check_name(design, method.line, method.name, module, is_member=True)


def is_call_of_field(plan: KindPlan, method: MethodPlan) -> bool:
    """Whether a method of a kind gives calls of what one of its fields holds a name."""
    return plan.store == "resources" and any(method.routine.startswith(f"{field.name}.") for field in plan.fields)


def check_constant(design: Design, constant: ConstantPlan, known: Iterable[str], module: Module) -> None:
    """Check that a constant of a design is a number that stands on its lines, `known` being all that stand there.

    Raises:
        DesignError: it is not; with the line in the design file and the nearest that is.
    """
    choices = list(dict.fromkeys(known))
    if constant.value not in choices:
        lines = ", ".join(map(str, constant.lines))
        reason = f"no {constant.value} stands on line {lines} for something"
        raise _error(design, constant.line, reason, nearest(constant.value, choices))
    _check_name(design, constant.line, constant.name, module)
    if constant.passed:
        _check_name(design, constant.line, constant.passed, module, is_member=True)


def check_text(design: Design, text: TextPlan, begins: Iterable[int], module: Module) -> None:
    """Check that a long text of a design begins on its line, `begins` being the lines on which some do.

    Raises:
        DesignError: it does not, or its name cannot be one; with the line in the design file.
    """
    lines = list(begins)
    if text.begins not in lines:
        listed = ", ".join(map(str, lines))
        advice = f"Long texts begin on line {listed}." if lines else "There is none in the script: take this away."
        raise _error(design, text.line, f"no long text begins on line {text.begins}", advice)
    if text.name:
        _check_name(design, text.line, text.name, module)


def check_part(design: Design, part: PartPlan, module: Module) -> None:
    """Check that a part of a design names a class of the script, and names that can be.

    Raises:
        DesignError: it does not; with the line in the design file and the nearest valid name.
    """
    _check_known(design, part.line, "class", part.whole, [scope.name for scope in module.classes])
    _check_name(design, part.line, part.name, module)
    _check_name(design, part.line, part.instance, module, is_member=True)
    if not part.fields:
        raise _error(design, part.line, f"{part.name} has no fields", "Give it one, or take the part away.")
    members: list[FieldPlan | MethodPlan] = [*part.fields, *part.methods]
    for member in members:
        _check_name(design, member.line, member.name, module, is_member=True)


def check_base(design: Design, base: BasePlan, module: Module) -> None:
    """Check that a base of a design names classes that there are, and has a name and a file that can be.

    Raises:
        DesignError: it does not; with the line in the design file and the nearest valid name.
    """
    for name in base.children:
        _check_known(design, base.line, "class", name, [scope.name for scope in module.classes])
    _check_name(design, base.line, base.name, module)
    _check_file(design, base.file, base.line, base.name.lower(), module)


def check_data(design: Design, plan: DataPlan, module: Module) -> None:
    """Check that a class of records is of a variable that there is, and has a name and a file that can be.

    Raises:
        DesignError: it does not; with the line in the design file and the nearest valid name.
    """
    _check_known(design, plan.line, "variable", plan.variable, [symbol.name for symbol in state(module)])
    _check_name(design, plan.line, plan.name, module)
    _check_file(design, plan.file, plan.line, plan.variable, module)


def check_question(design: Design, question: QuestionPlan, asked: Iterable[str], module: Module) -> None:
    """Check that a question of a design is one that the program asks, as its classes are then.

    Raises:
        DesignError: it is not; with the line in the design file and the nearest that is.
    """
    choices = list(asked)
    if question.asks not in choices:
        reason = f"nothing outside asks `{question.asks}`, or it is not certain whose fields they are"
        raise _error(design, question.line, reason, nearest(question.asks, choices))
    _check_name(design, question.line, question.name, module, is_member=True)


def _check_name(design: Design, line: int, name: str, module: Module, *, is_member: bool = False) -> None:
    """Refuse what cannot be a name, what the language means something by, and, but for members, its builtins."""
    rules = module.dialect.rules
    is_kept = is_member and module.scope.symbols.get(name) is not None  # a function that keeps its name
    if not rules.is_name(name) or (rules.is_reserved(name) and not is_kept) or (not is_member and rules.is_taken(name)):
        raise _error(design, line, f"`{name}` cannot be used as a name", "Choose another name.")


def _check_names(design: Design, plan: ClassPlan, module: Module) -> None:
    for name in (plan.name, plan.instance):
        _check_name(design, plan.line, name, module)
    _check_file(design, plan.file, plan.line, plan.instance, module)


def _check_file(design: Design, file: str, line: int, stem: str, module: Module) -> None:
    path = Path(file)
    is_own = path.name == module.path.name and len(path.parts) == 1
    suffix = module.dialect.files.class_suffix(module)
    if path.is_absolute() or ".." in path.parts or (path.suffix != suffix and not is_own):
        raise _error(
            design,
            line,
            f"`{file}` is not a file inside the target folder",
            f"Write a plain name such as `{stem}{suffix}`.",
        )
    if is_own:
        return  # the script's own file, which nothing has to import
    if any(not module.dialect.rules.is_name(part) for part in path.with_suffix("").parts):
        raise _error(design, line, f"`{file}` could not be imported under that name", "Use letters and `_`.")
    if _is_taken(path, module):
        raise _error(
            design,
            line,
            f"`{file}` would hide a module of that name from every import, or a package would hide it",
            f"Call it something like `{stem}_{module.path.stem}{suffix}`.",
        )


def _is_taken(path: Path, module: Module) -> bool:
    beside = module.path.parent if len(path.parts) == 1 else None
    return module.dialect.files.is_taken(path.parts[0].partition(".")[0], beside)


def _check_known(design: Design, line: int, what: str, name: str, known: Iterable[str]) -> None:
    choices = list(known)
    if name not in choices:
        raise _error(design, line, f"the script has no {what} `{name}`", nearest(name, choices))


def _check_single(design: Design, line: int, name: str, plan: ClassPlan, seen: dict[str, ClassPlan]) -> None:
    if name in seen:
        raise _error(design, line, f"`{name}` goes into {seen[name].name} and {plan.name}", "Keep one of the two.")
    seen[name] = plan


def _check_members(design: Design, plan: ClassPlan, module: Module) -> None:
    if not plan.fields:
        raise _error(design, plan.line, f"{plan.name} has no fields", "Give it one, or take the class away.")
    names: set[str] = set()
    members: list[FieldPlan | MethodPlan | QuestionPlan] = [*plan.fields, *plan.methods]
    members += plan.questions
    for line, name in [(member.line, member.name) for member in members]:
        _check_name(design, line, name, module, is_member=True)
        if name in names:
            raise _error(design, line, f"{plan.name} has two members `{name}`", "Rename one of them.")
        names.add(name)


def _check_unique(design: Design) -> None:
    names: set[str] = {design.owner}
    files: dict[str, str] = {}
    for plan in design.all_classes:
        if files.setdefault(plan.file.casefold(), plan.file) != plan.file:
            reason = f"`{files[plan.file.casefold()]}` and `{plan.file}` are one file on some systems"
            raise _error(design, plan.line, reason, "Let them differ in more than capitals.")
        for name in {plan.name, plan.instance} if isinstance(plan, ClassPlan) else {plan.name}:
            if name in names:
                raise _error(design, plan.line, f"the name `{name}` is given twice", "Rename one of them.")
            names.add(name)


def _error(design: Design, line: int, reason: str, advice: str) -> DesignError:
    return DesignError(reason, _place(design, line), advice)


def _place(design: Design, line: int) -> Place | None:
    return Place(design.path, line or None) if design.path is not None else None
