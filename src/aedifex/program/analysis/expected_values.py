"""Which texts a script expects under a name: those that it compares with what is called so, and has in its tables."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module

_PAIR = 2


def values_of(module: Module) -> dict[str, tuple[str, ...]]:
    """The texts by name, in the order of the script; under no name those of all its lists and tables."""
    trees = Surroundings.of(module).trees
    listed = dict(pair for tree in trees for pair in _listed(tree))
    found: dict[str, dict[str, None]] = defaultdict(dict)
    for expression in (e for tree in trees for e in tree.walk()):
        for name, texts in _expected(expression, listed):
            found[name].update(dict.fromkeys(texts))
    found[""] = dict.fromkeys(text for texts in listed.values() for text in texts)
    return {name: tuple(texts) for name, texts in found.items() if texts}


def joined_values(values: Iterable[Mapping[str, tuple[str, ...]]]) -> dict[str, tuple[str, ...]]:
    """What several files expect under the same names."""
    joined: dict[str, tuple[str, ...]] = {}
    for each in values:
        for name, texts in each.items():
            joined[name] = tuple(dict.fromkeys([*joined.get(name, ()), *texts]))
    return joined


def _listed(tree: Expression) -> Iterator[tuple[str, list[str]]]:
    """What a variable has as keys, or as plain texts."""
    if tree.sense is not Sense.SET or len(tree.parts) != _PAIR or tree.parts[0].sense is not Sense.NAME:
        return
    target, value = tree.parts
    texts = value.parts[::2] if value.sense is Sense.TABLE else value.parts if value.sense is Sense.LIST else []
    plain = [part.name for part in texts if part.sense is Sense.CONSTANT and part.name]
    if target.reference is not None and plain:
        yield target.reference.name, plain


def _expected(expression: Expression, listed: Mapping[str, list[str]]) -> Iterator[tuple[str, list[str]]]:
    """Names, and what is looked for, or compared, under them, or what a record has there."""
    if expression.sense is Sense.TABLE:
        for key, value in zip(expression.parts[::2], expression.parts[1::2], strict=False):
            if key.name and value.sense is Sense.CONSTANT and value.name:
                yield key.name, [value.name]
        return
    if expression.sense is Sense.EQUAL and len(expression.parts) == _PAIR:
        for one, other in (expression.parts, expression.parts[::-1]):
            if other.sense is Sense.CONSTANT and other.name:
                yield _called(one), [other.name]
        return
    asked = None
    if expression.sense is Sense.WITHIN:
        asked, container = expression.parts
    elif expression.sense is Sense.PART:
        container, asked = expression.parts[:2]
    elif expression.sense is Sense.CALL and len(expression.parts) == _PAIR:
        callee, asked = expression.parts
        container = callee.parts[0] if callee.sense is Sense.MEMBER else callee
    if asked is not None and container.sense is Sense.NAME and container.reference is not None:
        yield _called(asked), listed.get(container.reference.name, [])


def _called(expression: Expression) -> str:
    """By what name something is called: that of a variable, or of a member."""
    if expression.sense is Sense.NAME and expression.reference is not None:
        return expression.reference.name
    return (expression.name or "") if expression.sense is Sense.MEMBER else ""
