"""The facts that `survey` shows and that a draft is made from."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

from aedifex.program.analysis.effects import Actor, Effects
from aedifex.program.model.hindrance import Hindrance
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.main_function import main_function_of
from aedifex.program.structure.state import Constants, is_state, state
from aedifex.survey.kinds.facts import KindFact, kind_facts
from aedifex.survey.measures import Measures, measures, whole_script


@dataclass(frozen=True)
class StateFact:
    """One module variable: where it is first bound, and who reads and writes it, by qualified name.

    `writes` are all that may change it: those that bind it anew (`rebinds`), and those that may change the object it
    holds. `elsewhere` is the first place in another file of the program that uses it.
    """

    name: str
    line: int
    constant: bool
    reads: tuple[str, ...]
    writes: tuple[str, ...]
    rebinds: tuple[str, ...]
    elsewhere: str = ""


@dataclass(frozen=True)
class RoutineFact:
    """One function or method. `state_reads` and `state_writes` include what the routines it calls do."""

    name: str
    line: int
    end_line: int
    parameters: tuple[str, ...]
    calls: tuple[str, ...]
    state_reads: tuple[str, ...]
    state_writes: tuple[str, ...]

    @property
    def lines(self) -> int:
        """How many lines it has, its heading included."""
        return self.end_line - self.line + 1


@dataclass(frozen=True)
class ModuleFacts:
    """All facts about one file. `main_lines` counts the lines of top-level code that does something.

    `whole` names the function that is the whole program, if one is: its locals are the state then. `kinds` are the
    things that occur several times in one shape.
    """

    path: Path
    language: str
    lines: int
    main_lines: int
    state: tuple[StateFact, ...]
    routines: tuple[RoutineFact, ...]
    classes: tuple[str, ...]
    hindrances: tuple[Hindrance, ...]
    measures: Measures
    whole: str = ""
    kinds: tuple[KindFact, ...] = ()

    @property
    def variables(self) -> tuple[StateFact, ...]:
        """The state that changes."""
        return tuple(fact for fact in self.state if not fact.constant)

    @property
    def longest_routine(self) -> int:
        """Lines of the longest routine, or of the main code where that is longer."""
        return max([self.main_lines, *(routine.lines for routine in self.routines)])


def survey(program: Program) -> list[ModuleFacts]:
    """The facts about each file of a program."""
    return [_survey_module(module) for module in program.modules.values()]


def _survey_module(module: Module) -> ModuleFacts:
    effects = Effects.of(module)
    constants = Constants.of(module)
    return ModuleFacts(
        path=module.path,
        language=module.dialect.name,
        lines=module.source.line_count,
        main_lines=MainCode.of(module).lines,
        state=tuple(_state_fact(module, effects, constants, symbol) for symbol in state(module)),
        routines=tuple(_routine_fact(module, effects, function) for function in module.all_functions),
        classes=tuple(scope.qualified_name for scope in module.scope.walk() if scope.kind is ScopeKind.CLASS),
        hindrances=tuple(module.hindrances),
        measures=measures_before(module),
        whole=whole.function.name if (whole := main_function_of(module)) is not None else "",
        kinds=kind_facts(module),
    )


def measures_before(module: Module) -> Measures:
    """The figures of a script as it stands, all of it taken as one class."""
    return measures(module, [whole_script(module)], [module])


def _state_fact(module: Module, effects: Effects, constants: Constants, symbol: Symbol) -> StateFact:
    reads, writes, rebinds = [], [], []
    for actor, effect in effects.direct.items():
        name = actor_name(actor)
        if symbol in effect.reads:
            reads.append(name)
        if symbol in effect.writes:
            writes.append(name)
        if symbol in effect.rebinds:
            rebinds.append(name)
    first = next((r for r in symbol.references if r.binds), symbol.references[0])
    return StateFact(
        symbol.name,
        module.source.line_of(first.start),
        symbol in constants,
        _unique(reads),
        _unique(writes),
        _unique(rebinds),
        str(module.used_elsewhere.get(symbol.name, "")),
    )


def actor_name(actor: Actor) -> str:
    """The qualified name of who acts: a lambda counts as the routine around it."""
    while actor is not None and not isinstance(actor, Function):
        scope = actor.scope.parent
        while scope is not None and scope.routine is None:
            scope = scope.parent
        actor = scope.routine if scope is not None else None
    return MAIN if actor is None else actor.qualified_name


def _routine_fact(module: Module, effects: Effects, function: Function) -> RoutineFact:
    source, effect = module.source, effects.transitive[function]
    calls = {actor_name(callee) for callee in effects.calls[function] if isinstance(callee, Function)}
    return RoutineFact(
        function.qualified_name,
        source.line_of(function.named.start),
        source.lines_of(function.statement.span)[1],
        tuple(parameter.name for parameter in function.parameters),
        tuple(sorted(calls)),
        _state_names(effect.reads),
        _state_names(effect.writes),
    )


def _state_names(symbols: set[Symbol]) -> tuple[str, ...]:
    return tuple(sorted(s.name for s in symbols if s.is_module_level and is_state(s)))


def _unique(names: list[str]) -> tuple[str, ...]:
    return tuple(dict.fromkeys(names))
