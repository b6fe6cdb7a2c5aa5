"""The copy of a folder in which a program runs."""

from __future__ import annotations

import contextlib
import os
import shutil
import tempfile
from collections.abc import Iterator, Sequence
from pathlib import Path

from aedifex.source.errors import Place, RunError

_PREFIX = "aedifex-"
_NEVER_NEEDED = (".git", ".hg", ".svn", "node_modules", ".aedifex")
_MOST_COPIED = 200_000_000
_ADVICE = "Put the script and what it needs into a folder of their own."


@contextlib.contextmanager
def copy_of(folders: Sequence[Path], left_out: Sequence[str]) -> Iterator[tuple[Path, Path]]:
    """A temporary folder with copies of folders laid over one another, and a folder for our own files around it.

    `left_out` are the patterns of what is no part of a program of the language.

    Raises:
        RunError: a folder is too large, or cannot be read.
    """
    for folder in folders:
        if size_of(folder, _MOST_COPIED) > _MOST_COPIED:
            reason = f"the script's folder holds more than {_MOST_COPIED // 1_000_000} MB, too much to copy"
            raise RunError(reason, Place(folder), _ADVICE)
    with tempfile.TemporaryDirectory(prefix=_PREFIX) as work:
        copy = Path(os.path.realpath(work)) / "program"
        for folder in folders:
            _lay_over(folder, copy, left_out)
        yield copy, Path(os.path.realpath(work))


def size_of(folder: Path, enough: int) -> int:
    """Bytes in the files below a folder; a little more than `enough` where there are more."""
    size = 0
    for path in folder.rglob("*"):
        with contextlib.suppress(OSError):
            size += path.stat().st_size if path.is_file() and not path.is_symlink() else 0
        if size > enough:
            break
    return size


def _lay_over(folder: Path, copy: Path, left_out: Sequence[str]) -> None:
    patterns = shutil.ignore_patterns(*_NEVER_NEEDED, *left_out)

    def ignored(inside: str, names: list[str]) -> set[str]:
        """Caches, and the copies themselves where the script lies in the folder for temporary files."""
        is_temporary = os.path.realpath(inside) == os.path.realpath(tempfile.gettempdir())
        own = {name for name in names if is_temporary and name.startswith(_PREFIX)}
        return own | patterns(inside, names)

    try:
        shutil.copytree(folder, copy, ignore=ignored, copy_function=_copy_if_there, symlinks=True, dirs_exist_ok=True)
    except OSError as error:
        reason = f"the script's folder cannot be copied: {_first_reason(error)}"
        raise RunError(reason, Place(folder), _ADVICE) from None


def _copy_if_there(source: str, target: str) -> None:
    """Copy a plain file; one that went away in the meantime is none of the program's, nor is a socket or a pipe."""
    if os.path.isfile(source):
        with contextlib.suppress(FileNotFoundError):
            shutil.copy2(source, target)


def _first_reason(error: OSError) -> str:
    """What stood in the way of the first file that could not be copied."""
    if isinstance(error, shutil.Error) and error.args and error.args[0]:
        return f"{error.args[0][0][0]}: {error.args[0][0][2]}"
    return str(error)
