"""aedifex demo"""

from __future__ import annotations

import sys
import tempfile
from contextlib import ExitStack
from pathlib import Path

import click

from aedifex.cli.reading import design_file_of, read_scripts
from aedifex.cli.screen import screen
from aedifex.cli.words import DIFFERENT


@click.command(short_help="Take a sample program all the way.")
@click.argument("name", default="ferry")
@click.option("--into", type=click.Path(path_type=Path), metavar="DIR", help="Keep the files there.")
def command(name: str, into: Path | None) -> None:
    """Take a sample program all the way, telling what happens: survey, draft, build, verify.

    \b
    Example:
      aedifex demo ferry --into ferry-demo
    """
    from aedifex.demo import copy_sample, samples

    if name not in samples():
        raise click.UsageError(f"there is no sample {name!r}; there are: {', '.join(samples())}")
    with ExitStack() as stack:
        folder = into or Path(stack.enter_context(tempfile.TemporaryDirectory(prefix="aedifex-demo-"))) / name
        script, scenario = copy_sample(name, folder)
        same = _tell(script, scenario, folder)
    if not same:
        sys.exit(DIFFERENT)


def _tell(script: Path, scenario_file: Path, folder: Path) -> bool:
    from aedifex.construction.build import build
    from aedifex.construction.output import new_files
    from aedifex.construction.prepare import prepared
    from aedifex.construction.propose import propose
    from aedifex.design.document.writing import placed, write
    from aedifex.report.demo_story import after_build, after_draft, after_survey, after_verify
    from aedifex.source.files import write_folder, write_new_text
    from aedifex.survey.facts import survey
    from aedifex.verify.compare import Comparison
    from aedifex.verify.scenarios.scenario import read

    out = screen()
    program = read_scripts([script])
    ready = prepared(program)
    before = survey(ready)
    out.print(after_survey(before))
    design = propose(program)
    design_file = design_file_of(script)
    write_new_text(design_file, write(placed(design, script, folder)))
    out.print(after_draft(design))
    built = build(program, design)
    target = folder / "built"
    write_folder(target, new_files(program, built), script)
    out.print(after_build(built))
    verdict = Comparison(script, target / script.name, program.dialect.runner).compare([read(scenario_file)])
    for part in after_verify(verdict, before, survey(built.program), script, target / script.name):
        out.print(part)
    return verdict.same
