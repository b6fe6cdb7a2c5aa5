"""Names for statements, made of the comment that stands above them."""

from __future__ import annotations

import re
from collections.abc import Sequence

from aedifex.design.drafting.naming import ACTION_WORDS, VERBS, verb_first
from aedifex.program.dialect.dialect import Dialect
from aedifex.survey.words import is_plural, singular, words_of

HINT = "what"
"""A comment that begins so only hints at what the code is about."""

_UPDATE = "update"
_MOST_WORDS = 3
_ARTICLES = frozenset("the a an now then and we it its each every all any some this these those our your my".split())
_ASKING = frozenset({"if", "whether", "that"})
_WITH_PARTICLE = frozenset({("check", "for"), ("look", "for"), ("wait", "for"), ("search", "for"), ("listen", "to")})
_CUTTING = frozenset(
    "to of for in on at by with from so or before after while when than as until into onto over through because is "
    "are was were be will would should can could may must has have had does did not which who where how once unless "
    "except without about against between during since along across around per using and if whether that".split()
)


def names_from(comment: str, verb: str, dialect: Dialect) -> list[str]:
    """The names that a comment gives the code below it, the best first; none where it is no heading.

    Few words are the name as they are. Of a sentence that begins with a verb, that and its object are; what has none
    gets the `verb` of what the code does, if that is known. A thing or several, and no more, are handled.
    """
    handled = _handled(verb, comment)
    if words_of(comment)[:1] == [HINT]:
        return []
    found = [handled, _few(comment), *_verb_and_object(comment), _with_verb(verb, comment)]
    if len(handled) == 2 and _plain(handled[1]) in VERBS:
        found.append(found.pop(0))  # `falls` may be what is done, or what is counted
    names = [dialect.naming.member_name(words) for words in found if words and words[0].isalpha()]
    return list(
        dict.fromkeys(name for name in names if dialect.rules.is_name(name) and not dialect.rules.is_taken(name))
    )


def _handled(verb: str, comment: str) -> list[str]:
    words = plain_words(comment)
    is_thing = len(words) == 1 and (is_plural(words[0]) or not _is_deed(words[0]))
    is_part = 1 < len(words) <= _MOST_WORDS and words[1] == "of"
    return [verb or "handle", *words] if is_thing or is_part else []


def _is_deed(word: str) -> bool:
    """Whether a word says what is done: `draw`, `drawing`."""
    return _plain(word) in VERBS or verb_first([word, word]) != [word, word]


def _few(comment: str) -> list[str]:
    words = verb_first(plain_words(comment))
    most = _MOST_WORDS + (words[:1] != [] and words[0] in ACTION_WORDS)
    if len(words) > most:
        return []
    cut = _cut(words)
    is_thing = 0 < cut < len(words) - 1 and not any(_is_deed(word) for word in words[:cut])
    return [_UPDATE, *words[:cut]] if is_thing else words


def _verb_and_object(comment: str) -> list[list[str]]:
    """The first sentence's verb with what it is done to, and with some words more."""
    verb, *rest = _first_sentence(comment) or [""]
    verb = _plain(verb)
    if rest and (rest[0] in _ASKING or (verb, rest[0]) in _WITH_PARTICLE):
        rest = rest[1:]
    cut = _cut(rest)
    if verb not in VERBS or cut == 0:
        return []
    more = [word for word in rest[cut:] if word not in _CUTTING]
    if cut == 1 and rest[1:2] == ["with"] and more:
        return [[verb, more[0], rest[0]], [verb, rest[0]]]
    return [[verb, *rest[: min(cut, _MOST_WORDS)]], [verb, *rest[:cut], *more][: _MOST_WORDS + 1]]


def _with_verb(verb: str, comment: str) -> list[str]:
    words = _first_sentence(comment)
    cut = _cut(words)
    is_verb_there = bool(words) and _plain(words[0]) in VERBS
    return [verb, *words[: min(cut, _MOST_WORDS)]] if verb and cut and not is_verb_there else []


def _cut(words: Sequence[str]) -> int:
    """How many words stand before the first that cuts a phrase."""
    return next((number for number, word in enumerate(words) if word in _CUTTING), len(words))


def _first_sentence(comment: str) -> list[str]:
    return plain_words(re.split(r"[.,;:()!?]", comment)[0])


def plain_words(comment: str) -> list[str]:
    """The words of a comment that carry its meaning."""
    return [word for word in words_of(comment) if word not in _ARTICLES]


def _plain(verb: str) -> str:
    """A verb as a command: `calculates` and `calculating` are `calculate`."""
    stem = verb.removesuffix("ing")
    forms = (verb, singular(verb), stem, stem + "e", stem[:-1])
    return next((form for form in forms if form in VERBS), verb)
