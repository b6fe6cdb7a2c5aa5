"""What the methods of arrays, maps and sets do with what they are called on."""

from __future__ import annotations

from aedifex.program.dialect.handling import Handling, Search

READING = frozenset(
    """
at charAt charCodeAt codePointAt concat endsWith entries every exec filter find findIndex findLast findLastIndex flat
flatMap forEach get getDate getDay getFullYear getHours getItem getMilliseconds getMinutes getMonth getSeconds getTime
has hasOwnProperty includes indexOf join keys lastIndexOf localeCompare map match matchAll padEnd padStart reduce
reduceRight repeat replace replaceAll search slice some split startsWith substr substring test toFixed toISOString
toJSON toLocaleDateString toLocaleString toLocaleTimeString toLowerCase toReversed toSorted toString toUpperCase trim
trimEnd trimStart valueOf values with
""".split()
)
"""Methods that leave their object as it is."""

TEXTUAL = frozenset(
    """
charAt charCodeAt codePointAt endsWith includes indexOf join lastIndexOf localeCompare padEnd padStart repeat replace
replaceAll search startsWith substr substring test toFixed toISOString toLowerCase toString toUpperCase trim trimEnd
trimStart
""".split()
)
"""Methods of plain values that give back a plain value."""

CALLING_BACK = frozenset(
    """
every filter find findIndex findLast findLastIndex flatMap forEach map reduce reduceRight some sort toSorted
""".split()
)
"""Methods that call what they are given."""

BY_FUNCTION = {
    "Map": Handling.MAKES_PAIRS,
    **dict.fromkeys(("Set", "Array.from"), Handling.MAKES_GROUP),
    "Object.keys": Handling.KEYS,
    "Object.values": Handling.VALUES,
    "Object.entries": Handling.ITEMS,
}
"""What is made of what it is given."""

BY_METHOD = {
    **dict.fromkeys(("push", "unshift", "add", "fill"), Handling.ADDS),
    **dict.fromkeys(("pop", "shift"), Handling.TAKES),
    "at": Handling.ELEMENT,
    "splice": Handling.SPLICES,
    **dict.fromkeys(("slice", "reverse", "toReversed"), Handling.SAME),
    "values": Handling.VALUES,
    "keys": Handling.KEYS,
    **dict.fromkeys(("indexOf", "lastIndexOf", "includes", "join", "has", "delete"), Handling.COUNTS),
    **dict.fromkeys(("forEach", "some", "every", "findIndex", "findLastIndex"), Handling.EACH),
    **dict.fromkeys(("find", "findLast"), Handling.FINDS),
    **dict.fromkeys(("sort", "toSorted"), Handling.SORTS),
    **dict.fromkeys(("json", "stringify"), Handling.WRITES),
    "bind": Handling.REBINDS,
    "set": Handling.INSERTS,
    "map": Handling.MAPPED,
    "filter": Handling.SIFTED,
    "reduce": Handling.FOLDS,
    "clear": Handling.EMPTIES,
    "get": Handling.LOOKS_UP,
    "entries": Handling.ITEMS,
}
"""What methods do with the elements of their object."""

SEARCHES = {"find": Search.FIRST, "filter": Search.ALL, "findIndex": Search.PLACE, "some": Search.ANY}
"""What methods look for that ask their argument about each element."""

MEMBERS = (
    READING
    | BY_METHOD.keys()
    | frozenset("apply bind call catch clear copyWithin finally length set size then toSpliced".split())
)
"""Members of what holds things, and of functions and promises."""
