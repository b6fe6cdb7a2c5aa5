"""Takes scripts that nobody here wrote through survey, draft and build, and says how each ends.

Run `python bench/field.py FOLDER…`; without a folder, the standard library's `turtledemo`. For a built script all files must
compile, and importing them must print nothing and open no window.
"""

from __future__ import annotations

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
    folders = [Path(name) for name in sys.argv[1:]] or [_turtledemo()]
    for folder in folders:
        for script in sorted(folder.glob("*.py")):
            if script.name != "__init__.py":
                print(f"{script.stem:<24} {outcome(script)}", flush=True)


def _turtledemo() -> Path:
    import turtledemo

    return Path(turtledemo.__file__).parent


def outcome(script: Path) -> str:
    """How one script ends, in a line."""
    with tempfile.TemporaryDirectory() as work:
        design, target = Path(work) / "x.design.toml", Path(work) / "built"
        for arguments in (["survey", script], ["draft", script, "-o", design], ["build", design, "--into", target]):
            done = _run("aedifex", *arguments)
            if "Traceback" in done.stderr:
                return f"CRASH {arguments[0]}: {done.stderr.strip().splitlines()[-1]}"
            if done.returncode != 0:
                return f"{done.returncode} {arguments[0]}: {done.stderr.strip().splitlines()[0]}"
        return f"0 {_check(target)}"


def _check(target: Path) -> str:
    names = [".".join(path.relative_to(target).with_suffix("").parts) for path in sorted(target.rglob("*.py"))]
    done = subprocess.run(
        [sys.executable, "-c", _IMPORT_ALL, *names], cwd=target, capture_output=True, text=True, check=False
    )
    if done.returncode or done.stdout:
        last = (done.stdout + done.stderr).strip().splitlines()[-1:]
        return f"built, but importing it says {last}"
    return f"built: {', '.join(names)}"


def _run(*command: object) -> subprocess.CompletedProcess[str]:
    executable = Path(sys.executable).with_name(str(command[0]))
    return subprocess.run([str(executable), *map(str, command[1:])], capture_output=True, text=True, check=False)


if __name__ == "__main__":
    main()
