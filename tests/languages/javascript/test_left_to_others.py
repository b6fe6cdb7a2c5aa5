"""Scripts that only declare: another script, which is not there, calls their functions and may have variables."""

from __future__ import annotations

import shutil
import subprocess

import pytest

from tests.support.javascript_programs import built, doubts, refusal

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

QUAY = """\
let boat, queue = [];
const places = 3;

function begin()
{
    boat = { load: 0 };
    skyColour = 'grey';
}

function turn(cars)
{
    queue.push(cars);
    while (queue.length && boat.load < places)
        boat.load += queue.shift();
    return boat.load + ' of ' + places + ', ' + queue.length;
}
"""
CALLER = """
let skyColour = 'blue', camera = { x: 1 };
begin();
for (const cars of [1, 1, 2, 3]) print(turn(cars));
print(skyColour, camera.x);
"""


def told(*scripts: str) -> str:
    """What scripts of one page say, each run in the scope of all."""
    page = "const vm = require('vm'), scope = vm.createContext({ print: console.log });\n"
    page += "".join(f"vm.runInContext({script!r}, scope);\n" for script in scripts)
    return subprocess.run(["node", "-e", page], capture_output=True, text=True, check=False).stdout


@needs_node
def test_functions_that_nothing_names_are_called_by_others():
    made = built(QUAY, "quay.js")
    assert "class Quay" in made and made.rstrip().endswith("function turn(cars) {\n    return quay.turn(cars);\n}")
    assert told(made, CALLER) == told(QUAY, CALLER) != ""
    assert any("what calls these functions is not here" in doubt for doubt in doubts(QUAY))


@needs_node
def test_what_is_set_and_only_set_here_is_of_others():
    """Careless: a field `skyColour`, which the others do not see."""
    assert "    skyColour = 'grey';" in built(QUAY, "quay.js")


def test_what_is_read_too_and_nothing_declares_may_be_of_others_or_own():
    """Careless: a field that the others do not see, or a class, which is strict, that sets what nobody declared."""
    text = "let level = 2;\nfunction rise() {\n  level += 1;\n  mark = level;\n  return mark;\n}\n"
    assert "nothing declares `mark`" in refusal(text)


def test_a_script_that_calls_something_itself_leaves_nothing_to_others():
    text = "let level = 2;\nfunction rise() { level += 1; }\nfunction unused() { level = 0; }\nrise();\nconsole.log(level);\n"
    assert "function unused" not in built(text)
