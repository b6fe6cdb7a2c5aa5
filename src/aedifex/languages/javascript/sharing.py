"""How files of a JavaScript program share what they have."""

from __future__ import annotations

import json
import re
from collections.abc import Mapping
from contextlib import suppress
from enum import Enum, auto
from pathlib import Path
from typing import Any

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.library.names import OF_NODE
from aedifex.program.model.module import Module

MODULE_SUFFIX = ".mjs"
_SCRIPT_SUFFIX = ".cjs"
_OF_PAGES = ("document", "window")
_MODULE_WORD = re.compile(rb"(?:import|export)\b(?!\s*[.(])")
_PACKAGE = "package.json"


class Sharing(Enum):
    """By `import` and `export`, by `require` and `module.exports`, or by the page that loads all of them."""

    IMPORTS = auto()
    REQUIRES = auto()
    PAGE = auto()


def sharing_of(module: Module) -> Sharing:
    """How a file does: what its name tells, or its text, or what it asks of Node, and the package that it is in."""
    if pages.is_page(module.path):
        return Sharing.PAGE
    if module.path.suffix == MODULE_SUFFIX or any(_is_of_module(module, s.start) for s in module.block.statements):
        return Sharing.IMPORTS
    if module.path.suffix == _SCRIPT_SUFFIX:
        return Sharing.REQUIRES
    asked = module.outside.symbols.keys()
    if asked.isdisjoint(OF_NODE) or not asked.isdisjoint(_OF_PAGES):
        return Sharing.PAGE
    return Sharing.IMPORTS if is_in_module_package(module.path) else Sharing.REQUIRES


def _is_of_module(module: Module, at: int) -> bool:
    return _MODULE_WORD.match(module.source.parse_view, at) is not None


def is_in_module_package(path: Path) -> bool:
    """Whether the nearest package file says that scripts are modules."""
    return package_of(path).get("type") == "module"


def package_of(path: Path) -> Mapping[str, Any]:
    """What the nearest package file says; nothing where there is none that can be read."""
    for folder in path.absolute().parents:
        if (folder / _PACKAGE).is_file():
            with suppress(OSError, ValueError):
                told = json.loads((folder / _PACKAGE).read_bytes())
                return told if isinstance(told, dict) else {}
            return {}
    return {}
