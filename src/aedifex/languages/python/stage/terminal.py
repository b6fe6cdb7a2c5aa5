"""A stand-in for curses: a screen of 24 lines and 80 columns, keys from the scenario, lines noted as they change.

A turn is one question for a key. Where nobody is to press any more, a program that waits for a key is stopped.
"""

from __future__ import annotations

import _curses as real
import types

from _aedifex_stage.clock import clock
from _aedifex_stage.tk_names import NotCoveredError

_LINES, _COLUMNS = 24, 80
_KEYS = {"Return": 10, "Enter": 10, "space": 32, "Escape": 27, "Tab": 9, "BackSpace": 127, "Delete": 330}
_NOTHING = frozenset(
    """start_color use_default_colors curs_set noecho echo cbreak nocbreak raw noraw nl nonl keypad def_prog_mode
    reset_prog_mode def_shell_mode reset_shell_mode flushinp mousemask mouseinterval savetty resetty qiflush noqiflush
    intrflush meta setsyx typeahead ungetmouse""".split()
)
_CONSTANTS = ("A_", "COLOR_", "KEY_", "BUTTON", "ALL_MOUSE", "REPORT_")
_FRAME = "HLINE VLINE ULCORNER URCORNER LLCORNER LRCORNER PLUS LTEE RTEE TTEE BTEE".split()
_QUIET_METHODS = frozenset(
    "keypad idlok idcok immedok leaveok scrollok clearok touchwin touchline untouchwin syncok syncup cursyncup".split()
)


class Screen:
    """What all windows of a program draw on."""

    def __init__(self, world: object) -> None:
        self.world = world
        self.cells = [[(" ", 0)] * _COLUMNS for _ in range(_LINES)]
        self.shown = [list(row) for row in self.cells]
        self.keys: list[int] = []

    def refresh(self) -> None:
        """Note each line that has changed since the last time."""
        for number, row in enumerate(self.cells):
            if row != self.shown[number]:
                text = "".join(char for char, _ in row).rstrip()
                marks = sorted({attribute for char, attribute in row if attribute})
                self.world.trace.add("draw", f"line {number}: {text!r}{f' {marks}' if marks else ''}")
        self.shown = [list(row) for row in self.cells]

    def key(self, wait: float | None) -> int:
        """The next key; -1 where none comes within so many seconds, None for any number of them."""
        self.refresh()
        while not self.keys:
            if self.world.is_over:
                self.world.stop()
            for event in self.world.next_turn():
                self.happen(event)
            if not self.keys and wait is not None:
                clock.wait(wait)
                return -1
            if not self.keys and not any(turn > self.world.turn for turn in self.world.events):
                self.world.end("the scenario ends while the program waits for a key")
        return self.keys.pop(0)

    def happen(self, event: dict) -> None:
        """A key of the scenario."""
        if "type" in event:
            self.keys += map(ord, event["type"])
        for what in ("key", "press"):
            if what in event:
                self.keys.append(code_of(event[what]))


def code_of(name: str) -> int:
    """The number of a key."""
    return ord(name) if len(name) == 1 else _KEYS.get(name) or getattr(real, f"KEY_{name.upper()}", 0) or ord(name[0])


class Window:
    """A part of the screen."""

    def __init__(self, screen: Screen, lines: int, columns: int, top: int, left: int) -> None:
        self.screen, self.top, self.left = screen, top, left
        self.lines, self.columns = lines or _LINES - top, columns or _COLUMNS - left
        self.y = self.x = self.attribute = 0
        self.wait: float | None = None

    def __getattr__(self, name: str) -> object:
        if name in _QUIET_METHODS:
            return lambda *given: None
        if name.startswith("__"):
            raise AttributeError(name)
        raise NotCoveredError(f"the window's {name} of curses")

    # -- where

    def getmaxyx(self) -> tuple:
        return self.lines, self.columns

    def getbegyx(self) -> tuple:
        return self.top, self.left

    def getyx(self) -> tuple:
        return self.y, self.x

    def move(self, y: int, x: int) -> None:
        if not (0 <= y < self.lines and 0 <= x < self.columns):
            raise real.error("wmove() returned ERR")
        self.y, self.x = y, x

    def subwin(self, *given: int) -> Window:
        size, place = (given[:2], given[2:]) if len(given) == 4 else ((0, 0), given)
        return Window(self.screen, *(size if any(size) else self._left_over(place)), *place)

    def _left_over(self, place: tuple) -> tuple:
        return self.top + self.lines - place[0], self.left + self.columns - place[1]

    def derwin(self, *given: int) -> Window:
        size, place = (given[:2], given[2:]) if len(given) == 4 else ((0, 0), given)
        return self.subwin(*size, place[0] + self.top, place[1] + self.left)

    subpad = derwin

    # -- drawing

    def _placed(self, given: tuple) -> tuple:
        """What is drawn, after going where the first two arguments say, if they do."""
        if len(given) > 1 and isinstance(given[0], int) and isinstance(given[1], int):
            self.move(given[0], given[1])
            return given[2:]
        return given

    def addstr(self, *given: object) -> None:
        text, *attributes = self._placed(given)
        self._draw(str(text), attributes[0] if attributes else self.attribute)

    def addnstr(self, *given: object) -> None:
        text, most, *attributes = self._placed(given)
        self._draw(str(text)[:most], attributes[0] if attributes else self.attribute)

    def addch(self, *given: object) -> None:
        char, *attributes = self._placed(given)
        number = ord(char) if isinstance(char, str) else int(char)
        self._draw(chr(number & 0x1FFFFF), attributes[0] if attributes else self.attribute)

    def insstr(self, *given: object) -> None:
        y, x = self.y, self.x
        self.addstr(*given)
        self.y, self.x = y, x

    insch = insstr

    def _draw(self, text: str, attribute: int) -> None:
        for char in text:
            if char == "\n":
                self.clrtoeol()
                self.y, self.x = self.y + 1, 0
            else:
                self._put(self.y, self.x, char, attribute)
                self.x += 1
            if self.x >= self.columns:
                self.y, self.x = self.y + 1, 0
            if self.y >= self.lines:
                self.y, self.x = self.lines - 1, self.columns - 1
                raise real.error("addwstr() returned ERR")

    def _put(self, y: int, x: int, char: str, attribute: int) -> None:
        at_y, at_x = self.top + y, self.left + x
        if 0 <= at_y < _LINES and 0 <= at_x < _COLUMNS:
            self.screen.cells[at_y][at_x] = (char, attribute)

    def erase(self) -> None:
        for y in range(self.lines):
            for x in range(self.columns):
                self._put(y, x, " ", 0)
        self.y = self.x = 0

    clear = erase

    def clrtoeol(self) -> None:
        for x in range(self.x, self.columns):
            self._put(self.y, x, " ", 0)

    def clrtobot(self) -> None:
        self.clrtoeol()
        for y in range(self.y + 1, self.lines):
            for x in range(self.columns):
                self._put(y, x, " ", 0)

    def hline(self, *given: object) -> None:
        char, length, *_ = self._placed(given)
        for step in range(length):
            self._put(self.y, self.x + step, _char(char), self.attribute)

    def vline(self, *given: object) -> None:
        char, length, *_ = self._placed(given)
        for step in range(length):
            self._put(self.y + step, self.x, _char(char), self.attribute)

    def border(self, *given: object) -> None:
        for x in range(self.columns):
            for y in (0, self.lines - 1):
                self._put(y, x, "-", self.attribute)
        for y in range(self.lines):
            for x in (0, self.columns - 1):
                self._put(y, x, "|" if 0 < y < self.lines - 1 else "+", self.attribute)

    box = border

    def inch(self, *given: int) -> int:
        self._placed((*given, None))
        char, attribute = self.screen.cells[self.top + self.y][self.left + self.x]
        return ord(char) | attribute

    def attron(self, attribute: int) -> None:
        self.attribute |= attribute

    def attroff(self, attribute: int) -> None:
        self.attribute &= ~attribute

    def attrset(self, attribute: int) -> None:
        self.attribute = attribute

    def bkgd(self, *given: object) -> None:
        self.screen.world.trace.add("draw", f"background {given}")

    bkgdset = bkgd

    def chgat(self, *given: int) -> None:
        *place, attribute = given
        if len(place) > 1:
            self.move(*place[:2])
        count = place[-1] if len(place) in (1, 3) else -1
        for x in range(self.x, self.columns if count < 0 else min(self.x + count, self.columns)):
            char, _ = self.screen.cells[self.top + self.y][self.left + x]
            self._put(self.y, x, char, attribute)

    def refresh(self, *given: int) -> None:
        self.screen.refresh()

    def noutrefresh(self, *given: int) -> None:
        """It is shown with all others."""

    # -- keys

    def nodelay(self, flag: bool) -> None:
        self.wait = 0.0 if flag else None

    def timeout(self, milliseconds: int) -> None:
        self.wait = None if milliseconds < 0 else milliseconds / 1000

    def getch(self, *place: int) -> int:
        return self.screen.key(self.wait)

    def getkey(self, *place: int) -> str:
        code = self.screen.key(self.wait)
        if code < 0:
            raise real.error("no input")
        return chr(code) if code < 256 else real.keyname(code).decode()

    def get_wch(self, *place: int) -> object:
        code = self.screen.key(self.wait)
        if code < 0:
            raise real.error("no input")
        return chr(code) if code < 256 else code

    def getstr(self, *given: int) -> bytes:
        found = b""
        while (code := self.screen.key(None)) != 10:
            found += bytes([code & 0xFF])
        return found


def _char(given: object) -> str:
    return given if isinstance(given, str) else chr(int(given) & 0x1FFFFF)


def make(name: str, world: object) -> types.ModuleType:
    """The module, with the constants of the real one.

    Raises:
        NotCoveredError: a part of it is asked for that has no stand-in.
    """
    if name != "curses":
        raise NotCoveredError(name)
    module = types.ModuleType(name)
    for each in dir(real):
        if each.startswith(_CONSTANTS) or each in ("error", "ERR", "OK"):
            setattr(module, each, getattr(real, each))
    for each in _FRAME:
        setattr(module, f"ACS_{each}", ord({"VLINE": "|", "HLINE": "-"}.get(each, "+")))
    for each, char in (("DIAMOND", "*"), ("CKBOARD", "#"), ("BLOCK", "#"), ("BULLET", "o"), ("DEGREE", "'")):
        setattr(module, f"ACS_{each}", ord(char))

    def missing(each: str) -> object:
        if hasattr(real, each):
            raise NotCoveredError(f"{each} of curses")
        raise AttributeError(f"module 'curses' has no attribute {each!r}")

    module.__getattr__ = missing
    for each in _NOTHING:
        setattr(module, each, lambda *given: None)
    screen = Screen(world)
    whole = Window(screen, _LINES, _COLUMNS, 0, 0)

    def initscr() -> Window:
        module.LINES, module.COLS, module.COLORS, module.COLOR_PAIRS = _LINES, _COLUMNS, 256, 256
        return whole

    def wrapper(call: object, *given: object, **named: object) -> object:
        try:
            return call(initscr(), *given, **named)
        finally:
            module.endwin()

    def note(what: str) -> object:
        return lambda *given: world.trace.add("draw", f"{what}{given}" if given else what)

    def halfdelay(tenths: int) -> None:
        whole.wait = tenths / 10

    def napms(milliseconds: int) -> None:
        clock.wait(milliseconds / 1000)
        world.slept()

    module.initscr, module.wrapper, module.halfdelay, module.napms = initscr, wrapper, halfdelay, napms
    module.newwin = lambda lines, columns, top=0, left=0: Window(screen, lines, columns, top, left)
    module.newpad = lambda lines, columns: Window(screen, lines, columns, 0, 0)
    module.doupdate, module.endwin = screen.refresh, screen.refresh
    module.beep, module.flash, module.init_pair, module.init_color = map(note, ("beep", "flash", "pair", "color"))
    module.color_pair = lambda number: number << 8
    module.pair_number = lambda attribute: (attribute >> 8) & 0xFF
    module.has_colors = module.can_change_color = lambda: True
    module.isendwin = lambda: False
    module.keyname = real.keyname
    module.unctrl = real.unctrl
    module.window = Window
    return module
