"""What reading a Python file costs, side by side in one run, as ratios to parsing alone.

Columns: our parsing, our whole model, the standard `ast` and `symtable`, and the full-fidelity tree library with its scopes.
"""

from __future__ import annotations

import ast
import gc
import symtable
import sys
import time
import warnings
from collections.abc import Callable
from pathlib import Path

from aedifex.languages.python import DIALECT
from aedifex.languages.python.reader import grammar
from aedifex.source.text import SourceText

_FILES = 60


def main() -> None:
    warnings.simplefilter("ignore")
    folder = Path(ast.__file__).parent
    paths = sorted(folder.glob("*.py"), key=lambda path: -path.stat().st_size)[::3][:_FILES]
    sources = [SourceText.read(path) for path in paths]
    lines = sum(source.line_count for source in sources)
    print(f"{len(sources)} files of the standard library, {lines} lines, Python {sys.version.split()[0]}")
    parsing = measure(sources, grammar.parse)
    rows = {
        "our parsing": parsing,
        "our whole model": measure(sources, DIALECT.files.read),
        "ast + symtable": measure(sources, standard),
    }
    try:
        rows["full-fidelity tree + scopes"] = measure(sources, full_fidelity, repeats=1)
    except ImportError:
        print("(the full-fidelity tree library is not installed: pip install -e '.[bench]')")
    for name, seconds in rows.items():
        print(f"{name:<30} {seconds:8.2f} s   {seconds / parsing:6.1f} x parsing")
    growth()


def measure(sources: list[SourceText], work: Callable[[SourceText], object], repeats: int = 3) -> float:
    """The best of some runs over all sources, in seconds."""
    best = float("inf")
    for _ in range(repeats):
        gc.collect()
        start = time.perf_counter()
        for source in sources:
            work(source)
        best = min(best, time.perf_counter() - start)
    return best


def standard(source: SourceText) -> object:
    text = source.data.decode()
    return ast.parse(text), symtable.symtable(text, str(source.path), "exec")


def full_fidelity(source: SourceText) -> object:
    from libcst import parse_module
    from libcst.metadata import MetadataWrapper, PositionProvider, ScopeProvider

    wrapper = MetadataWrapper(parse_module(source.data))
    return wrapper.resolve_many([ScopeProvider, PositionProvider])


def growth() -> None:
    """How the model's cost grows with the length of one file."""
    unit = "\n".join(
        f"def f{n}(a, b=1):\n    global s{n}\n    s{n} = a + b\n    return [s{n} for x in range(a)]\ns{n} = 0\n"
        for n in range(167)
    )
    base = None
    for times, name in ((1, "1k"), (10, "10k"), (100, "100k")):
        source = SourceText(Path("long.py"), (unit * times).encode())
        seconds = measure([source], DIALECT.files.read, repeats=2)
        per_line = seconds / source.line_count * 1e6
        base = base or per_line
        print(
            f"{name:>5} lines: {seconds:7.2f} s, {per_line:5.1f} microseconds a line, {per_line / base:4.2f} x the first"
        )


if __name__ == "__main__":
    main()
