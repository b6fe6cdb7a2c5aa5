from __future__ import annotations

from aedifex.program.structure.layout import Layout
from tests.support.helpers import module_of

TEXT = """\
#!/usr/bin/env python
# about the file

# ---- the ferry
x = 1  # planks
# of the load
y = [
    2,
]

# kites
a = 3
# belongs to a

def f():
    # first
    return 1
    # last
"""


def layout():
    module = module_of(TEXT)
    return module, Layout(module), module.block.statements


def text_of(module, span):
    return module.source.slice(span)


def test_comments_travel_with_what_they_describe():
    module, found, (x, y, a, f) = layout()
    assert text_of(module, found.lines(x)) == "# ---- the ferry\nx = 1  # planks\n"
    assert text_of(module, found.lines(y)) == "# of the load\ny = [\n    2,\n]\n"
    assert text_of(module, found.lines(a)) == "# kites\na = 3\n# belongs to a\n"
    assert text_of(module, found.own_lines(f)).startswith("def f():")


def test_headings_and_sections():
    _, found, (x, y, a, _) = layout()
    assert (found.heading(x).text, found.heading(x).is_ruled) == ("the ferry", True)
    assert found.section_of(y).text == "the ferry"
    assert (found.heading(a).text, found.heading(a).is_ruled) == ("kites", False)


def test_trailing_comments_and_indentation():
    module, found, (x, y, *_) = layout()
    comment = found.trailing_comment(x)
    assert module.source.data[comment.start : comment.end] == b"# planks"
    assert found.trailing_comment(y) is None
    assert found.indent == "    "
    assert Layout(module_of("if 1:\n\tx = 1\n")).indent == "\t"
    assert Layout(module_of("x = 1\n")).indent == "    "


def test_statements_that_share_a_line():
    module = module_of("a = 1; b = 2\nif a: b = 3\nc = 4  # alone\n")
    found = Layout(module)
    assert [found.stands_alone(s) for s in module.block.statements] == [False, False, True, True]
