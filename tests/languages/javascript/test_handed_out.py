"""Files that hand functions out to others: these keep their names, and hand on to the object that has the state."""

from __future__ import annotations

import shutil
import subprocess
from contextlib import suppress

import pytest

from aedifex.cli.reading import read_program_of
from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.source.errors import RefusedError
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario
from tests.support.javascript_programs import built

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

GAUGE = """\
'use strict';

const LIMIT = 40;
let total = 0;
let days = [];

function add(mm) {
  days.push(mm);
  total += mm;
  return total > LIMIT;
}

function average() {
  return days.length === 0 ? 0 : total / days.length;
}

module.exports = { add, average, LIMIT };
"""
TIDE = """\
let level = 2;
let marks = [];

export const LIMIT = 4;

export function rise(by = 1) {
  level += by;
  if (level > LIMIT) marks.push(level);
  return level;
}

export async function wait(ms) {
  await new Promise(done => setTimeout(done, ms));
  level -= 1;
  return level;
}

export function* all() {
  for (const mark of marks) yield mark;
}

export const fall = ({ by, twice }) => {
  level -= twice ? 2 * by : by;
  return level;
};

export default function summary(...names) {
  return `${names.join('-')} ${level} ${marks.length}`;
}
"""
ASKING = """\
import summary, { rise, wait, all, fall as sink, LIMIT } from './tide.mjs';
for (let i = 0; i < 4; i++) rise();
console.log(LIMIT, rise(3), sink({ by: 2 }), sink({ by: 1, twice: true }), [...all()], summary('a', 'b'));
console.log(rise.length, rise.name, sink.length, sink.name, summary.name);
wait(2).then(level => console.log(level, summary('x')));
Promise.resolve().then(() => console.log('tick'));
"""
STORE = """\
let seeds = [];
let nextId = 1;

exports.add = function (name) {
  seeds.push([nextId++, name]);
  return seeds.length;
};
module.exports.newest = () => seeds[seeds.length - 1];
"""
BANK = """\
let total = 0;
let kept = [];
module.exports = {
  pay(n) { total += n; kept.push(n); return total; },
  take: function (n) { total -= n; kept.push(-n); return total; },
  balance: () => total,
  kept,
};
"""


def rebuilt(folder, name: str) -> str:
    """What the script of a folder becomes; it is written in the old one's place."""
    program = read_program_of(folder / name)
    after = build(program, propose(program)).program
    for path, module in after.modules.items():
        path.write_bytes(module.source.encode())
    return after.main.source.encode().decode()


def said(folder, name: str) -> str:
    return subprocess.run(["node", folder / name], capture_output=True, text=True, check=False).stdout


def test_what_a_module_hands_out_stays_and_hands_on():
    made = built(GAUGE, "gauge.js")
    assert "class Gauge {" in made and "  add(mm) {\n    this.days.push(mm);" in made
    assert made.endswith(
        "const gauge = new Gauge();\n\nfunction add(mm) {\n  return gauge.add(mm);\n}\n\n"
        "function average() {\n  return gauge.average();\n}\n\nmodule.exports = { add, average, LIMIT };\n"
    )


def test_a_module_may_wait_for_what_it_runs():
    text = (
        "let tide = 0;\nlet marks = [];\n\nfunction rise() {\n  tide++;\n  marks.push(tide);\n}\n\n"
        "async function main() {\n  await null;\n  rise();\n  console.log(tide, marks);\n}\n\nawait main();\n"
    )
    assert built(text, "quay.mjs").endswith("}\n\nawait new Quay().run();\n")
    made = built(text.replace("function rise", "export function rise"), "quay.mjs")
    assert "const quay = new Quay();\nawait quay.run();\n\nexport function rise() {\n  quay.rise();\n}\n" in made
    assert "run()" not in built(text.replace("await main();", "tide += await main();"), "quay.mjs")


def test_routines_handed_out_without_a_name_get_that_of_their_member():
    made = built(STORE, "store.js")
    assert "function add(name) {\n  return store.add(name);\n}" in made and "exports.add = add;" in made
    assert "module.exports.newest = newest;" in made and "  newest() {\n    return this.seeds" in made
    made = built(BANK, "bank.js")
    assert "  pay,\n  take: take,\n  balance: balance,\n  kept,\n" in made and made.startswith("let kept = [];")


@needs_node
def test_whoever_imports_a_module_notices_nothing(tmp_path):
    """Careless: an `async` front waits once more, and one with the other's pattern hands on a part."""
    (tmp_path / "tide.mjs").write_text(TIDE)
    (tmp_path / "asking.mjs").write_text(ASKING)
    before = said(tmp_path, "asking.mjs")
    assert "export function fall(given) {\n  return tide.fall(given);\n}" in rebuilt(tmp_path, "tide.mjs")
    assert said(tmp_path, "asking.mjs") == before != ""


def test_a_script_is_run_as_the_page_that_loads_it(tmp_path):
    page = '<p id="quay">-</p><script src="main.js"></script>'
    (tmp_path / "quay.html").write_text(page)
    (tmp_path / "main.js").write_text("let tide = 0;\ndocument.getElementById('quay').textContent = tide;\n")
    files = DIALECT.files
    assert files.started_by(tmp_path / "main.js") == tmp_path / "quay.html" == files.started_by(tmp_path / "quay.html")
    (tmp_path / "quay.html").write_text(page.replace("<script", '<script type="module"'))
    assert files.started_by(tmp_path / "main.js") == tmp_path / "quay.html"


def test_a_page_without_code_of_its_own_says_where_it_is(tmp_path):
    (tmp_path / "quay.html").write_text('<script src="main.js"></script>')
    (tmp_path / "main.js").write_text("let tide = 0;\n")
    with pytest.raises(RefusedError, match="no code in this file itself") as raised:
        propose(read_program_of(tmp_path / "quay.html"))
    assert "main.js" in raised.value.advice


MODULES = {
    "a function is all that is handed out, and has more": (
        "let level = 1;\nlet log = [];\nfunction up(by) { level += by; log.push(by); if (by > 1) up(by - 1); return level; }\n"
        "function reset() { level = 1; log = []; }\nup.help = 'raises';\nmodule.exports = up;\n"
        "module.exports.reset = reset;\nmodule.exports.log = () => log;\n",
        "const up = require('./quay'); console.log(up(3), up.help, up.log(), up.name, up.length); up.reset(); console.log(up(1));",
    ),
    "what waits, and begins by itself": (
        "let kept = {};\nlet hits = 0;\nasync function load(key) {\n  if (kept[key]) { hits++; return kept[key]; }\n"
        "  await null;\n  kept[key] = key.toUpperCase();\n  return kept[key];\n}\nconst stats = () => ({ hits, kept });\n"
        "module.exports = { load, stats };\nif (require.main === module) load('z').then(console.log);\n",
        "const m = require('./quay'); m.load('a').then(() => m.load('a')).then(x => console.log(x, m.stats()));"
        "Promise.resolve().then(() => console.log(1)).then(() => console.log(2)).then(() => console.log(3));"
        "m.load().catch(e => console.log(e.constructor.name));",
    ),
    "some are asked by their members": (
        "var total = 0, parts = [];\nexports.add = add;\nexports.total = function () { return total; };\n"
        "function add(x) { parts.push(x); total += x; return exports.total(); }\n",
        "const m = require('./quay'); m.add(2); console.log(m.add(3), m.total()); m.total = () => 7; console.log(m.add(1));",
    ),
    "they are handed on, and come back": (
        "let names = [];\nlet last = '';\nconst add = name => { names.push(name); last = name; return add; };\n"
        "const all = () => [...names, last];\nmodule.exports = { add, all, ...{ size: () => names.length } };\n",
        "const m = require('./quay'); m.add('a')('b'); console.log(m.all(), m.size(), m.add === m.add);",
    ),
}
REFUSED = {
    "one counts what it is given": (
        "let n = 0;\nfunction next() { n += 1; return n; }\nfunction peek() { return arguments.length + n; }\n"
        "module.exports = { next, peek };\n",
        "const m = require('./quay'); console.log(m.next(), m.next(), m.peek(1, 2));",
    ),
    "one is called before all is there": (
        "let n = 0;\nfunction add(x) { n += x; return n; }\nlet sums = [1, 2].map(add);\n"
        "const last = () => sums[1] + n;\nmodule.exports = { add, last };\n",
        "const m = require('./quay'); console.log(m.add(2), m.last());",
    ),
}


@needs_node
@pytest.mark.parametrize("case", MODULES | REFUSED)
def test_what_a_module_hands_out_does_what_it_did(tmp_path, case):
    """Careless: a front that has no `arguments`, one that is not there early, one that forgets what hung on it."""
    module, asking = (MODULES | REFUSED)[case]
    (tmp_path / "quay.js").write_text(module)
    (tmp_path / "asking.js").write_text(asking)
    before = said(tmp_path, "asking.js")
    with suppress(RefusedError):
        rebuilt(tmp_path, "quay.js")
    assert ("class Quay" in (tmp_path / "quay.js").read_text()) is (case in MODULES)
    assert said(tmp_path, "asking.js") == before != ""


@needs_node
@pytest.mark.parametrize("more", ["", "level = 3;", "function sink() { depth = level; }\nsink();"])
def test_scripts_of_one_page_use_what_each_other_has(tmp_path, more):
    """Careless: what another script sets, declared or not, is a field of an object that it does not know."""
    tide = (
        "let level = 1;\nlet marks = [];\n\nfunction turn() {\n  level += 0.5;\n  marks.push(level);\n}\n\n"
        "function told() {\n  depth = level;\n  return 'tide ' + depth + ' ' + marks.length;\n}\n"
    )
    page = '<p onclick="turn()" id="quay">-</p><script src="tide.js"></script><script src="main.js"></script>'
    main = f"let frames = 0;\n{more}\nfunction step() {{\n  frames++;\n  turn();\n  console.log(frames, told());\n}}\nstep();\nstep();\n"
    for name, text in (("tide.js", tide), ("main.js", main), ("quay.html", page)):
        (tmp_path / name).write_text(text)
    before = run(tmp_path / "quay.html", Scenario(turns=3), DIALECT.runner)
    for name in ("tide.js", "main.js"):
        with suppress(RefusedError):
            rebuilt(tmp_path, name)
    assert ("class Tide" in (tmp_path / "tide.js").read_text()) is ("depth" not in more)
    after = run(tmp_path / "quay.html", Scenario(turns=3), DIALECT.runner)
    assert [e.text for e in after.trace.entries] == [e.text for e in before.trace.entries] != []
