"""What programs in a terminal read: typed lines and single keys."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(
    takes_input=words("input readline getch getkey"),
    reads_lines=words("input stdin"),
    aloof=words(
        "addstr addnstr addch attron attroff attrset color_pair erase clear clrtoeol refresh noutrefresh move hline "
        "vline border box"
    ),
    hears_keys=words("is_pressed add_hotkey"),
)
