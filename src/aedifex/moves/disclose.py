"""disclose: what a routine that is called at once keeps, and the functions that it gives back, come to the top level.

They are called after the variable that held these: state and functions of one thing, as all other moves know them.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.named_function import function_named
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting, Variable
from aedifex.program.dialect.writer import Piece
from aedifex.program.dialect.written import WrittenMember
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Lambda
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span
from aedifex.survey.kinds.closed_modules import ClosedModule, closed_module
from aedifex.survey.words import words_of


@dataclass(frozen=True)
class Disclose:
    """Bring what a variable hides to the top level: what a routine declares, and the functions that it gives back."""

    name: ClassVar[str] = "disclose"

    path: Path
    variable: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: there is no such routine, or something speaks against it.
        """
        module = module_of(program, self.path)
        found = closed_module(module, self.variable)
        if found is None:
            raise RefusedError(f"`{self.variable}` is not what a routine, called at once, gives back of its functions")
        return _Disclosing(module, found).plan()


def names_at_the_top(closed: ClosedModule) -> dict[str, str]:
    """What the routine declares and gives back is called at the top level, each with its name as a member."""
    return _Disclosing(closed.module, closed).members


class _Disclosing(Planner):
    def __init__(self, module: Module, closed: ClosedModule) -> None:
        super().__init__(module)
        self.closed = closed
        others = {r.name for r in module.references if r.symbol not in closed.own}
        self.taken = {*module.names_in_use} - ({symbol.name for symbol in closed.own} - others)

    def find_objections(self) -> None:
        for obstacle in self.closed.obstacles:
            self.object(*obstacle)

    def write(self) -> None:
        lines = self.layout.own_lines(self.closed.statement)
        pieces = [*self.declared(), *self.functions()]
        self.rewriting.changes.replace(self.module.path, lines, *pieces)
        gone = {r for r in self.module.references_within(self.closed.giving.span) if not self.is_carried(r.start)}
        for symbol, name in self.names.items():
            for reference in (r for r in symbol.references if r not in gone):
                self.rewriter.replace(reference, name, Renamed(name))
        for use in self.closed.symbol.references:
            member = self.closed.member_of(use)
            if member is not None:
                span = Span(use.start, use.path[0].end)
                self.rewriter.replace(use, self.name_of(member), Variable(self.name_of(member)), span)
                self.rewriting.paths[use] = ()
        self.rewriter.drop([*gone, *(r for r in self.closed.symbol.references if r.binds)])

    def is_carried(self, at: int) -> bool:
        """Whether an offset stands in a nameless function that is given back."""
        return any(routine.scope.start <= at < routine.scope.end for _, routine in self.nameless)

    @property
    def nameless(self) -> list[tuple[WrittenMember, Lambda]]:
        return [(member, routine) for member, routine in self.closed.given if isinstance(routine, Lambda)]

    @cached_property
    def names(self) -> dict[Symbol, str]:
        """What is called how at the top level: functions that are given back under one name by that."""
        keys: dict[Symbol, list[str]] = {}
        for member, routine in self.closed.given:
            if isinstance(routine, Function):
                keys.setdefault(routine.symbol, []).append(member.name)
        wishes = {
            symbol: keys[symbol][0] if len(keys.get(symbol, ())) == 1 else symbol.name for symbol in self.closed.own
        }
        return {symbol: self.free_name(wish) for symbol, wish in wishes.items()}

    @cached_property
    def names_of_nameless(self) -> dict[Span, str]:
        return {member.whole: self.free_name(member.name) for member, _ in self.nameless}

    @property
    def members(self) -> dict[str, str]:
        """What is called how at the top level, and as a member: as it is given back, or else as it was."""
        found = {name: symbol.name for symbol, name in self.names.items()}
        for member, _ in reversed(self.closed.given):
            found[self.name_of(member)] = member.name
        return {name: found[name] for name in (*self.names.values(), *self.names_of_nameless.values())}

    def name_of(self, member: WrittenMember) -> str:
        """What a function that is given back is called at the top level."""
        function = next(routine for known, routine in self.closed.given if known is member)
        return self.names[function.symbol] if isinstance(function, Function) else self.names_of_nameless[member.whole]

    def free_name(self, wish: str) -> str:
        """A name with the word of what it belongs to in front, where it does not say that itself."""
        naming, own, words = self.dialect.naming, words_of(self.closed.symbol.name), words_of(wish)
        is_constant = naming.as_field(wish) != wish and wish not in self.taken
        whole = wish if is_constant or set(own) <= set(words) else naming.member_name([*own, *words])
        names = (whole if n == 1 else f"{whole}{n}" for n in range(1, 99))
        rules = self.dialect.rules
        name = next(n for n in names if n not in self.taken and rules.is_name(n) and not rules.is_taken(n))
        self.taken.add(name)
        return name

    def declared(self) -> list[Piece]:
        """All that stands in the routine but what it gives back."""
        *statements, _ = self.closed.body.statements
        first, last = statements[0], statements[-1]
        lines = Span(self.layout.lines(first).start, self.layout.lines(last).end)
        return self.rewriter.lines_taken(lines, dedent=self.layout.margin(first))

    def functions(self) -> Iterator[Piece]:
        """The nameless functions that are given back, each with the comments above it."""
        begin = self.layout.lines(self.closed.body.statements[-2]).end
        for member, routine in self.nameless:
            yield "\n"
            yield from self.rewriter.comments(begin, member.whole.start, "")
            yield from function_named(self.rewriter, routine, self.name_of(member))
            begin = member.whole.end


def _by_hand(program: Program, script: Path, given: Given) -> list[Disclose]:
    return [Disclose(script, given["variable"])]


MOVE = Description(
    name="disclose",
    place=4,
    summary=(
        "What a function that is called at once keeps, and gives back, comes to the top level.\n"
        "Refused where the object that it gives back is used as a whole, or asked for `this`."
    ),
    term="Inline Module Object",
    help="Bring what a function called at once declares, and the functions that it gives back, to the top level.",
    parameters=(StepParameter("variable", Takes.ONE, "VARIABLE"),),
    make=_by_hand,
    example=Example(
        language="javascript",
        words="tide",
        before="""\
const tide = (function () {
  let level = 0;

  function rise(by) {
    level += by;
  }

  return { rise, tell: () => console.log(level) };
})();

tide.rise(2);
tide.tell();
""",
        after={
            "harbour.js": """\
let tideLevel = 0;

function tideRise(by) {
  tideLevel += by;
}

function tideTell() {
  return console.log(tideLevel);
}

tideRise(2);
tideTell();
"""
        },
    ),
)
