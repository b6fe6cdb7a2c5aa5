"""narrow: a variable that every routine sets before it asks for it becomes each routine's own."""

from __future__ import annotations

import shutil

import pytest

from aedifex.moves.narrow import Narrow
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed
from tests.support.javascript_programs import built
from tests.support.narrowing import narrowed, write_passing

WEIGHED = """\
loads = [3, 1]
total = 0
load = 0  # what is weighed


def add():
    global total, load
    for load in range(len(loads)):
        total += loads[load]


def show():
    global load
    load = total * 2
    print(load)


add()
show()
"""
DRAWN = """\
let tide = 3;
let gap; // to the quay
let i;

function rise() {
  if (tide > 2) {
    gap = tide * 2;
    tide += gap;
  }
  for (i = 0; i < 2; i++) {
    tide += i;
  }
}

function tell() {
  gap = 5;
  gap += tide;
  console.log(gap);
}

rise();
tell();
for (i = 0; i < 3; i++) {
  tide -= i;
}
console.log(tide);
"""


def test_each_function_has_its_own():
    text = moved(WEIGHED, Narrow(SCRIPT, "load"))[SCRIPT.name]
    assert "total = 0\n\n\n" in text and "    global total\n" in text and "global load" not in text
    assert text.count("# what is weighed") == 1
    assert printed(text) == printed(WEIGHED)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("    load = total * 2\n", "    load += total\n"),  # it asks for what the other has set
        ("    load = total * 2\n", "    load = 4\n    add()\n"),  # the other sets it in between
        ("    load = total * 2\n", "    if total:\n        load = 4\n"),
        ("    load = total * 2\n", "    try:\n        load = int('x')\n    except ValueError:\n        pass\n"),
        ("    load = total * 2\n", "    load = 4\n    print((lambda: load)())\n"),
        ("    load = total * 2\n", "    load = open(__file__)\n"),  # it may be noticed when that goes
        ("show()\n", "show()\nprint(load)\n"),
        ("show()\n", 'show()\nprint(globals()["load"])\n'),
        ("    load = total * 2\n    print(load)\n", "    load = 3\n    yield load\n    print(load)\n"),
        ("    load = total * 2\n", "    load = 1\n    del load\n    load = 2\n"),
    ],
)
def test_what_one_asks_of_another_stays_shared(old, new):
    assert old in WEIGHED
    with pytest.raises(RefusedError):
        moved(WEIGHED.replace(old, new), Narrow(SCRIPT, "load"))


def test_it_is_declared_where_it_is_set_first():
    text = built(DRAWN)
    assert "      const gap = this.tide * 2;\n" in text and "    let gap = 5;\n" in text
    assert text.count("for (let i = 0;") == 2 and "this.i" not in text and "let i;" not in text
    assert text.count("// to the quay") == 1


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("function tell() {", "function tell(by = gap) {"),  # asked for before the body sets it
        ("  console.log(gap);", "  setTimeout(() => console.log(gap), 1);\n  gap = 2;"),
        ("  console.log(gap);", "  [1, 2].forEach((n) => rise());\n  console.log(gap);"),
        ("  gap = 5;\n", "  if (tide) gap = 5;\n"),
        ("function tell() {", "async function tell() {"),
    ],
)
def test_what_is_asked_for_elsewhere_stays_shared_in_javascript(old, new):
    assert old in DRAWN
    assert "const gap" not in built(DRAWN.replace(old, new)) and "let gap" not in built(DRAWN.replace(old, new))


@pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
@pytest.mark.parametrize("is_python", [True, False])
def test_random_scripts_do_the_same(is_python):
    ends = [narrowed(write_passing(seed, is_python=is_python), is_python=is_python) for seed in range(14)]
    assert {end.partition(" ")[0].rstrip(":") for end in ends} == {"same", "refused"}, [
        e for e in ends if "different" in e
    ]
    assert sum(end.startswith("same") for end in ends) >= 4
