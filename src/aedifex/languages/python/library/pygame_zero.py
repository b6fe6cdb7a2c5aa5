"""Games for Pygame Zero, whose functions are called by their names."""

from __future__ import annotations

from aedifex.languages.python.library.known import KnownLibrary, words

LIBRARY = KnownLibrary(
    click_names=words("on_mouse_down on_mouse_up on_mouse_move"),
    key_tables=words("keys keyboard"),
)
