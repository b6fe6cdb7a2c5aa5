"""Playing recorded cases again on the built classes, in a child process of their own."""

from __future__ import annotations

import json
import shutil
import tempfile
from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Any

from aedifex.program.dialect.runner import Runner
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario

_STEM = "aedifex_replay"
_CASES = "aedifex_cases.json"


def replay(built: Path, cases: Sequence[Mapping[str, Any]], runner: Runner) -> list[dict[str, Any]]:
    """What comes of each case: result, fields and prints, or how it failed.

    Raises:
        RunError: they could not be played.
    """
    if not cases:
        return []
    with tempfile.TemporaryDirectory(prefix="aedifex-replay-") as work:
        driver = runner.replay_script()
        script = Path(work) / f"{_STEM}{driver.suffix}"
        shutil.copy(driver, script)
        script.with_name(_CASES).write_text(json.dumps(cases), encoding="utf-8")
        done = run(script, Scenario(), runner, around=built)
    said = "".join(entry.text for entry in done.trace.entries if entry.kind == "out")
    answers: list[dict[str, Any]] = json.loads(said.strip().splitlines()[-1]) if said.strip() else []
    return answers
