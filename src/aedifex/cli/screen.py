"""The terminal that results are shown on: at most 100 columns wide, readable without colour."""

from __future__ import annotations

import shutil
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from rich.console import Console

WIDEST = 100
"""Columns that everything fits."""


def screen() -> Console:
    """A console for standard output."""
    from rich.console import Console

    class Screen(Console):
        def on_broken_pipe(self) -> None:
            raise BrokenPipeError  # whoever reads has had enough: that is no error of ours

    width = min(shutil.get_terminal_size((WIDEST, 24)).columns, WIDEST) if sys.stdout.isatty() else WIDEST
    return Screen(width=width, highlight=False, soft_wrap=False)


@contextmanager
def progress() -> Iterator[Callable[[str], None]]:
    """Something to tell how far long work has come: shown on a terminal, silent elsewhere."""
    if not sys.stderr.isatty():
        yield lambda text: None
        return
    from rich.console import Console

    with Console(stderr=True).status("") as status:
        yield status.update
