"""aedifex build"""

from __future__ import annotations

from contextlib import nullcontext
from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.journal import journal, tell
from aedifex.cli.reading import interpreter_option, read_program_of
from aedifex.cli.screen import progress, screen

if TYPE_CHECKING:
    from aedifex.construction.build import Built
    from aedifex.design.document.design import Design
    from aedifex.program.model.program import Program
    from aedifex.source.history import History


@click.command(short_help="Turn the script into the classes of a design.")
@click.argument("design_file", type=click.Path(path_type=Path), metavar="DESIGN")
@click.option("--into", type=click.Path(path_type=Path), metavar="DIR", help="Write the result there.")
@click.option("--in-place", is_flag=True, help="Rewrite the script where it stands; `aedifex undo` takes it back.")
@click.option("--preview", is_flag=True, help="Show the difference and write nothing.")
@interpreter_option
def command(design_file: Path, into: Path | None, in_place: bool, preview: bool, interpreter: str | None) -> None:
    """Carry out a design: the script becomes classes, and nothing else changes.

    With --into the script itself is left alone. What cannot be done safely is refused, with the line and the reason.

    \b
    Example:
      aedifex build game.design.toml --preview
      aedifex build game.design.toml --into built
      aedifex build game.design.toml --in-place
    """
    if [into is not None, in_place, preview].count(True) != 1:
        raise click.UsageError("say where the result goes: --into DIR or --in-place, or --preview to look first")

    from aedifex.design.document.reading import read, script_of

    design = read(design_file)
    script = script_of(design)
    with journal(script.parent) if in_place else nullcontext() as history:
        with progress() as tell_how_far:
            tell_how_far(f"building {script.name}")
            program, built = _build(design, script, interpreter)
        if history is not None:
            _write_in_place(history, program, built, design)
        elif into is not None:
            _write_into(into, program, built, design)
        else:
            from aedifex.report.difference import difference

            click.echo(difference(program, built.program), nl=False)


def _build(design: Design, script: Path, interpreter: str | None) -> tuple[Program, Built]:
    from aedifex.construction.build import build
    from aedifex.design.document.check import check_digest

    program = read_program_of(script, interpreter)
    check_digest(design, program.main)
    return program, build(program, design)


def _write_into(into: Path, program: Program, built: Built, design: Design) -> None:
    from aedifex.construction.output import new_files
    from aedifex.source.files import write_folder

    write_folder(into, new_files(program, built), program.main.path)
    _show(built, design, into)


def _write_in_place(history: History, program: Program, built: Built, design: Design) -> None:
    from aedifex.construction.in_place import rewrite

    script = program.main.path
    entry = rewrite(history, program, built.program, f"build {script.name}")
    _show(built, design, script.parent)
    if built.program.gone:
        click.echo(f"{script.name} needs no more: {', '.join(path.name for path in built.program.gone)}.")
    tell(entry, script.parent)


def _show(built: Built, design: Design, folder: Path) -> None:
    from aedifex.report.build_tables import build_tables

    out = screen()
    for part in build_tables(built, design, folder):
        out.print(part)
