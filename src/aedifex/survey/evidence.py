"""What speaks for state and routines belonging together, as a weighted graph with a reason on each edge."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from enum import Enum
from functools import cached_property
from itertools import combinations, pairwise

from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Block, Kind, Routine, Statement
from aedifex.program.structure.layout import Layout
from aedifex.survey.words import nouns_of


@dataclass(frozen=True, slots=True)
class Field:
    """A field of a class that the script itself defines."""

    name: str


Variable = Symbol | Field
Node = Variable | Routine
"""A variable, a field or a routine."""


class Ground(Enum):
    """On what ground two nodes belong together, in words that go before the other's name."""

    USE = "is used in"
    CALL = "goes with"
    STATEMENT = "stands in statements with"
    WORD = "shares a word with"
    SECTION = "shares its section with"
    PLACE = "is set beside"


@dataclass(frozen=True)
class Weights:
    """How much each kind of evidence counts; what begins with `many` is the power by which numbers weaken it."""

    write: float = 3.0
    read: float = 2.0
    call: float = 1.3
    statement: float = 1.0
    word: float = 1.3
    routine_word: float = 0.6
    section: float = 0.6
    neighbour: float = 1.0
    computed: float = 0.4
    many_touched: float = 0.5
    many_users: float = 0.3
    many_callers: float = 0.7
    many_words: float = 0.5
    many_in_section: float = 0.5


class Ties:
    """A weighted graph of nodes, with the grounds of each edge."""

    def __init__(self, nodes: Iterable[Node]) -> None:
        self.edges: dict[Node, dict[Node, float]] = {node: {} for node in nodes}
        self._grounds: dict[tuple[Node, Node], dict[Ground, float]] = defaultdict(dict)

    def add(self, one: Node, other: Node, weight: float, ground: Ground) -> None:
        """Note that something speaks for two nodes belonging together."""
        if one is other or weight <= 0:
            return
        self.edges[one][other] = self.edges[one].get(other, 0.0) + weight
        self.edges[other][one] = self.edges[other].get(one, 0.0) + weight
        known = self._grounds[(other, one) if (other, one) in self._grounds else (one, other)]
        known[ground] = known.get(ground, 0.0) + weight

    def grounds(self, one: Node, other: Node) -> Mapping[Ground, float]:
        """How much speaks on each ground for two nodes belonging together."""
        return self._grounds.get((one, other)) or self._grounds.get((other, one)) or {}


class Evidence:
    """The evidence on some variables of a module, and on the routines that have to do with them.

    `weak` and `verbs` are the words that say something about a thing and do not name it; `full` are names written out.
    """

    def __init__(
        self,
        module: Module,
        variables: Sequence[Variable],
        weak: frozenset[str],
        verbs: frozenset[str],
        weights: Weights | None = None,
        full: Mapping[str, str] | None = None,
    ) -> None:
        self.module = module
        self.full = full or {}
        self.variables: list[Variable] = list(variables)
        self.weak = weak
        self.verbs = verbs
        self.weights = weights or Weights()
        self.effects = Effects.of(module)
        self._known = set(variables)

    @cached_property
    def routines(self) -> list[Routine]:
        """The module's own functions that have to do with the variables, themselves or through others."""
        return [
            function
            for function in self.module.functions
            if not self._known.isdisjoint(self.effects.transitive[function].touches)
        ]

    @cached_property
    def ties(self) -> Ties:
        """All that speaks for two of the variables and routines belonging together."""
        ties = Ties([*self.variables, *self.routines])
        self._use(ties)
        self._calls(ties)
        self._statements(ties)
        self._words(ties)
        self._places(ties)
        return ties

    @property
    def edges(self) -> dict[Node, dict[Node, float]]:
        """How strongly each two nodes belong together; the same in both directions."""
        return self.ties.edges

    def grounds(self, one: Node, other: Node) -> Mapping[Ground, float]:
        """How much speaks on each ground for two nodes belonging together."""
        return self.ties.grounds(one, other)

    # -- what they do

    def _use(self, ties: Ties) -> None:
        """A routine and the variables that it reads and writes itself; one that touches many says less of each."""
        users = Counter(v for r in self.routines for v in self._touched(r))
        for routine in self.routines:
            touched, written = self._touched(routine), self._written(routine)
            for variable in touched:
                strength = self.weights.write if variable in written else self.weights.read
                many = len(touched) ** self.weights.many_touched * users[variable] ** self.weights.many_users
                ties.add(routine, variable, strength / many, Ground.USE)

    def _touched(self, routine: Routine) -> list[Variable]:
        touches = self.effects.direct[routine].touches
        return [variable for variable in self.variables if variable in touches]

    def _written(self, routine: Routine) -> Collection[Variable]:
        return self.effects.direct[routine].writes

    def _callees(self, routine: Routine) -> Collection[Routine]:
        return self.effects.calls[routine]

    def _calls(self, ties: Ties) -> None:
        """A routine and those that it calls; one that many call belongs to none of them."""
        known = set(self.routines)
        callers = Counter(callee for r in self.routines for callee in self._callees(r) if callee in known)
        for routine in self.routines:
            for callee in self._callees(routine):
                if callee in known:
                    ties.add(
                        routine, callee, self.weights.call / callers[callee] ** self.weights.many_callers, Ground.CALL
                    )

    def _statements(self, ties: Ties) -> None:
        """Variables that stand in one statement, or of which one is computed from the other."""
        for statement in self.module.walk():
            if statement.kind in (Kind.ROUTINE, Kind.CLASS, Kind.DECLARE):
                continue
            here = list(dict.fromkeys(self._named_in(statement)))
            if 1 < len(here) <= 6:
                share = self.weights.statement / (len(here) - 1)
                if statement.kind in (Kind.ASSIGN, Kind.UPDATE):
                    share += self.weights.computed / (len(here) - 1)
                for one, other in combinations(here, 2):
                    ties.add(one, other, share, Ground.STATEMENT)

    def _named_in(self, statement: Statement) -> Iterator[Variable]:
        return (r.symbol for r in statement.references if r.symbol in self._known)

    # -- what they are called

    @cached_property
    def nouns(self) -> dict[Node, list[str]]:
        """The words of each name that may name a thing."""
        nodes: list[Node] = [*self.variables, *self.routines]
        return {node: self._nouns(self.full.get(node.name, node.name)) for node in nodes}

    def _nouns(self, name: str) -> list[str]:
        words = [word for word in nouns_of(name) if len(word) > 1]
        return [w for w in words if w not in self.weak and w not in self.verbs] or [w for w in words if len(w) > 2][:1]

    def _words(self, ties: Ties) -> None:
        """Names that share a word: the rarer it is and the further in front it stands, the more that says."""
        having: dict[str, list[Node]] = defaultdict(list)
        for node, nouns in self.nouns.items():
            for noun in dict.fromkeys(nouns):
                having[noun].append(node)
        for noun, nodes in having.items():
            variables = sum(1 for node in nodes if not isinstance(node, Routine))
            if len(nodes) < 2 or not variables:
                continue
            rarity = 1.0 / (len(nodes) - 1) ** self.weights.many_words
            leading = sum(1 for n in nodes if not isinstance(n, Routine) and self.nouns[n][0] == noun) / variables
            for one, other in combinations(nodes, 2):
                both = not isinstance(one, Routine) and not isinstance(other, Routine)
                neither = isinstance(one, Routine) and isinstance(other, Routine)
                base = self.weights.word if both else self.weights.routine_word * (0.5 if neither else 1.0)
                ties.add(one, other, base * rarity * (0.4 + 0.6 * leading), Ground.WORD)

    # -- where they stand

    def _places(self, ties: Ties) -> None:
        """Variables of one section, and those whose first values stand one below the other."""
        layout = Layout.of(self.module)
        first = {v: self._first_set(v) for v in self.variables}
        sections: dict[object, list[Variable]] = defaultdict(list)
        for variable, statement in first.items():
            heading = layout.section_of(statement) if statement is not None else None
            if heading is not None:
                sections[heading].append(variable)
        for together in sections.values():
            for one, other in combinations(together, 2):
                ties.add(
                    one, other, self.weights.section / len(together) ** self.weights.many_in_section, Ground.SECTION
                )
        placed = [(v, s) for v, s in first.items() if s is not None and s.block is self._home]
        for (one, before), (other, after) in pairwise(placed):
            ties.add(one, other, self.weights.neighbour * self._nearness(before, after), Ground.PLACE)

    @property
    def _home(self) -> Block | None:
        """The block in which variables get their first values."""
        return self.module.block

    def _first_set(self, variable: Variable) -> Statement | None:
        return variable.references[0].statement if isinstance(variable, Symbol) else None

    def _nearness(self, before: Statement, after: Statement) -> float:
        source = self.module.source
        gap = source.line_of(after.start) - source.line_of(max(before.start, before.end - 1))
        return 1.0 if gap <= 1 else 0.3 if gap == 2 else 0.0
