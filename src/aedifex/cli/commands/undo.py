"""aedifex undo"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.journal import journal, tell_turn


@click.command(short_help="Take the last change in place back.")
@click.argument("folder", type=click.Path(path_type=Path), default=Path(), metavar="[DIR]")
@click.option("--keep-copy", is_flag=True, help="Save files that were edited since, then go on.")
def command(folder: Path, keep_copy: bool) -> None:
    """Take back the last change that was made in place in a folder, byte for byte.

    Refused where a file was edited since, unless --keep-copy saves it beside. `aedifex redo` does it again.

    \b
    Example:
      aedifex undo
      aedifex undo harbour --keep-copy
    """
    with journal(folder) as history:
        outcome = history.undo(keep_copies=keep_copy)
    tell_turn(outcome, folder, "redo")
