"""What a program asks of the lines that are typed: what it compares them with, how it takes them apart.

A *place* is a part of a line: `""` the whole of it, `"/0"` its first word, `"/buy 2"` the third word of a line that
begins with `buy`, `"@1"` its second character, `"@*"` each of them, `"+3"` what stands behind its third.
"""

from __future__ import annotations

_LONGEST = 40
_MOST_TEXTS = 60
_LOOKS = 20


class Heard:
    """What has been asked of the lines that are typed at one place of a program.

    `ends` are those that ended a run with an error, `leaves` those that ended it well.
    """

    def __init__(self, known: dict | None = None) -> None:
        known = known or {}
        self.texts: dict[str, list[str]] = known.get("texts", {})
        self.numbers: list[str] = known.get("numbers", [])
        self.split: dict[str, str] = known.get("split", {})
        self.least: dict[str, int] = known.get("least", {})
        self.ends: list[str] = known.get("ends", [])
        self.leaves: list[str] = known.get("leaves", [])
        self.looks: dict[tuple, int] = {}

    def as_json(self) -> dict:
        """What is kept for other runs."""
        return {name: value for name, value in vars(self).items() if name != "looks"}

    def text(self, place: str, text: object) -> None:
        """A part of a line is compared with a text."""
        if isinstance(text, str) and len(text) <= _LONGEST and text.isprintable():
            known = self.texts.setdefault(place, [])
            if text not in known and len(known) < _MOST_TEXTS:
                known.append(str(text))

    def number(self, place: str) -> None:
        """A part of a line is to be a number."""
        if place not in self.numbers:
            self.numbers.append(place)

    def count(self, place: str, count: int) -> None:
        """A line must have so many parts."""
        self.least[place] = max(self.least.get(place, 0), count)

    def keys(self, place: str, frame: object) -> None:
        """A part of a line is looked up in something that the code knows by name."""
        look = place, frame.f_code, frame.f_lineno
        self.looks[look] = self.looks.get(look, 0) + 1
        if self.looks[look] <= _LOOKS:
            for text in _looked_up_in(frame):
                self.text(place, text)


def _looked_up_in(frame: object) -> list[str]:
    code = frame.f_code
    known: list = [frame.f_globals.get(name) for name in code.co_names]
    known += frame.f_locals.values()
    known += [vars(owner).get(name) for owner in _owners(frame) for name in code.co_names]
    known += code.co_consts
    tables = [each for each in known if isinstance(each, (dict, set, frozenset))]
    return [key for table in tables for key in [*table][:_MOST_TEXTS] if isinstance(key, str)]


def _owners(frame: object) -> list[object]:
    owner = frame.f_locals.get("self")
    return [owner] if hasattr(owner, "__dict__") else []


def place_of(place: str, first: str, number: int) -> str:
    """The place of a part of a line: what follows is another thing after each first word."""
    return f"{place}/{first} {number}" if number else f"{place}/0"
