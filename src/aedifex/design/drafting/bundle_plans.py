"""The plan of a class for what functions hand to one another."""

from __future__ import annotations

from collections import Counter

from aedifex.design.document.design import FieldPlan, KindPlan
from aedifex.design.drafting.naming import ACTION_WORDS, ATTRIBUTE_WORDS, VERBS, Names, longer
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Function
from aedifex.survey.kinds.bundles import Bundle
from aedifex.survey.words import nouns_of, words_of

_VAGUE = frozenset("data info text line value item thing result output input main script program file args".split())
_SHORT = 2
_UNNAMED = "job"


def bundle_plan(bundle: Bundle, names: Names) -> KindPlan:
    """The plan of a class that keeps the values of a bundle, and has the functions that are handed them."""
    module, naming = bundle.module, bundle.module.dialect.naming
    words = words_of(_own_noun(bundle) or _noun_of_functions(bundle) or _noun_of_file(module) or _UNNAMED)
    item = naming.member_name(words)
    instance = bundle.symbols[0].name if bundle.is_single else _free(module, item)
    plan = KindPlan(names.class_name(words), names.file(item), "bundles", [instance])
    listed = ", ".join(symbol.name for symbol in bundle.symbols)
    plan.why = f"{len(bundle.functions)} functions are handed {listed}"
    for symbol in bundle.symbols:
        name = longer(symbol.name)
        name = _contents(module, symbol) if bundle.is_single else name
        plan.fields.append(FieldPlan(symbol.name, name, "argument", why="is handed on"))
    return plan


def is_unnamed(plan: KindPlan) -> bool:
    """Whether nothing in the script says what the class is."""
    return plan.store == "bundles" and plan.name.lower().startswith(_UNNAMED)


def _contents(module: Module, symbol: Symbol) -> str:
    """What a container holds, in a word."""
    held = Holdings.of(module).of_symbol(symbol)
    if held.is_table:
        return "entries"
    if held.element is None:
        return "value"
    return "cells" if held.element.now.element is not None else "items"


def _own_noun(bundle: Bundle) -> str:
    """What one value alone is called, if that says something."""
    name = bundle.symbols[0].name
    is_telling = bundle.is_single and len(name) > _SHORT and not _VAGUE.issuperset(nouns_of(name))
    return name if is_telling else ""


def _noun_of_functions(bundle: Bundle) -> str:
    """What all is for: by the only function that is called from where the values are set, or what most are called."""
    called = _called_from_outside(bundle)
    plain = ACTION_WORDS | VERBS | ATTRIBUTE_WORDS | _VAGUE
    nouns = [{noun for noun in nouns_of(f.name) if noun not in plain and len(noun) > _SHORT} for f in bundle.functions]
    best = Counter(noun for found in nouns for noun in found).most_common(1)
    if best and 2 * best[0][1] > len(nouns):
        return best[0][0]
    only = [noun for noun in nouns_of(called[0].name) if noun not in ACTION_WORDS | VERBS] if len(called) == 1 else []
    return only[-1] if only and not _VAGUE.issuperset(only) else ""


def _called_from_outside(bundle: Bundle) -> list[Function]:
    """The functions that the routine calls which sets the values."""
    spans = [function.statement.span for function in bundle.functions]
    outer = [call for call in bundle.calls if not any(span.holds(call.span) for span in spans)]
    symbols = {call.callee.symbol for call in outer if call.callee is not None}
    return [function for function in bundle.functions if function.symbol in symbols]


def _noun_of_file(module: Module) -> str:
    words = [word for word in nouns_of(module.path.stem) if word not in _VAGUE]
    return "_".join(words)


def _free(module: Module, name: str) -> str:
    naming = module.dialect.naming
    wishes = (name, *(naming.joined(article, name) for article in ("the", "own", "one")))
    return next((wish for wish in wishes if wish not in module.names_in_use), name)
