"""How JavaScript programs are run in a scripted world: by Node and the stage, which stands in the folder beside."""

from __future__ import annotations

import re
import shutil
from collections.abc import Iterable, Iterator, Mapping, Sequence
from pathlib import Path

from aedifex.languages.javascript.loading import loaded, loaded_from_above
from aedifex.languages.javascript.watching import watched
from aedifex.program.dialect.runner import Runner
from aedifex.source.errors import RunError

_HERE = Path(__file__).parent
STAGE = _HERE / "stage"
"""The folder of what runs beside a program."""

_MEGABYTES = 1500
_FRAME = re.compile(r"^\s+at (?:.*\()?(?:<folder>|node:|file:|/).*$")
_OF_A_BROWSER = ("a canvas for", "elements of the page's own", "the selector")
_PLACE = re.compile(r"<folder>/[^\s:()]+:\d+(?::\d+)?")


class JavaScriptRunner:
    """Runs scripts and modules with Node, and pages and sketches in a stand-in for a browser."""

    def command(self, plan: int) -> Sequence[str]:
        """Node, with a limit to its memory, and with what loads the modules of pages.

        Raises:
            RunError: there is no Node.
        """
        options = [f"--max-old-space-size={_MEGABYTES}", "--no-warnings", "--experimental-vm-modules"]
        return [node(), *options, str(STAGE / "main.cjs"), str(plan)]

    def environment(self) -> Mapping[str, str]:
        """No colours, and no options from outside."""
        return {"NO_COLOR": "1", "NODE_OPTIONS": "", "NODE_DISABLE_COLORS": "1"}

    def helpers(self) -> Sequence[str]:
        """Node has all that the stage needs."""
        return []

    def left_out(self) -> Sequence[str]:
        """Caches and what tools leave."""
        return (".git", ".cache", "coverage", ".nyc_output")

    def linked(self) -> Sequence[str]:
        """Packages are too large to be copied for each run."""
        return ("node_modules",)

    def from_above(self, script: str, folders: Sequence[Path]) -> Sequence[str]:
        """What is loaded by names that begin with `..`."""
        return loaded_from_above(script, folders)

    def watch(self, script: Path, classes: Sequence[str]) -> None:
        """Each class is handed to the stage where it is declared, in the script or in a file that it loads."""
        beside = [name for name in loaded(script.name, [script.parent]) if not name.startswith("../")]
        for file in (script, *(script.parent / name for name in beside)):
            file.write_bytes(watched(file, file.read_bytes(), classes))

    def replay_scripts(self) -> Sequence[Path]:
        """The driver of noted calls, and what it shares with the tests."""
        names = ("replay", "chance", "loading", "stand_ins", "values")
        return [_HERE / "replay" / f"{name}.cjs" for name in names]

    def package_mark(self) -> str:
        """A folder needs no mark."""
        return ""

    def trial(self, root: Path, tests: Path, *, backwards: bool) -> Sequence[str]:
        """The driver that carries out tests."""
        return [node(), str(_HERE / "trial_driver.cjs"), str(tests), "back" if backwards else "forth"]

    def trial_environment(self, number: int) -> Mapping[str, str]:
        """Runs are alike."""
        return {}

    def uncovered_advice(self, what: str) -> tuple[str, str]:
        """What a stand-in cannot do is said: a browser may."""
        reason = f"uses {what}, which is not covered"
        if what.startswith(_OF_A_BROWSER):
            return reason, "Run it in a browser, if Chromium is installed: --browser."
        return reason, "What it does with that cannot be checked here yet."

    def in_browser(self) -> Runner:
        """Chromium, where it is installed."""
        from aedifex.languages.javascript.browser import BrowserRunner

        return BrowserRunner()

    def missing_advice(self, library: str) -> str:
        """Packages are found in `node_modules`."""
        return f"Install {library} beside the script: npm install {library}."

    def without_places(self, lines: Iterable[str]) -> Iterator[str | None]:
        """Printed lines without the frames of errors, and without what tells where code stands."""
        for line in lines:
            yield None if _FRAME.match(line) else _PLACE.sub("<place>", line)


def node() -> str:
    """Where Node is installed.

    Raises:
        RunError: there is none.
    """
    node = shutil.which("node")
    if node is None:
        raise RunError("Node is needed to run JavaScript, and is not installed", None, "Install it from nodejs.org.")
    return node
