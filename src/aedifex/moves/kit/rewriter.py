"""Edits that several moves make: replacing names, removing lines, taking text along."""

from __future__ import annotations

from collections.abc import Collection, Container, Iterable, Sequence

from aedifex.moves.kit.rewriting import Destination, Member, Rewriting
from aedifex.program.dialect.writer import Piece, RoutineSpans, margin_of_first_line
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Imported, Reference, Scope, Symbol
from aedifex.program.model.statements import Call, Function, Kind, Pair, Parameter, ParameterKind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.source.edits import Taken
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span


class Rewriter:
    """Gathers the edits of one module for one move."""

    def __init__(self, module: Module, rewriting: Rewriting) -> None:
        self.module = module
        self.writer = module.dialect.writer
        self.layout = Layout.of(module)
        self.rewriting = rewriting
        self._echoed: set[int] = set()
        self._declared: dict[Statement, list[Reference]] = {}
        self._undeclared: dict[Statement, list[Reference]] = {}
        self._removed: list[Span] = []
        self._inserted: set[int] = set()
        self._taking_place: set[int] = set()

    def replace(self, reference: Reference, text: str, destination: Destination, span: Span | None = None) -> None:
        """Put `text` where a reference (or the wider `span` around it) stands; a star import has no name to replace."""
        if reference.form is Form.STAR:
            return
        self._keep_echo(reference)
        if reference.is_key and span is None:
            self.rewriting.changes.replace(
                self.module.path, Span(reference.start, reference.start), self.writer.under_key(reference.name)
            )
        if isinstance(destination, Member):
            self.undeclare(reference)
        span = span or reference.span
        self.rewriting.changes.replace(self.module.path, span, text)
        self.rewriting.destinations[reference] = destination
        self.rewriting.spans[reference] = span

    def undeclare(self, reference: Reference) -> None:
        """Let a reference that may declare its name do so no more: it becomes a member."""
        if reference.declares and reference.statement is not None:
            self._undeclared.setdefault(reference.statement, []).append(reference)

    def keep_pairs(self, statement: Statement, left: Iterable[Pair]) -> None:
        """Let an assignment, or a declaration, set no more than some of its names."""
        word = self.module.source.slice(statement.keyword) if statement.keyword is not None else ""
        taken = [(self.taken(pair.target.span), self.taken(pair.value.span)) for pair in left]
        self.rewriting.changes.replace(self.module.path, statement.span, *self.writer.assignments(taken, word))

    def drop_declaration(self, reference: Reference) -> None:
        """Take a name out of its scope declaration."""
        assert reference.statement is not None
        self._declared.setdefault(reference.statement, []).append(reference)
        self.rewriting.dropped.add(reference)

    def drop(self, references: Iterable[Reference]) -> None:
        """Note that references go away with their text."""
        self.rewriting.dropped.update(references)

    def remove(self, span: Span) -> None:
        """Take whole lines away."""
        if span.start < span.end:
            self._removed.append(span)

    def insert(self, offset: int, *pieces: Piece) -> None:
        """Put pieces in at an offset."""
        self._inserted.add(offset)
        if _are_lines(pieces):
            self._taking_place.add(offset)
        self.rewriting.changes.replace(self.module.path, Span(offset, offset), *pieces)

    def taken(self, span: Span, dedent: str = "", indent: str = "") -> Taken:
        """Text to carry over, indented anew."""
        path = self.module.path
        return Taken(path, span.start, span.end, dedent.encode(), indent.encode(), self.module.fixed)

    def lines_taken(self, span: Span, dedent: str = "", indent: str = "") -> list[Piece]:
        """Whole lines to carry over, the last of them with its line ending even where the file ends without one."""
        return [self.taken(span, dedent, indent), *self.line_break(span.end)]

    def line_break(self, end: int) -> list[Piece]:
        """What ends the last line of a file that does not end it itself."""
        return [] if self.module.source.data[end - 1 : end] in (b"\n", b"\r") else ["\n"]

    def make_method(self, function: Function) -> None:
        """Let a function's text be that of a method, which has a receiver."""
        statement = function.statement
        at, data = statement.start, self.module.source.data
        body = Span(function.body.start, function.body.end)
        routine = RoutineSpans(function.named.span, function.signature, body).counted_from(at)
        for start, end, text in self.writer.as_method(data[at : statement.end], routine, self.layout.indent):
            self.rewriting.changes.replace(self.module.path, Span(at + start, at + end), text)
            if start == end:
                self._inserted.add(at + start)

    def make_constructor(self, function: Function) -> None:
        """Let a function be the constructor: it has that name, gets the receiver, and no longer says what it gives."""
        constructor = self.module.dialect.rules.constructor
        changes, path = self.rewriting.changes, self.module.path
        self.drop([function.named])
        changes.replace(path, function.named.span, constructor)
        self.make_method(function)
        if function.result_type is not None:
            self.drop(self.type_names(function.result_type))
            changes.replace(path, Span(function.signature.end + 1, function.result_type.end), "")

    def add_parameter(self, function: Function, name: str) -> None:
        """Give a function one more parameter, by keyword where the others could not stay where they are."""
        self.add_parameters(function, [name])

    def add_parameters(self, function: Function, names: Sequence[str]) -> None:
        """Give a function more parameters, by keyword where the others could not stay where they are."""
        if not names:
            return
        parameters = function.parameters
        first = self.writer.parameter_behind(names[0], parameters)
        at = parameters[-1].end if parameters else function.signature.start
        text = ", ".join([first, *names[1:]])
        self.insert(at, f", {text}" if parameters else text)

    def add_argument(self, call: Call, name: str, value: str, *, by_keyword: bool) -> None:
        """Pass a value for the new parameter `name` in a call, by keyword where that is asked for or clearer."""
        is_plain = not by_keyword and not any(a.keyword or a.stars for a in call.arguments)
        self.append_argument(call, value if is_plain else self.writer.named_argument(name, value))

    def append_argument(self, call: Call, text: str) -> None:
        """Put one more argument behind those of a call."""
        assert call.inside is not None
        at = call.arguments[-1].end if call.arguments else call.inside.start
        self.insert(at, f", {text}" if call.arguments else text)

    def prepend_arguments(self, call: Call, names: Sequence[str]) -> None:
        """Put arguments in front of those of a call."""
        if call.inside is not None and names:
            text = f"{', '.join(names)}{', ' if call.arguments else ''}"
            is_apart = margin_of_first_line(self.module.source.slice(call.inside)) is not None
            self.insert(call.inside.start, text.rstrip() if is_apart else text)

    def comments(self, begin: int, end: int, margin: str) -> list[str]:
        """The comment lines between two offsets, at a margin."""
        found = (comment for comment in self.module.comments if begin <= comment.start < end)
        return [f"{margin}{self.module.source.slice(comment.span)}\n" for comment in found]

    def comment_behind(self, statement: Statement) -> list[Piece]:
        """The comment at the end of a statement's last line, to stand behind what takes its place."""
        trailing = self.layout.trailing_comment(statement)
        return [self.writer.before_comment, self.taken(trailing.span)] if trailing is not None else []

    @property
    def left(self) -> bytes:
        """The text without the lines that are taken away, with newlines as line endings."""
        kept = bytearray(self.module.source.parse_view)
        for span in self._gone:
            whole = self._with_blank_lines(span)
            kept[whole.start : whole.end] = b"\x00" * (whole.end - whole.start)
        return bytes(kept).replace(b"\x00", b"").replace(b"\r", b"")

    @property
    def _gone(self) -> list[Span]:
        """What is removed; all that goes before the end of a block, with nothing but blank lines between, as one."""
        found: list[Span] = []
        data = self.module.source.parse_view
        for span in reversed(_merged(self._removed, self._inserted)):
            later = found[-1] if found else None
            between = data[span.end : later.start] if later is not None and span.end <= later.start else b"-"
            is_free = later is not None and not any(span.end <= at <= later.start for at in self._inserted)
            if later is not None and is_free and not between.strip() and self._ends_block(later.end):
                found[-1] = Span(span.start, later.end)
            else:
                found.append(span)
        return found

    def finish(self) -> None:
        """Turn what was gathered into edits."""
        for statement, references in self._declared.items():
            self._shorten_declaration(statement, references)
        for statement, references in self._undeclared.items():
            self._declare_no_more(statement, references)
        for span in self._gone:
            self.rewriting.changes.replace(self.module.path, self._with_blank_lines(span))

    # -- scope declarations

    def _shorten_declaration(self, statement: Statement, gone: Sequence[Reference]) -> None:
        left = [r for r in statement.references if r not in gone]
        path, changes = self.module.path, self.rewriting.changes
        if left and statement.keyword is not None:
            keyword = self.module.source.slice(statement.keyword)
            names = [Taken(path, reference.start, reference.end) for reference in left]
            changes.replace(path, statement.span, *self.writer.declaration(keyword, names))
        elif self._may_vanish(statement):
            self.remove(self.layout.own_lines(statement))
        else:
            changes.replace(path, statement.span, self.writer.nothing())

    def _declare_no_more(self, statement: Statement, gone: Sequence[Reference]) -> None:
        """Let a statement that declared names set members: it begins with what it sets."""
        if statement.keyword is None:
            return
        others = [r for r in statement.references if r.declares and r not in gone]
        if others:
            place, name = self.module.source.place(statement.start), gone[0].name
            if others[0].scope is gone[0].scope:
                reason, advice = f"`{name}` is declared together with what stays a variable", "Declare each by itself."
            else:
                reason = f"`{name}` holds functions that would mean something else in a class"
                advice = "Write it as a class, or those functions outside of it."
            raise RefusedError(reason, place, advice)
        at = statement.keyword.end
        while self.module.source.data[at : at + 1].isspace():
            at += 1
        begun = self.writer.beginning(self.module.source.slice(Span(at, statement.end)))
        self.rewriting.changes.replace(self.module.path, Span(statement.keyword.start, at), begun.head)
        if statement.assignment is not None and statement.assignment.value is not None:
            self.insert(statement.assignment.value.end, begun.tail)

    def _may_vanish(self, statement: Statement) -> bool:
        """Whether something else keeps the block from being empty."""
        stays = any(
            len(self._declared.get(s, ())) < len(s.references) or s not in self._declared
            for s in statement.block.statements
        )
        return stays and self.layout.stands_alone(statement)

    # -- imports

    def quote_type(self, declared: Span) -> bool:
        """Put a declared type into quotes, for names that do not yet mean anything there; not where it has some."""
        before, behind = self.writer.quotes
        text = self.module.source.slice(declared)
        if before in text or behind in text or "\n" in text:
            return False
        self.insert(declared.start, before)
        self.insert(declared.end, behind)
        return True

    def type_names(self, declared: Span | None) -> list[Reference]:
        """The names in a declared type."""
        return self.module.references_within(declared) if declared is not None else []

    def forget_imports(self, gone: Collection[Reference]) -> None:
        """Import no more what is used nowhere but at places that go."""
        idle: dict[Statement, list[Reference]] = {}
        for symbol in dict.fromkeys(reference.symbol for reference in gone):
            brought = [r for r in symbol.references if r not in gone]
            statement = brought[0].statement if len(brought) == 1 and brought[0].form is Form.IMPORT else None
            if statement is not None and self.layout.stands_alone(statement):
                idle.setdefault(statement, []).append(brought[0])
        for statement, names in idle.items():
            if {r for r in statement.references if r.form is Form.IMPORT} == set(names):
                self.drop(names)
                self.remove(self.layout.own_lines(statement))
            else:
                self.shorten_import(statement, names)

    def shorten_import(self, statement: Statement, gone: Sequence[Reference]) -> None:
        """Take names out of an import that keeps others."""
        names = [r for r in statement.references if r.form is Form.IMPORT]
        if any(name.symbol.imported is None for name in names):
            return
        self.drop(names)
        kept = [number for number, name in enumerate(names) if name not in gone]
        text = self.writer.fewer_imports(self.module.source.slice(statement.span), kept)
        if text is None:
            symbols = [names[number].symbol for number in kept]
            brought = [(found, symbol.name) for symbol in symbols for found in full_imports(symbol)]
            lines = [self.writer.import_line(found, name) for found, name in dict.fromkeys(brought)]
            text = self.layout.margin(statement).join(lines).rstrip("\n")
        self.rewriting.changes.replace(self.module.path, statement.span, text)

    # -- templates that show their own text

    def _keep_echo(self, reference: Reference) -> None:
        echo = self.module.echo_at(reference.start)
        if echo is None or echo.brace in self._echoed:
            return
        self._echoed.add(echo.brace)
        shown = self.module.source.slice(echo.expression)
        changes, path = self.rewriting.changes, self.module.path
        changes.replace(path, Span(echo.brace, echo.brace), self.writer.spelled_out(shown))
        length, instead = self.writer.shown_expression(echo, shown)
        changes.replace(path, Span(echo.expression.start + length, echo.expression.end), instead)

    # -- lines

    def _with_blank_lines(self, span: Span) -> Span:
        """Where removed lines leave two groups of blank lines facing each other, one goes as well.

        Before a definition, and behind the end of a block, that is the shorter one, else the later one. Where something
        is put in at them the blank lines stay: they are its own then. At the beginning of a block all go.
        """
        whole = self._with_all_blank_lines(span)
        start = max((at for at in self._inserted if whole.start < at <= span.start), default=whole.start)
        end = min((at for at in self._inserted if span.end <= at < whole.end), default=whole.end)
        return Span(start, end)

    def _with_all_blank_lines(self, span: Span) -> Span:
        """The same where nothing is put in within the blank lines above; lines that take the place keep their room."""
        if span.start in self._taking_place or span.end in self._inserted:
            return span
        source = self.module.source
        line = source.line_of(span.start)
        above = 0
        while line - above > 1 and not source.line(line - above - 1).strip():
            above += 1
        ends = [span.end]
        while ends[-1] < len(source.data) and not source.line(source.line_of(ends[-1])).strip():
            ends.append(source.line_end(ends[-1]))
        below = len(ends) - 1
        if line == 1 or line - above == 1:
            return Span(span.start, ends[-1])
        own, after = self._margin(span.start), self._margin(ends[-1])
        if above and self._closes_block_at(ends[-1]):
            return Span(source.line_starts[line - above - 1], ends[-1])
        begins_block = above == 0 and self._margin(source.line_start(span.start - 1)) < own <= after
        is_apart = self._is_definition_at(ends[-1]) or own > after
        gone = below if begins_block else min(above, below) if is_apart else below if above else 0
        return Span(span.start, ends[gone])

    def _margin(self, at: int) -> int:
        """How far in the line begins that an offset stands at the beginning of."""
        line = self.module.source.data[at : self.module.source.line_end(at)]
        return len(line) - len(line.lstrip())

    def _ends_block(self, at: int) -> bool:
        """Whether what closes a block is the next but for blank lines."""
        data = self.module.source.parse_view
        behind = len(data) - len(data[at:].lstrip())
        return self._closes_block_at(self.module.source.line_start(behind))

    def _closes_block_at(self, at: int) -> bool:
        """Whether a line begins with what closes a block, in a language that closes them."""
        mark = self.writer.block_frame("", "").tail.strip()
        return bool(mark) and self.module.source.parse_view[at:].lstrip(b" \t").startswith(mark.encode())

    def _is_definition_at(self, at: int) -> bool:
        """Whether the next top-level statement is a definition, which has more room above it than others."""
        following = next((s for s in self.module.block.statements if s.start >= at), None)
        return following is not None and following.kind in (Kind.ROUTINE, Kind.CLASS)


def _are_lines(pieces: Sequence[Piece]) -> bool:
    """Whether they end with a line, and bring no blank line of their own behind it."""
    text = "".join(piece if isinstance(piece, str) else "…" for piece in pieces)
    return text.endswith("\n") and not text.endswith("\n\n")


def takes_by_keyword(parameters: Iterable[Parameter]) -> bool:
    """Whether one parameter more must be passed by keyword: the others could not stay where they are."""
    return any(p.default is not None or p.kind is not ParameterKind.PLAIN for p in parameters)


def full_imports(symbol: Symbol) -> list[Imported]:
    """What the imports of a symbol bring: those of `a.b` and `a.c` both bind `a`, and must bring both again."""
    assert symbol.imported is not None
    if symbol.imported != Imported(symbol.name, None):
        return [symbol.imported]
    statements = dict.fromkeys(r.statement for r in symbol.references if r.mode.writes and r.statement is not None)
    found = [i for statement in statements for i in statement.imports if i.name is None and i.package == symbol.name]
    return [i for i in dict.fromkeys(found) if i.module != symbol.name] or [symbol.imported]


def is_declaration(reference: Reference) -> bool:
    """Whether a reference only declares its scope."""
    return reference.form is Form.DECLARATION


def declare_at_top(rewriter: Rewriter, scope: Scope) -> None:
    """Write anew what is declared to live in a routine whose names come to the top level: it lives in the module."""
    written: set[Statement] = set()
    for use in [use for inner in scope.walk() for use in inner.uses if is_declaration(use) and not use.declares]:
        if use.scope is scope:
            rewriter.drop_declaration(use)
        elif use.symbol.scope is scope and use.statement is not None and use.statement not in written:
            statement = use.statement
            written.add(statement)
            assert statement.keyword is not None
            changes, path = rewriter.rewriting.changes, rewriter.module.path
            changes.replace(path, statement.keyword, rewriter.writer.sharing_word())


def idle_declarations(scope: Scope) -> list[Reference]:
    """The declarations of a scope that change nothing: it does not write the name, which means the same without."""
    written = {use.symbol for use in scope.uses if use.mode.writes}
    return [
        use
        for use in scope.uses
        if is_declaration(use)
        and use.symbol not in written
        and scope.parent is not None
        and scope.parent.find(use.name) is use.symbol
    ]


def _merged(spans: Iterable[Span], inserted: Container[int]) -> list[Span]:
    """Spans that touch become one, but for those with something put in between them.

    A span inside another stays, for its text may be carried over elsewhere.
    """
    merged: list[Span] = []
    inside: list[Span] = []
    for span in sorted(set(spans), key=lambda span: (span.start, -span.end)):
        if merged and span.end <= merged[-1].end:
            inside.append(span)
        elif merged and span.start <= merged[-1].end and span.start not in inserted:
            merged[-1] = Span(merged[-1].start, span.end)
        else:
            merged.append(span)
    return merged + inside
