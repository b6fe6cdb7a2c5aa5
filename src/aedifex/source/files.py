"""Writing files so that they are whole or not there at all."""

from __future__ import annotations

import contextlib
import os
import shutil
import tempfile
from collections.abc import Mapping
from pathlib import Path

from aedifex.source.errors import Place, RefusedError


def write_text(path: Path, text: str) -> None:
    """Write a text in UTF-8, replacing what is there.

    Raises:
        RefusedError: it cannot be written there.
    """
    try:
        data = text.encode("utf-8")
    except UnicodeEncodeError:
        raise RefusedError(
            "a file whose name is no text would have to be named in it", Place(path), "Rename that file."
        ) from None
    write_bytes(path, data)


def write_new_text(path: Path, text: str) -> None:
    """Write a text into a file that is not there yet.

    Raises:
        RefusedError: there is such a file, with other text in it, or it cannot be written there.
    """
    if path.is_file() and path.read_bytes() != text.encode("utf-8", "replace"):
        raise RefusedError(
            "this file is there already and may hold your work", Place(path), "Delete it, or name another with -o."
        )
    write_text(path, text)


def make_folder(path: Path) -> None:
    """Make a folder, and those around it, unless it is there.

    Raises:
        RefusedError: it cannot be made there.
    """
    try:
        path.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise RefusedError(
            f"cannot be made: {error.strerror}", Place(path), "Name a folder that you may write to."
        ) from None


def write_folder(target: Path, files: Mapping[Path, bytes], like: Path) -> None:
    """Write files, named relative to `target`, all or none; the file named like `like` gets its permissions.

    Raises:
        RefusedError: one of them is there already, or the folder cannot be written.
    """
    if target.exists() and not target.is_dir():
        raise RefusedError("this is a file, not a folder", Place(target), "Name a folder that does not exist yet.")
    for name in files:
        if (target / name).exists():
            raise RefusedError(
                "this file is there already",
                Place(target / name),
                "Name a folder that does not exist yet, or delete what an earlier build left.",
            )
    try:
        target.parent.mkdir(parents=True, exist_ok=True)
        with tempfile.TemporaryDirectory(prefix=f".{target.name}-", dir=target.parent) as work:
            staged = Path(work) / "new"
            for name, data in files.items():
                path = staged / name
                path.parent.mkdir(parents=True, exist_ok=True)
                path.write_bytes(data)
                if name == Path(like.name):
                    shutil.copymode(like, path)
            _move_in(staged, target, files)
    except OSError as error:
        raise RefusedError(
            f"cannot be written: {error.strerror}", Place(target), "Name a folder that you may write to."
        ) from None


def _move_in(staged: Path, target: Path, files: Mapping[Path, bytes]) -> None:
    if not target.exists():
        staged.chmod(0o755)
        os.replace(staged, target)
        return
    moved: list[Path] = []
    try:
        for name in files:
            (target / name).parent.mkdir(parents=True, exist_ok=True)
            os.replace(staged / name, target / name)
            moved.append(target / name)
    except OSError:
        for path in moved:
            with contextlib.suppress(OSError):
                path.unlink()
        raise


def write_bytes(path: Path, data: bytes) -> None:
    """Write a file, replacing what is there; a pipe or a device is written to, and a link is followed.

    Raises:
        RefusedError: it cannot be written there.
    """
    if path.is_dir():
        raise RefusedError("this is a folder, not a file", Place(path), "Name a file in it.")
    if path.exists() and not path.is_file():
        try:
            path.write_bytes(data)
        except OSError as error:
            raise RefusedError(f"cannot be written: {error.strerror}", Place(path)) from None
        return
    path = Path(os.path.realpath(path)) if path.is_symlink() else path
    try:
        handle, name = tempfile.mkstemp(prefix=f".{path.name}-", dir=path.parent)
    except OSError as error:
        raise RefusedError(
            f"cannot be written: {error.strerror}", Place(path), "Name a file in a folder that you may write to."
        ) from None
    try:
        with os.fdopen(handle, "wb") as file:
            file.write(data)
            file.flush()
            os.fsync(file.fileno())
        os.chmod(name, 0o644)
        os.replace(name, path)
    except OSError as error:
        with contextlib.suppress(OSError):
            os.unlink(name)
        raise RefusedError(f"cannot be written: {error.strerror}", Place(path)) from None
