"""Kinds that are stored as columns: lists side by side, in which one number means the same thing."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.statements import Block, Statement
from aedifex.program.structure.obstacles import Obstacle
from aedifex.program.structure.state import Constants, is_called_constant, state
from aedifex.survey.kinds.column_uses import ColumnUses, read_uses
from aedifex.survey.kinds.plain_values import is_plain
from aedifex.survey.kinds.spread_lists import spread
from aedifex.survey.words import nouns_of

_FEWEST = 2
_READING = frozenset({Handling.LOOKS, Handling.SORTS, Handling.ELEMENT, Handling.MAKES})
_ADVICE = "Leave these lists as they are, or write that part in another way first."


@dataclass(frozen=True)
class ColumnKind:
    """Things that are kept in lists side by side, one for each of their properties."""

    module: Module
    columns: tuple[Symbol, ...]

    @cached_property
    def uses(self) -> ColumnUses:
        """How the columns are used."""
        return read_uses(self.module, self.columns)

    @property
    def obstacles(self) -> list[Obstacle]:
        """Why no class can be made of them."""
        return self.uses.obstacles

    @property
    def names(self) -> list[str]:
        """The names of the lists."""
        return [column.name for column in self.columns]

    def values(self, column: Symbol) -> list[Expression]:
        """All first values that elements of a column get."""
        found = [row.parts[column] for row in (*self.uses.additions, *self.uses.placings)]
        for row in self.uses.starts:
            found += row.parts[column].parts
        return found

    @property
    def only_fills_another(self) -> bool:
        """Whether all that asks for what stands in the columns is one loop, which puts something into another list."""
        places = {_loop_around(part.statement) for part in self.uses.elements}
        places |= {walk.header.statement for walk in self.uses.walks}
        is_filled = self.uses.additions or self.uses.placings
        loop = places.pop() if len(places) == 1 and not is_filled else None
        adds, calls = self.module.dialect.library.handling_by_method, (loop.walk() if loop is not None else ())
        filled = (call.callee for statement in calls for call in statement.calls)
        return any(c is not None and c.path and adds(c.path[-1].name or "") is Handling.ADDS for c in filled)

    def is_fixed(self, column: Symbol) -> bool:
        """Whether all things begin with the same plain value in a column."""
        values = self.values(column)
        texts = {self.module.source.slice(value.span) for value in values}
        is_repeated = len(values) > 1 or bool(self.uses.additions)
        return len(texts) == 1 and is_repeated and all(map(is_plain, values))


def _loop_around(statement: Statement | None) -> Statement | None:
    """The innermost loop that a statement stands in."""
    blocks = statement.block.outwards() if statement is not None else ()
    return next((b.owner for b in blocks if b.owner is not None and b.owner.is_loop), None)


def column_kinds(module: Module) -> list[ColumnKind]:
    """The kinds that a file keeps as columns at its top level, in the order of the text."""
    return ColumnKinds.of(module).kinds


class ColumnKinds(Analysis):
    """Finds lists that belong side by side: filled in the same lines, or asked for the same numbers."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        self.kinds: list[ColumnKind] = []
        self.surroundings = Surroundings.of(module)
        if module.hindrances:
            return
        lists = [symbol for symbol in state(module) if self._is_list(symbol)]
        constants = Constants.of(module)
        links = self._links(lists)
        while links:
            group = [links.pop(0)]
            for pair in list(links):
                if any(set(pair) & set(other) for other in group):
                    links.remove(pair)
                    group.append(pair)
            # what was passed over before may hang on what came in later
            late = [pair for pair in links if any(set(pair) & set(other) for other in group)]
            for pair in late:
                links.remove(pair)
                group.append(pair)
            columns = sorted({s for pair in group for s in pair}, key=lambda s: s.references[0].start)
            are_constant = all(constants.settles(s) and is_called_constant(module, s) for s in columns)
            if len(columns) >= _FEWEST and not are_constant:
                self.kinds.append(ColumnKind(module, tuple(columns)))
        self.kinds.sort(key=lambda kind: kind.columns[0].references[0].start)

    def _is_list(self, symbol: Symbol) -> bool:
        """Whether every value that a variable is given is a list whose elements are known."""
        found = False
        for reference in symbol.bindings:
            name = self.surroundings.of_reference(reference)
            around = self.surroundings.around(name) if name is not None else None
            is_given = around is not None and around.sense is Sense.SET and len(around.parts) == 2
            if not is_given or around is None or spread(self.module, around.parts[1]) is None:
                return False
            found = True
        return found

    def _links(self, lists: Sequence[Symbol]) -> list[tuple[Symbol, Symbol]]:
        asked = {symbol: self._asked_for(symbol) for symbol in lists}
        filled = {symbol: self._filled_in(symbol) for symbol in lists}
        shortened = {symbol: self._shortened_in(symbol) for symbol in lists}
        sizes = {symbol: self._sizes(symbol) for symbol in lists}
        found: list[tuple[Symbol, Symbol]] = []
        for one, other in combinations(lists, 2):
            if sizes[one] != sizes[other] or shortened[one] != shortened[other]:
                continue
            if shortened[one]:
                found.append((one, other))
                continue
            shared, all_asked = asked[one] & asked[other], asked[one] | asked[other]
            is_alike = bool(set(nouns_of(one.name)) & set(nouns_of(other.name)))
            if filled[one] or filled[other]:
                is_asked_apart = asked[one] and asked[other] and not shared
                if filled[one] == filled[other] and (is_alike or not is_asked_apart):
                    found.append((one, other))
                continue
            are_same = {s.name for s in asked[one]} == {s.name for s in asked[other]} == {s.name for s in shared}
            has_some = sum(sizes[one]) or (self._is_placed(one) and self._is_placed(other))
            if shared and (is_alike or are_same or 2 * len(shared) >= len(all_asked)) and has_some:
                found.append((one, other))
        return found

    def _asked_for(self, symbol: Symbol) -> set[Symbol]:
        """The variables that numbers for a list come from."""
        found: set[Symbol] = set()
        for reference in symbol.references:
            name = self.surroundings.of_reference(reference)
            around = self.surroundings.around(name) if name is not None else None
            if around is not None and around.sense is Sense.PART and around.parts[0] is name:
                found |= {i.reference.symbol for i in around.parts[1].walk() if i.reference is not None}
        return found

    def _filled_in(self, symbol: Symbol) -> Counter[Block]:
        """The blocks in which a list gets one more element."""
        found: Counter[Block] = Counter()
        for reference in symbol.references:
            method = reference.path[0].name if len(reference.path) == 1 else None
            handling = self.module.dialect.library.handling_by_method(method) if method else None
            if handling is Handling.ADDS and reference.statement is not None:
                found[reference.statement.block] += 1
        return found

    def _is_placed(self, symbol: Symbol) -> bool:
        """Whether elements of a list get values by their numbers, where that makes it longer."""
        is_set = (r.path_mode is Mode.WRITE and len(r.path) == 1 for r in symbol.references)
        return self.module.dialect.rules.ends_silently and any(is_set)

    def _shortened_in(self, symbol: Symbol) -> Counter[Block]:
        """The blocks in which an element of a list goes."""
        handling, gone = self.module.dialect.library.handling_by_method, (Handling.TAKES, Handling.SPLICES)
        one_step = [r for r in symbol.references if len(r.path) == 1 and r.statement is not None]
        going = [r for r in one_step if r.path_mode is Mode.DELETE or handling(r.path[0].name or "") in gone]
        return Counter(r.statement.block for r in going if r.statement is not None)

    def _sizes(self, symbol: Symbol) -> list[int]:
        sizes: list[int] = []
        for reference in symbol.bindings:
            name = self.surroundings.of_reference(reference)
            around = self.surroundings.around(name) if name is not None else None
            listed = spread(self.module, around.parts[1]) if around is not None else None
            sizes.append(len(listed.parts) if listed is not None else 0)
        return sizes
