"""Which lines of the program ran, told by the coverage package where it is installed."""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from _aedifex_stage.plan import Plan

import json
from collections.abc import Callable


def start(plan: Plan) -> Callable[[], None]:
    """Begin to watch if the plan asks for it; the result stops and writes the lines down."""
    if not plan.lines_file:
        return lambda: None
    try:
        import coverage
    except ImportError:
        return lambda: None
    watch = coverage.Coverage(data_file=None, config_file=False, include=[plan.folder + "/*"], messages=False)
    watch.start()

    def stop() -> None:
        watch.stop()
        found = {}
        for name in watch.get_data().measured_files():
            _, statements, _, missing, _ = watch.analysis2(name)
            found[name[len(plan.folder) + 1 :]] = {"statements": statements, "missing": missing}
        with open(plan.lines_file, "w", encoding="utf-8") as file:
            json.dump(found, file)

    return stop
