"""Names for statements, made of what they do: the verb of their calls and the thing that they do it to."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence

from aedifex.design.drafting.naming import VERBS
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Reference
from aedifex.program.model.statements import Call, Kind, Shape, Statement, final_name
from aedifex.survey.words import nouns_of, plural, singular, words_of

MOVING = frozenset("goto forward back backward move move_ip teleport setpos setposition setx sety".split())
"""What libraries call it when something is put somewhere else."""

SHOWING = frozenset("config configure itemconfig itemconfigure".split())
"""What libraries call it when something that is shown becomes another."""

_LAST_WORD = re.compile(r"[A-Za-z][\w-]*$")
_PLAIN = frozenset({Kind.EXPRESSION, Kind.ASSIGN, Kind.UPDATE})


def one_thing(module: Module, run: Sequence[Statement]) -> str:
    """The one object of which all statements call methods or set attributes, and do nothing else; empty for others.

    What is looked up by a text is called by its words: `rows` for all with the class `row`.
    """
    things = {_thing_of(module, statement) for statement in run}
    return things.pop() if len(things) == 1 else ""


def _thing_of(module: Module, statement: Statement) -> str:
    first = statement.references[0] if statement.references else None
    is_at_start = first is not None and bool(first.path) and first.start == statement.start
    if first is None or not is_at_start or statement.kind not in _PLAIN:
        return ""
    looked_up = next((call for call in statement.calls if call.callee is first and _looks_up(module, call)), None)
    return _looked_up(module, looked_up) if looked_up is not None else first.name


def _looks_up(module: Module, call: Call) -> bool:
    return module.dialect.library.finds_widget(final_name(call.callee)) and len(call.arguments) == 1


def _looked_up(module: Module, call: Call) -> str:
    """What a call asks for by a text, as several where it gives several; empty where that is no word."""
    text = module.dialect.writer.text_value(module.source.slice(call.arguments[0].span)) or ""
    found = _LAST_WORD.search(text)
    words = words_of(found[0]) if found is not None else []
    is_many = module.dialect.library.finds_several(final_name(call.callee))
    ending = [plural(singular(words[-1])) if is_many else words[-1]] if words else []
    return module.dialect.naming.member_name([*words[:-1], *ending]) if words else ""


def called_alone(statement: Statement) -> str:
    """The function of which a statement is nothing but a call; empty for any other statement."""
    if statement.kind is not Kind.EXPRESSION or not statement.calls:
        return ""
    outermost = max(statement.calls, key=lambda call: call.end - call.start)
    return last_name(outermost.callee) if outermost.callee is not None else ""


def called_by(calls: Iterable[Call]) -> list[str]:
    """The functions that are called, by their whole names."""
    callees = [call.callee for call in calls if call.callee is not None]
    return [".".join([callee.name, *(step.name or "" for step in callee.path)]) for callee in callees]


def only_says(module: Module, statement: Statement) -> bool:
    """Whether a statement is nothing but a call of what prints."""
    if statement.kind is not Kind.EXPRESSION or not statement.calls:
        return False
    outermost = max(statement.calls, key=lambda call: call.end - call.start)
    return called_by([outermost]) == [module.dialect.library.says]


def draw_names(run: Sequence[Statement]) -> tuple[str, ...]:
    """Words for what a run does that draws one thing, the best first."""
    called = {called_alone(statement) for statement in run if statement.kind is Kind.EXPRESSION}
    if called and called <= MOVING:
        return ("move", "draw")
    return ("show", "draw") if called and called <= SHOWING else ("draw", "show")


def called_name(call: Call) -> str:
    """The last part of the name of what is called; empty where that has none."""
    return last_name(call.callee) if call.callee is not None else ""


def verb_at_end(run: Sequence[Statement]) -> str:
    """The verb in the name of the function that a run calls in its last statement."""
    return next((word for word in words_of(called_alone(run[-1])) if word in VERBS), "")


def sets_plain_values(run: Sequence[Statement]) -> bool:
    """Whether a run does nothing but to give several things values that are written out, most of them at least."""
    values = [pair.value.shape for s in run if s.assignment is not None for pair in s.assignment.pairs]
    plain = values.count(Shape.LITERAL) + values.count(Shape.DISPLAY)
    return all(statement.kind is Kind.ASSIGN for statement in run) and plain > 1 and 2 * plain > len(values)


def one_deed(module: Module, run: Sequence[Statement]) -> list[str]:
    """The words for what a run does, where all methods that its statements call begin with the same verb.

    For what a library is known to do its verb stands first: what calls `fillText` draws text.
    """
    callees = [callee for statement in run for inner in statement.walk() if (callee := _done_in(inner)) is not None]
    does = {tuple(words_of(last_name(callee))) for callee in callees}
    things = [nouns_of(callee.name) for callee in callees]
    if len(callees) < 2 or len({words[:1] for words in does}) != 1 or not all(callee.path for callee in callees):
        return []
    words = does.pop()
    if words[0] not in VERBS:
        return []
    shared = [word for word in things[0] if all(word in thing for thing in things)]
    if not does and len(words) > 1:
        known = words_of(module.dialect.library.deed(last_name(callees[0])))
        return [*(known or words[:1]), *words[1:]]
    return [words[0], *shared] if shared else []


def _done_in(statement: Statement) -> Reference | None:
    """The method that a plain statement is about: what it calls last, or what gives the value that it sets."""
    if statement.kind not in _PLAIN or not statement.calls:
        return None
    return max(statement.calls, key=lambda call: call.end - call.start).callee


def last_name(reference: Reference) -> str:
    """The last part of a dotted name; of what is picked out of something, the something's."""
    names = [step.name for step in reference.path if step.kind is AccessKind.ATTRIBUTE and step.name]
    return names[-1] if names else reference.name
