"""Functions that are asked for their names: beside each case stands what a careless renaming makes of it."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.languages.javascript import DIALECT as JAVASCRIPT
from aedifex.languages.python import DIALECT as PYTHON
from aedifex.program.analysis.told_names import ToldNames
from aedifex.program.reading import read_program
from aedifex.source.text import SourceText
from tests.support.scripts import outcome

FERRY = """\
ferry_x = 0
ferry_load = 3


def move_ferry():
    global ferry_x
    ferry_x += 2
    return ferry_x


def fill_ferry():
    global ferry_load
    ferry_load += ferry_x
    return ferry_load


def show_ferry():
    print(ferry_x, ferry_load)


"""


@pytest.mark.parametrize(
    "asking",
    [
        "for step in (move_ferry, fill_ferry):\n    print(step.__name__, step())\n",
        "print(f'{move_ferry.__name__} {move_ferry()}', show_ferry.__name__)\n",
        "steps = {step.__name__: step for step in [move_ferry, show_ferry]}\nprint(sorted(steps), steps['move_ferry']())\n",
        "def tell(step):\n    print(step.__name__)\n    return step()\n\n\nfor each in (move_ferry, show_ferry):\n    tell(each)\n",
        "steps = [fill_ferry, show_ferry]\nprint(steps[0].__name__, steps[0]())\n",
        "def chosen(step=show_ferry):\n    return step\n\n\nprint(chosen().__name__, chosen(move_ferry).__name__)\n",
    ],
)
def test_a_method_is_called_as_the_function_was(asking):
    """Careless: `print(step.__name__)` says `move`."""
    assert outcome(f"{FERRY}{asking}show_ferry()\n").partition(":")[0] == "same"


def test_a_function_that_is_noted_under_its_name_is_found_there():
    """Careless: `HANDLERS` has a key `move`."""
    noting = (
        "HANDLERS = {}\n\n\ndef note(function):\n    HANDLERS[function.__name__] = function\n    return function\n\n\n"
    )
    script = noting + FERRY.replace("def move", "@note\ndef move").replace("def fill", "@note\ndef fill")
    asking = "for word in ['move_ferry', 'move', 'fill_ferry']:\n    print(word, HANDLERS[word]() if word in HANDLERS else None)\n"
    assert outcome(f"{script}{asking}show_ferry()\n").partition(":")[0] == "same"


def told(text: str, name: str, dialect=PYTHON, suffix="py") -> tuple[bool, bool]:
    module = read_program([SourceText.decode(text.encode(), Path(f"quay.{suffix}"))], dialect).main
    function = next(f for f in module.functions if f.name == name)
    names = ToldNames.of(module)
    return names.told(function) is not None, names.told_whole(function) is not None


@pytest.mark.parametrize(
    ("line", "plainly", "wholly"),
    [
        ("print([f.__name__ for f in (move_ferry,)])", True, False),
        ("print([f.__qualname__ for f in (move_ferry,)])", False, True),
        ("print(move_ferry(), type(ferry_x).__name__, ferry_x.__class__.__name__)", False, False),
        ("import os\nprint(os.__name__, [move_ferry])", False, False),
        ("step = move_ferry\nprint(type(step).__name__)", False, False),
    ],
)
def test_who_is_asked(line, plainly, wholly):
    assert told(f"{FERRY}{line}\n", "move_ferry") == (plainly, wholly)


@pytest.mark.parametrize(
    ("line", "is_told"),
    [
        ("for (const step of [rise]) console.log(step.name);", True),
        ("const steps = { rise };\nconsole.log(steps.rise.name);", True),
        ("function tell(step) { console.log(step.name); }\ntell(rise);", True),
        ("const kite = { name: 'red' };\nsetTimeout(rise, 5);\nconsole.log(kite.name);", False),
        ("rise();\nconsole.log(`${level}`.name);", False),
        ("const input = find('name');\ninput.addEventListener('input', rise);\nconsole.log(input.name);", False),
        ("const steps = [];\nsteps.push(rise);\nconsole.log(steps[0].name);", True),
    ],
)
def test_in_javascript_many_things_have_names(line, is_told):
    """Careless: `console.log(step.name)` says `bound rise`."""
    script = f"let level = 0;\nfunction rise() {{ level += 1; }}\n{line}\n"
    assert told(script, "rise", JAVASCRIPT, "js") == (False, is_told)
