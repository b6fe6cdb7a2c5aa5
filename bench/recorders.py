"""What a recorded run costs over a plain one, per recorder, as a ratio of whole processes in one sitting.

The plain turtle run needs a display (`DISPLAY`), the plain pygame run uses the headless drivers.
"""

from __future__ import annotations

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from aedifex.languages.python import DIALECT
from aedifex.verify.running.run import Limits, Options, run
from aedifex.verify.scenarios.scenario import Scenario

CONSOLE = "n = 0\nfor i in range(int(input())):\n    n = (n * 31 + i) % 9973\n    if i % 10 == 0: print(i, n)\n"
TURTLE = "import turtle\nturtle.tracer(0)\nfor i in range(900):\n    turtle.forward(i % 70)\n    turtle.left(59)\nturtle.update()\n"
GAME = """
import pygame
pygame.init()
screen = pygame.display.set_mode((640, 480))
for i in range(150):
    pygame.event.get()
    screen.fill((i, 40, 90))
    pygame.draw.circle(screen, (200, 200, i), (i * 3, 200), 40)
    pygame.display.flip()
"""


def main() -> None:
    compare("console", CONSOLE, "40000\n")
    if os.environ.get("DISPLAY"):
        compare("turtle", TURTLE)
    else:
        print("turtle    (no display for the plain run)")
    compare("pygame", GAME, environment={"SDL_VIDEODRIVER": "dummy", "SDL_AUDIODRIVER": "dummy"})


def compare(name: str, text: str, typed: str = "", environment: dict[str, str] | None = None) -> None:
    with tempfile.TemporaryDirectory() as work:
        script = Path(work) / "script.py"
        script.write_text(text)
        scenario = Scenario(lines=tuple(typed.splitlines()))
        plain = best(
            lambda: subprocess.run(
                [sys.executable, str(script)],
                input=typed,
                text=True,
                capture_output=True,
                check=True,
                env={**os.environ, **(environment or {})},
            )
        )
        recorded = best(lambda: run(script, scenario, DIALECT.runner, Limits(seconds=60)))
        watched = best(lambda: run(script, scenario, DIALECT.runner, Limits(seconds=60), Options(watch_lines=True)))
        print(
            f"{name:<9} plain {plain:5.2f} s   recorded {recorded / plain:4.1f} x   with its lines {watched / plain:4.1f} x"
        )


def best(work: Callable[[], object], times: int = 3) -> float:
    found = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        found.append(time.perf_counter() - start)
    return min(found)


if __name__ == "__main__":
    main()
