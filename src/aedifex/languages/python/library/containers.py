"""What Python's functions and methods do with containers and with what is in them."""

from __future__ import annotations

from aedifex.languages.python.library.known import words
from aedifex.program.dialect.handling import Handling

_FUNCTIONS = {
    Handling.COUNTS: "len",
    Handling.UP_TO: "range",
    Handling.LOOKS: "any all sum bool isfinite",
    Handling.WRITES: "jsonify dumps",
    Handling.SORTS: "sorted",
    Handling.SAME: "reversed iter sample choices shuffle islice cycle",
    Handling.ELEMENT: "min max next choice",
    Handling.NUMBERED: "enumerate",
    Handling.SIDE_BY_SIDE: "zip",
    Handling.BINDS: "partial",
    Handling.MAPPED: "map",
    Handling.SIFTED: "filter",
    Handling.MAKES: "list tuple set frozenset deque Queue LifoQueue",
    Handling.COPIES: "copy deepcopy",
}
_METHODS = {
    Handling.ADDS: "append add appendleft put put_nowait",
    Handling.INSERTS: "insert",
    Handling.ADDS_ALL: "extend extendleft update",
    Handling.TAKES: "pop popleft get_nowait",
    Handling.LOOKS_UP: "get setdefault",
    Handling.COMPARES: "remove index count discard",
    Handling.ARRANGES: "sort reverse rotate",
    Handling.EMPTIES: "clear",
    Handling.KEYS: "keys",
    Handling.VALUES: "values",
    Handling.ITEMS: "items",
    Handling.COPIES: "copy",
}
BARE_OBJECTS = frozenset({("types", "SimpleNamespace"), ("argparse", "Namespace")})
"""What makes objects that have the members they are given by keywords, and nothing else."""
ORDERING = words("sorted sort min max nlargest nsmallest")
FUNCTIONS = {name: handling for handling, names in _FUNCTIONS.items() for name in words(names)}
METHODS = {name: handling for handling, names in _METHODS.items() for name in words(names)}
