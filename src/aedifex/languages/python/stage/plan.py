"""What a run is told, as `verify` writes it down."""

from __future__ import annotations

import json
import os
import types


def read_plan(number: int) -> types.SimpleNamespace:
    """The plan in a file that is open, with the fields of `RunPlan`; what the program starts gets none of our files."""
    with os.fdopen(number, encoding="utf-8") as file:
        file.seek(0)
        plan = types.SimpleNamespace(**json.load(file))
    for handle in (plan.trace, plan.lines_file, plan.calls_file, plan.heard_file):
        if handle:
            os.set_inheritable(handle, False)
    return plan
