"""The standard streams where the caller has closed them, or stops reading."""

from __future__ import annotations

import os
import sys
from typing import TextIO


def open_missing_streams() -> bool:
    """Give the standard streams that were closed somewhere to go; answers whether output was among them."""
    is_output_missing = sys.stdout is None
    if sys.stdin is None:
        sys.stdin = open(os.devnull, encoding="utf-8")  # noqa: SIM115
    if sys.stdout is None:
        sys.stdout = open(os.devnull, "w", encoding="utf-8")  # noqa: SIM115
    if sys.stderr is None:
        sys.stderr = open(os.devnull, "w", encoding="utf-8")  # noqa: SIM115
    return is_output_missing


def leave_stream(stream: TextIO) -> None:
    """Let what is still to be written go nowhere, so that the interpreter's end does not try again."""
    nowhere = os.open(os.devnull, os.O_WRONLY)
    try:
        os.dup2(nowhere, stream.fileno())
    except (OSError, ValueError):
        pass
    finally:
        os.close(nowhere)
