from __future__ import annotations

import subprocess
import sys
from collections.abc import Callable
from pathlib import Path

import pytest
from hypothesis import HealthCheck, settings

settings.register_profile("house", deadline=None, suppress_health_check=[HealthCheck.too_slow], print_blob=True)
settings.load_profile("house")

Cli = Callable[..., subprocess.CompletedProcess[str]]


@pytest.fixture
def cli(tmp_path: Path) -> Cli:
    """Runs the installed command in a temporary folder."""
    executable = Path(sys.executable).with_name("aedifex")

    def run(*arguments: object, cwd: Path = tmp_path) -> subprocess.CompletedProcess[str]:
        done = subprocess.run(
            [str(executable), *map(str, arguments)], cwd=cwd, capture_output=True, text=True, check=False, timeout=120
        )
        assert "Traceback" not in done.stderr, done.stderr
        return done

    return run
