"""What programs hold of libraries and call again and again, and words for that."""

from __future__ import annotations

from aedifex.program.dialect.library import Resource, SessionFacts

_WINDOW = {
    "addstr": "write",
    "addch": "put",
    "getch": "read_key",
    "getkey": "read_key_name",
    "getstr": "read_text",
    "refresh": "show",
    "erase": "wipe",
    "clear": "clear",
    "move": "go_to",
    "nodelay": "set_waiting",
    "timeout": "set_timeout",
    "keypad": "set_keypad",
    "getmaxyx": "size",
    "attron": "turn_on",
    "attroff": "turn_off",
    "border": "draw_border",
    "box": "draw_box",
    "hline": "draw_row",
    "vline": "draw_column",
}
_PAGE = {"clear": "begin_page", "erase": "begin_page"}
_CONNECTION = {
    "execute": "run",
    "executemany": "run_all",
    "executescript": "run_script",
    "commit": "save",
    "rollback": "take_back",
    "close": "close",
    "cursor": "cursor",
    "fetchall": "rows",
    "fetchmany": "some_rows",
    "fetchone": "row",
}

RESOURCES = {
    "curses.wrapper": Resource(("screen",), "window", _WINDOW, library="curses", is_handed=True, begins=_PAGE),
    "curses.initscr": Resource(("screen",), "window", _WINDOW, library="curses", begins=_PAGE),
    "sqlite3.connect": Resource(("database",), "connection", _CONNECTION, library="sqlite3"),
}
"""By what makes it, or hands it to the routine that it is given."""

SESSIONS = {
    "sqlite3.connect": SessionFacts(
        words=("database",),
        field="file",
        asks="execute",
        closes="close",
        parameters=("query", "values=()"),
        arguments=("query", "values"),
        names={"lastrowid": "add", "fetchall": "rows", "fetchone": "row", "commit": "run", "execute": "run"},
    ),
}
"""By what opens one."""
