"""label: rows that are only asked for their places become tables; what only a row can do leaves them as they are."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.moves.label import Label
from aedifex.source.errors import DesignError, RefusedError
from tests.support.helpers import SCRIPT, moved, printed, program_of

KITES = """\
kites = [[3, 10, "red"], [5, 2, "blue"]]
seen = []


def rise(kite, by):
    kite[1] += by
    return kite


for kite in kites:
    rise(kite, 2)
@
print([kite[2] for kite in kites], max(kites, key=lambda kite: kite[1])[0])
"""


def labelled(*lines: str) -> str:
    text = KITES.replace("@", "\n".join(lines))
    result = moved(text, Label(SCRIPT, "kites[]", ("x", "height", "color")))["script.py"]
    assert printed(result) == printed(text)
    return result


@pytest.mark.parametrize(
    "lines",
    [
        ["kites.append([7, 1, 'green'])"],
        ["print(kites[0] == [3, 12, 'red'])"],
        ["kites.sort(key=lambda kite: kite[1])", "print(min(kites, key=lambda kite: kite[0])[2])"],
        ["kites.remove(kites[0])"],
        ["print(kites[0] in kites, kites[0] == kites[1], kites[0] is kites[1])"],
        ["kites[0][0], kites[1][0] = kites[1][0], kites[0][0]"],
        ["if kites[0]:", "    print('there')"],
        ["for i in range(len(kites)):", "    kites[i][0] = i"],
        ["by_color = {kite[2]: kite for kite in kites}", "print(by_color['red'][1])"],
        ["kites = [kite for kite in kites[:] if kite[1] > 4]"],
        ["print([x for x, height, color in kites if height])"],
        ["for n, (x, height, color) in enumerate(kites):", "    print(n, x)"],
        ["for x, height, color in kites:", "    x += 1", "    print(x, color)"],
        ["for x, height, color in kites:", "    print(x)", "print(color)"],
        ["for x, height, color in kites:", "    kites[0][0] = 7", "    print(x)"],
        ["for kite in kites:", "    x, height, color = kite", "    kite[0] = 7", "    print(x, kite[0])"],
        ["print(kites[1][-1], kites[0][-3])"],
        ["by_color = {kite[2]: kite for kite in kites}", "print(sorted(by_color))"],
    ],
)
def test_rows_become_tables(lines):
    assert '{"x": 3, "height": 10, "color": "red"}' in labelled(*lines)


def test_a_loop_over_rows_asks_them_where_nothing_changes_them():
    text = labelled("def show():", "    for x, height, color in kites:", "        print(color, x)", "show()")
    assert 'for kite in kites:\n        print(kite["color"], kite["x"])\n' in text
    text = labelled(
        "def show():", "    for x, height, color in kites:", "        rise(kites[0], 2)", "        print(x)"
    )
    assert 'for kite in kites:\n        x, height, color = kite["x"], kite["height"], kite["color"]\n' in text


@pytest.mark.parametrize(
    "lines",
    [
        ["print(kites[0])"],
        ["print(f'{kites[0]}')"],
        ["x, height, color = kites[0]", "print(x)"],
        ["for x, *others in kites:", "    print(x)"],
        ["[x, *rest] = kites[1]", "print(rest)"],
        ["(x, height, color), other = kites", "print(x)"],
        ["last = kites.pop()", "del last[0]", "print(len(last))", "kites.append([1, 2, 'green'])"],
        ["print([f() for f in [lambda: x for x, height, color in kites]])"],
        ["for value in kites[0]:", "    print(value)"],
        ["print(len(kites[0]), kites[0][1:])"],
        ["print(kites[0][len(seen)])"],
        ["print(kites[0] + [1], kites[0] * 2)"],
        ["print(kites[0] < kites[1])"],
        ["kites[0].append(4)"],
        ["kites[0][1:2] = [4]"],
        ["seen.append(tuple(kites[0]))", "print(seen)"],
        ["print('%d %d %s' % (*kites[0],))"],
        ["print(*kites[0])"],
        ["print(sorted(kites) == kites)"],
        ["kites.sort()"],
        ["print(10 in kites[0], max(kites[0][:2]))"],
        ["print(min(kites), max(kites[0], kites[1]))"],
        ["kites.sort(reverse=True)"],
        ["first, second = map(list, kites)", "print(first)"],
        ["print(dict(zip('abc', kites[0])))"],
    ],
)
def test_what_only_rows_can_do_is_refused(lines):
    printed(KITES.replace("@", "\n".join(lines)))
    with pytest.raises(RefusedError):
        labelled(*lines)


def test_tuples_may_be_keys():
    text = "spots = [(1, 2, 3), (4, 5, 6)]\nloads = {spots[0]: 4}\nprint(loads[spots[0]], spots[1][2])\n"
    with pytest.raises(RefusedError):
        moved(text, Label(SCRIPT, "spots[]", ("x", "y", "load")))


def test_each_place_needs_a_name():
    with pytest.raises(RefusedError, match="3 places"):
        moved(KITES.replace("@", ""), Label(SCRIPT, "kites[]", ("x", "height")))


def design() -> str:
    return write(propose(program_of(KITES.replace("@", "    kite[0] -= 1"))))


def test_a_design_names_the_places():
    text = design().replace('name = "lives"', 'name = "east"')
    program = program_of(KITES.replace("@", "    kite[0] -= 1"))
    made = build(program, parse(SCRIPT, text)).program
    code = "\n".join(module.source.data.decode() for module in made.modules.values())
    assert 'store = "rows"' in text and "self.east" in code


@pytest.mark.parametrize(
    ("old", "new", "words"),
    [
        ('from = "2"', 'from = "3"', "each place"),
        ('"rise.kite", ', '"rise.kit", ', ""),
        ('"kites[]"', '"kite[]"', ""),
    ],
)
def test_a_design_must_name_rows_that_are_there(old, new, words):
    text = design()
    program = program_of(KITES.replace("@", "    kite[0] -= 1"))
    if not words:
        assert build(program, parse(SCRIPT, text.replace(old, new))).program
        return
    with pytest.raises(DesignError, match=words):
        build(program, parse(SCRIPT, text.replace(old, new)))
