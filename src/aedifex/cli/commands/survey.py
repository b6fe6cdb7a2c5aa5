"""aedifex survey"""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.reading import interpreter_option, read_scripts
from aedifex.cli.screen import progress, screen
from aedifex.source.errors import RefusedError

if TYPE_CHECKING:
    from aedifex.program.model.program import Program


@click.command(short_help="Show state, routines and what hinders.")
@click.argument("paths", nargs=-1, required=True, type=click.Path(path_type=Path), metavar="PATH...")
@click.option("--json", "json_file", metavar="FILE", help="Write the facts as JSON; - for standard output.")
@click.option("--picture", type=click.Path(path_type=Path), metavar="FILE", help="Draw the usage map: .png or .svg.")
@click.option(
    "--design", type=click.Path(path_type=Path), metavar="FILE", help="Frame the classes of this design in it."
)
@interpreter_option
def command(
    paths: tuple[Path, ...], json_file: str | None, picture: Path | None, design: Path | None, interpreter: str | None
) -> None:
    """Show the state, who reads and writes it, the routines, the main code, and what hinders.

    Only reads; the script is never run.

    \b
    Example:
      aedifex survey game.py
      aedifex survey game.py --json facts.json
      aedifex survey game.py --picture usage.svg --design game.design.toml
    """
    from aedifex.report.survey_tables import survey_tables
    from aedifex.survey.as_json import as_json
    from aedifex.survey.facts import survey

    with progress() as tell:
        tell(f"reading {', '.join(path.name for path in paths)}")
        program = read_scripts(paths, interpreter)
        facts = survey(program)
    if picture is not None:
        _draw(program, picture, design)
    if json_file == "-":
        click.echo(as_json(facts), nl=False)
        return
    if json_file is not None:
        from aedifex.source.files import write_text

        write_text(Path(json_file), as_json(facts))
    out = screen()
    for part in survey_tables(facts):
        out.print(part)


def _draw(program: Program, picture: Path, design_file: Path | None) -> None:
    """The usage map; the classes of a design are framed, or else those that a draft would propose."""
    from aedifex.cli.pictures import kind_of, write_picture
    from aedifex.construction.prepare import prepared
    from aedifex.design.document.reading import read
    from aedifex.design.drafting.draft import draft
    from aedifex.report.usage_groups import groups_of
    from aedifex.report.usage_map import draw_usage_map
    from aedifex.survey.usage import usage

    kind = kind_of(picture)
    given = read(design_file) if design_file is not None else None
    ready = prepared(program, given)
    try:
        design = given or draft(ready)
        groups = groups_of(design)
    except RefusedError:
        groups = []
    write_picture(picture, draw_usage_map(usage(ready, groups), program.main.path.name, kind))
