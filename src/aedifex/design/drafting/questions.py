"""Which decisions about an object should be the object's own, and what to call them."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.design.document.design import QuestionPlan
from aedifex.design.drafting.naming import CONTAINER_WORDS
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.model.expressions import Expression, Operator, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope
from aedifex.survey.kinds.objects import is_object, member_names
from aedifex.survey.questions import Question, Questions
from aedifex.survey.removals import Removals
from aedifex.survey.words import is_participle, words_of

_MOST_WORDS = frozenset("max maximum most limit capacity size".split())
_LIFE_WORDS = frozenset("life lives health hp".split())
_USED_UP = ("used", "up")
_COUNT_WORDS = frozenset("amount count number quantity stock".split())
_NOTHING_LEFT = {**dict.fromkeys(_LIFE_WORDS, ("dead",)), **dict.fromkeys(_COUNT_WORDS, _USED_UP)}
"""What a thing is that has nothing left of something."""
_STATE_WORDS = frozenset("state status mode phase kind type".split())
_MOVING_WORDS = frozenset({"speed", "velocity"})
_PLACE_WORDS = frozenset("x y z pos position height width left right top bottom row column angle".split())
_SHORT = frozenset({Operator.LESS, Operator.AT_MOST})
_ENOUGH = frozenset({Operator.MORE, Operator.AT_LEAST})
_LONGEST_WORD = 12
_FEWEST_SIDES = 3


def questions_of(module: Module, scope: Scope) -> list[QuestionPlan]:
    """The questions that other code decides about objects of a class and that have a name, in the order of the text."""
    found = _Finder(module, scope)
    return found.plans()


class _Finder:
    def __init__(self, module: Module, scope: Scope) -> None:
        self.module = module
        self.scope = scope
        self.questions = Questions.of(module)
        self.holdings = Holdings.of(module)
        self.taken = member_names(module, scope)
        self.spent = _spent_fields(module, scope)
        self.removals = Removals.of(module)

    def plans(self) -> list[QuestionPlan]:
        found: dict[str, QuestionPlan] = {}
        waiting = list(self.questions.outermost())[::-1]
        while waiting:
            expression = waiting.pop()
            question = self.questions.of_expression(expression)
            plan = self.plan_of(question) if question is not None and question.scope is self.scope else None
            if question is None or plan is None:
                waiting.extend(part for part in reversed(expression.parts))
            elif not question.is_inside and plan.asks not in found:
                found[plan.asks] = plan
                self.taken.add(plan.name)
        return list(found.values())

    def plan_of(self, question: Question) -> QuestionPlan | None:
        """A question with the first name for it that is free."""
        naming, rules = self.module.dialect.naming, self.module.dialect.rules
        if question.is_of_two:
            words = _between(question.expression)
        else:
            words = self.words(question.expression, question)
            if self.removals.on(question) and words != ["is", *_USED_UP]:
                words = ["is", "over"]
        name = naming.member_name(words) if words else ""
        if not rules.is_name(name) or name in self.taken or rules.is_taken(name):
            return None
        fields = ", ".join(dict.fromkeys(field.name or "" for field in question.fields))
        by = f"its {fields} and those of {question.parameters[0]}" if question.is_of_two else f"{fields} alone"
        return QuestionPlan(question.text, name, why=f"it is decided outside, by {by}")

    # -- what a decision is called

    def words(self, expression: Expression, question: Question) -> list[str]:
        """The words for a decision; none where nothing tells what it is about."""
        if expression.sense is Sense.EITHER:
            return self.of_several(expression, question)
        if expression.sense is Sense.NOT:
            denied = expression.parts[0]
            return self.empty(denied) if denied in question.fields and self.is_container(denied) else []
        if len(expression.parts) != 2:
            return []
        left, right = expression.parts
        operator = expression.operator
        if self.field_in(right, question) is not None:
            left, right, operator = right, left, operator.turned if operator is not None else None
        field = self.field_in(left, question)
        if field is None or self.field_in(right, question) is not None:
            return []
        if left is not field:
            return self.of_size(field, operator, right, expression)
        if operator is not None:
            return self.of_order(field, operator, right)
        return self.of_equality(field, right, is_negated=expression.is_negated, sense=expression.sense)

    def field_in(self, side: Expression, question: Question) -> Expression | None:
        """The field that one side of a comparison is, or counts."""
        is_count = side.sense is Sense.CALL and len(side.parts) == 2 and self.questions.counts(side)
        inner = side.parts[1] if is_count else side
        return inner if inner in question.fields else None

    def of_several(self, expression: Expression, question: Question) -> list[str]:
        """Several decisions of one sort are named together: `is short of water or beans`."""
        operands = _operands(expression, expression.operator)
        found = [self.words(part, question) for part in operands]
        if not all(found) or len(found) > 2:
            return []
        first, second = found
        shared = next((n for n, (a, b) in enumerate(zip(first, second, strict=False)) if a != b), 0)
        if shared < 2 or shared >= len(first):
            return []
        joint = "and" if expression.operator is Operator.BOTH else "or"
        return [*first, joint, *second[shared:]]

    def of_size(self, field: Expression, operator: Operator | None, right: Expression, whole: Expression) -> list[str]:
        """What is asked of how many things a field has."""
        number = self.number(right)
        if whole.sense is Sense.EQUAL and number == 0:
            return self.some(field) if whole.is_negated else self.empty(field)
        if operator in _ENOUGH and number == (1 if operator is Operator.AT_LEAST else 0):
            return self.some(field)
        if operator is Operator.LESS and number == 1:
            return self.empty(field)
        is_most = right.reference is not None and not _MOST_WORDS.isdisjoint(words_of(right.reference.name))
        if operator is Operator.AT_LEAST and (is_most or number is not None):
            return ["is", "full"]
        if operator is Operator.LESS and is_most:
            return ["has", "room"]
        return []

    def of_order(self, field: Expression, operator: Operator, right: Expression) -> list[str]:
        """What is asked of how much there is of something that is used up, or whether something moves or lives."""
        words, number = words_of(field.name or ""), self.number(right)
        is_nothing = number == (1 if operator in (Operator.LESS, Operator.AT_LEAST) else 0)
        if not words or max(map(len, words)) > _LONGEST_WORD:
            return []
        if is_nothing and words[-1] in _MOVING_WORDS and operator is Operator.MORE:
            return ["is", "moving"]
        if is_nothing and words[-1] in _LIFE_WORDS:
            return ["is", "alive"] if operator in _ENOUGH else ["is", "dead"]
        if field.name not in self.spent or not _PLACE_WORDS.isdisjoint(words):
            return []
        if words[-1] in _COUNT_WORDS and operator not in _ENOUGH and number is not None:
            return ["is", *_USED_UP] if is_nothing else ["is", "low"]
        if is_nothing:
            return ["has", *words] if operator in _ENOUGH else ["is", "out", "of", *words]
        if right.sense is Sense.CONSTANT or right.sense is Sense.NAME:
            return ["has", "enough", *words] if operator in _ENOUGH else ["is", "short", "of", *words]
        return []

    def of_equality(self, field: Expression, right: Expression, *, is_negated: bool, sense: Sense) -> list[str]:
        """What is asked of what a field is."""
        words = words_of(field.name or "")
        if right.sense is Sense.NOTHING:
            return ["has", *words] if is_negated else ["has", "not" if is_participle(words[-1]) else "no", *words]
        if sense is not Sense.EQUAL or is_negated:
            return []
        if self.number(right) == 0 and field.name in self.spent:
            return ["is", *_NOTHING_LEFT.get(words[-1], ("out", "of", *words))]
        if right.sense is Sense.CONSTANT and right.name and words and words[-1] in _STATE_WORDS:
            said = words_of(right.name)
            return ["is", *said] if said and right.name.replace("_", "").isalpha() else []
        return []

    def empty(self, field: Expression) -> list[str]:
        words = words_of(field.name or "")
        return ["is", "empty"] if words and words[-1] in CONTAINER_WORDS else ["has", "no", *words]

    def some(self, field: Expression) -> list[str]:
        words = words_of(field.name or "")
        return ["has", *(words if words and words[-1] not in CONTAINER_WORDS else ["items"])]

    # -- what things are

    def number(self, expression: Expression) -> float | None:
        """The number that is written out."""
        if expression.sense is not Sense.CONSTANT:
            return None
        try:
            return float(self.module.source.slice(expression.span))
        except ValueError:
            return None

    def is_container(self, field: Expression) -> bool:
        """Whether a field holds things that can be counted."""
        holding = self.holdings.of_expression(field)
        return bool(holding.rows or holding.tables or holding.element)


def _between(expression: Expression) -> list[str]:
    """What is asked of two objects: whether they are at one place, near one another, or lie over one another."""
    operands = _operands(expression, Operator.BOTH)
    if len(operands) < 2:
        return []
    if all(operand.sense is Sense.EQUAL and not operand.is_negated for operand in operands):
        return ["is", "at"]
    if any(operand.operator not in _SHORT | _ENOUGH for operand in operands):
        return []
    if all(Sense.CALL in (part.sense for part in operand.parts) for operand in operands):
        return ["is", "near"]
    return ["touches"] if len(operands) >= _FEWEST_SIDES else []


def _operands(expression: Expression, operator: Operator | None) -> list[Expression]:
    """All operands of a row of the same operator."""
    if expression.sense is not Sense.EITHER or expression.operator is not operator:
        return [expression]
    return [operand for part in expression.parts for operand in _operands(part, operator)]


def _spent_fields(module: Module, scope: Scope) -> set[str]:
    """The fields of which something is taken away somewhere: what there is can be used up."""
    holdings = Holdings.of(module)
    found: set[str] = set()
    for tree in holdings.trees:
        target = tree.parts[0] if tree.sense in (Sense.SET, Sense.UPDATE) and len(tree.parts) == 2 else None
        if target is None or target.sense is not Sense.MEMBER or target.name is None:
            continue
        if not is_object(holdings, holdings.of_expression(target.parts[0]), scope):
            continue
        value = tree.parts[1]
        is_same = value.sense is Sense.OPERATION and _text(module, value.parts[:1]) == _text(module, [target])
        takes = tree if tree.sense is Sense.UPDATE else value if is_same else None
        if takes is not None and takes.operator is Operator.MINUS and _is_amount(tree.parts[1], takes is tree):
            found.add(target.name)
    return found


def _is_amount(value: Expression, is_update: bool) -> bool:
    """Whether what is taken away is an amount that is written out or named."""
    amount = value if is_update else value.parts[1]
    return amount.sense in (Sense.CONSTANT, Sense.NAME, Sense.MEMBER)


def _text(module: Module, expressions: Sequence[Expression]) -> str:
    return module.source.slice(expressions[0].span) if expressions else ""
