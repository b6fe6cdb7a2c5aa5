"""Statements of functions that open a file, and do nothing but to read it, or to write one thing to it."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from aedifex.program.analysis.definite_assignment import bound_before, certainly_assigns
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Origin, Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Argument, Call, Function, Kind, Leave, Statement
from aedifex.program.structure.blocks import plain_blocks
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.state import Constants
from aedifex.source.text import Span

_FEWEST = 2


@dataclass(frozen=True, eq=False)
class FileUse:
    """Such a statement: where the file is, what is done in it, and its shape.

    It reads where there is no `given`, the name that it writes to the file. What is read gets the name `target`, or is
    given back where that is None.
    """

    routine: Function
    statement: Statement
    opened: Span
    deed: Span
    target: Reference | None
    given: Reference | None
    shape: str

    @property
    def reads(self) -> bool:
        """Whether it reads the file."""
        return self.given is None


def file_uses(module: Module) -> dict[str, list[list[FileUse]]]:
    """Such statements of several functions, shape by shape, by what says where the file is.

    There are at most two shapes, one that reads and one that writes, and one of them stands there several times.
    """
    found = [use for routine, block in plain_blocks(module) for use in _in_block(module, routine, block.statements)]
    by_file: dict[str, dict[str, list[FileUse]]] = defaultdict(lambda: defaultdict(list))
    for use in found:
        by_file[module.source.slice(use.opened)][use.shape].append(use)
    groups = {opened: list(shapes.values()) for opened, shapes in by_file.items()}
    return {opened: shapes for opened, shapes in groups.items() if _is_worth(shapes)}


def _is_worth(groups: Sequence[Sequence[FileUse]]) -> bool:
    reading = [group for group in groups if group[0].reads]
    is_plain = len(reading) <= 1 and len(groups) - len(reading) <= 1
    is_again = any(len({use.routine for use in group}) >= _FEWEST for group in groups)
    return is_plain and is_again


def _in_block(module: Module, routine: Function | None, statements: Sequence[Statement]) -> Iterator[FileUse]:
    for statement in statements if routine is not None else ():
        if statement.kind is Kind.RESOURCE and len(statement.blocks) == 1:
            use = _use(module, routine, statement)
            if use is not None:
                yield use


def _use(module: Module, routine: Function | None, statement: Statement) -> FileUse | None:
    opening, body = _opening(module, statement), statement.blocks[0].statements
    named = [r for r in statement.references if r.form is Form.RESOURCE]
    span = Layout.of(module).own_lines(statement)
    has_comments = any(span.start <= comment.start < span.end for comment in module.comments)
    if routine is None or opening is None or len(named) != 1 or len(body) != 1 or has_comments:
        return None
    (handle,), (deed,) = named, body
    is_local = handle.symbol.scope is routine.scope and Form.DECLARATION not in handle.symbol.forms
    lines = [module.source.lines_of(part) for part in (heading_of(module, statement), deed.span)]
    if not is_local or any(first != last for first, last in lines) or lines[0] == lines[1]:
        return None
    if not all(_is_of_use(r, handle.symbol) for r in handle.symbol.references):
        return None
    opened = opening.arguments[0].span
    return _reading(module, routine, statement, handle, opened) or _writing(module, routine, statement, handle, opened)


def heading_of(module: Module, statement: Statement) -> Span:
    """A statement's own text, up to its first block."""
    text = module.source.slice(Span(statement.start, statement.header_end)).rstrip()
    return Span(statement.start, statement.start + len(text.encode()))


def _is_of_use(reference: Reference, handle: Symbol) -> bool:
    """Whether a mention of an open file stands in a statement that opens one under that name, or right in it."""
    statement = reference.statement
    owner = statement.block.owner if statement is not None else None
    around = [s for s in (statement, owner) if s is not None and s.kind is Kind.RESOURCE]
    return any(r.symbol is handle and r.form is Form.RESOURCE for s in around for r in s.references)


def _opening(module: Module, statement: Statement) -> Call | None:
    """The call that opens a file whose place is written out, or a constant, where that is all that a heading does."""
    if len(statement.calls) != 1 or not statement.calls[0].arguments:
        return None
    call, library = statement.calls[0], module.dialect.library
    callee, first = call.callee, call.arguments[0]
    if callee is None or not callee.is_builtin or not library.opens_file(callee.name):
        return None
    others = [r for r in statement.references if r is not callee and r.form is not Form.RESOURCE]
    is_written = module.dialect.writer.text_value(module.source.slice(first.span)) is not None
    is_named = [r.span for r in others] == [first.span] and Constants.of(module).settles(others[0].symbol)
    is_plain = not first.keyword and not first.stars
    return (
        call if is_plain and ((is_written and not others) or (is_named and others[0].symbol.is_module_level)) else None
    )


def _reading(
    module: Module, routine: Function, statement: Statement, handle: Reference, opened: Span
) -> FileUse | None:
    deed = statement.blocks[0].statements[0]
    pairs = deed.assignment.pairs if deed.assignment is not None else ()
    target = pairs[0].target if deed.kind is Kind.ASSIGN and len(pairs) == 1 else None
    value = pairs[0].value.span if target is not None else deed.returned
    is_return = deed.kind is Kind.LEAVE and deed.leaves == {Leave.RETURN}
    if value is None or not (is_return or _is_local(target, routine)) or not _only_asks(module, value, handle.symbol):
        return None
    shape = _shape(module, statement, handle.symbol, value, None)
    return FileUse(routine, statement, opened, value, target, None, shape)


def _is_local(target: Reference | None, routine: Function) -> bool:
    return target is not None and target.symbol.scope is routine.scope and not target.path


def _only_asks(module: Module, value: Span, handle: Symbol) -> bool:
    """Whether a value is worked out from an open file, libraries and constants alone, by calls."""
    inside = module.references_within(value)
    own = [r for r in inside if r.symbol is handle]
    is_call = any(r.mode is Mode.CALL or r.path_mode is Mode.CALL for r in inside)
    return len(own) == 1 and is_call and all(_is_of_library(r) for r in inside if r.symbol is not handle)


def _is_of_library(reference: Reference) -> bool:
    symbol = reference.symbol
    is_builtin = symbol.scope.kind is ScopeKind.OUTSIDE and symbol.origin is Origin.BUILTIN
    return (symbol.imported is not None and symbol.is_module_level) or is_builtin


def _writing(
    module: Module, routine: Function, statement: Statement, handle: Reference, opened: Span
) -> FileUse | None:
    deed = statement.blocks[0].statements[0]
    if deed.kind is not Kind.EXPRESSION or len(deed.calls) != 1 or deed.calls[0].span != deed.deed:
        return None
    references = module.references_within(deed.span)
    given = [
        r
        for a in deed.calls[0].arguments
        if (r := _name_in(references, a)) is not None and r.symbol is not handle.symbol
    ]
    others = [r for r in references if r not in given and r.symbol is not handle.symbol]
    is_plain = len(given) == 1 and all(map(_is_of_library, others)) and handle.symbol in {r.symbol for r in references}
    if not is_plain or given[0].symbol.scope is not routine.scope or not _is_there(module, statement, given[0]):
        return None
    shape = _shape(module, statement, handle.symbol, deed.span, given[0].span)
    return FileUse(routine, statement, opened, deed.span, None, given[0], shape)


def _name_in(references: Sequence[Reference], argument: Argument) -> Reference | None:
    """The name that an argument is, if it is nothing else and has no keyword."""
    plain = [r for r in references if r.span == argument.span]
    return plain[0] if plain and not argument.keyword and not argument.stars and not _is_of_library(plain[0]) else None


def _is_there(module: Module, statement: Statement, reference: Reference) -> bool:
    """Whether a local name has a value when a statement begins: also if it got that while a file was open."""
    symbol = reference.symbol
    before = statement.block.statements[: statement.index]
    opened = [s for s in before if s.kind is Kind.RESOURCE and _opening(module, s) is not None]
    is_read = any(certainly_assigns(s.blocks[0].statements, symbol) for s in opened)
    return Form.PARAMETER in symbol.forms or is_read or bound_before(statement, symbol)


def _shape(module: Module, statement: Statement, handle: Symbol, deed: Span, given: Span | None) -> str:
    """The text of a statement with marks for the open file, and for what differs between such statements."""
    marks = {r.span: "\1" for r in module.references_within(statement.span) if r.symbol is handle}
    marks |= {given: "\2"} if given is not None else {}
    marked = module.source.slice_with
    return f"{marked(heading_of(module, statement), marks)}\n{marked(deed, marks)}"
