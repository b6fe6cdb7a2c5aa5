"""How many small mistakes in the built classes the generated tests see.

Run `python -m bench.class_tests [--count 12]`. Each shipped sample is drafted, built and given tests; then mistakes are
put into its files, and the tests are run on them.
"""

from __future__ import annotations

import argparse
import subprocess
import sys
import tempfile
from pathlib import Path

from aedifex.demo import copy_sample, samples
from bench.mutation import mutants


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("--count", type=int, default=12)
    given = parser.parse_args()
    caught = tried = 0
    for name in samples():
        with tempfile.TemporaryDirectory() as work:
            script, scenario = copy_sample(name, Path(work) / name)
            design, built = script.with_name(f"{script.stem}.design.toml"), script.parent / "built"
            _run("draft", script)
            _run("build", design, "--into", built)
            print(
                _run("tests", design, "--into", built, "--scenario", scenario).splitlines()[0].rpartition("/")[0],
                flush=True,
            )
            if not list(built.glob("test_*.py")):
                continue
            for path in sorted(built.glob("*.py")):
                if path.name.startswith("test_") or (path.name == script.name and not _talks(built)):
                    continue
                found, seen = measure(path, built, given.count)
                tried, caught = tried + found, caught + seen
    print(f"caught {caught} of {tried} ({caught / tried:.0%})")


def _talks(built: Path) -> bool:
    return "test_a_conversation" in next(built.glob("test_*.py")).read_text()


def measure(path: Path, built: Path, count: int) -> tuple[int, int]:
    """Mistakes put into one file, and those that the tests see."""
    text = path.read_text()
    made = mutants(text, count)
    seen = 0
    for mutant in made:
        path.write_text(mutant.text)
        command = [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", str(built)]
        done = subprocess.run(command, capture_output=True, text=True, check=False, timeout=60, cwd=built)
        if done.returncode:
            seen += 1
        else:
            line = mutant.text.splitlines()[mutant.line - 1].strip()
            print(f"    not caught in {path.name}, line {mutant.line}: {mutant.what}: {line}", flush=True)
    path.write_text(text)
    print(f"  {path.name:<24} {seen} of {len(made)}", flush=True)
    return len(made), seen


def _run(*arguments: object) -> str:
    command = Path(sys.executable).with_name("aedifex")
    return subprocess.run([command, *map(str, arguments)], capture_output=True, text=True, check=True).stdout


if __name__ == "__main__":
    main()
