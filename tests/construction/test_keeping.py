"""What every move must keep: scripts that a careless rewriting breaks, built by drafted and by random designs."""

from __future__ import annotations

import random
import re
from pathlib import Path
from textwrap import dedent

import pytest

from aedifex.program.structure.main_code import MainCode
from tests.construction.keeping import bindings, classes, functions, names, order, place, values
from tests.support.hazards import play_apart
from tests.support.helpers import module_of
from tests.support.scripts import outcome
from tests.support.scripts import play_here as play

_SCRIPTS = {
    f"{kind.__name__.rpartition('.')[2]}: {what}": dedent(text).lstrip()
    for kind in (bindings, classes, functions, names, order, place, values)
    for what, text in kind.SCRIPTS.items()
}
_REFUSED = {
    "bindings: walrus": "inside an expression",
    "bindings: deleted and set anew": "after it was deleted",
    "bindings: default values are evaluated once": "`step` is needed here while the script is being read",
    "bindings: annotations in texts": "an attribute of the function `sink`",
    "functions: a function set anew": "`greet` is bound more than once",
    "functions: something hung on a function": "hung on the function `click`",
    "functions: compared with itself": "whether two values are the same one",
    "functions: a copy of a function": "copies or examines functions",
    "functions: a weak reference to a function": "copies or examines functions",
    "functions: a function as a class's member": "a member of a class",
    "functions: the type of a function": "copies or examines functions",
    "order: a start that may not happen": "catches or raises `NameError`",
    "place: globals()": "no variable is shared",
    "place: eval and exec": "evaluates text as code",
    "place: vars() of the script": "reaches variables by `vars()`",
    "place: the script as a module": "reaches modules by `sys.modules`",
}


@pytest.mark.parametrize("what", _SCRIPTS)
def test_the_drafted_design_keeps_it(what):
    end = outcome(_SCRIPTS[what], play=play_apart if "goes" in what else None)
    assert end == "same" if what not in _REFUSED else end.startswith("refused") and _REFUSED[what] in end, end


@pytest.mark.parametrize("what", _SCRIPTS)
def test_other_designs_keep_it_or_are_refused(what):
    for seed in range(4):
        end = outcome(_SCRIPTS[what], random.Random(seed), play_apart if "goes" in what else None)
        assert end.startswith(("same", "refused")), end


@pytest.mark.parametrize("what", names.SCRIPTS)
def test_going_by_the_spelling_would_break_it(what, tmp_path):
    text = dedent(names.SCRIPTS[what]).lstrip()
    assert _played(tmp_path, "before.py", text) != _played(tmp_path, "careless.py", _by_spelling(text))


def _by_spelling(text: str) -> str:
    """The careless result: each word that is a variable's name becomes a field, wherever it stands."""
    fields = [symbol.name for symbol in MainCode(module_of(text)).fields]
    words = "|".join(map(re.escape, fields))
    text = re.sub(r"^ *(global|nonlocal) .*\n", "", text, flags=re.MULTILINE)
    return "class State:\n    pass\nstate = State()\n" + re.sub(rf"(?<!\.)\b({words})\b", r"state.\1", text)


def _played(folder: Path, name: str, text: str) -> str:
    (folder / name).write_text(text)
    return play(folder, name)
