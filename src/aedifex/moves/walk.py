"""walk: a loop over the numbers of a list, or keys of a table, becomes one over its elements."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes
from aedifex.moves.kit.move import module_of, symbol_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind, Shape, Statement
from aedifex.source.text import Span
from aedifex.survey.kinds.walks import NumberedWalk, numbered_walks

_FEWEST_LETTERS = 3
_LIST = "\0"


@dataclass(frozen=True)
class Walk:
    """Let loops over the numbers of a list, or the keys of a table, go over its elements, each called `item`."""

    name: ClassVar[str] = "walk"

    path: Path
    container: str
    item: str

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        return _Walking(self, module).plan()


class _Walking(Planner):
    def __init__(self, move: Walk, module: Module) -> None:
        super().__init__(module)
        self.move = move
        self.symbol = symbol_of(module, move.container)
        self.walks = numbered_walks(module, self.symbol, move.item)

    def find_objections(self) -> None:
        if not self.walks:
            self.object(
                self.symbol.references[0].start,
                f"no loop over the numbers or keys of `{self.symbol.name}` could go over its elements",
                "Leave the loops as they are, or choose another name for one element.",
            )

    def write(self) -> None:
        for walk in self.walks:
            self.rewrite(walk)
        for number in dict.fromkeys(number_of(walk) for walk in self.walks if not walk.is_needed):
            self.forget(number)

    def item(self, walk: NumberedWalk) -> str:
        """What an element is called: as the body of the loop calls it, where that is a word."""
        own = walk.alias.name if walk.alias is not None else ""
        return own if len(own) >= _FEWEST_LETTERS else self.move.item

    def unite(self, walk: NumberedWalk) -> None:
        """The statement that names the element goes, as the loop names it."""
        if walk.alias is None or walk.alias.statement is None:
            return
        kept = walk.container.reference if walk.is_by_count else None
        self.rewriter.drop(r for r in self.module.references_within(walk.alias.statement.span) if r is not kept)
        self.rewriter.remove(self.layout.lines(walk.alias.statement))
        for use in walk.alias.symbol.references:
            if use is not walk.alias and self.item(walk) != use.name:
                self.rewriting.changes.replace(self.module.path, use.span, self.item(walk))
                self.rewriting.destinations[use] = Renamed(self.item(walk))

    def elements(self, walk: NumberedWalk) -> list[Expression]:
        """The elements in a loop, but for one that goes with the statement that names it."""
        gone = walk.alias.statement.span if walk.alias is not None and walk.alias.statement is not None else None
        return [p for p in walk.elements if gone is None or not gone.start <= p.start < gone.end]

    def rewrite(self, walk: NumberedWalk) -> None:
        self.unite(walk)
        path, changes = self.module.path, self.rewriting.changes
        if walk.is_counting:
            self.count_no_more(walk)
            return
        target, numbers = walk.header.parts
        if walk.is_by_count:
            self.go_over(walk)
            return
        before, behind = Span(numbers.start, walk.container.start), Span(walk.container.end, numbers.end)
        self.rewriter.drop(self.module.references_within(before))
        if walk.is_needed:
            self.rewriter.insert(target.end, self.writer.number_and(self.item(walk)))
        else:
            self.rewriter.drop(self.module.references_within(target.span))
            changes.replace(path, target.span, self.item(walk))
        if walk.is_by_key:
            self.ask_table(walk)
        elif walk.is_needed:
            changes.replace(path, before, f"{self.writer.counter}(")
            changes.replace(path, behind, ")")
        else:
            changes.replace(path, before)
            changes.replace(path, behind)
        self.name_elements(walk)

    def name_elements(self, walk: NumberedWalk, but: Reference | None = None) -> None:
        """The name stands where elements were asked for; the names in these go, but for one."""
        for part in self.elements(walk):
            self.rewriting.changes.replace(self.module.path, part.span, self.item(walk))
            self.rewriter.drop(r for r in self.module.references_within(part.span) if r is not but)

    def count_no_more(self, walk: NumberedWalk) -> None:
        """A header that names the element and the list takes the place of one with a counter."""
        statement, container, changes = walk.statement, walk.container.reference, self.rewriting.changes
        assert container is not None
        text = self.module.source.slice(Span(statement.start, statement.header_end)).rstrip()
        header = Span(statement.start, statement.start + len(text.encode()))
        number = number_of(walk).name if walk.is_needed else ""
        before, behind = self.writer.loop_over(self.item(walk), _LIST, number).split(_LIST)
        changes.replace(self.module.path, header, before, self.rewriter.taken(walk.container.span), behind)
        self.rewriting.paths[container] = (self.writer.counter,) if number else ()
        self.rewriter.drop(r for r in self.module.references_within(header) if r is not container)
        self.name_elements(walk)

    def go_over(self, walk: NumberedWalk) -> None:
        """The list, named as it is where an element is asked for, takes the place of its length."""
        target, numbers = walk.header.parts
        container, path, changes = walk.container.reference, self.module.path, self.rewriting.changes
        assert container is not None
        self.rewriter.drop(self.module.references_within(numbers.span))
        named: list[Piece] = [self.rewriter.taken(walk.container.span)]
        if walk.is_needed:
            self.rewriter.insert(target.end, self.writer.number_and(self.item(walk)))
            named = [f"{self.writer.counter}(", *named, ")"]
        else:
            self.rewriter.drop(self.module.references_within(target.span))
            changes.replace(path, target.span, self.item(walk))
        changes.replace(path, numbers.span, *named)
        self.rewriting.paths[container] = ()
        self.name_elements(walk, but=container)

    def ask_table(self, walk: NumberedWalk) -> None:
        """A table gives its elements, with their keys where those are needed."""
        method = self.writer.entries if walk.is_needed else self.writer.contents
        self.rewriter.insert(walk.container.end, self.writer.call(self.writer.member("", method), []))
        assert walk.container.reference is not None
        self.rewriting.paths[walk.container.reference] = (method,)

    def forget(self, number: Symbol) -> None:
        """A number that nothing reads any more needs no first value."""
        left = [r for r in number.references if r not in self.rewriting.dropped]
        statements = [r.statement for r in left if r.statement is not None]
        if len(statements) < len(left) or not all(map(self.is_only_value, statements)):
            return
        for statement in statements:
            self.rewriter.remove(self.layout.lines(statement))
        self.rewriter.drop(left)

    def is_only_value(self, statement: Statement) -> bool:
        """Whether a statement gives one name a value that is written out, and does nothing else."""
        given = statement.assignment.pairs if statement.assignment is not None else ()
        is_plain = len(given) == 1 and given[0].value.shape is Shape.LITERAL and len(statement.references) == 1
        is_alone = self.layout.stands_alone(statement) and len(statement.block.statements) > 1
        return is_plain and is_alone and statement.kind is Kind.ASSIGN


def number_of(walk: NumberedWalk) -> Symbol:
    """The variable that counts in a loop."""
    reference = walk.header.parts[0].reference
    assert reference is not None
    return reference.symbol


def _by_hand(program: Program, script: Path, given: Given) -> list[Walk]:
    return [Walk(script, given["list"], given["item"])]


MOVE = Description(
    name="walk",
    place=7,
    summary=(
        "A loop over the numbers of a list, or keys of a table, becomes one over its elements.\n"
        "Numbers and keys stay where they are used. Refused where they or the list may change."
    ),
    term="Replace Loop Index with Element",
    help="Let loops over the numbers of a list, or the keys of a table, go over its elements.",
    parameters=(
        StepParameter("list", Takes.ONE, "LIST"),
        StepParameter("item", Takes.NEEDED, "NAME", "What one element is called."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="kites --item kite",
        before="""\
kites = [{"color": "red", "up": True}, {"color": "blue", "up": False}]

for i in range(len(kites)):
    if kites[i]["up"]:
        print(kites[i]["color"])
""",
        after={
            "harbour.py": """\
kites = [{"color": "red", "up": True}, {"color": "blue", "up": False}]

for kite in kites:
    if kite["up"]:
        print(kite["color"])
""",
        },
    ),
)
