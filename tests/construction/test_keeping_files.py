"""What must be kept between the files of a program: built from the drafted design, and run before and after."""

from __future__ import annotations

import shutil
import subprocess
import sys
from pathlib import Path
from textwrap import dedent

import pytest

from aedifex.cli.reading import read_program_of
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from aedifex.source.errors import RefusedError

TANK = """
tank_level = 3
tank_used = 0
def tank_use():
    global tank_level, tank_used
    tank_level -= STEP
    tank_used += 1
def tank_show():
    print(tank_level, tank_used)
tank_use()
tank_show()
"""
SCORE = """
score = 0
def hit():
    global score
    score += 1
hit()
hit()
print(score)
"""
MAIN = """
from .util import STEP
tank_level = 3
tank_used = 0
def tank_use():
    global tank_level, tank_used
    tank_level -= STEP
    tank_used += 1
def tank_show():
    print(tank_level, tank_used)
def main():
    for turn in range(3):
        tank_use()
        tank_show()
if __name__ == "__main__":
    main()
"""
ROUND = """
def main(limit, best=0):
    score = 0
    marks = []
    while score < limit:
        score += 1
        marks.append(score)
        best = max(best, score)
    print(marks)
    return best
"""

PROGRAMS = {
    "what prepares an import": (
        ["game.py"],
        {
            "game.py": "import sys\nsys.path.append('lib')\nfrom helper import STEP\n" + TANK,
            "lib/helper.py": "STEP = 5\n",
        },
        "same",
    ),
    "imports that say something": (
        ["game.py"],
        {
            "game.py": "import zeal\nimport able\n" + TANK.replace("STEP", "zeal.STEP + able.STEP"),
            "zeal.py": "print('zeal')\nSTEP = 1\n",
            "able.py": "print('able')\nSTEP = 2\n",
        },
        "same",
    ),
    "a folder of the class's name": (
        ["game.py"],
        {"game.py": "import tank\n" + TANK.replace("STEP", "tank.STEP"), "tank/__init__.py": "STEP = 1\n"},
        "same",
    ),
    "two stars": (
        ["game.py"],
        {"game.py": "from one import *\nfrom two import *\n" + TANK, "one.py": "STEP = 1\n", "two.py": "STEP = 2\n"},
        "same",
    ),
    "a star over a variable": (
        ["game.py"],
        {"game.py": SCORE.replace("def hit", "from settings import *\ndef hit"), "settings.py": "score = 100\n"},
        "set anew by this import",
    ),
    "a relative import": (
        ["-m", "pkg.game"],
        {"pkg/__init__.py": "", "pkg/util.py": "STEP = 2\n", "pkg/game.py": "from .util import STEP\n" + TANK},
        "same",
    ),
    "the package's own name": (
        ["-m", "pkg.game"],
        {"pkg/__init__.py": "", "pkg/util.py": "STEP = 2\n", "pkg/game.py": "from pkg.util import STEP\n" + TANK},
        "same",
    ),
    "two parts of a package": (
        ["game.py"],
        {"game.py": "import xml.dom, xml.sax.saxutils\n" + TANK.replace("STEP", "len(xml.sax.saxutils.escape('<'))")},
        "same",
    ),
    "a file that runs it by an import": (["runner.py"], {"game.py": SCORE, "runner.py": "import game\n"}, "same"),
    "a file above that runs it": (
        ["runner.py"],
        {"pkg/__init__.py": "", "pkg/game.py": SCORE, "runner.py": "import pkg.game\n"},
        "same",
    ),
    "a file above that uses it": (
        ["runner.py"],
        {"pkg/__init__.py": "", "pkg/game.py": SCORE, "runner.py": "import pkg.game\nprint(pkg.game.score)\n"},
        "is used by",
    ),
    "a file that loads it by its name": (
        ["runner.py"],
        {"game.py": SCORE, "runner.py": "import importlib\nprint(importlib.import_module('game').score)\n"},
        "is used by",
    ),
    "a file below that uses it": (
        ["-m", "sub.runner"],
        {"game.py": SCORE, "sub/__init__.py": "", "sub/runner.py": "import game\nprint(game.score)\n"},
        "is used by",
    ),
    "a file that is handed the script": (
        ["runner.py"],
        {"game.py": SCORE, "runner.py": "import game\nprint(getattr(game, 'sc' + 'ore'))\n"},
        "is used by",
    ),
    "a file that reaches into what is started": (
        ["game.py"],
        {
            "game.py": "import engine\n" + SCORE.replace("print", "engine.push()\nprint"),
            "engine.py": "import __main__\ndef push():\n    __main__.score += 10\n",
        },
        "is used by",
    ),
    "a file that compares functions": (
        ["game.py"],
        {
            "game.py": "import engine\n"
            + SCORE.replace("hit()\nhit()", "engine.on(hit)\nengine.off(hit)\nengine.fire()"),
            "engine.py": dedent(
                """
                kept = []
                def on(f):
                    kept.append(f)
                def off(f):
                    kept[:] = [g for g in kept if g is not f]
                def fire():
                    for f in kept:
                        f()
                """
            ),
        },
        "the same one",
    ),
    "the project's entry point": (
        ["-c", "from pkg.game import main; main()"],
        {
            "pyproject.toml": "[project.scripts]\ngame = 'pkg.game:main'\n",
            "pkg/__init__.py": "",
            "pkg/util.py": "STEP = 2\n",
            "pkg/game.py": MAIN,
        },
        "same",
    ),
    "an entry point of another name": (
        ["-c", "from pkg.game import hit; hit()"],
        {
            "setup.cfg": "[options.entry_points]\nconsole_scripts =\n    game = pkg.game:hit\n",
            "pkg/__init__.py": "",
            "pkg/game.py": SCORE,
        },
        "is used by",
    ),
    "a file that only starts its package": (
        ["-m", "pkg"],
        {
            "pkg/__init__.py": "",
            "pkg/util.py": "STEP = 2\n",
            "pkg/game.py": MAIN,
            "pkg/__main__.py": "from .game import main\nmain()\n",
        },
        "same",
    ),
    "a test far off in the project": (
        ["tests/deep/check.py"],
        {
            "pyproject.toml": "",
            "src/pkg/__init__.py": "",
            "src/pkg/game.py": SCORE,
            "tests/deep/check.py": "import sys\nsys.path.insert(0, 'src')\nimport pkg.game\nprint(pkg.game.score)\n",
        },
        "is used by",
    ),
    "the face of a package": (
        ["runner.py"],
        {
            "pkg/__init__.py": SCORE,
            "pkg/deep/__init__.py": "",
            "pkg/deep/part.py": "import pkg\ndef again():\n    pkg.hit()\n    print(pkg.score)\n",
            "runner.py": "import pkg.deep.part\npkg.deep.part.again()\n",
        },
        "is used by",
    ),
    "names that it hands out": (
        ["-c", "from game import *; hit()"],
        {"game.py": "__all__ = ['hit']\n" + SCORE},
        "is used by",
    ),
    "a routine that another file calls": (
        ["runner.py"],
        {
            "game.py": ROUND,
            "runner.py": "import game\nprint(game.main(3), game.main(best=7, limit=2))\n",
        },
        "same",
    ),
    "what a file opens with": (
        ["game.py"],
        {
            "game.py": "#!/usr/bin/env python3\n# coding: latin-1\n# --- the score"
            + SCORE
            + "print('\xe9' == '\\xe9')\n"
        },
        "same",
    ),
}


@pytest.mark.parametrize("what", PROGRAMS)
def test_files_go_on_together(what, tmp_path, monkeypatch):
    command, files, expected = PROGRAMS[what]
    before, after = tmp_path / "before", tmp_path / "after"
    for name, text in files.items():
        path = before / name
        path.parent.mkdir(parents=True, exist_ok=True)
        path.write_bytes(text.encode("latin-1"))
    script = before / next((name for name in files if name.endswith("game.py")), "pkg/__init__.py")
    shutil.copytree(before, after)
    monkeypatch.chdir(script.parent)
    reason = ""
    try:
        program = prepared(read_program_of(Path(script.name)))
        built = new_files(program, build(program, propose(program)))
    except RefusedError as error:
        built, reason = {}, error.reason
    if expected != "same":
        assert not built and expected in reason
        return
    for name, data in built.items():
        assert ".." not in name.parts
        (after / script.relative_to(before).parent / name).write_bytes(data)
    assert _played(after, command) == _played(before, command)
    assert (after / script.relative_to(before)).read_bytes() != script.read_bytes()


def _played(folder, command):
    done = subprocess.run([sys.executable, *command], cwd=folder, capture_output=True, text=True, check=False)
    return done.stdout, done.returncode, done.stderr.strip().splitlines()[-1:]
