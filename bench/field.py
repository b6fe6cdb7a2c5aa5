"""Takes scripts that nobody here wrote all the way, and says how each ends.

Run `python -m bench.field [FOLDER or SCRIPT…] [--table FILE]`; without any, the standard library's `turtledemo` and the
examples of pygame-ce. Of a script in JavaScript the measures of its longest parts are left out. A built script's files must compile, importing them must print nothing and open no window, and it
must behave as before in the scenarios made.
"""

from __future__ import annotations

import argparse
import ast
import json
import os
import statistics
import subprocess
import sys
import tempfile
from dataclasses import dataclass
from importlib.util import find_spec
from pathlib import Path

_LONG = 12
_OTHERS = "\n## "
"""Where in a page begins what is told of others, which stays."""
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


@dataclass
class Row:
    """How one script ended: its classes, its main code before and after, the verdict and what it was seen on."""

    script: str
    verdict: str
    classes: str = ""
    before: int = 0
    after: int = 0
    lines: str = ""
    longest_before: int = 0
    longest_after: int = 0
    loop_before: int = 0
    loop_after: int = 0


def main() -> None:
    parser = argparse.ArgumentParser()
    parser.add_argument("folders", nargs="*", type=Path)
    parser.add_argument("--budget", type=float, default=4.0)
    parser.add_argument("--table", type=Path)
    given = parser.parse_args()
    rows: list[Row] = []
    for folder in given.folders or [_package("turtledemo"), _package("pygame") / "examples"]:
        for script in [folder] if folder.is_file() else sorted(folder.glob("*.py")):
            if script.name != "__init__.py":
                rows.append(outcome(script.resolve(), given.budget))
                print(rows[-1], flush=True)
    print(summary(rows))
    if given.table is not None:
        before = given.table.read_text("utf-8") if given.table.exists() else ""
        _, mark, others = before.partition(_OTHERS)
        given.table.write_text(page(rows) + mark + others, "utf-8")


def _package(name: str) -> Path:
    found = find_spec(name)
    assert found is not None and found.origin is not None
    return Path(found.origin).parent


def outcome(script: Path, budget: float) -> Row:
    """How one script ends."""
    with tempfile.TemporaryDirectory() as work:
        design, target = Path(work) / "x.design.toml", Path(work) / "built"
        for arguments in (["survey", script], ["draft", script, "-o", design], ["build", design, "--into", target]):
            done = _run("aedifex", *arguments)
            if "Traceback" in done.stderr:
                return Row(script.stem, f"CRASH {arguments[0]}: {done.stderr.strip().splitlines()[-1]}")
            if done.returncode != 0:
                place, _, reason = done.stderr.strip().splitlines()[0].partition(": ")
                number = place.rpartition(":")[2]
                where = f" (line {number})" if number.isdigit() else ""
                return Row(script.stem, f"refused: {reason}{where}")
        is_python, files = script.suffix == ".py", sorted(target.glob(f"*{script.suffix}"))
        said = _importing(target) if is_python else ""
        row = Row(
            script.stem, "" if said in ("", _importing(script.parent, script.stem)) else f"importing it says {said}"
        )
        before = _facts(script)
        after = [_facts(path) for path in files]
        own = [name for facts in after for name in facts["classes"] if name not in before["classes"]]
        row.classes = ", ".join(name for name in own if "." not in name)
        row.before = before["main_lines"]
        row.after = next(f["main_lines"] for f in after if Path(f["path"]).name == script.name)
        if is_python:
            row.longest_before, row.loop_before = _sizes([script], before["main_lines"])
            row.longest_after, row.loop_after = _sizes(files, row.after)
        if not row.verdict:
            row.verdict, row.lines = _verify(script, target, budget)
        return row


def _facts(path: Path) -> dict:
    return json.loads(_run("aedifex", "survey", path, "--json", "-").stdout)["modules"][0]


def _sizes(files: list[Path], main_lines: int) -> tuple[int, int]:
    """The lines of the longest routine, or of the main code, and of the longest loop."""
    routines, loops = [main_lines], [0]
    for path in files:
        for node in ast.walk(ast.parse(path.read_bytes())):
            if isinstance(node, ast.FunctionDef | ast.AsyncFunctionDef):
                routines.append(node.end_lineno - node.lineno + 1)
            elif isinstance(node, ast.While):
                loops.append(node.end_lineno - node.lineno + 1)
    return max(routines), max(loops)


def _importing(target: Path, *scripts: str) -> str:
    """What importing some files, or all of a folder, says at last; nothing if it is quiet.

    A check of what the script needs may speak; then it does so in the original too.
    """
    names = list(scripts) or [".".join(p.relative_to(target).with_suffix("").parts) for p in target.rglob("*.py")]
    done = subprocess.run(
        [sys.executable, "-c", _IMPORT_ALL, *names],
        cwd=target,
        capture_output=True,
        text=True,
        check=False,
        env={**os.environ, "PYGAME_HIDE_SUPPORT_PROMPT": "1", "SDL_VIDEODRIVER": "dummy"},
    )
    last = (done.stdout + done.stderr).strip().splitlines()[-1:]
    return last[0] if last and (done.returncode or done.stdout) else ""


def _verify(script: Path, target: Path, budget: float) -> tuple[str, str]:
    done = _run("aedifex", "verify", script, target, "--budget", budget, "--json", "-")
    if not done.stdout:
        return f"not run: {done.stderr.strip().splitlines()[0].partition(': ')[2]}", ""
    found = json.loads(done.stdout)
    share = max((lines["share"] for lines in found["lines"].values()), default=0)
    return ("same" if found["same"] else f"DIFFERENT {found['divergence']['before']}"), f"{share:.0%}"


def summary(rows: list[Row]) -> str:
    """The table in a sentence; a script whose functions share nothing is no case for classes."""
    without = [row for row in rows if "nothing to gather" in row.verdict]
    cases = [row for row in rows if row not in without]
    same = [row for row in cases if row.verdict == "same"]
    wrong = [row for row in cases if row.verdict.startswith(("DIFFERENT", "CRASH", "importing"))]
    share = len(same) / len(cases) if cases else 1.0
    long = [row for row in same if row.longest_before > _LONG]
    longest = statistics.median(row.longest_after / row.longest_before for row in long) if long else 1.0
    loops = [row for row in same if row.loop_before > _LONG]
    moved = statistics.median(1 - row.loop_after / row.loop_before for row in loops) if loops else 0.0
    return (
        f"{len(cases)} scripts with shared state: {len(same)} built and the same ({share:.0%}), "
        f"{len(wrong)} wrong, {len(cases) - len(same) - len(wrong)} refused or not run; {len(without)} without. "
        f"Of routines longer than {_LONG} lines the longest of each script has {longest:.0%} of its lines afterwards, "
        f"and {moved:.0%} of a loop's lines have moved out of it (medians)."
    )


def page(rows: list[Row]) -> str:
    """The table as a page."""
    lines = [
        "# The field",
        "",
        "Scripts that nobody here wrote, taken through `draft`, `build` and `verify` with the default options. Written by",
        "`make field`. Route files stand in [their own table](routes.md#how-it-was-tried), and scripts in JavaScript",
        "[below](#scripts-in-javascript).",
        "",
        summary(rows),
        "",
        "| script | classes | main lines | longest routine | verdict | lines seen |",
        "|---|---|---:|---:|---|---:|",
    ]
    for row in rows:
        main = f"{row.before} → {row.after}" if row.classes else ""
        longest = f"{row.longest_before} → {row.longest_after}" if row.classes else ""
        lines.append(f"| {row.script} | {row.classes} | {main} | {longest} | {row.verdict} | {row.lines} |")
    return "\n".join(lines) + "\n"


def _run(*command: object) -> subprocess.CompletedProcess[str]:
    executable = Path(sys.executable).with_name(str(command[0]))
    return subprocess.run([str(executable), *map(str, command[1:])], capture_output=True, text=True, check=False)


if __name__ == "__main__":
    main()
