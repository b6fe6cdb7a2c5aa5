"""Programs in JavaScript run in a scripted world, and do the same in each run."""

from __future__ import annotations

import shutil

import pytest

from aedifex.languages.javascript import DIALECT
from aedifex.source.errors import StoppedError
from aedifex.verify.running.run import Options, Run, run
from aedifex.verify.scenarios.improvised import Improvised
from aedifex.verify.scenarios.scenario import Scenario

pytestmark = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")


def played(folder, text: str, *lines: str, name: str = "quay.js", options: Options | None = None, **more) -> Run:
    script = folder / name
    script.write_text(text)
    return run(script, Scenario(lines=lines, **more), DIALECT.runner, None, options)


def said(found: Run, *kinds: str) -> list[str]:
    return [entry.text for entry in found.trace.entries if entry.kind in (kinds or ("out",))]


QUESTIONS = """\
const readline = require("node:readline");
const rl = readline.createInterface({ input: process.stdin, output: process.stdout });
let seeds = 0;
function ask() {
  rl.question("seeds? ", (answer) => {
    if (answer === "none") return rl.close();
    seeds += Number(answer);
    setTimeout(() => {
      console.log(seeds);
      ask();
    }, 500);
  });
}
ask();
"""


def test_what_is_typed_comes_when_the_program_waits_for_it(tmp_path):
    found = played(tmp_path, QUESTIONS, "3", "4", "none")
    assert said(found, "out", "typed") == ["seeds? ", "3\n", "3\n", "seeds? ", "4\n", "7\n", "seeds? ", "none\n"]
    assert str(found.trace.ending) == "exit code 0" and "waited 1 s" in found.trace.entries[-1].text


MODULE = """\
import { createInterface } from "node:readline/promises";
import { setTimeout as wait } from "node:timers/promises";
import { writeFileSync } from "node:fs";
const lines = [];
for await (const line of createInterface({ input: process.stdin })) {
  lines.push(line);
  await wait(1000);
}
writeFileSync("log.txt", lines.join());
console.log(new Date().toISOString(), Date());
"""


def test_modules_wait_where_they_stand_and_leave_files(tmp_path):
    found = played(tmp_path, MODULE, "ebb", "flow", name="quay.mjs")
    assert said(found)[0].startswith("2026-01-01T12:00:0") and said(found, "file")[0].endswith("b'ebb,flow'")


ORDER = """\
setTimeout(() => console.log("timer"), 0);
setImmediate(() => console.log("immediate"));
Promise.resolve().then(() => console.log("promise"));
process.nextTick(() => console.log("tick"));
process.on("exit", (code) => console.log("leaves", code));
const beat = setInterval(() => console.log(beats--) ?? (beats || clearInterval(beat)), 20);
let beats = 2;
console.log("first");
"""


def test_what_is_put_off_comes_in_its_order(tmp_path):
    lines = ["first", "tick", "promise", "immediate", "timer", "2", "1", "leaves 0"]
    assert said(played(tmp_path, ORDER)) == [f"{line}\n" for line in lines]


def test_chance_and_time_are_the_same_each_time_and_the_seed_tells_them_apart(tmp_path):
    text = (
        'const c = require("crypto");\nconsole.log(Math.random(), c.randomUUID(), c.randomInt(9), performance.now());\n'
    )
    one, two, other = played(tmp_path, text), played(tmp_path, text), played(tmp_path, text, seed=1)
    assert said(one) == said(two) != said(other)


def test_what_never_ends_is_stopped_after_its_turns(tmp_path):
    found = played(tmp_path, 'setInterval(() => process.stdout.write("."), 10);\n', turns=7)
    assert said(found) == ["." * 7] and found.trace.ending.stopped == "the scenario ends after 7 turns"


@pytest.mark.parametrize(
    ("text", "ending"),
    [
        ("function f() { throw new RangeError('too high'); }\nf();\n", "RangeError: too high (quay.js:1)"),
        ("(async () => { throw new Error('late'); })();\n", "Error: late (quay.js:1)"),
        ("process.exit(3);\n", "exit code 3"),
        ("process.exitCode = 4;\n", "exit code 4"),
        ("throw 'plain';\n", "a thrown value: plain"),
        (
            "process.on('uncaughtException', (e) => console.log(e.message));\nsetTimeout(() => { throw 1; });\n",
            "exit code 0",
        ),
        ("require('no-such-kite');\n", "Error: Cannot find module 'no-such-kite' (quay.js:1)"),
    ],
)
def test_how_a_program_ends(tmp_path, text, ending):
    assert str(played(tmp_path, text).trace.ending) == ending


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("require('fs');\ndocument.title = 'Quay';\n", "uses a page's document"),
        ("require('fs');\ncreateCanvas(9, 9);\n", "uses a library for sketches"),
        ("require('net').createServer(() => {}).listen(80);\n", "uses a server of its own sort"),
        ("require('child_process').execSync('ls');\n", "uses other processes"),
        ("fetch('http://localhost/');\n", "uses the network"),
        ("require('fs').writeFileSync('/tmp/quay.txt', 'x');\n", "tried to write outside its folder"),
        ("require('fs').promises.writeFile('../quay.txt', 'x');\n", "tried to write outside its folder"),
    ],
)
def test_what_is_not_covered_or_not_allowed_is_said(tmp_path, text, reason):
    with pytest.raises(StoppedError, match=reason):
        played(tmp_path, text)


def test_which_lines_ran(tmp_path):
    text = (
        "function high(tide) {\n  if (tide > 3) {\n    return 'high';\n  }\n  return 'low';\n}\nconsole.log(high(2));\n"
    )
    lines = played(tmp_path, text, options=Options(watch_lines=True)).lines["quay.js"]
    assert lines.statements == {1, 2, 3, 5, 7} and lines.missing == {3}


def test_lines_are_made_up_of_the_words_that_a_script_knows(tmp_path):
    options = Options(improvised=Improvised(12, seed=3, words=("none",), numbers=(40,)))
    found = played(tmp_path, QUESTIONS, options=options)
    assert len(found.heard["typed"]) >= 1 and said(found, "typed")


def test_reading_all_at_once_and_a_piece_at_a_time(tmp_path):
    whole = 'console.log(JSON.stringify(require("fs").readFileSync(0, "utf8")));\n'
    assert said(played(tmp_path, whole, "a", "b")) == ['"a\\nb\\n"\n']
    pieces = """\
const fs = require("fs");
const buffer = Buffer.alloc(4);
let text = "";
for (let count; (count = fs.readSync(0, buffer, 0, 4)); ) text += buffer.toString("utf8", 0, count) + "|";
console.log(text);
"""
    assert "".join(said(played(tmp_path, pieces, "abcdef"))) == "abcd|ef\n|\n"


def test_what_is_loaded_from_above_finds_its_package_and_what_it_loads_when_it_runs(tmp_path):
    """By a folder's package file, with a name that is only put together then, and packages that stand beside it."""
    files = {
        "package.json": '{"main": "lib/quay"}',
        "lib/quay.js": "exports.tide = (name) => require(`./levels/${name}`) + require('lamps').count;\n",
        "lib/levels/low.js": "module.exports = 3;\n",
        "node_modules/lamps/index.js": "exports.count = 4;\n",
    }
    for name, text in files.items():
        (tmp_path / name).parent.mkdir(parents=True, exist_ok=True)
        (tmp_path / name).write_text(text)
    (tmp_path / "demo" / "deep").mkdir(parents=True)
    found = played(tmp_path / "demo" / "deep", 'console.log(require( "../.." ).tide("low"));\n')
    assert said(found) == ["7\n"] and found.trace.ending.error == ""
