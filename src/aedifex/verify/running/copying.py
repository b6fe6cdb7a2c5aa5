"""The copy of a folder in which a program runs."""

from __future__ import annotations

import contextlib
import fnmatch
import os
import shutil
import tempfile
from collections.abc import Collection, Iterator, Sequence
from pathlib import Path

from aedifex.source.errors import Place, RunError

_PREFIX = "aedifex-"
_ABOVE, _PROGRAM = "above", "program"
_NEVER_NEEDED = (".git", ".hg", ".svn", "node_modules", ".aedifex")
_MOST_COPIED = 200_000_000
_ADVICE = "Put the script and what it needs into a folder of their own."


def copy_folders(folders: Sequence[Path], copy: Path, left_out: Sequence[str]) -> None:
    """Lay copies of folders over one another.

    `left_out` are the patterns of what is no part of a program of the language.

    Raises:
        RunError: a folder is too large, or cannot be read.
    """
    patterns = (*_NEVER_NEEDED, *left_out)
    for folder in folders:
        if size_of(folder, _MOST_COPIED, patterns) > _MOST_COPIED:
            reason = f"the script's folder holds more than {_MOST_COPIED // 1_000_000} MB, too much to copy"
            raise RunError(reason, Place(folder), _ADVICE)
    for folder in folders:
        try:
            _lay_over(folder, copy, patterns, (os.path.realpath(folder), str(copy)))
        except OSError as error:
            reason = f"the script's folder cannot be copied: {error.filename or folder}: {error.strerror}"
            raise RunError(reason, Place(folder), _ADVICE) from None


def link_folders(folders: Sequence[Path], copy: Path, names: Sequence[str], above: Sequence[str]) -> None:
    """Let folders of some names be found in a copy: of each the nearest in, or above, the folders that were copied.

    Where files stand above the copy, under some relative names, they find the nearest to the highest of them.
    """
    for ups in {0, _ups(above)}:
        highest = [Path(os.path.normpath(folder.resolve() / ("../" * ups))) for folder in reversed(folders)]
        around = [up for folder in highest for up in (folder, *folder.parents)]
        for name in names:
            found = next((up / name for up in around if (up / name).is_dir()), None)
            place = Path(os.path.normpath(copy / ("../" * ups))) / name
            if found is not None and not place.exists():
                place.symlink_to(found, target_is_directory=True)


def place_for(work: Path, names: Sequence[str]) -> Path:
    """Where a copy stands below a folder so that files above the copy, under some relative names, do so, too."""
    return work.joinpath(*[_ABOVE] * _ups(names), _PROGRAM)


def _ups(names: Sequence[str]) -> int:
    """How many folders further up the highest of some files is."""
    return max((name.count("../") for name in names), default=0)


def copy_from_above(folders: Sequence[Path], copy: Path, names: Sequence[str]) -> None:
    """Let files be found above a copy that are above one of the folders, the last of them first."""
    for name in names:
        found = next((folder / name for folder in reversed(folders) if (folder / name).is_file()), None)
        place = Path(os.path.normpath(copy / name))
        if found is not None and not place.exists():
            place.parent.mkdir(parents=True, exist_ok=True)
            shutil.copyfile(found, place)


def size_of(folder: Path | str, enough: int, patterns: Collection[str] = ()) -> int:
    """Bytes in the files below a folder; a little more than `enough` where there are more."""
    size = 0
    waiting = [os.fspath(folder)]
    while waiting and size <= enough:
        with contextlib.suppress(OSError):
            for entry in _entries(waiting.pop(), patterns):
                if entry.is_dir(follow_symlinks=False):
                    waiting.append(entry.path)
                elif entry.is_file(follow_symlinks=False):
                    size += entry.stat(follow_symlinks=False).st_size
    return size


def _entries(folder: str, patterns: Collection[str]) -> Iterator[os.DirEntry[str]]:
    """What is in a folder, but for what patterns name, and the copies themselves where it is the temporary folder."""
    is_temporary = os.path.realpath(folder) == os.path.realpath(tempfile.gettempdir())
    with os.scandir(folder) as found:
        for entry in found:
            is_own = is_temporary and entry.name.startswith(_PREFIX)
            if not is_own and not any(fnmatch.fnmatchcase(entry.name, pattern) for pattern in patterns):
                yield entry


def _lay_over(folder: Path | str, copy: Path | str, patterns: Collection[str], roots: tuple[str, str]) -> None:
    os.makedirs(copy, exist_ok=True)
    for entry in _entries(os.fspath(folder), patterns):
        target = os.path.join(copy, entry.name)
        if entry.is_dir(follow_symlinks=False):
            _lay_over(entry.path, target, patterns, roots)
            continue
        with contextlib.suppress(FileNotFoundError):
            os.unlink(target)
        if entry.is_symlink():
            os.symlink(_led(entry.path, *roots), target)
        elif entry.is_file():
            with contextlib.suppress(FileNotFoundError):  # it went away meanwhile, so it is none of the program's
                shutil.copy2(entry.path, target)
    shutil.copystat(folder, copy)


def _led(link: str, root: str, copy: str) -> str:
    """Where a link leads in the copy: to the same thing within the folder, or to what lies outside."""
    target = os.readlink(link)
    absolute = os.path.normpath(os.path.join(os.path.realpath(os.path.dirname(link)), target))
    if absolute == root or absolute.startswith(os.path.join(root, "")):
        return target if not os.path.isabs(target) else copy + absolute[len(root) :]
    return absolute
