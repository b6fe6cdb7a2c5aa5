"""Takes scripts that nobody here wrote all the way, and says how each ends.

Run `python bench/field.py FOLDER…`; without a folder, the standard library's `turtledemo`. A built script's files must
compile, importing them must print nothing and open no window, and it must behave as before in the scenarios made.
"""

from __future__ import annotations

import argparse
import json
import os
import subprocess
import sys
import tempfile
from pathlib import Path

_IMPORT_ALL = """
import importlib, sys
def no_window(*args, **kwargs):
    raise SystemExit("a window was opened")
try:
    import tkinter
    tkinter.Tk.__init__ = no_window
except ImportError:
    pass
for name in sys.argv[1:]:
    importlib.import_module(name)
"""


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("folders", nargs="*", type=Path)
    parser.add_argument("--budget", type=float, default=4.0)
    given = parser.parse_args()
    for folder in given.folders or [_turtledemo()]:
        for script in sorted(folder.glob("*.py")):
            if script.name != "__init__.py":
                print(f"{script.stem:<24} {outcome(script.resolve(), given.budget)}", flush=True)


def _turtledemo() -> Path:
    import turtledemo

    return Path(turtledemo.__file__).parent


def outcome(script: Path, budget: float) -> str:
    """How one script ends, in a line."""
    with tempfile.TemporaryDirectory() as work:
        design, target = Path(work) / "x.design.toml", Path(work) / "built"
        for arguments in (["survey", script], ["draft", script, "-o", design], ["build", design, "--into", target]):
            done = _run("aedifex", *arguments)
            if "Traceback" in done.stderr:
                return f"CRASH {arguments[0]}: {done.stderr.strip().splitlines()[-1]}"
            if done.returncode != 0:
                place, _, reason = done.stderr.strip().splitlines()[0].partition(": ")
                return f"{done.returncode} {arguments[0]}: {place.rpartition('/')[2]}: {reason}"
        return f"0 {_check(target)}; {_verify(script, target, budget)}"


def _check(target: Path) -> str:
    names = [".".join(path.relative_to(target).with_suffix("").parts) for path in sorted(target.rglob("*.py"))]
    done = subprocess.run(
        [sys.executable, "-c", _IMPORT_ALL, *names],
        cwd=target,
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, "PYGAME_HIDE_SUPPORT_PROMPT": "1", "SDL_VIDEODRIVER": "dummy"},
    )
    if done.returncode or done.stdout:
        last = (done.stdout + done.stderr).strip().splitlines()[-1:]
        return f"built, but importing it says {last}"
    return f"built {', '.join(names)}"


def _verify(script: Path, target: Path, budget: float) -> str:
    done = _run("aedifex", "verify", script, target, "--budget", budget, "--json", "-")
    if not done.stdout:
        return f"not run: {done.stderr.strip().splitlines()[0].partition(': ')[2]}"
    found = json.loads(done.stdout)
    shares = [lines["share"] for lines in found["lines"].values()]
    if found["same"]:
        return f"same, {max(shares, default=0):.0%} of the lines"
    return f"DIFFERENT {found['divergence']['before']} {found['divergence']['after']}"


def _run(*command: object) -> subprocess.CompletedProcess[str]:
    executable = Path(sys.executable).with_name(str(command[0]))
    return subprocess.run([str(executable), *map(str, command[1:])], capture_output=True, text=True, check=False)


if __name__ == "__main__":
    main()
