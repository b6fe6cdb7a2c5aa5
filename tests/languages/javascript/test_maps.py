"""Records that are kept in maps, sets, tables and lists, and what a walk over each of these gives."""

from __future__ import annotations

import shutil

import pytest

from tests.support.javascript_maps import write_maps
from tests.support.javascript_programs import built
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

KITES = """\
const kites = new Map([['red', { rope: 3, up: false }]]);
let wind = 2;

function add(name, rope) {
  kites.set(name, { rope: rope, up: false });
}

function fly() {
  {WALK}
  wind += 1;
}

add('blue', 5);
fly();
"""
BLOW = "kite.rope += wind;\n    kite.up = true;"


def script(walk: str) -> str:
    return KITES.replace("{WALK}", walk)


@pytest.mark.parametrize(
    "walk",
    [
        "for (const [name, kite] of kites) {\n    %s\n  }",
        "for (const kite of kites.values()) {\n    %s\n  }",
        "kites.forEach((kite, name) => {\n    %s\n  });",
        "for (const [name, kite] of kites.entries()) {\n    %s\n  }",
        "for (const kite of Array.from(kites.values())) {\n    %s\n  }",
    ],
)
def test_records_in_a_map_are_found_by_every_walk(walk):
    made = built(script(walk % BLOW))
    assert "class Kite {" in made and ("forEach" in walk or "kite.fly(this.wind)" in made)
    assert "['red', new Kite(3)]" in made and "set(name, new Kite(rope))" in made


def test_a_map_gives_pairs_where_it_is_walked_over_itself():
    """Careless: a `for` loop over the map, as over a list, in the place of `forEach`."""
    made = built(script(f"kites.forEach((kite) => {{\n    {BLOW}\n  }});"))
    assert "forEach((kite) =>" in made and "of this.kites)" not in made


@pytest.mark.parametrize(
    "walk",
    ["console.log(kites);", "console.log([...kites]);", "for (const kite of kites) kite[1].up = kite[1][wind];"],
)
def test_records_that_are_shown_stay_what_they_are(walk):
    assert "class Kite" not in built(script(walk))


@needs_node
@pytest.mark.parametrize("seed", range(4))
def test_random_records_do_the_same(seed):
    assert outcome(write_maps(seed)) == "same"
