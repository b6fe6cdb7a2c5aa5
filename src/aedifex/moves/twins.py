"""twins: variables and functions that stand once for each copy become objects of one class."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.rewriting import Rewriting
from aedifex.moves.kit.top_of_file import TopOfFile
from aedifex.moves.kit.twin_creation import TwinCreation
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Block, Function
from aedifex.source.errors import RefusedError, UsageError
from aedifex.source.text import Span
from aedifex.survey.kinds.choices import Choice
from aedifex.survey.kinds.repeated import Repeated
from aedifex.survey.kinds.single import single_kinds
from aedifex.survey.kinds.twin_fields import TwinField, twin_fields
from aedifex.survey.kinds.twins import TwinKind, merged_name, twin_kinds


@dataclass(frozen=True)
class Twins:
    """Make objects of copies: `instances` are their variables, `container` a list of them, `item` one in a loop."""

    name: ClassVar[str] = "twins"

    path: Path
    class_name: str
    instances: tuple[str, ...]
    container: str
    item: str
    fields: tuple[TwinField, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        kind = kind_of(module, [field.variables for field in self.fields])
        if kind is None:
            listed = "; ".join(", ".join(s.name for s in kind.variables) for kind in twin_kinds(module))
            advice = f"These are: {listed}." if listed else "There are none in it."
            raise RefusedError(
                f"{module.path.name} has no such variables that are copies of one another", advice=advice
            )
        return _Twinning(self, module, kind).plan()


def kind_of(module: Module, variables: Sequence[Sequence[str]]) -> TwinKind | None:
    """The kind whose copies have these variables, attribute by attribute."""
    wanted = {tuple(names) for names in variables}
    for kind in [*twin_kinds(module), *single_kinds(module)]:
        if {tuple(s.name for s in symbols) for symbols in kind.fields.values()} == wanted:
            return kind
    return None


class _Twinning(TwinCreation):
    @property
    def top(self) -> TopOfFile:
        """The imports at the top of the file."""
        return TopOfFile(self.module, self.rewriter)

    # -- reasons against it

    def find_objections(self) -> None:
        for obstacle in self.kind.obstacles:
            self.object(*obstacle)
        first = self.kind.variables[0].references[0].start
        self.object_to_names(first)
        self.object_to_item(first)
        if not self.objections.found:
            self.object_to_fields(first)

    def object_to_names(self, first: int) -> None:
        """What comes in must not have the name of anything else."""
        own = {symbol.name for symbol in (*self.home, *self.merged)}
        merged = {name for _, name in self.merged.values()}
        wanted = [self.move.class_name, self.move.container, *self.move.instances, *merged]
        for name in wanted:
            if name in self.module.names_in_use and name not in own:
                self.object(first, f"the name `{name}` is in use already", "Choose another name.")
        binder = self.writer.binder
        if binder.name in self.module.names_in_use and not self.top.has(binder):
            self.object(first, f"the name `{binder.name}` is in use already", "Choose another name for it.")
        if len(set(wanted)) < len(wanted):
            self.object(first, "two things would have the same name", "Choose other names.")

    def object_to_item(self, first: int) -> None:
        """The name of one object in loops and functions must be free wherever the copies are used."""
        own = {symbol.name for symbol in (*self.home, *self.merged)}
        homes = {r.scope.home for symbol in (*self.home, *self.merged) for r in symbol.references}
        inner = {name for home in homes if home is not self.module.scope for s in home.walk() for name in s.symbols}
        around = self.module.scope.symbols.keys() | self.module.outside.symbols.keys()
        if (self.move.item in around and self.move.item not in own) or self.move.item in inner:
            self.object(
                first, f"`{self.move.item}` means something else already", "Choose another name for one of them."
            )

    def object_to_fields(self, first: int) -> None:
        """Fields have names of their own, and are given what differs."""
        if self.beginning.runs:
            given = {name for name, _ in self.parameters} | set(self.kept)
            clash = next((name for name in self.handed_in if name in given), None)
            if clash is not None:
                self.object(first, f"`{clash}` would be two things in the constructor", "Rename one of them.")
        if len({field.name for field in self.fields.values()}) < len(self.fields):
            self.object(first, f"{self.move.class_name} would have two fields of one name", "Rename one of them.")
        for reference in self.named_too_late():
            self.object(reference.start, f"`{reference.name}` is set below these", "Set it above them.")
        if self.beginning.pairs and not self.keeps_order():
            reason = f"`{self.kind.variables[0].name}` and its like would be given their first values in another order"
            self.object(first, reason, "Give them their first values one copy after another.")
        for attribute, field in self.fields.items():
            if not field.is_argument and self.differs(attribute):
                reason = f"`{field.variables[0]}` and its like begin with different values"
                self.object(first, reason, "Pass it in.")

    # -- writing

    def write(self) -> None:
        if self.beginning.runs:
            self.write_class_of_runs()
        else:
            self.write_class_of_values()
        for family in self.kind.routines.values():
            self.merge(family)
        for repeated in self.kind.repeated if self.move.container else []:
            self.write_loop(repeated)
        for choice in self.kind.choices if self.move.container else []:
            self.write_choice(choice)
        self.write_uses()
        self.write_import()

    def base(self, number: int) -> str:
        """How one object is reached from anywhere."""
        return self.move.instances[number]

    # -- functions and statements that stand once for each copy

    def merge(self, family: Sequence[Function]) -> None:
        """One function that is given the object, in place of one for each copy."""
        first, *others = family
        name = merged_name(self.kind, first)
        self.rewriting.changes.replace(self.module.path, first.named.span, name)
        self.drop([first.named])
        has_others = bool(self.text(first.signature).strip())
        self.rewriter.insert(first.signature.start, f"{self.move.item}, " if has_others else self.move.item)
        self.rewrite_for_item([first.statement.span], but=first.named)
        self.write_kept(first.statement.span)
        for function in others:
            self.drop(self.module.references_within(function.statement.span))
            self.rewriter.remove(self.layout.lines(function.statement))

    def write_kept(self, span: Span) -> None:
        """In a stretch that is kept for all copies, let what the object keeps stand for what differs."""
        for name, holes in self.kept.items():
            for hole in holes:
                for constant in hole.constants:
                    if span.start <= constant.start < span.end:
                        self.rewriting.changes.replace(self.module.path, constant.span, self.kept_value(name, hole))
                        self.drop(self.module.references_within(constant.span))

    def rewrite_for_item(self, spans: Sequence[Span], item: str = "", but: Reference | None = None) -> None:
        """Let a stretch about one copy be about `item`, or the object that has the loop's, or the parameter's, name."""
        item = item or self.move.item
        for reference in [r for span in spans for r in self.module.references_within(span)]:
            if reference is but or reference in self.handled:
                continue
            if reference.symbol in self.home and reference.form is Form.DECLARATION:
                self.rewriter.drop_declaration(reference)
                self.handled.add(reference)
            elif reference.symbol in self.home:
                field = self.home[reference.symbol][1]
                self.change(reference, self.writer.member(item, field.name))
            elif reference.symbol in self.merged:
                self.use_function(reference, item)

    def write_loop(self, repeated: Repeated) -> None:
        """One loop over all objects, in place of the same statements for each."""
        first, *others = repeated.runs
        margin, unit = self.layout.margin(first[0]), self.layout.indent
        own = Span(self.layout.own_lines(first[0]).start, self.layout.own_lines(first[-1]).end)
        container = self.writer.values_of(self.move.container) if self.kind.keys else self.move.container
        head = self.writer.loop_over(self.move.item, container)
        frame = self.writer.block_frame(head, margin)
        body = self.rewriter.lines_taken(own, indent=unit)
        self.rewrite_for_item([s.span for s in first])
        for statement in first:
            self.write_kept(statement.span)
        self.rewriter.insert(own.end, frame.head, *body, frame.tail)
        self.rewriter.remove(own)
        for run in others:
            self.drop([r for s in run for r in self.module.references_within(s.span)])
            for statement in run:
                self.rewriter.remove(self.layout.own_lines(statement))

    def write_choice(self, choice: Choice) -> None:
        """One branch about the object that is under a key, in place of one for each copy."""
        first, *others = choice.in_text
        block, owner, subject = first.block, first.block.owner, choice.subject.reference
        assert owner is not None and subject is not None and first.condition is not None
        for case in others:
            self.take_branch_out(case.block)
        own = Span(self.layout.own_lines(block.statements[0]).start, self.layout.own_lines(block.statements[-1]).end)
        margin = self.layout.margin(block.statements[0])
        element = self.writer.element(self.move.container, subject.name)
        item = self.move.item if self.needs_name(choice) else element
        fetching = self.writer.assignment(item, [element]) if item != element else []
        self.rewrite_for_item([first.span], item)
        self.write_kept(first.span)
        if choice.is_sure:
            outer = self.layout.margin(owner)
            body = self.rewriter.lines_taken(own, dedent=margin, indent=outer)
            begin = self.layout.own_lines(owner).start
            self.drop(self.module.references_within(Span(begin, own.start)))
            self.rewriter.insert(begin, *([outer, *fetching] if fetching else []), *body)
            self.rewriter.remove(Span(begin, own.end))
        else:
            asked = Span(choice.subject.end, first.condition.end)
            self.rewriting.changes.replace(self.module.path, asked, self.writer.asks_within(self.move.container))
            self.rewriter.insert(own.start, *([margin, *fetching] if fetching else []))

    def needs_name(self, choice: Choice) -> bool:
        """Whether the object is used more than once, or by all that a function does, or asked for too late."""
        first, subject = choice.first, choice.subject.reference
        own = set(self.home) | set(self.merged)
        inside = self.module.references_within(first.span)
        uses = [r for r in inside if r.symbol in own and r.form is not Form.DECLARATION]
        is_again = len(uses) > 1 or any(r.symbol in self.merged for r in uses) or bool(choice.holes)
        is_lost = any(subject is not None and r.symbol is subject.symbol and r.binds for r in inside)
        return is_again or is_lost or self.is_all_of_function(choice)

    def is_all_of_function(self, choice: Choice) -> bool:
        """Whether a function does nothing but to choose."""
        owner = choice.first.block.owner
        routine = owner.block.routine if owner is not None else None
        chosen = [case.block.owner for case in choice.cases]
        return isinstance(routine, Function) and all(deed in chosen for deed in routine.deeds)

    def take_branch_out(self, block: Block) -> None:
        """Remove a branch with its condition, or the statement of which it is all."""
        owner = block.owner
        assert owner is not None
        above = owner.blocks[owner.blocks.index(block) - 1] if block is not owner.blocks[0] else None
        begin = (
            self.layout.own_lines(above.statements[-1]).end if above is not None else self.layout.own_lines(owner).start
        )
        gone = Span(begin, self.layout.own_lines(block.statements[-1]).end)
        self.drop(self.module.references_within(gone))
        self.rewriter.remove(gone)

    def write_uses(self) -> None:
        """All other uses go to the one object that they are about."""
        for symbol in (*self.home, *self.merged):
            for reference in symbol.references:
                if reference in self.handled or reference in self.rewriting.dropped:
                    continue
                if symbol in self.merged:
                    self.use_function(reference, self.base(self.merged[symbol][0]))
                elif reference.form is Form.DECLARATION:
                    self.rewriter.drop_declaration(reference)
                else:
                    number, field = self.home[symbol]
                    self.change(reference, self.writer.member(self.base(number), field.name))

    def write_import(self) -> None:
        """Import what binds an argument to a function, where that is handed over."""
        if self.is_handing_over:
            self.top.bring(self.writer.binder)


def _by_hand(program: Program, script: Path, given: Given) -> list[Twins]:
    module = program.modules[script]
    names = dict(named(text) for text in given["variables"])
    kind = next((k for k in twin_kinds(module) if any(s.name in names for s in k.variables)), None)
    if kind is None:
        raise UsageError(f"no other variable is a copy of {', '.join(names)}")
    chosen = {
        a: names[s.name] for a, symbols in kind.fields.items() for s in symbols if names.get(s.name, s.name) != s.name
    }
    item = given["item"] or program.dialect.naming.member_name([given["class"]])
    instances = tuple(program.dialect.naming.joined(item, mark) for mark in kind.marks)
    return [Twins(script, given["class"], instances, given["list"] or "", item, tuple(twin_fields(kind, chosen)))]


MOVE = Description(
    name="twins",
    place=4,
    summary=(
        "Variables and functions that stand once for each copy become objects of one class.\n"
        "Refused where the copies are not set up alike; functions that differ stay."
    ),
    term="Extract Class",
    help="Make objects of one class of numbered or named copies.",
    parameters=(
        StepParameter("variables", Takes.MANY, "VARIABLE[=FIELD]..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
        StepParameter("list", Takes.OPTION, "NAME", "A list of all objects, for loops."),
        StepParameter("item", Takes.OPTION, "NAME", "What one object is called in loops."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="kite1_height=height --class Kite --list kites",
        before="""\
kite1_height = 40
kite1_color = "red"
kite2_height = 25
kite2_color = "blue"


def pull_kite1():
    global kite1_height
    kite1_height -= 5
    print(kite1_color, kite1_height)


def pull_kite2():
    global kite2_height
    kite2_height -= 5
    print(kite2_color, kite2_height)


pull_kite1()
pull_kite2()
""",
        after={
            "harbour.py": """\
class Kite:
    def __init__(self, height, color):
        self.height = height
        self.color = color


kites = [
    Kite(40, "red"),
    Kite(25, "blue"),
]


def pull_kite(kite):
    kite.height -= 5
    print(kite.color, kite.height)


for kite in kites:
    pull_kite(kite)
""",
        },
    ),
)
