from __future__ import annotations

import subprocess
from collections.abc import Callable, Iterator
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

from tests.support.warm import WarmCommand

settings.register_profile("house", deadline=None, suppress_health_check=[HealthCheck.too_slow], print_blob=True)
settings.load_profile("house")

Cli = Callable[..., subprocess.CompletedProcess[str]]


@pytest.fixture(scope="session")
def warm_command() -> Iterator[WarmCommand]:
    """The installed command, kept warm."""
    command = WarmCommand()
    yield command
    command.stop()


@pytest.fixture
def cli(tmp_path: Path, warm_command: WarmCommand) -> Cli:
    """Runs the installed command in a temporary folder."""

    def run(*arguments: object, cwd: Path = tmp_path, typed: str = "") -> subprocess.CompletedProcess[str]:
        done = warm_command.run([*map(str, arguments)], cwd, 120, typed)
        assert "Traceback" not in done.stderr, done.stderr
        return done

    return run
