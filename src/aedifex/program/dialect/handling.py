"""What functions and methods of a library do with containers and with what is in them."""

from __future__ import annotations

from enum import Enum


class Handling(Enum):
    """What becomes of the container that a function is given first, or that a method belongs to."""

    COUNTS = "the number of its elements comes back"
    UP_TO = "what comes back holds the numbers up to the argument"
    EMPTIES = "all its elements go"
    LOOKS = "nothing but a number, a text or a truth comes back"
    WRITES = "all that its arguments hold is written down, and nothing else is done with them"
    SAME = "what comes back holds the same elements"
    SORTS = "a list of the same elements in another order comes back"
    ELEMENT = "an element comes back"
    NUMBERED = "what comes back holds pairs of a number and an element"
    SIDE_BY_SIDE = "what comes back holds the elements of all arguments side by side"
    BINDS = "the first argument comes back, to be called with the others and with what its caller gives"
    REBINDS = "the routine itself comes back, with the first argument as its object"
    MAPPED = "what comes back holds what the first argument makes of the elements of the second"
    SIFTED = "the second argument is what comes back sifted"
    EACH = "the argument is called with its elements, and none of them comes back"
    FINDS = "the argument is called with its elements, and one of them comes back"
    FOLDS = "the argument is called with what it gave before and an element, and what it gives last comes back"
    MAKES = "a new container that holds what the argument holds"
    MAKES_GROUP = "a new container that holds what the argument gives in a walk"
    MAKES_PAIRS = "a new container of the pairs of key and element that the argument holds; a walk gives such pairs"
    SPLICES = "some of its elements come back, and the arguments behind the second become elements"
    ADDS = "the first argument becomes an element"
    INSERTS = "the second argument becomes an element"
    ADDS_ALL = "the elements of the argument become its own"
    TAKES = "an element comes back, and may be gone"
    LOOKS_UP = "the element under a key comes back, or else the second argument"
    COMPARES = "the argument is compared with its elements"
    ARRANGES = "its elements are put in another order"
    KEYS = "what comes back holds its keys"
    VALUES = "what comes back holds its elements"
    ITEMS = "what comes back holds pairs of a key and an element"
    COPIES = "another container with the same elements comes back"


class Search(Enum):
    """What a method gives back that asks its argument about each element."""

    FIRST = "the first of which it holds, or nothing"
    ALL = "all of which it holds"
    PLACE = "the place of the first of which it holds, or a number below"
    ANY = "whether there is one of which it holds"


CALLING = frozenset({Handling.EACH, Handling.FINDS, Handling.FOLDS, Handling.MAPPED, Handling.SIFTED, Handling.SORTS})
"""What methods do that call what they are given."""
CHANGING = frozenset(
    {Handling.ADDS, Handling.INSERTS, Handling.ADDS_ALL, Handling.SPLICES, Handling.TAKES, Handling.COMPARES}
)
"""What may let elements come or go."""
