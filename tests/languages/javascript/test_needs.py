"""Scripts as people write them become what they need: see `needs/README.md`."""

from __future__ import annotations

import json
import re
import shutil
from collections.abc import Iterator, Mapping, Sequence
from pathlib import Path
from typing import Any

import pytest

from aedifex.cli.reading import read_program_of, read_scripts
from aedifex.cli.scenarios import scenarios_for
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.program.model.module import Module
from aedifex.program.model.statements import BRINGING, Kind
from aedifex.program.structure.state import Constants
from aedifex.source.files import write_folder
from aedifex.verify.compare import Comparison

NEEDS = Path(__file__).with_name("needs")
NODE_MODULES = Path(__file__).parents[2] / "support" / "javascript" / "node_modules"
CASES = sorted(path.parent.name for path in NEEDS.glob("*/case.json"))
needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")


def unmet(script: Path, case: Mapping[str, Any]) -> list[str]:
    """What a script, with the files that it imports, does not meet."""
    imported = DIALECT.files.neighbours(read_scripts([script]).main)
    return list(_unmet(list(read_scripts([script, *imported]).modules.values()), case))


def _unmet(modules: Sequence[Module], case: Mapping[str, Any]) -> Iterator[str]:
    classes = {scope.name: scope for module in modules for scope in module.classes}
    for name, methods in case["classes"].items():
        missing = set(methods) - set(classes[name].symbols) if name in classes else {"class"}
        if missing:
            yield f"{name} has no {', '.join(sorted(missing))}"
    for name, count in case.get("several", {}).items():
        made = sum(len(re.findall(rf"\bnew {name}\(", module.source.data.decode())) for module in modules)
        if made < count:
            yield f"{made} objects of {name}"
    found = case.get("called", ())
    free = [f.name for module in modules for f in module.functions if f.name not in found]
    if len(free) > case["functions_max"]:
        yield f"functions {', '.join(free)}"
    loose = [s for module in modules for s in module.block.statements if not _is_usual(module, s)]
    if len(loose) > case["loose_max"]:
        yield f"{len(loose)} loose statements"
    names = {
        r.name for module in modules for r in module.references if re.fullmatch(case.get("no_names", r"\b"), r.name)
    }
    if names:
        yield f"names {', '.join(sorted(names))}"
    walks = [s for module in modules for s in module.walk() if s.kind is Kind.EACH]
    if len(walks) < case.get("walks_min", 0):
        yield f"{len(walks)} walks"


def _is_usual(module: Module, statement) -> bool:
    """Whether a statement brings or hands out names, or makes a constant, the application, or the one object asked."""
    if statement.kind in BRINGING or module.dialect.rules.hands_out(module, statement):
        return True
    bound = [r.symbol for r in statement.references if r.declares]
    makes_one = statement.keyword is not None and len(statement.calls) == 1 and len(bound) == 1
    return bool(bound) and (makes_one or all(symbol in Constants.of(module) for symbol in bound))


def test_there_are_six():
    assert CASES == ["console", "copies", "factory", "records", "routes", "sketch"]


@needs_node
@pytest.mark.parametrize("name", CASES)
def test_a_script_becomes_what_it_needs(tmp_path, name):
    case = json.loads((NEEDS / name / "case.json").read_text())
    before, built = tmp_path / case["script"], tmp_path / "built" / case["script"]
    shutil.copy(NEEDS / name / case["script"], before)
    if name == "routes":
        (tmp_path / "node_modules").symlink_to(NODE_MODULES)
    program = read_program_of(before)
    write_folder(built.parent, new_files(program, build(program, propose(program))), before)
    ideal = tmp_path / "ideal" / case["script"]
    shutil.copytree(NEEDS / name / "ideal", ideal.parent)
    assert unmet(before, case)
    assert not unmet(ideal, case)
    assert not unmet(built, case)
    comparison = Comparison(before, built, DIALECT.runner)
    scenarios = scenarios_for(comparison, [], 0.4, None, lambda text: None)
    assert comparison.compare(scenarios).same
    assert Comparison(before, ideal, DIALECT.runner).compare(scenarios[:2]).same
