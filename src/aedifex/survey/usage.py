"""Who reads and writes what: state against routines and blocks of the main code, ordered so that clusters show."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import groupby

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import MAIN, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Statement
from aedifex.program.structure.main_code import MainCode


@dataclass(frozen=True)
class User:
    """A routine, or a block of the main code, with the variables that it reads and writes itself, by name."""

    name: str
    reads: frozenset[str]
    writes: frozenset[str]
    is_main: bool = False

    @property
    def touches(self) -> frozenset[str]:
        """All that it has to do with."""
        return self.reads | self.writes


@dataclass(frozen=True)
class Group:
    """Variables and routines that are, or would be, one class."""

    name: str
    variables: tuple[str, ...]
    routines: tuple[str, ...]


@dataclass(frozen=True)
class Usage:
    """The variables that change, who uses them, and the classes that are framed."""

    variables: tuple[str, ...]
    users: tuple[User, ...]
    groups: tuple[Group, ...] = ()


def usage(program: Program, groups: Sequence[Group] = ()) -> Usage:
    """The usage of a program's state.

    Variables of one group stand side by side, the others below; users stand in the order of what they use, by the mean
    of the variables' places (the barycentre method of K. Sugiyama, S. Tagawa and M. Toda, "Methods for visual
    understanding of hierarchical system structures", 1981).
    """
    module = program.main
    main = MainCode.of(module)
    named = {symbol: program.spellings.get(symbol.name, symbol.name) for symbol in main.variables}
    users = [user for user in [*_routines(module, named), *_blocks(program, main, named)] if user.touches]
    grouped = [name for group in groups for name in group.variables if name in named.values()]
    variables = [*grouped, *(name for name in named.values() if name not in grouped)]
    place = {name: number for number, name in enumerate(variables)}
    home = {routine: number for number, group in enumerate(groups) for routine in group.routines}
    first = [min((place[v] for v in g.variables if v in place), default=0) for g in groups]

    def order(user: User) -> tuple[float, str]:
        if user.name in home:
            return first[home[user.name]] - 0.5, user.name
        return sum(place[name] for name in user.touches) / len(user.touches), user.name

    return Usage(tuple(variables), tuple(sorted(users, key=order)), tuple(groups))


def _routines(module: Module, named: dict[Symbol, str]) -> list[User]:
    effects = Effects.of(module)
    return [
        User(
            routine.qualified_name,
            frozenset(named[s] for s in effects.direct[routine].reads if s in named),
            frozenset(named[s] for s in effects.direct[routine].writes if s in named),
        )
        for routine in module.all_functions
    ]


def _blocks(program: Program, main: MainCode, named: dict[Symbol, str]) -> list[User]:
    """The main code: its loops each alone, and what stands between them, by the lines of the script as it was read."""
    source = program.main.source
    found = []
    for is_loop, run in groupby(main.statements, key=lambda statement: statement.is_loop):
        for block in [[s] for s in run] if is_loop else [list(run)]:
            ends = (source.place(block[0].start), source.place(max(block[-1].start, block[-1].end - 1)))
            first, last = (program.original_place(place).line or place.line for place in ends)
            reads, writes = _touched(block, named)
            found.append(User(f"{MAIN} {first}-{last}", reads, writes, is_main=True))
    return found


def _touched(block: Sequence[Statement], named: dict[Symbol, str]) -> tuple[frozenset[str], frozenset[str]]:
    references = [r for statement in block for inner in statement.walk() for r in inner.references if r.symbol in named]
    reads = frozenset(named[r.symbol] for r in references if r.mode.reads or r.path)
    return reads, frozenset(
        named[r.symbol] for r in references if r.mode.writes or (r.path_mode and r.path_mode.writes)
    )
