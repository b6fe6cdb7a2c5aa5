"""How pages are run in a real browser: by Node and the part of the stage that speaks with one over two pipes."""

from __future__ import annotations

import shutil
from collections.abc import Sequence

from aedifex.languages.javascript.runner import STAGE, JavaScriptRunner, node
from aedifex.source.errors import RunError

COMMANDS = ("chromium", "chromium-browser", "google-chrome", "google-chrome-stable", "chrome")
"""What Chromium and its kin are called, where they are installed."""


class BrowserRunner(JavaScriptRunner):
    """Runs pages, and scripts that belong to one, in Chromium: what is drawn in space, and letters, are real there."""

    def command(self, plan: int) -> Sequence[str]:
        """Node, with what drives the browser.

        Raises:
            RunError: there is no Node, or no Chromium.
        """
        browser = next((found for name in COMMANDS if (found := shutil.which(name))), None)
        if browser is None:
            advice = "Install Chromium, or leave --browser away: most pages do without."
            raise RunError("Chromium is needed to run pages in a browser, and is not installed", None, advice)
        return [node(), str(STAGE / "browser" / "main.cjs"), str(plan), browser]

    def uncovered_advice(self, what: str) -> tuple[str, str]:
        """What even a browser is not given is said."""
        reason = f"uses {what}, which is not covered"
        if "Node has" in what:
            return reason, "Leave --browser away."
        return reason, "What it does with that cannot be checked here yet."
