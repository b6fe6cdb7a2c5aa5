"""What `draft`, `build` and `report` cost beside the language's own compiler: whole processes, in turn, in one run.

Run `python -m bench.build`. The scripts are made here: things with three variables and four functions each.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from pathlib import Path

_THING = '''
# --- {noun}
{noun}_x = {number}
{noun}_speed = 1
{noun}_log = []


def move_{noun}():
    """Moves it on, and turns at the banks."""
    global {noun}_x, {noun}_speed
    {noun}_x += {noun}_speed * STEP
    if {noun}_x > LIMIT:
        {noun}_speed = -{noun}_speed
        {noun}_x = LIMIT
    elif {noun}_x < 0:
        {noun}_speed = abs({noun}_speed)
        {noun}_x = 0


def note_{noun}(text):
    # what happened to it
    if len({noun}_log) > 5:
        {noun}_log.clear()
    {noun}_log.append(f"{{text}} at {{{noun}_x:>3}}")


def is_{noun}_home():
    return {noun}_x == 0 and {noun}_speed > 0


def show_{noun}():
    print("{noun}", {noun}_x, {noun}_speed)
    for line in {noun}_log:
        print("   ", line)
'''
_LINES_EACH = len(_THING.splitlines())
_BASE = "import ast, sys\ntext = open(sys.argv[1]).read()\nast.parse(text)\ncompile(text, 'x', 'exec')\n"


def script(lines: int) -> str:
    """A procedural script of about so many lines."""
    nouns = [f"thing{chr(97 + n // 26)}{chr(97 + n % 26)}" for n in range(lines // (_LINES_EACH + 3))]
    head = "LIMIT = 40\nSTEP = 2\n"
    things = "".join(_THING.format(noun=noun, number=number) for number, noun in enumerate(nouns))
    loop = "".join(f"    move_{n}()\n    note_{n}('moved')\n    show_{n}()\n" for n in nouns)
    return f"{head}{things}\n\nturn = 0\nwhile turn < 3:\n    turn += 1\n{loop}print(turn)\n"


def main() -> None:
    for lines in (1_000, 3_000, 10_000):
        with tempfile.TemporaryDirectory() as work:
            path = Path(work) / "harbour_script.py"
            path.write_text(script(lines))
            count = len(path.read_text().splitlines())
            rounds = [measure(path, Path(work), number) for number in range(5 if lines < 5_000 else 2)]
            base, survey, draft, build, report = (min(times) for times in zip(*rounds, strict=True))
            print(
                f"{count:>6} lines: compiler 1.0 ({base * 1000:.0f} ms), survey {survey / base:.1f}, "
                f"draft {draft / base:.1f} ({draft / survey:.1f} of survey), build {build / base:.1f}, "
                f"together {(draft + build) / base:.1f}, report {report / build:.1f} of build; {(draft + build) * 1e6 / count:.0f} microseconds a line",
                flush=True,
            )


def measure(path: Path, work: Path, number: int) -> tuple[float, ...]:
    """Seconds of the compiler, of `survey`, `draft`, `build` and `report`, one after the other."""
    command = Path(sys.executable).with_name("aedifex")
    design = work / f"{number}.design.toml"
    return (
        seconds(sys.executable, "-c", _BASE, path),
        seconds(command, "survey", path),
        seconds(command, "draft", path, "-o", design),
        seconds(command, "build", design, "--into", work / f"built{number}"),
        seconds(command, "report", design, "-o", work / f"{number}.html", "--without-running"),
    )


def seconds(*command: object) -> float:
    """How long a whole process takes."""
    begin = time.perf_counter()
    environment = {key: value for key, value in os.environ.items() if key != "PYTHONDONTWRITEBYTECODE"}
    subprocess.run([str(part) for part in command], check=True, capture_output=True, env=environment)
    return time.perf_counter() - begin


if __name__ == "__main__":
    main()
