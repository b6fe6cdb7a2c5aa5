"""aedifex redo"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.journal import journal, tell_turn


@click.command(short_help="Do again what was taken back last.")
@click.argument("folder", type=click.Path(path_type=Path), default=Path(), metavar="[DIR]")
@click.option("--keep-copy", is_flag=True, help="Save files that were edited since, then go on.")
def command(folder: Path, keep_copy: bool) -> None:
    """Do again what `aedifex undo` took back last in a folder, byte for byte.

    Only what was taken back since the last change can be done again.

    \b
    Example:
      aedifex redo
      aedifex redo harbour
    """
    with journal(folder) as history:
        outcome = history.redo(keep_copies=keep_copy)
    tell_turn(outcome, folder, "undo")
