"""The files of packages that nobody here wrote, for comparing what names in them mean."""

from __future__ import annotations

import subprocess
import tarfile
import tempfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from tests.support.javascript_names import TOOLS

_LARGEST = 2_000_000


@contextmanager
def npm_files() -> Iterator[list[Path]]:
    """The scripts and modules of the packages that `packages.txt` names, fetched and unpacked for the time being."""
    with tempfile.TemporaryDirectory() as folder:
        names = (TOOLS / "packages.txt").read_text().split()
        subprocess.run(["npm", "pack", "--silent", *names], cwd=folder, check=True, stdout=subprocess.DEVNULL)
        for number, archive in enumerate(sorted(Path(folder).glob("*.tgz"))):
            with tarfile.open(archive) as packed:
                packed.extractall(Path(folder) / str(number), filter="data")
        yield sorted(path for path in Path(folder).rglob("*.*js") if _is_wanted(path))


def _is_wanted(path: Path) -> bool:
    """Whether it is a file of some size as somebody wrote it."""
    return path.is_file() and ".min." not in path.name and path.stat().st_size < _LARGEST
