"""A scenario: the scripted outside world of one run, and its file (`*.scenario.toml`)."""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from aedifex.source.content import text_of, toml_of
from aedifex.source.errors import DesignError, Place

FORMAT = 1
TURNS = 200
_KEYS = ("format", "seed", "arguments", "lines", "turns", "event")
_WORDS = ("key", "press", "let_go", "type", "choose", "fill")
_PLACES = ("click", "drag", "release")
_KINDS = (*_WORDS, *_PLACES, "touch", "request")
_SENT = ("form", "json", "headers", "body", "files")
_EVENT = ("turn", *_KINDS, "button", "field", *_SENT)
_REQUEST = re.compile(r"[A-Z]+ /\S*")


@dataclass(frozen=True)
class Event:
    """One thing that happens in a turn, counted from 1.

    `what` is `key` (pressed and let go at once), `press`, `let_go`, `type` (a text, key by key), `choose` (what shows a
    text: a button, an entry of a menu, a line of a list), `fill` (a text typed into a field), `touch` (a click on a
    drawn thing that listens), `click`, `drag` or `release`; `value` the key's name, the text, the number of the thing,
    or a place in the program's own coordinates; `button` the mouse button, `field` the number of the field. Numbers of
    things and fields are counted from 1.

    `request` is one to an application that answers such: `GET /tide?day=2`. What is `sent` with it are its form or its
    data in JSON, its headers, its body, and its files, each with its `name` and its `text`, by the field it is in.
    """

    turn: int
    what: str
    value: str | int | tuple[float, float]
    button: int = 1
    sent: Mapping[str, Any] = field(default_factory=dict)
    field: int = 1

    def as_plan(self) -> dict[str, object]:
        """For the stage."""
        value = list(self.value) if isinstance(self.value, tuple) else self.value
        plan: dict[str, object] = {"turn": self.turn, self.what: value}
        if self.what in _PLACES:
            plan["button"] = self.button
        if self.what == "fill":
            plan["field"] = self.field
        return {**plan, **self.sent}


@dataclass(frozen=True)
class Scenario:
    """What the outside world does in one run.

    `arguments` stand on the command line, `lines` are typed on standard input, `seed` sets every random generator;
    `events` reach the windows, which are closed after so many `turns`: rounds of a main loop, timers or events.
    """

    name: str = "empty"
    seed: int = 0
    arguments: tuple[str, ...] = ()
    lines: tuple[str, ...] = ()
    turns: int = TURNS
    events: tuple[Event, ...] = ()


def read(path: Path) -> Scenario:
    """Read a scenario file.

    Raises:
        UnreadableError: there is no such file, or it is not TOML.
        DesignError: it says something that no scenario can say.
    """
    return _Reader(path).scenario(toml_of(path, text_of(path)))


def write(scenario: Scenario) -> str:
    """The text of a scenario file."""
    import tomlkit

    document = tomlkit.document()
    document["format"] = FORMAT
    document["seed"] = scenario.seed
    if scenario.arguments:
        document["arguments"] = list(scenario.arguments)
    if scenario.lines:
        lines = tomlkit.array()
        lines.extend(scenario.lines)
        document["lines"] = lines.multiline(len(scenario.lines) > 8)
    document["turns"] = scenario.turns
    events = tomlkit.aot()
    for event in scenario.events:
        events.append(tomlkit.item(event.as_plan()))
    if scenario.events:
        document["event"] = events
    return tomlkit.dumps(document)


class _Reader:
    """Checks what a scenario file says."""

    def __init__(self, path: Path) -> None:
        self.path = path

    def scenario(self, document: Mapping[str, Any]) -> Scenario:
        self.keys(document, _KEYS, "a scenario")
        if document.get("format") != FORMAT:
            raise self.error(f"needs format = {FORMAT}", f"Write format = {FORMAT} at the top.")
        events = document.get("event", [])
        if not isinstance(events, list) or not all(isinstance(event, dict) for event in events):
            raise self.error("events must be written as [[event]]", "Double the brackets.")
        return Scenario(
            self.path.name.removesuffix(".toml").removesuffix(".scenario"),
            self.number(document, "seed", 0),
            self.texts(document, "arguments"),
            self.texts(document, "lines"),
            self.number(document, "turns", TURNS),
            tuple(self.event(event) for event in events),
        )

    def event(self, event: Mapping[str, Any]) -> Event:
        self.keys(event, _EVENT, "an event")
        turn = self.number(event, "turn", 0)
        if turn < 1:
            raise self.error("an event needs a `turn`, counted from 1", "Write turn = 5, say.")
        found = [word for word in _KINDS if word in event]
        if len(found) != 1:
            raise self.error(f"the event of turn {turn} must do one thing", f"Use one of: {', '.join(_KINDS)}.")
        what, value = found[0], event[found[0]]
        if what in _WORDS:
            if not isinstance(value, str):
                raise self.error(f"`{what}` needs a text in turn {turn}", f'Write {what} = "Left", say.')
            return Event(turn, what, value, field=self.number(event, "field", 1))
        if what == "request":
            return self.request(turn, value, {key: event[key] for key in _SENT if key in event})
        if what == "touch":
            return Event(turn, what, self.number(event, what, 1))
        is_place = isinstance(value, list) and len(value) == 2 and all(isinstance(c, int | float) for c in value)
        if not is_place:
            raise self.error(f"`{what}` needs a place in turn {turn}", f"Write {what} = [40, -12], say.")
        return Event(turn, what, (value[0], value[1]), self.number(event, "button", 1))

    def request(self, turn: int, value: object, sent: Mapping[str, Any]) -> Event:
        if not isinstance(value, str) or not _REQUEST.fullmatch(value):
            raise self.error(f"`request` needs a method and a path in turn {turn}", 'Write request = "GET /tide", say.')
        for key in ("form", "headers"):
            table = sent.get(key, {})
            if not isinstance(table, dict) or not all(isinstance(text, str) for text in table.values()):
                raise self.error(
                    f"`{key}` needs names and texts in turn {turn}", f'Write {key} = {{ day = "2" }}, say.'
                )
        files = sent.get("files", {})
        if not isinstance(files, dict) or not all(map(_is_file, files.values())):
            advice = 'Write files = { plan = { name = "quay.txt", text = "…" } }, say.'
            raise self.error(f"`files` needs a name and a text for each file in turn {turn}", advice)
        if not isinstance(sent.get("body", ""), str):
            raise self.error(f"`body` needs a text in turn {turn}", 'Write body = "day=2", say.')
        return Event(turn, "request", value, sent=sent)

    def keys(self, table: Mapping[str, Any], known: tuple[str, ...], what: str) -> None:
        for key in table:
            if key not in known:
                raise self.error(f"{what} has no key `{key}`", f"Known here: {', '.join(known)}.")

    def number(self, table: Mapping[str, Any], key: str, otherwise: int) -> int:
        value = table.get(key, otherwise)
        if not isinstance(value, int) or isinstance(value, bool) or value < 0:
            raise self.error(f"`{key}` must be a whole number", f"Write {key} = 7, say.")
        return value

    def texts(self, table: Mapping[str, Any], key: str) -> tuple[str, ...]:
        value = table.get(key, [])
        if not isinstance(value, list) or not all(isinstance(item, str) for item in value):
            raise self.error(f"`{key}` must be a list of texts", f'Write {key} = ["…", "…"].')
        return tuple(value)

    def error(self, reason: str, advice: str) -> DesignError:
        return DesignError(reason, Place(self.path), advice)


def _is_file(value: object) -> bool:
    return (
        isinstance(value, dict) and set(value) == {"name", "text"} and all(isinstance(v, str) for v in value.values())
    )
