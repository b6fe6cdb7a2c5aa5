"""aedifex step streams"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="The class that talks takes a reader and a writer.")
@script_argument
@click.argument("class_name", metavar="CLASS")
@preview_option
def command(script: Path, class_name: str, preview: bool) -> None:
    """Let the one class that prints and reads typed lines take its streams from outside.

    \b
    Example:
      aedifex step streams harbour.py Harbour
    """
    from aedifex.moves.streams import Streams

    take_step(script, preview, "step streams", lambda _: [Streams(script, class_name)])
