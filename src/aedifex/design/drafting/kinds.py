"""Plans for kinds: the names of their classes and members, and why they are there."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Sequence
from typing import Protocol

from aedifex.design.document.design import FieldPlan, KindPlan, MethodPlan, StartKind
from aedifex.design.drafting.naming import (
    ACTION_WORDS,
    ATTRIBUTE_WORDS,
    CONTAINER_WORDS,
    GENERIC_WORDS,
    TABLE_WORDS,
    VERBS,
    Names,
    bare_name,
    longer,
)
from aedifex.design.drafting.thing_words import BARE_NOUN, PLAIN_WORDS, POINT, SHORT, noun_with
from aedifex.program.analysis.values import first_value
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Shape, final_name
from aedifex.program.structure.layout import Layout
from aedifex.survey.kinds.handed_copies import functions_handed
from aedifex.survey.kinds.handed_lists import ListKind
from aedifex.survey.kinds.records import RecordKind, container_of, containers_of, factory_of
from aedifex.survey.kinds.resources import ResourceKind
from aedifex.survey.kinds.sessions import Session, session_names
from aedifex.survey.kinds.set_ups import SetUpKind
from aedifex.survey.kinds.twin_fields import twin_fields
from aedifex.survey.kinds.twins import TwinKind, is_side
from aedifex.survey.words import is_plural, nouns_of, plural, singular, words_of

_FEWEST_WITH_THING = 2
_MOST_HOLDERS = 3
_MAKING = frozenset("make create new build add get init spawn".split())


class _Field(Protocol):
    @property
    def key(self) -> str: ...
    @property
    def name(self) -> str: ...
    @property
    def is_argument(self) -> bool: ...


def record_plan(kind: RecordKind, fields: Sequence[_Field], names: Names) -> KindPlan:
    """The plan of a class for records of one shape."""
    module = kind.module
    nouns = kind_nouns(kind)
    words = words_of(nouns[0])
    name = names.class_name(words, of_one=True)
    plan = KindPlan(name, names.file(module.dialect.naming.member_name(words)), "records", kind.holders[:_MOST_HOLDERS])
    plan.second = [module.dialect.naming.class_name(words_of(noun)) for noun in nouns[1:3]]
    places = len(kind.makings)
    made = "are made in one place" if places == 1 else f"are made in {places} places"
    plan.why = f"records with the keys {', '.join(kind.keys)} {made}"
    for field in fields:
        start = "argument" if field.is_argument else "fixed"
        why = "differs between them" if field.is_argument else "begins alike in all of them"
        plan.fields.append(FieldPlan(field.key, field.name, "argument" if start == "argument" else "fixed", why=why))
    return plan


def list_plan(kind: ListKind, fields: Sequence[_Field], names: Names) -> KindPlan:
    """The plan of a class for lists that functions are given."""
    words = words_of(kind.noun)
    file = names.file(kind.module.dialect.naming.member_name(words))
    plan = KindPlan(names.class_name(words), file, "lists", kind.holders[:_MOST_HOLDERS])
    plan.why = f"{len(kind.functions)} functions are given a {kind.noun}, and there are several of them"
    for field in fields:
        plan.fields.append(FieldPlan(field.key, field.name, "argument" if field.is_argument else "fixed"))
    return plan


def twin_plan(kind: TwinKind, names: Names) -> KindPlan:
    """The plan of a class for things that are kept in variables of their own, copy by copy."""
    module, naming = kind.module, kind.module.dialect.naming
    noun = twin_noun(kind)
    words = words_of(noun)
    item = naming.member_name(words)
    own = {symbol.name for symbol in kind.variables}
    joined = [_instance(kind, item, mark) for mark in kind.marks]
    instances = [n if n in own or n not in module.names_in_use else naming.joined(n, "object") for n in joined]
    plan = KindPlan(names.class_name(words), names.file(item), "twins", instances)
    if kind.repeated or kind.choices:
        wishes = [naming.member_name([*words[:-1], plural(words[-1])]), naming.joined("all", plural(item))]
        plan.held = next((w for w in wishes if w not in module.names_in_use), "")
    plan.why = f"{len(kind.marks)} things of one shape, told apart by {', '.join(kind.marks)}"
    _add_fields(plan, kind, noun)
    return plan


def single_plan(kind: TwinKind, names: Names) -> KindPlan:
    """The plan of a class for one thing of a library and what belongs to it."""
    words = words_of(kind.noun)
    item = kind.module.dialect.naming.member_name(words)
    plan = KindPlan(names.class_name(words), names.file(item), "single", [kind.noun])
    listed = ", ".join(symbol.name for symbol in kind.variables[1:])
    plan.why = f"{kind.noun} is set up in several steps, together with {listed}"
    _add_fields(plan, kind, kind.noun)
    return plan


def _instance(kind: TwinKind, item: str, mark: str) -> str:
    """The variable of one object: the mark before the noun, or behind it where the script has it there."""
    if mark.isdigit():
        return f"{item}{mark}"
    is_name = not is_side(mark) or item == BARE_NOUN
    if is_name and any(symbol.name == mark for symbol in kind.variables):
        return mark
    joined = kind.module.dialect.naming.joined
    is_behind = bool(kind.noun) and all(s.name.startswith(joined(kind.noun, "")) for s in kind.variables)
    return joined(item, mark) if is_behind else joined(mark, item)


def _add_fields(plan: KindPlan, kind: TwinKind, noun: str) -> None:
    """A field for each attribute of copies."""
    module, naming = kind.module, kind.module.dialect.naming
    fields = dict(zip(kind.fields, twin_fields(kind), strict=True))
    told = _word_of_all(kind)
    begins = naming.joined(told, "") if told else ""
    for attribute, field in fields.items():
        is_whole = attribute in ("", _thing_itself(kind)) or (len(kind.fields) == 1 and attribute == noun)
        name = longer(_of_whole(kind, attribute) if is_whole else naming.as_begun(attribute.removeprefix(begins)))
        if not module.dialect.rules.is_name(name) or name in {f.name for f in plan.fields}:
            name = field.variables[0]
        why = "differs between them" if field.is_argument else "begins alike in all of them"
        start: StartKind = "argument" if field.is_argument else "fixed"
        plan.fields.append(FieldPlan(field.variables[0], name, start, why=why, copies=field.variables[1:]))


def twin_noun(kind: TwinKind) -> str:
    """What one of the copies is called: by its own name, by its functions, or by what stands above it."""
    spelled = [_SHORT_FOR.get(word, word) for word in nouns_of(kind.noun)]
    own = [word for word in spelled if word not in VERBS and len(word) > SHORT]
    if own and not set(own) <= ATTRIBUTE_WORDS:
        return "_".join(own)
    said_by_all = _word_of_all(kind)
    if said_by_all:
        return said_by_all
    headings = [set(_thing_words(nouns_of(text), kind)) for text in _headings(kind)]
    shared = set.intersection(*headings) if headings else set()
    if shared:
        return max(sorted(shared), key=len)
    named = [set(nouns_of(text)) - PLAIN_WORDS - VERBS - _PLACES for text in _headings(kind)]
    also_shared = set.intersection(*named) if len(named) > 1 else set()
    if also_shared:
        return max(sorted(also_shared), key=len)
    itself = _thing_itself(kind)
    if itself:
        return itself
    told = _words_of_functions(kind)
    if told:
        return told
    known = noun_with({word for name in kind.fields for word in nouns_of(name)})
    if known != BARE_NOUN:
        return known
    words_left = [w for w in _thing_words(nouns_of(kind.module.path.stem), kind) if w not in GENERIC_WORDS]
    if list(kind.fields) == [""]:
        return "_".join([*words_left[-1:], *words_of(_of_whole(kind, ""))[-1:]])
    return words_left[-1] if words_left else BARE_NOUN


def _words_of_functions(kind: TwinKind) -> str:
    """The word that most functions have which are given what belongs to one, or else which use it.

    What others find by its name is called after what it answers to.
    """
    module, variables = kind.module, set(kind.variables)
    handed = Counter(w for symbol in functions_handed(kind) for w in _thing_words(nouns_of(symbol.name), kind))
    using = (f for f in module.functions if variables & {r.symbol for r in module.references_within(f.statement.span)})
    own = (function for function in using if function.name not in module.found_by_name)
    found = handed or Counter(w for function in own for w in _thing_words(nouns_of(function.name), kind))
    return found.most_common(1)[0][0] if found else ""


def _word_of_all(kind: TwinKind) -> str:
    """The word with which all attributes begin where there are several: `left_ferry_x` is the `x` of a ferry."""
    first = {words_of(attribute)[0] if len(words_of(attribute)) > 1 else "" for attribute in kind.fields}
    shared = first.pop() if len(first) == 1 and len(kind.fields) > 1 else ""
    return shared if shared not in VERBS | ATTRIBUTE_WORDS and len(shared) > SHORT else ""


def _headings(kind: TwinKind) -> list[str]:
    """What stands above the first variable of each copy, as far as anything does."""
    layout = Layout.of(kind.module)
    found: list[str] = []
    for number in range(len(kind.marks)):
        statements = [symbols[number].references[0].statement for symbols in kind.fields.values()]
        first = min((s for s in statements if s is not None), key=lambda s: s.start)
        heading = layout.heading(first)
        found += [heading.text if heading is not None else layout.comment_above(first)]
    return [text for text in found if text]


def _thing_words(words: Sequence[str], kind: TwinKind) -> list[str]:
    marks = {mark.lower() for mark in kind.marks}
    taken = ACTION_WORDS | VERBS | ATTRIBUTE_WORDS | marks | PLAIN_WORDS
    return [word for word in words if word not in taken and len(word) > SHORT]


def _thing_itself(kind: TwinKind) -> str:
    """The one attribute that holds an object of a library, where nothing else says what the things are.

    What belongs to it is its own: `left_raft`, a rectangle, with `left_speed` and `left_score`, is a raft.
    """
    if kind.noun or len(kind.fields) < _FEWEST_WITH_THING:
        return ""
    made = [name for name, symbols in kind.fields.items() if name and _is_made(symbols[0])]
    return made[0] if len(made) == 1 and not set(words_of(made[0])) <= ATTRIBUTE_WORDS else ""


def _is_made(symbol: Symbol) -> bool:
    """Whether a variable begins with what a call gives, and that is no number or text."""
    value = first_value(symbol)
    statement = symbol.bindings[0].statement if symbol.bindings else None
    if value is None or value.shape is not Shape.CALL or statement is None:
        return False
    call = max(statement.calls, key=lambda call: call.end - call.start)
    return call.callee is not None and final_name(call.callee)[:1].isupper()


def _of_whole(kind: TwinKind, attribute: str) -> str:
    """A field's name for the variable that has the thing's own name: what makes its value."""
    symbol = kind.fields[attribute][0]
    value = first_value(symbol)
    statement = symbol.bindings[0].statement if symbol.bindings else None
    call = next(iter(statement.calls), None) if statement is not None else None
    maker = final_name(call.callee) if call is not None else ""
    return bare_name(value, maker, kind.module) if value is not None else "value"


def equipped_plan(kind: SetUpKind, names: Names) -> KindPlan:
    """The plan of a class for objects that are set up where they are made."""
    naming, first = kind.module.dialect.naming, kind.set_ups[0]
    listed = ", ".join(first.members)
    if kind.scope is not None:
        words = words_of(kind.scope.name)
        plan = KindPlan(kind.scope.name, names.file(naming.member_name(words)), "equipped", [kind.holder])
        plan.why = f"its objects are given {listed} where they are made"
        return plan
    words = words_of(_noun_of_made(kind))
    plan = KindPlan(names.class_name(words), names.file(naming.member_name(words)), "equipped", [kind.holder])
    plan.why = f"each {final_name(first.maker)} is given {listed} where it is made"
    return plan


def _noun_of_made(kind: SetUpKind) -> str:
    """What an object is called where it is made, or else by the list that it is put into, or by what it has."""
    first, own = kind.set_ups[0], final_name(kind.set_ups[0].maker).lower()
    behind = first.making.block.statements[first.making.index + 1 :]
    holding = [
        r for s in behind if any(u.symbol is first.symbol and not u.path for u in s.references) for r in s.references
    ]
    lists = [singular(words_of(r.name)[-1]) for r in holding if r.path_mode is Mode.CALL and words_of(r.name)]
    wishes = [first.symbol.name, *lists]
    nouns = (nouns_of(wish)[-1] for wish in wishes if nouns_of(wish))
    return next((n for n in nouns if len(n) > SHORT and n != own and n not in PLAIN_WORDS), noun_with(first.members))


def object_plan(module: Module, class_name: str, names: Names) -> KindPlan:
    """The plan for a class that the script has already, and that gets methods."""
    stem = module.dialect.naming.member_name(words_of(class_name))
    return KindPlan(class_name, names.file(stem), "objects", [class_name], "functions are about one object of it")


def resource_plan(kind: ResourceKind, names: Names) -> KindPlan:
    """The plan of a class around a thing of a library."""
    naming, words = kind.module.dialect.naming, kind.resource.words
    name = naming.member_name(words)
    places = len({use.scope.home for use in kind.uses})
    plan = KindPlan(names.class_name(words), names.file(name), "resources", [kind.symbol.name])
    plan.why = f"{len(kind.calls)} calls of {kind.symbol.name} stand in {places} places"
    is_bound = kind.routine is None and (
        name in kind.module.names_in_use or kind.module.is_known_outside(kind.symbol.name)
    )
    plan.held = kind.symbol.name if is_bound else name
    plan.fields.append(FieldPlan(kind.symbol.name, kind.resource.field, "argument"))
    if kind.derived is not None:
        plan.fields.append(FieldPlan(kind.derived.symbol.name, kind.derived.method, "fixed"))
    return plan


def session_plan(program: Program, groups: Sequence[Sequence[Session]], names: Names) -> KindPlan | None:
    """The plan of a class for what is opened, asked and closed in several functions; None where no name is free."""
    module, (one, *_) = program.main, groups[0]
    naming = module.dialect.naming
    name = naming.member_name(one.facts.words)
    instance = names.instance(name, [])
    if instance is None:
        return None
    plan = KindPlan(names.class_name(one.facts.words), names.file(name), "sessions", [instance])
    opened = module.source.slice(one.opened)
    plan.fields.append(FieldPlan(opened, one.facts.field, "argument"))
    plan.why = f"{opened} is opened, asked and closed in {sum(map(len, groups))} places"
    for method, group in zip(session_names(groups), groups, strict=True):
        run = group[0].run
        first, last = module.source.line_of(run[0].start), module.source.lines_of(run[-1].span)[1]
        why = "stands in one place" if len(group) == 1 else f"stands in {len(group)} places"
        lines = program.original_lines(first, last) or (first, last)
        plan.methods.append(MethodPlan(group[0].routine.qualified_name, method, lines=lines, why=why))
    return plan


def kind_nouns(kind: RecordKind) -> list[str]:
    """Nouns for a kind, the best first: what makes one, what holds many, what one is called where it is used."""
    weights: Counter[str] = Counter()
    telling: list[str] = []
    factory = factory_of(kind)
    if factory is not None:
        _weigh(weights, [_noun(factory.name, _MAKING)], 6)
    for container in containers_of(kind.module, kind.holding):
        name = container_of(container).rpartition(".")[2]
        is_of_many = any(map(is_plural, words_of(name)))  # else the name is that of all together
        noun = _noun(name, frozenset())
        _weigh(weights, [noun], 4 if is_of_many else 1)
        telling += [noun] if is_of_many and len(noun) > SHORT else []
    for holder in kind.holders:
        owner, _, member = container_of(holder).rpartition(".")
        if holder != container_of(holder) and owner in {scope.name for scope in kind.module.classes}:
            _weigh(
                weights,
                [_noun(name, frozenset()) for name in (member, owner) if any(map(is_plural, words_of(name)))],
                4,
            )
    for symbol in kind.symbols:
        _weigh(weights, [_noun(symbol.name, frozenset())], 2 if len(symbol.name) > SHORT else 0)
        telling += [symbol.name] if symbol.is_module_level and symbol.name in _THINGS else []
    ranked = [noun for noun, weight in weights.most_common() if weight > 0 and len(noun) > SHORT]
    known = noun_with({noun for key in kind.keys for noun in nouns_of(key)})
    return ranked or (telling if telling and known != POINT else [known])


def _weigh(weights: Counter[str], nouns: Iterable[str], weight: int) -> None:
    for noun in nouns:
        if noun and not set(words_of(noun)) <= ATTRIBUTE_WORDS:
            weights[noun] += weight


def _noun(name: str, verbs: frozenset[str]) -> str:
    words = [word for word in words_of(name) if not word.isdigit()]
    while len(words) > 1 and (words[0] in verbs or words[0] in _QUANTITIES):
        words = words[1:]
    while len(words) > 1 and len(words[-1]) == 1:
        words = words[:-1]
    while len(words) > 1 and words[0] in TABLE_WORDS and is_plural(words[-1]) and words[-1] not in CONTAINER_WORDS:
        words = words[1:]
    if len(words) == 1 and words[0] in _ROWS:
        return f"{words[0]}_{_IN_ROW}"
    if words and words[-1] in _STORES:
        return "_".join([*words, BARE_NOUN])
    if len(words) == 1 and words[0] in verbs:
        return ""
    if len(words) > 1 and words[-1] in _COLLECTIVES:
        words = words[:-1]
    return "_".join([*words[:-1], singular(words[-1])]) if words else ""


_THINGS = frozenset("level state status timer".split())
"""Words that say something about a thing, and name one where it is the variable for several values."""
_SHORT_FOR = {"p": "player", "pl": "player", "btn": "button", "lbl": "label", "img": "image", "pic": "picture"}
"""What people mean by the short words before a number."""
_PLACES = frozenset("left right top bottom upper lower first second third last next start end".split())
_QUANTITIES = frozenset("all the my our new current other first last next this that each some active".split())
_ROWS = frozenset("queue log history journal ledger stack schedule inventory".split())
"""Words for a row as a whole, which would be wrong for one thing in it."""
_IN_ROW = "entry"
_STORES = frozenset("basket cart catalog catalogue fleet menu playlist shelf shop store".split())
"""Words for what has many things of a sort, which would be wrong for one of them."""
_COLLECTIVES = frozenset("list items array table queue data objects".split())
