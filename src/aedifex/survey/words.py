"""The words that names are made of."""

from __future__ import annotations

import re
from collections.abc import Sequence
from functools import cache
from itertools import takewhile

_PARTS = re.compile(r"[A-Z]+(?![a-z])|[A-Z]?[a-z]+|\d+|[^\W\d_A-Za-z]+")
_SHORTEST_END = 3
_PLURAL_ENDINGS = (("ies", "y"), ("ches", "ch"), ("shes", "sh"), ("sses", "ss"), ("xes", "x"), ("s", ""))
_NOT_PLURAL = frozenset(
    {"s", "is", "as", "us", "this", "has", "was", "bus", "gas", "axis", "status", "radius", "canvas"}
)

_IRREGULAR = {
    "leaf": "leaves",
    "half": "halves",
    "shelf": "shelves",
    "loaf": "loaves",
    "thief": "thieves",
    "wolf": "wolves",
    "calf": "calves",
    "knife": "knives",
    "life": "lives",
    "wife": "wives",
    "man": "men",
    "woman": "women",
    "child": "children",
    "person": "people",
    "foot": "feet",
    "tooth": "teeth",
    "goose": "geese",
    "mouse": "mice",
    "potato": "potatoes",
    "tomato": "tomatoes",
    "hero": "heroes",
    "echo": "echoes",
    "bus": "buses",
    "lens": "lenses",
}
_SINGULARS = {many: one for one, many in _IRREGULAR.items()}

_PARTICIPLES = ("ed", "sen", "ken")
_OTHER_PARTICIPLES = frozenset(
    "paid sold lost won spent given drawn seen done gone been kept sent met caught bought brought taught made built "
    "thrown flown grown shown known eaten written hidden stolen".split()
)
_NO_PARTICIPLES = frozenset("speed seed bed feed need reed weed shed red token chicken".split())


def words_of(name: str) -> list[str]:
    """The words of a name, in small letters: `ferry_x`, `ferryX` and `FERRY_X` all give `ferry`, `x`."""
    return [part.lower() for part in _PARTS.findall(name)]


def common_words(names: Sequence[str]) -> list[str]:
    """What several names have in common, as words: `left_bow` and `right_bow`, or `p1bow` and `p2bow`, both say `bow`.

    Numbers and single letters are nothing to have in common.
    """
    if len(names) < 2:
        return []
    shared = [word for word in words_of(names[0]) if all(word in words_of(name) for name in names[1:])]
    shared = [word for word in shared if len(word) > 1 and word.isalpha()]
    columns = zip(*(reversed(name.lower()) for name in names), strict=False)
    end = "".join(letters[0] for letters in takewhile(lambda letters: len(set(letters)) == 1, columns))[::-1]
    return shared or ([end] if len(end) >= _SHORTEST_END and end.isalpha() else [])


@cache
def singular(word: str) -> str:
    """The singular of an English noun, as it is in use or by its ending; another word stays as it is."""
    if word in _SINGULARS:
        return _SINGULARS[word]
    if word in _NOT_PLURAL or word.endswith(("ss", "us", "is")):
        return word
    for ending, instead in _PLURAL_ENDINGS:
        if word.endswith(ending) and len(word) > len(ending) + 1:
            return word[: len(word) - len(ending)] + instead
    return word


def is_plural(word: str) -> bool:
    """Whether a word stands for several things."""
    return singular(word) != word


def says_whose(name: str) -> bool:
    """Whether a name says how many of something somebody has, who has a letter for a name: `xWins`."""
    words = words_of(name)
    return len(words) > 1 and len(words[0]) == 1 and is_plural(words[-1])


def is_participle(word: str) -> bool:
    """Whether a word says that something has been done: `chosen`, `inserted`, `paid`."""
    return (word.endswith(_PARTICIPLES) and word not in _NO_PARTICIPLES) or word in _OTHER_PARTICIPLES


def plural(word: str) -> str:
    """The plural of an English noun, by its ending or as it is in use."""
    if word in _IRREGULAR:
        return _IRREGULAR[word]
    if word.endswith(("s", "x", "ch", "sh")):
        return word + "es"
    is_after_consonant = word.endswith("y") and word[-2:-1] not in "aeiou"
    return word[:-1] + "ies" if is_after_consonant else word + "s"


def nouns_of(name: str) -> list[str]:
    """The words of a name in the singular, without numbers."""
    return [singular(word) for word in words_of(name) if not word.isdigit()]
