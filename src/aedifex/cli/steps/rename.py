"""aedifex step rename"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="A name changes wherever it means the same.")
@script_argument
@click.argument("old")
@click.argument("new")
@preview_option
def command(script: Path, old: str, new: str, preview: bool) -> None:
    """Rename a variable, function or class; a local as `function.variable`, a member as `Class.member`.

    \b
    Example:
      aedifex step rename harbour.py Ferry.x Ferry.position --preview
      aedifex step rename harbour.py dock.n count
    """
    from aedifex.moves.rename import Rename

    take_step(script, preview, "step rename", lambda _: [Rename(script, old, new.rpartition(".")[2])])
