"""aedifex verify"""

from __future__ import annotations

import sys
from pathlib import Path

import click

from aedifex.cli.screen import screen
from aedifex.cli.words import DIFFERENT


@click.command()
@click.argument("before", type=click.Path(path_type=Path))
@click.argument("after", type=click.Path(path_type=Path))
@click.option(
    "--scenario",
    "scenario_files",
    multiple=True,
    type=click.Path(path_type=Path),
    metavar="FILE",
    help="What is typed and given on the command line; may be repeated.",
)
@click.option("--seconds", default=30, show_default=True, help="How long one run may take.")
def command(before: Path, after: Path, scenario_files: tuple[Path, ...], seconds: int) -> None:
    """Run two versions of a program in the same scripted world and compare what they did.

    AFTER may be the folder that the result was built into. Without a scenario nothing is typed. Ends with 0 if no
    difference was seen, and with 1 at the first one, which is shown side by side.

    \b
    Example:
      aedifex verify game.py built/game.py --scenario game.scenario.toml
    """
    from aedifex.report.verdict import verdict_parts
    from aedifex.verify.compare import compare
    from aedifex.verify.run import Limits
    from aedifex.verify.scenario import Scenario, read

    scenarios = [read(path) for path in scenario_files] or [Scenario()]
    if after.is_dir():
        after = after / before.name
    verdict = compare(before, after, scenarios, Limits(seconds=seconds))
    out = screen()
    for part in verdict_parts(verdict, before, after):
        out.print(part)
    if not verdict.same:
        sys.exit(DIFFERENT)
