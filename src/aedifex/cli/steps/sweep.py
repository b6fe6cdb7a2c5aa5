"""aedifex step sweep"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.stepping import preview_option, script_argument, take_step


@click.command(short_help="What nothing uses goes.")
@script_argument
@preview_option
def command(script: Path, preview: bool) -> None:
    """Take away functions, imports, fields and `global` lines that nothing uses.

    \b
    Example:
      aedifex step sweep harbour.py --preview
    """
    from aedifex.moves.sweep import Sweep

    take_step(script, preview, "step sweep", lambda _: [Sweep(script)])
