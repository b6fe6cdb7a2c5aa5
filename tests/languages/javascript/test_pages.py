"""Pages and sketches run without a browser: what they draw, say and keep is written down."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from aedifex.languages.javascript import DIALECT
from aedifex.source.errors import StoppedError
from aedifex.source.text import SourceText
from aedifex.verify.compare import Comparison
from aedifex.verify.running.run import Options, Run, run
from aedifex.verify.scenarios.scenario import Event, Scenario
from tests.support.javascript_programs import refusal

pytestmark = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")


def played(folder, text: str, *events: Event, name="quay.html", turns=12, lines=(), options=None) -> Run:
    script = folder / name
    script.write_text(text)
    scenario = Scenario(turns=turns, lines=lines, events=events)
    return run(script, scenario, DIALECT.runner, None, options)


def said(found: Run, *kinds: str) -> list[str]:
    return [entry.text for entry in found.trace.entries if entry.kind in (kinds or ("draw", "page"))]


WAKE = """\
<!DOCTYPE html>
<canvas id="wake" width="400" height="200"></canvas>
<p class="score">0</p><button id="more">More &amp; more</button>
<script>
var x = 0, speed = 2, score = 0;
var ctx = document.getElementById("wake").getContext("2d");
function step() {
  x += speed;
  ctx.fillRect(x, 50, 10, 10);
  requestAnimationFrame(step);
}
document.addEventListener("keydown", (e) => { if (e.key === "ArrowUp") speed = 5; });
document.querySelector("#more").onclick = function () { this.disabled = true; tell(++score); };
</script>
<script>
function tell(text) { document.querySelector("p.score").textContent = text; }
step();
</script>
"""


def test_frames_keys_and_buttons_come_in_their_turns(tmp_path):
    found = played(tmp_path, WAKE, Event(2, "key", "ArrowUp"), Event(3, "choose", "More & more"), turns=4)
    moves = ["fillRect(2, 50, 10, 10)", "fillRect(4, 50, 10, 10)", "fillRect(9, 50, 10, 10)"]
    assert said(found, "draw")[:3] == [f"canvas#wake: {move}" for move in moves]
    assert said(found, "page") == ['disabled of button#more is ""', 'p.score says "1"']
    assert found.trace.ending.stopped == "the scenario ends after 4 turns"


def test_the_lines_of_a_page_that_ran_are_those_of_its_scripts(tmp_path):
    lines = played(tmp_path, WAKE, options=Options(watch_lines=True)).lines["quay.html"]
    assert lines.statements == {5, 6, 7, 8, 9, 10, 12, 13, 16, 17} and lines.missing == {12, 13, 16}


SKETCH = """\
let x = 0;
let kites = [];
function setup() {
  createCanvas(200, 100);
  noStroke();
  kites.push(createVector(3, 4));
}
function draw() {
  background(220);
  x = constrain(x + kites[0].mag(), 0, width);
  ellipse(x, mouseY, 10);
}
function mousePressed() {
  fill(255, 0, 0);
}
function keyPressed() {
  if (keyCode === LEFT_ARROW) noLoop();
}
"""


def test_a_sketch_is_set_up_and_draws_until_it_stops(tmp_path):
    events = Event(1, "click", (7, 9)), Event(3, "key", "ArrowLeft")
    found = played(tmp_path, SKETCH, *events, name="quay.js")
    drawn = said(found, "draw")
    first = ["createCanvas(200, 100)", "noStroke()", "background(220)", "ellipse(5, 0, 10)"]
    assert drawn[:6] == [*first, "fill(255, 0, 0)", "background(220)"] and drawn[6] == "ellipse(10, 9, 10)"
    assert drawn.count("background(220)") < 6 and str(found.trace.ending) == "exit code 0"


def test_a_page_that_draws_for_itself_is_no_sketch(tmp_path):
    text = WAKE.replace("step", "draw").replace("draw();", "draw(); function setup() { alert('never'); }", 1)
    assert 'says "never"' not in said(played(tmp_path, text))


def test_a_sketch_has_widgets(tmp_path):
    text = """\
let slider;
function setup() {
  noCanvas();
  slider = createSlider(0, 10, 4);
  createButton("go").mousePressed(() => print(slider.value()));
  noLoop();
}
"""
    found = played(tmp_path, text, Event(3, "touch", 1), name="quay.js")
    assert said(found, "out") == ["4\n"]
    assert 'body gets <input type="range" min="0" max="10" value="4" step="1">' in said(found, "page")


@pytest.mark.parametrize(
    ("script", "told"),
    [
        ('document.title = "Quay";', 'title says "Quay"'),
        ('document.body.innerHTML = "<b>ebb</b>";', 'body holds "<b>ebb</b>"'),
        ('document.body.appendChild(document.createElement("i")).id = "a";', 'id of i#a is "a"'),
        ('document.body.classList.toggle("high");', 'class of body.high is "high"'),
        ('document.body.style.color = "red";', 'the style color of body is "red"'),
        ("document.body.dataset.tide = 3;", 'data-tide of body is "3"'),
        ('localStorage.best = 4; localStorage.setItem("a", localStorage.best + 1);', 'kept: a = "41"'),
        ('document.cookie = "a=1; path=/"; document.cookie = "b=2"; alert(document.cookie);', 'says "a=1; b=2"'),
        ('alert("full");', 'says "full"'),
        ('location.href = "/north";', 'goes to href "/north"'),
        ('new Audio("horn.mp3").play();', 'plays audio "horn.mp3"'),
        ('window.addEventListener("load", () => alert(document.readyState));', 'says "complete"'),
        ('setTimeout("alert(1 + 1)", 10);', 'says "2"'),
        ('const i = new Image(); i.onload = () => alert(i.src); i.src = "kite.png";', 'says "kite.png"'),
        (
            "alert(typeof process + typeof require + (this === window) + self.innerWidth);",
            'says "undefinedundefinedtrue1280"',
        ),
    ],
)
def test_what_a_page_does_is_written_down(tmp_path, script, told):
    assert told in said(played(tmp_path, f"<body></body><script>{script}</script>"))


def test_what_is_asked_is_typed(tmp_path):
    text = '<script>alert(prompt("name?") + confirm("sure?"));</script>'
    assert said(played(tmp_path, text, lines=("Alma", "no")))[-1] == 'says "Almafalse"'


def test_a_listener_is_gone_when_it_is_taken_away_and_events_go_up(tmp_path):
    text = """\
<div id="a"><button>b</button></div>
<script>
const say = (e) => alert(e.type + " " + e.currentTarget.id + " " + e.target.tagName);
const a = document.getElementById("a");
a.addEventListener("click", say);
document.querySelector("button").addEventListener("click", () => a.removeEventListener("click", say), { once: true });
a.addEventListener("click", (e) => { e.stopPropagation(); alert("last"); });
document.addEventListener("click", () => alert("never"));
</script>
"""
    assert said(played(tmp_path, text, Event(1, "choose", "b"), Event(2, "choose", "b"))) == [
        'says "last"',
        'says "last"',
    ]


def test_scripts_share_their_variables_and_go_on_after_an_error(tmp_path):
    (tmp_path / "tide.js").write_text("let level = 3;\nvar high = level > 2;\n")
    text = (
        '<script src="tide.js"></script><script>level.x.y;</script><script>alert(level + " " + window.high);</script>'
    )
    found = played(tmp_path, text)
    assert said(found) == ['says "3 true"']
    assert said(found, "err")[0].startswith("Uncaught TypeError: Cannot read properties of undefined")


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ('<script type="module">import "quay";</script>', "the module `quay`"),
        (
            '<canvas></canvas><script>document.querySelector("canvas").getContext("webgl");</script>',
            "a canvas for webgl",
        ),
        ('<script src="https://example.org/d3.js"></script><script>d3.select("p");</script>', "what is not here"),
        ("<script>new Worker('w.js');</script>", "workers"),
        ("<script>fetch('https://example.org/tide');</script>", "the network"),
        ("<script>fetch('../tide.json');</script>", "the network"),
        ("<script>function setup() { noCanvas(); loadJSON('none.json'); }</script>", "data that is not here"),
        ("<script>function setup() { noCanvas(); httpGet('a.csv'); }</script>", "the network"),
    ],
)
def test_what_is_not_covered_is_said(tmp_path, text, reason):
    with pytest.raises(StoppedError, match=reason):
        played(tmp_path, text)


def test_files_beside_a_page_are_there_when_it_asks_for_them(tmp_path):
    (tmp_path / "tide.json").write_text('{"level": 3}')
    text = """<script>
const request = new XMLHttpRequest();
request.onload = function () { alert(this.status + " " + JSON.parse(this.responseText).level); };
request.open("GET", "tide.json");
request.send();
fetch("./tide.json").then((answer) => answer.json()).then((tide) => alert(tide.level + 1));
fetch("none.json").then((answer) => alert(answer.status + " " + answer.ok));
</script>"""
    found = played(tmp_path, text)
    assert said(found)[:3] == ["asks for tide.json", "asks for ./tide.json", "asks for none.json"]
    assert sorted(said(found)[3:]) == ['says "200 3"', 'says "4"', 'says "404 false"']


def test_what_a_sketch_draws_in_space_is_written_down(tmp_path):
    (tmp_path / "hours.txt").write_text("6\n18")
    text = """let hours;
function preload() { hours = loadStrings("hours.txt"); }
function setup() { createCanvas(90, 90, WEBGL); noLoop(); }
function draw() {
  rotateY(0.5);
  ambientLight(50);
  box(Number(hours[1]));
  const buffer = createFramebuffer();
  buffer.draw(() => sphere(3));
}
"""
    found = said(played(tmp_path, text, name="quay.js"))
    assert found == [
        "createCanvas(90, 90, webgl)",
        "rotateY(0.5)",
        "ambientLight(50)",
        "box(18)",
        "framebuffer: begin()",
        "sphere(3)",
        "framebuffer: end()",
    ]


@pytest.mark.parametrize("fails", ["preload", "setup"])
def test_a_sketch_that_cannot_be_set_up_is_not_drawn(tmp_path, fails):
    text = """let boat;
function preload() { print("preload"); if (FAILS === "preload") boat.x = 3; }
function setup() { createCanvas(90, 90); print("setup"); boat.x = 3; }
function draw() { print("drawn"); }
""".replace("FAILS", f"'{fails}'")
    found = played(tmp_path, text, name="quay.js")
    assert [line.rstrip() for line in said(found, "out")] == ["preload", "setup"][: 1 + (fails == "setup")]


def test_modules_are_carried_out_once_behind_the_page_and_after_what_they_import(tmp_path):
    (tmp_path / "lib").mkdir()
    (tmp_path / "lib" / "tide.js").write_text(
        'import { rise } from "sums"; alert("tide"); export let level = rise(2); export const rises = () => (level += 1);'
    )
    (tmp_path / "lib" / "sums.js").write_text('alert("sums"); export const rise = (x) => x + 1;')
    text = """\
<script type="importmap">{ "imports": { "sums": "./lib/sums.js" } }</script>
<script type="module" src="lib/tide.js"></script>
<script type="module">
import { level, rises } from "./lib/tide.js";
rises();
alert(level + " " + import.meta.url.endsWith("/quay.html") + " " + (typeof last));
const later = await import("./lib/sums.js");
alert(later.rise(9));
</script>
<script type="module">throw new Error("no tide");</script>
<script>var last = 1; alert("first");</script>
"""
    found = played(tmp_path, text)
    assert said(found) == ['says "first"', 'says "sums"', 'says "tide"', 'says "4 true number"', 'says "10"']
    assert said(found, "err") == ["Uncaught Error: no tide\n"]


def test_tables_and_documents_that_a_sketch_loads(tmp_path):
    (tmp_path / "tide.csv").write_text('hour,level,who\n6,3,"Ada, quay"\n18,5,Ben\n')
    (tmp_path / "quay.xml").write_text('<!-- k --><quay><kite id="4">red &amp; blue</kite><boat/><kite id="5"/></quay>')
    text = """let tide, quay;
function preload() { tide = loadTable("tide.csv", "csv", "header"); quay = loadXML("quay.xml"); }
function setup() {
  noCanvas();
  tide.addRow().setString("who", "Cleo");
  print(tide.getColumnCount(), tide.getRowCount(), tide.getNum(0, "level"), tide.get(0, 2), tide.columns);
  print(tide.findRow("Ben", "who").getString("hour"), tide.getColumn("who"), tide.matchRows("e", 2).length);
  const kites = quay.getChildren("kite");
  print(quay.listChildren(), kites.length, kites[0].getContent(), kites[1].getNum("id"), kites[0].getString("to", "-"));
  print(kites[0].getParent().getName(), quay.getChild("boat").hasChildren(), quay.serialize());
}
"""
    found = played(tmp_path, text, name="quay.js")
    assert [line.rstrip() for line in said(found, "out")] == [
        "3 3 3 Ada, quay hour,level,who",
        "18 Ada, quay,Ben,Cleo 2",
        "kite,boat,kite 2 red & blue 5 -",
        'quay false <quay><kite id="4">red & blue</kite><boat/><kite id="5"/></quay>',
    ]
    assert found.trace.ending.made_up == ()


def test_what_a_sketch_loads_and_is_not_there_is_made_up_and_that_is_said(tmp_path):
    text = """let tide, quay, lines;
function preload() { tide = loadTable("a/tide.csv", "header"); quay = loadXML("quay.xml"); lines = loadStrings("l.txt"); }
function setup() {
  noCanvas();
  for (const row of tide.getRows()) print(row.getNum("level"), row.getString("who"));
  print(tide.columns, tide.get(0, "first"), tide.get(2, 1));
  for (const kite of quay.getChildren("kite")) print(kite.getNum("id"), kite.getContent());
  print(lines.length);
}
"""
    found = played(tmp_path, text, name="quay.js")
    assert [line.rstrip() for line in said(found, "out")] == [
        "14 15",
        "24 25",
        "34 35",
        "first,second,third,level,who 11 32",
        "1 1",
        "2 2",
        "3 3",
        "3",
    ]
    assert found.trace.ending.made_up == ("a/tide.csv", "quay.xml", "l.txt")


def test_what_a_sketch_works_out_and_puts_beside_its_canvas(tmp_path):
    text = """function setup() {
  const choice = createRadio();
  choice.option("ebb"); choice.option("flood");
  choice.selected("flood");
  const paint = createColorPicker("#ff8000");
  print(choice.value(), paint.color().levels, select("input").elt.type, selectAll("label").length);
  print(hue("#00ff00"), brightness(color(0, 51, 0)), nfc(1234567.5, 1), nf(-3.14159, 2, 1), int(["4.7", "2"]));
  print(createVector(1, 2).mult(2).cross(createVector(0, 1)).z, p5.Vector.sub(createVector(3, 1), [1, 1]).x);
  print(bezierPoint(0, 1, 2, 3, 0.5), sort([3, 10, 2]), matchAll("a1 b2", "[0-9]").length);
  new p5.Oscillator("sine").freq(440);
}
"""
    found = played(tmp_path, text, name="quay.js")
    assert [line.rstrip() for line in said(found, "out")] == [
        "flood 255,128,0,255 radio 2",
        "120 20 1,234,567.5 -03.1 4,2",
        "2 2",
        "1.5 2,3,10 2",
    ]
    assert "Oscillator: freq(440)" in said(found, "draw")


def test_sounds_that_a_page_works_out_are_written_down(tmp_path):
    text = """<script>
const sounds = new AudioContext();
const horn = sounds.createOscillator();
horn.frequency.setValueAtTime(220, sounds.currentTime);
horn.type = "square";
horn.connect(sounds.destination);
</script>"""
    assert said(played(tmp_path, text, turns=1)) == [
        "sounds.createOscillator()",
        "sounds.createOscillator().frequency.setValueAtTime(220, 0)",
        'sounds.createOscillator().type is "square"',
        "sounds.createOscillator() to sounds.destination",
    ]


def test_a_page_with_a_function_draw_of_its_own_is_no_sketch(tmp_path):
    text = "<script>let n = 0;\nfunction draw() { alert(++n); document.createElement('p'); }\ndraw();</script>"
    assert said(played(tmp_path, text, turns=4)) == ['says "1"']


def test_what_a_page_listens_to():
    keys = "function f(e) { if (e.keyCode == 40) x = 1; if (e.key === 'a') x = 2; }"
    text = f'<input><input type="checkbox"><textarea></textarea>{WAKE}<script>{keys}</script>'
    inputs = DIALECT.library.inputs_of(DIALECT.files.read(SourceText(Path("quay.html"), text.encode())))
    assert set(inputs.keys) == {"ArrowUp", "ArrowDown", "a"} and inputs.fields == 2
    assert inputs.widgets == ("More & more",) and not inputs.takes_lines


def test_the_keys_of_a_table_in_which_the_script_looks_are_typed():
    text = (
        "const boats = { Alma: 1 };\nconst deeds = {\n  moor,\n  'cast off': () => { count({ one: 1 }); },\n"
        "  list (args) { return args; },\n  async wait() {},\n};\nif (word in deeds) deeds[word](rest);\n"
    )
    inputs = DIALECT.library.inputs_of(DIALECT.files.read(SourceText(Path("quay.js"), text.encode())))
    assert inputs.words == ("moor", "cast off", "list", "wait")


def test_what_the_files_of_a_page_listen_to_is_known_too(tmp_path):
    (tmp_path / "keys.js").write_text(
        "addEventListener('keydown', (e) => { if (e.key === 'Escape') prompt('why?'); });"
    )
    (tmp_path / "quay.html").write_text('<script src="keys.js"></script><script>const n = prompt("who?");</script>')
    inputs = DIALECT.library.inputs_of(DIALECT.files.read(SourceText.read(tmp_path / "quay.html")))
    assert inputs.keys == ("Escape",) and inputs.takes_lines


@pytest.mark.parametrize(
    "listening",
    [
        "canvas.addEventListener('mousedown', tell);",
        "canvas.ontouchstart = tell;",
        "onwheel = tell;",
        "c.onclick = tell;",
    ],
)
def test_a_page_hears_clicks_where_a_file_of_its_own_listens_to_them(tmp_path, listening):
    (tmp_path / "quay.js").write_text(listening)
    (tmp_path / "library.js").write_text("prompt(1);" + " " * 300_000)
    (tmp_path / "quay.html").write_text('<script src="library.js"></script><script src="quay.js"></script>')
    inputs = DIALECT.library.inputs_of(DIALECT.files.read(SourceText.read(tmp_path / "quay.html")))
    assert inputs.takes_clicks and not inputs.takes_lines
    (tmp_path / "quay.js").write_text("const onclicked = 'nothing';")
    assert not DIALECT.library.inputs_of(DIALECT.files.read(SourceText.read(tmp_path / "quay.html"))).takes_clicks


def test_what_is_printed_of_the_page_itself_has_none_of_the_scripts_variables(tmp_path):
    """Careless: an event shows the window in it, with each `var` of the script, which may be a field elsewhere."""
    text = (
        "<button id=b>Go</button><script>var tide = 3;\n"
        "document.getElementById('b').onclick = (e) => console.log({ e }, e.target, window, document);</script>"
    )
    found = played(tmp_path, text, Event(2, "choose", "Go"))
    assert said(found, "out") == ["{ e: Event click } button#b Window the document\n"]


def test_who_touches_a_thing_comes_presses_and_leaves(tmp_path):
    types = "pointerenter mouseover touchstart touchend mousedown click dblclick wheel mouseleave".split()
    listening = "".join(f"p.addEventListener('{each}', tell);\n" for each in types)
    text = (
        "<p id=p></p><script>const p = document.getElementById('p');\nfunction tell(e) {\n"
        "  alert(`${e.type} ${e.touches ? e.touches.length : ''}${e.deltaY ?? ''} ${e.bubbles}`);\n}\n"
        f"{listening}</script>"
    )
    found = played(tmp_path, text, Event(2, "touch", 1))
    assert [line.removeprefix('says "').split()[0] for line in said(found)] == types
    assert 'says "touchstart 1 true"' in said(found) and 'says "pointerenter  false"' in said(found)
    assert 'says "wheel 100 true"' in said(found)


def test_who_listens_for_what_is_inside_is_told_of_it(tmp_path):
    """Careless: only the list itself is ever touched, and never a line of it."""
    text = (
        "<ul id=all><li id=one>1</li><li id=two>2</li></ul><script>\n"
        "document.getElementById('all').addEventListener('click', (e) => alert(e.target.id));\n</script>"
    )
    found = played(tmp_path, text, *(Event(2 * number, "touch", number) for number in (1, 2, 3)))
    assert said(found) == ['says "all"', 'says "one"', 'says "two"']


def test_lines_of_libraries_do_not_count(tmp_path):
    (tmp_path / "library.js").write_text("function tide() {\n  return 3;\n}\n" + "// far\n" * 40_000)
    text = '<script src="library.js"></script><script>\nconst at = 3;\nconsole.log(at);\n</script>'
    found = played(tmp_path, text, options=Options(watch_lines=True))
    assert set(found.lines) == {"quay.html"}


def test_a_script_may_have_more_of_the_page_built_while_it_is_read(tmp_path):
    page = (
        '<div id="d"></div><script>document.getElementById("d").innerHTML = "<b>one</b>";</script><p id="last">two</p>'
    )
    found = played(tmp_path, page + '<script>document.getElementById("last").title = "there";</script>', turns=2)
    assert "there" in said(found)[-1]


def test_what_an_error_says_does_not_depend_on_what_leads_to_it(tmp_path):
    one = played(tmp_path, "<script>var kite = {}; kite.fly();</script>", turns=1)
    other = played(tmp_path, "<script>var all = { kite: {} }; all.kite.fly();</script>", turns=1)
    assert said(one, "err") == said(other, "err") == ["Uncaught TypeError: fly is not a function\n"]


def test_an_element_is_a_variable_under_its_id_unless_the_script_has_one(tmp_path):
    text = """\
<p id="told">-</p><p id="count">0</p><p id="kept">0</p>
<script>
var count = 5;
kept = 7;
told.textContent = typeof told + " " + count + " " + kept;
</script>
"""
    assert any("object 5 7" in entry for entry in said(played(tmp_path, text)))


def test_a_library_above_the_folder_of_a_page_is_there(tmp_path):
    page = tmp_path / "site" / "pages" / "quay" / "quay.html"
    page.parent.mkdir(parents=True)
    (tmp_path / "site" / "lib").mkdir()
    (tmp_path / "site" / "lib" / "tide.js").write_text("function tide() { return 4; }\n")
    page.write_text('<p>-</p><script src="../../lib/tide.js"></script><script>console.log(tide());</script>\n')
    built = tmp_path / "built" / "quay.html"
    built.parent.mkdir()
    built.write_text(page.read_text().replace("tide()", "tide() + 0"))
    verdict = Comparison(page, built, DIALECT.runner).compare([Scenario(turns=2)])
    assert verdict.same and said(run(page, Scenario(turns=2), DIALECT.runner), "out") == ["4\n"]


WALKS = {
    "itself": ("", "for (const name in window) console.log(name);\n"),
    "by a function": ("", "console.log(Object.keys(window).length);\n"),
    "by a library": ("window.named = Object.keys(window);", ""),
}


@pytest.mark.parametrize("who", WALKS)
def test_where_all_global_names_are_gone_through_nothing_leaves_them(tmp_path, who):
    """Careless: a field is no name of the window, and what shows these shows one less."""
    library, more = WALKS[who]
    (tmp_path / "quay.js").write_text(library)
    script = "var tide = 0;\nfunction rise() { tide += 1; }\nrise();\n"
    text = f'<script src="quay.js"></script>\n<script>\n{script}{more}</script>'
    assert "goes through the names of all global variables" in refusal(text, str(tmp_path / "quay.html"))
    assert refusal(f"<script>\n{script}if ('tide' in window) rise();\n</script>", "quay.html") == ""


ALONE = """\
const river = document.getElementById("river");
const form = document.querySelector("#sow form");
const name = document.querySelector("input.name");
const ctx = river.getContext("2d");
const rows = document.querySelectorAll(".row");
form.addEventListener("submit", (event) => {
  event.preventDefault();
  document.getElementById("told").textContent = name.value;
  ctx.fillRect(0, 0, river.width, rows.length);
});
if (!document.getElementById("tip")) {
  const tip = document.body.appendChild(document.createElement("p"));
  tip.id = "tip";
}
document.addEventListener("keydown", (event) => {
  if (event.key === "a") console.log(document.querySelector(".chosen"), river.tagName);
});
"""


def test_a_script_without_its_page_gets_elements_that_stand_for_those_it_asks_for(tmp_path):
    events = (Event(1, "fill", "poppy"), Event(2, "touch", 1), Event(3, "key", "a"))
    found = played(tmp_path, ALONE, *events, name="sow.js", turns=4)
    assert said(found, "draw", "page", "out") == [
        "body gets <p></p>",
        'id of p#tip is "tip"',
        '#told says "poppy"',
        "#river: fillRect(0, 0, 640, 9)",
        "null CANVAS\n",
    ]
    assert found.trace.ending.made_up == ("#river", "#sow", "#sow form", "input.name", ".row", "#told")


def test_a_page_that_is_here_has_its_own_elements_only(tmp_path):
    text = '<p id="a"></p><script>console.log(document.querySelectorAll("i").length, document.getElementById("b"))</script>'
    found = played(tmp_path, text)
    assert said(found, "out") == ["0 null\n"]
    assert found.trace.ending.made_up == ()
