"""aedifex step lift"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="Top-level code becomes the owner class.")
@script_argument
@click.option("--class", "class_name", metavar="NAME", help="The owner; after the file's name unless given.")
@preview_option
def command(script: Path, class_name: str | None, preview: bool) -> None:
    """Turn top-level code into the owner: set-up in the constructor, the loop in `run`, a two-line main.

    \b
    Example:
      aedifex step lift ferry.py --class Harbour
    """
    from aedifex.design.drafting.naming import Names
    from aedifex.moves.lift import Lift

    take_step(script, preview, "step lift", lambda program: [Lift(script, class_name or Names(program.main).owner())])
