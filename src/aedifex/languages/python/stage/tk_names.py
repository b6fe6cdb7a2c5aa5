"""The names of the real tkinter, and what is raised where the stand-in does not have one."""

from __future__ import annotations

import functools
import os
import re
import sys


class TclError(Exception):
    """What tkinter raises when something is asked that cannot be."""


class NotCoveredError(BaseException):
    """The program uses something of tkinter that the stand-in does not have."""


@functools.cache
def real_names() -> frozenset[str]:
    """The public methods of the real tkinter, read from its source: those that are missing here are not covered."""
    for folder in sys.path:
        source = os.path.join(folder, "tkinter", "__init__.py")
        if os.path.isfile(source):
            with open(source, encoding="utf-8") as file:
                found = re.findall(r"^    (?:def )?([a-z]\w*)\s*[(=]", file.read(), re.MULTILINE)
            return frozenset(found)
    return frozenset()
