"""aedifex step supply"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="A class of the script is given what it uses of it.")
@script_argument
@click.argument("class_name", metavar="CLASS")
@click.argument("variable", metavar="VARIABLE")
@preview_option
def command(script: Path, class_name: str, variable: str, preview: bool) -> None:
    """Let a class of the script take an object or a function in its constructor, and use that.

    \b
    Example:
      aedifex step supply gulls.py Gull write_log
    """
    from aedifex.moves.supply import Supply

    take_step(script, preview, "step supply", lambda _: [Supply(script, class_name, variable)])
