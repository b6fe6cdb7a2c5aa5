"""Conditions that ask whether something is one of a few words or numbers, and whether two can hold at once."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.dialect.handling import Handling
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import ScopeKind

_ROWS = frozenset({Sense.TUPLE, Sense.LIST, Sense.GROUP})


@dataclass(frozen=True)
class AskedWords:
    """What a condition asks about, as it is spelled, and the words or numbers for which it holds, and no others."""

    subject: str
    words: frozenset[str | int]

    @classmethod
    def of_condition(cls, module: Module, condition: Expression) -> AskedWords | None:
        """What a condition asks that does nothing else; None for any other."""
        if condition.sense is Sense.EITHER and condition.operator is Operator.EITHER:
            found = [cls.of_condition(module, part) for part in condition.parts]
            known = [one for one in found if one is not None]
            is_one = len(known) == len(found) and len({one.subject for one in known}) == 1
            return cls(known[0].subject, frozenset().union(*(one.words for one in known))) if is_one else None
        is_in_row = condition.sense is Sense.WITHIN and condition.parts[1].sense in _ROWS
        if not condition.is_equality and (not is_in_row or condition.is_negated):
            return None
        subject, asked = condition.parts
        parts = asked.parts if is_in_row else [asked]
        words = [_value(module, part) for part in parts]
        if not words or None in words or not _is_plain(module, subject):
            return None
        return cls(module.source.slice(subject.span), frozenset(word for word in words if word is not None))

    def are_none_of(self, module: Module, condition: Expression) -> bool:
        """Whether a condition cannot hold where this does, and asking it does nothing until that is known."""
        is_both = condition.sense is Sense.EITHER and condition.operator is Operator.BOTH
        for part in condition.parts if is_both else [condition]:
            asked = AskedWords.of_condition(module, part)
            if asked is not None and asked.subject == self.subject:
                return self.words.isdisjoint(asked.words)
            if not _only_counts(module, part):
                return False
        return False


def _value(module: Module, expression: Expression) -> str | int | None:
    """The text or whole number that is written out."""
    if expression.sense is not Sense.CONSTANT:
        return None
    text = module.source.slice(expression.span)
    return int(text) if text.isdecimal() else module.dialect.writer.text_value(text)


def _is_plain(module: Module, subject: Expression) -> bool:
    """Whether something is a name, or a part of what has one, that no class of the script is about."""
    inner = subject.parts[0] if subject.sense is Sense.PART else subject
    steps = len(inner.reference.path) if inner.sense is Sense.NAME and inner.reference is not None else None
    is_name = steps == (subject.sense is Sense.PART)
    is_plain = is_name and all(part.sense is Sense.CONSTANT for part in subject.parts[1:])
    return is_plain and not Holdings.of(module).of_expression(subject).classes


def _only_counts(module: Module, expression: Expression) -> bool:
    """Whether a comparison asks no more than how many a container with a name has."""
    for part in expression.walk():
        if part.sense is not Sense.CALL:
            if part.sense not in (Sense.OPERATION, Sense.EQUAL, Sense.NAME, Sense.CONSTANT):
                return False
            continue
        callee = part.parts[0].reference
        is_builtin = callee is not None and callee.symbol.scope.kind is ScopeKind.OUTSIDE
        handling = module.dialect.library.handling_by_function(callee.name) if callee is not None else None
        if not is_builtin or handling is not Handling.COUNTS:
            return False
    return True
