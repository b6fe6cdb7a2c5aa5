"""aedifex tests"""

from __future__ import annotations

import tempfile
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.reading import interpreter_option, read_program_of
from aedifex.cli.scenarios import scenario_option, scenarios_for
from aedifex.cli.screen import progress
from aedifex.source.errors import Place, RefusedError, UnreadableError

if TYPE_CHECKING:
    from aedifex.construction.build import Built
    from aedifex.program.dialect.dialect import Dialect


@click.command(short_help="Write tests for the classes from real runs.")
@click.argument("design_file", type=click.Path(path_type=Path), metavar="DESIGN")
@click.option(
    "--into",
    type=click.Path(path_type=Path),
    required=True,
    metavar="DIR",
    help="The folder that the result was built into.",
)
@scenario_option
@click.option("--budget", type=float, default=10.0, show_default=True, help="Seconds to spend on making scenarios.")
@interpreter_option
def command(
    design_file: Path, into: Path, scenario_files: tuple[Path, ...], budget: float, interpreter: str | None
) -> None:
    """Write tests for the classes of a design, from what the built program does in some scenarios.

    Each method that can be called alone is tested with what it was given and what it did, a program that reads typed
    lines also with conversations. What would show, play or wait is replaced and asked what was asked of it. Of many
    calls those are taken that see the most small mistakes.

    \b
    Example:
      aedifex tests game.design.toml --into built
      aedifex tests game.design.toml --into built --scenario game.scenario.toml
    """
    from aedifex.construction.build import build
    from aedifex.construction.output import new_files
    from aedifex.design.document.check import check_digest
    from aedifex.design.document.reading import read, script_of
    from aedifex.report.class_tests import class_tests
    from aedifex.report.rehearsal import Rehearsal
    from aedifex.source.files import make_folder, write_folder, write_new_text
    from aedifex.verify.compare import Comparison
    from aedifex.verify.trial import failing

    design = read(design_file)
    script = script_of(design)
    program = read_program_of(script, interpreter)
    check_digest(design, program.main)
    if reason := program.dialect.testing.why_not(program.main):
        raise RefusedError(reason, Place(script), "`aedifex verify` compares the two versions as they run.")
    built = build(program, design)
    files = new_files(program, built)
    if (missing := next((path for path in files if not (into / path).is_file()), None)) is not None:
        advice = f"Build it first: aedifex build {design_file} --into {into}"
        raise UnreadableError("this file of the result is not there", Place(into / missing), advice)
    dialect = program.dialect
    testing = dialect.testing.beside(script)
    with progress() as tell, tempfile.TemporaryDirectory(prefix="aedifex-tests-") as work:
        target = Path(work) / "built"
        write_folder(target, files, script)
        is_answered = design.answers_missing
        comparison = Comparison(script, target / script.name, dialect.runner, answers_missing=is_answered)
        scenarios = scenarios_for(comparison, scenario_files, budget, None, tell)
        rehearsal = Rehearsal(
            target / script.name, script.parent, _homes(built, dialect), dialect, streams=bool(design.streams)
        )
        tell("noting what the classes do")
        rehearsal.record(scenarios)
        tell("playing it again, with mistakes in it")
        tested, answers = rehearsal.chosen()
        tell("running the tests elsewhere")
        path, standing = into / testing.file_name(script), dialect.files.standing(into, program.main)
        fails = partial(failing, target, standing.package, path.name, runner=dialect.runner)
        made = class_tests(
            script.name,
            tested,
            answers,
            testing,
            standing,
            fails,
            rehearsal.stand_ins,
            rehearsal.left_out,
        )
    for name, reason in made.left_out.items():
        click.echo(f"{name} is left out: {reason}")
    if not made.count:
        click.echo("No method of these classes can be called alone with plain values; no tests were written.")
        return
    make_folder(into)
    write_new_text(path, made.text)
    click.echo(f"{made.count} tests written to {path}. Run them with: {testing.command} {path}")


def _homes(built: Built, dialect: Dialect) -> dict[str, str]:
    """The module of each class."""
    from aedifex.survey.facts import survey

    name_of = dialect.testing.module_name
    return {name: name_of(facts.path) for facts in survey(built.program) for name in facts.classes}
