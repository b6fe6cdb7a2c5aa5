"""A verb for what some statements do to one variable, or to one field of an object."""

from __future__ import annotations

from collections.abc import Callable, Collection, Iterator, Sequence

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.statements import Kind, Statement
from aedifex.survey.words import is_plural, words_of

_STILL = frozenset({Sense.CONSTANT, Sense.NOTHING})
_COMPUTED = frozenset({Sense.OPERATION, Sense.SUM})
_HANDLING_VERBS = {
    Handling.ADDS: "add",
    Handling.INSERTS: "add",
    Handling.ADDS_ALL: "add",
    Handling.TAKES: "take",
    Handling.COMPARES: "remove",
    Handling.EMPTIES: "clear",
    Handling.ARRANGES: "arrange",
}
_ZERO = frozenset({"0", "0.0"})
_ONE = frozenset({"1", "++"})


def verb_of_change(module: Module, run: Sequence[Statement], symbol: Symbol, field: str) -> str:
    """What happens to a field of what a name holds: it gets more or less, is cleared; empty for anything else."""
    changes = _changes(module, run, lambda target: _is_member(target, symbol))
    return _verb(module, list(changes), field)


def turns_back(module: Module, run: Sequence[Statement], symbol: Symbol) -> bool:
    """Whether all that happens to a field of what a name holds is that it gets the other sign."""
    return _is_all(module, run, symbol, _is_sign_change)


def flips(module: Module, run: Sequence[Statement], symbol: Symbol) -> bool:
    """Whether all that happens to a field of what a name holds is that it becomes true where it was not, or not."""
    return _is_all(module, run, symbol, _is_negation)


def _is_all(
    module: Module, run: Sequence[Statement], symbol: Symbol, is_such: Callable[[Module, Expression], bool]
) -> bool:
    """Whether the members of what a name holds are set, and in no other way."""
    changes = list(_changes(module, run, lambda target: _is_member(target, symbol)))
    return bool(changes) and all(is_such(module, change) for change in changes)


def _is_negation(module: Module, change: Expression) -> bool:
    """Whether an assignment is `x = !x`."""
    target, value = change.parts[0], change.parts[-1]
    is_not = change.sense is Sense.SET and value.sense is Sense.NOT
    return is_not and _text(module, value.parts[0]) == _text(module, target)


def _is_sign_change(module: Module, change: Expression) -> bool:
    """Whether an assignment is `x *= -1` or `x = -x`."""
    target, value = change.parts[0], change.parts[-1]
    if change.sense is Sense.UPDATE:
        return change.operator is Operator.TIMES and _text(module, value) == "-1"
    is_negative = value.sense is Sense.OPERATION and len(value.parts) == 1
    return is_negative and _text(module, value) == f"-{_text(module, target)}"


def verb_of_edge(module: Module, run: Sequence[Statement], symbol: Symbol, places: Collection[str]) -> str:
    """What is done to a thing at an edge: it comes in at another, or stays there; empty where it is something else."""
    verbs = {_verb_at_edge(module, statement, symbol, places) for statement in run}
    return verbs.pop() if len(verbs) == 1 else ""


def _verb_at_edge(module: Module, statement: Statement, symbol: Symbol, places: Collection[str]) -> str:
    if statement.kind is not Kind.BRANCH:
        return ""
    inner, by_statement = list(statement.walk()), Surroundings.of(module).by_statement
    asked = [part for s in inner if s.kind is Kind.BRANCH for tree in by_statement[s] for part in tree.walk()]
    given = [tree for s in inner if s.kind is not Kind.BRANCH for tree in by_statement[s]]
    targets = [tree.parts[0] for tree in given if tree.sense is Sense.SET]
    named = {target.name for target in targets}
    is_placed = len(targets) == len(given) and all(_is_member(t, symbol) for t in targets) and named <= set(places)
    if not given or not is_placed or not any(_is_member(part, symbol) and part.name in named for part in asked):
        return ""
    bounds = {_text(module, part) for part in asked}
    return "limit" if any(_text(module, tree.parts[-1]) in bounds for tree in given) else "wrap"


def counts_up(module: Module, run: Sequence[Statement], symbol: Symbol) -> bool:
    """Whether all that happens to a variable is that it gets one more."""
    changes = list(_changes(module, run, lambda target: target.sense is Sense.NAME and _holds(target, symbol)))
    return bool(changes) and all(
        _step(module, change) is Operator.PLUS and _text(module, _amount(change)) in _ONE for change in changes
    )


def _amount(change: Expression) -> Expression:
    """What an assignment adds or takes away."""
    return change.parts[-1] if change.sense is Sense.UPDATE else change.parts[-1].parts[-1]


def verb_of_new_value(module: Module, run: Sequence[Statement], symbol: Symbol) -> str:
    """What happens to a variable or what it contains: it gets more or less, is cleared, or is given another value."""
    handled = set(_handled(module, run, symbol))
    if handled:
        return _HANDLING_VERBS.get(handled.pop(), "change") if len(handled) == 1 else "change"
    elements = list(
        _changes(module, run, lambda target: target.sense is Sense.PART and _holds(target.parts[0], symbol))
    )
    if elements:
        steps = {_step(module, change) for change in elements}
        return "add" if steps == {Operator.PLUS} else "take" if steps == {Operator.MINUS} else "change"
    changes = _changes(module, run, lambda target: target.sense is Sense.NAME and _holds(target, symbol))
    return _verb(module, list(changes), symbol.name) or "set"


def _handled(module: Module, run: Sequence[Statement], symbol: Symbol) -> Iterator[Handling]:
    """What methods of a container that run do with its elements."""
    for reference in (r for outer in run for inner in outer.walk() for r in inner.references):
        if reference.symbol is symbol and reference.path and reference.path_mode is Mode.CALL:
            handling = module.dialect.library.handling_by_method(reference.path[-1].name or "")
            if handling in _HANDLING_VERBS:
                yield handling


def _verb(module: Module, changes: Sequence[Expression], name: str) -> str:
    """The verb for some changes of what has a name; empty where they have nothing in common."""
    steps = {step for change in changes if (step := _step(module, change)) is not None}
    others = [change for change in changes if _step(module, change) is None]
    are_limits = all(change.sense is Sense.SET and change.parts[-1].sense in _STILL for change in others)
    is_many = is_plural(words_of(name)[-1])
    if steps == {Operator.PLUS} and are_limits:
        return "add" if is_many else "raise"
    if steps == {Operator.MINUS} and are_limits:
        return "lose" if is_many else "lower"
    switched = {_text(module, change.parts[-1]) for change in others}
    if not steps and switched == {module.dialect.writer.truth(yes) for yes in (True, False)}:
        return "update"
    if not steps and others and all(_is_nothing(module, change.parts[-1]) for change in others):
        return "clear"
    return ""


def _changes(module: Module, run: Sequence[Statement], is_target: Callable[[Expression], bool]) -> Iterator[Expression]:
    """The assignments to certain targets."""
    surroundings = Surroundings.of(module)
    for statement in (inner for outer in run for inner in outer.walk()):
        for tree in surroundings.by_statement[statement]:
            if tree.sense in (Sense.SET, Sense.UPDATE) and any(map(is_target, tree.parts[:-1])):
                yield tree


def _step(module: Module, change: Expression) -> Operator | None:
    """What an assignment does with the value that was there before."""
    if change.sense is Sense.UPDATE:
        return change.operator
    target, value = change.parts[0], change.parts[-1]
    is_of_old = value.sense in _COMPUTED and _text(module, value.parts[0]) == _text(module, target)
    return value.operator if is_of_old else None


def _text(module: Module, expression: Expression) -> str:
    return module.source.slice(expression.span)


def _is_member(expression: Expression, symbol: Symbol) -> bool:
    """Whether an expression is a member of what a name holds."""
    return expression.sense is Sense.MEMBER and _holds(expression.parts[0], symbol)


def _holds(expression: Expression, symbol: Symbol) -> bool:
    return expression.reference is not None and expression.reference.symbol is symbol


def _is_nothing(module: Module, value: Expression) -> bool:
    """Whether a value is zero, empty or none at all."""
    if value.sense is Sense.CONSTANT:
        return value.name == "" or module.source.slice(value.span) in _ZERO
    return value.sense is Sense.NOTHING or (value.sense in (Sense.LIST, Sense.TABLE) and not value.parts)
