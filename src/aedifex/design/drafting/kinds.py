"""Plans for kinds: the names of their classes and members, and why they are there."""

from __future__ import annotations

from collections import Counter
from collections.abc import Collection, Iterable, Sequence
from typing import Protocol

from aedifex.design.document.design import FieldPlan, KindPlan, MethodPlan, StartKind
from aedifex.design.drafting.naming import (
    ACTION_WORDS,
    ATTRIBUTE_WORDS,
    GENERIC_WORDS,
    VERBS,
    Names,
    bare_name,
    longer,
)
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import value_of
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Shape, final_name
from aedifex.program.structure.layout import Layout
from aedifex.survey.kinds.columns import ColumnKind
from aedifex.survey.kinds.handed_lists import ListKind
from aedifex.survey.kinds.records import RecordKind, container_of, containers_of, factory_of
from aedifex.survey.kinds.resources import ResourceKind
from aedifex.survey.kinds.sessions import Session, session_names
from aedifex.survey.kinds.set_ups import SetUpKind
from aedifex.survey.kinds.twin_fields import twin_fields
from aedifex.survey.kinds.twins import TwinKind, is_side
from aedifex.survey.words import is_plural, nouns_of, plural, singular, words_of

_SHORT = 2
_FEWEST_WITH_THING = 2
_MOST_HOLDERS = 3
_NAME, _PROMPT = "name", "prompt"
_HANDLES = ("id", "number", "handle")
BARE_NOUN = "item"
"""What things are called when nothing says what they are."""
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
    name = names.class_name(words)
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
    module = kind.module
    fields = dict(zip(kind.fields, twin_fields(kind), strict=True))
    for attribute, field in fields.items():
        is_whole = attribute in ("", _thing_itself(kind)) or (len(kind.fields) == 1 and attribute == noun)
        name = longer(_of_whole(kind, attribute) if is_whole else attribute)
        if not module.dialect.rules.is_name(name) or name in {f.name for f in plan.fields}:
            name = field.variables[0]
        why = "differs between them" if field.is_argument else "begins alike in all of them"
        start: StartKind = "argument" if field.is_argument else "fixed"
        plan.fields.append(FieldPlan(field.variables[0], name, start, why=why, copies=field.variables[1:]))


def twin_noun(kind: TwinKind) -> str:
    """What one of the copies is called: by its own name, by its functions, or by what stands above it."""
    spelled = [_SHORT_FOR.get(word, word) for word in nouns_of(kind.noun)]
    own = [word for word in spelled if word not in VERBS and len(word) > _SHORT]
    if own and not set(own) <= ATTRIBUTE_WORDS:
        return "_".join(own)
    headings = [set(_thing_words(nouns_of(text), kind)) for text in _headings(kind)]
    shared = set.intersection(*headings) if headings else set()
    if shared:
        return max(sorted(shared), key=len)
    named = [set(nouns_of(text)) - _PLAIN_WORDS - VERBS - _PLACES for text in _headings(kind)]
    also_shared = set.intersection(*named) if len(named) > 1 else set()
    if also_shared:
        return max(sorted(also_shared), key=len)
    itself = _thing_itself(kind)
    if itself:
        return itself
    found: Counter[str] = Counter()
    for function in kind.module.functions:
        used = {r.symbol for r in kind.module.references_within(function.statement.span)}
        if used & set(kind.variables):
            found.update(_thing_words(nouns_of(function.name), kind))
    if found:
        return found.most_common(1)[0][0]
    known = noun_with({word for name in kind.fields for word in nouns_of(name)})
    if known != BARE_NOUN:
        return known
    words_left = [w for w in _thing_words(nouns_of(kind.module.path.stem), kind) if w not in GENERIC_WORDS]
    if list(kind.fields) == [""]:
        return "_".join([*words_left[-1:], *words_of(_of_whole(kind, ""))[-1:]])
    return words_left[-1] if words_left else BARE_NOUN


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
    taken = ACTION_WORDS | VERBS | ATTRIBUTE_WORDS | marks | _PLAIN_WORDS
    return [word for word in words if word not in taken and len(word) > _SHORT]


def _thing_itself(kind: TwinKind) -> str:
    """The one attribute that holds an object of a library, where nothing else says what the things are.

    What belongs to it is its own: `left_paddle`, a rectangle, with `left_speed` and `left_score`, is a paddle.
    """
    if kind.noun or len(kind.fields) < _FEWEST_WITH_THING:
        return ""
    made = [name for name, symbols in kind.fields.items() if name and _is_made(symbols[0])]
    return made[0] if len(made) == 1 and not set(words_of(made[0])) <= ATTRIBUTE_WORDS else ""


def _is_made(symbol: Symbol) -> bool:
    """Whether a variable begins with what a call gives, and that is no number or text."""
    value = value_of(symbol.bindings[0]) if symbol.bindings else None
    statement = symbol.bindings[0].statement if symbol.bindings else None
    if value is None or value.shape is not Shape.CALL or statement is None:
        return False
    call = max(statement.calls, key=lambda call: call.end - call.start)
    return call.callee is not None and final_name(call.callee)[:1].isupper()


def _of_whole(kind: TwinKind, attribute: str) -> str:
    """A field's name for the variable that has the thing's own name: what makes its value."""
    symbol = kind.fields[attribute][0]
    value = value_of(symbol.bindings[0])
    call = next((c for c in (symbol.bindings[0].statement.calls if symbol.bindings[0].statement else ())), None)
    maker = final_name(call.callee) if call is not None else ""
    return bare_name(value, maker, kind.module) if value is not None else "value"


def column_plan(kind: ColumnKind, names: Names) -> KindPlan:
    """The plan of a class for things that are kept in lists side by side."""
    module, naming = kind.module, kind.module.dialect.naming
    noun = column_noun(kind)
    words = words_of(noun)
    name = names.class_name(words)
    own = set(kind.columns)
    wishes = [naming.member_name([*words[:-1], plural(words[-1])]), naming.joined("all", plural(noun)), f"{noun}_list"]
    container = next(w for w in wishes if w not in module.names_in_use or module.scope.symbols.get(w) in own)
    plan = KindPlan(name, names.file(naming.member_name(words)), "columns", [container])
    listed = ", ".join(kind.names)
    plan.why = f"in {listed} one number means the same thing"
    taken: set[str] = set()
    for column in kind.columns:
        is_itself = _is_text_of_it(kind, column, noun)
        field = _text_of_it(kind, column) if is_itself else column_field(column.name, noun, taken, module)
        field = column.name if _holds_lists(kind, column) and column.name not in taken else field
        field = _made_in(kind, column) or field if field in (noun, *_HANDLES) else field
        taken.add(field)
        fixed = kind.is_fixed(column)
        why = "begins alike in all of them" if fixed else "differs between them"
        plan.fields.append(FieldPlan(column.name, field, "fixed" if fixed else "argument", why=why))
    return plan


def _holds_lists(kind: ColumnKind, column: Symbol) -> bool:
    """Whether each thing has a list of its own in a column, which is named after what is in all of them."""
    values = kind.values(column)
    return bool(values) and all(
        Sense.LIST in (value.sense, *(part.sense for part in value.parts[:1])) for value in values
    )


def _made_in(kind: ColumnKind, column: Symbol) -> str:
    """What is called to make all values of a list, without its verb; empty where it is not one and the same."""
    made = [_made_before(kind.module, value) for value in kind.values(column)]
    makers = {value.parts[0].name if value.sense is Sense.CALL else None for value in made}
    words = words_of(makers.pop() or "") if len(makers) == 1 else []
    return kind.module.dialect.naming.member_name(words[1:]) if words[:1] and words[0] in ACTION_WORDS else ""


def _made_before(module: Module, value: Expression) -> Expression:
    """What a value is that has had a name for itself, by which it is given; any other as it stands."""
    bindings = value.reference.symbol.bindings if value.sense is Sense.NAME and value.reference is not None else []
    given = value_of(bindings[0]) if len(bindings) == 1 else None
    return Surroundings.of(module).by_span.get(given.span, value) if given is not None else value


def _text_of_it(kind: ColumnKind, column: Symbol) -> str:
    """What a thing's own text is: what the user is asked with, or its name."""
    surroundings = Surroundings.of(kind.module)
    walked = {walk.names[column] for walk in kind.uses.walks if column in walk.names}
    used = [surroundings.of_reference(r) for symbol in walked for r in symbol.references]
    asked = [e for e in kind.uses.elements if e.parts[0].reference and e.parts[0].reference.symbol is column]
    for expression in (*used, *asked):
        call = surroundings.call_around(expression) if expression is not None else None
        callee = call.parts[0].reference if call is not None else None
        if callee is not None and callee.name == kind.module.dialect.library.asks:
            return _PROMPT
    return _NAME


def _is_text_of_it(kind: ColumnKind, column: Symbol, noun: str) -> bool:
    """Whether a list that says no more than what the things are holds a text of each, and no other list is its name."""
    module = kind.module
    texts = [module.source.slice(value.span) for value in kind.values(column)]
    return (
        [singular(word) for word in words_of(column.name)] == [noun]
        and bool(texts)
        and all(module.dialect.writer.text_value(text) is not None for text in texts)
        and not any(singular(other.name) == _NAME for other in kind.columns)
    )


def column_noun(kind: ColumnKind) -> str:
    """What one thing is called: by the word that most lists share, or by the functions that use them."""
    shared: Counter[str] = Counter()
    for column in kind.columns:
        shared.update({word for word in nouns_of(column.name) if len(word) > 1})
    best = [
        word for word, count in shared.most_common() if 2 * count > len(kind.columns) and word not in ATTRIBUTE_WORDS
    ]
    if best:
        return best[0]
    first = kind.columns[0].references[0].statement
    words = words_of(Layout.of(kind.module).comment_above(first)) if first is not None else []
    plurals = [singular(w) for w in words if singular(w) != w and len(w) > _SHORT + 1 and w not in _PLAIN_WORDS | VERBS]
    if plurals:
        return plurals[0]
    uses: Counter[str] = Counter()
    effects = Effects.of(kind.module)
    for function in kind.module.functions:
        if not effects.direct[function].touches.isdisjoint(kind.columns):
            words = words_of(function.name)
            uses.update(
                singular(w) for w in words if w not in ACTION_WORDS | VERBS | ATTRIBUTE_WORDS and len(w) > _SHORT
            )
    said = _said_with_number(kind)
    if said:
        return said
    named = [word for word in nouns_of(kind.columns[0].name) if word not in ATTRIBUTE_WORDS and len(word) > _SHORT]
    rest = named[0] if named else noun_with({noun for column in kind.columns for noun in nouns_of(column.name)})
    return next((word for word, count in uses.most_common(1) if count > 1), rest)


def _said_with_number(kind: ColumnKind) -> str:
    """What stands right before the number of a thing where that is said: of `say("kite", number)` that is `kite`."""
    surroundings = Surroundings.of(kind.module)
    numbers = {part.parts[1].reference.symbol for part in kind.uses.elements if part.parts[1].reference is not None}
    found: Counter[str] = Counter()
    for reference in (r for symbol in numbers for r in symbol.references):
        used = surroundings.of_reference(reference)
        call = surroundings.around(used) if used is not None else None
        if used is None or call is None or call.sense is not Sense.CALL or used not in call.parts[2:]:
            continue
        before = call.parts[call.parts.index(used) - 1]
        words = nouns_of(before.name or "") if before.sense is Sense.CONSTANT else []
        found.update(word for word in words[-1:] if len(word) > _SHORT and word not in ATTRIBUTE_WORDS | VERBS)
    return found.most_common(1)[0][0] if found else ""


def noun_with(fields: Collection[str]) -> str:
    """What people mean by a thing that has such fields; what things are called for want of a word, if that is open."""
    return next((noun for noun, telling in _HAVING.items() if not telling.isdisjoint(fields)), BARE_NOUN)


def column_field(column: str, noun: str, taken: set[str], module: Module) -> str:
    """The name of a field: that of the list in the singular, without the noun."""
    words = [word for word in words_of(column) if singular(word) != noun] or words_of(column)
    if words[-1] in _AMOUNTS and words != [noun]:
        return module.dialect.naming.member_name(words)
    naming = module.dialect.naming
    last = singular(words[-1]) if len(words[-1]) > _SHORT else words[-1].rstrip("s")
    name = naming.member_name([*words[:-1], last]) if len(words) > 1 else longer(last)
    if not name or not module.dialect.rules.is_name(name) or name in taken:
        return column
    return name


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
    return next((n for n in nouns if len(n) > _SHORT and n != own and n not in _PLAIN_WORDS), noun_with(first.members))


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
    factory = factory_of(kind)
    if factory is not None:
        _weigh(weights, [_noun(factory.name, _MAKING)], 6)
    for container in containers_of(kind.module, kind.holding):
        name = container_of(container).rpartition(".")[2]
        is_of_many = any(map(is_plural, words_of(name)))  # else the name is that of all together
        _weigh(weights, [_noun(name, frozenset())], 4 if is_of_many else 1)
    for symbol in kind.symbols:
        _weigh(weights, [_noun(symbol.name, frozenset())], 2 if len(symbol.name) > _SHORT else 0)
    ranked = [noun for noun, weight in weights.most_common() if weight > 0 and len(noun) > _SHORT]
    return ranked or [noun_with({noun for key in kind.keys for noun in nouns_of(key)})]


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
    if len(words) == 1 and words[0] in verbs:
        return ""
    if len(words) > 1 and words[-1] in _COLLECTIVES:
        words = words[:-1]
    return "_".join([*words[:-1], singular(words[-1])]) if words else ""


_SHORT_FOR = {"p": "player", "pl": "player", "btn": "button", "lbl": "label", "img": "image", "pic": "picture"}
"""What people mean by the short words before a number."""
_PLACES = frozenset("left right top bottom upper lower first second third last next start end".split())
_AMOUNTS = frozenset(
    "minutes hours days weeks years seconds points lives goals wins losses miles meters kilos grams coins cents".split()
)
"""What one thing has several of."""
_PLAIN_WORDS = frozenset(
    "the and for with from into this that these those are is was has does one two three all each lists names "
    "values things numbers items times".split()
)
_HAVING = {
    "book": frozenset({"author", "isbn"}),
    "student": frozenset({"grade", "mark", "homework"}),
    "employee": frozenset({"salary", "wage"}),
    "person": frozenset({"age", "birthday", "surname"}),
    "account": frozenset({"balance", "deposit"}),
    "city": frozenset({"population", "mayor"}),
    "product": frozenset({"price", "stock"}),
    "player": frozenset({"score", "lives", "points"}),
}
"""What only such things have."""
_QUANTITIES = frozenset("all the my our new current other first last next this that each some active".split())
_COLLECTIVES = frozenset("list items array table queue data objects".split())
