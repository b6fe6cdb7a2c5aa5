from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from aedifex.source.edits import Changes, Taken, apply
from aedifex.source.text import SourceText, Span

PATH = Path("a.py")


def result(text: str, changes: Changes) -> dict[Path, str]:
    applied = apply({PATH: SourceText(PATH, text.encode())}, changes)
    return {path: data.decode() for path, data in applied.texts.items()}


@st.composite
def separate_edits(draw):
    text = draw(st.text(alphabet="abc\n ", min_size=1, max_size=40))
    cuts = sorted(draw(st.sets(st.integers(0, len(text)), max_size=8)))
    spans = list(zip(cuts[::2], cuts[1::2], strict=False))
    return text, [(start, end, draw(st.text(alphabet="XY", max_size=3))) for start, end in spans]


@given(separate_edits())
def test_separate_edits_do_what_replacing_from_the_end_does(given_edits):
    text, edits = given_edits
    changes = Changes()
    expected = text
    for start, end, new in edits:
        changes.replace(PATH, Span(start, end), new)
    for start, end, new in reversed(edits):
        expected = expected[:start] + new + expected[end:]
    assert result(text, changes)[PATH] == expected


@given(separate_edits())
def test_every_untouched_byte_can_be_found_again(given_edits):
    text, edits = given_edits
    changes = Changes()
    for start, end, new in edits:
        changes.replace(PATH, Span(start, end), new)
    applied = apply({PATH: SourceText(PATH, text.encode())}, changes)
    for at in range(len(text)):
        found = applied.new_span_of(PATH, Span(at, at + 1))
        if any(start <= at < end for start, end, _ in edits):
            continue
        assert found is not None
        path, span = found
        assert applied.texts[path][span.start : span.end].decode() == text[at]


def test_taken_text_is_edited_and_indented_on_its_way():
    text = "def f():\n    return x\n\nrest\n"
    changes = Changes()
    changes.replace(PATH, Span(0, 23))
    changes.replace(PATH, Span(20, 21), "self.x")
    changes.created[Path("b.py")] = ("class C:\n", Taken(PATH, 0, 22, indent=b"    "))
    texts = result(text, changes)
    assert texts[Path("b.py")] == "class C:\n    def f():\n        return self.x\n"
    assert texts[PATH] == "rest\n"


def test_a_line_that_begins_with_an_edit_is_indented_too():
    text = "x = 1\nx += 1\n"
    changes = Changes()
    for at in (0, 6):
        changes.replace(PATH, Span(at, at + 1), "self.x")
    changes.created[Path("b.py")] = (Taken(PATH, 0, 13, indent=b"  "),)
    assert result(text, changes)[Path("b.py")] == "  self.x = 1\n  self.x += 1\n"


def test_the_inside_of_long_strings_is_never_indented():
    text = 'x = """a\nb\n"""\ny = 1\n'
    changes = Changes()
    changes.created[Path("b.py")] = (Taken(PATH, 0, len(text), indent=b"  ", fixed=(Span(4, 14),)),)
    assert result(text, changes)[Path("b.py")] == '  x = """a\nb\n"""\n  y = 1\n'


def test_fresh_text_follows_the_line_endings_of_the_file():
    changes = Changes()
    changes.replace(PATH, Span(0, 1), "x\ny")
    assert result("a\r\nb\r\n", changes)[PATH] == "x\r\ny\r\nb\r\n"


def test_overlapping_edits_are_an_error():
    changes = Changes()
    changes.replace(PATH, Span(0, 3))
    changes.replace(PATH, Span(2, 5))
    with pytest.raises(ValueError, match="overlap"):
        result("abcdef", changes)


def test_lines_that_are_put_in_where_all_goes_are_an_error():
    """Careless: the call that takes the place of what went elsewhere goes with the blank lines around it."""
    changes = Changes()
    changes.replace(PATH, Span(3, 3), "call()\n")
    changes.replace(PATH, Span(2, 5))
    with pytest.raises(ValueError, match="lost"):
        result("a\n\nb\n", changes)


def test_a_stretch_is_followed_whole_and_what_stands_for_its_end_is_its_end():
    changes = Changes()
    changes.replace(PATH, Span(0, 0), "def f():\n", Taken(PATH, 8, 16, b"", b"  "))
    changes.replace(PATH, Span(8, 8), "f()\n")
    changes.replace(PATH, Span(8, 16))
    text = "one\ntwo\nsix\nten\nend\n"
    applied = apply({PATH: SourceText(PATH, text.encode())}, changes)
    new = applied.texts[PATH].decode()
    assert new == "def f():\n  six\n  ten\none\ntwo\nf()\nend\n"

    def now(first, last):
        found = applied.new_range_of(PATH, *(Span(text.index(word), text.index(word) + 1) for word in (first, last)))
        return [new.count("\n", 0, span.start) for span in found[1:]]

    assert now("six", "ten") == [1, 2]
    assert now("two", "ten") == [4, 5]
    assert now("six", "end") == [5, 6]
    call = Span(new.index("f()\nend"), new.index("\nend"))
    assert applied.old_edge_of(PATH, call, is_last=False) == (PATH, 8)
    assert applied.old_edge_of(PATH, call, is_last=True) == (PATH, 15)
    assert applied.old_edge_of(PATH, Span(0, 8), is_last=True) is None
