"""aedifex step adopt"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import named, preview_option, script_argument, take_step


@click.command(short_help="Functions become methods of a class.")
@script_argument
@click.argument("functions", nargs=-1, required=True, metavar="FUNCTION[=METHOD]...")
@click.option("--class", "class_name", required=True, metavar="NAME", help="The class.")
@click.option("--object", "instance", metavar="NAME", help="The variable that holds its object.")
@preview_option
def command(script: Path, functions: tuple[str, ...], class_name: str, instance: str | None, preview: bool) -> None:
    """Turn functions into methods of a class of the script that has one object.

    \b
    Example:
      aedifex step adopt ferry.py move_ferry=move draw_ferry=draw --class Ferry
    """
    from aedifex.moves.adopt import Adopt, NewMethod

    methods = tuple(NewMethod(*named(text)) for text in functions)
    take_step(
        script,
        preview,
        "step adopt",
        lambda _: [Adopt(script, class_name, instance or class_name.lower(), methods)],
    )
