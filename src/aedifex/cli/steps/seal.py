"""aedifex step seal"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="Fields that only their class uses become private.")
@script_argument
@click.argument("classes", nargs=-1, required=True, metavar="CLASS...")
@preview_option
def command(script: Path, classes: tuple[str, ...], preview: bool) -> None:
    """Give fields that nothing outside their class uses a leading underscore.

    \b
    Example:
      aedifex step seal harbour.py Ferry Tide
    """
    from aedifex.moves.seal import Seal

    take_step(script, preview, "step seal", lambda _: [Seal(script, classes)])
