"""aedifex history"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.journal import journal
from aedifex.cli.screen import screen


@click.command(short_help="What was rewritten in place.")
@click.argument("folder", type=click.Path(path_type=Path), default=Path(), metavar="[DIR]")
def command(folder: Path) -> None:
    """Show what has been rewritten in place in a folder, the latest last.

    \b
    Example:
      aedifex history
      aedifex history harbour
    """
    from aedifex.report.history_tables import history_tables

    with journal(folder, to_read=True) as history:
        entries = history.entries()
    out = screen()
    for part in history_tables(entries):
        out.print(part)
