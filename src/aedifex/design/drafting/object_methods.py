"""Which functions are about one object of a class, and what they are called as its methods."""

from __future__ import annotations

from collections import Counter

from aedifex.design.document.design import MethodPlan
from aedifex.design.drafting.handing import handed_to
from aedifex.design.drafting.naming import ACTION_WORDS, VERBS, is_resource, strip_nouns
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.model.module import Module
from aedifex.program.model.names import Scope, ScopeKind, Symbol
from aedifex.program.model.statements import Function, Parameter
from aedifex.program.structure.obstacles import function_obstacles
from aedifex.survey.kinds.objects import (
    ObjectCalls,
    class_of_objects,
    member_names,
    object_lent,
    object_of,
    object_parameter,
)
from aedifex.survey.words import nouns_of, words_of

_OWNED = frozenset({"of", "for"})
"""What the name of a function ends with that is given the thing that the rest is said of."""


def method_plans(
    module: Module, class_name: str, *, is_about_one: bool, is_given_values: bool = True
) -> list[MethodPlan]:
    """The functions that are about one object of a class, as its methods; perhaps also if about others too.

    Those that need values of the program are among them if they can be given these with each call, and may be.
    """
    scope = _class_scope(module, class_name)
    if scope is None:
        return []
    calls = ObjectCalls.of(module)
    taken = member_names(module, scope)
    plans: list[MethodPlan] = []
    for function in module.functions:
        if function_obstacles(module, function):
            continue
        parameter = object_parameter(module, function, scope)
        symbol = object_of(module, function, scope) or object_lent(module, function, scope)
        handed = handed_to(module, function, symbol) if symbol is not None else None
        if symbol is None or handed is None or not (is_given_values or all(map(is_resource, handed))):
            continue
        if is_about_one and _is_about_others(module, function, scope):
            continue
        if parameter is None and not _is_about_kept(function, symbol):
            continue
        if parameter is not None and not (_is_about(function, parameter) and calls.are_known_of(function)):
            continue
        if parameter is not None and any(calls.obstacles(function, parameter)):
            continue
        name = method_name(module, function, class_name, symbol.name, taken)
        taken.add(name)
        has = "is given" if parameter is not None else "uses"
        plans.append(MethodPlan(function.qualified_name, name, why=f"{has} a {class_name} and needs no other state"))
    return plans


def _is_about(function: Function, parameter: Parameter) -> bool:
    """Whether a function is about the object that it is given, more than about anything else that it is given."""
    uses = Counter({p.name: sum(1 for r in p.reference.symbol.references if r.path) for p in function.parameters})
    own = uses[parameter.name]
    return own > 0 and (function.parameters[0] is parameter or own >= max(uses.values()))


def _is_about_kept(function: Function, symbol: Symbol) -> bool:
    """Whether a function is about the object that a variable holds at least as much as about what it is given."""
    own = sum(1 for scope in function.scope.walk() for use in scope.uses if use.symbol is symbol and use.path)
    given = [sum(1 for r in p.reference.symbol.references if r.path) for p in function.parameters]
    return own >= max(given, default=0)


def _is_about_others(module: Module, function: Function, scope: Scope) -> bool:
    """Whether a function is also given objects of another class of the script, and changes them."""
    holdings = Holdings.of(module)
    given = (p.reference.symbol for p in function.parameters)
    others = [s for s in given if class_of_objects(holdings, holdings.of_symbol(s)) not in (None, scope)]
    return any(r.path_mode is not None and r.path_mode.writes for symbol in others for r in symbol.references)


def _class_scope(module: Module, class_name: str) -> Scope | None:
    scopes = (s.defines for s in module.block.statements if s.defines is not None)
    return next((s for s in scopes if s.kind is ScopeKind.CLASS and s.name == class_name), None)


def method_name(module: Module, function: Function, class_name: str, parameter: str, taken: set[str]) -> str:
    """A method's name: the function's without the class's noun; with a verb where a field is called so already."""
    nouns = {*nouns_of(class_name), *nouns_of(parameter)}
    short = strip_nouns(function.name, nouns, taken, module, is_method=True)
    naming, words = module.dialect.naming, words_of(function.name)
    if short == function.name and len(words) > 1 and words[-1] in _OWNED:
        short = naming.joined(*words[:-1])
    if short not in taken and short != function.name:
        return short
    mark = set(nouns_of(parameter)) - set(nouns_of(class_name))
    bare = strip_nouns(function.name, nouns, (), module)
    is_of_one = not mark.isdisjoint(words)
    has_verb = words[0] in ACTION_WORDS | VERBS and not is_of_one
    wishes = [] if is_of_one else [function.name]
    wishes += [naming.joined(verb, bare) for verb in ("change", "handle", "do") if not has_verb]
    wishes += [naming.joined("do", bare), *(naming.joined(short, str(number)) for number in range(2, 99))]
    return next((wish for wish in wishes if wish not in taken), short)
