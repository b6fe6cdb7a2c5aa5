"""Measures of a modular design, from the literature: cohesion, coupling, complexity, and what stands loose."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import comb
from statistics import fmean

from aedifex.program.analysis.effects import Actor, Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Kind, Role, Statement
from aedifex.program.structure.main_code import MainCode


@dataclass(frozen=True)
class Part:
    """A class as it is or would be: its fields, and the routines that are its methods; None is the main code."""

    fields: frozenset[Symbol]
    routines: tuple[Actor, ...]


@dataclass(frozen=True)
class Measures:
    """One state of a program in figures.

    `tight` is tight class cohesion, from 0 to 1, the more the better; `lack` the lack of cohesion in methods, about 0
    to 1, the less the better; both are None where no class has methods and fields enough to tell. `coupling` is the
    mean number of other classes that a class uses. `complexity` is the largest cyclomatic complexity of a routine or of
    the main code, `longest` the lines of the longest of them; `main_lines` are those of the main code, `variables` how
    many writable module variables there are.
    """

    tight: float | None
    lack: float | None
    coupling: float
    complexity: int
    longest: int
    main_lines: int
    variables: int


def whole_script(module: Module) -> Part:
    """The script as one part: all its variables, functions and main code."""
    return Part(frozenset(MainCode.of(module).variables), (*module.functions, None))


def measures(module: Module, parts: Sequence[Part], made: Iterable[Module]) -> Measures:
    """The figures of a module divided into parts, and of the modules that are made of it, the main one first."""
    effects, modules = Effects.of(module), list(made)
    main = MainCode.of(modules[0])
    tight = [value for part in parts if (value := tight_cohesion(effects, part)) is not None]
    lack = [value for part in parts if (value := lack_of_cohesion(effects, part)) is not None]
    return Measures(
        fmean(tight) if tight else None,
        fmean(lack) if lack else None,
        fmean(coupling(effects, part, parts) for part in parts) if parts else 0.0,
        max(map(most_complex, modules)),
        max(map(longest, modules)),
        main.lines,
        len(main.variables),
    )


def tight_cohesion(effects: Effects, part: Part) -> float | None:
    """The share of pairs of methods that use a field in common; None for less than two methods, or no field.

    J. M. Bieman, B.-K. Kang, "Cohesion and reuse in an object-oriented system", SSR 1995.
    """
    used = Counter(map(frozenset, _used_fields(effects, part)))
    pairs = comb(used.total(), 2)
    if not pairs or not part.fields:
        return None
    alike = sum(comb(count, 2) for fields, count in used.items() if fields)
    joined = sum(used[one] * used[other] for one, other in combinations(used, 2) if not one.isdisjoint(other))
    return (alike + joined) / pairs


def lack_of_cohesion(effects: Effects, part: Part) -> float | None:
    """LCOM*: how far the fields are from being used by all methods; None for less than two methods or no field.

    B. Henderson-Sellers, "Object-oriented metrics: measures of complexity", 1996.
    """
    used = _used_fields(effects, part)
    if len(used) < 2 or not part.fields:
        return None
    users = Counter(field for fields in used for field in fields)
    each = fmean(users[field] for field in part.fields)
    return (len(used) - each) / (len(used) - 1)


def coupling(effects: Effects, part: Part, parts: Iterable[Part]) -> int:
    """How many other parts one uses, their fields or their methods.

    S. R. Chidamber, C. F. Kemerer, "A metrics suite for object oriented design", IEEE TSE 20(6), 1994.
    """
    touched = {symbol for actor in part.routines for symbol in effects.direct[actor].touches}
    called = {callee for actor in part.routines for callee in effects.calls.get(actor, ())}
    return sum(
        other is not part and (not touched.isdisjoint(other.fields) or not called.isdisjoint(set(other.routines)))
        for other in parts
    )


def most_complex(module: Module) -> int:
    """The largest cyclomatic complexity of a routine or of the main code.

    T. J. McCabe, "A complexity measure", IEEE TSE 2(4), 1976; each condition counts once, however it is composed.
    """
    bodies = [function.body.statements for function in module.all_functions]
    return max(complexity(statements) for statements in [*bodies, MainCode.of(module).statements])


def longest(module: Module) -> int:
    """The lines of the longest routine or of the main code."""
    lines = (module.source.lines_of(function.statement.span) for function in module.all_functions)
    return max([MainCode.of(module).lines, *(last - first + 1 for first, last in lines)])


def complexity(statements: Iterable[Statement]) -> int:
    """One more than the decisions in some statements, those of inner routines left out."""
    return 1 + sum(_decisions(inner) for statement in statements for inner in statement.walk())


def _decisions(statement: Statement) -> int:
    if statement.is_loop:
        return 1
    if statement.kind in (Kind.BRANCH, Kind.CHOICE):
        return sum(block.role is not Role.OTHERWISE for block in statement.blocks)
    if statement.kind is Kind.GUARDED:
        return sum(block.role is Role.HANDLER for block in statement.blocks)
    return 0


def _used_fields(effects: Effects, part: Part) -> list[set[Symbol]]:
    return [effects.direct[actor].touches & part.fields for actor in part.routines]
