"""What belongs to a class and what does not, in scripts as people write them."""

from __future__ import annotations

import pytest

from tests.support.javascript_programs import built

STOCK = """\
const readline = require("readline");
let seeds = JSON.parse("[]");
let nextId = 1;

function save() {
  console.log("saved", seeds.length, nextId);
}

function addSeed(name) {
  seeds.push({ id: nextId++, name: name, lent: false });
  save();
}

function listSeeds() {
  for (const seed of seeds) console.log(seed.id + " " + seed.name + " " + seed.lent);
}

function lend(id) {
  const seed = seeds.find((one) => one.id === id);
  if (!seed) return;
  seed.lent = true;
  save();
}

const rl = readline.createInterface({ input: process.stdin, output: process.stdout });

rl.on("line", (line) => {
  const [command, word] = line.split(" ");
  if (command === "add") addSeed(word);
  else if (command === "list") listSeeds();
  else if (command === "lend") lend(Number(word));
  else rl.close();
});
"""


def test_what_has_to_do_with_a_list_only_is_its_own_and_who_offers_it_stays():
    """Careless: `lend` with the console, as it only looks into the list; or one class, as nearly all is about that."""
    after = built(STOCK, "stock.js")
    seeds, console = after.split("class Stock")
    assert "  lend(id) {" in seeds and "this.save();" in seeds
    assert "this.seeds.lend(Number(word))" in console and "createInterface" in console


GAME = """\
const canvas = document.getElementById("river");
const ctx = canvas.getContext("2d");
let state = "title";
let best = 0;
let score = 0;
let ferry = { x: 220, y: 280, w: 40, h: 16 };
let crates = [];

document.addEventListener("keydown", (e) => {
  if (e.key === "ArrowLeft") ferry.x -= 5;
  if (e.key !== "Enter") return;
  if (state === "title" || state === "over") start();
  else if (state === "playing") state = "paused";
  else if (state === "paused") state = "playing";
});

function start() {
  score = 0;
  crates = [];
  state = "playing";
}

function overlap(ax, ay, aw, ah, bx, by, bw, bh) {
  return ax < bx + bw && ax + aw > bx && ay < by + bh && ay + ah > by;
}

function end() {
  state = "over";
  if (score > best) best = score;
}

function update(dt) {
  if (ferry.x < 0) ferry.x = 0;
  if (ferry.x > canvas.width - ferry.w) ferry.x = canvas.width - ferry.w;
  if (Math.random() < 0.1) crates.push({ x: Math.random() * 300, y: 0, vy: 40 });
  for (let i = crates.length - 1; i >= 0; i--) {
    const c = crates[i];
    c.y += c.vy * dt;
    if (overlap(c.x, c.y, 12, 12, ferry.x, ferry.y, ferry.w, ferry.h)) {
      score++;
      crates.splice(i, 1);
    } else if (overlap(c.x, c.y, 12, 12, ferry.x, ferry.y - 30, ferry.w, 30)) {
      end();
    }
  }
}

function render() {
  ctx.clearRect(0, 0, canvas.width, canvas.height);
  ctx.fillStyle = "#a33";
  ctx.fillRect(ferry.x, ferry.y, ferry.w, ferry.h);
  ctx.fillStyle = "#fff";
  ctx.fillRect(ferry.x + 10, ferry.y - 8, 20, 8);
  for (const c of crates) ctx.fillRect(c.x, c.y, 12, 12);
  ctx.fillText("Score " + score + " best " + best, 10, 20);
  if (state === "over") ctx.fillText("Aground", 10, 60);
}

function loop() {
  if (state === "playing") update(0.02);
  render();
  requestAnimationFrame(loop);
}

loop();
"""


@pytest.fixture(scope="module")
def game():
    return built(GAME, "game.js")


def test_what_others_use_far_more_often_stays_with_the_owner(game):
    """Careless: `class Best` with the state of the game, for one function sets both."""
    assert "this.state = " in game and "best.state" not in game


def test_a_function_about_places_beside_a_thing_is_not_the_thing_s(game):
    """Careless: `ferry.overlap(ax, ay, aw, ah, by, bh)`."""
    assert "function overlap(ax, ay, aw, ah, bx, by, bw, bh)" in game


def test_the_one_thing_that_is_drawn_draws_itself_and_stays_within_its_limits(game):
    ferry = game.split("class Ferry")[1].split("\nclass")[0]
    assert "  draw(ctx) {\n    ctx.fillStyle" in ferry and "  limit(canvas) {" in ferry
    assert "this.ferry.draw(this.ctx);" in game and "this.ferry.limit(this.canvas);" in game


def test_a_step_by_the_time_of_a_turn_is_the_thing_s_own(game):
    assert "  move(dt) {\n    this.y += this." in game and "c.move(dt);" in game


PAINT = """\
let lastX = 0;
let lastY = 0;
let strokes = [];

function pos(e) {
  return { x: e.clientX, y: e.clientY };
}

function segment(x1, y1, x2, y2) {
  console.log("from", x1, y1, "to", x2, y2);
}

function redraw() {
  for (const stroke of strokes) {
    for (let i = 1; i < stroke.points.length; i++) {
      const a = stroke.points[i - 1];
      const b = stroke.points[i];
      segment(a.x, a.y, b.x, b.y);
    }
  }
}

document.addEventListener("mousemove", (e) => {
  const p = pos(e);
  segment(lastX, lastY, p.x, p.y);
  strokes.push({ points: [p], width: 3 });
  lastX = p.x;
  lastY = p.y;
  redraw();
});
"""


def test_a_function_of_two_points_is_neither_s_and_where_something_was_is_a_position():
    """Careless: `b.segment(a.x, a.y)`, and `class Last`."""
    after = built(PAINT, "paint.js")
    assert "segment(a.x, a.y, b.x, b.y)" in after
    assert "class Last" not in after or "class LastPosition" in after


SHOP = """\
const prices = { small: 8, big: 20 };
let cash = 50;
let day = 1;
let kites = { small: 3, big: 1 };
let weather = "calm";

function newDay() {
  day++;
  weather = ["calm", "breeze", "storm"][day % 3];
  console.log("Day " + day + ", " + weather + ", cash " + cash);
}

function build(kind, count) {
  const cost = (prices[kind] / 2) * count;
  if (cost > cash) return;
  cash -= cost;
  kites[kind] += count;
}

for (let turn = 0; turn < 4; turn++) {
  newDay();
  build(turn % 2 ? "big" : "small", turn);
}
console.log(cash, kites.small, kites.big);
"""


def test_what_is_only_said_ties_nothing_together():
    """Careless: `class Day` with the cash and the kites, for it says how much cash there is."""
    after = built(SHOP, "shop.js")
    day = after.split("class Day")[1].split("\n}\n")[0]
    assert "weather" in day and "this.kites" not in day
    assert "newDay(" in day


CONSOLE = """\
const readline = require("readline/promises");
const rl = readline.createInterface({ input: process.stdin, output: process.stdout });
let score = 0;
let player = "";
let round = 0;

async function askName() {
  player = (await rl.question("Your name? ")).trim();
  if (player === "") player = "guest";
}

async function askQuestion(text, answer) {
  round++;
  if ((await rl.question(round + ". " + text)) === answer) score++;
}

async function main() {
  await askName();
  await askQuestion("How many ropes? ", "2");
  await askQuestion("Which bird? ", "gull");
  console.log(player + ": " + score);
  rl.close();
}

main();
"""


def test_what_everybody_asks_by_belongs_to_nobody_in_particular():
    """Careless: `class Player` with the console, for one function has to do with both."""
    assert "player.rl" not in built(CONSOLE, "quiz.js")


REPORT = """\
let lines = 0;
let badLines = [];
let counts = { mon: 0, tue: 0 };
let busiest = null;

for (const row of ["mon 3", "tue x", "tue 5"]) {
  const [day, people] = row.split(" ");
  lines++;
  if (isNaN(people)) {
    badLines.push(row);
    continue;
  }
  counts[day] += Number(people);
}

for (const day in counts) {
  if (busiest === null || counts[day] > counts[busiest]) {
    busiest = day;
  }
}

console.log(lines + " lines, bad: " + badLines.length);
console.log("busiest " + busiest);
console.log("monday " + counts.mon);
console.log("tuesday " + counts.tue);
console.log("of " + Object.keys(counts).length + " days");
console.log("that is all for this week");
"""


def test_several_things_of_a_sort_are_no_thing_and_what_is_found_is_found():
    """Careless: `class Line` with `value` and `bad`, and `updateCounts`."""
    after = built(REPORT, "report.js")
    assert "class Line " not in after and "updateCounts" not in after


CARDS = """\
let firstCard = null;
let secondCard = null;
let lockBoard = false;
let moves = 0;
const board = document.getElementById("board");

function flip() {
  if (lockBoard || this === firstCard) return;
  this.classList.add("up");
  if (!firstCard) {
    firstCard = this;
    return;
  }
  secondCard = this;
  moves++;
  board.title = moves;
  setTimeout(turnBack, 500);
}

function turnBack() {
  lockBoard = true;
  firstCard.classList.remove("up");
  secondCard.classList.remove("up");
  forget();
}

function forget() {
  firstCard = null;
  secondCard = null;
  lockBoard = false;
}

for (const name of ["kite", "gull"]) {
  const card = document.createElement("div");
  card.title = name;
  card.addEventListener("click", flip);
  board.appendChild(card);
}
"""


def test_listeners_with_a_name_ask_the_event_and_a_first_and_a_second_are_a_pair():
    """Careless: `flip` stays outside with all that it uses, for it has a `this` of its own."""
    after = built(CARDS, "cards.js")
    assert "  flip(event) {\n    const element = event.currentTarget;\n" in after
    assert "class CardPair" in after and "this.flip = this.flip.bind(this);" in after


LENDING = """\
let seeds = JSON.parse(localStorage.getItem("seeds")) || [];
let shown = "all";

function save() {
  localStorage.setItem("seeds", JSON.stringify(seeds));
}

function addSeed(name) {
  seeds.push(name);
  save();
}

function listSeeds() {
  return seeds.filter((name) => shown === "all" || name.startsWith(shown));
}

function clearSeeds() {
  seeds = [];
  save();
}

document.addEventListener("click", () => { addSeed("reed" + seeds.length); shown = "r"; render(); });
document.addEventListener("keydown", () => { clearSeeds(); render(); });

function render() {
  document.title = listSeeds().join() + shown;
}
"""


def test_what_is_told_by_its_methods_to_be_a_list_gives_the_class_its_plural():
    """Careless: `class Seed` with a `value`."""
    after = built(LENDING, "lending.js")
    assert "class Seed " not in after and ".value" not in after


CALCULATOR = """\
var current = "0";
var previous = null;
var operator = null;
var fresh = true;
var told = [];

function show() {
  document.getElementById("screen").textContent = current + previous + operator;
}

function digit(d) {
  current = fresh ? d : current + d;
  fresh = false;
  show();
}

function compute() {
  return operator === "+" ? Number(previous) + Number(current) : Number(current);
}

function op(o) {
  if (previous !== null && !fresh) current = String(compute());
  previous = current;
  operator = o;
  fresh = true;
  show();
}

function tell() {
  told.push(current);
}

var digits = document.querySelectorAll(".digit");
for (var i = 0; i < digits.length; i++) {
  digits[i].addEventListener("click", function () { digit(this.textContent); });
}
document.querySelectorAll(".row-of-ops .op").forEach(function (one) {
  one.addEventListener("click", () => op(one.textContent));
  one.addEventListener("focus", () => tell());
  one.addEventListener("blur", () => {
    told.pop();
    show();
  });
});
show();
"""


def test_most_of_a_script_is_no_part_of_it_that_is_called_after_one_of_its_values():
    """Careless: `class Operator` with `digit` and `show`, and an owner with next to nothing."""
    after = built(CALCULATOR)
    assert after.count("class ") == 1 and "this.operator = null;" in after


def test_what_only_gets_things_going_is_looked_up_where_that_is_done():
    """Careless: a field for what nothing else asks for."""
    assert "var digits = document" in built(CALCULATOR).split("run() {")[1]


def test_what_is_looked_up_by_a_text_is_called_by_its_words():
    """Careless: `setUpDocument`."""
    keys = "\n".join(
        f'document.getElementById("key{n}").addEventListener("click", () => digit("{n}"));' for n in range(20)
    )
    after = built(
        CALCULATOR.replace("var digits", f"{keys}\n\nvar digits")
        .replace('document.querySelectorAll(".r', '\ndocument.querySelectorAll(".r')
        .replace("});\nshow();", "});\n\nshow();")
    )
    assert "setUpOps() {" in after


COUNTING_DOWN = """\
const display = document.getElementById('display');
const startBtn = document.getElementById('start');
const pauseBtn = document.getElementById('pause');
const resetBtn = document.getElementById('reset');
const lapList = document.getElementById('laps');
const modeLabel = document.getElementById('mode');

const WORK = 25 * 60;
const BREAK = 5 * 60;

let secondsLeft = WORK;
let timerId = null;
let isRunning = false;
let mode = 'work';
let sessions = 0;
let laps = [];

function pad(n) {
  return n < 10 ? '0' + n : '' + n;
}

function formatTime(total) {
  const m = Math.floor(total / 60);
  const s = total % 60;
  return `${pad(m)}:${pad(s)}`;
}

function render() {
  display.textContent = formatTime(secondsLeft);
  modeLabel.textContent = mode === 'work' ? `Work (${sessions})` : 'Break';
  startBtn.disabled = isRunning;
  pauseBtn.disabled = !isRunning;
  document.title = formatTime(secondsLeft) + ' - Quay';
}

function tick() {
  secondsLeft--;
  if (secondsLeft <= 0) {
    switchMode();
  }
  render();
}

function switchMode() {
  if (mode === 'work') {
    mode = 'break';
    secondsLeft = BREAK;
    sessions++;
  } else {
    mode = 'work';
    secondsLeft = WORK;
  }
}

function start() {
  if (isRunning) return;
  isRunning = true;
  timerId = setInterval(tick, 1000);
  render();
}

function pause() {
  isRunning = false;
  clearInterval(timerId);
  timerId = null;
  render();
}

function reset() {
  pause();
  secondsLeft = mode === 'work' ? WORK : BREAK;
  laps = [];
  renderLaps();
  render();
}

function addLap() {
  laps.push({ time: formatTime(secondsLeft), mode: mode });
  renderLaps();
}

function renderLaps() {
  lapList.innerHTML = laps.map((lap, i) => `<li>${i + 1}. ${lap.time} (${lap.mode})</li>`).join('');
}

startBtn.addEventListener('click', start);
pauseBtn.addEventListener('click', pause);
resetBtn.addEventListener('click', reset);
document.addEventListener('keydown', (e) => {
  if (e.code === 'Space') {
    isRunning ? pause() : start();
  } else if (e.key === 'l') {
    addLap();
  }
});

render();
"""


def test_what_a_turn_changes_is_a_turn_of_its_class_and_several_are_counted():
    """Careless: `updateSecondsLeft()`, and `value` for how many sessions there were."""
    after = built(COUNTING_DOWN)
    assert "this.session.tick();\n    this.render();" in after and "this.count++;" in after


FLYING = """\
let mode = 0;
let wind = 0.1;
let flags = [];

function setup() {
  createCanvas(400, 300);
  for (let i = 0; i < 3; i++) flags.push({ x: 40 + i * 70, y: 60, angle: 0, tint: i * 40 });
}

function draw() {
  background(20);
  if (mode == 0) {
    text("Press a key", 150, 150);
    return;
  }
  for (let f of flags) {
    f.angle += wind * 0.3;
    push();
    translate(f.x, f.y);
    rotate(f.angle);
    fill(f.tint);
    rect(0, 0, 30, 18);
    pop();
  }
}

function keyPressed() {
  if (mode == 0) {
    mode = 1;
  } else if (keyCode === LEFT_ARROW) {
    wind -= 0.1;
  } else {
    wind += 0.1;
  }
}
"""


def test_what_is_only_set_when_a_key_is_pressed_is_no_thing():
    """Careless: `class Wind` with the mode of the sketch, for one key sets both; and `class Item` for each flag."""
    after = built(FLYING, "sketch.js")
    assert "class Wind" not in after and "class Flag {" in after and "this.wind -= 0.1;" in after


FOUND = """\
<!DOCTYPE html><html><body><button id="go" onclick="console.log(rows.length)">Go</button><p class="row">1</p>
<script>
var count = 0, names = [];
function add(text) { count++; names.push(text); document.title = count + names.join(); }
var rows = document.querySelectorAll(".row");
for (var i = 0; i < rows.length; i++) {
  rows[i].onclick = function () { add(this.textContent); };
}
</script></body></html>
"""


def test_what_the_page_finds_by_its_name_stays_at_the_top_level():
    """Careless: it is looked up in `run()`, where the page does not find it; or nothing is built for that reason."""
    after = built(FOUND, "quay.html")
    assert '\nvar rows = document.querySelectorAll(".row");\n' in after and "this.count++" in after
