"""Runs the tests of a file, without a test runner, and prints which of them fail.

`python trial_driver.py ROOT MODULE ORDER`: ROOT is put on the path, MODULE is the dotted name of the test file from
there, ORDER is `forth` or `back`. What comes out is one line of JSON: the names of the tests that fail, each with its
error.
"""

import contextlib
import importlib
import inspect
import io
import json
import os
import sys
from collections.abc import Callable
from types import SimpleNamespace


class Captured(io.StringIO):
    """What is printed, as the tests ask for it."""

    def readouterr(self) -> SimpleNamespace:
        """What was printed since the last time."""
        out = self.getvalue()
        self.truncate(self.seek(0))
        return SimpleNamespace(out=out, err="")


class NothingTyped(io.StringIO):
    """Standard input as it is while tests run: nobody is there to type."""

    def readline(self, size: "int | None" = -1) -> str:  # type: ignore[override]
        """Nothing can be read."""
        raise OSError("reading from stdin while tests run")

    read = readline


def failure(test: "Callable[..., object]") -> str:
    """The error that a test fails with; empty where it passes."""
    captured = Captured()
    around = sys.modules[test.__module__]
    try:
        getattr(around, "setup_function", str)()
        with contextlib.redirect_stdout(captured):
            test(captured) if inspect.signature(test).parameters else test()
    except BaseException as error:
        return f"{type(error).__name__}: {error}"[:300]
    finally:
        getattr(around, "teardown_function", str)()
    return ""


def main() -> None:
    """Import the test file and run its tests."""
    root, name, order = sys.argv[1:4]
    sys.stdin = NothingTyped()
    sys.path[0] = root if "." in name else os.path.join(root, *name.split(".")[:-1])
    try:
        module = importlib.import_module(name)
    except BaseException as error:
        print(json.dumps({"": f"{type(error).__name__}: {error}"[:300]}))
        return
    tests = [(each, test) for each, test in vars(module).items() if each.startswith("test_")]
    ordered = tests if order == "forth" else tests[::-1]
    found = {each: failure(test) for each, test in [*ordered, *ordered]}  # twice, for it may leave something behind
    print("\n" + json.dumps({each: error for each, error in found.items() if error}))


if __name__ == "__main__":
    main()
