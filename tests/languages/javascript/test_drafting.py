"""What the draft makes of a page script as people write it: how classes are called, and what they get."""

from __future__ import annotations

import pytest

from tests.support.javascript_programs import built

FERRY = """\
const canvas = document.getElementById("river");
const ctx = canvas.getContext("2d");
const W = canvas.width, H = canvas.height;
let ferryX = W / 2, ferryY = H - 30, ferryW = 60, ferrySpeed = 4;
let {keys};
let logs = [];
let frames = 0;

function addLog() {{
  logs.push({{ x: frames, y: 0, pace: 2 }});
}}

function moveFerry() {{
  if ({left}) ferryX -= ferrySpeed;
  if ({right}) ferryX += ferrySpeed;
  if (ferryX > W - ferryW) ferryX = W - ferryW;
}}

function drawFerry() {{
  ctx.fillRect(ferryX, ferryY, ferryW, 14);
}}

function drawLog(log) {{
  ctx.fillRect(log.x, log.y, 20, 10);
}}

function turn() {{
  frames++;
  if (frames % 50 === 0) addLog();
  ctx.clearRect(0, 0, W, H);
  moveFerry();
  drawFerry();
  for (const log of logs) log.y += log.pace;
  logs.forEach(drawLog);
  requestAnimationFrame(turn);
}}

document.addEventListener("keydown", (e) => {{
  if (e.key === "ArrowLeft") {left} = true;
  if (e.key === "ArrowRight") {right} = true;
}});
document.addEventListener("keyup", (e) => {{
  if (e.key === "ArrowLeft") {left} = false;
  if (e.key === "ArrowRight") {right} = false;
}});

turn();
"""


@pytest.fixture(scope="module")
def ferry() -> str:
    return built(FERRY.format(keys="left = false, right = false", left="left", right="right"))


def test_a_place_worked_out_of_sizes_is_given_to_the_thing(ferry):
    assert "class Ferry {\n  constructor(x, y) {\n    this.x = x;\n    this.y = y;\n" in ferry.replace("_", "")
    assert ", this.h - 30);" in ferry


def test_keys_that_are_held_are_called_so(ferry):
    assert "class Keys {" in ferry and "    this.left = false;\n    this.right = false;\n" in ferry


def test_keys_that_say_so_themselves_are_called_alike():
    made = built(
        FERRY.format(keys="leftPressed = false, rightPressed = false", left="leftPressed", right="rightPressed")
    )
    assert "class Keys {" in made and "    this.left = false;\n    this.right = false;\n" in made


def test_handlers_told_of_line_by_line_stay_so(ferry):
    assert (
        '    document.addEventListener("keydown", this.keys.onDown);\n    document.addEventListener("keyup",' in ferry
    )


def test_a_function_that_is_handed_over_for_each_thing_is_a_method(ferry):
    assert "for (const log of this.logs) log.draw(this.ctx);" in ferry


PAGE = """\
const canvas = document.getElementById("river");
let ctx, boatX, boatY, boatTurn;
let ropes = [], level = 1;

function init() {
  ctx = canvas.getContext("2d");
  boatX = 40;
  boatY = canvas.height / 2;
  boatTurn = 0;
  for (let at = 0; at < 3; at++) ropes.push({ x: at, y: 3, len: 20 });
}

function frame() {
  boatX += 2;
  boatTurn += level;
  ctx.clearRect(0, 0, 9, 9);
  ctx.save();
  ctx.translate(boatX, boatY);
  ctx.rotate(boatTurn);
  ctx.fillRect(-10, -5, 20, 10);
  ctx.restore();
  for (const rope of ropes) {
    rope.x -= 1;
    ctx.save();
    ctx.translate(rope.x, rope.y);
    ctx.fillRect(0, 0, rope.len, 2);
    ctx.restore();
  }
  requestAnimationFrame(frame);
}

init();
frame();
"""


def test_what_keeps_how_is_drawn_goes_with_what_is_drawn():
    made = built(PAGE)
    first = "ctx.save();\n    ctx.translate(this.#x, this.#y);\n"
    last = "ctx.fillRect(-10, -5, 20, 10);\n    ctx.restore();\n  }\n"
    assert f"  draw(ctx) {{\n    {first}" in made and last in made
    assert "this.boat.draw(this.ctx);" in made and "      rope.draw(this.ctx);\n" in made


def test_a_member_may_be_called_as_the_window_has_it():
    text = "let playerName = 'Ada', playerCoins = 2;\nlet tide = 1;\nfunction pay(by) {\n  playerCoins -= by;\n  console.log(playerName, playerCoins);\n}\n"
    made = built(text + "function rise() {\n  tide++;\n}\nrise();\npay(tide);\nplayerName = 'Ben';\npay(1);\n")
    assert "console.log(this.name, this.coins);" in made.replace("_", "")


RACE = """\
const shown = document.getElementById("shown");
let turn = "X", isOver = false, xWins = 0, oWins = 0;
let places = [0, 0];
function pull(event) {
  if (isOver) return;
  places[event.detail] += 1;
  if (places[event.detail] > 3) {
    shown.textContent = turn + " wins";
    isOver = true;
    if (turn === "X") xWins++;
    else oWins++;
    document.getElementById("x").textContent = xWins;
    document.getElementById("o").textContent = oWins;
  } else {
    turn = turn === "X" ? "O" : "X";
    shown.textContent = turn;
  }
}
function reset() {
  places = [0, 0];
  turn = "X";
  isOver = false;
}
shown.addEventListener("click", pull);
document.addEventListener("keydown", reset);
"""


def test_how_many_of_something_each_has_is_a_count_of_them():
    count = "    this._x = 0;\n    this._o = 0;\n  }\n\n  count(turn) {\n"
    assert f"class Wins {{\n  constructor() {{\n{count}" in built(RACE)


SKETCH = """\
let seeds = 3, gulls = 2;
// where the ferry is
let ferryX, ferryY;
let ferryRope; // how far it is out
let caught = 0, missed = 0, state = "calm";
let bell1, bell2;

function setup() {
  createCanvas(300, 200);
  ferryX = width / 2;
  ferryY = 50;
  ferryRope = 0;
  bell1 = createAudio("a.mp3");
  bell2 = createAudio("b.mp3");
}

function draw() {
  background(240);
  ferryX += 2;
  ferryRope++;
  if (ferryX > width) ferryX = 0;
  rect(ferryX, ferryY, 30, 10);
  if (mouseIsPressed) caught++;
  else missed++;
  if (missed > 9) state = "over";
  text(seeds + gulls + state, 10, 10);
}

function keyPressed() {
  if (state === "over") {
    state = "calm";
    caught = 0;
    missed = 0;
    bell1.play();
  } else bell2.play();
}
"""


def test_a_thing_that_gets_its_values_later_is_a_class_with_declared_fields():
    made = built(SKETCH, "sketch.js")
    assert "class Ferry {\n  // where the ferry is\n  #x;\n  #y;\n  #rope; // how far it is out\n\n  reset() {" in made
    assert "this.ferry = new Ferry();" in made and "this.ferry.move();" in made


def test_what_says_only_what_was_done_is_no_thing_nor_is_what_a_library_made():
    made = built(SKETCH, "sketch.js")
    assert made.count("class ") == 2
    assert "    this.caught = 0;" in made and "this.bell1.play();" in made


PATHS = """\
const canvas = document.getElementById("river");
const ctx = canvas.getContext("2d");
let ballX = 50, ballY = 50, ballStep = 3;
let kite1Y = 10, kite2Y = 30, kiteHeight = 60;
let points = 0, best = 0;

function move() {
  ballX += ballStep;
  if (ballX > canvas.width) {
    ballX = 0;
    points++;
    best = Math.max(best, points);
  }
  kite1Y = (kite1Y + 2) % kiteHeight;
  kite2Y = (kite2Y + 3) % 70;
  if (kite2Y > 60) kiteHeight = 50;
}

function draw() {
  ctx.clearRect(0, 0, canvas.width, canvas.height);
  ctx.fillRect(0, kite1Y, 9, kiteHeight);
  ctx.fillRect(90, kite2Y, 9, kiteHeight);
  ctx.beginPath();
  ctx.arc(ballX, ballY, 8, 0, 7);
  ctx.fill();
  ctx.fillText(points + " of " + best, 10, 20);
}

setInterval(() => {
  move();
  draw();
}, 30);
"""


def test_an_outline_is_drawn_by_one_method():
    """Careless: one begins it, another draws it."""
    made = built(PATHS)
    assert "  draw(ctx) {\n    ctx.beginPath();\n    ctx.arc(this.x, this._y, 8, 0, 7);\n    ctx.fill();\n  }\n" in made


def test_half_of_its_fields_of_two_things_make_no_class():
    made = built(PATHS)
    assert "class Kite" not in made and "this.kite1Y" in made


SKY = """\
let kites = [];
let wind = 0;
let windAngle = 0;
let selected = null;
let paused = false;

function setup() {
  createCanvas(400, 300);
  for (let i = 0; i < 6; i++) {
    kites.push({ x: 40 + i * 60, y: 100, vx: 0, size: 10 + i * 2, trail: [] });
  }
}

function draw() {
  background(200, 230, 255);
  if (!paused) {
    windAngle += 0.02;
    wind = sin(windAngle) * 2;
  }
  for (let k of kites) {
    if (!paused) {
      k.vx += (wind - k.vx) * 0.1;
      k.x += k.vx;
      k.trail.push({ x: k.x, y: k.y });
      if (k.trail.length > 20) k.trail.shift();
    }
    noFill();
    beginShape();
    for (let p of k.trail) {
      vertex(p.x, p.y);
    }
    endShape();
    fill(k.size);
    if (k === selected) {
      stroke(0);
    }
    circle(k.x, k.y, k.size);
  }
  text("wind " + wind, 10, 20);
}

function mousePressed() {
  selected = kites.find((k) => dist(mouseX, mouseY, k.x, k.y) < k.size);
}

function keyPressed() {
  paused = !paused;
}
"""


def test_who_guards_keeps_the_condition_and_a_drawing_goes_whole():
    made = built(SKY, "sky.js")
    assert (
        "    if (!this.paused) {\n      this.wind.update();\n    }\n    for (let k of this.kites) {\n"
        "      if (!this.paused) {\n        k.move(this.wind.value);\n      }\n      k.draw(this.selected);\n    }\n"
    ) in made
    assert "  draw(selected) {\n    noFill();\n    beginShape();\n    for (let p of this._trail) {" in made


QUEUES = """\
let side = "north";
let place = 0;
let boats = [];
let queueNorth = [];
let queueSouth = [];
let minute = 0;
let carried = 0;
let waited = 0;

function queue() {
  return side === "north" ? queueNorth : queueSouth;
}

function arrive() {
  minute++;
  queueNorth.push({ name: "N" + minute, since: minute });
  queueSouth.push({ name: "S" + minute, since: minute });
}

function load() {
  while (queue().length > 0 && boats.length < 4) {
    const boat = queue().shift();
    waited += minute - boat.since;
    boats.push(boat);
  }
}

function unload() {
  for (const boat of boats) {
    console.log(minute + ": " + boat.name + " leaves " + side + place);
    carried++;
  }
  boats = [];
}

function cross() {
  place += 25;
  if (place >= 100) {
    place = 0;
    side = side === "north" ? "south" : "north";
  }
}

function report() {
  console.log("carried " + carried + ", waiting " + (queueNorth.length + queueSouth.length));
  if (carried > 0) {
    console.log("mean wait " + (waited / carried).toFixed(1));
  }
}

while (minute < 60) {
  arrive();
  load();
  cross();
  unload();
}
report();
"""


def test_lines_mostly_about_others_stay_with_them():
    made = built(QUEUES, "ferry.js")
    assert "for (const boat of this.boats) {\n      console.log(" in made
    assert ".carried++;\n" in made.partition("  unload() {")[2].partition("\n  }\n")[0]


def test_what_is_only_looked_for_in_a_table_is_no_class():
    made = built(
        'const piers = { north: { name: "North", depth: 4 }, south: { name: "South", depth: 2 } };\nlet moored = 0;\n\n'
        "function moor(pier) {\n  if (!piers[pier]) return false;\n  moored++;\n  return true;\n}\n\n"
        'console.log(moor("north"), moor("west"), moored);\n'
    )
    assert "class Pier" not in made and '{ name: "North", depth: 4 }' in made


def test_what_is_taken_apart_is_asked_for_something():
    made = built(
        'const piers = { north: { name: "North", depth: 4 }, south: { name: "South", depth: 2 } };\nlet moored = 0;\n\n'
        "function moor(pier) {\n  if (!piers[pier]) return false;\n  const { name } = piers[pier];\n  moored++;\n  return name;\n}\n\n"
        'console.log(moor("north"), moor("west"), moored);\n'
    )
    assert "class Pier {" in made


def test_a_part_with_nearly_all_that_a_script_does_is_its_owner():
    deeds = "".join(
        f"function {name}(args) {{\n  entries.push(args.length + lastId);\n  lastId += {n};\n  dirty = true;\n  console.log(unit);\n}}\n\n"
        for n, name in enumerate(("add", "list", "stats", "remove", "load"))
    )
    made = built(
        "let entries = [];\nlet unit = 'm';\nlet lastId = 0;\nlet dirty = false;\n\n"
        f"{deeds}function changeUnit(args) {{\n  unit = args[0];\n  dirty = true;\n  entries.push(lastId);\n}}\n\n"
        "const commands = { add, list, stats, remove, load, unit: changeUnit };\n"
        "for (const name of ['add', 'unit', 'list']) {\n  commands[name](['ft']);\n}\nconsole.log(entries, dirty);\n",
        "tide.js",
    )
    assert [line for line in made.splitlines() if line.startswith("class ")] == ["class Tide {"]


def test_one_thing_in_a_queue_is_no_queue():
    made = built(
        "let queue = [];\nlet served = 0;\n\nfunction wait(name, size) {\n  queue.push({ name: name, size: size });\n}\n\n"
        "function serve() {\n  const next = queue.shift();\n  served += next.size;\n  return next.name;\n}\n\n"
        "wait('Heron', 4);\nwait('Tern', 3);\nconsole.log(serve(), serve(), served);\n"
    )
    assert "this.queue.push(new QueueEntry(name, size));" in made


def test_keys_that_are_pressed_and_let_go_are_handled_in_one_class():
    made = built(
        "let leftPressed = false;\nlet rightPressed = false;\nlet x = 0;\nlet paused = false;\n\n"
        "function keyDownHandler(e) {\n  if (e.key === 'Right') rightPressed = true;\n  else if (e.key === 'Left') leftPressed = true;\n  else pause();\n}\n\n"
        "function keyUpHandler(e) {\n  if (e.key === 'Right') rightPressed = false;\n  else if (e.key === 'Left') leftPressed = false;\n}\n\n"
        "function pause() {\n  paused = !paused;\n}\n\n"
        "function draw() {\n  if (rightPressed && !paused) x += 2;\n  if (leftPressed && !paused) x -= 2;\n  requestAnimationFrame(draw);\n}\n\n"
        "document.addEventListener('keydown', keyDownHandler);\ndocument.addEventListener('keyup', keyUpHandler);\ndraw();\n",
        "game.js",
    )
    assert [line for line in made.splitlines() if line.startswith("class ")] == ["class Game {"]
