"""What a script listens to."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class Inputs:
    """The words that a script compares typed text with, the keys and clicks that it handles, the arguments it knows.

    `takes_lines` and `takes_arguments` say whether it reads typed lines and the command line at all; `numbers` are the
    whole numbers written in it, near which something may lie that can be clicked.
    """

    takes_lines: bool = False
    words: tuple[str, ...] = ()
    keys: tuple[str, ...] = ()
    takes_clicks: bool = False
    takes_arguments: bool = False
    arguments: tuple[str, ...] = ()
    numbers: tuple[int, ...] = ()

    @property
    def is_empty(self) -> bool:
        """Whether nothing from outside reaches the script."""
        return not (self.takes_lines or self.keys or self.takes_clicks or self.takes_arguments)
