"""aedifex draft"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.reading import interpreter_option, read_program_of
from aedifex.cli.screen import screen


@click.command(short_help="Propose classes, as a file to edit.")
@click.argument("path", type=click.Path(path_type=Path))
@click.option("-o", "--output", metavar="FILE", help="Where the design goes; - for standard output.")
@interpreter_option
def command(path: Path, output: str | None, interpreter: str | None) -> None:
    """Propose classes for a script, with a reason for each, as a design file to edit.

    The file stands beside the script unless -o says otherwise.

    \b
    Example:
      aedifex draft game.py
      aedifex draft game.py -o my.design.toml
    """
    from aedifex.build.prepare import prepared
    from aedifex.design.draft import draft
    from aedifex.design.file import placed, write
    from aedifex.report.design_tables import design_tables
    from aedifex.source.files import write_new_text

    design = draft(prepared(read_program_of(path, interpreter)))
    if output == "-":
        click.echo(write(placed(design, path, Path.cwd())), nl=False)
        return
    target = Path(output) if output is not None else path.with_name(f"{path.stem}.design.toml")
    write_new_text(target, write(placed(design, path, target.parent)))
    out = screen()
    for part in design_tables(design):
        out.print(part)
    click.echo(f"Design written to {target}. Edit it, then:\n  aedifex build {target} --into DIR")
