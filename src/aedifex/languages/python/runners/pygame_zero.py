"""Small games whose functions are called by their names."""

from __future__ import annotations

from aedifex.languages.python.runners.known import KnownRunner, words

RUNNER = KnownRunner(
    name="the game's runner",
    modules=words("pgzrun pgzero"),
    injected=words("screen Actor keyboard music sounds animate clock images tone"),
    hooks=words(
        "draw update on_mouse_down on_mouse_up on_mouse_move on_key_down on_key_up on_music_end WIDTH HEIGHT TITLE ICON"
    ),
)
