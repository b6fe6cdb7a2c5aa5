"""The runners of tests that packages name: what a file of tests has to say to each of them."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from aedifex.languages.javascript.sharing import package_of

_WITH_STAND_INS = """\
/** A test; what stands in for a method meanwhile goes when it is over. */
function test(name, check) {
  const real = [];
  const method = (owner, key, call) => {
    real.push([owner, key, owner[key]]);
    owner[key] = call;
  };
  it(name, async () => {
    try {
      await check({ mock: { method } });
    } finally {
      for (const [owner, key, call] of real.reverse()) owner[key] = call;
    }
  });
}"""
_CONSOLE = "new Console(process.stdout, process.stderr)"


@dataclass(frozen=True)
class TestRunner:
    """A runner of tests; `command` runs those of a file whose path is put behind it.

    `module` is what tests get `names` from, "" where these are there for all; a file is `as_module` where only modules
    can be given them. `before` stands above the tests, and `console` is what prints where the runner puts its own in
    the place of Node's.
    """

    command: str
    module: str = ""
    names: frozenset[str] = frozenset()
    as_module: bool = False
    before: str = _WITH_STAND_INS
    console: str = _CONSOLE

    def taking(self, needed: Mapping[str, set[str]]) -> list[str]:
        """The lines by which a file takes names from modules, and `assert` as a whole."""
        lines = [self._line("assert", "node:assert/strict")]
        taken = {name: f"{{ {', '.join(sorted(found))} }}" for name, found in sorted(needed.items()) if found}
        return [*lines, *(self._line(what, name) for name, what in taken.items())]

    def _line(self, what: str, module: str) -> str:
        return f'import {what} from "{module}";' if self.as_module else f'const {what} = require("{module}");'

    def heading(self, about: str) -> list[str]:
        """What a file begins with: what it is about, and that it is strict where that goes not without saying."""
        return [about, *([""] if self.as_module else ['"use strict";', ""])]


NODE = TestRunner("node --test", "node:test", frozenset({"beforeEach", "test"}), before="", console="")
_NAMED = {
    "jest": TestRunner("npx jest"),
    "mocha": TestRunner("npx mocha", console=""),
    "vitest": TestRunner("npx vitest run", "vitest", frozenset({"beforeEach", "it"}), as_module=True),
}
_WORD = re.compile(rf"(?<![\w-])(?:{'|'.join(_NAMED)})(?![\w-])")


def runner_beside(script: Path) -> TestRunner:
    """The runner that the package of a script tests with, or else has; Node's own where it names none that is known."""
    package = package_of(script)
    said = _WORD.search(str(_table(package, "scripts").get("test", "")))
    needed = [name for key in ("devDependencies", "dependencies") for name in _table(package, key)]
    names: Sequence[str] = [said[0]] if said is not None else needed
    return next((_NAMED[name] for name in names if name in _NAMED), NODE)


def _table(package: Mapping[str, Any], key: str) -> Mapping[str, Any]:
    found = package.get(key)
    return found if isinstance(found, dict) else {}
