"""Classes of a script that are given what they used of it: beside each case stands what a careless move makes."""

from __future__ import annotations

import shutil

import pytest

from aedifex.moves.inject import Inject
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.supply import Supply
from aedifex.source.errors import RefusedError
from tests.support.javascript_programs import built, program_of
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

QUAY = """\
let score = 0;
let gust = 2;

class Kite {{
  constructor(x, y) {{
    this.x = x;
    this.y = y;
  }}

  move() {{
    this.x += gust;
    score += 1;
  }}
{inside}}}

{above}function turn(kites) {{
  for (const kite of kites) kite.move();
  gust += 1;
  console.log(score, gust);
}}

const kites = [{made}];
turn(kites);
turn(kites);
{more}
console.log(kites.map((kite) => kite.x).join(), score);
"""
MADE = "new Kite(1, 2), new Kite(3, 4)"


def quay(inside: str = "", above: str = "", made: str = MADE, more: str = "") -> str:
    return QUAY.format(inside=inside, above=above, made=made, more=more)


@needs_node
def test_objects_are_given_what_their_class_uses():
    made = built(quay())
    assert "constructor(x, y, " in made and "this.x += this." in made and "let score" not in made
    assert "new Kite(1, 2, this." in made
    assert outcome(quay()) == "same"


@needs_node
def test_what_is_made_in_a_method_is_given_what_that_object_has():
    inside = "\n  twin() {\n    return new Kite(this.x + gust, this.y);\n  }\n"
    text = quay(inside, more="kites.push(kites[0].twin());\nturn(kites);")
    assert "return new Kite(this.x + this." in built(text)
    assert outcome(text) == "same"


@needs_node
def test_functions_that_become_methods_are_asked_of_their_object():
    counting = "  count(by) {\n    addPoints(by);\n  }\n"
    points = "function addPoints(by) {\n  score += by;\n}\n\n"
    text = quay(counting, points, more="kites[0].count(4);")
    assert "count(by) {\n    this.state.addPoints(by);" in built(text)
    assert outcome(text) == "same"


@needs_node
@pytest.mark.parametrize(
    ("head", "given"),
    [
        (
            "constructor(x, y) { this.x = x; this.y = y; }",
            "constructor(x, y, state) {\n    this.x = x;\n    this.y = y;\n    this.state = state;\n  }\n",
        ),
        (
            "constructor(x, y) { this.x = x + gust; }",
            "constructor(x, y, state) {\n    this.state = state;\n    this.x = x + this.state.gust;\n  }\n",
        ),
        ("constructor(x, y) {}", "constructor(x, y, state) {\n    this.state = state;\n  }\n"),
        ("constructor(x, y) {\n  }", "constructor(x, y, state) {\n    this.state = state;\n  }\n"),
        ("constructor(x, y) { /* at */ this.x = x; }", None),
        (
            "constructor(x, y) {\n    this.x = x;\n    this.set(y);\n  }\n\n  set(y) {\n    this.y = y * gust;\n  }",
            "constructor(x, y, state) {\n    this.x = x;\n    this.state = state;\n    this.set(y);\n",
        ),
    ],
)
def test_what_is_given_is_kept_before_it_is_asked_for(head, given):
    text = quay().replace("constructor(x, y) {\n    this.x = x;\n    this.y = y;\n  }", head)
    assert (given in built(text)) if given is not None else ("this.state" not in built(text))
    assert outcome(text) == "same"


@needs_node
def test_a_constructor_of_its_own_stands_behind_the_fields():
    text = quay(made="new Kite(), new Kite()").replace(
        "  constructor(x, y) {\n    this.x = x;\n    this.y = y;\n  }\n", "  x = 1; // at the pier\n  y = 2;\n"
    )
    assert "  y = 2;\n\n  constructor(state) {\n    this.state = state;\n  }\n\n  move() {" in built(text)
    assert outcome(text) == "same"


@pytest.mark.parametrize(
    "parts",
    [
        {"more": "setTimeout(kites[0].move, 5);"},  # it forgets its object
        {"more": "const { move } = kites[0];\ntry { move(); } catch (error) { console.log(error.name); }"},
        {"more": "kites[1].move.call({ x: 5 });"},
        {"more": "kites[1]['move'].call({ x: 5 });"},
        {"more": "console.log(JSON.stringify(kites));"},  # what it is given is seen
        {"more": "console.log(kites[0]);"},
        {"more": "console.log(Object.keys(kites[1]).length);"},
        {"more": "console.log({ ...kites[0] }.y);\nfor (const name in kites[0]) console.log(name);"},
        {"made": "new Kite(1), new Kite(3, 4)"},  # it comes in the place of another
        {"made": "new Kite(1, 2, 3), new Kite(3, 4)"},
        {"made": "new Kite(...[1, 2]), new Kite(3, 4)"},
        {"made": "new Kite, new Kite(3, 4)"},
        {"made": "new (Kite)(1, 2), Reflect.construct(Kite, [3, 4])"},
        {"above": "const Sort = Kite;\n\n", "made": "new Sort(1, 2), new Kite(3, 4)"},
        {"above": "class Sled extends Kite {}\n\n", "made": "new Sled(1, 2), new Kite(3, 4)"},
        {"above": "class Sled extends Kite {\n  constructor(x) {\n    super(x, x);\n    score += x;\n  }\n}\n\n",
         "made": "new Sled(1), new Kite(3, 4)"},  # nothing can be kept before the base is set up
        {"above": "class Sled {\n  move() {\n    Kite.prototype.move.call(this);\n  }\n}\n\n", "made": "new Sled(), new Kite(3, 4)"},
        {"inside": "\n  static all() {\n    return score;\n  }\n", "more": "console.log(Kite.all());"},  # without an object
        {"inside": "\n  begun = score;\n", "more": "console.log(kites[0].begun);"},  # before the constructor
        {"inside": "\n  later() {\n    setTimeout(function () { score += 1; console.log(score); }, 1);\n  }\n",
         "more": "kites[0].later();"},  # has another `this`
        {"inside": "\n  later() {\n    setTimeout(() => { score += 1; console.log(score); }, 1);\n  }\n",
         "more": "kites[0].later();"},
        {"inside": "\n  get far() {\n    return this.x > gust;\n  }\n", "more": "console.log(kites[0].far);"},
        {"inside": "\n  gust() {\n    return 1;\n  }\n", "more": "console.log(kites[0].gust());"},  # has the name already
        {"inside": "\n  score = 7;\n", "more": "console.log(kites[0].score);"},
        {"more": "console.log(Kite.length, structuredClone({ x: kites[0].x }).x);"},
    ],
)  # fmt: skip
@needs_node
def test_what_would_be_noticed_stays(parts):
    assert outcome(quay(**parts)) == "same"


@needs_node
def test_a_constructor_that_counts_what_it_is_given_is_given_no_more():
    text = quay().replace("    this.y = y;\n", "    this.y = y + arguments.length;\n")
    assert "constructor(x, y) {" in built(text) and outcome(text) == "same"


HEIRS = """\
class Log {
  constructor() {
    this.lines = [];
  }
}

const log = new Log();

class Kite {
  constructor(rope) {
    this.rope = rope;
  }
}

class Sled extends Kite {
  constructor(rope, runners) {
    super(rope);
    this.runners = runners;
  }

  slide() {
    log.lines.push(this.runners);
  }
}

class Racer extends Sled {
  slide() {
    super.slide();
    log.lines.push(this.rope);
  }
}

const racer = new Racer(3, 2);
racer.slide();
console.log(log.lines.join(), racer instanceof Kite);
"""


def supplied(text: str, name: str) -> str:
    program = program_of(text)
    return perform(program, Supply(program.main.path, name, "log")).main.source.encode().decode()


def test_a_class_keeps_it_when_its_base_has_set_it_up():
    made = supplied(HEIRS, "Sled")
    assert "super(rope);\n    this.runners = runners;\n    this.log = log;\n" in made
    assert "new Racer(3, 2, log)" in made and "constructor(rope) {" in made


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ("racer.slide();", "setTimeout(racer.slide, 1);", "without its object"),
        ("    this.rope = rope;", "    this.rope = rope;\n    this.slide?.();", "before it can keep anything"),
        ("    super(rope);", "    super(log.lines.length);", "before the object is set up"),
        ("    super(rope);", "    if (runners) super(rope);\n    else super(1);", "is set up before it can keep"),
        ("new Racer(3, 2)", "new Racer(3)", "fewer or more"),
    ],
)
def test_what_comes_from_a_base_may_be_asked_too_early(old, new, words):
    """Careless: `this` before `super`, or nothing under `this.log`."""
    with pytest.raises(RefusedError, match=words):
        supplied(HEIRS.replace(old, new), "Sled")


NEVER = """\
let wind = 2;

class Gull {
  constructor(...names) {
    this.names = names;
  }

  fly() {
    return this.names.length * wind;
  }
}

function fly(...kites) {
  return kites.length + wind;
}

console.log(wind);
"""


def test_nothing_stands_behind_what_takes_all_the_rest():
    """Careless: `fly(...kites, wind)`, which is no JavaScript; nobody calls it, so no call says that it takes more."""
    program = program_of(NEVER)
    given = perform(program, Inject(program.main.path, "fly", "wind", None, "wind")).main.source.encode().decode()
    assert "function fly(wind, ...kites) {" in given
    with pytest.raises(RefusedError, match="takes whatever it is given"):
        perform(program, Supply(program.main.path, "Gull", "wind"))
