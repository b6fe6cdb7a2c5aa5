"""Which long texts go into files, and what those are called."""

from __future__ import annotations

from aedifex.design.document.design import TextPlan
from aedifex.design.drafting.naming import ACTION_WORDS
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function
from aedifex.survey.long_texts import LongText, long_texts
from aedifex.survey.words import words_of

_FOLDER = "texts"
_SUFFIX = ".txt"
_FIRST, _OTHER = "intro", "text"
_EMPTY_WORDS = frozenset("text message msg string str".split())


def texts_of(module: Module) -> list[TextPlan]:
    """The long texts of a file with a file for each, in the order of the text."""
    found: list[TextPlan] = []
    taken: set[str] = set()
    for text in long_texts(module):
        words = _words(module, text) or [_FIRST if not found else _OTHER]
        stem = module.dialect.naming.member_name(words)
        wishes = (stem if number == 1 else module.dialect.naming.joined(stem, str(number)) for number in range(1, 99))
        free = next(wish for wish in wishes if wish not in taken)
        taken.add(free)
        name = "" if text.symbol is not None else _constant(module, free)
        found.append(TextPlan(f"{_FOLDER}/{free}{_SUFFIX}", text.line, name))
    return found


def _constant(module: Module, stem: str) -> str:
    naming = module.dialect.naming
    name = naming.constant_name(words_of(stem))
    return name if name not in module.names_in_use else naming.joined(name, naming.constant_name([_OTHER]))


def _words(module: Module, text: LongText) -> list[str]:
    """What a text is about: its variable's name, or what the function around it shows."""
    if text.symbol is not None:
        words = words_of(text.symbol.name)
    else:
        statement = text.expression.statement
        blocks = statement.block.outwards() if statement is not None else iter(())
        routine = next((block.routine for block in blocks if block.routine is not None), None)
        is_whole = not isinstance(routine, Function) or routine.name == module.dialect.rules.entry
        words = [] if is_whole or routine is None else words_of(routine.qualified_name)
    return [word for word in words if word not in ACTION_WORDS and word not in _EMPTY_WORDS]
