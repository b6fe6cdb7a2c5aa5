"""Plans for things that are kept in lists side by side: what they are called, and what each list is of them."""

from __future__ import annotations

from collections import Counter

from aedifex.design.document.design import FieldPlan, KindPlan
from aedifex.design.drafting.naming import ACTION_WORDS, ATTRIBUTE_WORDS, VERBS, Names, longer
from aedifex.design.drafting.thing_words import BARE_NOUN, HAPPENING, PLAIN_WORDS, SHORT, noun_with
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import value_of
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.model.statements import Function, Statement
from aedifex.program.structure.layout import Layout
from aedifex.survey.kinds.columns import ColumnKind
from aedifex.survey.words import is_plural, nouns_of, plural, singular, words_of

_NAME, _PROMPT, _TEXT = "name", "prompt", "text"
_VERB_AND_NOUN = 2
_SENTENCE = 4
"""So many words are no name."""
_HANDLES = ("id", "number", "handle")
_AMOUNTS = frozenset(
    "minutes hours days weeks years seconds points lives goals wins losses miles meters kilos grams coins cents".split()
)
"""What one thing has several of."""


def column_plan(kind: ColumnKind, names: Names) -> KindPlan:
    """The plan of a class for things that are kept in lists side by side."""
    module, naming = kind.module, kind.module.dialect.naming
    noun = column_noun(kind)
    words = words_of(noun)
    name = names.class_name(words, of_one=True)
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
        field = _called_when_asked(kind, column, noun) or field if field == noun else field
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


def _called_when_asked(kind: ColumnKind, column: Symbol, noun: str) -> str:
    """The name that the script gives to what it asks a column for; empty where it has none, or none of its own."""
    around = Surroundings.of(kind.module).around
    asked = [e for e in kind.uses.elements if e.parts[0].reference and e.parts[0].reference.symbol is column]
    given = [s for e in asked if (s := around(e)) is not None and s.sense is Sense.SET and s.parts[-1] is e]
    names = [s.parts[0].reference.name for s in given if s.parts[0].reference is not None]
    fields = (column_field(name, noun, set(), kind.module) for name in names if words_of(name) != [noun])
    return next(fields, "")


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
    slice_, writer = kind.module.source.slice, kind.module.dialect.writer
    words = [(writer.text_value(slice_(value.span)) or "").split() for value in kind.values(column)]
    return _TEXT if any(len(each) >= _SENTENCE for each in words) else _NAME


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
    added = [noun for row in kind.uses.additions for noun in _added_by(row.statements[0])]
    if added:
        return added[0]
    first = kind.columns[0].references[0].statement
    words = words_of(Layout.of(kind.module).comment_above(first)) if first is not None else []
    plurals = [singular(w) for w in words if singular(w) != w and len(w) > SHORT + 1 and w not in PLAIN_WORDS | VERBS]
    if plurals:
        return plurals[0]
    uses, several = Counter[str](), list[str]()
    effects = Effects.of(kind.module)
    for function in kind.module.functions:
        if not effects.direct[function].touches.isdisjoint(kind.columns):
            vague = ACTION_WORDS | VERBS | ATTRIBUTE_WORDS | HAPPENING
            words = [word for word in words_of(function.name) if word not in vague]
            uses.update(singular(w) for w in words if len(w) > SHORT)
            several += [singular(w) for w in words if is_plural(w) and len(w) > SHORT and w not in PLAIN_WORDS]
    said = _said_with_number(kind)
    if said:
        return said
    named = [word for word in nouns_of(kind.columns[0].name) if word not in ATTRIBUTE_WORDS and len(word) > SHORT]
    rest = named[0] if named else noun_with({noun for column in kind.columns for noun in nouns_of(column.name)})
    rest = several[0] if rest == BARE_NOUN and several else rest
    return next((word for word, count in uses.most_common(1) if count > 1), rest)


def _added_by(statement: Statement) -> list[str]:
    """What a function says that it adds one of: of `add_entry` that is `entry`."""
    routine = next((b.routine for b in statement.block.outwards() if isinstance(b.routine, Function)), None)
    words = words_of(routine.name) if routine is not None else []
    is_adding = len(words) == _VERB_AND_NOUN and words[0] in VERBS and words[1] not in PLAIN_WORDS | ATTRIBUTE_WORDS
    return [words[1]] if is_adding and not is_plural(words[1]) else []


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
        found.update(word for word in words[-1:] if len(word) > SHORT and word not in ATTRIBUTE_WORDS | VERBS)
    return found.most_common(1)[0][0] if found else ""


def column_field(column: str, noun: str, taken: set[str], module: Module) -> str:
    """The name of a field: that of the list in the singular, without the noun."""
    words = [word for word in words_of(column) if singular(word) != noun] or words_of(column)
    if words[-1] in _AMOUNTS and words != [noun]:
        return module.dialect.naming.member_name(words)
    naming = module.dialect.naming
    last = singular(words[-1]) if len(words[-1]) > SHORT else words[-1].rstrip("s")
    name = naming.member_name([*words[:-1], last]) if len(words) > 1 else longer(last)
    if not name or not module.dialect.rules.is_name(name) or name in taken:
        return column
    return name
