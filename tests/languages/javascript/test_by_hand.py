"""Classes set up by hand in JavaScript: beside each case stands what a careless rewriting would make of it."""

from __future__ import annotations

import shutil

import pytest

from aedifex.moves.compose import Compose
from aedifex.moves.kit.binding_check import perform
from aedifex.source.errors import RefusedError
from tests.support.class_families import write_family
from tests.support.javascript_by_hand import write_by_hand
from tests.support.javascript_programs import built, doubts, program_of
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

KITE = """\
let wind = 2;

// one kite
function Kite(rope) {
  this.rope = rope;
}

// longer
Kite.prototype.pull = function (by) {
  this.rope += by * wind;
};

"""
MAIN = """\
function blow() {
  const kite = new Kite(4);
  wind += 1;
  kite.pull(2);
  console.log(kite.rope, kite instanceof Kite);
}

blow();
"""


def composed(text: str) -> str:
    program = program_of(text)
    return perform(program, Compose(program.main.path, "Kite")).main.source.encode().decode()


def test_the_function_and_what_hangs_on_it_are_one_class():
    made = built(KITE + MAIN)
    assert (
        "// one kite\nclass Kite {\n  constructor(rope, wind) {\n    this.rope = rope;\n    this.wind = wind;\n  }\n\n"
        "  // longer\n  pull(by) {\n" in made
    )
    assert "prototype" not in made


def test_so_are_those_in_a_table():
    table = "Kite.prototype = {\n  constructor: Kite,\n\n  // longer\n  pull: function (by) {\n    this.rope += by;\n  },\n};\n\n"
    made = composed(KITE.partition("// longer")[0] + table + MAIN)
    assert "  }\n\n  // longer\n  pull(by) {\n    this.rope += by;\n  }\n}\n" in made and "prototype" not in made


def test_what_is_no_method_stays_behind_it():
    made = composed(KITE + "Kite.most = 3;\nKite.prototype.colour = 'red';\n" + MAIN)
    assert "}\n\nKite.most = 3;\nKite.prototype.colour = 'red';\n" in made


CARELESS = {
    "an object is made above what is hung on it": (
        KITE.partition("// longer")[0] + MAIN + "// longer" + KITE.partition("// longer")[2],
        "makes an object here before all is there",
    ),
    "something is kept on it above it": ("Kite.most = 3;\n" + KITE + MAIN, "is asked for here, above where it stands"),
    "it is called without `new`": (KITE + MAIN + "Kite.call({}, 2);\n", "used here otherwise than classes are"),
    "it is handed on": (KITE + MAIN + "console.log([1].map(Kite));\n", "used here otherwise than classes are"),
    "a method is hung on it twice": (
        KITE + "Kite.prototype.pull = function () {};\n" + MAIN,
        "`pull` gets another meaning here",
    ),
    "all is replaced further down": (
        KITE + "Kite.prototype = {\n  fly: function () {}\n};\n" + MAIN,
        "what all objects share is replaced further down",
    ),
    "all is replaced by another's": (
        KITE.partition("// longer")[0] + "Kite.prototype = Object.create(null);\n" + MAIN,
        "used here otherwise than classes are",
    ),
    "all is replaced by what does not say what made it": (
        KITE.partition("// longer")[0] + "Kite.prototype = {\n  fly: function () {}\n};\n" + MAIN,
        "what made an object may be shown here",
    ),
    "members are gone through": (
        KITE + MAIN + "for (const key in new Kite(1)) console.log(key);\n",
        "the names of an object's members are gone through here",
    ),
    "a method is handed on": (
        KITE + MAIN + "const kite = new Kite(1);\nsetTimeout(kite.pull, 1);\n",
        "`pull` is handed on without its object here",
    ),
    "a method of what a call gives is handed on": (
        KITE + MAIN + "function get() {\n  return new Kite(1);\n}\nsetTimeout(get().pull, 1);\n",
        "`pull` is handed on without its object here",
    ),
    "all that is shared is looked at": (
        KITE + MAIN + "console.log(Object.keys(Kite.prototype));\n",
        "used here otherwise than classes are",
    ),
    "it is found by its name": (
        KITE + MAIN + "const known = { Kite: 1 };\nconsole.log(known.Kite);\n",
        "may be found by its name here",
    ),
    "it is only strict in a class": (
        KITE.replace("this.rope = rope;", "this.rope = 010;") + MAIN,
        "a number is written in octal here",
    ),
}


@pytest.mark.parametrize("case", CARELESS)
def test_what_a_class_would_not_do_is_refused(case):
    text, reason = CARELESS[case]
    with pytest.raises(RefusedError, match=reason):
        composed(text)


def test_a_method_hung_under_a_condition_stays_where_it_is():
    text = KITE + "if (wind > 5) Kite.prototype.pull = function () { this.rope = 0; };\n" + MAIN
    assert "if (wind > 5) Kite.prototype.pull = function () { this.rope = 0; };" in composed(text)


def test_an_arrow_is_no_method():
    text = KITE + "Kite.prototype.late = () => this.rope;\n" + MAIN
    assert "Kite.prototype.late = () => this.rope;" in composed(text)


def test_the_draft_says_why_one_is_no_class():
    found = doubts(KITE + MAIN + "function call() {\n  wind = 1;\n  Kite.call({}, 2);\n}\ncall();\n")
    assert "Kite is no class yet: `Kite` is used here otherwise than classes are (line 23)" in found


def test_a_function_that_keeps_its_receiver_reaches_what_it_uses():
    """Careless: `this.wind` in it is the kite's."""
    made = built(KITE + MAIN + "function call() {\n  wind = 1;\n  Kite.call({}, 2);\n}\ncall();\n")
    assert "this.rope += by * wind.value;" in made


BARGE = """\
// it sinks, too
function Barge(rope, depth) {
  Kite.call(this, rope);
  this.depth = depth;
}

Barge.prototype = Object.create(Kite.prototype);
Barge.prototype.constructor = Barge;

Barge.prototype.pull = function (by) {
  Kite.prototype.pull.call(this, by);
  this.depth -= by;
};

"""
HEIR = KITE + BARGE + MAIN.replace("new Kite(4)", "new Barge(4, 2)")


def test_one_that_inherits_comes_from_the_class():
    made = composed(HEIR)
    assert (
        "// it sinks, too\nclass Barge extends Kite {\n  constructor(rope, depth) {\n    super(rope);\n"
        "    this.depth = depth;\n  }\n\n  pull(by) {\n    super.pull(by);\n    this.depth -= by;\n  }\n}\n" in made
    )
    assert "prototype" not in made


LINKS = {
    "set afterwards": "Object.setPrototypeOf(Barge.prototype, Kite.prototype);\n",
    "says what makes it": "Barge.prototype = Object.create(Kite.prototype, { constructor: { value: Barge } });\n",
}


@pytest.mark.parametrize("case", LINKS)
def test_there_are_other_ways_to_inherit(case):
    link = "Barge.prototype = Object.create(Kite.prototype);\nBarge.prototype.constructor = Barge;\n"
    made = composed(HEIR.replace(link, LINKS[case]))
    assert "class Barge extends Kite {" in made and "prototype" not in made.lower()


def test_all_that_was_given_is_handed_on():
    made = composed(HEIR.replace("Kite.call(this, rope)", "Kite.apply(this, arguments)"))
    assert "    super(...arguments);\n" in made


CARELESS_HEIRS = {
    "the object is used before it is set up": (
        HEIR.replace(
            "  Kite.call(this, rope);\n  this.depth = depth;", "  this.depth = depth;\n  Kite.call(this, rope);"
        ),
        "is done before `Kite` has set up the object",
    ),
    "it is not always set up": (
        HEIR.replace("  Kite.call(this, rope);", "  if (depth) return;\n  Kite.call(this, rope);"),
        "is done before `Kite` has set up the object",
    ),
    "it is set up under a condition": (
        HEIR.replace("  Kite.call(this, rope);", "  if (depth) Kite.call(this, rope);"),
        "does not let `Kite` set up",
    ),
    "it is never set up": (HEIR.replace("  Kite.call(this, rope);\n", ""), "does not let `Kite` set up"),
    "it is set up twice": (
        HEIR.replace("  Kite.call(this, rope);", "  Kite.call(this, rope);\n  Kite.call(this, depth);"),
        "does not let `Kite` set up",
    ),
    "another object comes of it": (
        HEIR.replace("  this.rope = rope;", "  this.rope = rope;\n  return { rope: 1 };"),
        "`Kite` gives back something of its own",
    ),
    "it does not say what made it": (
        HEIR.replace("Barge.prototype.constructor = Barge;\n", ""),
        "what made an object may be shown here",
    ),
    "what it had is replaced": (
        HEIR.replace("Barge.prototype = Object", "Barge.prototype.fly = function () {};\nBarge.prototype = Object"),
        "what all objects share is replaced further down",
    ),
    "what it inherits from has the same member": (
        HEIR + "Kite.most = 3;\nconsole.log(Barge.most);\n",
        "what it inherits from has a member of this name, too",
    ),
    "members are gone through": (
        HEIR + "for (const key in new Barge(1, 2)) console.log(key);\n",
        "the names of an object's members are gone through here",
    ),
    "an object of the other is set up so": (
        HEIR.replace(
            "Barge.prototype.pull = function (by) {", "Barge.prototype.pull = function (by) {\n  Kite.call(this, 3);"
        ),
        "otherwise than classes are",
    ),
}


@pytest.mark.parametrize("case", CARELESS_HEIRS)
def test_what_a_class_would_not_inherit_is_refused(case):
    text, reason = CARELESS_HEIRS[case]
    with pytest.raises(RefusedError, match=reason):
        composed(text)


def test_a_number_that_is_called_like_a_method_is_not_handed_on():
    made = composed(KITE + MAIN + "let sum = 0;\nconst knot = { pull: 2 };\nsum += knot.pull;\nconsole.log(sum);\n")
    assert "class Kite {" in made


def test_a_family_is_given_what_it_shares():
    made = built(HEIR)
    assert "constructor(rope, depth, wind) {\n    super(rope, wind);\n    this.depth = depth;\n" in made
    assert "new Barge(4, 2, this.wind)" in made


@needs_node
@pytest.mark.parametrize("seed", range(0, 5))
def test_random_classes_set_up_by_hand_do_the_same(seed):
    assert outcome(write_by_hand(seed)).partition(":")[0] in ("same", "refused", "broken")


@needs_node
@pytest.mark.parametrize("seed", range(0, 4))
def test_random_classes_that_inherit_by_hand_do_the_same(seed):
    assert outcome(write_by_hand(seed, inherits=True)).partition(":")[0] in ("same", "refused", "broken")


@needs_node
@pytest.mark.parametrize("seed", range(0, 6))
def test_random_families_of_classes_do_the_same(seed):
    assert outcome(write_family(seed, is_python=False)).partition(":")[0] in ("same", "refused")
