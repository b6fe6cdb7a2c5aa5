"""Writing in place from the command line: open the folder's journal, work, record."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

import click

if TYPE_CHECKING:
    from aedifex.source.history import Entry, History


@contextmanager
def journal(folder: Path) -> Iterator[History]:
    """The journal of a folder, held against other calls; tells what an interrupted call had left undone.

    Raises:
        RefusedError: another call is at work there, or the folder cannot be written.
    """
    from aedifex.source.history import History

    with History.opened(folder) as history:
        for words in history.settled:
            click.echo(words, err=True)
        yield history


def tell(entry: Entry | None, folder: Path) -> None:
    """Say what was written in place."""
    if entry is None:
        click.echo("Nothing to change.")
        return
    for changed in entry.files:
        click.echo(f"{'new' if changed.before is None else 'rewritten'}  {changed.path}")
    where = "" if folder == Path() else f" {folder}"
    click.echo(f"`aedifex undo{where}` takes it back.")
