"""How many small mistakes in the built classes the generated tests see.

Run `python -m bench.class_tests [SCRIPT…] [--count 12]`. Each script, or each shipped sample, is drafted, built and given
tests from scenarios that are made. They are run ten times elsewhere, each time with other hashes; then mistakes are put into
the files, and the tests are run on them.
"""

from __future__ import annotations

import argparse
import difflib
import os
import shutil
import subprocess
import sys
import tempfile
from pathlib import Path

from aedifex.demo import copy_sample, samples
from aedifex.languages import dialect_for


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
                shutil.copytree(name.parent, folder, symlinks=True)
                script = folder / name.name
            design, built = script.with_name(f"{script.stem}.design.toml"), script.parent / "built"
            try:
                _run("draft", script)
                _run("build", design, "--into", built)
                print(_run("tests", design, "--into", built).splitlines()[-1].rpartition("/")[0], flush=True)
            except subprocess.CalledProcessError as error:
                print(f"{script.name}: {error.stderr.splitlines()[0]}", flush=True)
                continue
            tests = built / dialect_for(script).testing.file_name(script)
            if not tests.exists():
                continue
            files += 1
            print(f"  holds in {sum(_holds(tests, number) for number in range(10))} of 10 runs elsewhere", flush=True)
            for path in sorted(built.glob(f"*{script.suffix}")):
                if path == tests or (script.suffix == ".py" and path.name == script.name and not _talks(tests)):
                    continue
                found, seen = measure(path, tests, given.count)
                tried, caught = tried + found, caught + seen
    print(f"{files} files of tests; caught {caught} of {tried} ({caught / tried:.0%})")


def _holds(tests: Path, number: int) -> bool:
    with tempfile.TemporaryDirectory() as work:
        elsewhere = Path(work) / "elsewhere"
        shutil.copytree(tests.parent, elsewhere)
        environment = {**os.environ, "PYTHONHASHSEED": str(number)}
        command = _command(elsewhere / tests.name)
        return subprocess.run(command, capture_output=True, check=False, cwd=work, env=environment).returncode == 0


def _command(tests: Path) -> list[str]:
    if tests.suffix == ".py":
        return [sys.executable, "-m", "pytest", "-q", "-x", "-p", "no:cacheprovider", str(tests)]
    return ["node", "--test", str(tests)]


def _talks(tests: Path) -> bool:
    return "test_a_conversation" in tests.read_text()


def measure(path: Path, tests: Path, count: int) -> tuple[int, int]:
    """Mistakes put into one file, and those that the tests see."""
    text = path.read_text()
    made = dialect_for(path).testing.mutants(text, count, 1)
    seen = 0
    for mutant in made:
        path.write_text(mutant.text)
        try:
            done = subprocess.run(_command(tests), capture_output=True, check=False, timeout=20, cwd=tests.parent)
            fails = bool(done.returncode)
        except subprocess.TimeoutExpired:
            fails = True
        if fails:
            seen += 1
        else:
            print(
                f"    not caught in {path.name}, {mutant.routine or 'no routine'}: {_difference(text, mutant.text)}",
                flush=True,
            )
    path.write_text(text)
    print(f"  {path.name:<24} {seen} of {len(made)}", flush=True)
    return len(made), seen


def _difference(text: str, other: str) -> str:
    lines = difflib.unified_diff(text.splitlines(), other.splitlines(), n=0, lineterm="")
    return " ".join(line[1:].strip() for line in lines if line[0] == "+" and line[:3] != "+++")


def _run(*arguments: object) -> str:
    command = Path(sys.executable).with_name("aedifex")
    return subprocess.run([command, *map(str, arguments)], capture_output=True, text=True, check=True).stdout


if __name__ == "__main__":
    main()
