"""What a script listens to."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field

_WHO = re.compile(r"auth|token|key|session", re.IGNORECASE)
_BEARER = "Bearer"


@dataclass(frozen=True)
class Option:
    """An argument that a script declares: its names on the command line, none where its place tells it.

    `values` are some that it may have; none for one that is only given or not. `is_needed` says that it must be given.
    """

    names: tuple[str, ...]
    values: tuple[str, ...] = ()
    is_needed: bool = False


@dataclass(frozen=True)
class Request:
    """A kind of request that a script answers: the methods, the path with `{name}` for what varies, and what it reads.

    `numbers` are those of the varying parts that must be whole numbers; `form`, `query` and `json` name the values that
    are looked for in the form, behind the path and in the data sent, `files` the files that are sent along; `has_body`
    tells that it reads what else is sent. `headers` are those by which it may know who asks, each with what stands
    there before the sign that was given for that.
    """

    methods: tuple[str, ...]
    path: str
    numbers: tuple[int, ...] = ()
    form: tuple[str, ...] = ()
    query: tuple[str, ...] = ()
    json: tuple[str, ...] = ()
    has_body: bool = False
    files: tuple[str, ...] = ()
    headers: tuple[tuple[str, str], ...] = ()


@dataclass(frozen=True)
class Inputs:
    """The words that a script compares typed text with, the keys and clicks that it handles, the arguments it knows.

    `choices` are other short texts that stand in its lists and tables, from which something may be chosen.
    `takes_lines` and `takes_arguments` say whether it reads typed lines and the command line at all; `numbers` are the
    whole numbers written in it, near which something may lie that can be clicked. `options` are the arguments that it
    declares; `widgets` are the texts on what can be pressed in its windows, `fields` counts what can be typed into;
    `requests` are those that it answers, and `values` the texts that it expects under some names, and under "" those
    that it has in its lists.
    """

    takes_lines: bool = False
    words: tuple[str, ...] = ()
    keys: tuple[str, ...] = ()
    takes_clicks: bool = False
    takes_arguments: bool = False
    arguments: tuple[str, ...] = ()
    numbers: tuple[int, ...] = ()
    choices: tuple[str, ...] = ()
    options: tuple[Option, ...] = ()
    widgets: tuple[str, ...] = ()
    fields: int = 0
    requests: tuple[Request, ...] = ()
    values: Mapping[str, tuple[str, ...]] = field(default_factory=dict)

    @property
    def is_empty(self) -> bool:
        """Whether nothing from outside reaches the script."""
        heard = (self.takes_lines, self.keys, self.takes_clicks, self.takes_arguments, self.widgets, self.fields)
        return not any(heard) and not self.requests


def headers_that_tell_who(names: Iterable[str], text: str) -> tuple[tuple[str, str], ...]:
    """Of the headers that a script with a text reads those by which it may know who asks, as `Request` has them."""
    before = f"{_BEARER} " if _BEARER in text else ""
    known = dict.fromkeys(name for name in names if _WHO.search(name))
    return tuple((name, before if name.lower() == "authorization" else "") for name in known)
