"""aedifex verify"""

from __future__ import annotations

import sys
from dataclasses import replace
from pathlib import Path

import click

from aedifex.cli.reading import answers_missing, interpreter_option
from aedifex.cli.scenarios import scenario_option, scenarios_for
from aedifex.cli.screen import progress, screen
from aedifex.cli.words import DIFFERENT


@click.command(short_help="Compare two versions in a scripted world.")
@click.argument("before", type=click.Path(path_type=Path))
@click.argument("after", type=click.Path(path_type=Path))
@scenario_option
@click.option(
    "--budget", default=10.0, show_default=True, help="Seconds to spend on making scenarios, and on making one shorter."
)
@click.option("--save", type=click.Path(path_type=Path), metavar="FILE", help="Keep the scenarios that were made.")
@click.option("--seconds", default=30, show_default=True, help="How long one run may compute.")
@interpreter_option
@click.option("--network", is_flag=True, help="Let both reach other machines.")
@click.option("--browser", is_flag=True, help="Run pages in Chromium, not in a stand-in for a browser.")
@click.option("--stand-in", "stand_ins", multiple=True, metavar="NAME", help="Replace a module by a double.")
@click.option("--json", "json_file", metavar="FILE", help="Write the answer as JSON; - for standard output.")
def command(
    before: Path,
    after: Path,
    scenario_files: tuple[Path, ...],
    budget: float,
    save: Path | None,
    seconds: int,
    interpreter: str | None,
    network: bool,
    browser: bool,
    stand_ins: tuple[str, ...],
    json_file: str | None,
) -> None:
    """Run two versions of a program in the same scripted world and compare what they did.

    AFTER may be the folder that the result was built into; a script that a page loads is run as that page. Without
    --scenario, scenarios are made from what the script listens to. Ends with 0 if no difference was seen, and with 1 at
    the first one, which is shown side by side.

    \b
    Example:
      aedifex verify game.py built/game.py
      aedifex verify game.py built --scenario game.scenario.toml
    """
    from aedifex.languages import dialect_for
    from aedifex.report.verdict import verdict_json, verdict_parts
    from aedifex.source.files import write_text
    from aedifex.verify.compare import Comparison
    from aedifex.verify.running.run import Limits, check_scripts
    from aedifex.verify.scenarios.shorten import shorten

    folder, name = (after, before.name) if after.is_dir() else (after.parent, after.name)
    page = dialect_for(before).files.started_by(before)
    if name == before.name and (folder / page.name).is_file():
        before, name = page, page.name
    after = folder / name
    check_scripts(before, after)
    dialect = dialect_for(before)
    dialect = dialect.files.of_interpreter(interpreter) if interpreter is not None else dialect
    limits, is_answered = Limits(seconds=seconds), answers_missing(before)
    runner = dialect.runner.in_browser() if browser else dialect.runner
    if runner is None:
        raise click.UsageError(f"--browser is for pages, and {before.name} is none.")
    comparison = Comparison(before, after, runner, limits, stand_ins, network, is_answered, dialect.files.users)
    with progress() as tell:
        scenarios = scenarios_for(comparison, scenario_files, budget, save, tell)
        verdict = comparison.compare(scenarios, tell)
        if verdict.divergence is not None:
            tell("making the scenario shorter")
            verdict = replace(verdict, divergence=shorten(comparison, verdict.divergence, budget))
    if json_file == "-":
        click.echo(verdict_json(verdict), nl=False)
    else:
        if json_file is not None:
            write_text(Path(json_file), verdict_json(verdict))
        out = screen()
        for part in verdict_parts(verdict, before, after):
            out.print(part)
    if not verdict.same:
        sys.exit(DIFFERENT)
