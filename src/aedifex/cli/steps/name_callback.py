"""aedifex step name_callback"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="Anonymous handlers become named functions.")
@script_argument
@preview_option
def command(script: Path, preview: bool) -> None:
    """Name the handlers of the main code that are more than one call, after what they answer to.

    \b
    Example:
      aedifex step name_callback sketch.py
    """
    from aedifex.moves.name_callback import NameCallbacks

    take_step(script, preview, "step name_callback", lambda _: [NameCallbacks(script)])
