"""aedifex draft"""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.reading import design_file_of, interpreter_option, read_program_of
from aedifex.cli.screen import progress, screen
from aedifex.design.document.design import GRAINS
from aedifex.source.errors import AedifexError, Place, RefusedError

if TYPE_CHECKING:
    from aedifex.design.document.design import Design
    from aedifex.program.model.program import Program


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
@click.option(
    "--picture",
    type=click.Path(path_type=Path),
    metavar="FILE",
    help="Draw the classes before and after: .png, .svg, .txt, .dot, .mmd or .puml.",
)
@interpreter_option
def command(
    path: Path, output: str | None, grain: str, is_asking: bool, picture: Path | None, interpreter: str | None
) -> None:
    """Propose classes for a script, with a reason for each, as a design file to edit.

    The file stands beside the script unless -o says otherwise. A design that is there already is kept, with all that
    you changed in it, and brought up to the script as it is now.

    \b
    Example:
      aedifex draft game.py
      aedifex draft game.py --grain fine -o my.design.toml
      aedifex draft game.py --ask
      aedifex draft game.py --picture classes.svg
    """
    from aedifex.construction.build import build
    from aedifex.construction.prepare import prepared
    from aedifex.construction.propose import propose
    from aedifex.design.document.writing import placed, write
    from aedifex.design.drafting.outcome import measures_after
    from aedifex.report.design_tables import design_tables
    from aedifex.report.measure_tables import before_and_after
    from aedifex.source.files import write_new_text
    from aedifex.survey.facts import measures_before

    with progress() as tell:
        tell(f"reading {path.name}")
        program = read_program_of(path, interpreter)
    target = Path(output) if output is not None else design_file_of(path)
    if is_asking and output != "-" and target.exists():
        raise RefusedError(
            "this design is there already", Place(target), "Edit it, delete it, or name another with -o."
        )
    with progress() as tell:
        tell("looking for classes")
        design = propose(program, grain)
        program = prepared(program, design)
    if is_asking:
        from aedifex.cli.asking import ask, ask_about_kinds

        design = ask_about_kinds(program.origin, design, grain)
        program = prepared(program.origin, design)
        design = ask(program, design)
    if picture is not None:
        _draw(program, design, picture)
    if output == "-":
        click.echo(write(placed(design, path, Path.cwd())), nl=False)
        return
    made = placed(design, path, target.parent)
    if target.exists() and _is_of(target, made):
        _renew(target, made, program)
        return
    built = build(program, design).program
    write_new_text(target, write(made))
    out = screen()
    for part in design_tables(design):
        out.print(part)
    out.print(before_and_after(measures_before(program.main), measures_after(program, design, built)))
    click.echo(f"Design written to {target}. Edit it, then:\n  aedifex build {target} --into DIR")


def _is_of(target: Path, made: Design) -> bool:
    """Whether a file is a design for the same script, and says something else than what was made now."""
    from aedifex.design.document.reading import read
    from aedifex.design.document.writing import write

    try:
        return read(target).sources[0].path == made.sources[0].path and target.read_text("utf-8") != write(made)
    except (AedifexError, IndexError):
        return False


def _renew(target: Path, made: Design, program: Program) -> None:
    """Bring the design that is there up to date, and say what came in and what went."""
    from aedifex.construction.prepare import prepared
    from aedifex.design.document.check import check_design
    from aedifex.design.document.reading import parse, read
    from aedifex.design.document.updating import update
    from aedifex.source.content import text_of
    from aedifex.source.files import write_text

    text = text_of(target)
    done = update(text, read(target), made, [scope.name for scope in program.main.classes])
    renewed = parse(target, done.text)
    check_design(renewed, prepared(program.origin, renewed).main)
    write_text(target, done.text)
    changes = [f"  added {what}" for what in done.added] + [f"  dropped {what}, which is gone" for what in done.gone]
    if done.text == text:
        click.echo(f"{target} is a design for this script already, and stays as it is. Delete it to draft anew.")
    else:
        click.echo("\n".join([f"{target} is kept, and brought up to the script as it is now.", *changes]))


def _draw(program: Program, design: Design, picture: Path) -> None:
    from aedifex.cli.pictures import kind_of, write_picture
    from aedifex.design.picture import class_picture
    from aedifex.report.class_drawing import KINDS, draw_classes

    write_picture(picture, draw_classes(class_picture(program, design), kind_of(picture, KINDS)))
