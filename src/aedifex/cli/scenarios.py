"""The scenarios of a comparison: those of files, or made from what the script listens to."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from typing import TYPE_CHECKING

import click

from aedifex.cli.reading import read_scripts

if TYPE_CHECKING:
    from aedifex.verify.compare import Comparison, Progress
    from aedifex.verify.scenarios.scenario import Scenario


scenario_option = click.option(
    "--scenario",
    "scenario_files",
    multiple=True,
    type=click.Path(path_type=Path),
    metavar="FILE",
    help="What is typed, pressed and clicked; may be repeated.",
)


def scenarios_for(
    comparison: Comparison, files: Sequence[Path], budget: float, save: Path | None, tell: Progress
) -> list[Scenario]:
    """Read the scenarios, or make some within a budget of seconds and keep them where that is wished for."""
    from aedifex.verify.scenarios.scenario import read

    return [read(path) for path in files] or _made(comparison, budget, save, tell)


def _made(comparison: Comparison, budget: float, save: Path | None, tell: Progress) -> list[Scenario]:
    from aedifex.source.files import write_text
    from aedifex.verify.scenarios.scenario import write
    from aedifex.verify.scenarios.search import Search

    module = read_scripts([comparison.before]).main
    scenarios = Search(comparison, module.dialect.library.inputs_of(module)).find(budget, tell)
    if save is not None:
        stem = save.name.removesuffix(".toml").removesuffix(".scenario")
        for number, scenario in enumerate(scenarios, 1):
            name = save.name if len(scenarios) == 1 else f"{stem}-{number}.scenario.toml"
            write_text(save.with_name(name), write(scenario))
    return scenarios
