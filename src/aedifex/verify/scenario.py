"""A scenario: the scripted outside world of one run, and its file (`*.scenario.toml`)."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from aedifex.source.errors import DesignError, Place, UnreadableError

FORMAT = 1
_KEYS = ("format", "seed", "arguments", "lines")


@dataclass(frozen=True)
class Scenario:
    """What the outside world does in one run.

    `arguments` stand on the command line, `lines` are typed on standard input, `seed` sets every random generator.
    """

    name: str = "empty"
    seed: int = 0
    arguments: tuple[str, ...] = ()
    lines: tuple[str, ...] = ()


def read(path: Path) -> Scenario:
    """Read a scenario file.

    Raises:
        UnreadableError: there is no such file, or it is not TOML.
        DesignError: it says something that no scenario can say.
    """
    import tomllib

    try:
        document = tomllib.loads(path.read_text(encoding="utf-8"))
    except FileNotFoundError:
        raise UnreadableError("there is no such file", Place(path), "Check the path.") from None
    except (OSError, UnicodeDecodeError) as error:
        raise UnreadableError(f"cannot be read: {error}", Place(path)) from None
    except tomllib.TOMLDecodeError as error:
        raise UnreadableError(f"is not valid TOML: {error}", Place(path), "Mend that line.") from None
    return _scenario(path, document)


def _scenario(path: Path, document: Mapping[str, Any]) -> Scenario:
    for key in document:
        if key not in _KEYS:
            known = ", ".join(f"`{name}`" for name in _KEYS)
            raise DesignError(f"a scenario has no key `{key}`", Place(path), f"Known here: {known}.")
    if document.get("format") != FORMAT:
        raise DesignError(f"needs format = {FORMAT}", Place(path), f"Write format = {FORMAT} at the top.")
    seed = document.get("seed", 0)
    if not isinstance(seed, int):
        raise DesignError("`seed` must be a whole number", Place(path), "Write seed = 7, say.")
    return Scenario(
        path.name.removesuffix(".toml").removesuffix(".scenario"),
        seed,
        _texts(path, document, "arguments"),
        _texts(path, document, "lines"),
    )


def _texts(path: Path, document: Mapping[str, Any], key: str) -> tuple[str, ...]:
    value = document.get(key, [])
    if not isinstance(value, list) or not all(isinstance(item, str) for item in value):
        raise DesignError(f"`{key}` must be a list of texts", Place(path), f'Write {key} = ["…", "…"].')
    return tuple(value)
