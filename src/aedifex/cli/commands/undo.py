"""aedifex undo"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.journal import journal


@click.command(short_help="Take the last change in place back.")
@click.argument("folder", type=click.Path(path_type=Path), default=Path(), metavar="[DIR]")
@click.option("--keep-copy", is_flag=True, help="Save files that were edited since, then go on.")
def command(folder: Path, keep_copy: bool) -> None:
    """Take back the last change that was made in place in a folder, byte for byte.

    Refused where a file was edited since, unless --keep-copy saves it beside.

    \b
    Example:
      aedifex undo
      aedifex undo harbour --keep-copy
    """
    with journal(folder) as history:
        undone = history.undo(keep_copies=keep_copy)
    for path in undone.kept:
        click.echo(f"kept       {path}")
    for changed in undone.entry.files:
        click.echo(f"{'removed' if changed.before is None else 'restored':<10} {changed.path}")
    click.echo(f"Taken back: {undone.entry.what}.")
