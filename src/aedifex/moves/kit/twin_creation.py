"""Making objects of copies: their class, and the objects in place of their variables."""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property
from typing import Protocol

from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriting import Parameter, Variable
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.writer import Piece, VaryingText
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Statement
from aedifex.program.structure.state import Constants, is_state
from aedifex.source.text import Span
from aedifex.survey.kinds.beginnings import Beginning
from aedifex.survey.kinds.likeness import Hole
from aedifex.survey.kinds.twin_fields import TwinField, symbol_around, symbol_given
from aedifex.survey.kinds.twins import TwinKind, merged_name
from aedifex.survey.words import words_of

_MOST_UNNAMED = 4
_KEY, _COLOR = "key", "color"
_WAYS = ("up", "down", "left", "right", "space")
_COLORS = frozenset("red green blue yellow orange purple white black gray grey brown pink cyan gold silver".split())


class TwinMove(Protocol):
    """What a move says of the objects that it makes."""

    @property
    def class_name(self) -> str:
        """The class."""
        ...

    @property
    def instances(self) -> tuple[str, ...]:
        """The variables of the objects."""
        ...

    @property
    def container(self) -> str:
        """A list of all of them, or nothing."""
        ...

    @property
    def item(self) -> str:
        """What one is called in a loop, or as a parameter."""
        ...

    @property
    def fields(self) -> tuple[TwinField, ...]:
        """The fields of the class."""
        ...


class TwinCreation(Planner):
    """Writes the class of some copies, and the objects in place of their variables."""

    def __init__(self, move: TwinMove, module: Module, kind: TwinKind) -> None:
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

    def text(self, span: Span) -> str:
        """What stands somewhere."""
        return self.module.source.slice(span)

    def differs(self, attribute: str) -> bool:
        """Whether the copies begin with different values of an attribute."""
        if self.beginning.pairs:
            return len({self.text(value) for value in self.first_values(attribute)}) > 1
        return any(self.field_of_hole(hole) is self.fields[attribute] for hole in self.holes)

    def first_values(self, attribute: str) -> list[Span]:
        """The plain values with which each copy begins."""
        symbols = self.kind.fields[attribute]
        return [
            next(pair.value.span for _, pair in pairs if pair.target.symbol is symbol)
            for symbol, pairs in zip(symbols, self.beginning.pairs, strict=True)
        ]

    def keeps_order(self) -> bool:
        """Whether values that are worked out are so in the same order when the objects are made."""
        order: list[Span] = []
        for number in range(len(self.kind.marks)):
            for is_argument in (True, False):
                named = [a for a, field in self.fields.items() if field.is_argument is is_argument]
                order += [self.first_values(attribute)[number] for attribute in named]
        worked_out = [pair.value.span for pair in self.beginning.worked_out]
        return [span for span in order if span in worked_out] == worked_out

    @property
    def holes(self) -> list[Hole]:
        """The constants that differ where the copies are set up."""
        return self.beginning.likeness.holes if self.beginning.likeness is not None else []

    def named_too_late(self) -> list[Reference]:
        """The names of constants that differ between the copies and have no value yet where the objects are made."""
        statements = [s for run in self.beginning.runs for s in run]
        statements += [s for pairs in self.beginning.pairs for s, _ in pairs]
        first = min(statement.start for statement in statements)
        used = [c.span for hole in (*self.holes, *self.kind.constants) for c in hole.constants]
        named = [r for span in used for r in self.module.references_within(span)]
        return [r for r in named if not any(b.start < first for b in r.symbol.bindings)]

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

    @cached_property
    def kept(self) -> dict[str, list[Hole]]:
        """What differs between the functions of the copies, by the field that keeps it."""
        found: dict[str, list[Hole]] = {}
        given = {name: self.texts(holes[0]) for name, holes in self.parameters}
        taken = {field.name for field in self.fields.values()}
        for hole in self.kind.constants:
            wish = self.name_for(hole)
            names = (wish if n == 1 else self.dialect.naming.joined(wish, str(n)) for n in range(1, 99))
            for name in names:
                is_same = all(self.texts(hole) == self.texts(other) for other in found.get(name, []))
                if name not in taken and is_same and given.get(name, self.texts(hole)) == self.texts(hole):
                    found.setdefault(name, []).append(hole)
                    break
        return found

    def texts(self, hole: Hole) -> tuple[str, ...]:
        """A constant as it stands in each copy; where such texts differ in a number or word, that."""
        varying = self.varying(hole)
        return varying.values if varying is not None else tuple(self.text(c.span) for c in hole.constants)

    def varying(self, hole: Hole) -> VaryingText | None:
        """How a constant in the functions of the copies is one text that shows what differs, if it is."""
        if hole not in self.kind.constants or self.is_in_text(hole.constants[0]):
            return None
        return self.writer.varying_text([self.text(constant.span) for constant in hole.constants])

    def is_in_text(self, constant: Expression) -> bool:
        """Whether a constant stands in a text that shows values."""
        around = self.surroundings.around(constant)
        while around is not None and around.sense is not Sense.TEXT:
            around = self.surroundings.around(around)
        return around is not None

    def kept_value(self, name: str, hole: Hole) -> str:
        """What stands in a function for a constant that an object keeps."""
        value, varying = self.writer.member(self.move.item, name), self.varying(hole)
        return f"{varying.before}{value}{varying.behind}" if varying is not None else value

    def keeping(self) -> list[Piece]:
        """The lines of the constructor that keep what the functions of the copies need."""
        margin = self.layout.indent * 2
        pieces: list[Piece] = []
        for name in self.kept:
            pieces += [margin, *self.writer.assignment(self.writer.member(self.writer.receiver, name), [name])]
        return pieces

    def name_for(self, hole: Hole) -> str:
        """A name for a constant: by its keyword, or by what it is given to."""
        varying = self.varying(hole)
        if varying is not None:
            return "number" if varying.are_numbers else "name"
        named = self.name_of_names(hole)
        if named:
            return named
        constant = hole.constants[0]
        call = self.surroundings.around(constant)
        while call is not None and call.sense in (Sense.OPERATION, Sense.SUM):
            constant, call = call, self.surroundings.around(call)
        symbol = symbol_around(hole.constants[0])
        field = self.home[symbol][1].name if symbol is not None and symbol in self.home else "value"
        if call is not None and call.sense is Sense.SET and call.parts[0].sense is Sense.MEMBER:
            return call.parts[0].name or field
        if call is None or call.sense is not Sense.CALL:
            return field
        at = call.parts.index(constant) - 1
        if at < 0:
            return field
        if call.names[at]:
            return str(call.names[at])
        callee = call.parts[0].name or (call.parts[0].reference.name if call.parts[0].reference else "")
        return self.dialect.library.parameter_name(callee, at) or field

    def name_of_names(self, hole: Hole) -> str:
        """What several names of constants are: keys, by the way in which one of them points, or colors."""
        naming, texts = self.dialect.naming, [self.text(constant.span) for constant in hole.constants]
        keys = [key for text in texts for key in self.dialect.library.keys_in(text)]
        if len(keys) == len(texts):
            ways = [key.lower() for key in keys if key.lower() in _WAYS]
            return naming.joined(*ways[:1], _KEY)
        words = [words_of(text.rpartition(".")[2]) for text in texts]
        if any(not self.dialect.naming.names_constant(text.rpartition(".")[2]) for text in texts):
            return ""
        shared = [word for word in words[0] if all(word in others for others in words)]
        is_color = all(word[-1] in _COLORS for word in words)
        return _COLOR if is_color else naming.member_name(shared or words[0])

    @cached_property
    def is_listed_only(self) -> bool:
        """Whether nothing but loops and their own functions know the objects, so that a list can hold them alone."""
        if not self.move.container:
            return False
        if not self.beginning.is_close:
            return False
        inside = [s.span for run in self.beginning.runs for s in run]
        inside += [pair.target.span for pairs in self.beginning.pairs for _, pair in pairs]
        inside += [f.statement.span for family in self.kind.routines.values() for f in family]
        inside += [s.span for repeated in self.kind.repeated for run in repeated.runs for s in run]
        inside += [choice.span for choice in self.kind.choices]
        uses = [r for symbol in (*self.home, *self.merged) for r in symbol.references if r.form is not Form.DECLARATION]
        return all(any(s.start <= r.start < s.end for s in inside) for r in uses)

    def write_creations(self, at: int, margin: str, objects: Sequence[tuple[list[str], list[Piece]]]) -> None:
        """The objects with the comments above them: in a list, or each in a variable."""
        pieces: list[Piece] = []
        if self.is_listed_only:
            inner: list[Piece] = []
            for number, (comments, made) in enumerate(objects):
                inner += [*(f"\n{margin}{self.layout.indent}{c}" for c in comments), "\n", margin, self.layout.indent]
                inner += [*self.key_of(number), *made, ","]
            begin, end = self.container_frame
            pieces += [margin, *self.named(self.move.container, [begin, *inner, "\n", margin, end])]
        else:
            for number, (comments, made) in enumerate(objects):
                pieces += [*(f"{margin}{c}\n" for c in comments)]
                pieces += [margin, *self.named(self.move.instances[number], made)]
            pieces += self.list_of_all(margin)
        self.rewriter.insert(at, *pieces)

    @property
    def has_list(self) -> bool:
        """Whether objects that have names are in a list as well."""
        return bool(self.move.container and (self.kind.repeated or self.kind.keys))

    def list_of_all(self, margin: str) -> list[Piece]:
        """The list of all objects, where something walks over them."""
        if not self.has_list:
            return []
        entries = ["".join([*self.key_of(number), name]) for number, name in enumerate(self.move.instances)]
        begin, end = self.container_frame
        return [margin, *self.named(self.move.container, [begin, ", ".join(entries), end])]

    def named(self, name: str, made: Sequence[Piece]) -> list[Piece]:
        """Something under a name of the top level: it is declared there already where a function makes it."""
        if self.beginning.routine is not None:
            return self.writer.assignment(name, made)
        return self.writer.variable(name, made)

    @property
    def margin(self) -> str:
        """How far in the objects are made."""
        routine = self.beginning.routine
        return self.layout.margin(routine.body.statements[0]) if routine is not None else ""

    def top_of(self, first: Statement) -> Statement:
        """What the class stands above: where the copies begin, or are declared if a function makes them."""
        return first if self.beginning.routine is None else self.declaring

    @property
    def declaring(self) -> Statement:
        """The first statement that declares a variable of the copies."""
        found = (r.statement for symbol in self.home for r in symbol.references if r.declares)
        return min((s for s in found if s is not None), key=lambda statement: statement.start)

    def declarations(self) -> list[Piece]:
        """The names of the objects, declared where the copies were, if a function makes them."""
        if self.beginning.routine is None:
            return []
        listed = [self.move.container] if self.is_listed_only or self.has_list else []
        names = listed if self.is_listed_only else [*self.move.instances, *listed]
        keyword = self.declaring.keyword
        assert keyword is not None
        return [p for name in names for p in (*self.writer.declaration(self.text(keyword), [name]), "\n")]

    def key_of(self, number: int) -> list[str]:
        """What stands before an object in the container, where the copies are reached by constants."""
        return [self.writer.under_key(self.kind.keys[number])] if self.kind.keys else []

    @property
    def container_frame(self) -> tuple[str, str]:
        """What begins and ends the container of all objects."""
        frame = self.writer.table_frame() if self.kind.keys else self.writer.list_frame()
        return frame.head, frame.tail

    def insert_class(self, before: Statement, pieces: Sequence[Piece]) -> None:
        """Put the class in above a statement and its comments."""
        at = self.layout.lines(before).start
        self.rewriter.insert(at, self.layout.gap_before(at), *pieces)

    def comments_of(self, firsts: Sequence[Statement]) -> list[list[str]]:
        """The comments above the first statement of each copy; what heads all of them stays where it is."""
        found: list[list[str]] = []
        for statement in firsts:
            begin, end = self.layout.lines(statement).start, self.layout.own_lines(statement).start
            found.append([line.strip() for line in self.rewriter.comments(begin, end, "")])
        heading = self.layout.heading(firsts[0])
        is_of_all = not any(found[1:]) or (heading is not None and heading.is_ruled)
        return [[], *found[1:]] if is_of_all else found

    def write_class_of_values(self) -> None:
        """The class of copies that begin with plain values, and its objects where the first value stood."""
        unit = self.layout.indent
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        arguments = [name for name, field in self.fields.items() if field.is_argument]
        names = [self.fields[attribute].name for attribute in arguments]
        constructor = self.writer.constructor_frame([*names, *self.kept], unit, unit)
        pieces: list[Piece] = [frame.head, constructor.head, *self.keeping()]
        for attribute, field in self.fields.items():
            value = field.name if field.is_argument else self.rewriter.taken(self.first_values(attribute)[0])
            target = self.writer.member(self.writer.receiver, field.name)
            pieces += [unit * 2, *self.writer.assignment(target, [value])]
            for again in self.first_values(attribute)[1:] if not field.is_argument else ():
                self.drop(self.module.references_within(again))
        statements = sorted({s for pairs in self.beginning.pairs for s, _ in pairs}, key=lambda s: s.start)
        pieces += [constructor.tail, frame.tail, self.layout.gap, *self.declarations()]
        self.insert_class(self.top_of(statements[0]), pieces)
        objects: list[tuple[list[str], list[Piece]]] = []
        for number in range(len(self.kind.marks)):
            values: list[tuple[str, Piece]] = [
                (self.fields[a].name, self.rewriter.taken(self.first_values(a)[number])) for a in arguments
            ]
            values += [(name, self.texts(holes[0])[number]) for name, holes in self.kept.items()]
            by_name = [name for name, _ in values] if len(values) > _MOST_UNNAMED else []
            created = self.writer.creation(self.move.class_name, [value for _, value in values], by_name)
            objects.append(([], created))
        firsts = [min((s for s, _ in pairs), key=lambda s: s.start) for pairs in self.beginning.pairs]
        comments = self.comments_of(firsts) if len(set(firsts)) == len(firsts) else [[] for _ in firsts]
        with_comments = [(above, made) for above, (_, made) in zip(comments, objects, strict=True)]
        worked_out = [s for pairs in self.beginning.pairs for s, pair in pairs if pair in self.beginning.worked_out]
        place = max(worked_out, key=lambda s: s.start, default=statements[0])
        self.write_creations(self.layout.own_lines(place).end, self.margin, with_comments)
        gone = {pair.target for pairs in self.beginning.pairs for _, pair in pairs}
        for statement in statements:
            moved = statement in firsts and bool(comments[firsts.index(statement)])
            self.take_out(statement, gone, keeps_comments=not moved)

    def take_out(self, statement: Statement, gone: set[Reference], *, keeps_comments: bool) -> None:
        """Remove the variables of the copies from the assignment that set them."""
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        self.drop([reference for reference in statement.references if reference in gone])
        left = [pair for pair in pairs if pair.target not in gone]
        if left:
            self.rewriter.keep_pairs(statement, left)
        else:
            own = self.layout.own_lines(statement)
            self.rewriter.remove(own if keeps_comments else self.layout.lines(statement))

    def write_class_of_runs(self) -> None:
        """The class of copies that are set up by statements, which become its constructor."""
        unit, first = self.layout.indent, self.beginning.runs[0]
        frame = self.writer.class_frame(self.move.class_name, "", unit)
        known = dict(self.parameters)
        parameters = {**known, **{name: holes for name, holes in self.kept.items() if name not in known}}
        handed = self.handed_in
        constructor = self.writer.constructor_frame([*handed, *parameters], unit, unit)
        body = self.rewriter.lines_taken(
            Span(self.layout.own_lines(first[0]).start, self.layout.own_lines(first[-1]).end),
            dedent=self.layout.margin(first[0]),
            indent=unit * 2,
        )
        pieces = [frame.head, constructor.head, *self.keeping(), *body, constructor.tail, frame.tail, self.layout.gap]
        self.insert_class(self.top_of(first[0]), [*pieces, *self.declarations()])
        for name, holes in self.parameters:
            for hole in holes:
                self.rewriting.changes.replace(self.module.path, hole.constants[0].span, name)
                self.drop(self.module.references_within(hole.constants[0].span))
        for reference in self.uses_within([s.span for s in first]):
            number, field = self.home[reference.symbol]
            assert number == 0
            self.rewriter.undeclare(reference)
            self.change(reference, self.writer.member(self.writer.receiver, field.name))
        for reference in [r for s in first for r in self.module.references_within(s.span) if r.symbol in self.merged]:
            self.use_function(reference, self.writer.receiver)
        for references in handed.values():
            for reference in (r for r in references if r.symbol not in self.merged):
                self.rewriting.destinations[reference] = Parameter(self.dialect.rules.constructor, reference.name)
        objects: list[list[Piece]] = []
        by_name = len(parameters) > _MOST_UNNAMED
        for number in range(len(self.kind.marks)):
            values = [(name, self.texts(holes[0])[number]) for name, holes in parameters.items()]
            given: list[Piece] = [
                self.writer.named_argument(name, value) if by_name else value for name, value in values
            ]
            objects.append(self.writer.creation(self.move.class_name, [*handed, *given]))
        comments = self.comments_of([run[0] for run in self.beginning.runs])
        if self.beginning.is_close:
            end = self.layout.own_lines(self.beginning.runs[-1][-1]).end
            self.write_creations(end, self.margin, list(zip(comments, objects, strict=True)))
            begin = self.layout.lines(first[0]) if comments[0] else self.layout.own_lines(first[0])
            self.rewriter.remove(Span(begin.start, end))
        for number, run in enumerate(self.beginning.runs):
            if not self.beginning.is_close:
                begin = self.layout.lines(run[0]) if comments[number] else self.layout.own_lines(run[0])
                self.rewriter.remove(Span(begin.start, self.layout.own_lines(run[-1]).end))
            if number:
                self.drop([r for s in run for r in self.module.references_within(s.span)])
            if not self.beginning.is_close:
                made = [self.margin, *self.named(self.move.instances[number], objects[number])]
                if number == len(self.kind.marks) - 1:
                    made += self.list_of_all(self.margin)
                self.rewriter.insert(self.layout.own_lines(run[-1]).end, *made)

    @cached_property
    def handed_in(self) -> dict[str, list[Reference]]:
        """What the set-up of a copy uses of the program's state, by the name of the parameter that brings it."""
        constants, effects = Constants.of(self.module), Effects.of(self.module)
        found: dict[str, list[Reference]] = {}
        for reference in [r for s in self.beginning.runs[0] for r in self.module.references_within(s.span)]:
            symbol = reference.symbol
            touched = {s for f in effects.routines_behind(symbol) for s in effects.transitive[f].touches}
            works_on_state = any(s not in self.home for s in constants.changing(touched))
            is_own = symbol in self.home or not symbol.is_module_level or constants.settles(symbol)
            if works_on_state or (is_state(symbol) and not is_own):
                name = self.merged[symbol][1] if symbol in self.merged else reference.name
                found.setdefault(name, []).append(reference)
        return found

    def uses_within(self, spans: Sequence[Span]) -> list[Reference]:
        """The uses of the copies' variables in some stretches."""
        inside = [r for span in spans for r in self.module.references_within(span)]
        return [r for r in inside if r.symbol in self.home and r.form is not Form.DECLARATION]

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

    def change(self, reference: Reference, text: str) -> None:
        """Put a text where a name stood that goes."""
        self.rewriting.changes.replace(self.module.path, reference.span, text)
        if text.startswith(self.writer.member(reference.name, "")):
            self.handled.add(reference)
            self.rewriting.destinations[reference] = Variable(reference.name)
        else:
            self.drop([reference])

    def drop(self, references: Sequence[Reference]) -> None:
        """Note that names go."""
        self.handled.update(references)
        self.rewriter.drop(references)
