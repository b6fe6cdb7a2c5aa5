"""The long comparisons: every file of the standard library and of this environment, and thousands of random programs.

Run by `make oracle`; ends with 1 if anything differs.
"""

from __future__ import annotations

import argparse
import ast
import sys
import sysconfig
import tempfile
from collections import Counter
from collections.abc import Iterable, Sequence
from concurrent.futures import ProcessPoolExecutor
from itertools import repeat
from pathlib import Path

from aedifex.source.errors import UnreadableError
from tests.support.compiler import disagreements
from tests.support.javascript_names import differences
from tests.support.javascript_scopes import write_names
from tests.support.npm_files import npm_files
from tests.support.random_programs import SORTS

NAMES = 2000
_AT_ONCE = 50


def main() -> None:
    asked = _asked()
    library = Path(ast.__file__).parent
    installed = Path(sysconfig.get_path("purelib"))
    with ProcessPoolExecutor() as pool:
        bad = compare(pool, library, [path for path in library.rglob("*.py") if "site-packages" not in path.parts])
        bad += compare(pool, installed, list(installed.rglob("*.py")))
        bad += compare_javascript(pool)
        bad += build(pool, range(asked.first, asked.first + asked.programs))
    sys.exit(1 if bad else 0)


def _asked() -> argparse.Namespace:
    """How many programs of each sort, and the seed of the first."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--programs", type=int, default=50, help="random programs of each sort")
    parser.add_argument("--first", type=int, default=0, help="the seed of the first of them")
    return parser.parse_args()


def compare(pool: ProcessPoolExecutor, root: Path, paths: Iterable[Path]) -> int:
    """Scopes and spans of all files; those that this Python cannot compile are left out."""
    counts = Counter[str]()
    for end, lines in pool.map(_compared, sorted(paths), chunksize=20):
        counts[end] += 1
        print(*(f"  {line}\n" for line in lines[:3]), sep="", end="", flush=True)
    print(f"{root.name}: {dict(counts)}", flush=True)
    return counts["disagreeing"]


def _compared(path: Path) -> tuple[str, list[str]]:
    """How the scopes of a file compare, and in what they differ."""
    try:
        found = disagreements(path)
    except (SyntaxError, ValueError, UnicodeError):
        return "not of this Python", []
    except UnreadableError as error:
        return "unreadable to us", [str(error)]
    return "disagreeing" if found else "agreeing", found


def compare_javascript(pool: ProcessPoolExecutor) -> int:
    """Compare what names in JavaScript mean with what its own tools say, in packages and in random scripts."""
    with npm_files() as paths:
        bad = _differences(pool, "javascript", paths)
    with tempfile.TemporaryDirectory() as folder:
        paths = [Path(folder) / f"random{seed}.js" for seed in range(NAMES)]
        for seed, path in enumerate(paths):
            path.write_text(write_names(seed))
        return bad + _differences(pool, "javascript, random", paths)


def _differences(pool: ProcessPoolExecutor, name: str, paths: Sequence[Path]) -> int:
    """How many names in some files have another meaning."""
    shares = [paths[begin : begin + _AT_ONCE] for begin in range(0, len(paths), _AT_ONCE)]
    found = [line for lines in pool.map(_differing, shares) for line in lines]
    print(f"{name}: {len(paths)} files, {len(found)} names with another meaning", *found[:20], sep="\n", flush=True)
    return len(found)


def _differing(paths: Sequence[Path]) -> list[str]:
    return list(differences(paths))


def build(pool: ProcessPoolExecutor, seeds: range) -> int:
    """Change random programs of all sorts, run each before and after, and say how many came out different."""
    all_ends = Counter[str]()
    for number, sort in enumerate(SORTS):
        ends = Counter[str]()
        for seed, end in zip(seeds, pool.map(_end_of, repeat(number), seeds), strict=False):
            how = end.partition(":")[0]
            ends[how] += 1
            if how in ("different", "failed"):
                print(f"seed {seed}: {end}", flush=True)
        print(f"{sort.name}: {dict(ends)}", flush=True)
        all_ends += ends
    print(f"{all_ends.total()} programs: {dict(all_ends)}", flush=True)
    return all_ends["different"] + all_ends["failed"]


def _end_of(number: int, seed: int) -> str:
    """How a program of a sort ends; where we ourselves fail, that is how."""
    try:
        return SORTS[number].end_of(seed)
    except Exception as error:
        return f"failed: {error!r}"


if __name__ == "__main__":
    main()
