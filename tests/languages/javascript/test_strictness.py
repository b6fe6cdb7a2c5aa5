"""What happens silently outside of a class and is an error inside: beside each case stands what is lost, or thrown."""

from __future__ import annotations

import shutil

import pytest

from tests.support.javascript_programs import built, program_of, refusal
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

TIDE = """\
let tide = 0;
%s

function rise(by, to) {
  tide += 1;
%s
}

rise(1, 2);
rise(3, 4);
console.log(tide);
"""
CARELESS = {
    "a parameter changes `arguments`": ("", "  by += 10;\n  console.log(arguments[0]);", "are the same here"),
    "`arguments` changes a parameter": ("", "  arguments[0] = 7;\n  console.log(by);", "are the same here"),
    "something else may change it": ("", "  [].shift.call(arguments);\n  console.log(by);", "are the same here"),
    "what is frozen is set": ("const most = Object.freeze({ tide: 3 });", "  most.tide = 9;", "may not be changed"),
    "so is what is frozen later": (
        "const most = { tide: 3 };\nObject.freeze(most);",
        "  most.tide++;",
        "may not be changed",
    ),
    "what is frozen is not known": (
        "const all = [{}].map(Object.freeze);\nconst it = [Object.freeze({ a: 1 })];",
        "  it[0].a = 2;",
        "may not be changed",
    ),
    "a text gets a member": ('const word = "tide";', "  word.seen = tide;", "gets a member"),
    "a text gets another sign": ('const word = "tide";', '  word[0] = "T";', "gets a member"),
    "what is only worked out is set": (
        "const gauge = { get level() { return 3; } };",
        "  gauge.level = 9;\n  console.log(gauge.level);",
        "cannot be set",
    ),
    "a function that a list calls has no object": (
        "",
        "  [by].forEach(function () { console.log(typeof this); });",
        "without an object",
    ),
    "nor has one that a function of the script calls": (
        "function each(things, call) { for (const thing of things) call(thing); }",
        "  each([by], function () { console.log(typeof this); });",
        "without an object",
    ),
    "nothing gets a value": ("", "  undefined = 3;", "may not be changed"),
    "a constant is set": ("", "  Math.PI = 3;\n  console.log(Math.PI > 3.1);", "may not be changed"),
    "a function sets its own name": (
        "",
        "  const f = function g() { g = 1; return typeof g; };\n  console.log(f());",
        "own name is set here",
    ),
    "a word that classes keep is a name": ("", "  var public = 2;\n  tide += public;", "can be no name in a class"),
}
HARMLESS = {
    "`arguments` is only read": ("", "  console.log(arguments.length, arguments[0], by);"),
    "it is handed on to be read": ("", "  console.log(...arguments, Math.max.apply(Math, arguments));"),
    "parameters have first values": (
        "",
        "  const f = function (a = 1) { a += 1; return arguments.length; };\n  console.log(f(2));",
    ),
    "what is frozen is read": ("const most = Object.freeze({ tide: 3 });", "  console.log(most.tide);"),
    "what is worked out can be set": (
        "",
        "  const gauge = { get level() { return 3; }, set level(to) { console.log(to); } };\n  gauge.level = 9;",
    ),
    "a sign is written in octal": ("", '  console.log("\\033[1m" + by + "\\33[0m\\0", "\\\\033");'),
}


@pytest.mark.parametrize("case", CARELESS)
def test_what_would_be_an_error_in_a_class_stays_outside(case):
    above, inside, reason = CARELESS[case]
    text = TIDE % (above, inside)
    assert reason in next(said for _, said in program_of(text).main.only_outside)
    assert refusal(text) or "\nfunction rise(by, to) {\n  tide.level += 1;\n" in built(text)


@needs_node
@pytest.mark.parametrize("case", CARELESS)
def test_it_does_the_same(case):
    above, inside, _ = CARELESS[case]
    assert outcome(TIDE % (above, inside)).partition(":")[0] in ("same", "refused")


@needs_node
@pytest.mark.parametrize("case", HARMLESS)
def test_what_is_none_is_built_and_does_the_same(case):
    assert outcome(TIDE % HARMLESS[case]) == "same"


def test_signs_in_octal_are_written_otherwise():
    made = built(TIDE % HARMLESS["a sign is written in octal"])
    assert r'console.log("\x1b[1m" + by + "\x1b[0m\0", "\\033");' in made


@pytest.mark.parametrize("case", CARELESS)
def test_in_a_strict_file_nothing_changes(case):
    above, inside, _ = CARELESS[case]
    assert program_of('"use strict";\n' + TIDE % (above, inside)).main.only_outside == []
