"""aedifex build"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.reading import interpreter_option, read_scripts
from aedifex.cli.screen import screen


@click.command(short_help="Turn the script into the classes of a design.")
@click.argument("design_file", type=click.Path(path_type=Path), metavar="DESIGN")
@click.option("--into", type=click.Path(path_type=Path), metavar="DIR", help="Write the result there.")
@click.option("--preview", is_flag=True, help="Show the difference and write nothing.")
@interpreter_option
def command(design_file: Path, into: Path | None, preview: bool, interpreter: str | None) -> None:
    """Carry out a design: the script becomes classes, and nothing else changes.

    The script itself is left alone. What cannot be done safely is refused, with the line and the reason.

    \b
    Example:
      aedifex build game.design.toml --preview
      aedifex build game.design.toml --into built
    """
    if (into is None) == (not preview):
        raise click.UsageError("say where the result goes: --into DIR, or --preview to look first")

    from aedifex.build.carry import build
    from aedifex.build.output import new_files
    from aedifex.design.check import check_digest
    from aedifex.design.file import read, script_of
    from aedifex.report.difference import difference

    design = read(design_file)
    program = read_scripts([script_of(design)], interpreter)
    check_digest(design, program.main)
    built = build(program, design)
    if preview:
        click.echo(difference(program, built.program), nl=False)
        return

    from aedifex.report.build_tables import build_tables
    from aedifex.source.files import write_folder

    assert into is not None
    write_folder(into, new_files(program, built), program.main.path)
    out = screen()
    for part in build_tables(built, into):
        out.print(part)
