"""How many small mistakes in the built classes the generated tests see.

Run `python -m bench.class_tests [SCRIPT…] [--count 12]`. Each script, or each shipped sample, is drafted, built and given
tests from scenarios that are made. They are run ten times elsewhere, each time with other hashes; then mistakes are put into
the files, and the tests are run on them.
"""

from __future__ import annotations

import argparse
import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from aedifex.demo import copy_sample, samples
from aedifex.languages.python.mistakes import mutants


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("scripts", nargs="*", type=Path)
    parser.add_argument("--count", type=int, default=12)
    given = parser.parse_args()
    caught = tried = files = 0
    for name in given.scripts or samples():
        with tempfile.TemporaryDirectory() as work:
            folder = Path(work) / Path(name).stem
            if isinstance(name, str):
                script, _ = copy_sample(name, folder)
            else:
                shutil.copytree(name.parent, folder)
                script = folder / name.name
            design, built = script.with_name(f"{script.stem}.design.toml"), script.parent / "built"
            try:
                _run("draft", script)
                _run("build", design, "--into", built)
                print(_run("tests", design, "--into", built).splitlines()[-1].rpartition("/")[0], flush=True)
            except subprocess.CalledProcessError as error:
                print(f"{script.name}: {error.stderr.splitlines()[0]}", flush=True)
                continue
            if not list(built.glob("test_*.py")):
                continue
            files += 1
            print(f"  holds in {sum(_holds(built, number) for number in range(10))} of 10 runs elsewhere", flush=True)
            for path in sorted(built.glob("*.py")):
                if path.name.startswith("test_") or (path.name == script.name and not _talks(built)):
                    continue
                found, seen = measure(path, built, given.count)
                tried, caught = tried + found, caught + seen
    print(f"{files} files of tests; caught {caught} of {tried} ({caught / tried:.0%})")


def _holds(built: Path, number: int) -> bool:
    with tempfile.TemporaryDirectory() as work:
        elsewhere = Path(work) / "elsewhere"
        shutil.copytree(built, elsewhere)
        command = [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", str(elsewhere)]
        environment = {**os.environ, "PYTHONHASHSEED": str(number)}
        return subprocess.run(command, capture_output=True, check=False, cwd=work, env=environment).returncode == 0


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
        try:
            fails = bool(subprocess.run(command, capture_output=True, check=False, timeout=20, cwd=built).returncode)
        except subprocess.TimeoutExpired:
            fails = True
        if fails:
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
