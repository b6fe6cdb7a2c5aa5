"""aedifex report"""

from __future__ import annotations

import tempfile
from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.reading import interpreter_option, read_program_of
from aedifex.cli.scenarios import scenario_option, scenarios_for
from aedifex.cli.screen import progress

if TYPE_CHECKING:
    from aedifex.construction.build import Built
    from aedifex.program.model.program import Program


@click.command(short_help="Before and after on one page.")
@click.argument("design_file", type=click.Path(path_type=Path), metavar="DESIGN")
@click.option("-o", "--output", type=click.Path(path_type=Path), required=True, metavar="FILE", help="The page: .html.")
@scenario_option
@click.option("--budget", type=float, default=5.0, show_default=True, help="Seconds to spend on making scenarios.")
@click.option("--without-running", is_flag=True, help="Do not run the script and its result.")
@interpreter_option
def command(
    design_file: Path,
    output: Path,
    scenario_files: tuple[Path, ...],
    budget: float,
    without_running: bool,
    interpreter: str | None,
) -> None:
    """Write one page that shows a script and the classes of a design: why, what, and that it does the same.

    The page stands alone: it opens offline, on a phone too, and prints.

    \b
    Example:
      aedifex report game.design.toml -o game.html
      aedifex report game.design.toml -o game.html --scenario game.scenario.toml
    """
    from aedifex.construction.build import build
    from aedifex.construction.prepare import prepared
    from aedifex.design.document.check import check_digest
    from aedifex.design.document.reading import read, script_of
    from aedifex.design.drafting.outcome import measures_after
    from aedifex.design.drafting.with_reasons import with_draft_reasons
    from aedifex.design.picture import class_picture
    from aedifex.report.class_drawing import draw_classes
    from aedifex.report.page.page import ReportFacts, report_page
    from aedifex.report.usage_groups import groups_of
    from aedifex.report.usage_map import draw_usage_map
    from aedifex.source.files import write_text
    from aedifex.survey.facts import measures_before
    from aedifex.survey.usage import usage
    from aedifex.verify.compare import Comparison

    if output.suffix.lower() not in (".html", ".htm"):
        raise click.UsageError(f"{output.name} must end in .html")
    design = read(design_file)
    program = read_program_of(script_of(design), interpreter)
    check_digest(design, program.main)
    built = build(program, design)
    with progress() as tell:
        verdict = None
        if not without_running:
            with tempfile.TemporaryDirectory(prefix="aedifex-report-") as work:
                after, is_answered = _written(program, built, Path(work)), design.answers_missing
                comparison = Comparison(program.main.path, after, program.dialect.runner, answers_missing=is_answered)
                verdict = comparison.compare(scenarios_for(comparison, scenario_files, budget, None, tell), tell)
        tell("drawing the pictures")
        ready = prepared(program, design)
        page = report_page(
            ReportFacts(
                built,
                with_draft_reasons(ready, design),
                measures_before(ready.main),
                measures_after(ready, design, built.program),
                verdict,
                draw_classes(class_picture(ready, design), "svg"),
                draw_usage_map(usage(ready, groups_of(design)), program.main.path.name, "svg"),
            )
        )
    write_text(output, page.encode("utf-8", "backslashreplace").decode("utf-8"))
    click.echo(f"Report written to {output}.")


def _written(program: Program, built: Built, folder: Path) -> Path:
    """Write the built program into a new folder, and tell where its script is."""
    from aedifex.construction.output import new_files
    from aedifex.source.files import write_folder

    target = folder / "built"
    write_folder(target, new_files(program, built), program.main.path)
    return target / program.main.path.name
