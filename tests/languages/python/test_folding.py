"""Lines that are too long are broken, and mean what they meant."""

from __future__ import annotations

import ast
import sysconfig
from pathlib import Path

import pytest

from aedifex.languages.python.folding import breaks

LIBRARY = sorted(Path(sysconfig.get_paths()["stdlib"]).glob("[c-d]*.py"))


def folded(text: str, width: int = 40) -> str:
    data = text.encode()
    for start, end, new in sorted(breaks(text, range(1, text.count("\n") + 1), width, "    "), reverse=True):
        data = data[:start] + new.encode() + data[end:]
    return data.decode()


@pytest.mark.parametrize(
    ("line", "wanted"),
    [
        ("show(ferry.name, ferry.load, ferry.speed)", "show(\n    ferry.name, ferry.load, ferry.speed\n)"),
        (
            "show(ferry.name, ferry.load, ferry.speed, ferry.place, tide.level)",
            "show(\n    ferry.name,\n    ferry.load,\n    ferry.speed,\n    ferry.place,\n    tide.level,\n)",
        ),
        (
            "if ferry.load > 3 and tide.level < 2 and not kite.up:",
            "if (\n    ferry.load > 3\n    and tide.level < 2\n    and not kite.up\n):",
        ),
        ("level = self.tide.level + self.rain.amount", "level = (\n    self.tide.level + self.rain.amount\n)"),
        ("ü = show('öäüöäüöäüöäüöäüöäü', ferry.nameß)", "ü = show(\n    'öäüöäüöäüöäüöäüöäü', ferry.nameß\n)"),
        ('text = f"{ferry.name} ({ferry.load}, {tide.level})"', 'text = f"{ferry.name} ({ferry.load}, {tide.level})"'),
        ("these_are_names_without_any_place_to_break", "these_are_names_without_any_place_to_break"),
        (
            "show(sorted(kites, key=lambda a, b: a.x - b.x), 1)",
            "show(\n    sorted(\n        kites,\n        key=lambda a, b: a.x - b.x,\n    ),\n    1,\n)",
        ),
    ],
)
def test_where_a_line_is_broken(line: str, wanted: str) -> None:
    body = "\n    pass" if line.endswith(":") else ""
    assert folded(f"{line}{body}\n") == f"{wanted}{body}\n"


@pytest.mark.parametrize("path", LIBRARY, ids=lambda path: path.name)
def test_the_library_folded_is_the_same_program(path: Path) -> None:
    text = path.read_text(encoding="utf-8")
    if "\f" in text:
        pytest.skip("its lines are counted otherwise")
    result = folded(text, 60)
    assert ast.dump(ast.parse(result)) == ast.dump(ast.parse(text))
    assert sum(len(line) > 60 for line in result.splitlines()) <= sum(len(line) > 60 for line in text.splitlines())
