"""What functions of JavaScript's library do, by their names."""

from __future__ import annotations

import re

_NUMBERS = "abs acos asin atan atan2 ceil cos exp floor hypot log log10 log2 max min pow round sign sin sqrt tan trunc"

_TEXTS = "Boolean Number String isFinite isNaN parseFloat parseInt now random stringify encodeURIComponent"

PLAIN_FUNCTIONS = frozenset(f"{_TEXTS} {_NUMBERS}".split())
"""Functions that give back nothing but numbers, texts and truth values."""

READING_FUNCTIONS = PLAIN_FUNCTIONS | {"isArray", "is", "isInteger", "keys", "values", "entries", "clearTimeout"}
"""Functions that leave their arguments alone and call nothing back."""

MAKERS = frozenset({"Array", "Map", "Set", "Object", "Date"})
"""Constructors that, given nothing, only make something empty, or the time."""

ELEMENT_GIVERS = frozenset({"at", "find", "findLast", "get", "pop", "shift"})
"""Methods that give back what their object holds."""

QUIET_MODULES = frozenset({"fs", "path", "os", "url", "querystring", "crypto", "zlib", "buffer", "string_decoder"})
"""Node's modules whose functions call the program back only where they are given a function."""

ASKING = frozenset({"prompt", "confirm", "question"})
"""Functions that wait for what is typed."""

DRAWING = frozenset(
    """
arc arcTo background circle clearRect drawImage ellipse fill fillRect fillText image line lineTo point quad rect square
stroke strokeRect strokeText text triangle vertex
""".split()
)
"""Functions, and methods of a canvas, that draw."""

KEYS = re.compile(r"""["'](Arrow\w+|Key[A-Z]|Digit\d|Space|Enter|Escape)["']""")
"""The keys that a text names."""

CALLING_LATER = frozenset(
    """
addEventListener cancelAnimationFrame clearInterval clearTimeout off on once removeEventListener
requestAnimationFrame setImmediate setInterval setTimeout
""".split()
)
"""What only notes, or forgets, what is called when something happens, or when it is time."""

KEEPING_HANDLERS = frozenset("addEventListener createServer on once setInterval".split())
"""What is given something to call that deserves a name."""
