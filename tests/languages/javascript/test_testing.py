"""Tests written for Node's runner: what they hold, what they see, and of what they are not written."""

from __future__ import annotations

import json
import os
import shutil
import subprocess
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from aedifex.languages.javascript import DIALECT, runner
from aedifex.languages.javascript.test_runners import NODE, runner_beside
from aedifex.languages.javascript.watching import watched
from aedifex.verify.calls import record
from aedifex.verify.scenarios.scenario import Event, Scenario

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
HERE = Path(runner.__file__).parent

KITES = """\
class Kite {
  constructor(x, rope = 3) {
    this.x = x;
    this.rope = rope;
    this.land = this.land.bind(this);
  }

  fly(wind) {
    if (this.x > 40 && wind < 2) this.rope -= 1;
    this.x += wind;
    return this.x;
  }

  draw(ctx) {
    ctx.fillStyle = "red";
    ctx.fillRect(this.x, width / 2, 5, 5);
  }

  land({ force }) { this.x = 0; }
  get height() { return this.rope; }
  async wait(turns) {}
  static made() {}
}
"""
PAGE = f"""\
<!DOCTYPE html>
<canvas id="quay"></canvas>
<script>
  {KITES}
  const width = 40;
  const ctx = document.getElementById("quay").getContext("2d");
  const kite = new Kite(38);
  function onKey(event) {{ kite.fly(event.key === "w" ? 3 : 1); kite.draw(ctx); }}
  document.addEventListener("keydown", onKey);
</script>
"""
COUNTER = """\
const readline = require("readline");
const rl = readline.createInterface({ input: process.stdin, output: process.stdout });
let seeds = 0;
let days = 0;
function add(line) {
  seeds += Number(line) || 0;
  days++;
  if (seeds > 20) {
    console.log("the drawer is full after", days);
    seeds = 0;
  } else {
    console.log(`day ${days}: ${seeds} seeds`);
  }
}
function close() { console.log("closed on day", days); }
rl.on("line", add);
rl.on("close", close);
"""


def node(code: str, *arguments: str) -> str:
    command = ["node", "-e", code, *arguments]
    return subprocess.run(command, capture_output=True, text=True, check=True).stdout


def passes(tests: Path) -> bool:
    return subprocess.run(["node", "--test", str(tests)], capture_output=True, check=False).returncode == 0


def test_classes_are_watched_from_where_they_are_declared():
    text = watched(Path("quay.js"), (KITES + "new Kite(1).fly(2);\n").encode(), ["Kite"]).decode()
    told = text.partition("aedifexWatched(Kite, ")[2].partition(");")[0]
    assert json.loads(told) == {
        "constructor": ["x", "rope"],
        "fly": ["wind"],
        "draw": ["ctx"],
        "wait": ["turns"],
    }
    assert text.endswith(");\nnew Kite(1).fly(2);\n")
    page = watched(Path("quay.html"), PAGE.encode(), ["Kite"]).decode()
    assert page.index("aedifexWatched") < page.index("const width")
    assert watched(Path("quay.js"), KITES.encode(), ["Gull"]).decode() == KITES


def test_a_mistake_stands_in_one_place_and_the_text_can_still_be_read():
    for text in (KITES, PAGE):
        found = DIALECT.testing.mutants(text, 100, 1)
        others = {mutant.text for mutant in found}
        assert "fly" in {mutant.routine for mutant in found}
        assert len(others) == len(found) and text not in others
        assert any("wind <= 2" in other for other in others) and any("this.rope += 1" in other for other in others)
        for mutant in found:
            before, after = (each.splitlines()[mutant.line - 1] for each in (text, mutant.text))
            assert before != after
    assert len(DIALECT.testing.mutants(KITES, 3, 1)) == 3
    line = KITES[: KITES.index("wind < 2")].count("\n") + 1
    assert {mutant.line for mutant in DIALECT.testing.mutants(KITES, 100, 1, frozenset({line}))} == {line}


def test_a_mistake_with_routes():
    text = 'app.get("/kites", (req, res) => res.send(req.query.x));\napp.post("/boats", (req, res) => res.send(""));\n'
    made = {mutant.what: mutant.text for mutant in DIALECT.testing.mutants(text, 9, 1, has_routes=True)}
    assert "req.query.x_)" in made["wrong key"]
    assert made["swapped handlers"] == text.replace("kites", "?").replace("boats", "kites").replace("?", "boats")


def test_values_at_the_borders_of_conditions():
    tried = DIALECT.testing.borders(PAGE)["Kite.fly"]
    assert {".x": "40", "wind": "2"} in tried
    assert [each for each in tried if set(each) == {".x"}] == [{".x": "40"}, {".x": "39"}, {".x": "41"}]


@needs_node
@settings(max_examples=1, deadline=None)
@given(
    st.lists(
        st.recursive(
            st.none() | st.booleans() | st.integers(-9999, 9999) | st.floats(allow_nan=False) | st.text(max_size=5),
            lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=4), inner, max_size=3),
            max_leaves=8,
        ),
        min_size=50,
        max_size=80,
    )
)
def test_the_text_of_a_value_makes_it_anew(values):
    code = """
const { written } = require(process.argv[1]);
const same = require("node:util").isDeepStrictEqual;
const more = [undefined, -0, NaN, 7n, new Map([["a", [1]]]), new Set([2]), new Date(5), Array(20).fill(0), new Float32Array(3)];
const wrong = [...JSON.parse(process.argv[2]), ...more].filter((value) => !same(eval(`(${written(value)})`), value));
console.log(JSON.stringify([wrong, [written(Symbol("x")), written(class {}), written({ get x() { return 1; } })]]));
"""
    found = node(code, str(HERE / "replay" / "values.cjs"), json.dumps(values))
    assert json.loads(found) == [[v for v in values if "__proto__" in json.dumps(v)], [None] * 3]


@needs_node
def test_calls_are_noted_with_what_they_are_given_and_find(tmp_path):
    script = tmp_path / "quay.html"
    script.write_text(PAGE)
    keys = tuple(Event(turn, "key", key) for turn, key in enumerate("wa", 1))
    calls = record(script, tmp_path, ["Kite"], [Scenario(events=keys, turns=3)], DIALECT.runner)
    start, flown, drawn, *_ = calls
    assert (start.method, start.given, start.after) == ("constructor", (("x", "38"),), {"x": "38", "rope": "3"})
    assert (flown.method, flown.given, flown.result, flown.changed) == ("fly", (("wind", "3"),), "41", {"x"})
    assert drawn.given == (("ctx", "outside.ctx"),) and drawn.result == "undefined"


@needs_node
def test_what_handlers_ask_of_events_is_noted(tmp_path):
    script = tmp_path / "quay.html"
    script.write_text(
        "<script>class Quay { constructor() { this.last = 0; }\n"
        "  press(event) { this.last = event.key; if (event.target.tagName) event.preventDefault(); } }\n"
        "const quay = new Quay(); document.addEventListener('keydown', (event) => quay.press(event));</script>"
    )
    calls = record(script, tmp_path, ["Quay"], [Scenario(events=(Event(1, "key", "w"),), turns=2)], DIALECT.runner)
    [(_, text)] = calls[1].given
    assert text is not None and 'key: "w"' in text and "preventDefault: outside.event.preventDefault" in text


def with_tests(cli, script: Path, text: str):
    """What is said when tests are written of what is built of a script."""
    script.write_text(text)
    design = f"{script.stem}.design.toml"
    assert cli("draft", script.name).returncode == 0
    assert cli("build", design, "--into", "built").returncode == 0
    return cli("tests", design, "--into", "built", "--budget", "1")


@needs_node
def test_tests_of_a_console_program_hold_and_see_a_mistake(cli, tmp_path):
    done = with_tests(cli, tmp_path / "drawer.js", COUNTER)
    tests = tmp_path / "built" / "drawer.test.js"
    assert done.returncode == 0 and f"node --test {Path('built/drawer.test.js')}" in done.stdout
    text = tests.read_text()
    assert '.add", (t) => {' in text and 'test("a conversation", () => {' in text
    assert passes(tests)
    for built in (tmp_path / "built").glob("[!.]*[!t].js"):
        built.write_text(built.read_text().replace("> 20", "> 200"))
    assert not passes(tests)


GAUGE = """\
let rain = 0;
let days = 0;
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
async function measure(amount) {
  await sleep(10);
  rain += amount;
  days++;
  if (rain > 20) {
    console.log("full after", days);
    rain = 0;
  }
  return rain;
}
async function wait() {
  await new Promise((resolve) => { later = resolve; setTimeout(() => resolve(days), 5); });
  rain += 1;
}
let later;
async function main() {
  for (const amount of [3, 9, 12]) console.log(await measure(amount));
  await wait();
}
main();
"""


@needs_node
def test_a_test_waits_for_what_a_method_waits_for(cli, tmp_path):
    done = with_tests(cli, tmp_path / "gauge.js", GAUGE)
    assert done.returncode == 0
    assert ".wait is left out: played again, it stops with a wait that does not end" in done.stdout
    text = (tmp_path / "built" / "gauge.test.js").read_text()
    assert '.measure", async (t) => {' in text
    assert "assert.equal(await gauge.measure(12), 0);" in text
    assert 'assert.deepEqual(asked, ["setTimeout(a function, 10)"]);' in text
    assert passes(tmp_path / "built" / "gauge.test.js")
    built = tmp_path / "built" / "gauge.js"
    built.write_text(built.read_text().replace("> 20", "> 200"))
    assert not passes(tmp_path / "built" / "gauge.test.js")


OTHER_RUNNERS = {
    "jest": ({"scripts": {"test": "CI=1 jest --coverage"}}, "npx jest", "js"),
    "mocha": ({"scripts": {"test": "nyc mocha"}, "devDependencies": {"vitest": "^4"}}, "npx mocha", "js"),
    "vitest": ({"devDependencies": {"vitest": "^4"}}, "npx vitest run", "mjs"),
}
STANDING_IN = """\
const { dirname } = require("node:path");
const stopped = (error) => { console.error(error); process.exit(1); };
globalThis.__dirname = dirname(process.env.TESTS);
let before;
globalThis.beforeEach = (set) => { before = set; };
let done = Promise.resolve();
globalThis.it = (name, check) => { done = done.then(() => before()).then(check).catch(stopped); };
"""


@pytest.mark.parametrize("name", OTHER_RUNNERS)
def test_tests_are_run_by_what_the_package_names(tmp_path, name):
    package, command, ending = OTHER_RUNNERS[name]
    (tmp_path / "package.json").write_text(json.dumps(package))
    testing = DIALECT.testing.beside(tmp_path / "drawer.js")
    assert testing.command == command and testing.file_name(Path("drawer.js")) == f"drawer.test.{ending}"


@needs_node
@pytest.mark.parametrize("name", ["jest", "vitest"])  # `mocha` has the same words as `jest`
def test_tests_are_written_for_the_runner_that_the_package_names(cli, tmp_path, name):
    package, command, ending = OTHER_RUNNERS[name]
    (tmp_path / "package.json").write_text(json.dumps(package))
    (tmp_path / "drawer.js").write_text(COUNTER)
    assert cli("draft", "drawer.js").returncode == 0
    assert cli("build", "drawer.design.toml", "--into", "built").returncode == 0
    done = cli("tests", "drawer.design.toml", "--into", "built", "--budget", "1")
    tests = tmp_path / "built" / f"drawer.test.{ending}"
    assert done.returncode == 0 and f"{command} {tests.relative_to(tmp_path)}" in done.stdout
    inside = tmp_path / "node_modules" / "vitest"
    inside.mkdir(parents=True)
    (inside / "index.js").write_text(f"{STANDING_IN}exports.it = it;\nexports.beforeEach = beforeEach;\n")

    def run() -> int:
        code = f"require('vitest');import({json.dumps(str(tests))})"
        environment = {**os.environ, "TESTS": str(tests)}
        return subprocess.run(["node", "-e", code], cwd=tmp_path, env=environment, capture_output=True).returncode

    assert run() == 0
    for built in (tmp_path / "built").glob("[!.]*[!t].js"):
        built.write_text(built.read_text().replace("> 20", "> 200"))
    assert run() == 1


@pytest.mark.parametrize(
    "text", ["{", "[]", '{"scripts": 3, "devDependencies": ["jest"]}', '{"scripts": {"test": "jester"}}']
)
def test_packages_that_name_none_are_tested_with_nodes_own(tmp_path, text):
    (tmp_path / "package.json").write_text(text)
    assert runner_beside(tmp_path / "drawer.js") is NODE


@needs_node
def test_tests_of_modules_load_what_they_import(cli, tmp_path):
    text = COUNTER.replace(
        'const readline = require("readline");', 'import readline, { clearLine } from "node:readline";'
    )
    text = text.replace("seeds += Number(line) || 0", "seeds = sum(seeds, Number(line) || 0)").replace(
        "> 20", "> limit"
    )
    (tmp_path / "sums.mjs").write_text(
        "export const most = 20;\nexport default function sum(a, b) {\n  return a + b;\n}\n"
    )
    (tmp_path / "drawer.mjs").write_text('import sum, { most as limit } from "./sums.mjs";\n' + text)
    assert cli("draft", "drawer.mjs").returncode == 0
    assert cli("build", "drawer.design.toml", "--into", "built").returncode == 0
    (tmp_path / "built" / "sums.mjs").write_bytes((tmp_path / "sums.mjs").read_bytes())
    done = cli("tests", "drawer.design.toml", "--into", "built", "--budget", "1")
    assert done.returncode == 0 and "drawer.test.cjs" in done.stdout
    assert passes(tmp_path / "built" / "drawer.test.cjs")


@pytest.mark.parametrize(
    ("line", "reason"), [("await main();", "waits while it is loaded"), ("main(import.meta.url);", "import.meta")]
)
def test_modules_that_wait_or_ask_for_their_place_are_refused(cli, tmp_path, line, reason):
    code = "import fs from 'node:fs';\nlet a = 0;\nlet b = 1;\nfunction add() { a += b; b++; }\n"
    main = "async function main() {\n  add();\n  add();\n  fs.writeSync(1, `${a} ${b}`);\n}\n"
    (tmp_path / "drawer.mjs").write_text(f"{code}{main}{line}\n")
    assert cli("draft", "drawer.mjs").returncode == 0
    done = cli("tests", "drawer.design.toml", "--into", "built")
    assert done.returncode == 3 and reason in done.stderr


@needs_node
def test_tests_that_fail_are_named(tmp_path):
    tests = tmp_path / "quay.test.js"
    tests.write_text(
        'const { beforeEach, test } = require("node:test");\nconst assert = require("node:assert/strict");\n'
        "let count = 0;\nbeforeEach(() => count++);\n"
        'test("good", () => assert.ok(count > 0));\ntest("bad", () => assert.equal(count, 0));\n'
        'test("printing", (t) => { t.mock.method(console, "log", () => 0); console.log("x"); });\n'
    )
    for order in ("forth", "back"):
        command = ["node", str(HERE / "trial_driver.cjs"), str(tests), order]
        found = subprocess.run(command, capture_output=True, text=True, check=True).stdout
        assert list(json.loads(found.splitlines()[-1])) == ["bad"] and "x" not in found.splitlines()
    tests.write_text("let = ;")
    found = subprocess.run([*command[:-1], "forth"], capture_output=True, text=True, check=True).stdout
    assert "SyntaxError" in json.loads(found)[""]
