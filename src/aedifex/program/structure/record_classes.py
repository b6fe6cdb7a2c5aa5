"""Classes whose constructor a library writes, by the fields that they declare."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Reference
from aedifex.program.model.statements import Call, Kind, Statement
from aedifex.source.text import Span


def record_fields(module: Module, statement: Statement) -> tuple[str, ...] | None:
    """What objects of a class are given when they are made, in that order; None where no library sees to that.

    None also where it is told to see to it in another way, or does so for some of the fields only.
    """
    library, slice_of = module.dialect.library, module.source.slice
    bases = [r for r in statement.references if r.mode.reads and not module.dialect.rules.is_root_class(r.name)]
    if not bases or not all(r.symbol.imported is not None and library.makes_record(r) for r in bases):
        return None
    inherits = not statement.decorators
    if len(bases) > 1 or len(statement.decorators) > 1 or any(_is_told_more(module, statement)):
        return None
    if inherits and statement.calls:
        return listed_fields(module, statement.calls[0])
    declared = list(_declared(statement))
    if inherits != library.is_record(bases[0]) or any(
        not library.is_field_type(slice_of(annotation)) for _, annotation in declared
    ):
        return None
    return tuple(target.name for target, _ in declared)


def listed_fields(module: Module, call: Call) -> tuple[str, ...] | None:
    """The fields that a library's maker of rows with names is given, written out, behind the name of the class."""
    if call.callee is None or not module.dialect.library.makes_rows(call.callee) or len(call.arguments) < 2:
        return None
    text = module.source.slice(call.arguments[1].span)
    if any(argument.stars or argument.keyword for argument in call.arguments[:2]):
        return None
    return module.dialect.library.names_listed(text)


def _declared(statement: Statement) -> Iterator[tuple[Reference, Span]]:
    """The names in a class that have a type, with it."""
    for inner in statement.blocks[0].statements:
        annotation = inner.assignment.annotation if inner.assignment is not None else None
        targets = [r for r in inner.references if r.form is Form.TARGET]
        if inner.kind is Kind.ASSIGN and annotation is not None and len(targets) == 1:
            yield targets[0], annotation


def _is_told_more(module: Module, statement: Statement) -> Iterator[bool]:
    """Whether the library is asked to leave the constructor to the class, or to make it otherwise."""
    for argument in (argument for call in statement.calls for argument in call.arguments):
        is_option = argument.keyword is not None or bool(argument.stars)
        yield is_option and not module.dialect.library.leaves_constructor_alone(argument.keyword or "")
