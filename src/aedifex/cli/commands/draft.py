"""aedifex draft"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.reading import interpreter_option, read_program_of
from aedifex.cli.screen import screen
from aedifex.design.model import GRAINS


@click.command(short_help="Propose classes, as a file to edit.")
@click.argument("path", type=click.Path(path_type=Path))
@click.option("-o", "--output", metavar="FILE", help="Where the design goes; - for standard output.")
@click.option(
    "--grain",
    type=click.Choice(list(GRAINS)),
    default="usual",
    show_default=True,
    help="How finely to divide, from one class to many.",
)
@click.option("--ask", "is_asking", is_flag=True, help="Go through the proposal in the terminal.")
@interpreter_option
def command(path: Path, output: str | None, grain: str, is_asking: bool, interpreter: str | None) -> None:
    """Propose classes for a script, with a reason for each, as a design file to edit.

    The file stands beside the script unless -o says otherwise.

    \b
    Example:
      aedifex draft game.py
      aedifex draft game.py --grain fine -o my.design.toml
      aedifex draft game.py --ask
    """
    from aedifex.build.prepare import prepared
    from aedifex.build.propose import propose
    from aedifex.design.file import placed, write
    from aedifex.design.outcome import measures_after
    from aedifex.report.design_tables import design_tables
    from aedifex.report.measure_tables import before_and_after
    from aedifex.source.files import write_new_text
    from aedifex.survey.facts import measures_before

    program = prepared(read_program_of(path, interpreter))
    design = propose(program, grain)
    if is_asking:
        from aedifex.cli.asking import ask

        design = ask(program, design)
    if output == "-":
        click.echo(write(placed(design, path, Path.cwd())), nl=False)
        return
    target = Path(output) if output is not None else path.with_name(f"{path.stem}.design.toml")
    write_new_text(target, write(placed(design, path, target.parent)))
    out = screen()
    for part in design_tables(design):
        out.print(part)
    out.print(before_and_after(measures_before(program.origin.main), measures_after(program, design)))
    click.echo(f"Design written to {target}. Edit it, then:\n  aedifex build {target} --into DIR")
