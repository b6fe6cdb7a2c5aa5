"""What a file holds: of regular files only, so that nothing waits for a pipe without end."""

from __future__ import annotations

import stat
import tomllib
from pathlib import Path
from typing import Any

from aedifex.source.errors import Place, UnreadableError


def content_of(path: Path, advice: str = "Check the path.") -> bytes:
    """The bytes of a file; `advice` is what to do where there is none.

    Raises:
        UnreadableError: it is missing, a folder, a pipe or a device, or may not be read.
    """
    try:
        mode = path.stat().st_mode
        if stat.S_ISDIR(mode):
            raise UnreadableError("this is a folder, not a file", Place(path), "Name the file itself.")
        if not stat.S_ISREG(mode):
            raise UnreadableError("this is no regular file", Place(path), "Name a file that is stored on a disk.")
        return path.read_bytes()
    except FileNotFoundError:
        raise UnreadableError("there is no such file", Place(path), advice) from None
    except (OSError, ValueError) as error:
        reason = error.strerror if isinstance(error, OSError) and error.strerror else str(error)
        raise UnreadableError(f"cannot be read: {reason}", Place(path)) from None


def toml_of(path: Path, text: str) -> dict[str, Any]:
    """The document that a TOML text says.

    Raises:
        UnreadableError: it is not TOML, or goes beyond what can be read; with the line where that is known.
    """
    try:
        return tomllib.loads(text)
    except tomllib.TOMLDecodeError as error:
        reason, _, where = str(error).partition(" (at ")
        number = where.removeprefix("line ").partition(",")[0]
        line = int(number) if number.isdigit() else max(1, len(text.splitlines()))
        raise UnreadableError(f"is not valid TOML: {reason}", Place(path, line), "Mend that line.") from None
    except RecursionError:
        raise UnreadableError("is nested too deeply", Place(path), "Write it flatter.") from None
    except ValueError:
        raise UnreadableError("holds a number of too many digits", Place(path), "Shorten it.") from None


def text_of(path: Path, advice: str = "Check the path.") -> str:
    """The text of a file in UTF-8, without a byte order mark.

    Raises:
        UnreadableError: it cannot be read, or is not in UTF-8.
    """
    try:
        return content_of(path, advice).decode("utf-8-sig")
    except UnicodeDecodeError:
        raise UnreadableError("is not a text in UTF-8", Place(path), "Save it as UTF-8.") from None
