"""What a handler of requests could be called that has no name: by what is asked of it, and of what."""

from __future__ import annotations

import re
from collections.abc import Sequence

from aedifex.program.analysis.values import is_given_container
from aedifex.program.model.module import Module
from aedifex.program.structure.state import is_state
from aedifex.survey.words import is_plural, singular, words_of

_DEEDS = {"post": "add", "put": "change", "patch": "change", "delete": "remove"}
_BEFORE, _ERROR, _HOME = ["before", "each"], ["handle", "error"], ["show", "home"]
_MISSING, _OTHERS = ["handle", "not", "found"], ["answer", "others"]
_GOES_ON, _TAKES_ERROR = 3, 4
_AT_ONCE = frozenset({"details", "news", "settings", "statistics", "stats"})
"""What has the form of several things, and is shown as one."""
_NOT_FOUND = "404"
_FAR = frozenset("document window body self process global this".split())
_CLOCKS = {"setInterval": ["tick"], "createServer": ["answer"]}
_DOINGS = frozenset(
    "login logout signin signout signup register unregister subscribe unsubscribe reset restart start stop pause "
    "resume undo redo search guess play move upload import export".split()
)
"""What the end of a path is called that says itself what is done, together with `log in`, `log out` and `sign up`."""
_MOST = 3
_QUOTED = re.compile(r"""["'`][#.]?([\w-]+)["'`]""")
_EVENTS = {"keydown": ["key", "down"], "keyup": ["key", "up"], "keypress": ["key", "press"]}
_MOUSE = re.compile(r"(mouse|touch|pointer|drag)(\w+)")
_STEP = re.compile(r"[^/?#]+")


def kept_things(module: Module) -> list[str]:
    """The words of the first variable that has a list or table of things and is called so; none where there is none."""
    kept = (symbol for symbol in module.scope.symbols.values() if is_state(symbol) and is_given_container(symbol))
    called = (words_of(symbol.name) for symbol in kept if not symbol.name.isupper())
    return next((words for words in called if words and is_plural(words[-1])), [])


def handler_words(
    verb: str, path: str, parameters: Sequence[str], home: Sequence[str] = (), text: str = ""
) -> list[str]:
    """The words of a name: `get` of `/berths` lists berths, of `/berths/:id` it shows a berth, `post` adds one.

    `home` are words for what all paths are about, where that is told elsewhere; `text` is the handler as it is written.
    """
    steps = _STEP.findall(path)
    named = [words_of(step) for step in steps if step[0] not in ":{<*"]
    own = [words for words in named if words]
    things = [list(home), *own] if home else own
    if verb in ("use", "all") or verb not in ("get", "head", *_DEEDS):
        if len(parameters) == _TAKES_ERROR:
            return _ERROR
        if text and len(parameters) < _GOES_ON and not own:
            return _MISSING if _NOT_FOUND in text else _OTHERS
        return ["before", *own[-1]] if own else _BEFORE
    if not things:
        return _HOME if verb == "get" else [_DEEDS.get(verb, "show"), "home"]
    last, is_one = things[-1], bool(steps) and steps[-1][0] in ":{<*"
    if is_one:
        return [_DEEDS.get(verb, "show"), *last[:-1], singular(last[-1])]
    if verb == "post" and "".join(last) in _DOINGS:
        return last
    if len(things) > 1 and len(steps) > len(named) and not is_plural(last[-1]):  # `/berths/:id/hire`
        owner = things[-2]
        return [*last, *owner[:-1], singular(owner[-1])]
    if verb in ("get", "head"):
        return ["list" if is_plural(last[-1]) and last[-1] not in _AT_ONCE else "show", *last]
    return [_DEEDS[verb], *last[:-1], singular(last[-1])]


def event_words(how: str, event: str, owner: str) -> list[str]:
    """The words of a name: what is told to `addButton` by `addEventListener("click", …)` is `on add button click`."""
    if how in _CLOCKS and not event:
        return _CLOCKS[how]
    parted = _MOUSE.fullmatch(event)
    happens = _EVENTS.get(event) or ([parted[1], parted[2]] if parted is not None else words_of(event)) or ["event"]
    quoted = _QUOTED.findall(owner)
    named = quoted[-1] if quoted else owner.strip().rpartition(".")[2]
    words = words_of(named) if re.fullmatch(r"[\w$-]+", named) and named not in _FAR else []
    return ["on", *words[-_MOST:], *happens]
