"""Whether a command got slower: this checkout beside another, in turn, in one run.

Run `python -m bench.against OTHER`, where OTHER is a checkout of an earlier commit. Each command is a whole process on the
demo's script; the ratio is of the best of some runs.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

from aedifex.demo import copy_sample

HERE = Path(__file__).parents[1]
TIMES = 7
RUN = "from aedifex.cli.main import main; main()"


def main() -> None:
    other = Path(sys.argv[1])
    with tempfile.TemporaryDirectory() as work:
        script, scenario = copy_sample("ferry", Path(work))
        design = script.with_name(f"{script.stem}.design.toml")
        target = Path(work) / "built"
        run(HERE, "draft", script, "-o", design)
        run(HERE, "build", design, "--into", target)
        commands = {
            "--help": ["--help"],
            "survey": ["survey", script],
            "draft": ["draft", script, "-o", "-"],
            "build": ["build", design, "--preview"],
            "step": ["step", "rename", script, "turn", "number", "--preview"],
            "verify": ["verify", script, target, "--scenario", scenario],
        }
        for name, words in commands.items():
            runs = [(run(other, *words), run(HERE, *words)) for _ in range(TIMES)]
            before, after = (min(times) for times in zip(*runs, strict=True))
            print(f"{name:<8} {before:5.2f} s before, {after:5.2f} s now: {after / before:4.2f}")


def run(checkout: Path, *words: object) -> float:
    """The seconds that one run takes."""
    start = time.perf_counter()
    command = [sys.executable, "-c", RUN, *map(str, words)]
    environment = {**os.environ, "PYTHONPATH": str(checkout / "src")}
    subprocess.run(command, capture_output=True, check=True, env=environment)
    return time.perf_counter() - start


if __name__ == "__main__":
    main()
