"""share_file, inherit, unname: what is read in one place, what can have methods, and names that serve once."""

from __future__ import annotations

import pytest

from aedifex.moves.inherit import Inherit
from aedifex.moves.share_file import ShareFile
from aedifex.moves.unname import Unname
from aedifex.source.errors import RefusedError
from tests.support.file_notes import write_file_notes
from tests.support.helpers import SCRIPT, moved, printed
from tests.support.scripts import outcome

NOTES = """\
import json


def seeds():
    with open("seeds.json") as file:
        found = json.load(file)
    return found


def lend(name):
    with open("seeds.json") as f:
        seeds = json.load(f)
    seeds.append(name)
    with open("seeds.json", "w") as f:
        json.dump(seeds, f)
"""
LAMPS = """\
class Lamp:
    def light(self, how):
        print("lit", how)


lamps = {1: Lamp(), 2: Lamp()}


def light(n):
    lamp = lamps[n]
    lamp.light(n + 1)


light(2)
"""


def test_a_file_is_read_and_written_in_one_place():
    text = moved(NOTES, ShareFile(SCRIPT, '"seeds.json"'))["script.py"]
    assert 'SEEDS_FILE = "seeds.json"\n' in text
    assert "def load_seeds():\n    with open(SEEDS_FILE) as file:\n        return json.load(file)\n" in text
    assert "def save_seeds(seeds):\n" in text
    assert "    found = load_seeds()\n    return found\n" in text
    assert "    seeds = load_seeds()\n    seeds.append(name)\n    save_seeds(seeds)\n" in text


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("        seeds = json.load(f)\n", "        seeds = json.load(f)\n        print(seeds)\n"),
        ('open("seeds.json") as f:', 'open("seeds.json", encoding="utf-8") as f:'),
        ("        seeds = json.load(f)\n", "        # all of them\n        seeds = json.load(f)\n"),
        ("    seeds.append(name)\n", "    seeds.append(f.name)\n"),
        ("def seeds", "load_seeds = 1\n\n\ndef seeds"),
        ("import json\n\n\ndef seeds():\n", "def seeds():\n    import json\n\n"),
    ],
)
def test_a_file_that_is_not_read_alike_is_left(old, new):
    with pytest.raises(RefusedError):
        moved(NOTES.replace(old, new, 1), ShareFile(SCRIPT, '"seeds.json"'))


@pytest.mark.parametrize("seed", range(15))
def test_random_scripts_with_files(seed):
    assert outcome(write_file_notes(seed)).partition(":")[0] in ("same", "refused")


def test_a_made_class_of_rows_becomes_a_base():
    text = (
        'from collections import namedtuple\n\nBuoy = namedtuple("Buoy", ["name", "depth"])\nprint(Buoy("mole", 3))\n'
    )
    after = moved(text, Inherit(SCRIPT, "Buoy"))["script.py"]
    assert 'class Buoy(namedtuple("Buoy", ["name", "depth"])):\n    __slots__ = ()\n' in after
    assert printed(after) == printed(text)


@pytest.mark.parametrize(
    "text",
    [
        'Buoy = namedtuple("Float", "name depth")\n',
        'Buoy = namedtuple("Buoy", names)\n',
        'Buoy = namedtuple("Buoy", "name depth", rename=True)\nBuoy = None\n',
    ],
)
def test_other_classes_of_rows_stay(text):
    with pytest.raises(RefusedError, match="no class of rows"):
        moved(f'from collections import namedtuple\n\nnames = "a b"\n{text}', Inherit(SCRIPT, "Buoy"))


def test_a_name_that_serves_once_goes():
    text = moved(LAMPS, Unname(SCRIPT))["script.py"]
    assert "def light(n):\n    lamps[n].light(n + 1)\n" in text
    assert printed(text) == printed(LAMPS)


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("    lamp.light(n + 1)\n", "    lamp.light(n + 1)\n    print(lamp)\n"),
        ("    lamp.light(n + 1)\n", "    n += 1\n    lamp.light(n)\n"),
        ("    lamp = lamps[n]\n", "    # the lamp that is meant\n    lamp = lamps[n]\n    # is lit\n"),
        ("    lamp = lamps[n]\n", "    lamp = lamps[n + 0]\n"),
        ("    lamp.light(n + 1)\n", "    print(lamp)\n"),
    ],
)
def test_a_name_that_serves_otherwise_stays(old, new):
    with pytest.raises(RefusedError, match="no name for an element"):
        moved(LAMPS.replace(old, new), Unname(SCRIPT))
