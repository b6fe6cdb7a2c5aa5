"""Reasons why a variable or a routine cannot be moved, whatever move it is."""

from __future__ import annotations

from collections.abc import Iterable
from typing import NamedTuple

from aedifex.program.analysis.function_identity import why_not_bound
from aedifex.program.analysis.told_names import ToldNames
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import BRINGING, Function, final_name
from aedifex.program.structure.called_values import told_if_kept
from aedifex.program.structure.early_uses import fails_anyway, may_ask_for
from aedifex.program.structure.imports import stores_objects
from aedifex.program.structure.own_names import own_use_of
from aedifex.program.structure.state import is_state
from aedifex.source.text import Span

_ACROSS = "Let that file go without it first."
_WITHIN = "Put that part of the file and this one together first."


class Obstacle(NamedTuple):
    """A reason: the offset it lies at, a plain sentence, and what the user can do."""

    offset: int
    reason: str
    advice: str


def variable_obstacles(module: Module, symbol: Symbol) -> list[Obstacle]:
    """Why a module variable cannot become a field."""
    name = symbol.name
    if not is_state(symbol):
        at = symbol.references[0].start if symbol.references else 0
        return [Obstacle(at, f"`{name}` is not a variable", "Only variables become fields.")]
    found: list[Obstacle] = []
    for reference in symbol.references:
        found += _reference_obstacles(module, reference)
    foreign = symbol.forms & {Form.IMPORT, Form.ROUTINE, Form.CLASS}
    if foreign:
        form = min(foreign, key=lambda form: form.value)
        found.append(
            Obstacle(
                symbol.references[0].start,
                f"`{name}` is bound both as a variable and {form.value}",
                "Give the variable a name of its own.",
            )
        )
    is_own = any(r.declares for r in symbol.references) and not module.dialect.rules.is_kept_outside(module, symbol)
    from_elsewhere = (module.dialect.rules.is_taken(name) and not is_own) or Form.STAR in symbol.forms
    if from_elsewhere and _may_mean_other(symbol):
        found.append(
            Obstacle(
                symbol.references[0].start,
                f"`{name}` may still mean the builtin or imported thing of that name where it is first read",
                "Give the variable a name of its own.",
            )
        )
    if _is_stored_class(module, symbol):
        found.append(
            Obstacle(
                symbol.references[0].start,
                f"`{name}` is a class, and its objects may be stored under that name",
                "Write it as a class.",
            )
        )
    found += lifetime_obstacles(module, symbol)
    told = told_if_kept(module, symbol)
    if told is not None:
        reason = f"`{name}` is called, and what it holds would be told which object has it then"
        found.append(Obstacle(told.start, reason, "Let it stay at the top level."))
    star = _later_star(module, symbol)
    if star is not None:
        found.append(
            Obstacle(star.start, f"`{name}` may be set anew by this import", "Give the variable a name of its own.")
        )
    found += hindrance_obstacles(module, [name])
    if not module.dialect.rules.is_there_early(module, symbol):
        found += early_obstacles(module, symbol)
    return found


def early_obstacles(module: Module, symbol: Symbol) -> list[Obstacle]:
    """Where a name may be asked for before it is declared: that is an error today, or gives nothing."""
    declared = min((r for r in symbol.references if r.declares), key=lambda r: r.start, default=None)
    if declared is None or declared.statement is None:
        return []
    home = declared.statement.outermost
    above = (s for s in module.block.statements[: home.index] if s.kind not in BRINGING)
    early = next((s for s in above if may_ask_for(module, s, symbol)), None)
    if early is not None and fails_anyway(module, symbol):
        return []
    reason = f"`{symbol.name}` may be asked for here before it is declared"
    return [Obstacle(early.start, reason, "Move its declaration above this.")] if early is not None else []


def lifetime_obstacles(module: Module, symbol: Symbol) -> list[Obstacle]:
    """Why a variable cannot be kept by something that lives longer or shorter than the module."""
    found: list[Obstacle] = []
    if sees_itself_go(module, symbol):
        reason = f"`{symbol.name}` does something when it goes, which would be at another time"
        found.append(Obstacle(symbol.references[0].start, reason, "Let it end by a call of its own."))
    read = _read_after_delete(symbol)
    if read is not None:
        reason = f"`{symbol.name}` may be read here after it was deleted"
        found.append(Obstacle(read.start, reason, "Give it another value."))
    return found


def _read_after_delete(symbol: Symbol) -> Reference | None:
    """Where a name may be read that is not there any more: what is raised then tells what kind of name it was."""
    deleted = [r for r in symbol.references if r.mode is Mode.DELETE]
    if not deleted:
        return None
    first = min(deleted, key=lambda r: r.start)
    outermost = first.statement.outermost if first.statement is not None else None
    is_repeated = outermost is not None and outermost is not first.statement
    again = min((r.start for r in symbol.bindings if r.start > first.start and _is_certain(r)), default=None)
    reads = [r for r in symbol.references if r.mode.reads or r.path]
    for read in reads:
        is_here = read.scope in (first.scope, first.symbol.scope)
        may_follow = read.start > first.start and (again is None or read.start < again)
        if is_repeated or (may_follow if is_here else again is None):
            return read
    return None


def _is_certain(reference: Reference) -> bool:
    """Whether a binding stands in the top-level code itself, in no block."""
    return reference.statement is not None and reference.statement.block.owner is None


def sees_itself_go(module: Module, symbol: Symbol) -> bool:
    """Whether a variable may hold an object of a class of the script that does something when it goes."""
    classes = {
        r.symbol
        for function in module.all_functions
        if function.is_method and module.dialect.rules.is_finalizer(function.name)
        for r in (function.statement.block.owner.references if function.statement.block.owner is not None else ())
        if r.form is Form.CLASS
    }
    return bool(classes) and any(
        reference.symbol in classes
        for binding in symbol.bindings
        if binding.statement is not None
        for reference in binding.statement.references
    )


def _is_stored_class(module: Module, symbol: Symbol) -> bool:
    """Whether a variable holds a class made by a call, in a script that imports what stores objects."""
    library = module.dialect.library
    statements = [r.statement for r in symbol.bindings if r.statement is not None]
    makes = any(library.makes_class(final_name(c.callee)) for s in statements for c in s.calls if c.callee is not None)
    return makes and stores_objects(module)


def _later_star(module: Module, symbol: Symbol) -> Reference | None:
    """An import of all names that stands behind a binding of the symbol, and brings it or may bring it."""
    first = min((r.start for r in symbol.bindings if r.form is not Form.STAR), default=len(module.source.data))
    unknown = [star for _, star in module.unknown_stars]
    known = [r for r in symbol.references if r.form is Form.STAR]
    return next((star for star in [*known, *unknown] if star.start > first), None)


def _reference_obstacles(module: Module, reference: Reference) -> list[Obstacle]:
    if is_hard_to_echo(module, reference):
        return [
            Obstacle(
                reference.start,
                f"`{reference.name}` stands in a template that shows its own text, which would change",
                "Write the text out before the value.",
            )
        ]
    if reference.form.takes_path or reference.form in (Form.DECLARATION, Form.IMPORT, Form.STAR):
        return []
    if reference.form in (Form.ROUTINE, Form.CLASS):
        return []
    return [
        Obstacle(
            reference.start,
            f"`{reference.name}` is bound {reference.form.value}, where no field can stand",
            "Bind another name there and assign it on the next line.",
        )
    ]


def _may_mean_other(symbol: Symbol) -> bool:
    first = next(reference for reference in symbol.references if reference.form is not Form.STAR)
    if first.mode is not Mode.WRITE or first.statement is None or first.scope.kind is not ScopeKind.MODULE:
        return True
    return first.statement.block.owner is not None or any(
        r.symbol is symbol and r.mode.reads for r in first.statement.references
    )


def hindrance_obstacles(module: Module, names: Iterable[str]) -> list[Obstacle]:
    """The hindrances that may reach any of these names, and the other files that use them."""
    wanted = list(names)
    hooks = [
        Obstacle(
            _first_place(module, name),
            f"`{name}` is found by its name by {module.found_by_name[name]}",
            "Leave it at the top level.",
        )
        for name in wanted
        if name in module.found_by_name
    ]
    elsewhere = [
        Obstacle(
            _first_place(module, name),
            f"`{name}` is used by {module.used_elsewhere[name]}",
            _WITHIN if module.used_elsewhere[name].path == module.path else _ACROSS,
        )
        for name in wanted
        if name in module.used_elsewhere
    ]
    return (
        hooks
        + elsewhere
        + [
            Obstacle(
                module.source.line_starts[hindrance.line - 1],
                f"this {hindrance.reason}" if hindrance.touches is None else hindrance.reason,
                "Replace it by plain names, then try again.",
            )
            for hindrance in module.hindrances
            if any(hindrance.may_touch(name) for name in wanted)
        ]
    )


def _first_place(module: Module, name: str) -> int:
    symbol = module.scope.symbols.get(name)
    return symbol.references[0].start if symbol is not None and symbol.references else 0


def function_obstacles(module: Module, function: Function, *, keeps_decorators: bool = False) -> list[Obstacle]:
    """Why a top-level function cannot become a method, or, with its decorators, go elsewhere."""
    symbol, statement, name = function.symbol, function.statement, function.name
    start = statement.start
    if not symbol.is_module_level or statement.block.owner is not None:
        return [
            Obstacle(
                start,
                f"`{name}` is defined inside another statement",
                "Move its definition to the top level.",
            )
        ]
    found: list[Obstacle] = []
    if is_bound_again(symbol) or _later_star(module, symbol) is not None:
        found.append(Obstacle(start, f"`{name}` is bound more than once", "Give each definition a name of its own."))
    if statement.keyword is not None and module.dialect.rules.is_kept_outside(module, symbol):
        found.append(Obstacle(start, f"`{name}` is looked for under this name", "Leave it a function."))
    if statement.decorators and not keeps_decorators:
        found.append(Obstacle(start, f"`{name}` is decorated", "Take the decorator away, or leave it a function."))
    receiver = module.dialect.writer.receiver
    use = own_use_of(receiver, function)
    if use is not None:
        found.append(Obstacle(use.start, f"`{name}` uses the name `{receiver}` itself", f"Rename `{receiver}` there."))
    for reference in symbol.references:
        is_fixed = module.dialect.rules.hands_on(reference) or reads_name_only(module, reference)
        if reference.path and reference.mode is Mode.READ and not is_fixed:
            found.append(
                Obstacle(
                    reference.start,
                    f"an attribute of the function `{name}` is used, which a method would not share",
                    "Keep that value in a variable.",
                )
            )
        elif is_hard_to_echo(module, reference):
            found += _reference_obstacles(module, reference)
    found += place_obstacles(module, statement.span)
    made = next((r for r in symbol.references if module.dialect.rules.makes_object(module, r)), None)
    if made is not None:
        found.append(Obstacle(made.start, f"`{name}` makes an object here, as classes do", "Leave it a function."))
    if statement.keyword is not None:
        found += early_obstacles(module, symbol)
    trouble = why_not_bound(module, function)
    if trouble is not None:
        found.append(Obstacle(*trouble, "Compare names or numbers instead of functions, or leave it a function."))
    asked = ToldNames.of(module).told_whole(function)
    if asked is not None:
        reason = f"`{name}` is used as a value, and may be asked for its name here, which a method would not share"
        found.append(Obstacle(asked, reason, "Write the name out, or leave it a function."))
    found += _private_obstacles(module, function)
    found += hindrance_obstacles(module, [name])
    return found


def place_obstacles(module: Module, span: Span) -> list[Obstacle]:
    """What in a stretch of the text would mean something else inside a class."""
    advice = "Write it in a way that means the same everywhere."
    return [Obstacle(at, reason, advice) for at, reason in module.only_outside if span.start <= at < span.end]


def reads_name_only(module: Module, reference: Reference) -> bool:
    """Whether nothing but the name of a function is read, which a method of that name shares."""
    steps = [step.name for step in reference.path]
    rules = module.dialect.rules
    is_shared = rules.name_attribute not in rules.full_name_attributes
    return is_shared and steps == [rules.name_attribute] and reference.path_mode is Mode.READ


def told_name(module: Module, function: Function) -> int | None:
    """Where a function's name is asked for while the program runs, so that a method must be called the same."""
    told = next((r.start for r in function.symbol.references if reads_name_only(module, r)), None)
    return told if told is not None else ToldNames.of(module).told(function)


def is_bound_again(symbol: Symbol) -> bool:
    """Whether more than one definition binds a symbol; a star import does not count if nothing saw its value."""
    writes = [r for r in symbol.references if r.mode.writes and r.form is not Form.STAR]
    if len(writes) != 1:
        return True
    first = writes[0]
    return any(r.form is Form.STAR for r in symbol.references) and any(
        r.mode.reads and r.scope.kind is ScopeKind.MODULE and r.start < first.start for r in symbol.references
    )


def _private_obstacles(module: Module, routine: Function) -> list[Obstacle]:
    for scope in routine.scope.walk():
        for use in scope.uses:
            if scope.private is None and module.dialect.rules.is_private(use.name):
                return [
                    Obstacle(
                        use.start,
                        f"the name `{use.name}` would mean something else inside a class",
                        "Let it begin with one underscore.",
                    )
                ]
    return []


def is_hard_to_echo(module: Module, reference: Reference) -> bool:
    """Whether a reference stands in a template that shows its own text, in a form that cannot be written out."""
    echo = module.echo_at(reference.start)
    return echo is not None and module.dialect.writer.is_hard_to_spell(module.source.slice(echo.expression))
