"""Lists of records that become classes of their own: found for a draft, and carried out for a design."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field

from aedifex.design.document.check import check_data
from aedifex.design.document.design import DataPlan, Design
from aedifex.design.drafting.naming import Names
from aedifex.moves.gather_data import GatherData
from aedifex.moves.kit.binding_check import attempted, perform
from aedifex.moves.name_part import NamePart
from aedifex.moves.rename import Rename
from aedifex.program.analysis.holding.holding import Holding
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.program import Program
from aedifex.program.structure.routes import Routes
from aedifex.program.structure.shared_modules import replaceable
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.kinds.records import is_only_looked_for
from aedifex.survey.lookups import askings, lists_looked_in, tables_of_records
from aedifex.survey.missing_records import missed_records
from aedifex.survey.words import singular, words_of

_DATA = "data"


@dataclass
class Gathered:
    """A program with classes of its lists of records, and the plans of these."""

    program: Program
    plans: list[DataPlan] = field(default_factory=list)


def find_data(program: Program) -> Gathered:
    """Make a class of each list or table in which functions look for one record, where that can be done."""
    done, module = Gathered(program), program.main
    found = lists_looked_in(module)
    found += [s for s in tables_of_records(module) if _hides(module, s)]
    for variable in [symbol.name for symbol in found]:
        names = Names(done.program.main, replaceable(done.program))
        plan = DataPlan(names.class_name(words_of(variable)), names.file(variable, _DATA), variable)
        try:
            done.program = _with(done.program, plan)
        except RefusedError:
            continue
        done.plans.append(plan)
    return done


def _spots(program: Program, variable: str) -> Iterator[tuple[str, int]]:
    """The handlers that fail where data does not have what a request asks for, with the lines of the script."""
    for missed in missed_records(program.main, program.main.scope.symbols[variable]):
        statement = missed.whole.statement
        lines = program.original_lines_of([statement]) if statement is not None else None
        yield missed.handler.name, lines[0] if lines is not None else 0


def _hides(module: Module, table: Symbol) -> bool:
    """Whether a class would keep a table to itself: it is asked for what is under a key, and nothing else of it.

    Where what is there is asked for nothing in turn, there is nothing to keep. What never changes, and all tables of a
    script that answers requests, are data, whatever else is asked of them.
    """
    asked = len(askings(module, table))
    if asked == 0:
        return False
    reads = sum(reference.mode is Mode.READ for reference in table.references)
    holdings = Holdings.of(module)
    elements = _elements(holdings, table)
    if elements and all(is_only_looked_for(holdings, element) for element in elements):
        return False
    return asked == reads or bool(Routes.of(module).handlers) or not _may_change(module, table)


def _elements(holdings: Holdings, table: Symbol) -> list[Holding]:
    """What a table holds."""
    held = holdings.of_symbol(table)
    return [each.now for each in (*held.parts.values(), *([held.element] if held.element is not None else []))]


def _may_change(module: Module, table: Symbol) -> bool:
    """Whether the script gives another value to a field of one of the things in a table."""
    holdings = Holdings.of(module)
    elements = _elements(holdings, table)
    kinds = {scope for element in elements if (scope := class_of_objects(holdings, element)) is not None}
    constructors = {f.scope for f in module.all_functions if module.dialect.rules.is_constructor(f.name)}
    changed = (r for r in module.references if r.path_mode is not None and r.path_mode.writes)
    return any(
        (r.symbol is table and len(r.path) > 1)
        or (r.scope not in constructors and class_of_objects(holdings, holdings.of_symbol(r.symbol)) in kinds)
        for r in changed
    )


def with_data(program: Program, design: Design) -> Program:
    """The program with the classes of lists that a design asks for; those that it has already stay.

    Raises:
        DesignError: the script has no such list.
        RefusedError: it cannot become a class.
    """
    for plan in design.data:
        if plan.name not in [scope.name for scope in program.main.classes]:
            check_data(design, plan, program.main)
            program = _with(program, plan)
    return program


def _with(program: Program, plan: DataPlan) -> Program:
    path = program.main.path
    program = attempted(program, NamePart(path, plan.variable))
    plan.spots = list(_spots(program, plan.variable))
    program = perform(program, GatherData(path, plan.variable, plan.name, plan.missing))
    plan.methods = _methods(program.main, plan.name)
    if (name := _name_beside_functions(program.main, plan.variable)) is not None:
        program = attempted(program, Rename(path, plan.variable, name))
    return program


def _methods(module: Module, class_name: str) -> list[str]:
    """The methods of a class, in their order, but for its constructor."""
    scope = next(scope for scope in module.classes if scope.name == class_name)
    own = [function.name for function in module.all_functions if function.scope.parent is scope]
    return [name for name in own if not module.dialect.rules.is_constructor(name)]


def _name_beside_functions(module: Module, variable: str) -> str | None:
    """What data is called whose name, spelled as that of a field, is a function's; None where it can have its own."""
    naming = module.dialect.naming
    spelled = naming.as_field(variable)
    if spelled == variable or spelled not in module.names_in_use:
        return None
    *words, last = words_of(spelled)
    name = naming.joined(*words, singular(last), _DATA)
    return name if name not in module.names_in_use else None
