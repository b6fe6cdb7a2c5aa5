"""aedifex tests"""

from __future__ import annotations

import tempfile
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING, Any

import click

from aedifex.cli.reading import interpreter_option, read_program_of
from aedifex.cli.scenarios import scenario_option, scenarios_for
from aedifex.cli.screen import progress

if TYPE_CHECKING:
    from aedifex.construction.build import Built
    from aedifex.program.dialect.runner import Runner
    from aedifex.program.dialect.testing import Testing
    from aedifex.report.class_tests import Talk
    from aedifex.verify.scenarios.scenario import Scenario

_MOST_SAID = 60


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
@click.option("--budget", type=float, default=5.0, show_default=True, help="Seconds to spend on making scenarios.")
@interpreter_option
def command(
    design_file: Path, into: Path, scenario_files: tuple[Path, ...], budget: float, interpreter: str | None
) -> None:
    """Write pytest tests for the classes of a design, from what the built program does in some scenarios.

    Each method that can be called alone is tested with what it was given and what it did; a program that takes a
    reader and a writer also with a conversation.

    \b
    Example:
      aedifex tests game.design.toml --into built
      aedifex tests game.design.toml --into built --scenario game.scenario.toml
    """
    from aedifex.construction.build import build
    from aedifex.construction.output import new_files
    from aedifex.design.document.check import check_digest
    from aedifex.design.document.reading import read, script_of
    from aedifex.report.class_tests import cases_of, class_tests
    from aedifex.source.files import write_folder, write_new_text
    from aedifex.verify.calls import record
    from aedifex.verify.compare import Comparison
    from aedifex.verify.replay import replay
    from aedifex.verify.trial import failing

    design = read(design_file)
    script = script_of(design)
    program = read_program_of(script, interpreter)
    check_digest(design, program.main)
    built = build(program, design)
    homes = _homes(built, design.owner)
    dialect = program.dialect
    runner, constructor = dialect.runner, dialect.rules.constructor
    with progress() as tell, tempfile.TemporaryDirectory(prefix="aedifex-tests-") as work:
        target = Path(work) / "built"
        write_folder(target, new_files(program, built), script)
        comparison = Comparison(script, target / script.name, runner)
        scenarios = scenarios_for(comparison, scenario_files, budget, None, tell)
        tell("noting what the classes do")
        calls = record(target / script.name, script.parent, homes, scenarios, runner)
        cases = cases_of(calls, homes, constructor)
        tell("playing it again")
        answers = replay(target, [case.as_json(constructor) for case in cases], runner)
        talk, said = _talk(target, script.stem, scenarios, runner, dialect.testing) if design.streams else (None, {})
        tell("running the tests elsewhere")
        path, standing = into / dialect.testing.file_name(script), dialect.files.standing(into, program.main)
        fails = partial(failing, target, standing.package, path.name, runner=runner)
        made = class_tests(script.name, cases, answers, talk, said, dialect.testing, standing, fails)
    for name, reason in made.left_out.items():
        click.echo(f"{name} is left out: {reason}")
    if not made.count:
        click.echo("No method of these classes can be called alone with plain values; no tests were written.")
        return
    write_new_text(path, made.text)
    click.echo(f"{made.count} tests written to {path}. Run them with: {dialect.testing.command} {path}")


def _homes(built: Built, owner: str) -> dict[str, str]:
    """The module of each class but the owner, which the conversation tests."""
    from aedifex.survey.facts import survey

    return {name: facts.path.stem for facts in survey(built.program) for name in facts.classes if name != owner}


def _talk(
    target: Path, module: str, scenarios: list[Scenario], runner: Runner, testing: Testing
) -> tuple[Talk | None, dict[str, Any]]:
    """The conversation of the first scenario with typed lines, and what is said in it.

    It is cut where it would crash, or be long to read.
    """
    from aedifex.report.class_tests import Talk
    from aedifex.verify.replay import replay

    talk, said = None, dict[str, Any]()
    scenario = next((scenario for scenario in scenarios if scenario.lines), None)
    if scenario is None:
        return talk, said
    good, bad = 0, len(scenario.lines) + 1
    while bad - good > 1:
        middle = (good + bad) // 2
        tried = Talk(module, scenario.lines[:middle], scenario.seed)
        answer = replay(target, [tried.as_json()], runner)[0]
        if testing.is_crash(answer["ended"]) or len(answer["said"].splitlines()) > _MOST_SAID:
            bad = middle
        else:
            good, talk, said = middle, tried, answer
    return talk, said
