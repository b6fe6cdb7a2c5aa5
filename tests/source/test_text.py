from __future__ import annotations

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText

LINES = st.lists(st.sampled_from(["x = 1", "\ty = 'é'", "", "# straße", "\x0cz = 2", "s = '''a", "b'''", "名 = 3"]))
ENDINGS = st.sampled_from(["\n", "\r\n", "\r"])


@given(LINES, st.lists(ENDINGS, min_size=12, max_size=12), st.booleans(), st.booleans())
def test_any_text_reads_and_writes_back_to_the_same_bytes(lines, endings, final, mark):
    text = "".join(line + endings[n % 12] for n, line in enumerate(lines))
    raw = (b"\xef\xbb\xbf" if mark else b"") + (text if final else text.rstrip("\r\n")).encode()
    assert SourceText.decode(raw, Path("x.py")).encode() == raw


@pytest.mark.parametrize(
    "raw",
    [
        b"# -*- coding: latin-1 -*-\nx = '\xe9\xff'\n",
        b"#!/usr/bin/env python\n# vim: set fileencoding=cp1252 :\nx = '\x80'\n",
        b"\xef\xbb\xbf# coding: utf-8\nx = 1\r\n",
        b"# coding: koi8-r\nx = '\xd0'",
        b"",
        b"\n",
        b"x = 1",
    ],
)
def test_declared_encodings_survive(raw):
    assert SourceText.decode(raw, Path("x.py")).encode() == raw


@pytest.mark.parametrize(
    ("raw", "word"),
    [
        (b"x = '\xe9'\n", "encoding"),
        (b"# coding: nonsense\n", "encoding"),
        (b"x\0y", "binary"),
        (b"\xef\xbb\xbf# coding: latin-1\n", "encoding"),
        (b"# coding: ascii\nx = '\xe9'\n", "ascii"),
    ],
)
def test_what_cannot_be_decoded_is_said(raw, word):
    with pytest.raises(UnreadableError, match=word):
        SourceText.decode(raw, Path("x.py"))


@given(st.text(alphabet="ab\n\r", max_size=40))
def test_lines_are_counted_as_the_interpreter_counts_them(text):
    source = SourceText(Path("x.py"), text.encode())
    universal = text.replace("\r\n", "\n").replace("\r", "\n")
    assert source.line_count == len(universal.splitlines())
    assert [source.line(n + 1) for n in range(source.line_count)] == universal.splitlines()


def test_new_text_that_the_encoding_lacks_is_refused():
    source = SourceText.decode(b"# coding: latin-1\nx = 1\n", Path("x.py"))
    with pytest.raises(UnreadableError, match="cannot be written"):
        source.edited("# coding: latin-1\nx = '名'\n".encode()).encode()
