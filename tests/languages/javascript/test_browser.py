"""Pages run in a real browser: what the stand-in does not cover is written down there, and the rest is the same."""

from __future__ import annotations

import shutil
from importlib.resources import files
from pathlib import Path

import pytest

from aedifex.languages.javascript import DIALECT
from aedifex.languages.javascript.browser import COMMANDS
from aedifex.languages.python import DIALECT as PYTHON
from aedifex.source.errors import RunError, StoppedError
from aedifex.verify.running.run import Options, Run, run
from aedifex.verify.scenarios.scenario import Event, Scenario

has_browser = pytest.mark.skipif(
    shutil.which("node") is None or not any(map(shutil.which, COMMANDS)), reason="there is no Chromium"
)

SEA = """\
<!DOCTYPE html>
<p id="level">0</p><button id="rise">Rise</button><input id="name"><select id="at"><option>quay<option>reeds</select>
<canvas id="sea" width="200" height="100"></canvas>
<script>
let level = 0;
const gl = document.getElementById("sea").getContext("webgl");
const lines = gl.createBuffer();
gl.bindBuffer(gl.ARRAY_BUFFER, lines);
gl.bufferData(gl.ARRAY_BUFFER, new Float32Array([0, 0.5]), gl.STATIC_DRAW);
function rise() {
  level += 1;
  document.getElementById("level").textContent = level;
  localStorage.level = level;
  gl.clearColor(0, 0, level / 2, 1);
}
document.getElementById("rise").addEventListener("click", rise);
document.getElementById("name").onchange = (e) => console.log("named", e.target.value);
document.getElementById("at").onchange = (e) => (document.title = e.target.value);
document.addEventListener("keydown", (e) => { if (e.key === "ArrowUp") setTimeout(rise, 100); });
</script>
"""


def played(folder: Path, text: str, *events: Event, name="sea.html", lines=(), turns=12, options=None) -> Run:
    script = folder / name
    script.write_text(text)
    return run(script, Scenario(turns=turns, lines=lines, events=events), DIALECT.runner.in_browser(), None, options)


def said(found: Run, *kinds: str) -> list[str]:
    return [entry.text for entry in found.trace.entries if entry.kind in kinds]


@has_browser
def test_what_is_drawn_in_space_and_what_becomes_of_the_page_is_written_down(tmp_path):
    events = [
        Event(2, "choose", "Rise"),
        Event(3, "key", "ArrowUp"),
        Event(4, "fill", "Ada"),
        Event(6, "choose", "reeds"),
    ]
    found = played(tmp_path, SEA, *events)
    assert said(found, "draw") == [
        "canvas#sea: createBuffer()",
        "canvas#sea: bindBuffer(34962, WebGLBuffer 1)",
        "canvas#sea: bufferData(34962, [0, 0.5], 35044)",
        "canvas#sea: clearColor(0, 0, 0.5, 1)",
        "canvas#sea: clearColor(0, 0, 1, 1)",
    ]
    changes = [text for text in said(found, "page") if not text.startswith("the page has")]
    assert changes[:3] == ['p#level loses "0"', 'p#level gets "1"', 'kept: level = "1"']
    assert 'title gets "reeds"' in changes or any("<title>reeds" in text for text in changes)
    assert said(found, "out") == ["named Ada\n"]


@has_browser
def test_two_runs_are_alike_whatever_the_hour_and_chance_say(tmp_path):
    text = """\
<canvas></canvas><img id="kite"><script>
const ctx = document.querySelector("canvas").getContext("2d");
function step(now) { ctx.fillRect(Math.random(), now, Date.now() % 1000, performance.now()); requestAnimationFrame(step); }
requestAnimationFrame(step);
kite.onload = () => ctx.drawImage(kite, 0, 0);
kite.src = "data:image/svg+xml,<svg xmlns='http://www.w3.org/2000/svg' width='4' height='4'/>";
fetch("tide.json").then((answer) => answer.json()).then((tide) => console.log(tide.level));
setInterval(() => console.log("tick", crypto.randomUUID()), 50);
</script>
"""
    (tmp_path / "tide.json").write_text('{"level": 3}')
    one, two = played(tmp_path, text), played(tmp_path, text)
    assert one.trace.entries == two.trace.entries
    assert "3\n" in said(one, "out") and any("drawImage" in drawn for drawn in said(one, "draw"))


@has_browser
def test_the_lines_that_ran_are_those_of_the_page(tmp_path):
    text = SEA.replace("\n", "\r\n")
    lines = played(tmp_path, text, options=Options(watch_lines=True)).lines["sea.html"]
    assert {5, 6, 7, 11, 12, 16} <= lines.statements and lines.missing == {10, 11, 12, 13, 14, 17, 18, 19}


@has_browser
def test_the_stand_in_draws_what_the_browser_draws(tmp_path):
    """The one is held against the other, on the sample game with keys and clicks."""
    wake = files("aedifex") / "demo" / "wake" / "wake.html"
    events = (
        Event(3, "press", "ArrowUp"),
        Event(9, "let_go", "ArrowUp"),
        Event(12, "key", " "),
        Event(14, "click", (50, 60)),
    )
    scenario = Scenario(turns=60, events=events)
    one, two = (run(Path(str(wake)), scenario, runner) for runner in (DIALECT.runner, DIALECT.runner.in_browser()))
    assert said(one, "draw") == said(two, "draw") and len(said(one, "draw")) > 500


@has_browser
@pytest.mark.parametrize(
    ("script", "what"),
    [
        ("new WebSocket('ws://quay.example/')", "the network"),
        ("new Worker('tide.js')", "workers"),
        ("let x = createCanvas(3, 3)", "a library for sketches (`createCanvas`)"),
        ("document.title = require('fs')", "only what Node has"),
    ],
)
def test_what_even_a_browser_does_not_get_is_said(tmp_path, script, what):
    with pytest.raises(StoppedError, match="which is not covered") as caught:
        played(tmp_path, f"document.title = 'Quay';\n{script};\n", name="quay.js")
    assert what in caught.value.reason


@has_browser
def test_leaving_the_page_is_written_down_and_not_done(tmp_path):
    text = "<script>console.log(prompt('who?')); history.pushState({}, '', '#deep'); location.href = 'other.html';</script>"
    found = played(tmp_path, text, lines=("Ada",))
    assert said(found, "out") == ["Ada\n"]
    assert [text.split("/")[-1] for text in said(found, "page")] == ['asks "who?"', "sea.html#deep", "other.html"]


@has_browser
def test_verify_says_what_is_different_in_the_browser(tmp_path, cli):
    before, after = tmp_path / "a" / "sea.html", tmp_path / "b" / "sea.html"
    for file, text in ((before, SEA), (after, SEA.replace("level / 2", "level / 4"))):
        file.parent.mkdir()
        file.write_text(text)
    scenario = tmp_path / "sea.scenario.toml"
    scenario.write_text('format = 1\nturns = 2\n\n[[event]]\nturn = 1\nchoose = "Rise"\n')
    given = ("--browser", "--scenario", scenario, "--budget", "0")
    found = cli("verify", before, after, *given)
    assert found.returncode == 1 and "clearColor(0, 0, 0.5, 1)" in found.stdout


def test_without_a_browser_that_is_said(tmp_path, monkeypatch):
    monkeypatch.setattr(shutil, "which", lambda name: None)
    with pytest.raises(RunError, match="Chromium is needed"):
        played(tmp_path, SEA)


def test_only_pages_run_in_a_browser(tmp_path, cli):
    assert PYTHON.runner.in_browser() is None
    script = tmp_path / "quay.py"
    script.write_text("print(3)\n")
    found = cli("verify", script, script, "--browser")
    assert found.returncode == 2 and "--browser is for pages, and quay.py is none" in found.stderr
