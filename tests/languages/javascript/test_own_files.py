"""Classes in files of their own: as modules import them, or as scripts of Node ask for them."""

from __future__ import annotations

import random

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.languages.javascript.sharing import Sharing, sharing_of
from aedifex.source.text import SourceText
from tests.support.javascript_programs import program_of
from tests.support.javascript_scripts import outcome_in_files, write_javascript

QUAY = """\
{head}const LIMIT = 5;

let tideLevel = 3, tideRising = true;
let boatX = 1, boatSpeed = 2;
let turns = 0;

function clamp(value) {{
  return Math.min(LIMIT, value);
}}

function moveTide() {{
  tideLevel = clamp(tideLevel + (tideRising ? 1 : -1));
  if (tideLevel > 4) tideRising = !tideRising;{tide}
}}

function moveBoat(by) {{
  boatX += clamp(boatSpeed * by);
  if (boatX > 9) boatSpeed = -boatSpeed;
}}

function turn() {{
  turns += 1;
  moveTide();
  moveBoat(turns);
  console.log(turns, tideLevel, boatX);
}}

for (let i = 0; i < 6; i++) turn();
process.exitCode = turns;
{end}"""


def files_of(name: str = "quay.js", head: str = "", tide: str = "", end: str = "") -> dict[str, str]:
    """The files that the script becomes, by their names."""
    program = program_of(QUAY.format(head=head, tide=tide and f"\n  {tide}", end=end), name)
    after = build(program, propose(program)).program
    return {path.name: module.source.encode().decode() for path, module in after.modules.items()}


def test_a_script_of_node_asks_for_what_others_hand_out():
    made = files_of(head="#!/usr/bin/env node\n'use strict';\nconst os = require('os');\n\n", tide="os.uptime();")
    assert set(made) == {"quay.js", "tide.js", "boat.js", "common.js"}
    head = "#!/usr/bin/env node\n'use strict';\nconst { Boat } = require('./boat.js');\n"
    assert made["quay.js"].startswith(head + "const { Tide } = require('./tide.js');\n\nclass Quay {")
    assert made["tide.js"].startswith("'use strict';\n\nconst os = require('os');\n\nconst { clamp } = require(")
    assert made["tide.js"].endswith("}\n\nmodule.exports = { Tide };\n")
    assert made["common.js"].endswith("module.exports = { clamp };\n")


def test_a_module_imports_what_others_export():
    made = files_of("quay.mjs", head='import * as os from "node:os";\n', tide="os.uptime();", end="export { turn };\n")
    assert set(made) == {"quay.mjs", "tide.mjs", "boat.mjs", "common.mjs"}
    assert 'import { Tide } from "./tide.mjs";' in made["quay.mjs"] and "export { turn };" in made["quay.mjs"]
    assert made["tide.mjs"].startswith('import * as os from "node:os";\n\nimport { clamp } from "./common.mjs";\n\n')
    assert "\nexport class Tide {\n" in made["tide.mjs"] and "export function clamp(value) {" in made["common.mjs"]


def test_a_word_on_strictness_stays_on_top():
    """Careless: what is asked for stands above it, and the script is sloppy."""
    assert files_of(head="'use strict';\n\n")["quay.js"].startswith("'use strict';\n\nconst { Boat } = require(")


@pytest.mark.parametrize(
    ("name", "given"),
    [
        ("quay.js", {"tide": "console.log(__dirname);"}),
        ("quay.js", {"tide": "require('./gauge').note(tideLevel);"}),
        ("quay.js", {"tide": "console.log(require.main === module);"}),
        ("quay.mjs", {"tide": "console.log(import.meta.url);"}),
        ("quay.mjs", {"head": "export ", "tide": "console.log(LIMIT);"}),
        ("quay.js", {"tide": "document.title = tideLevel;"}),
    ],
)
def test_classes_stay_where_they_mean_something_else_elsewhere(name, given):
    """Careless: another file is told of, asked for what is beside it, or handed out; a page imports nothing."""
    assert set(files_of(name, **given)) == {name}


def test_what_nothing_declares_is_declared_where_it_goes():
    """Careless: it is set in a file that is strict, which is an error there."""
    made = files_of(head="LEAST = 1;\n", tide="tideLevel = Math.max(LEAST, tideLevel);")
    assert "LEAST" not in made["quay.js"] and "let LEAST = 1;" in made["tide.js"]


@pytest.mark.parametrize(
    ("name", "text", "sharing"),
    [
        ("quay.mjs", "let a = 1;", Sharing.IMPORTS),
        ("quay.cjs", "let a = 1;", Sharing.REQUIRES),
        ("quay.js", "export const a = 1;", Sharing.IMPORTS),
        ("quay.js", "const fs = require('fs');", Sharing.REQUIRES),
        ("quay.js", "import('fs').then(console.log);", Sharing.PAGE),
        ("quay.js", "let a = 1;", Sharing.PAGE),
        ("quay.js", "module.exports = document;", Sharing.PAGE),
        ("quay.html", "<script>let a = 1;</script>", Sharing.PAGE),
    ],
)
def test_how_files_share_is_told_by_what_they_say(tmp_path, name, text, sharing):
    assert sharing_of(DIALECT.files.read(SourceText(tmp_path / name, text.encode()))) is sharing


def test_a_package_may_say_that_its_scripts_are_modules(tmp_path):
    (tmp_path / "package.json").write_text('{"type": "module"}')
    script = SourceText(tmp_path / "lib" / "quay.js", b"process.exitCode = 1;")
    assert sharing_of(DIALECT.files.read(script)) is Sharing.IMPORTS
    (tmp_path / "package.json").write_text("{")
    assert sharing_of(DIALECT.files.read(script)) is Sharing.REQUIRES


@pytest.mark.parametrize("seed", random.Random(7).sample(range(10_000), 6))
def test_random_scripts_do_the_same_with_files(seed):
    assert outcome_in_files(write_javascript(seed)).partition(":")[0] in ("same", "refused", "broken")
