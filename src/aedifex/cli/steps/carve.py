"""aedifex step carve"""

from __future__ import annotations

import re
from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="Some statements become a function.")
@script_argument
@click.argument("lines", metavar="FIRST-LAST")
@click.argument("function", metavar="NAME")
@click.option("--of", "routine", default="<main>", metavar="FUNCTION", help="Where the lines are; the main code else.")
@preview_option
def command(script: Path, lines: str, function: str, routine: str, preview: bool) -> None:
    """Make a function of some lines of the main code, or of another function.

    \b
    Example:
      aedifex step carve ferry.py 40-47 dock_ferry
      aedifex step carve ferry.py 12-15 count_carts --of load_ferry
    """
    from aedifex.moves.carve import Carve

    found = re.fullmatch(r"(\d+)(?:-(\d+))?", lines)
    if found is None or not function.isidentifier():
        raise click.UsageError("say which lines, as in 40-47, and a name for the function")
    first, last = int(found[1]), int(found[2] or found[1])
    take_step(script, preview, "step carve", lambda _: [Carve(script, routine, first, last, function)])
