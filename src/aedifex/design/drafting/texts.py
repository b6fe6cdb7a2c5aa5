"""Which long texts go into files, and what those are called."""

from __future__ import annotations

from collections.abc import Sequence

from aedifex.design.dividing.loop_body import longest_loop
from aedifex.design.document.design import TextPlan
from aedifex.design.drafting.naming import ACTION_WORDS
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Function, Statement
from aedifex.program.structure.main_code import MainCode
from aedifex.survey.asked_words import AskedWords
from aedifex.survey.long_texts import LongText, long_texts
from aedifex.survey.words import words_of

_FOLDER = "texts"
_SUFFIX = ".txt"
_FIRST, _LAST, _OTHER = "intro", "ending", "text"
_EMPTY_WORDS = frozenset("text message msg string str".split())


def texts_of(module: Module) -> list[TextPlan]:
    """The long texts of a file with a file for each, in the order of the text."""
    found: list[TextPlan] = []
    taken: set[str] = set()
    texts = long_texts(module)
    for text in texts:
        words = _words(module, text) or [_place(module, texts, text)]
        stem = module.dialect.naming.member_name(words)
        wishes = (stem if number == 1 else module.dialect.naming.joined(stem, str(number)) for number in range(1, 99))
        free = next(wish for wish in wishes if wish not in taken)
        taken.add(free)
        name = "" if text.symbol is not None else _constant(module, free)
        found.append(TextPlan(f"{_FOLDER}/{free}{_SUFFIX}", text.line, name))
    return found


def _place(module: Module, texts: Sequence[LongText], text: LongText) -> str:
    """Where a text stands: before all others of the file or of the main code, behind the main loop, or elsewhere."""
    run = MainCode.of(module).run
    loop = longest_loop(run)
    if loop is not None and text.expression.start > loop.end:
        return _LAST
    own = [one for one in texts if any(s.start <= one.expression.start < s.end for s in run)]
    return _FIRST if text in (texts[0], *own[:1]) else _OTHER


def _constant(module: Module, stem: str) -> str:
    naming = module.dialect.naming
    name = naming.constant_name(words_of(stem))
    return name if name not in module.names_in_use else naming.joined(name, naming.constant_name([_OTHER]))


def _words(module: Module, text: LongText) -> list[str]:
    """What a text is about: its variable's name, what a call is given it as, or what the function around it shows."""
    if text.symbol is not None:
        words = words_of(text.symbol.name)
    elif keyword := _keyword(module, text):
        words = words_of(keyword)
    else:
        statement = text.expression.statement
        blocks = statement.block.outwards() if statement is not None else iter(())
        routine = next((block.routine for block in blocks if block.routine is not None), None)
        is_whole = not isinstance(routine, Function) or routine.name == module.dialect.rules.entry
        words = [] if is_whole or routine is None else words_of(routine.qualified_name)
        words = words if words and not ACTION_WORDS.issuperset(words) else _word_asked(module, statement)
    return [word for word in words if word not in ACTION_WORDS and word not in _EMPTY_WORDS]


def _keyword(module: Module, text: LongText) -> str:
    """The keyword by which a call is given a text."""
    call = Surroundings.of(module).around(text.expression)
    if call is None or call.sense is not Sense.CALL or text.expression not in call.parts[1:]:
        return ""
    return call.names[call.parts.index(text.expression) - 1] or ""


def _word_asked(module: Module, statement: Statement | None) -> list[str]:
    """The one word on which the branch around a statement is run."""
    for block in statement.block.outwards() if statement is not None else ():
        cases = Surroundings.of(module).cases(block.owner) if block.owner is not None else []
        asked = [AskedWords.of_condition(module, test) for inner, test in cases if inner is block]
        words = [word for one in asked if one is not None for word in one.words]
        if len(words) == 1 and isinstance(words[0], str) and words[0].isalpha():
            return [words[0].lower()]
    return []
