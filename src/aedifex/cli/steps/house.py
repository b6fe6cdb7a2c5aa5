"""aedifex step house"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import named, preview_option, script_argument, take_step


@click.command(short_help="Classes go into files of their own.")
@script_argument
@click.argument("classes", nargs=-1, required=True, metavar="CLASS[=FILE]...")
@preview_option
def command(script: Path, classes: tuple[str, ...], preview: bool) -> None:
    """Move classes into files of their own, with the imports that they need.

    \b
    Example:
      aedifex step house harbour.py Ferry Tide=water.py
    """
    from aedifex.construction.homes import new_homes

    pairs = [named(text) for text in classes]
    files = {name: file if file != name else f"{name.lower()}{script.suffix}" for name, file in pairs}
    take_step(script, preview, "step house", lambda program: [new_homes(program.main, files)])
