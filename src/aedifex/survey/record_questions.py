"""Expressions that ask a list of records for the first that has a value, for all that have it, and the like."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import islice

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Search
from aedifex.program.model.expressions import Expression, Sense, is_named
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, ScopeKind, Symbol
from aedifex.program.model.statements import Lambda, ParameterKind
from aedifex.program.structure.routes import Routes
from aedifex.source.text import Span

_COMPUTED = frozenset({Sense.OPERATION, Sense.SUM})


@dataclass(frozen=True)
class RecordQuestion:
    """An expression that looks for records of a list by a value.

    `key` is the text by which a record is asked for its value, `sign` the one of the comparison, `wanted` the value
    looked for; where it `is_first` the record stands on the left. `is_contrary` asks for those with another value.
    """

    whole: Expression
    container: Expression
    key: str
    sign: str
    wanted: Expression
    is_first: bool
    search: Search
    is_contrary: bool = False

    @property
    def way(self) -> tuple[str, str, bool]:
        """How a record is compared with the value."""
        return self.key, self.sign, self.is_first


def record_questions(module: Module, container: Symbol) -> Iterator[RecordQuestion]:
    """The questions of one condition that are asked of a list."""
    surroundings = Surroundings.of(module)
    for reference in sorted(container.references, key=lambda reference: reference.start):
        name = surroundings.of_reference(reference)
        around = surroundings.around(name) if name is not None else None
        if name is None or around is None:
            continue
        if (call := surroundings.method_call(name)) is not None:
            yield from _by_method(module, name, call)
        each = surroundings.around(around) if around.sense is Sense.WALK else None
        wholes = (surroundings.around(each), each) if each is not None else ()
        found = (question for whole in wholes if whole and (question := _question(module, container, whole)))
        yield from islice(found, 1)


def key_asked(module: Module, asked: Expression, item: Symbol | None) -> str:
    """The text behind the name of a record that asks it for a value; empty where that is not so simple."""
    if asked.sense not in (Sense.PART, Sense.MEMBER) or item is None or not is_named(asked.parts[0], item):
        return ""
    if asked.sense is Sense.PART and asked.parts[1].sense is not Sense.CONSTANT:
        return ""
    return module.source.slice(Span(asked.parts[0].end, asked.end))


def sign_between(module: Module, condition: Expression) -> str:
    """The sign by which a condition compares two things."""
    left, right = condition.parts
    return module.source.slice(Span(left.end, right.start)).strip("() \\\r\n\t")


def _question(module: Module, container: Symbol, whole: Expression) -> RecordQuestion | None:
    """A container made of others, or the first thing of it, as the language's writer would write such a question."""
    arguments = whole.parts[1:] if whole.sense is Sense.CALL else []
    is_call = [part.sense for part in arguments] == [Sense.EACH, Sense.NOTHING]
    each = arguments[0] if is_call else whole
    if each.sense is not Sense.EACH or [part.sense for part in each.parts[1:]] != [Sense.WALK, Sense.TEST]:
        return None
    given, walk, test = each.parts
    target, walked = walk.parts
    item = target.reference.symbol if target.reference is not None else None
    condition = test.parts[0]
    if item is None or not is_named(target, item) or not is_named(given, item) or not is_named(walked, container):
        return None
    search = Search.FIRST if is_call else Search.ALL
    if not condition.is_equality or not _is_written(module, whole, (target, walked, condition), search):
        return None
    for key, wanted, is_first in _compared(module, condition, item):
        is_plain = wanted.sense is Sense.CONSTANT or (wanted.sense is Sense.NAME and not is_named(wanted, item))
        if is_plain:
            return RecordQuestion(whole, walked, key, sign_between(module, condition), wanted, is_first, search)
    return None


def _is_written(module: Module, whole: Expression, parts: tuple[Expression, ...], search: Search) -> bool:
    """Whether an expression stands there as the writer writes such a question, but for line breaks."""
    item, container, condition = (module.source.slice(part.span) for part in parts)
    written = module.dialect.writer.searched(search, item, container, condition)
    return "".join(written.split()) == "".join(module.source.slice(whole.span).split())


def _by_method(module: Module, container: Expression, call: Expression) -> Iterator[RecordQuestion]:
    """A call of a method of the list that is given a condition on one record."""
    search = module.dialect.library.search_by_method(call.parts[0].name or "")
    if search is None:
        return
    routine = _routine_given(module, call)
    condition = _only_value_given(module, routine) if routine is not None else None
    if routine is None or condition is None or condition.sense is not Sense.EQUAL or len(condition.parts) != 2:
        return
    if any(call.start <= comment.start < call.end for comment in module.comments):
        return
    item = routine.parameters[0].reference.symbol
    for key, wanted, is_first in _compared(module, condition, item):
        if _may_be_asked_before(module, wanted, item):
            sign, is_contrary = sign_between(module, condition), condition.is_negated
            yield RecordQuestion(call, container, key, sign, wanted, is_first, search, is_contrary)
            return


def _routine_given(module: Module, call: Expression) -> Lambda | None:
    """The nameless routine with one plain parameter that is all a call is given."""
    if len(call.parts) != 2 or call.parts[1].sense is not Sense.FUNCTION:
        return None
    given = call.parts[1].start
    routine = next((r for r in module.routines if isinstance(r, Lambda) and r.scope.start == given), None)
    if routine is None or routine.is_postponed or len(routine.parameters) != 1:
        return None
    [parameter] = routine.parameters
    is_plain = parameter.kind is ParameterKind.PLAIN and parameter.default is None
    return routine if is_plain and len(parameter.reference.symbol.bindings) == 1 else None


def _only_value_given(module: Module, routine: Lambda) -> Expression | None:
    """What a routine gives back that does nothing else."""
    surroundings = Surroundings.of(module)
    if routine.expression is not None:
        return surroundings.by_span.get(routine.expression)
    statements = routine.body.statements if routine.body is not None else []
    trees = surroundings.by_statement[statements[0]] if len(statements) == 1 else []
    given = [tree.parts[0] for tree in trees if tree.sense is Sense.RETURN and tree.parts]
    return given[0] if len(given) == 1 else None


def _compared(module: Module, condition: Expression, item: Symbol) -> Iterator[tuple[str, Expression, bool]]:
    """The key by which a record is asked, what it is compared with, and whether it stands on the left."""
    for number, asked in enumerate(condition.parts):
        key = key_asked(module, asked, item)
        if key:
            yield key, condition.parts[1 - number], number == 0


def _may_be_asked_before(module: Module, wanted: Expression, item: Symbol) -> bool:
    """Whether a value is the same, and can be worked out, before a list is gone through, and if it has no records."""
    reference = wanted.reference
    if wanted.sense is Sense.CONSTANT:
        return True
    if wanted.sense is Sense.NAME:
        return reference is not None and reference.symbol is not item and _is_there(reference)
    if wanted.sense is Sense.MEMBER:
        return _is_of_request(module, wanted)
    if wanted.sense is Sense.CALL:
        callee, *given = wanted.parts
        is_builtin = callee.reference is not None and callee.reference.symbol.scope.kind is ScopeKind.OUTSIDE
        is_known = is_builtin and module.source.slice(callee.span) in module.dialect.library.converting
        return is_known and not any(wanted.names) and all(_may_be_asked_before(module, part, item) for part in given)
    return wanted.sense in _COMPUTED and all(_may_be_asked_before(module, part, item) for part in wanted.parts)


def _is_there(reference: Reference) -> bool:
    """Whether a variable has been declared by another statement than the one that asks for it."""
    symbol = reference.symbol
    is_own = any(r.binds and r.statement is reference.statement for r in symbol.references)
    return symbol.scope.kind is not ScopeKind.OUTSIDE and not is_own


def _is_of_request(module: Module, wanted: Expression) -> bool:
    """Whether it is a text of the request that a handler is given first."""
    part = wanted.parts[0]
    asked = part.parts[0].reference if part.sense is Sense.MEMBER else None
    if asked is None or part.parts[0].sense is not Sense.NAME:
        return False
    requests = [h.parameters[0].reference.symbol for h in Routes.of(module).handlers if h.parameters]
    return asked.symbol in requests and part.name in module.dialect.library.request_parts
