"""What the source of a library tells of a class: what it mentions, what it has, whether it asks for the class."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.languages.python.imports.stars import StarImports
from aedifex.languages.python.library.sources import may_ask_class, may_have, may_mention

FILES = {
    "pens.py": """\
import base
from base import Quiet as Calm

class Plain:
    def __init__(self):
        self.ink = 3

    def draw(self, canvas):
        canvas.fade()

class Explicit(object):
    def up(self):
        return self.ink

class Telling(Plain):
    def __repr__(self):
        return self.__class__.__name__

class Asking(Plain):
    def copy(self):
        return type(self)()

class Heir(base.Quiet):
    pass

class Other(Calm):
    pass

class Unclear(compute_base()):
    pass

class Made(metaclass=Registry):
    pass

Pen = Explicit
""",
    "base.py": "class Quiet:\n    hush = True\n\n    def __init_subclass__(cls):\n        pass\n",
    "shown.py": "from pens import Plain\nfrom pens import *\n",
}


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    for name, text in FILES.items():
        (tmp_path / name).write_text(text)
    return tmp_path


def asked(question, folder, module, name, *more):
    stars = StarImports([])
    path = stars.find(module, folder)
    assert path is not None
    return question(stars.find, path, name, *more)


@pytest.mark.parametrize(
    ("module", "name", "member", "mentions", "has"),
    [
        ("pens", "Plain", "ink", True, True),
        ("pens", "Plain", "fade", True, False),
        ("pens", "Plain", "drift", False, False),
        ("pens", "Explicit", "drift", False, False),
        ("pens", "Pen", "up", True, True),
        ("pens", "Heir", "hush", True, True),
        ("pens", "Other", "hush", True, True),
        ("pens", "Unclear", "drift", True, True),
        ("pens", "Nobody", "drift", True, True),
        ("shown", "Plain", "drift", False, False),
        ("shown", "Telling", "drift", False, False),
    ],
)
def test_members_are_those_of_all_files_of_the_class(folder, module, name, member, mentions, has):
    assert asked(may_mention, folder, module, name, member) is mentions
    assert asked(may_have, folder, module, name, member) is has


@pytest.mark.parametrize(
    ("name", "asks"),
    [("Plain", False), ("Explicit", False), ("Telling", False), ("Asking", True), ("Unclear", True), ("Made", True)],
)
def test_a_class_that_asks_what_its_objects_are_is_told(folder, name, asks):
    assert asked(may_ask_class, folder, "pens", name) is asks


def test_every_class_inherits_what_all_have(folder):
    assert not asked(may_mention, folder, "pens", "Explicit", "__init_subclass__")
    assert asked(may_mention, folder, "pens", "Heir", "__init_subclass__")
