"""bundle: what functions hand to one another becomes fields of an object, and the functions its methods."""

from __future__ import annotations

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.moves.bundle import Bundle
from aedifex.source.errors import DesignError, RefusedError
from tests.support.handing import write_handing
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.kinds import plans_of
from tests.support.scripts import outcome

CHART = """\
def bar(width, mark, part):
    return mark * round(width * part)


def line(width, mark, name, part):
    return f"{name:6}{bar(width, mark, part)}"


def rule(width):
    return "-" * width


def main():
    width = 20
    mark = "#"
    print(line(width, mark, "rain", 0.4))
    for part in (0.1, 0.9):
        print(bar(width, mark, part))
    print(rule(width))


main()
"""
QUAY = """\
def moor(quay, boat):
    quay.append(boat)
    return len(quay)


def is_full(quay):
    return len(quay) > 2


def show(quay):
    for boat in quay:
        print(boat)


quay = []
for boat in ("Ida", "Merle", "Tern"):
    print(moor(quay, boat), is_full(quay))
show(quay)
print(quay[0], sorted(quay))
"""
TO_CHART = Bundle(SCRIPT, "Chart", "chart", (("width", "width"), ("mark", "mark")))


def drafted(text: str) -> str:
    program = program_of(text)
    made = build(program, propose(program)).program
    return "\n".join(module.source.data.decode() for module in made.modules.values())


def test_functions_become_methods_of_what_keeps_their_values():
    text = drafted(CHART)
    assert "def __init__(self, width, mark):" in text
    assert '    def line(self, name, part):\n        return f"{name:6}{self.bar(part)}"' in text
    assert "job = Job(width, mark)" in text
    assert "rule(width)" not in text and ".rule())" in text


def test_one_container_is_a_class_of_its_own():
    text = drafted(QUAY)
    assert "class Quay:" in text and "quay = Quay([])" in text
    assert "    def moor(self, boat):\n        self.items.append(boat)\n" in text
    assert "print(quay.items[0], sorted(quay.items))" in text


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("print(rule(width))", "print(rule(21))"),
        ("print(rule(width))", "print(rule(width=width))"),
        ("print(rule(width))", "print(list(map(rule, [width])))"),
        ("print(rule(width))", "width += 1\n    print(rule(width))"),
        ('    mark = "#"', '    print(rule(width))\n    mark = "#"'),
        ("def rule(width):", "def rule(width):\n    width = width or 1"),
        ("def rule(width):", "def rule(width=3):"),
    ],
)
def test_what_is_handed_other_values_is_left(old, new):
    assert old in CHART
    with pytest.raises(RefusedError):
        moved(CHART.replace(old, new), TO_CHART)


def test_names_must_be_free():
    with pytest.raises(RefusedError, match="in use already"):
        moved("chart = 0\n" + CHART, TO_CHART)
    with pytest.raises(RefusedError, match="two fields of one name"):
        moved(CHART, Bundle(SCRIPT, "Chart", "chart", (("width", "size"), ("mark", "size"))))


def test_a_design_file_says_it_all():
    program = program_of(QUAY)
    text = write(propose(program))
    assert 'store = "bundles"' in text
    made = build(program, parse(SCRIPT, text.replace('name = "items"', 'name = "boats"'))).program
    assert "self.boats.append(boat)" in "".join(m.source.data.decode() for m in made.modules.values())
    with pytest.raises(DesignError, match="handed on"):
        build(program, parse(SCRIPT, text.replace('from = "quay"', 'from = "quai"')))


def test_both_steps_do_the_same():
    assert printed(moved(CHART, TO_CHART)[SCRIPT.name]) == printed(CHART)


@pytest.mark.parametrize("seed", range(15))
def test_random_scripts_do_the_same(seed):
    assert outcome(write_handing(seed)).startswith(("same", "refused"))


def test_some_of_them_get_such_a_class():
    scripts = [write_handing(seed) for seed in range(60)]
    found = [text for text in scripts if outcome(text) == "same" and any(p.store == "bundles" for p in plans_of(text))]
    assert len(found) > 4
