"""Lines of a JavaScript function that become one of their own: beside each case stands what a careless move makes."""

from __future__ import annotations

import random
import shutil
from pathlib import Path

import pytest

from aedifex.cli.reading import read_program_of
from aedifex.cli.scenarios import scenarios_for
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.moves.carve import Carve
from aedifex.moves.kit.binding_check import perform
from aedifex.source.errors import RefusedError
from aedifex.source.files import write_folder
from aedifex.verify.compare import Comparison
from tests.support.javascript_kinds import write_objects
from tests.support.javascript_programs import built, program_of
from tests.support.javascript_scripts import carved as carved_at_random
from tests.support.javascript_scripts import write_javascript

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")


def carved(text: str, first: int, last: int, routine: str = "tell") -> str:
    made = perform(program_of(text), Carve(Path("harbour.js"), routine, first, last, "part"))
    return made.main.source.encode().decode()


def refused(text: str, first: int, last: int) -> str:
    with pytest.raises(RefusedError) as caught:
        carved(text, first, last)
    return caught.value.reason


def tell(*lines: str) -> str:
    return "function tell(by) {\n" + "".join(f"  {line}\n" for line in lines) + "}\n\ntell(2);\n"


def test_what_is_declared_there_is_declared_where_it_comes_back():
    """Careless: `height = part(by)` sets a variable that nothing declares."""
    made = carved(tell("const height = by * 2;", "console.log('rising');", "return height;"), 2, 3)
    assert "  const height = part(by);\n  return height;\n" in made and "  return height;\n}\n\nfunction tell" in made


@pytest.mark.parametrize("above", ["", "\n", "\n  // the level\n", "\n\n"])
def test_the_call_stays_where_blank_lines_part_what_goes_from_what_stays(above):
    """Careless: the end of the function takes the blank lines above it along, and the call with them."""
    text = f"let level = 0;\nfunction tell(by) {{\n  console.log(by);\n{above}  level += by;\n  level *= 2;\n}}\ntell(2);\n"
    line = text[: text.index("level +=")].count("\n") + 1
    made = carved(text, line, line + 1)
    assert made.count("part(by);\n}\ntell(2);") == 1 and made.count("level += by;") == 1


@pytest.mark.parametrize("end", [";", ""])
def test_a_way_out_is_asked_for_and_ends_as_it_did(end):
    """Careless: the call brings its own end along, so that a second one stands behind, or one inside of a condition."""
    loop = f"for (const k of [1, by]) {{\n    if (k > 1) {{\n      continue{end}\n    }}\n    console.log(k){end}\n  }}"
    made = carved(tell(loop), 3, 5)
    assert f"    if (!part(k)) {{\n      continue{end}\n    }}\n" in made
    made = carved(tell(f"if (by > 1) {{\n    return by{end}\n  }}\n  return 0{end}"), 2, 5)
    assert f"\n  return part(by){end}\n}}" in made.replace(";", end)
    assert ";;" not in made


def test_several_come_back_in_a_row():
    made = carved(tell("let low = by;", "let high = by + 1;", "low += 1;", "return low * high;"), 2, 4)
    assert "  let [low, high] = part(by);\n" in made and "  return [low, high];\n" in made


def test_what_is_declared_further_up_and_set_there_is_declared_again():
    """Careless: the new function sets a variable of the whole program."""
    made = carved(tell("let height;", "height = by * 2;", "console.log(height);"), 3, 4)
    assert "function part(by) {\n  let height;\n  height = by * 2;\n" in made


def test_a_loop_knows_its_counter_itself():
    made = carved(tell("for (let i = 0; i < by; i++) {", "  console.log(i);", "}", "console.log(by);"), 2, 4)
    assert "function part(by) {\n  for (let i = 0; i < by; i++) {\n" in made


def test_a_counter_of_the_function_goes_along():
    made = carved(tell("var i;", "for (i = 0; i < by; i++) {", "  console.log(i);", "}"), 2, 5)
    assert "function part(by) {\n  var i;\n" in made


def test_a_nameless_function_may_use_what_never_changes():
    made = carved(tell("const most = by + 1;", "const low = [1, 2, 3].filter((n) => n < most);", "return low;"), 3, 3)
    assert "function part(most) {\n  const low = [1, 2, 3].filter((n) => n < most);\n" in made


def test_a_nameless_function_that_counts_stays_with_what_it_counts():
    """Careless: it would count in a variable of its own."""
    text = tell("let sum = 0;", "[1, 2].forEach((n) => {", "  sum += n;", "});", "return sum;")
    assert "used by code that may run later" in refused(text, 3, 5)


def test_the_arguments_stay():
    """Careless: they would be those of the new function."""
    assert "`arguments`" in refused(tell("const n = arguments.length;", "return n;"), 2, 2)


def test_the_object_stays():
    assert "would be another in a function of its own" in refused(tell("this.level = by;", "return by;"), 2, 2)


def test_what_is_inherited_is_set_up_in_the_constructor():
    """Careless: `super()` stands in a method, which the language does not allow."""
    text = "class Boat {}\n\nclass Ferry extends Boat {\n  constructor(load) {\n    super();\n    this.load = load;\n  }\n}\n\nconsole.log(new Ferry(2).load);\n"
    with pytest.raises(RefusedError):
        carved(text, 5, 6, "Ferry.constructor")


def test_what_comes_behind_a_call_without_a_semicolon_stays_apart():
    """Careless: `part(by)[by, low] = …` is one expression."""
    text = "function tell(by) {\n  let low = 1\n  if (by) {\n    console.log(by)\n  }\n  [by, low] = [low, by]\n  return low\n}\n\ntell(2)\n"
    assert "  part(by)\n  ;[by, low] = [low, by]\n" in carved(text, 3, 5)


def test_long_functions_are_divided():
    others = "".join(f"  ellipse({n}, tide, 3);\n" for n in range(12))
    made = built(
        "let tide = 0;\nlet x = 1;\nlet speed = 2;\n\nfunction setup() {\n  createCanvas(40, 30);\n  x = 5;\n}\n\n"
        "function draw() {\n  background(200);\n\n  // the tide\n  tide = sin(frameCount) * 10;\n  noStroke();\n"
        "  fill(40, 90, 140);\n  rect(0, 160 + tide, width, 140);\n\n  // the ferry\n  x += speed;\n"
        "  if (x > width) {\n    speed = -speed;\n  }\n  fill(120);\n  rect(x, tide, 40, 15);\n\n"
        f"  // the lamps\n{others}\n  // the text\n  fill(0);\n  textSize(9);\n  text(x, 1, 1);\n  text(tide, 1, 1);\n}}\n"
    )
    assert "  drawTide() {\n    this.tide = sin(" in made and "    this.drawTide();\n    this.drawFerry();\n" in made


def test_a_function_with_a_front_has_its_name():
    made = built(
        "let x = 0;\n\nfunction setup() {\n  createCanvas(9, 9);\n}\n\nfunction draw() {\n  x += 1;\n  ellipse(x, 2, 3);\n}\n"
    )
    assert "  draw() {\n    this.x += 1;\n" in made and "function draw() {\n  harbour.draw();\n}\n" in made


@needs_node
@pytest.mark.parametrize("seed", range(0, 4))
def test_random_lines_do_the_same_in_functions_of_their_own(seed):
    text = (write_javascript if seed % 2 else write_objects)(seed)
    assert carved_at_random(text, random.Random(seed), 5).partition(":")[0] in ("same", "refused", "broken")


SERVER = """\
const http = require('http');
let seeds = [{ id: 1, packets: 4 }];
let asked = 0;

function send(res, status, data) {
  res.writeHead(status);
  res.end(JSON.stringify(data));
}

http.createServer((req, res) => {
  asked++;
  const path = req.url.split('?')[0];
  const parts = path.split('/').filter(Boolean);
  if (req.method === 'GET' && path === '/seeds') {
    send(res, 200, seeds);
  } else if (req.method === 'POST' && path === '/seeds') {
    let body = '';
    req.on('data', (part) => { body += part; });
    req.on('end', () => {
      seeds.push({ id: seeds.length + 1, packets: JSON.parse(body || '{}').packets || 0 });
      send(res, 201, seeds.length);
    });
  } else if (req.method === 'DELETE' && parts[0] === 'seeds' && parts.length === 2) {
    const seed = seeds.find((one) => one.id === Number(parts[1]));
    if (!seed) {
      send(res, 404, {});
      return;
    }
    seeds = seeds.filter((one) => one !== seed);
    send(res, 200, asked);
  } else {
    send(res, 404, {});
  }
}).listen(3000);
"""


def test_what_a_server_does_on_a_request_is_named_by_verb_and_path():
    """Careless: what is kept for later is not handed over, and another variable there."""
    made = built(SERVER, "seeds.js")
    assert "  if (req.method === 'GET' && path === '/seeds') {\n      this.listSeeds(res);" in made
    assert "      this.addSeed(req, res);" in made and "  addSeed(req, res) {\n    let body = '';" in made
    assert "  removeSeed(res, parts) {" in made or "  removeSeed(parts, res) {" in made


@needs_node
def test_a_server_answers_as_before(tmp_path):
    before, after = tmp_path / "seeds.js", tmp_path / "built" / "seeds.js"
    before.write_text(SERVER)
    program = read_program_of(before)
    write_folder(after.parent, new_files(program, build(program, propose(program))), before)
    comparison = Comparison(before, after, DIALECT.runner)
    verdict = comparison.compare(scenarios_for(comparison, [], 1, None, lambda text: None))
    assert verdict.same and verdict.share > 0.9


def test_a_value_that_is_set_again_stays_with_what_is_kept_for_later():
    """Careless: the part that becomes a method has another variable than the code that runs later."""
    text = SERVER.replace("    let body = '';\n", "    let body = '';\n    res = res;\n")
    assert "this.addSeed(" not in built(text, "seeds.js")


def test_what_draws_goes_with_what_says_how_and_what_changes_goes_apart():
    text = """\
let boatX = 50, boatY = 200;
let waves = [];
let turns = 0;

function setup() {
  createCanvas(600, 400);
  for (let i = 0; i < 20; i++) waves.push({ x: random(width), y: 5, size: 3 });
}

function draw() {
  background(200);
  for (const wave of waves) {
    stroke(255);
    line(wave.x, wave.y, wave.x + wave.size, wave.y);
    wave.x -= 1;
    if (wave.x < -40) {
      wave.x = width;
      wave.y = random(220, height);
    }
  }

  noStroke();
  fill(120, 60, 20);
  rect(boatX, boatY, 60, 20);
  triangle(boatX + 30, boatY, boatX + 30, boatY - 40, boatX + 55, boatY);
  boatX += 2;
  if (boatX > width) {
    boatX = -60;
  }
  turns += 1;
}

function keyPressed() {
  boatY += turns;
}
"""
    made = built(text, "quay.js")
    assert (
        "      wave.draw();\n      wave.move();\n" in made and "    this.boat.draw();\n    this.boat.move();\n" in made
    )
    assert "  draw() {\n    stroke(255);\n    line(" in made
    assert "  draw() {\n    noStroke();\n    fill(120, 60, 20);\n    rect(this." in made


KEPT = """\
let count = 0;
let log = [];
function work(x) {
  const y = x * 2;
  log.push(() => x + y);
  count += y;
  return x;
}
console.log(work(1), work(2), log.map((f) => f()), count);
"""


def test_what_code_keeps_for_later_is_handed_over():
    assert "part(x, y);" in carved(KEPT, 5, 6, "work") and "part(x);" in carved(KEPT, 4, 6, "work")


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("  return x;", "  arguments[0] = 50;\n  return x;"),
        ("  return x;", "  x = 3;\n  return x;"),
        ("const y = x * 2;", "let y = x * 2; if (x > 1) y = 9;"),
        ("const y = x * 2;", "var y = x * 2;"),
        ("() => x + y", "() => (y += x)"),
    ],
)
def test_what_may_change_before_it_is_asked_for_stays(old, new):
    """Careless: the code that runs later has a copy of what was there first."""
    with pytest.raises(RefusedError):
        carved(
            KEPT.replace(old, new).replace("const y", "let y") if "+=" in new else KEPT.replace(old, new), 5, 5, "work"
        )
