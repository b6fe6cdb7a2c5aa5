"""Test runners: they collect functions and classes by their names, and give them fixtures by those of parameters."""

from __future__ import annotations

from aedifex.languages.python.runners.known import KnownRunner, words

RUNNER = KnownRunner(
    name="the test runner",
    looks_inside=True,
    modules=words("pytest nose unittest doctest"),
    files=words("test_*.py *_test.py conftest.py"),
    hooks=words("pytest_* pytestmark fixture_* collect_ignore*"),
    callables=words("test* Test* setup setup_* setUp* teardown teardown_* tearDown* load_tests"),
)
