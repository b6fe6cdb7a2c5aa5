"""Which lines of the program ran, told by the coverage package."""

from __future__ import annotations

import json
import os
import sys
import warnings


def start(plan: object) -> object:
    """Begin to watch if the plan asks for it; the result stops and writes the lines down.

    A Python that has no coverage package uses that of the one which runs us, as far as the two agree.
    """
    if not plan.lines_file:
        return lambda: None
    sys.path += plan.helpers
    try:
        import coverage
    except Exception:
        return lambda: None
    finally:
        del sys.path[len(sys.path) - len(plan.helpers) :]
    watch = coverage.Coverage(data_file=None, config_file=False, include=[plan.folder + "/*"], messages=False)
    watch._warn = lambda *given, **named: None  # its words are none of the program's
    watch.start()

    def stop() -> None:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")
            watch.stop()
            found = {}
            for name in watch.get_data().measured_files():
                try:
                    _, statements, _, missing, _ = watch.analysis2(name)
                except coverage.CoverageException:
                    continue  # it is gone, or no Python: what a template was made of goes by the template's name
                found[name[len(plan.folder) + 1 :]] = {"statements": statements, "missing": missing}
        os.ftruncate(plan.lines_file, 0)  # it may be told once more, by a program that could not become another
        os.pwrite(plan.lines_file, json.dumps(found).encode(), 0)

    return stop
