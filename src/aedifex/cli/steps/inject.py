"""aedifex step inject"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="A value becomes a parameter.")
@script_argument
@click.argument("function")
@click.argument("value", metavar="VARIABLE[.FIELD]")
@click.option("--as", "parameter", metavar="NAME", help="The parameter's name.")
@preview_option
def command(script: Path, function: str, value: str, parameter: str | None, preview: bool) -> None:
    """Pass what a function only reads to it as an argument.

    \b
    Example:
      aedifex step inject ferry.py draw_ferry tide.level --as tide_level
    """
    from aedifex.moves.inject import Inject

    variable, _, attribute = value.partition(".")
    name = parameter or value.replace(".", "_")
    take_step(script, preview, "step inject", lambda _: [Inject(script, function, variable, attribute or None, name)])
