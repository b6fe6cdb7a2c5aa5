"""Sample programs that ship with the package, each in a folder with its scenario."""

from __future__ import annotations

import shutil
from pathlib import Path

from aedifex.source.errors import RefusedError

_HERE = Path(__file__).parent


def samples() -> list[str]:
    """The names of the samples."""
    return sorted(folder.name for folder in _HERE.iterdir() if any(folder.glob("*.scenario.toml")))


def copy_sample(name: str, target: Path) -> tuple[Path, Path]:
    """Copy a sample into a folder; return the paths of its script and of its scenario there.

    Raises:
        RefusedError: the folder holds files already.
    """
    if target.exists() and (not target.is_dir() or any(target.iterdir())):
        raise RefusedError(f"{target} is not empty", advice="Name a folder that does not exist yet.")
    source = _HERE / name
    shutil.copytree(source, target, dirs_exist_ok=True, ignore=shutil.ignore_patterns("__pycache__"))
    scenario = next(target.glob("*.scenario.toml"))
    stem = scenario.name.removesuffix(".scenario.toml")
    return next(path for path in sorted(target.glob(f"{stem}.*")) if path != scenario), scenario
