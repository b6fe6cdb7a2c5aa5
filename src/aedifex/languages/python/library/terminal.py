"""What programs in a terminal read: typed lines and single keys."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(
    takes_input=words("input readline getch getkey"),
    reads_lines=words("input stdin"),
    aloof=words("addstr addnstr addch erase clear clrtoeol refresh noutrefresh hline vline border box"),
    unseen=words("attron attroff attrset color_pair move"),
    hears_keys=words("is_pressed add_hotkey"),
)
