"""records: tables with plain keys become objects of a class."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import ClassVar

from aedifex.moves.kit.description import Description, Example, Given, StepParameter, Takes, named
from aedifex.moves.kit.member_access import MemberAccess
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.retyping import Retyping
from aedifex.moves.kit.rewriting import Receiver, Renamed, Rewriting
from aedifex.program.analysis.holding.holding import Whole
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function
from aedifex.program.structure.early_uses import first_to_make
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.records import Making, RecordKind, entries, factory_of, is_fixed, kind_held_by, record_kinds

_MOST_UNNAMED = 4
_ROOM = 60
_LOOSE = frozenset({Sense.NAMED, Sense.OTHER})


@dataclass(frozen=True, slots=True)
class RecordField:
    """A key that becomes a field: its name there, and whether the constructor is given its first value."""

    key: str
    name: str
    is_argument: bool = False


@dataclass(frozen=True)
class Records:
    """Make a class of the records that `holder` holds: a variable, `routine.variable`, or `container[]`."""

    name: ClassVar[str] = "records"

    path: Path
    class_name: str
    holder: str
    fields: tuple[RecordField, ...]

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting."""
        module = module_of(program, self.path)
        kind = kind_held_by(module, self.holder)
        if kind is None:
            raise RefusedError(
                f"{module.path.name} has no records that `{self.holder}` holds",
                advice=_which(module),
            )
        return _Objectifying(self, module, kind).plan()


def record_fields(kind: RecordKind) -> tuple[RecordField, ...]:
    """The fields that a kind would have of itself: what differs between its things is given to the constructor."""
    factory = factory_of(kind)
    given = {p.reference.symbol for p in factory.parameters} if factory is not None else set()
    fields: list[RecordField] = []
    for key in kind.keys:
        if factory is None:
            is_argument = not is_fixed(kind, key)
        else:
            value = kind.makings[0].values[key]
            is_argument = value.reference is not None and value.reference.symbol in given
        fields.append(RecordField(key, field_name(kind.module, key), is_argument))
    return tuple(fields)


def field_name(module: Module, key: str) -> str:
    """A name for a field: the key itself, or the nearest that may be one."""
    rules, naming = module.dialect.rules, module.dialect.naming
    plain = key if rules.is_name(key) else naming.joined(*("".join(c if c.isalnum() else " " for c in key)).split())
    if rules.is_name(plain) and not rules.is_private(plain):
        return plain
    return (
        naming.joined(plain, "value") if rules.is_name(naming.joined(plain, "value")) else naming.joined("value", plain)
    )


def _which(module: Module) -> str:
    holders = [kind.holders[0] for kind in record_kinds(module) if kind.holders]
    return f"Records are held by {', '.join(f'`{h}`' for h in holders)}." if holders else "There are none in it."


class _Objectifying(Planner):
    def __init__(self, move: Records, module: Module, kind: RecordKind) -> None:
        super().__init__(module)
        self.move = move
        self.kind = kind
        self.factory = factory_of(kind)
        self.fields = {field.key: field for field in move.fields}
        self.access = MemberAccess(self.rewriter)

    # -- reasons against it

    def find_objections(self) -> None:
        for obstacle in self.kind.obstacles:
            self.object(*obstacle)
        first = self.kind.makings[0].table.start
        used = self.module.scope.symbols.get(self.move.class_name) or self.module.outside.symbols.get(
            self.move.class_name
        )
        if used is not None or self.move.class_name in self.module.names_in_use:
            self.object(first, f"the name `{self.move.class_name}` is in use already", "Choose another name.")
        if set(self.fields) != set(self.kind.keys):
            keys = ", ".join(f"`{key}`" for key in self.kind.keys)
            self.object(first, f"these records have the keys {keys}", "Name each of them once.")
            return
        if len({field.name for field in self.fields.values()}) < len(self.fields):
            self.object(first, f"{self.move.class_name} would have two fields of one name", "Rename one of them.")
        renamed = [f for f in self.fields.values() if f.name != f.key] if self.dialect.rules.keys_are_members else []
        for field in renamed:
            reason = f"`{field.key}` is a member of these objects already, and keeps its name"
            self.object(first, reason, "Rename it when the class is there.")
        own = {field.key: field.is_argument for field in record_fields(self.kind)}
        for field in self.fields.values():
            if self.factory is not None and field.is_argument != own[field.key]:
                reason = f"`{self.factory.name}` makes these records, and says what they are given"
                self.object(
                    first, reason, f'Let `{field.key}` be start = "{"argument" if own[field.key] else "fixed"}".'
                )
            elif self.factory is None and not field.is_argument and own[field.key]:
                self.object(first, f"`{field.key}` does not begin with the same value everywhere", "Pass it in.")

    # -- writing

    def write(self) -> None:
        if self.factory is not None:
            self.write_constructor_from(self.factory)
        else:
            self.write_class()
            for making in self.kind.makings:
                self.write_creation(making)
        self.rewriter.forget_imports([r for making in self.kind.makings for r in self.maker(making)])
        self.retype()
        if self.dialect.rules.keys_are_members:
            return
        done = {later.parts[0] for making in self.kind.makings for later in making.later}
        for access in self.kind.holding.accesses:
            if access not in done or self.factory is not None:
                self.access.of_part(access, self.fields[access.name or ""].name)
        for whole, expression in self.kind.holding.wholes:
            if whole is Whole.LOOKUP:
                self.access.of_lookup(expression, self.fields[expression.parts[1].name or ""].name)

    def retype(self) -> None:
        """Declarations say the class where they said what sort of table this is."""
        at = self.layout.own_lines(self.factory.statement).end if self.factory is not None else self.place
        ends = self.factory.result_type if self.factory is not None else None
        Retyping(self.module, self.rewriter, self.kind.holding).write(self.move.class_name, at, without=ends)

    def write_class(self) -> None:
        """The class, with a constructor that sets all fields."""
        unit = self.layout.indent
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        names = [self.parameter(key) for key in self.arguments]
        constructor = self.writer.constructor_frame(names, unit, unit)
        pieces: list[Piece] = [frame.head, constructor.head]
        for key in self.kind.keys:
            value: Sequence[Piece] = [self.fields[key].name]
            if key not in self.arguments:
                value = [self.module.source.slice(self.kind.makings[0].values[key].span)]
            pieces += self.field_line(key, value, unit * 2)
        at = self.place
        self.rewriter.insert(
            at, self.layout.gap_before(at), *pieces, constructor.tail, *self.equality(), frame.tail, self.layout.gap
        )

    def parameter(self, key: str) -> str:
        """What the constructor takes for a key: some need not give it where records are made without it."""
        name = self.fields[key].name
        return self.writer.optional_parameter(name, self.kind.default(key)) if key in self.kind.optional else name

    @property
    def arguments(self) -> list[str]:
        """The keys whose first values the constructor is given, in the order in which they are worked out.

        Those that some records are made without come last.
        """
        return [key for key in self.kind.keys if self.fields[key].is_argument]

    @property
    def place(self) -> int:
        """Before the first top-level statement in which such an object is made, or that may have one made."""
        made = [making.table.start for making in self.kind.makings]
        return self.layout.lines(first_to_make(self.module, made)).start

    def field_line(self, key: str, value: Sequence[Piece], margin: str) -> list[Piece]:
        target = self.writer.member(self.writer.receiver, self.fields[key].name)
        return [margin, *self.writer.assignment(target, value)]

    def equality(self) -> list[Piece]:
        unit = self.layout.indent
        fields = [self.fields[key].name for key in self.kind.keys]
        return ["\n", self.writer.equality_method(self.move.class_name, fields, unit)] if self.kind.is_compared else []

    def write_creation(self, making: Making) -> None:
        """The object in place of the table; what was set behind it is given to it."""
        comments = self.comments(making)
        has_comments = any(map(any, comments.values()))
        is_long = self.is_spread_out(making.table, has_comments=has_comments)
        by_name = is_long or len(self.arguments) > _MOST_UNNAMED or not self.is_in_order(making)
        pieces: list[Piece] = []
        margin, closing = self.margins(making.table)
        if not self.has_names:
            is_long = has_comments or (is_long and not self.fits_in_row(making))
        given = self.given(making)
        for number, (key, value) in enumerate(given):
            above, behind = comments.get(key, ([], []))
            is_named = by_name or (self.has_names and key in self.kind.optional)
            name = self.writer.named_argument(self.fields[key].name, "") if is_named else ""
            text = [name, *(self.value(value) if value is not None else [self.writer.no_value()])]
            if is_long:
                pieces += ["\n", *(f"{margin}{line}\n" for line in above), margin, *text, ",", *behind]
            else:
                pieces += [", " if number else "", *text]
        if is_long and given:
            pieces += ["\n", closing]
        self.rewriter.drop(self.maker(making))
        head = "".join(map(str, self.writer.creation(self.move.class_name, [])))
        whole = self.writer.with_brackets(self.module.source.parse_view, making.table.span)
        self.rewriting.changes.replace(self.module.path, whole, head[:-1], *pieces, head[-1])
        for later in making.later:
            self.take_away(later)

    def is_spread_out(self, table: Expression, *, has_comments: bool) -> bool:
        """Whether the entries of a table stand on lines of their own, as those of an object then do."""
        line_of = self.module.source.line_of
        first = entries(table)[0][1].start if entries(table) else table.start
        is_begun_below = line_of(first) != line_of(table.start)
        runs_on = "\n" in self.module.source.slice(table.span)
        return runs_on and bool(table.parts) and (is_begun_below or len(entries(table)) > 1 or has_comments)

    def fits_in_row(self, making: Making) -> bool:
        """Whether all that an object is given finds room on one line."""
        texts = [self.module.source.slice(value.span) for _, value in self.given(making) if value is not None]
        margin = self.layout.margin(making.statement)
        return sum(map(len, texts)) + len(margin) < _ROOM and not any("\n" in text for text in texts)

    def maker(self, making: Making) -> list[Reference]:
        """The name of what makes a bare object."""
        table = making.table
        return self.module.references_within(table.parts[0].span) if table.sense is Sense.RECORD else []

    def is_in_order(self, making: Making) -> bool:
        """Whether what is given stands there as the constructor takes it."""
        given = self.order(making)
        return given == self.arguments[: len(given)]

    def order(self, making: Making) -> list[str]:
        """The keys of what is given, as it stands there; as the constructor takes it where nothing has a name."""
        keys = making.values if self.has_names else self.kind.keys
        return [key for key in keys if self.fields[key].is_argument]

    def given(self, making: Making) -> list[tuple[str, Expression | None]]:
        """What the constructor is given, with nothing for what a record is made without and something follows."""
        given = [(key, making.values.get(key)) for key in self.order(making)]
        while given and given[-1][1] is None:
            given.pop()
        return given

    def margins(self, table: Expression) -> tuple[str, str]:
        """The margins of a table's entries and of its end."""
        source = self.module.source
        first = entries(table)[0][1].start if entries(table) else table.start
        is_begun_below = source.line_of(first) != source.line_of(table.start)
        end = table.end - 1 if is_begun_below else table.start
        inner, closing = (self.layout.margin_of(source.line_of(offset)) for offset in (first, end))
        return inner if inner != closing else closing + self.layout.indent, closing

    def comments(self, making: Making) -> dict[str, tuple[list[str], list[Piece]]]:
        """The comments above and behind each entry of a table that runs over several lines."""
        found: dict[str, tuple[list[str], list[Piece]]] = {}
        at = making.table.start
        table = making.table
        for name, value in entries(table):
            line_end = self.module.source.line_end(value.end)
            inside = [c for c in self.module.comments if at <= c.start < min(line_end, table.end)]
            above = [self.module.source.slice(c.span) for c in inside if c.start < value.start]
            behind: list[Piece] = [
                piece
                for c in inside
                if c.start >= value.end
                for piece in (self.writer.before_comment, self.rewriter.taken(c.span))
            ]
            found[name or ""] = (above, behind)
            at = max([value.end, *(c.end for c in inside)])
        return found

    def value(self, value: Expression) -> list[Piece]:
        """A value, in parentheses where it could not stand alone."""
        taken = self.rewriter.taken(value.span)
        text = self.module.source.slice(value.span)
        needs = value.sense in _LOOSE or ("\n" in text and text[:1] not in "([{" and value.sense is not Sense.CALL)
        return ["(", taken, ")"] if needs else [taken]

    def take_away(self, later: Expression) -> None:
        """An assignment whose value the constructor has been given."""
        statement = later.statement
        assert statement is not None
        reference = later.parts[0].parts[0].reference
        self.rewriter.drop([reference] if reference is not None else [])
        self.rewriter.remove(self.layout.own_lines(statement))

    # -- a factory becomes the constructor

    def write_constructor_from(self, factory: Function) -> None:
        unit = self.layout.indent
        lines = self.layout.own_lines(factory.statement)
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        taken = self.rewriter.lines_taken(lines, indent=unit)
        self.rewriter.insert(lines.end, frame.head, *taken, *self.equality(), frame.tail)
        self.rewriter.remove(lines)
        self.rewriter.make_constructor(factory)
        for reference in factory.symbol.references:
            if reference is not factory.named:
                self.rewriter.replace(reference, self.move.class_name, Renamed(self.move.class_name))
                self.rewriter.insert(reference.start, self.writer.making)
        self.set_fields(self.kind.makings[0])
        last = factory.body.statements[-1]
        if last is not self.kind.makings[0].statement:
            self.rewriter.drop(last.references)
            self.rewriter.remove(self.layout.own_lines(last))
        holder = next((r.symbol for r in self.kind.makings[0].statement.references if r.binds), None)
        for reference in holder.references if holder is not None else ():
            if reference not in self.rewriting.dropped:
                self.rewriter.replace(reference, self.writer.receiver, Receiver(self.move.class_name))

    def set_fields(self, making: Making) -> None:
        """Assignments to the fields, in place of the statement that made the record."""
        statement = making.statement
        margin = self.layout.margin(statement)
        inner = margin + self.layout.indent  # the first line moves with the text around it
        comments = self.comments(making)
        pieces: list[Piece] = []
        for name, value in entries(making.table):
            above, behind = comments[name or ""]
            *setting, end = self.field_line(name or "", self.value(value), "")
            for line in ([f"{line}\n"] for line in above):
                pieces += [inner if pieces else margin, *line]
            pieces += [inner if pieces else margin, *setting, *behind, end]
        self.rewriter.drop([*(r for r in statement.references if r.binds), *self.maker(making)])
        own = self.layout.own_lines(statement)
        if pieces:
            self.rewriting.changes.replace(self.module.path, own, *pieces)
        else:
            self.rewriter.remove(own)


def _by_hand(program: Program, script: Path, given: Given) -> list[Records]:
    kind = kind_held_by(program.modules[script], given["holder"])
    fields = record_fields(kind) if kind is not None else ()
    renamed = dict(named(text) for text in given["keys"])
    chosen = tuple(RecordField(f.key, renamed.get(f.key, f.name), f.is_argument) for f in fields)
    return [Records(script, given["class"], given["holder"], chosen)]


MOVE = Description(
    name="records",
    place=5,
    summary=(
        "Tables with plain keys become objects with fields; what differs is passed in.\n"
        "Refused where one is used as a table: shown whole, or handed to a library."
    ),
    term="Replace Record with Data Class",
    help="Make a class of the records that a variable, `routine.variable` or `container[]` holds.",
    parameters=(
        StepParameter("holder", Takes.ONE, "HOLDER"),
        StepParameter("keys", Takes.ANY, "KEY=FIELD..."),
        StepParameter("class", Takes.NEEDED, "NAME", "The class."),
    ),
    make=_by_hand,
    example=Example(
        language="python",
        words="kites[] --class Kite",
        before="""\
kites = []


def add_kite(color, length):
    kites.append({"color": color, "length": length, "up": False})


add_kite("red", 40)
add_kite("blue", 25)
kites[0]["up"] = True
for kite in kites:
    print(kite["color"], kite["length"], kite["up"])
""",
        after={
            "harbour.py": """\
kites = []


class Kite:
    def __init__(self, color, length):
        self.color = color
        self.length = length
        self.up = False


def add_kite(color, length):
    kites.append(Kite(color, length))


add_kite("red", 40)
add_kite("blue", 25)
kites[0].up = True
for kite in kites:
    print(kite.color, kite.length, kite.up)
""",
        },
    ),
)
