"""aedifex survey"""

from __future__ import annotations

from pathlib import Path

import click

from aedifex.cli.reading import interpreter_option, read_scripts
from aedifex.cli.screen import screen


@click.command(short_help="Show state, routines and what hinders.")
@click.argument("paths", nargs=-1, required=True, type=click.Path(path_type=Path), metavar="PATH...")
@click.option("--json", "json_file", metavar="FILE", help="Write the facts as JSON; - for standard output.")
@interpreter_option
def command(paths: tuple[Path, ...], json_file: str | None, interpreter: str | None) -> None:
    """Show the state, who reads and writes it, the routines, the main code, and what hinders.

    Only reads; the script is never run.

    \b
    Example:
      aedifex survey game.py
      aedifex survey game.py --json facts.json
    """
    from aedifex.report.survey_tables import survey_tables
    from aedifex.survey.as_json import as_json
    from aedifex.survey.facts import survey

    facts = survey(read_scripts(paths, interpreter))
    if json_file == "-":
        click.echo(as_json(facts), nl=False)
        return
    if json_file is not None:
        from aedifex.source.files import write_text

        write_text(Path(json_file), as_json(facts))
    out = screen()
    for part in survey_tables(facts):
        out.print(part)
