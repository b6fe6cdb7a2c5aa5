"""sift: a loop by number that takes elements out of a list goes over a copy of it."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.members import Mentions
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.source.text import Span
from aedifex.survey.kinds.backward_siftings import BackwardSifting, backward_siftings
from aedifex.survey.kinds.loop_names import item_name
from aedifex.survey.kinds.objects import class_of_objects
from aedifex.survey.kinds.siftings import Sifting, siftings


@dataclass(frozen=True)
class Sift:
    """Let loops that count through a list, and delete from it by number, go over a copy and take elements out.

    Those that count from its end go over the list itself, from its end.
    """

    name: ClassVar[str] = "sift"

    path: Path
    container: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        return _Sifting(self, program, module_of(program, self.path)).plan()


class _Sifting(Planner):
    def __init__(self, move: Sift, program: Program, module: Module) -> None:
        super().__init__(module)
        self.program = program
        self.symbol = symbol_of(module, move.container)
        self.found = siftings(module, self.symbol)
        self.backward = backward_siftings(module, self.symbol)

    def find_objections(self) -> None:
        at, name = self.symbol.references[0].start, self.symbol.name
        if not self.found and not self.backward:
            reason = f"no loop only counts through `{name}` and takes out what is to go"
            self.object(at, reason, "Leave the loops as they are.")
        if not self.are_told_apart:
            reason = f"two elements of `{name}` may be equal, so that the wrong one would be taken out"
            self.object(at, reason, "Leave the loops as they are.")
        for word, found in ((self.writer.copier, self.found), (self.writer.turner, self.backward)):
            if found and any(word in scope.symbols for scope in self.module.scope.walk()):
                self.object(at, f"`{word}` means something else here", "Give that another name.")

    @property
    def are_told_apart(self) -> bool:
        """Whether the elements are objects of one class of the script that does not say when two are equal."""
        holdings = Holdings.of(self.module)
        element = holdings.of_symbol(self.symbol).element
        scope = class_of_objects(holdings, element.now) if element is not None else None
        if scope is None or Mentions.of(self.program).is_derived(scope):
            return False
        rules, own = self.dialect.rules, [symbol.name for symbol in scope.symbols.values() if symbol.bindings]
        return not any(rules.has_meaning(name) and not rules.is_constructor(name) for name in own)

    def write(self) -> None:
        for sifting in self.found:
            self.rewrite(sifting)
        for backward in self.backward:
            self.turn(backward)

    def turn(self, backward: BackwardSifting) -> None:
        """A loop by number from the end goes over the elements."""
        path, changes, container = self.module.path, self.rewriting.changes, self.symbol.name
        number = backward.header.parts[0].reference
        assert number is not None
        item = item_name(self.module, number.scope, container, backward.loop)
        head = Span(backward.loop.start, backward.header.parts[1].end)
        changes.replace(path, head, self.writer.loop_over(item, self.writer.call(self.writer.turner, [container])))
        self.rewriter.drop(self.module.references_within(head))
        for element in backward.elements:
            changes.replace(path, element.span, item)
            self.rewriter.drop(self.module.references_within(element.span))
        changes.replace(path, backward.removal.span, self.writer.taking_out(container, item))
        self.rewriter.drop(self.module.references_within(backward.removal.span))

    def rewrite(self, sifting: Sifting) -> None:
        path, changes, loop = self.module.path, self.rewriting.changes, sifting.loop
        item, container = sifting.item.name, self.symbol.name
        head = self.writer.loop_over(item, self.writer.call(self.writer.copier, [container]))
        changes.replace(path, Span(loop.start, sifting.condition.end), head)
        self.rewriter.drop(self.module.references_within(Span(loop.start, sifting.condition.end)))
        for statement in (sifting.beginning, sifting.pick):
            self.rewriter.remove(self.layout.own_lines(statement))
            self.rewriter.drop(self.module.references_within(statement.span))
        for removal in sifting.removals:
            changes.replace(path, removal.span, self.writer.taking_out(container, item))
            self.rewriter.drop(self.module.references_within(removal.span))
        yes = sifting.branch.blocks[-2].statements[-1]
        self.rewriter.remove(Span(self.layout.lines(yes).end, self.layout.own_lines(sifting.branch).end))
        self.rewriter.drop(self.module.references_within(Span(yes.end, sifting.branch.end)))


def _by_hand(program: Program, script: Path, given: Given) -> list[Sift]:
    return [Sift(script, given["list"])]


MOVE = Description(
    name="sift",
    place=9,
    summary=(
        "A loop that counts through a list, and deletes from it, goes over a copy of the list.\n"
        "Refused where the number is used for more, or the list may change otherwise."
    ),
    term="Replace Loop Index with Element",
    help="Let loops that count through a list of objects, and take some out, go over a copy of it.",
    parameters=(StepParameter("list", Takes.ONE, "LIST"),),
    make=_by_hand,
    example=Example(
        language="python",
        words="kites",
        before="""\
class Kite:
    def __init__(self, height):
        self.height = height


kites = [Kite(4), Kite(9)]
i = 0
while i < len(kites):
    kite = kites[i]
    kite.height -= 5
    if kite.height < 0:
        print("down")
        del kites[i]
    else:
        i += 1
print(len(kites))
""",
        after={
            "harbour.py": """\
class Kite:
    def __init__(self, height):
        self.height = height


kites = [Kite(4), Kite(9)]
for kite in list(kites):
    kite.height -= 5
    if kite.height < 0:
        print("down")
        kites.remove(kite)
print(len(kites))
""",
        },
    ),
)
