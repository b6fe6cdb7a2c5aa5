"""What a journal does to the disk, one operation at a time, so that a test can stop it before each."""

from __future__ import annotations

import contextlib
import os
import shutil
from pathlib import Path


class Disk:
    """The file operations of a journal. Each is one that a crash can only come before or behind, but for `write`."""

    def make_folder(self, path: Path) -> None:
        """Make a folder if it is not there."""
        path.mkdir(exist_ok=True)

    def write(self, path: Path, data: bytes, like: Path | None = None) -> None:
        """Write a file that is not there, or only left over, and wait until it is on the disk.

        It gets the permissions, and as far as that is allowed the owner, of `like`.
        """
        with contextlib.suppress(FileNotFoundError):
            path.unlink()
        with open(path, "xb") as file:
            file.write(data)
            if like is not None:
                self._resemble(path, like)
            file.flush()
            os.fsync(file.fileno())

    def _resemble(self, path: Path, like: Path) -> None:
        about = os.stat(like)
        mine = os.stat(path)
        if (about.st_uid, about.st_gid) != (mine.st_uid, mine.st_gid):
            with contextlib.suppress(OSError):
                os.chown(path, about.st_uid, about.st_gid)
        shutil.copymode(like, path)

    def keep(self, path: Path, saved: Path) -> None:
        """Give what is in a file a second name, or copy it where the disk knows no second names."""
        with contextlib.suppress(FileNotFoundError):
            saved.unlink()
        try:
            os.link(path, saved)
        except OSError:
            shutil.copy2(path, saved)

    def rename(self, source: Path, target: Path) -> None:
        """Give a file or folder another name, in place of what has it."""
        os.replace(source, target)

    def remove(self, path: Path) -> None:
        """Remove a file; one that is gone is no mistake."""
        with contextlib.suppress(FileNotFoundError):
            path.unlink()

    def remove_folder(self, path: Path) -> None:
        """Remove an empty folder; one that is not empty, or gone, stays as it is."""
        with contextlib.suppress(OSError):
            path.rmdir()

    def sync(self, folder: Path) -> None:
        """Wait until the names in a folder are on the disk, where the system can tell."""
        with contextlib.suppress(OSError):
            handle = os.open(folder, os.O_RDONLY)
            try:
                os.fsync(handle)
            finally:
                os.close(handle)
