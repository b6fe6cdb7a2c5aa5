"""Classes of scripts that pages load: files of their own, which the pages load before."""

from __future__ import annotations

import shutil
from pathlib import Path

import pytest

from aedifex.cli.reading import read_program_of
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

SKETCH = """\
const PLACES = 6;
const WIDE = 180;
let level = 100;
let speed = 2;
let boatX = 20;
let boatLoad = 0;
let boatStep = 1;

function moveBoat() {
  boatX += boatStep;
  if (boatX > WIDE || boatX < 20) {
    boatStep = -boatStep;
    boatLoad = Math.min(PLACES, boatLoad + 2);
  }
}

function showBoat() {
  marks.push(boatX + ' ' + boatLoad + ' of ' + PLACES);
}

function turn() {
  moveBoat();
  showBoat();
  level += speed;
  if (level > WIDE || level < 20) {
    speed = -speed;
  }
  console.log(level, marks.length, marks[marks.length - 1]);
  requestAnimationFrame(turn);
}

requestAnimationFrame(turn);
"""
HEAD = "<!DOCTYPE html>\n<html>\n  <head>\n    <script>var marks = [];</script>\n"
LOADING = '    <script src="sketch.js"></script>\n'
TAIL = '  </head>\n  <body><p id="quay">-</p></body>\n</html>\n'
PAGES = {
    "plain": HEAD + LOADING + TAIL,
    "deferred": HEAD + LOADING.replace("src", "defer src") + TAIL,
    "with a type, in other quotes": HEAD + "    <script type='text/javascript' src='sketch.js'></script>\n" + TAIL,
    "without quotes, on a line with others": HEAD.rstrip() + LOADING.strip().replace('"', "") + TAIL,
    "with more behind it": HEAD
    + LOADING
    + "    <script>\n      let said = 0;\n      said += PLACES;\n    </script>\n"
    + TAIL,
    "without a script of its own": (HEAD + LOADING + TAIL).replace(
        "<script>var marks = [];</script>", '<script src="marks.js"></script>'
    ),
}


def rebuilt(folder: Path, name: str) -> dict[Path, bytes]:
    program = read_program_of(folder / name)
    files = new_files(program, build(program, propose(program)))
    for path, data in files.items():
        (folder / path).write_bytes(data)
    return files


def said(folder: Path) -> list[str]:
    return [entry.text for entry in run(folder / "quay.html", Scenario(turns=40), DIALECT.runner).trace.entries]


@needs_node
@pytest.mark.parametrize(("case", "newline"), [*((case, "\n") for case in PAGES), ("with more behind it", "\r\n")])
def test_a_page_loads_the_file_of_a_class_before_the_script(tmp_path, case, newline):
    page = PAGES[case].replace("\n", newline)
    (tmp_path / "quay.html").write_text(page, newline="")
    (tmp_path / "marks.js").write_text("var marks = [];\n")
    (tmp_path / "sketch.js").write_text(SKETCH)
    before = said(tmp_path)
    made = rebuilt(tmp_path, "sketch.js")
    assert made[Path("boat.js")].startswith(b"const PLACES = 6;\n\nclass Boat {")
    assert b"WIDE = 180" in made[Path("sketch.js")]
    after = (tmp_path / "quay.html").read_bytes().decode()
    (line,) = [line for line in after.split(newline) if "boat.js" in line]
    assert after.replace(line + newline, "") == page or "on a line" in case
    assert said(tmp_path) == before != []


@needs_node
@pytest.mark.parametrize(
    "page",
    [
        HEAD + LOADING.replace("src", "async src") + TAIL,
        HEAD + LOADING.replace("src", 'id="own" src') + TAIL,
        HEAD + LOADING + TAIL.replace("</body>", "<script>console.log(document.head.children.length);</script></body>"),
        HEAD + TAIL,
    ],
)
def test_where_an_element_more_has_no_place_or_is_noticed_the_classes_stay(tmp_path, page):
    """Careless: a file that may come after the script, or one that is counted."""
    (tmp_path / "quay.html").write_text(page)
    (tmp_path / "sketch.js").write_text(SKETCH)
    before = said(tmp_path)
    made = rebuilt(tmp_path, "sketch.js")
    assert Path("boat.js") not in made and b"class Boat" in made[Path("sketch.js")]
    assert said(tmp_path) == before


@needs_node
def test_all_pages_that_load_a_script_load_its_classes(tmp_path):
    for name in ("quay.html", "pier.html"):
        (tmp_path / name).write_text(PAGES["plain"])
    (tmp_path / "sketch.js").write_text(SKETCH)
    made = rebuilt(tmp_path, "sketch.js")
    assert (
        made[Path("quay.html")]
        == made[Path("pier.html")]
        == PAGES["plain"].replace(LOADING, LOADING.replace("sketch", "boat") + LOADING).encode()
    )


@needs_node
def test_the_script_in_a_page_keeps_its_classes_unless_the_design_says_otherwise(tmp_path):
    page = HEAD + "  </head>\n  <body>\n    <script>\n" + "".join(f"      {line}\n" for line in SKETCH.splitlines())
    (tmp_path / "quay.html").write_text(page + "    </script>\n  </body>\n</html>\n")
    before = said(tmp_path)
    program = read_program_of(tmp_path / "quay.html")
    design = propose(program)
    (plan,) = design.classes
    assert plan.file == "quay.html"
    plan.file = "boat.js"
    for path, data in new_files(program, build(program, design)).items():
        (tmp_path / path).write_bytes(data)
    after = (tmp_path / "quay.html").read_text()
    assert '    <script src="boat.js"></script>\n    <script>\n' in after and "class Boat" not in after
    assert said(tmp_path) == before != []
