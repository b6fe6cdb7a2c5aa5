"""Writing in place from the command line: open the folder's journal, work, record."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import TYPE_CHECKING

import click

if TYPE_CHECKING:
    from aedifex.source.history import Changed, Entry, History, Outcome


@contextmanager
def journal(folder: Path, *, to_read: bool = False) -> Iterator[History]:
    """The journal of a folder, held against other calls; tells what an interrupted call had left undone.

    One that is opened `to_read` leaves that as it is.

    Raises:
        RefusedError: another call is at work there, or the folder cannot be written.
    """
    from aedifex.source.history import History

    with History.opened(folder, to_read=to_read) as history:
        for words in history.settled:
            click.echo(words, err=True)
        yield history


def tell(entry: Entry | None, folder: Path) -> None:
    """Say what was written in place."""
    if entry is None:
        click.echo("Nothing to change.")
        return
    for changed in entry.files:
        click.echo(f"{_made(changed)}  {changed.path}")
    where = "" if folder == Path() else f" {folder}"
    click.echo(f"`aedifex undo{where}` takes it back.")


def _made(changed: Changed) -> str:
    return "new" if changed.before is None else "rewritten"


def tell_turn(outcome: Outcome, folder: Path, command: str) -> None:
    """Say what became of each file, and how to turn back."""
    side = outcome.entry.state.side
    for path in outcome.kept:
        click.echo(f"kept       {path}")
    for changed in outcome.entry.files:
        word = "removed" if changed.on(side) is None else "restored" if side == "before" else _made(changed)
        click.echo(f"{word:<10} {changed.path}")
    where = "" if folder == Path() else f" {folder}"
    click.echo(f"{'Taken back' if side == 'before' else 'Done again'}: {outcome.entry.what}.")
    click.echo(f"`aedifex {command}{where}` {'does it again' if side == 'before' else 'takes it back'}.")
