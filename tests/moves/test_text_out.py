"""Long texts move into files, and the program says what it said."""

from __future__ import annotations

import subprocess
import sys

import pytest

from aedifex.moves.text_out import TextOut
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved

MAP = '"""\nquay\n |  \nferry -- bank ü\n"""'


@pytest.fixture
def played(tmp_path, cli):
    """What a script prints before and after its text has moved, with the script and the text as they are then."""

    def play(script: str, *words: str):
        (tmp_path / "harbour.py").write_text(script, encoding="utf-8")
        before = run()
        done = cli("step", "text_out", "harbour.py", *words)
        assert done.returncode == 0, done.stderr
        assert run(folder=tmp_path.parent) == before
        text = (tmp_path / words[1]).read_bytes().decode()
        after = (tmp_path / "harbour.py").read_text(encoding="utf-8")
        assert cli("undo").returncode == 0
        assert (tmp_path / "harbour.py").read_text(encoding="utf-8") == script
        assert not (tmp_path / words[1]).exists()
        return after, text

    def run(folder=tmp_path):
        command = [sys.executable, "-B", "-X", "utf8", str(tmp_path / "harbour.py")]
        return subprocess.run(command, cwd=folder, capture_output=True, check=True).stdout

    return play


READ = '(Path(__file__).parent / "texts" / "map.txt").read_text(encoding="utf-8")'


@pytest.mark.parametrize(
    ("script", "words", "wanted"),
    [
        (f"plan = {MAP}\nprint(plan)\n", ("1",), f"from pathlib import Path\n\nplan = {READ}\nprint(plan)\n"),
        (
            f"import sys\n\nimport aedifex\n\nplan = {MAP}\nprint(plan)\n",
            ("5",),
            f"import sys\nfrom pathlib import Path\n\nimport aedifex\n\nplan = {READ}\nprint(plan)\n",
        ),
        (
            f"def show():\n    print({MAP}.strip(), 3)\n\n\nshow()\n",
            ("2", "--name", "PLAN"),
            f"from pathlib import Path\n\nPLAN = {READ}\n\n\ndef show():\n    print(PLAN.strip(), 3)\n\n\nshow()\n",
        ),
        (
            f"print(\n    {MAP}\n)\n",
            ("2", "--name", "PLAN"),
            f"from pathlib import Path\n\nPLAN = {READ}\n\nprint(PLAN)\n",
        ),
        (
            f"from pathlib import Path\n\nplans = {{'a': {MAP}}}\nprint(plans, Path)\n",
            ("3", "--name", "PLAN"),
            f"from pathlib import Path\n\nPLAN = {READ}\n\nplans = {{'a': PLAN}}\nprint(plans, Path)\n",
        ),
    ],
)
def test_a_text_moves_and_comes_back(played, script, words, wanted):
    after, text = played(script, words[0], "texts/map.txt", *words[1:])
    assert after == wanted
    assert text == "\nquay\n |  \nferry -- bank ü\n"


@pytest.mark.parametrize(
    ("script", "move", "reason"),
    [
        ("plan = 'a'\n", TextOut(SCRIPT, 1, "a.txt"), "no long text begins on line 1"),
        (f"{MAP}\nprint(__doc__)\n", TextOut(SCRIPT, 1, "a.txt"), "no long text"),
        (f"def f():\n    {MAP}\n", TextOut(SCRIPT, 2, "a.txt"), "no long text"),
        (f"plan = f{MAP}\n", TextOut(SCRIPT, 1, "a.txt"), "no long text"),
        (f"plan = b{MAP.replace('ü', '')}\n", TextOut(SCRIPT, 1, "a.txt"), "no long text"),
        ('plan = """a\n\\r\nb\nc\nd"""\n', TextOut(SCRIPT, 1, "a.txt"), "no long text"),
        ('plan = """a\n\\ud800\nb\nc\nd"""\n', TextOut(SCRIPT, 1, "a.txt"), "no long text"),
        (f"Path = 3\nplan = {MAP}\n", TextOut(SCRIPT, 2, "a.txt"), "`Path` means something else"),
        (f"print({MAP})\n", TextOut(SCRIPT, 1, "a.txt"), "the name `` is in use"),
        (f"plan = {MAP}\n", TextOut(SCRIPT, 1, "../a.txt"), "no file for a text"),
        (f"plan = {MAP}\n", TextOut(SCRIPT, 1, "script.py"), "no file for a text"),
        (f"from somewhere_else import *\nplan = {MAP}\n", TextOut(SCRIPT, 2, "a.txt"), "cannot be followed"),
    ],
)
def test_what_is_refused(script, move, reason):
    with pytest.raises(RefusedError, match=reason):
        moved(script, move)
