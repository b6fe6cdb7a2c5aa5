"""Typed texts that notice what a program asks of them, and lines into which what it asks for may still be put."""

from __future__ import annotations

import dis
import sys

from _aedifex_stage.hearing import Heard, place_of

WHOLE, NOWHERE = -1, -2
_UNPACKS = {dis.opmap["UNPACK_SEQUENCE"], dis.opmap["UNPACK_EX"]}


class Line:
    """A line that was typed. What is found to be wanted of it may still be put in, as if it had been typed."""

    def __init__(self, text: str, heard: Heard, make: object) -> None:
        self.text = text
        self.heard = heard
        self.make = make

    def number(self, part: int, place: str) -> int | None:
        """A number in the place of a part that is to be one; None where it shall be none."""
        made = self.make(place, is_number=True)
        if made is not None:
            self.put(part, made)
        return None if made is None else int(made)

    def more(self, part: int, place: str) -> str | None:
        """A part that is asked for and was not typed; None where it shall be missing."""
        made = self.make(place)
        if made is not None:
            self.put(part, made)
        return made

    def put(self, part: int, text: str) -> None:
        """Put a part in the place of another, or behind the last."""
        separator = self.heard.split.get("", " ")
        parts = self.text.split(None if separator == " " else separator) if part >= 0 else []
        self.text = separator.join([*parts[: max(part, 0)], text, *parts[part + 1 :]]) if parts else text


class Said(str):
    """A typed text, or a part of one. Copies and what is made of several are plain texts.

    `part` is the number of the part of the line that it stands for.
    """

    line: Line
    place: str
    part: int

    @classmethod
    def of(cls, line: Line, text: str, place: str = "", part: int = WHOLE) -> Said:
        """A text that was typed in a line, or made of that."""
        said = cls(text)
        said.line, said.place, said.part = line, place, part
        return said

    @property
    def heard(self) -> Heard:
        """What is asked of such lines."""
        return self.line.heard

    def told(self, text: str, place: str | None = None) -> Said:
        """Another text that stands for the same part, or for a part of it."""
        if place is None:
            return Said.of(self.line, text, self.place, self.part)
        return Said.of(self.line, text, place, NOWHERE)

    def __reduce_ex__(self, version: object) -> tuple:
        return str, (str(self),)

    def __eq__(self, other: object) -> bool:
        self.heard.text(self.place, other)
        return str.__eq__(self, other)

    def __ne__(self, other: object) -> bool:
        self.heard.text(self.place, other)
        return str.__ne__(self, other)

    def __hash__(self) -> int:
        self.heard.keys(self.place, sys._getframe(1))
        return str.__hash__(self)

    def __int__(self) -> int:
        return self.number(int)

    def __float__(self) -> float:
        return self.number(float)

    def number(self, kind: type) -> object:
        """The number that it says, or one that is put in its place."""
        self.heard.number(self.place)
        try:
            return kind(str(self))
        except ValueError:
            number = None if self.part == NOWHERE else self.line.number(self.part, self.place)
            if number is None:
                raise
            return kind(number)

    def isdigit(self) -> bool:
        self.heard.number(self.place)
        return str.isdigit(self)

    def isnumeric(self) -> bool:
        self.heard.number(self.place)
        return str.isnumeric(self)

    def isdecimal(self) -> bool:
        self.heard.number(self.place)
        return str.isdecimal(self)

    def startswith(self, prefix: object, *rest: object) -> bool:
        for each in prefix if isinstance(prefix, tuple) else (prefix,):
            self.heard.text(f"{self.place}^", each)
        return str.startswith(self, prefix, *rest)

    def __contains__(self, part: object) -> bool:
        self.heard.text(self.place, part)
        return str.__contains__(self, part)

    def __getitem__(self, index: object) -> str:
        found = str.__getitem__(self, index)
        if isinstance(index, slice):
            return self.told(found, f"{self.place}+{index.start}") if index.start else self.told(found)
        return self.told(found, f"{self.place}@{index}")

    def __iter__(self) -> object:
        return (self.told(character, f"{self.place}@*") for character in str.__iter__(self))

    def split(self, *how: object, **named: object) -> list:
        return self.parts(str.split(self, *how, **named), how[0] if how else named.get("sep"))

    def rsplit(self, *how: object, **named: object) -> list:
        return self.parts(str.rsplit(self, *how, **named), how[0] if how else named.get("sep"))

    def splitlines(self, *how: object) -> list:
        return [self.told(line) for line in str.splitlines(self, *how)]

    def partition(self, separator: str) -> tuple:
        head, found, tail = str.partition(self, separator)
        first, last = self.parts([head, tail], separator)
        return first, found, last

    def parts(self, texts: list, separator: str | None) -> list:
        """The parts of a line; lines of a text are lines."""
        if separator == "\n":
            return [self.told(line) for line in texts]
        self.heard.split[self.place] = separator or " "
        first = texts[0] if texts else ""
        parts = Parts()
        parts.line, parts.place, parts.first = self.line, self.place, first
        parts.is_whole, parts.begin = self.part == WHOLE, 0
        parts += [parts.said(text, number) for number, text in enumerate(texts)]
        return parts


def _alike(name: str) -> object:
    plain = getattr(str, name)

    def method(self: Said, *given: object) -> Said:
        return self.told(plain(self, *given))

    method.__name__ = name
    return method


for _name in "strip lstrip rstrip lower upper casefold title capitalize swapcase removesuffix replace".split():
    setattr(Said, _name, _alike(_name))


class Parts(list):
    """The parts of a line: how many the program asks for is how many there must be."""

    line: Line
    place: str
    first: str
    begin: int
    is_whole: bool

    def __reduce_ex__(self, version: object) -> tuple:
        return list, (list(self),)

    def said(self, text: str, number: int) -> Said:
        """One of the parts."""
        part = number if self.is_whole else NOWHERE
        return Said.of(self.line, text, place_of(self.place, self.first, number), part)

    def want(self, count: int) -> None:
        """So many parts are asked for; they may still be typed."""
        self.line.heard.count(f"{self.place}/{self.first}", self.begin + count)
        while self.is_whole and self.begin + len(self) > 0 and len(self) < count:
            number = self.begin + len(self)
            made = self.line.more(number, place_of(self.place, self.first, number))
            if made is None:
                break
            self.append(self.said(made, number))

    def __getitem__(self, index: object) -> object:
        if isinstance(index, slice):
            return self.behind(index)
        self.want(index + 1 if index >= 0 else -index)
        return list.__getitem__(self, index)

    def behind(self, index: slice) -> list:
        """Some of the parts; those behind the first few are still parts of the line."""
        found = list.__getitem__(self, index)
        if index.stop is not None or index.step is not None or not 0 < (index.start or 0) <= len(self):
            return found
        parts = Parts(found)
        parts.line, parts.place, parts.first = self.line, self.place, self.first
        parts.is_whole, parts.begin = self.is_whole, self.begin + index.start
        return parts

    def __iter__(self) -> object:
        frame = sys._getframe(1)
        word, given = frame.f_code.co_code[frame.f_lasti : frame.f_lasti + 2]
        if word in _UNPACKS:
            self.want(given)
        return list.__iter__(self)
