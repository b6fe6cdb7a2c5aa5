"""Making up what is typed while a program runs: at each question a line of what has been asked of such lines before."""

from __future__ import annotations

import builtins
import io
import json
import os
import random
import sys

from _aedifex_stage.hearing import Heard
from _aedifex_stage.line_maker import ODD, ODDLY, Maker
from _aedifex_stage.said import NOWHERE, WHOLE, Line, Said

_MOST_TRIES = 6
_MOST_LEAVING = 60
_MOST_ENDS = 40
_CARELESS = 0.3
_STREAKS, _MOST_AGAIN = 0.03, 12
_UNWANTED, _WILD = 0.15, 0.3


class Improviser:
    """Types up to so many lines, then those that end the program well, where any are known.

    Lines that ended a run are avoided, unless it is bold.
    """

    def __init__(self, orders: dict, folder: str) -> None:
        self.chance = random.Random(orders["seed"])
        self.orders = orders
        self.folder = os.path.join(os.path.realpath(folder), "")
        self.heard = {site: Heard(known) for site, known in orders["heard"].items()}
        self.typed: list[tuple[str, Line]] = []
        self.count = self.again = 0
        self.tried: dict[tuple[str, str, str], int] = {}

    def install(self) -> None:
        """Let what is read tell what becomes of it."""
        sys.stdin = sys.__stdin__ = Told(sys.stdin.detach(), "utf-8", "strict")
        sys.stdin.mode, sys.stdin.improviser = "r", self

        def ask(prompt: object = "") -> str:
            sys.stdout.write(str(prompt))
            sys.stdout.flush()
            line = sys.stdin.readline()
            if not line:
                raise EOFError("EOF when reading a line")
            return line.removesuffix("\n")

        builtins.input = ask

    def close(self, ending: dict, file: int) -> None:
        """Write down what was heard, and how the last line that was typed ended the run."""
        if self.typed and "stopped" not in ending and not ending["ran_out"]:
            site, line = self.typed[-1][0], self.typed[-1][1].text
            heard = self.heard_at(site)
            separator = heard.split.get("")
            if separator is not None and "error" not in ending:
                line = _first(line, separator)
            known = heard.ends if "error" in ending else heard.leaves
            if line not in known and len(known) < _MOST_ENDS:
                known.append(line)
        sites = {site: heard.as_json() for site, heard in self.heard.items()}
        found = {"sites": sites, "typed": [line.text for _, line in self.typed]}
        os.ftruncate(file, 0)
        os.pwrite(file, json.dumps(found).encode(), 0)

    def said(self, text: str) -> Said:
        """A text that was read: a line, or several, of which none can be changed any more."""
        line = self.typed[-1][1] if self.typed else Line("", Heard(), lambda *given, **named: None)
        return Said.of(line, text, part=NOWHERE if "\n" in text[:-1] else WHOLE)

    def heard_at(self, site: str) -> Heard:
        """What was heard of the lines that are typed at a place of the program."""
        return self.heard.setdefault(site, Heard())

    # -- what to type

    def made(self) -> bytes:
        """The next line, with its end; nothing where no more is typed."""
        frame, site = self.asking()
        count, most = self.count, self.orders["most"]
        knows_end = self.orders["leaves"] and any(heard.leaves for heard in self.heard.values())
        if count >= (most + _MOST_LEAVING if knows_end else most):
            return b""
        self.count += 1
        if count >= most and (leaves := self.heard_at(site).leaves):
            line = self.chance.choice(leaves)
        else:
            line = self.made_at(site, frame)
        return f"{line}\n".encode()

    def note(self, data: bytes) -> None:
        """A line is typed, or the end of all lines is reached."""
        if data:
            frame, site = self.asking()

            def make(place: str, *, is_number: bool = False) -> str | None:
                maker = Maker(self, site, frame)
                if not maker.is_careful and self.chance.random() < (_WILD if self.orders["is_bold"] else _UNWANTED):
                    return None
                return maker.whole_number() if is_number else maker.text(place)

            self.typed.append(
                (site, Line(data.decode("utf-8", "replace").removesuffix("\n"), self.heard_at(site), make))
            )

    def asking(self) -> tuple[object, str]:
        """The innermost frame of the program itself, and where it stands."""
        frame = sys._getframe(2)
        while frame is not None and not frame.f_code.co_filename.startswith(self.folder):
            frame = frame.f_back
        return frame, f"{frame.f_code.co_filename[len(self.folder) :]}:{frame.f_lineno}" if frame is not None else ""

    def made_at(self, site: str, frame: object) -> str:
        """A line for a place of the program, none of those that end it if that can be helped."""
        self.again -= 1
        if self.again > 0 and self.typed and self.typed[-1][0] == site:
            return self.typed[-1][1].text
        maker = Maker(self, site, frame)
        is_careless = self.orders["is_bold"] and self.chance.random() < _CARELESS
        for _ in range(_MOST_TRIES):
            line = self.chance.choice(ODD) if self.chance.random() < ODDLY / 2 else maker.text("")
            if is_careless or not (line in self.heard_at(site).ends or self.is_leaving(site, line)):
                break
        if self.chance.random() < _STREAKS:
            self.again = self.chance.randint(2, _MOST_AGAIN)
        return line

    def is_leaving(self, site: str, line: str) -> bool:
        """Whether a line, or its first word where lines are taken apart, has ended the program well."""
        heard = self.heard_at(site)
        separator, leaves = heard.split.get(""), heard.leaves
        return line in leaves or (separator is not None and _first(line, separator) in leaves)


def _first(line: str, separator: str) -> str:
    return next(iter(line.split(None if separator == " " else separator)), line)


class Told(io.TextIOWrapper):
    """Standard input, whose lines tell what becomes of them."""

    improviser: Improviser

    def readline(self, *most: int) -> str:
        return self.improviser.said(super().readline(*most))

    def read(self, *most: int) -> str:
        return self.improviser.said(super().read(*most))

    def readlines(self, *most: int) -> list[str]:
        return [self.improviser.said(line) for line in super().readlines(*most)]

    def __next__(self) -> str:
        return self.improviser.said(super().__next__())
