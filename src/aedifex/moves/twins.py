"""twins: variables and functions that stand once for each copy become objects of one class."""

from __future__ import annotations

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Rewriting, Variable
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Imported, Mode, Reference, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.source.errors import RefusedError, UsageError
from aedifex.source.text import Span
from aedifex.survey.kinds.likeness import Hole
from aedifex.survey.kinds.twins import (
    Beginning,
    Repeated,
    TwinField,
    TwinKind,
    merged_name,
    symbol_given,
    twin_fields,
    twin_kinds,
)

_MOST_UNNAMED = 4


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
    for kind in twin_kinds(module):
        if {tuple(s.name for s in symbols) for symbols in kind.fields.values()} == wanted:
            return kind
    return None


class _Twinning(Planner):
    def __init__(self, move: Twins, module: Module, kind: TwinKind) -> None:
        super().__init__(module)
        self.move = move
        self.kind = kind
        self.surroundings = Surroundings.of(module)
        names = {field.variables: field for field in move.fields}
        self.fields = {attribute: names[tuple(s.name for s in symbols)] for attribute, symbols in kind.fields.items()}
        self.home: dict[Symbol, tuple[int, TwinField]] = {
            symbol: (number, self.fields[attribute])
            for attribute, symbols in kind.fields.items()
            for number, symbol in enumerate(symbols)
        }
        self.merged: dict[Symbol, tuple[int, str]] = {
            function.symbol: (number, merged_name(kind, family[0]))
            for family in kind.routines.values()
            for number, function in enumerate(family)
        }
        self.handled: set[Reference] = set()
        self.is_handing_over = False

    @property
    def beginning(self) -> Beginning:
        """Where the copies begin."""
        assert self.kind.beginning is not None
        return self.kind.beginning

    # -- reasons against it

    def find_objections(self) -> None:
        for obstacle in self.kind.obstacles:
            self.object(*obstacle)
        first = self.kind.variables[0].references[0].start
        own = {symbol.name for symbol in (*self.home, *self.merged)}
        merged = {name for _, name in self.merged.values()}
        wanted = [self.move.class_name, self.move.container, *self.move.instances, *merged]
        for name in wanted:
            if name in self.module.names_in_use and name not in own:
                self.object(first, f"the name `{name}` is in use already", "Choose another name.")
        binder = self.writer.binder
        if binder.name in self.module.names_in_use and not self.is_imported(binder):
            self.object(first, f"the name `{binder.name}` is in use already", "Choose another name for it.")
        if len(set(wanted)) < len(wanted):
            self.object(first, "two things would have the same name", "Choose other names.")
        homes = {r.scope.home for symbol in (*self.home, *self.merged) for r in symbol.references}
        inner = {name for home in homes if home is not self.module.scope for s in home.walk() for name in s.symbols}
        around = self.module.scope.symbols.keys() | self.module.outside.symbols.keys()
        if (self.move.item in around and self.move.item not in own) or self.move.item in inner:
            self.object(
                first, f"`{self.move.item}` means something else already", "Choose another name for one of them."
            )
        if len({field.name for field in self.fields.values()}) < len(self.fields):
            self.object(first, f"{self.move.class_name} would have two fields of one name", "Rename one of them.")
        if not self.objections.found:
            for attribute, field in self.fields.items():
                if not field.is_argument and self.differs(attribute):
                    self.object(
                        first, f"`{field.variables[0]}` and its like begin with different values", "Pass it in."
                    )

    def differs(self, attribute: str) -> bool:
        """Whether the copies begin with different values of an attribute."""
        if self.beginning.pairs:
            return len({self.text(value) for value in self.first_values(attribute)}) > 1
        return any(self.field_of_hole(hole) is self.fields[attribute] for hole in self.holes)

    def text(self, span: Span) -> str:
        return self.module.source.slice(span)

    def first_values(self, attribute: str) -> list[Span]:
        """The plain values with which each copy begins."""
        symbols = self.kind.fields[attribute]
        return [
            next(pair.value.span for _, pair in pairs if pair.target.symbol is symbol)
            for symbol, pairs in zip(symbols, self.beginning.pairs, strict=True)
        ]

    # -- constants that differ

    @property
    def holes(self) -> list[Hole]:
        """The constants that differ where the copies are set up."""
        return self.beginning.likeness.holes if self.beginning.likeness is not None else []

    def field_of_hole(self, hole: Hole) -> TwinField | None:
        """The field whose first value a constant is."""
        symbol = symbol_given(hole.constants[0])
        return self.home[symbol][1] if symbol is not None and symbol in self.home else None

    @cached_property
    def parameters(self) -> list[tuple[str, list[Hole]]]:
        """The constructor's parameters where copies are set up by statements: constants that differ alike are one."""
        found: dict[str, tuple[tuple[str, ...], list[Hole]]] = {}
        for hole in self.holes:
            texts = tuple(self.text(constant.span) for constant in hole.constants)
            field = self.field_of_hole(hole)
            wish = field.name if field is not None else self.name_for(hole)
            names = (wish if n == 1 else self.dialect.naming.joined(wish, str(n)) for n in range(1, 99))
            for name in names:
                if name not in found or (found[name][0] == texts and field is None):
                    found.setdefault(name, (texts, []))[1].append(hole)
                    break
        return [(name, holes) for name, (_, holes) in found.items()]

    def name_for(self, hole: Hole) -> str:
        """A name for a constant: by its keyword, or by what it is given to."""
        constant = hole.constants[0]
        call = self.surroundings.around(constant)
        if call is None or call.sense is not Sense.CALL:
            return "value"
        at = call.parts.index(constant) - 1
        if call.names[at]:
            return str(call.names[at])
        callee = call.parts[0].name or (call.parts[0].reference.name if call.parts[0].reference else "")
        return self.dialect.library.parameter_name(callee, at) or "value"

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
        self.write_uses()
        self.write_import()

    @cached_property
    def is_listed_only(self) -> bool:
        """Whether nothing but loops and their own functions know the objects, so that a list can hold them alone."""
        if not self.move.container:
            return False
        if not self.is_close:
            return False
        inside = [s.span for run in self.beginning.runs for s in run]
        inside += [pair.target.span for pairs in self.beginning.pairs for _, pair in pairs]
        inside += [f.statement.span for family in self.kind.routines.values() for f in family]
        inside += [s.span for repeated in self.kind.repeated for run in repeated.runs for s in run]
        uses = [r for symbol in (*self.home, *self.merged) for r in symbol.references if r.form is not Form.DECLARATION]
        return all(any(s.start <= r.start < s.end for s in inside) for r in uses)

    @cached_property
    def is_close(self) -> bool:
        """Whether nothing stands between the places where the copies are set up."""
        runs = self.beginning.runs
        return all(one[-1].index + 1 == other[0].index for one, other in itertools.pairwise(runs))

    def base(self, number: int) -> str:
        """How one object is reached from anywhere."""
        return self.move.instances[number]

    def write_creations(self, at: int, margin: str, objects: Sequence[tuple[list[str], list[Piece]]]) -> None:
        """The objects with the comments above them: in a list, or each in a variable."""
        pieces: list[Piece] = []
        if self.is_listed_only:
            inner: list[Piece] = []
            for comments, made in objects:
                inner += [*(f"\n{margin}{self.layout.indent}{c}" for c in comments), "\n", margin, self.layout.indent]
                inner += [*made, ","]
            pieces += [margin, *self.writer.variable(self.move.container, ["[", *inner, "\n", margin, "]"])]
        else:
            for number, (comments, made) in enumerate(objects):
                pieces += [*(f"{margin}{c}\n" for c in comments)]
                pieces += [margin, *self.writer.variable(self.move.instances[number], made)]
            pieces += self.list_of_all(margin)
        self.rewriter.insert(at, *pieces)

    def list_of_all(self, margin: str) -> list[Piece]:
        if not self.move.container or not self.kind.repeated:
            return []
        names = ", ".join(self.move.instances)
        return [margin, *self.writer.variable(self.move.container, ["[", names, "]"])]

    # -- objects that begin with plain values

    def write_class_of_values(self) -> None:
        unit = self.layout.indent
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        arguments = [name for name, field in self.fields.items() if field.is_argument]
        names = [self.fields[attribute].name for attribute in arguments]
        constructor = self.writer.constructor_frame(names, unit, unit)
        pieces: list[Piece] = [frame.head, constructor.head]
        for attribute, field in self.fields.items():
            value = field.name if field.is_argument else self.text(self.first_values(attribute)[0])
            target = self.writer.member(self.writer.receiver, field.name)
            pieces += [unit * 2, *self.writer.assignment(target, [value])]
        statements = sorted({s for pairs in self.beginning.pairs for s, _ in pairs}, key=lambda s: s.start)
        self.insert_class(statements[0], [*pieces, constructor.tail, frame.tail, self.layout.gap])
        objects: list[tuple[list[str], list[Piece]]] = []
        for number in range(len(self.kind.marks)):
            values = [(self.fields[a].name, self.first_values(a)[number]) for a in arguments]
            by_name = len(values) > _MOST_UNNAMED
            given: list[Piece] = [f"{n}={self.text(v)}" if by_name else self.text(v) for n, v in values]
            objects.append(([], self.writer.creation(self.move.class_name, given)))
        firsts = [min((s for s, _ in pairs), key=lambda s: s.start) for pairs in self.beginning.pairs]
        comments = self.comments_of(firsts) if len(set(firsts)) == len(firsts) else [[] for _ in firsts]
        created = [(above, made) for above, (_, made) in zip(comments, objects, strict=True)]
        self.write_creations(self.layout.own_lines(statements[0]).end, "", created)
        gone = {pair.target for pairs in self.beginning.pairs for _, pair in pairs}
        for statement in statements:
            moved = statement in firsts and bool(comments[firsts.index(statement)])
            self.take_out(statement, gone, keeps_comments=not moved)

    def take_out(self, statement: Statement, gone: set[Reference], *, keeps_comments: bool) -> None:
        """Remove the variables of the copies from the assignment that set them."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        self.drop([pair.target for pair in pairs if pair.target in gone])
        left = [pair for pair in pairs if pair.target not in gone]
        if left:
            taken = [(self.rewriter.taken(p.target.span), self.rewriter.taken(p.value.span)) for p in left]
            self.rewriting.changes.replace(self.module.path, statement.span, *self.writer.assignments(taken))
        else:
            own = self.layout.own_lines(statement)
            self.rewriter.remove(own if keeps_comments else self.layout.lines(statement))

    def comments_of(self, firsts: Sequence[Statement]) -> list[list[str]]:
        """The comments above the first statement of each copy; what heads all of them stays where it is."""
        found: list[list[str]] = []
        for statement in firsts:
            begin, end = self.layout.lines(statement).start, self.layout.own_lines(statement).start
            found.append([line.strip() for line in self.rewriter.comments(begin, end, "")])
        heading = self.layout.heading(firsts[0])
        is_of_all = not any(found[1:]) or (heading is not None and heading.is_ruled)
        return [[], *found[1:]] if is_of_all else found

    def insert_class(self, before: Statement, pieces: Sequence[Piece]) -> None:
        at = self.layout.lines(before).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces)

    # -- objects that are set up by statements

    def write_class_of_runs(self) -> None:
        unit, first = self.layout.indent, self.beginning.runs[0]
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        constructor = self.writer.constructor_frame([name for name, _ in self.parameters], unit, unit)
        body = self.rewriter.lines_taken(
            Span(self.layout.own_lines(first[0]).start, self.layout.own_lines(first[-1]).end),
            dedent=self.layout.margin(first[0]),
            indent=unit * 2,
        )
        pieces = [frame.head, constructor.head, *body, constructor.tail, frame.tail, self.layout.gap]
        self.insert_class(first[0], pieces)
        for name, holes in self.parameters:
            for hole in holes:
                self.rewriting.changes.replace(self.module.path, hole.constants[0].span, name)
        for reference in self.uses_within([s.span for s in first]):
            number, field = self.home[reference.symbol]
            assert number == 0
            self.change(reference, self.writer.member(self.writer.receiver, field.name))
        objects: list[list[Piece]] = []
        by_name = len(self.parameters) > _MOST_UNNAMED
        for number in range(len(self.kind.marks)):
            values = [(name, self.text(holes[0].constants[number].span)) for name, holes in self.parameters]
            given: list[Piece] = [f"{name}={value}" if by_name else value for name, value in values]
            objects.append(self.writer.creation(self.move.class_name, given))
        comments = self.comments_of([run[0] for run in self.beginning.runs])
        if self.is_close:
            end = self.layout.own_lines(self.beginning.runs[-1][-1]).end
            self.write_creations(end, "", list(zip(comments, objects, strict=True)))
            begin = self.layout.lines(first[0]) if comments[0] else self.layout.own_lines(first[0])
            self.rewriter.remove(Span(begin.start, end))
        for number, run in enumerate(self.beginning.runs):
            if not self.is_close:
                begin = self.layout.lines(run[0]) if comments[number] else self.layout.own_lines(run[0])
                self.rewriter.remove(Span(begin.start, self.layout.own_lines(run[-1]).end))
            if number:
                self.drop([r for s in run for r in self.module.references_within(s.span)])
            if not self.is_close:
                made = list(self.writer.variable(self.move.instances[number], objects[number]))
                if number == len(self.kind.marks) - 1:
                    made += self.list_of_all("")
                self.rewriter.insert(self.layout.own_lines(run[-1]).end, *made)

    def uses_within(self, spans: Sequence[Span]) -> list[Reference]:
        """The uses of the copies' variables in some stretches."""
        inside = [r for span in spans for r in self.module.references_within(span)]
        return [r for r in inside if r.symbol in self.home and r.form is not Form.DECLARATION]

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
        for function in others:
            self.drop(self.module.references_within(function.statement.span))
            self.rewriter.remove(self.layout.lines(function.statement))

    def rewrite_for_item(self, spans: Sequence[Span], but: Reference | None = None) -> None:
        """Let a stretch about the first copy be about the object that has the loop's, or the parameter's, name."""
        for reference in [r for span in spans for r in self.module.references_within(span)]:
            if reference is but or reference in self.handled:
                continue
            if reference.symbol in self.home and reference.form is Form.DECLARATION:
                self.rewriter.drop_declaration(reference)
                self.handled.add(reference)
            elif reference.symbol in self.home:
                field = self.home[reference.symbol][1]
                self.change(reference, self.writer.member(self.move.item, field.name))
            elif reference.symbol in self.merged:
                self.use_function(reference, self.move.item)

    def write_loop(self, repeated: Repeated) -> None:
        """One loop over all objects, in place of the same statements for each."""
        first, *others = repeated.runs
        margin, unit = self.layout.margin(first[0]), self.layout.indent
        own = Span(self.layout.own_lines(first[0]).start, self.layout.own_lines(first[-1]).end)
        head = self.writer.loop_over(self.move.item, self.move.container)
        frame = self.writer.block_frame(head, margin)
        body = self.rewriter.lines_taken(own, indent=unit)
        self.rewrite_for_item([s.span for s in first])
        self.rewriter.insert(own.end, frame.head, *body, frame.tail)
        self.rewriter.remove(own)
        for run in others:
            self.drop([r for s in run for r in self.module.references_within(s.span)])
            for statement in run:
                self.rewriter.remove(self.layout.own_lines(statement))

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

    def use_function(self, reference: Reference, given: str) -> None:
        """A call is given the object; where a function was handed over, one that gives it is."""
        name = self.merged[reference.symbol][1]
        if reference.mode is Mode.CALL and not reference.path:
            self.change(reference, name)
            call = next(c for c in (reference.statement.calls if reference.statement else ()) if c.callee is reference)
            self.rewriter.prepend_arguments(call, [given])
            return
        self.change(reference, self.writer.with_argument(name, given))
        self.is_handing_over = True

    def write_import(self) -> None:
        """Import what binds an argument to a function, where that is handed over."""
        binder = self.writer.binder
        if not self.is_handing_over or self.is_imported(binder):
            return
        statements = self.module.block.statements
        imports = list(itertools.takewhile(lambda s: s.kind is Kind.IMPORT or s.is_text, statements))
        at = self.layout.own_lines(imports[-1]).end if imports else self.layout.own_lines(statements[0]).start
        gap = "\n" if not imports or imports[-1].is_text else ""
        line = self.writer.import_line(binder, binder.name or "")
        self.rewriter.insert(at, *([gap, line] if imports else [line, gap]))

    def is_imported(self, binder: Imported) -> bool:
        found = self.module.scope.symbols.get(binder.name or "")
        return found is not None and found.imported == binder

    def change(self, reference: Reference, text: str) -> None:
        self.rewriting.changes.replace(self.module.path, reference.span, text)
        if text.startswith(self.writer.member(reference.name, "")):
            self.handled.add(reference)
            self.rewriting.destinations[reference] = Variable(reference.name)
        else:
            self.drop([reference])

    def drop(self, references: Sequence[Reference]) -> None:
        self.handled.update(references)
        self.rewriter.drop(references)


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
