"""The script of a page as a text of its own: at the margin, on its lines, and back in the page."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.languages.javascript import DIALECT
from aedifex.languages.javascript.page_code import opened
from aedifex.program.reading import read_program
from aedifex.source.text import SourceText

PAGES = {
    "indented": "<body>\n    <script>\n      let a = 1;\n\n      go();\n    </script>\n</body>\n",
    "on one line": "<script>let a = 1; go();</script>\n",
    "at the margin": "<html><script>\nlet a = 1;\ngo();\n</script></html>",
    "with returns": "<body>\r\n  <script>\r\n    let a = 1;\r\n    go();\r\n  </script>\r\n</body>\r\n",
    "with a text": "<script>\n  let a = `one\n two`;\n  go();\n</script>\n",
}


def page_of(text: str) -> SourceText:
    return SourceText(Path("quay.html"), text.encode())


@pytest.mark.parametrize("name", PAGES)
def test_a_page_that_nobody_changed_is_what_it_was(name):
    assert opened(page_of(PAGES[name])).encode() == PAGES[name].encode()


@pytest.mark.parametrize("name", PAGES)
def test_a_changed_script_stands_where_it_stood(name):
    source = opened(page_of(PAGES[name]))
    changed = source.edited(source.data.replace(b"go();", b"go();\nstop();")).encode().decode()
    margin = {"indented": "      ", "with returns": "    ", "with a text": "  "}.get(name, "")
    newline = "\r\n" if name == "with returns" else "\n"
    assert changed == PAGES[name].replace("go();", f"go();{newline}{margin}stop();")


def test_the_lines_have_their_numbers():
    source = opened(page_of(PAGES["indented"]))
    assert source.line(3) == "let a = 1;" and source.line(5) == "go();"


def test_what_other_scripts_of_a_page_use_is_known():
    page = "<script>\nlet tide = 0;\nlet own = 1;\nfunction rise() {\n  tide += own;\n}\n</script>\n<script>rise(); tide = 3;</script>\n"
    program = read_program([DIALECT.files.opened(page_of(page))], DIALECT)
    assert set(program.main.used_elsewhere) == {"tide"} and set(program.main.found_by_name) == {"rise"}
    assert program.main.used_elsewhere["tide"].line == 8


def test_what_can_be_pressed_is_known_of_the_page_around_a_script():
    page = '<button>Rise</button><input id="name"><script>\nlet tide = 0;\n</script>\n'
    program = read_program([DIALECT.files.opened(page_of(page))], DIALECT)
    inputs = DIALECT.library.inputs_of(program.main)
    assert inputs.widgets == ("Rise",) and inputs.fields == 1
