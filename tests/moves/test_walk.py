"""walk: loops over numbers go over elements, with their numbers where those are used, and do the same."""

from __future__ import annotations

import random

import pytest

from aedifex.moves.walk import Walk
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved, printed

KITES = """\
kites = [{"color": "red", "height": 4}, {"color": "blue", "height": 9}, {"color": "green", "height": 1}]
lengths = [20, 30, 25]
chosen = 1


def show():
    for n in range(len(kites)):
@

show()
print(kites, chosen)
"""

LINES = (
    'print(n, kites[n]["color"])',
    'print(kites[n]["height"])',
    'kites[n]["height"] += 2',
    'kites[n]["height"] = lengths[n] - n',
    "if n == chosen:\n    print('>', kites[n]['color'])",
    "if kites[n]['height'] > 5:\n    continue",
    "if kites[n]['height'] > 9:\n    break",
    "print(kites[n - 1]['height'] < kites[n]['height'])",
    "print(len(kites) - n)",
    "print([kites[n]['color'][m] for m in range(2)])",
    "kites[n] = dict(kites[n], height=n)",
    "kites.append(kites[n])\nif len(kites) > 6:\n    break",
    "n += 1\nif n > 2:\n    break",
    "del n\nbreak",
    "del kites[n]['height']\nkites[n]['height'] = 3",
)


def loop_of(lines: list[str]) -> str:
    body = "\n".join("        " + line for text in lines for line in text.split("\n"))
    return KITES.replace("@", body + "\n")


def walked(text: str) -> str:
    result = moved(text, Walk(SCRIPT, "kites", "kite"))["script.py"]
    assert printed(result) == printed(text)
    return result


def test_the_number_stays_where_it_is_used():
    result = walked(loop_of(["if n == chosen:\n    print(kites[n]['color'], lengths[n])"]))
    assert (
        "for n, kite in enumerate(kites):\n        if n == chosen:\n            print(kite['color'], lengths[n])"
        in result
    )


def test_it_goes_where_it_only_reaches_the_elements():
    assert "    for kite in kites:\n        print(kite['color'])\n" in walked(loop_of(["print(kites[n]['color'])"]))


def test_the_number_may_be_read_behind_the_loop():
    text = KITES.replace("@", "        print(kites[n]['color'])\n    print(n)\n")
    assert "for n, kite in enumerate(kites):" in walked(text)


def test_a_number_that_nothing_reads_any_more_goes():
    text = "# the first\nn = 0\n" + KITES.replace("@", "").replace("def show():\n", "").replace("show()\n", "").replace(
        "    for n", "for n"
    )
    text = text.replace("range(len(kites)):\n", "range(len(kites)):\n    print(kites[n]['color'])\n")
    assert "n = 0" not in walked(text)


def test_random_loops_do_the_same():
    chance = random.Random(5)
    done = 0
    for _ in range(150):
        text = loop_of(chance.choices(LINES, weights=[4] * 10 + [1] * 5, k=chance.randint(1, 4)))
        try:
            walked(text)
        except RefusedError:
            continue
        done += 1
    assert done > 60


def of_table(text: str) -> str:
    """A script with the kites in a table by their numbers."""
    text = text.replace("range(len(kites))", "kites")
    for number, color in enumerate(("red", "blue", "green")):
        text = text.replace(f'{{"color": "{color}"', f'{number}: {{"color": "{color}"')
    return text.replace("kites = [", "kites = {").replace("}]", "}}", 1)


def test_a_table_gives_its_elements():
    assert "for n, kite in kites.items():\n" in walked(of_table(loop_of(["print(n, kites[n]['color'])"])))
    assert "for kite in kites.values():\n" in walked(of_table(loop_of(["print(kites[n]['color'])"])))


def test_random_loops_over_tables_do_the_same():
    chance = random.Random(6)
    lines = [line for line in LINES if "append" not in line and "n - 1" not in line and "n += 1" not in line]
    done = 0
    for _ in range(120):
        try:
            walked(of_table(loop_of(chance.choices(lines, k=chance.randint(1, 4)))))
        except RefusedError:
            continue
        done += 1
    assert done > 30


@pytest.mark.parametrize(
    "text",
    [
        KITES.replace("@", "        print(kites[n]['color'])\n").replace("[{", "dict(enumerate([{", 1).replace("}]", "}]))", 1),
        KITES.replace("@", "        global n\n        turn()\n        print(kites[n]['color'], n)\n").replace(
            "def show", "def turn():\n    global n\n    n = 0\n\n\ndef show"
        ).replace("        global n\n        turn", "        turn").replace("def show():\n", "def show():\n    global n\n"),
        KITES.replace("@", "        print(enumerate, n, kites[n]['color'])\n").replace("chosen = 1", "chosen = 1\nenumerate = 3"),
        KITES.replace("@", "        later.append(lambda: kites[n]['color'])\n").replace("chosen = 1", "chosen = 1\nlater = []"),
    ],
    ids=["of a table", "a number that others set", "another meaning of the counter", "read later"],
)  # fmt: skip
def test_what_cannot_be_shown_to_stay_is_refused(text):
    printed(text)
    with pytest.raises(RefusedError):
        moved(text, Walk(SCRIPT, "kites", "kite"))


def test_a_loop_in_a_loop_over_the_same_list_keeps_its_number():
    """Careless: both loops call their element alike, so that it is compared with itself."""
    text = """\
kites = [{"height": 4}, {"height": 9}, {"height": 1}]
for n in range(len(kites)):
    for m in range(len(kites)):
        if kites[n]["height"] > kites[m]["height"]:
            kites[n]["height"] += kites[m]["height"] - 1
print(kites)
"""
    result = moved(text, Walk(SCRIPT, "kites", "kite"))["script.py"]
    assert "for kite in kites:" in result and "for m in range(len(kites)):" in result
    assert printed(result) == printed(text)
