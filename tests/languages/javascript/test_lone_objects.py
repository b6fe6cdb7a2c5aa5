"""Objects that are written out once, with functions of their own: beside each case stands what a careless move makes."""

from __future__ import annotations

import shutil

import pytest

from aedifex.moves.embody import Embody
from aedifex.moves.kit.binding_check import perform
from aedifex.source.errors import RefusedError
from tests.support.javascript_lone import write_lone_objects
from tests.support.javascript_programs import built, doubts, program_of
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

FERRY = """\
// the ferry on its cable
const ferry = {
  x: 0,
  load: ["hay"], // carts

  // moves on
  move(by) {
    this.x += by;
  },
  tell: function tellIt() {
    console.log(ferry.x, ferry.load.map((one) => ferry.x + one));
  },
  get far() {
    return this.x > 9;
  },
};
"""


def embodied(text: str) -> str:
    program = program_of(text)
    return perform(program, Embody(program.main.path, "ferry")).main.source.encode().decode()


def test_what_it_holds_is_set_by_the_constructor_and_its_functions_are_methods():
    """Careless: `console.log(ferry.x)` in a class that is told nothing of `ferry`."""
    assert embodied(FERRY + "ferry.move(3);\nferry.tell();\n") == (
        "// the ferry on its cable\nclass Ferry {\n  constructor() {\n    this.x = 0;\n"
        '    this.load = ["hay"]; // carts\n  }\n\n  // moves on\n  move(by) {\n    this.x += by;\n  }\n\n'
        "  tell() {\n    console.log(this.x, this.load.map((one) => this.x + one));\n  }\n\n"
        "  get far() {\n    return this.x > 9;\n  }\n}\n\nconst ferry = new Ferry();\n"
        "ferry.move(3);\nferry.tell();\n"
    )


def test_functions_with_a_receiver_of_their_own_keep_the_name():
    """Careless: `this.x` in a `function` is nobody's."""
    inner = "  each() {\n    [1].forEach(function () { ferry.x += 1; });\n    this.x += 1;\n  },\n};\n"
    assert "function () { ferry.x += 1; }" in embodied(FERRY.replace("};\n", inner))


CARELESS = {
    "shows its class": ("console.log(ferry);", "`ferry` is used as a whole here"),
    "shows no functions": ("Object.keys(ferry).length;", "`ferry` is used as a whole here"),
    "keeps no name": ("ferry['x'] = 2;", "`ferry` is used as a whole here"),
    "has no object": ("setTimeout(ferry.move, 5);", "the function is called without an object"),
    "is called without it": (
        "const take = ferry.tell; take();",
        "`tell` is handed on without its object here|without an object",
    ),
    "gets another function": ("ferry.move = () => 5;", "a function of `ferry` is set anew here"),
    "makes nothing": ("new ferry.tell();", "a function of `ferry` makes an object here"),
    "has a name that is taken": ("class Ferry {}", "the name `Ferry` is in use"),
    "is walked over": ("for (const key in { a: 1 }) key;", "the names of an object's members are gone through"),
}


@pytest.mark.parametrize("case", CARELESS)
def test_what_an_object_of_a_class_would_not_do_is_refused(case):
    line, reason = CARELESS[case]
    with pytest.raises(RefusedError, match=reason):
        embodied(FERRY + line + "\n")


@pytest.mark.parametrize(
    ("member", "reason"),
    [
        ("  y: this,\n", "`this` means something else in a class"),
        ("  late: () => typeof this,\n", "`this` means something else in a class"),
        ("  x: 5,\n", "`x` is no plain name of a member"),
        ("  toString() { return 'ferry'; },\n", "`toString` is no plain name of a member"),
        ("  y: 1, z: 2,\n", "several members stand in one line"),
        ("  save() { console.log(this); },\n", "`this` is used as a whole here"),
        ("  save() { const that = this; return [that]; },\n", "`this` is used as a whole here"),
        ("  base() { return super.toString(); },\n", "`super` means something else in a class"),
    ],
)
def test_members_that_would_mean_something_else_are_refused(member, reason):
    with pytest.raises(RefusedError, match=reason):
        embodied(FERRY.replace("  x: 0,\n", "  x: 0,\n" + member))


@pytest.mark.parametrize(
    "text", ["const ferry = {\n  up() { return 1; },\n  down() { return 2; },\n};\n", "let ferry = { x: 1 };\n"]
)
def test_tables_of_functions_and_plain_objects_are_none(text):
    with pytest.raises(RefusedError, match="holds no object that is written out with functions of its own"):
        embodied(text + "ferry.x;\n")


def test_a_script_with_nothing_else_is_built_all_the_same():
    assert "const ferry = new Ferry();\nferry.move(3);" in built(FERRY + "ferry.move(3);\nferry.tell();\n")


def test_state_that_functions_of_an_object_use_is_reached():
    """Careless: `this.wind` in them is the object's."""
    text = (
        FERRY.replace("this.x += by;", "this.x += by * wind;")
        + "let wind = 2;\nfunction blow() {\n  wind += 1;\n  ferry.move(2);\n}\nblow();\n"
    )
    assert "this.x += by * state.wind;" in built(text) or "this.x += by * this.wind;" not in built(text)


def test_the_draft_says_why_one_stays():
    plain = "const ferry = {\n  x: 0,\n  move() {\n    ferry.x += 1;\n  },\n};\n"
    found = doubts(plain + "let wind = 1;\nfunction blow() {\n  wind += 1;\n  console.log(ferry);\n}\nblow();\n")
    assert "ferry stays an object of its own: `ferry` is used as a whole here (line 10)" in found


@needs_node
@pytest.mark.parametrize(
    "text",
    [
        "const tide = {\n  x: 1,\n  rise: function () {\n    return this === globalThis;\n  },\n};\n"
        "function step() {\n  wind += 1;\n  return tide.x;\n}\nconsole.log(step(), [1].map(tide.rise));\n",
        "const tides = [];\nfunction step() {\n  wind += 1;\n  tides.push({ rise() { return typeof this; } });\n}\n"
        "step();\nconst take = tides[0].rise;\nconsole.log(take(), tides[0].rise());\n",
        "const tides = [];\nfunction step() {\n  wind += 1;\n  tides.push({ rise() { return typeof this; } });\n}\n"
        "step();\nconst { rise } = tides[0];\nconsole.log(rise(), wind);\n",
    ],
)
def test_functions_that_are_taken_off_their_object_keep_what_they_are_without_it(text):
    """Careless: in a class, which is strict, `this` is nothing in them; outside it is everything."""
    assert outcome(f"let wind = 1;\n{text}").partition(":")[0] in ("same", "refused")


@needs_node
@pytest.mark.parametrize("seed", range(0, 6))
def test_random_objects_do_the_same(seed):
    assert outcome(write_lone_objects(seed)).partition(":")[0] in ("same", "refused", "broken")
