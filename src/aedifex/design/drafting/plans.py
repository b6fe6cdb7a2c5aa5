"""From a group of state and routines to the plan of a class: its names, its members, and why they are there."""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping
from functools import cached_property

from aedifex.design.document.design import ClassPlan, FieldPlan, MethodPlan, StartKind
from aedifex.design.drafting.group import Group
from aedifex.design.drafting.naming import (
    ACTION_WORDS,
    ARTICLES,
    VERBS,
    Names,
    bare_name,
    holds_many,
    is_truth_at_first,
    strip_nouns,
)
from aedifex.design.drafting.reasons import Reasons
from aedifex.program.analysis.values import value_of
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Symbol
from aedifex.program.model.statements import Sort, Value, final_name
from aedifex.program.structure.layout import Layout
from aedifex.survey.words import nouns_of, plural, says_whose, singular, words_of

_PAIR, _PLACE = "pair", "position"
_WHEN = frozenset("current end first initial last new old prev previous start".split())
_TELLING = frozenset("x y z pos position name color colour width height size label title text radius".split())
_STATES_OF_KEYS, _KEY, _KEYS = frozenset({"pressed", "held", "down"}), "key", "keys"
_TITLE_WORDS = 2


class Planner:
    """Makes plans of classes. `full` are names written out; `doubts` are in words what could not be planned."""

    def __init__(self, module: Module, names: Names, reasons: Reasons, full: Mapping[str, str]) -> None:
        self.module = module
        self.full = full
        self.names = names
        self.reasons = reasons
        self.doubts: list[str] = []

    def free_title(self, title: list[str]) -> list[str]:
        """The words of a title; in the plural where a class of the script has the singular already."""
        named = self.module.scope.symbols.get(self.module.dialect.naming.class_name(title))
        is_taken = named is not None and Form.CLASS in named.forms
        return [*title[:-1], plural(title[-1])] if is_taken else title

    def plan(self, group: Group) -> ClassPlan | None:
        """The class of a group; None where no name is free for its object."""
        title = self.free_title(self.title(group))
        name = self.module.dialect.naming.member_name(title)
        instance = self.names.instance(name, group.variables)
        if instance is None:
            self.doubts.append(f"no free name for an object `{group.noun}`, so its variables stay with the owner")
            return None
        plan = ClassPlan(self.names.class_name(title), self.names.file(name), instance)
        plan.why = self.reasons.of_class(group.variables, group.leaning, group.noun)
        plan.second = [self.module.dialect.naming.class_name([noun]) for noun in group.second]
        words = {group.noun, *(title if len(group.variables) == 1 else ())}
        if group.came_from:
            words |= {singular(word) for word in title}
        taken = {routine.name for routine in group.routines if words.isdisjoint(nouns_of(routine.name))}
        for symbol in group.variables:
            others = {other.name for other in group.variables if other is not symbol}
            name = self.field_name(symbol, words, taken | others)
            taken.add(name)
            planned = FieldPlan(self.reasons.written(symbol), name, self.start_kind(symbol, name))
            planned.why = self.reasons.of_field(symbol, group.nodes, group.noun)
            planned.sure = self.reasons.sure(symbol, group.nodes)
            plan.fields.append(planned)
        for routine in group.routines:
            name = routine.name
            if not words.isdisjoint(nouns_of(name)):
                name = strip_nouns(name, words, taken, self.module, is_method=True)
            taken.add(name)
            why = self.reasons.of_method(routine, group.nodes, group.passed.get(routine, []))
            plan.methods.append(MethodPlan(routine.name, name, why=why, sure=self.reasons.sure(routine, group.nodes)))
        if group.is_mixed:
            self.explain_mixed(plan)
        if group.came_from:
            self.explain_file(plan, group.came_from)
        return plan

    def explain_file(self, plan: ClassPlan, file: str) -> None:
        """The script's author held its members together."""
        plan.why = f"its functions stand in {file}"
        for field in plan.fields:
            field.sure = None
        for method in plan.methods:
            method.sure = None

    def explain_mixed(self, plan: ClassPlan) -> None:
        """Only who needs them holds its members together."""
        plan.why = "classes of the script use " + ", ".join(field.variable for field in plan.fields)
        for field in plan.fields:
            field.why, field.sure = "is used in classes of the script", None
        for method in plan.methods:
            method.sure = None

    def title(self, group: Group) -> list[str]:
        """The words of a class's name: its noun, or the two words of the heading above all its variables.

        What says which keys are pressed are the keys. What has one variable has all of that variable's name, and what
        has a list of many things is called after them.
        """
        if group.is_mixed and len(group.variables) > 1:
            return [group.noun]
        if group.came_from:
            return words_of(group.noun)
        are_truths = all(map(is_truth_at_first, group.variables))
        if group.noun in _STATES_OF_KEYS or (group.noun == _KEY and are_truths):
            return [_KEYS]
        if len(group.variables) == 1:
            return words_of(self.full.get(group.variables[0].name, group.variables[0].name))
        first = [symbol.references[0].statement for symbol in group.variables]
        headings = {self.layout.section_of(statement) if statement is not None else None for statement in first}
        heading = headings.pop() if len(headings) == 1 else None
        words = [word for word in words_of(heading.text) if word not in ARTICLES] if heading is not None else []
        is_title = len(words) == _TITLE_WORDS and group.noun in [singular(word) for word in words]
        is_title = is_title and words[0] not in ACTION_WORDS | VERBS
        if is_title and all(map(str.isalpha, words)):
            return [singular(word) for word in words]
        if self.is_place(group):
            return [group.noun, _PLACE]
        if self.are_pair(group):
            return [group.noun, _PAIR]
        is_listed = any(self.lists(v, group.noun) for v in group.variables)
        are_many = is_listed or self.are_numbered(group) or self.are_amounts(group)
        return [plural(group.noun)] if are_many else words_of(group.noun)

    @staticmethod
    def are_numbered(group: Group) -> bool:
        """Whether the variables are called by the noun and a number each."""
        named = [[word for word in words_of(v.name) if not word.isdigit()] for v in group.variables]
        return all(words == [group.noun] for words in named)

    @staticmethod
    def is_place(group: Group) -> bool:
        """Whether the variables are two coordinates with a word that says when: `lastX` and `lastY`."""
        named = sorted(words_of(v.name) for v in group.variables)
        return group.noun in _WHEN and named == [[group.noun, "x"], [group.noun, "y"]]

    @staticmethod
    def are_pair(group: Group) -> bool:
        """Whether the variables with the noun are the first such thing and the second."""
        named = [words_of(v.name) for v in group.variables if group.noun in words_of(v.name)]
        return sorted(named) == [["first", group.noun], ["second", group.noun]]

    @staticmethod
    def are_amounts(group: Group) -> bool:
        """Whether all variables say how many of something somebody has: `gateWins` and `ferryWins`."""
        named = [words_of(v.name) for v in group.variables]
        return all(len(words) > 1 and words[-1] == plural(group.noun) for words in named)

    def lists(self, symbol: Symbol, noun: str) -> bool:
        """Whether a variable is the list or table of what a noun means, and called so."""
        value = value_of(symbol.references[0])
        if value is None or words_of(symbol.name) != [plural(noun)]:
            return False
        return value.sort in (Sort.LIST, Sort.TABLE) or holds_many(self.module, symbol)

    @cached_property
    def layout(self) -> Layout:
        """How the script is laid out."""
        return Layout.of(self.module)

    def field_name(self, symbol: Symbol, words: Collection[str], taken: Iterable[str]) -> str:
        """A variable's name as a field: without the noun, and never a constant's."""
        if {singular(word) for word in words_of(symbol.name)} <= set(words):
            value = value_of(symbol.references[0])
            name = (
                bare_name(value, self.maker(symbol, value), self.module, symbol) if value is not None else symbol.name
            )
            return name if name not in set(taken) else symbol.name
        full = self.full.get(symbol.name, symbol.name)
        name = strip_nouns(full, words, set(taken), self.module)
        name = (self.truth(symbol, full, words) or symbol.name) if name == full else name
        spelled = self.module.dialect.naming.as_field(name)
        return name if spelled in set(taken) else spelled

    def truth(self, symbol: Symbol, full: str, words: Collection[str]) -> str:
        """The name of a truth whose own word alone means something else: whether a gate `is_open`."""
        rest = [word for word in words_of(full) if singular(word) not in words]
        is_whether = is_truth_at_first(symbol) and len(rest) == 1 and _KEY not in words
        return self.module.dialect.naming.joined("is", *rest) if is_whether else ""

    def maker(self, symbol: Symbol, value: Value) -> str:
        """What is called to make a first value; empty for one that begins otherwise."""
        statement = symbol.references[0].statement
        calls = statement.calls if statement is not None else ()
        here = [call for call in calls if call.start == value.start and call.callee is not None]
        first = min(here, key=lambda call: call.end, default=None)
        return final_name(first.callee) if first is not None else ""

    def start_kind(self, symbol: Symbol, name: str) -> StartKind:
        """What tells one such thing from another is an argument; the rest is fixed."""
        is_telling = bool(set(words_of(name)) & _TELLING) and not says_whose(symbol.name)
        return "argument" if is_telling else "fixed"
