"""pool and derive: what functions write out again stands once, where nobody could tell."""

from __future__ import annotations

import pytest

from aedifex.construction.prepare import opened
from aedifex.moves.derive import Derive
from aedifex.moves.gather_data import GatherData
from aedifex.moves.pool import Pool
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.scripts import outcome
from tests.support.shared_data import write_data

TWO = """\
def depth(place):
    # in meters
    depths = {"quay": 3, 'lock': 5, "ford": 1}
    return depths[place]


def show(place):
    depths = {
        "quay": 3, "lock": 5,  # after rain
        "ford": 1,
    }
@

print(show("quay"), depth("ford"), show("quay"))
"""
PLACES = """\
places = {
    "quay": {"depth": 3, "boats": 2},
    "lock": {"depth": 5, "boats": 0},
    "ford": {"depth": 1, "boats": 1},
}


def look(place):
@

print(look("quay"), sorted(places))
"""


def with_lines(text: str, *lines: str) -> str:
    return text.replace("@", "".join(f"    {line}\n" for line in lines))


def pooled(text: str) -> str:
    result = moved(text, Pool(SCRIPT, "depths"))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_what_is_written_otherwise_and_says_the_same_is_one():
    result = pooled(with_lines(TWO, "return [depths[place], len(depths)]"))
    assert result.startswith("# in meters\ndepths = {") and result.count('"quay": 3') == 1


def test_what_the_module_has_already_is_used():
    text = 'depths = {"quay": 3, "lock": 5, "ford": 1}\n\n\n' + with_lines(TWO, "return depths[place]")
    assert pooled(text).count('"quay": 3') == 1


@pytest.mark.parametrize(
    "lines",
    [
        ["depths[place] = 4", "return depths"],
        ["depths.pop(place)", "return sorted(depths)"],
        ["depths |= {}", "return depths"],
        ["other = depths", "other['quay'] += 1", "return other"],
        ["return depths is place"],
        ["take = depths.get", "return take(place)"],
        ["return eval('depths')"],
    ],
)
def test_what_may_change_is_left(lines):
    text = with_lines(TWO, *lines)
    printed(text)
    with pytest.raises(RefusedError):
        pooled(text)


@pytest.mark.parametrize("before", ["depths = 4\n", "print(globals().get('depths'))\n", "class A:\n    depths = 1\n"])
def test_the_name_must_mean_nothing_else(before):
    text = before + with_lines(TWO, "return depths[place]")
    try:
        pooled(text)
    except RefusedError:
        return
    assert before.startswith("class")


def test_an_excerpt_is_looked_up():
    text = with_lines(PLACES, 'deep = {"quay": 3, "lock": 5, "ford": 1}', "return deep[place] + 1")
    result = moved(text, Derive(SCRIPT, "deep"))["script.py"]
    assert printed(result) == printed(text)
    assert 'def look(place):\n    return places[place]["depth"] + 1\n' in result


@pytest.mark.parametrize(
    "lines",
    [
        ['deep = {"quay": 3, "lock": 5, "ford": 2}', "return deep[place]"],
        ['deep = {"lock": 5, "quay": 3, "ford": 1}', "return deep[place]"],
        ['deep = {"quay": 3, "lock": 5, "ford": 1}', "return deep[place], list(deep)"],
        ['deep = {"quay": 3, "lock": 5, "ford": 1}', "places[place]['depth'] = 9", "return deep[place]"],
        ['deep = {"quay": 3, "lock": 5, "ford": 1}', "deep[place] += 1", "return deep[place]"],
        ['deep = {"quay": 3, "lock": 5, "ford": 1}', "places = 4", "return deep[place] + places"],
    ],
)
def test_what_is_no_excerpt_is_left(lines):
    text = with_lines(PLACES, *lines)
    printed(text)
    with pytest.raises(RefusedError):
        moved(text, Derive(SCRIPT, "deep"))


def test_a_table_of_records_is_asked_for_one():
    text = with_lines(
        PLACES, "if place not in places:", "    return None", 'return places[place]["boats"], places.get("moor")'
    )
    result = moved(text, GatherData(SCRIPT, "places", "Places"))["script.py"]
    assert printed(result) == printed(text)
    assert "    def find(self, key):\n        return self._places[key]\n" in result
    assert '    return places.find(place)["boats"], places.all().get("moor")\n' in result


def test_a_table_may_be_asked_by_a_method():
    text = with_lines(
        PLACES,
        "found = places.get(place)",
        "if found is None:",
        "    return None",
        'return found["boats"], places["quay"]["depth"], places.get( place ), places.get("moor", 3)',
    )
    result = moved(text, GatherData(SCRIPT, "places", "Places"))["script.py"]
    assert printed(result) == printed(text)
    assert "    def find(self, key):\n        return self._places.get(key)\n" in result
    assert '["boats"], places.all()["quay"]["depth"], places.find(place), places.all().get("moor", 3)' in result


def test_what_is_put_in_by_a_method_is_no_question():
    text = with_lines(PLACES, "return places.setdefault(place)")
    with pytest.raises(RefusedError):
        moved(text, GatherData(SCRIPT, "places", "Places"))


@pytest.mark.parametrize("lines", [["places[place] = {}", "return places[place]"], ['return places["quay"]']])
def test_a_table_that_gets_others_or_is_asked_by_plain_keys_is_none_of_records(lines):
    with pytest.raises(RefusedError):
        moved(with_lines(PLACES, *lines), GatherData(SCRIPT, "places", "Places"))


@pytest.mark.parametrize("seed", range(5))
def test_random_data_is_the_same(seed):
    assert outcome(write_data(seed)) == "same"


def test_random_data_is_written_once():
    texts = [opened(program_of(write_data(seed))).main.source.data.decode() for seed in range(20)]
    assert sum(text.count('"depth": 3') == 1 for text in texts) > 8


WRITTEN = """\
import json


def all_piers():
    piers = [{"name": "north", "depth": 4}, {"name": "mill", "depth": 2}, {"name": "lock", "depth": 5}]
    return json.dumps(piers@)


def deep_piers(least):
    piers = [{"name": "north", "depth": 4}, {"name": "mill", "depth": 2}, {"name": "lock", "depth": 5}]
    return [pier["name"] for pier in piers if pier["depth"] >= least]


print(all_piers(), deep_piers(4))
"""


def test_what_is_only_written_down_stands_in_one_place():
    text = WRITTEN.replace("@", "")
    after = moved(text, Pool(SCRIPT, "piers"))[SCRIPT.name]
    assert after.count('"north"') == 1
    assert printed(after) == printed(text)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("json.dumps(piers@)", "json.dumps([piers, piers.pop()])"),
        ("    return json.dumps(piers@)", "    text = json.dumps([piers])\n    piers[0]['depth'] = 9\n    return text"),
    ],
)
def test_what_is_also_changed_does_not(old, new):
    text = WRITTEN.replace(old, new).replace("@", "")
    with pytest.raises(RefusedError):
        moved(text, Pool(SCRIPT, "piers"))
