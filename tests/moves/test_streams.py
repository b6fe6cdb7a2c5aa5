"""streams: the same without a keyboard, and only where one class does all the talking."""

from __future__ import annotations

import io
import sys

import pytest

from aedifex.moves.streams import Streams
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, moved

TEXT = """\
class Gauge:
    def __init__(self):
        self.rain = 0

    def show(self):
        print()
        print(
            "rain",
            self.rain,  # so far
        )
        print("end", end="")

    def run(self):
        while True:
            line = input("mm> ")
            if line == "quit":
                break
            self.rain += int(line)
            self.show()


def main():
    Gauge().run()


if __name__ == "__main__":
    main()
"""


def streamed(text: str) -> str:
    return moved(text, Streams(SCRIPT, "Gauge"))["script.py"]


def played(text: str, typed: str, monkeypatch) -> str:
    out = io.StringIO()
    monkeypatch.setattr(sys, "stdin", io.StringIO(typed))
    monkeypatch.setattr(sys, "stdout", out)
    exec(compile(text, "script.py", "exec"), {"__name__": "__main__"})
    return out.getvalue()


def test_with_the_standard_streams_it_does_what_it_did(monkeypatch):
    before = played(TEXT, "3\n4\nquit\n", monkeypatch)
    assert played(streamed(TEXT), "3\n4\nquit\n", monkeypatch) == before
    assert "rain 7" in before


def test_with_others_it_needs_no_keyboard(monkeypatch):
    before = played(TEXT, "3\n4\nquit\n", monkeypatch)
    space: dict = {"__name__": "gauge"}
    exec(compile(streamed(TEXT), "script.py", "exec"), space)
    out = io.StringIO()
    space["main"](io.StringIO("3\n4\nquit\n"), out)
    assert out.getvalue() == before
    with pytest.raises(EOFError):
        space["Gauge"](io.StringIO(""), io.StringIO()).run()


def test_it_reads_as_if_written_by_hand():
    text = streamed(TEXT)
    assert "    def __init__(self, reader=None, writer=None):\n        self.reader = reader\n" in text
    assert "        print(file=self.writer)\n" in text
    assert "            self.rain, file=self.writer,  # so far\n" in text
    assert 'line = self.ask("mm> ")' in text
    assert "def main(reader=None, writer=None):\n    Gauge(reader, writer).run()\n" in text


def test_a_class_without_constructor_gets_one():
    text = TEXT.replace("    def __init__(self):\n        self.rain = 0\n\n", "    rain = 0\n\n")
    assert "    def __init__(self, reader=None, writer=None):\n" in streamed(text)


@pytest.mark.parametrize(
    ("old", "new", "reason"),
    [
        ("def main():\n", "def main():\n    print('hello')\n", "outside the class's methods"),
        ('print("end", end="")', "list(map(print, [1]))", "used as a value"),
        ('print("end", end="")', 'print("end", **{"end": ""})', "keywords that no text shows"),
        ('print("end", end="")', "import sys\n        sys.stdout.flush()", "standard stream is used itself"),
        ("self.rain = 0", "self.writer = 0", "name `writer` is in use"),
        ("def __init__(self):", "def __init__(self, level=3):", "takes arguments already"),
        ('input("mm> ")', '"quit"', "reads no typed lines"),
    ],
)
def test_where_it_would_not_be_all_it_is_refused(old, new, reason):
    assert old in TEXT
    with pytest.raises(RefusedError, match=reason):
        streamed(TEXT.replace(old, new))
