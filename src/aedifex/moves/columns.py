"""columns: lists side by side become one list of objects."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Renamed, Rewriting, Variable
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Scope, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Statement
from aedifex.source.errors import RefusedError, UsageError
from aedifex.source.text import Span
from aedifex.survey.kinds.column_uses import Row, Walk
from aedifex.survey.kinds.columns import ColumnKind, column_kinds
from aedifex.survey.kinds.plain_values import cannot_fail
from aedifex.survey.kinds.spread_lists import counted_by, is_spread
from aedifex.survey.kinds.walks import lone_call_around

_MOST_UNNAMED = 4
_LONGEST = 80


@dataclass(frozen=True, slots=True)
class ColumnField:
    """A list that becomes a field, its name there, and whether the constructor is given its first value."""

    column: str
    name: str
    is_argument: bool = True


@dataclass(frozen=True)
class Columns:
    """Make one list of objects, `container`, of lists side by side; in loops one object is called `item`."""

    name: ClassVar[str] = "columns"

    path: Path
    class_name: str
    container: str
    item: str
    fields: tuple[ColumnField, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        wanted = {field.column for field in self.fields}
        kind = next((kind for kind in column_kinds(module) if set(kind.names) == wanted), None)
        if kind is None:
            found = "; ".join(", ".join(kind.names) for kind in column_kinds(module))
            advice = f"These are: {found}." if found else "There are none in it."
            raise RefusedError(f"{module.path.name} has no such lists that belong side by side", advice=advice)
        return _Standing(self, module, kind).plan()


class _Standing(Planner):
    def __init__(self, move: Columns, module: Module, kind: ColumnKind) -> None:
        super().__init__(module)
        self.move = move
        self.kind = kind
        by_name = {field.column: field for field in move.fields}
        self.fields = {column: by_name[column.name] for column in kind.columns}
        self.own = set(kind.columns)

    # -- reasons against it

    def find_objections(self) -> None:
        for obstacle in self.kind.uses.obstacles:
            self.object(*obstacle)
        first = self.kind.columns[0].references[0].start
        names = {self.move.class_name, self.move.container}
        for name in sorted(names):
            used = self.module.scope.symbols.get(name)
            if name in self.module.names_in_use and used not in self.own:
                self.object(first, f"the name `{name}` is in use already", "Choose another name.")
        for field in self.move.fields:
            column = next(c for c in self.kind.columns if c.name == field.column)
            if not field.is_argument and not self.kind.is_fixed(column):
                self.object(first, f"`{field.column}` does not begin with the same value everywhere", "Pass it in.")
        for row in self.kind.uses.starts:
            if not all(map(self.layout.stands_alone, row.statements)):
                self.object(row.statements[0].start, "something else stands on the lines of these lists", "Part them.")
        for row in (*self.kind.uses.additions, *self.kind.uses.placings):
            is_free = self.has_names or self.is_in_order(list(row.parts.items()))
            if not is_free and not all(map(cannot_fail, row.parts.values())):
                self.object(row.statements[0].start, "the lists get their values in another order here", "Change it.")
        for scope in self.item_scopes():
            if scope.find(self.move.item) is not None and not self.is_walked_as_item(scope):
                self.object(scope.start, f"`{self.move.item}` means something else here", "Choose another name.")

    def item_scopes(self) -> Iterator[Scope]:
        """The scopes in which one object gets a name."""
        for walk in self.kind.uses.walks:
            yield next(iter(walk.names.values())).scope
        for whole in self.kind.uses.wholes:
            assert whole.reference is not None
            yield whole.reference.scope

    def is_walked_as_item(self, scope: Scope) -> bool:
        """Whether it is a loop over one of the columns that has given an element this name already."""
        return any(
            symbol.name == self.move.item and symbol.scope is scope
            for walk in self.kind.uses.walks
            for symbol in walk.names.values()
        )

    # -- writing

    @property
    def arguments(self) -> list[Symbol]:
        """The columns whose first values the constructor is given."""
        return [column for column in self.kind.columns if self.fields[column].is_argument]

    def write(self) -> None:
        uses = self.kind.uses
        self.write_class()
        for row in uses.starts:
            self.write_start(row)
        for row in uses.additions:
            self.write_addition(row)
        for row in uses.placings:
            self.write_placing(row)
        for row in (*uses.removals, *uses.clearings):
            self.keep_first(row)
        placed = uses.placed
        for part in uses.elements:
            if part.statement not in placed:
                self.write_element(part)
        for name in uses.counts:
            self.rename(name)
        for walk in uses.walks:
            self.write_walk(walk)
        for name in uses.wholes:
            self.write_whole(name)
        self.write_declarations()

    def write_class(self) -> None:
        unit = self.layout.indent
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        names = [self.fields[column].name for column in self.arguments]
        constructor = self.writer.constructor_frame(names, unit, unit)
        pieces: list[Piece] = [frame.head, constructor.head]
        for column in self.kind.columns:
            field = self.fields[column]
            value = field.name if field.is_argument else self.module.source.slice(self.kind.values(column)[0].span)
            target = self.writer.member(self.writer.receiver, field.name)
            pieces += [unit * 2, *self.writer.assignment(target, [value])]
        first = min(row.statements[0].start for row in self.kind.uses.starts)
        at = self.layout.lines(next(s for s in self.module.block.statements if first < s.end)).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces, constructor.tail, frame.tail, self.layout.gap)

    def creation(self, values: Sequence[tuple[Symbol, Expression]], margin: str = "") -> list[Piece]:
        """A new object of values in the order in which they are worked out; on several lines where one is too short."""
        given = [(column, value) for column, value in values if self.fields[column].is_argument]
        by_name = self.has_names and (not self.is_in_order(values) or len(given) > _MOST_UNNAMED)
        if not self.has_names:
            given.sort(key=lambda pair: self.arguments.index(pair[0]))
        length = sum(len(self.module.source.slice(value.span)) + 2 for _, value in given)
        length += sum(len(self.fields[column].name) + 1 for column, _ in given) if by_name else 0
        is_long = length + len(margin) + len(self.move.container) + len(self.move.class_name) > _LONGEST
        break_before = f"\n{margin}{self.layout.indent}" if is_long else ""
        pieces: list[Piece] = []
        for column, value in given:
            taken = self.rewriter.taken(value.span)
            name = self.writer.named_argument(self.fields[column].name, "") if by_name else ""
            loose = value.sense in (Sense.NAMED, Sense.OTHER)
            pieces += [break_before or (", " if pieces else ""), name, *(["(", taken, ")"] if loose else [taken])]
            pieces += [","] if is_long else []
        head = "".join(map(str, self.writer.creation(self.move.class_name, [])))
        return [head[:-1], *pieces, *([f"\n{margin}"] if is_long else []), head[-1]]

    def is_in_order(self, values: Sequence[tuple[Symbol, Expression]]) -> bool:
        """Whether values stand as the constructor takes them."""
        return [column for column, _ in values if self.fields[column].is_argument] == self.arguments

    def write_start(self, row: Row) -> None:
        """The list of objects, in place of the last of the lists."""
        first, *others = row.statements
        columns = list(self.kind.columns)
        rows = [
            self.creation([(column, row.parts[column].parts[number]) for column in columns])
            for number in range(len(row.parts[columns[0]].parts))
        ]
        unit, margin = self.layout.indent, self.layout.margin(first)
        inner: list[Piece] = []
        for made in rows:
            inner += ["\n", margin, unit, *made, ","]
        if rows:
            inner += ["\n", margin]
        spread_out = [part for part in row.parts.values() if is_spread(part)]
        counted = None
        if len(spread_out) == len(row.parts):
            counted = counted_by(self.module, row.parts[columns[0]])
            inner = self.writer.so_many(rows[0], self.rewriter.taken(counted.span), is_number=not self.is_walk(counted))
        own, behind = self.layout.own_lines(first), self.rewriter.comment_behind(first)
        above = [line for s in others for line in self.comments_above(s, margin)]
        *setting, end = self.writer.assignment(f"{self.keyword(row)}{self.move.container}", ["[", *inner, "]"])
        self.rewriting.changes.replace(self.module.path, own, *above, margin, *setting, *behind, end)
        for part in spread_out:
            gone = self.module.references_within(part.span)
            self.rewriter.drop(r for r in gone if counted is None or not counted.start <= r.start < counted.end)
        types = [s.assignment.annotation for s in row.statements if s.assignment is not None]
        declared = [use for span in types for use in self.rewriter.type_names(span)]
        self.rewriter.drop(declared)
        self.rewriter.forget_imports(declared)
        for statement in row.statements:
            self.rewriter.drop(r for r in statement.references if r.symbol in self.own)
        for statement in others:
            self.rewriter.remove(self.layout.lines(statement))

    def keyword(self, row: Row) -> str:
        """The word that declares the list of objects, where the lists are declared so: the one that allows most."""
        words = {self.module.source.slice(s.keyword) for s in row.statements if s.keyword is not None}
        return f"{max(words, key=lambda word: (word != 'const', word))} " if words else ""

    def comments_above(self, statement: Statement, margin: str) -> list[str]:
        """What is said of one of the lists, to stand above the list of objects."""
        begin, end = self.layout.lines(statement).start, self.layout.own_lines(statement).start
        return self.rewriter.comments(begin, end, margin)

    def is_walk(self, counted: Expression) -> bool:
        """Whether what says how many there are is gone through, and no number."""
        around = Surroundings.of(self.module).around(counted)
        return around is not None and around.sense is Sense.WALK

    def write_addition(self, row: Row) -> None:
        first, *others = row.statements
        created = self.creation(list(row.parts.items()), self.layout.margin(first))
        value = next(iter(row.parts.values()))
        inside = next(c.inside for c in first.calls if c.inside and c.arguments and c.arguments[0].start <= value.start)
        reference = next(r for r in first.references if r.symbol in self.own)
        self.replace_name(reference)
        around = Span(inside.start - 1, inside.end + 1)  # parentheses and all: the value alone may be one name
        head = self.writer.call("", [])
        self.rewriting.changes.replace(self.module.path, around, head[0], *created, head[-1])
        for statement in others:
            self.rewriter.drop(r for r in statement.references if r.symbol in self.own)
            self.take_away(statement)

    def write_placing(self, row: Row) -> None:
        """What is put at one place of each list is put there as one object."""
        first, *others = row.statements
        created = self.creation(list(row.parts.items()), self.layout.margin(first))
        self.replace_name(next(r for r in first.references if r.symbol in self.own))
        self.rewriting.changes.replace(self.module.path, next(iter(row.parts.values())).span, *created)
        for statement, value in zip(others, list(row.parts.values())[1:], strict=True):
            self.rewriter.drop(r for r in statement.references if r.end <= value.start)
            self.take_away(statement)

    def keep_first(self, row: Row) -> None:
        """What is done to each list is done once, to the list of objects."""
        first, *others = row.statements
        self.replace_name(next(r for r in first.references if r.symbol in self.own))
        for statement in others:
            self.rewriter.drop(statement.references)
            self.take_away(statement)

    def take_away(self, statement: Statement) -> None:
        """Its lines, or what stands of it on a line that others have too."""
        if self.layout.stands_alone(statement):
            self.rewriter.remove(self.layout.own_lines(statement))
        else:
            before = statement.block.statements[statement.index - 1]
            self.rewriting.changes.replace(self.module.path, Span(before.end, statement.end))

    def replace_name(self, reference: Reference) -> None:
        self.rewriter.replace(reference, self.move.container, Variable(self.move.container))

    def rename(self, name: Expression) -> None:
        assert name.reference is not None
        self.replace_name(name.reference)

    def write_element(self, part: Expression) -> None:
        reference = part.parts[0].reference
        assert reference is not None
        self.replace_name(reference)
        self.rewriter.insert(part.end, self.writer.member("", self.fields[reference.symbol].name))

    def write_walk(self, walk: Walk) -> None:
        target, container = walk.header.parts
        targets = target.parts if target.sense is Sense.TUPLE else [target]
        if walk.is_counted:
            targets = targets[1:]
            self.rename(container.parts[1])
        elif container.sense is Sense.NAME:
            self.rename(container)
        else:
            for part in container.parts[1:]:
                self.rewriter.drop([part.reference] if part.reference is not None else [])
            callee = container.parts[0].reference
            self.rewriter.drop([callee] if callee is not None else [])
            self.rewriting.changes.replace(self.module.path, container.span, self.move.container)
        if len(targets) == 1:
            assert targets[0].reference is not None
            self.name_item(targets[0].reference)
        else:
            self.rewriter.drop(part.reference for part in targets if part.reference is not None)
            self.rewriting.changes.replace(self.module.path, target.span, self.move.item)
        for column, symbol in walk.names.items():
            for reference in symbol.references:
                if not reference.binds:
                    text = self.writer.member(self.move.item, self.fields[column].name)
                    self.rewriting.changes.replace(self.module.path, reference.span, text)
                    self.tell_item(reference, is_alone=len(targets) == 1)

    def name_item(self, reference: Reference) -> None:
        self.rewriting.changes.replace(self.module.path, reference.span, self.move.item)
        self.tell_item(reference, is_alone=True)

    def tell_item(self, reference: Reference, *, is_alone: bool) -> None:
        """One name becomes another; several that become the same go."""
        if is_alone:
            self.rewriting.destinations[reference] = Renamed(self.move.item)
        else:
            self.rewriter.drop([reference])

    def write_whole(self, name: Expression) -> None:
        """A list of what all objects have in one field."""
        reference = name.reference
        assert reference is not None
        field = self.fields[reference.symbol].name
        item = self.move.item
        self.rewriter.drop([reference])
        within = lone_call_around(Surroundings.of(self.module), name)
        text = self.writer.all_of(self.writer.member(item, field), item, self.move.container, within)
        self.rewriting.changes.replace(self.module.path, name.span, text)

    def write_declarations(self) -> None:
        """The list of objects is declared where one of the lists was, if it is given another value there."""
        given = {s.block.routine_around for row in self.kind.uses.starts for s in row.statements}
        kept: set[Scope] = set()
        for reference in self.kind.uses.declarations:
            routine = reference.scope.routine
            if routine in given and reference.scope not in kept:
                kept.add(reference.scope)
                self.replace_name(reference)
            else:
                self.rewriter.drop_declaration(reference)


def _by_hand(program: Program, script: Path, given: Given) -> list[Columns]:
    pairs = [named(text) for text in given["lists"]]
    kind = next((k for k in column_kinds(program.modules[script]) if set(k.names) == {old for old, _ in pairs}), None)
    fixed = {c.name for c in kind.columns if kind.is_fixed(c)} if kind is not None else set()
    naming = program.dialect.naming
    item = given["item"] or naming.member_name([given["class"]])
    if not given["list"]:
        raise UsageError("--list names the list of objects")
    fields = tuple(ColumnField(old, new, old not in fixed) for old, new in pairs)
    return [Columns(script, given["class"], given["list"], item, fields)]


MOVE = Description(
    name="columns",
    place=6,
    summary=(
        "Lists side by side, in which one number means one thing, become one list of objects.\n"
        "Refused where they may be of different length, or one of them changes alone."
    ),
    term="Replace Parallel Arrays with Objects",
    help="Make one list of objects of lists side by side.",
    parameters=(
        StepParameter("lists", Takes.MANY, "LIST[=FIELD]..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
        StepParameter("list", Takes.OPTION, "NAME", "The list of objects."),
        StepParameter("item", Takes.OPTION, "NAME", "What one object is called in loops."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="colors=color heights=height --class Kite --list kites",
        before="""\
colors = ["red", "blue"]
heights = [40, 25]

colors.append("green")
heights.append(0)
for i in range(len(colors)):
    heights[i] += 5
    print(colors[i], heights[i])
""",
        after={
            "harbour.py": """\
class Kite:
    def __init__(self, color, height):
        self.color = color
        self.height = height


kites = [
    Kite("red", 40),
    Kite("blue", 25),
]

kites.append(Kite("green", 0))
for i in range(len(kites)):
    kites[i].height += 5
    print(kites[i].color, kites[i].height)
""",
        },
    ),
)
