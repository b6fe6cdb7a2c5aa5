"""Programs of several files written at random, in which all change the variables of one, and how they end."""

from __future__ import annotations

import random
import tempfile
from collections import Counter
from pathlib import Path

from aedifex.cli.reading import read_program_of
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.source.errors import AedifexError
from tests.support.hazards import play_apart

_STATE = {"minute": "0", "queue": "[]", "open": "True", "level": "3", "names": "{}", "rate": "1.5"}
_NUMBERS = ("minute", "level", "rate")
_DEEDS = (
    "{c}.minute += {n}",
    "{c}.level = {c}.level + {n}",
    "{c}.level -= 1",
    "{c}.queue.append({c}.minute)",
    "{c}.open = not {c}.open",
    "{c}.minute, {c}.level = {c}.level, {c}.minute + 1",
    "{c}.rate *= 2",
    "if {c}.level > {n}:\n    {c}.level = 0\n    print('emptied')",
    "for {c}.minute in range({n}):\n    pass",
    "{c}.names[{c}.minute] = {n}",
    "{c}.queue = [q + {c}.level for q in {c}.queue]",
    "minute = {c}.minute * 2\nprint(minute)",
    "level = [{c}.level]\nlevel.append({n})\n{c}.queue.extend(level)",
    "print(f'{{c}.level} and {{c}.minute:>4}')",
    "print(f'{{c}.level=}')",
    "print(sorted({c}.names), {c}.BIGGEST)",
    "{c}.queue[:] = {c}.queue[-{c}.BIGGEST:]",
    "def inner():\n    {c}.level += 1\n    return {c}.level\nprint(inner())",
    "add = lambda by: {c}.minute + by\nprint(add({n}))",
    "try:\n    {c}.level //= {c}.minute\nexcept ZeroDivisionError as queue:\n    print(queue)",
    "assert {c}.BIGGEST, {c}.queue",
    "print(len({c}.queue), max([*{c}.queue, 0]))",
    "print({c}.half({c}.minute))",
)
_STRANGE = (
    "other = {c}\nother.level += 1",
    "setattr({c}, 'level', {n})",
    "print(vars({c})['level'])",
    "del {c}.rate\n{c}.rate = 2",
    "{c}.fresh = {n}\nprint({c}.fresh)",
    "print({c}.__name__)",
    "class Keeper:\n    level = {c}.level\n    {c}.minute = 7\nprint(Keeper.level)",
    "print({c}.open, open)",
    "import {m} as again\nagain.level += 1",
)
_IMPORTS = ("import {m}", "import {m}", "import {m} as {a}", "from {m} import *\nimport {m}")
_MODULES = ("chairs", "tickets", "weather")


class _Files:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.strange = 0.04 if self.chance.random() < 0.5 else 0.0
        self.config = self.chance.choice(["config", "state", "shared"])
        self.modules = self.chance.sample(_MODULES, self.chance.randint(1, 3))

    def deeds(self, short: str) -> list[str]:
        lines: list[str] = []
        for _ in range(self.chance.randint(1, 4)):
            known = _STRANGE if self.chance.random() < self.strange else _DEEDS
            text = self.chance.choice(known).replace("{c}", short).replace("{n}", str(self.chance.randint(1, 5)))
            lines += text.replace("{m}", self.config).split("\n")
        return lines

    def heading(self) -> tuple[list[str], str]:
        """How a file imports the shared one, and what it calls it."""
        alias = self.chance.choice(["cfg", "c", "settings"])
        text = self.chance.choice(_IMPORTS).replace("{m}", self.config).replace("{a}", alias)
        return text.split("\n"), alias if f"as {alias}" in text else self.config

    def module(self, name: str, others: list[str]) -> str:
        chance = self.chance
        imports, short = self.heading()
        lines = [f'"""All about {name}."""'] if chance.random() < 0.4 else []
        lines += ["import random"] if chance.random() < 0.3 else []
        lines += [*imports, *(f"import {other}" for other in others if chance.random() < 0.4)]
        own = chance.choice(["_last", "count", "level", "minute"])
        lines += ["", f"{own} = {chance.randint(0, 3)}", "STEP = 2" if chance.random() < 0.4 else "", ""]
        if chance.random() < 0.1:
            lines += ["print('read', __name__)" if chance.random() < 0.3 else "print('read')"]
        for function in chance.sample(["step", "tell", f"{name}_done", "half"], chance.randint(1, 3)):
            lines += ["", "", f"def {function}(by=1):"]
            if chance.random() < 0.4:
                lines += [f"    global {own}", f"    {own} += by"]
            lines += [f"    {line}" for line in self.deeds(short)] + [f"    return {own} if by else {short}.level"]
            self.calls.append((name, function))
        if chance.random() < 0.2:
            lines += ["", "", "if __name__ == '__main__':", f"    print({short}.level)"]
        return "\n".join(lines) + "\n"

    def write(self) -> dict[str, str]:
        chance = self.chance
        self.calls: list[tuple[str, str]] = []
        config = ["# what all share", "BIGGEST = 3", *(f"{name} = {value}" for name, value in _STATE.items())]
        config += ["", "", "def half(number):", "    return number / 2"]
        found = {f"{self.config}.py": "\n".join(config) + "\n"}
        for number, name in enumerate(self.modules):
            found[f"{name}.py"] = self.module(name, self.modules[:number])
        imports, short = self.heading()
        lines = ['"""A lift by the harbour."""', "import random", *imports]
        often = Counter(function for _, function in self.calls)
        apart = [name for name in self.modules if all(often[f] == 1 for home, f in self.calls if home == name)]
        direct = {name for name in apart if chance.random() < 0.5}
        for name in self.modules:
            functions = [function for home, function in self.calls if home == name]
            named = f"from {name} import {', '.join(functions)}"
            lines.append(named if name in direct else f"import {name}")
        lines += ["", "random.seed(2)", "count = 0", "", "", "def show():"]
        lines += [f"    print({short}.minute, {short}.level, {short}.queue, {short}.rate, count)", "", ""]
        lines += ["def main():", "    global count", "    for turn in range(4):", "        count += 1"]
        for name, function in chance.sample(self.calls, min(len(self.calls), 4)):
            call = f"{function}({chance.choice(['', 'turn', '0'])})"
            lines.append(f"        print({call if name in direct else f'{name}.{call}'})")
        lines += [f"        {line}" for line in self.deeds(short)]
        lines += ["        show()", "", "", chance.choice(["main()", "if __name__ == '__main__':\n    main()"])]
        found["lift.py"] = "\n".join(lines) + "\n"
        return found


def write_files(seed: int) -> dict[str, str]:
    """The texts of a program's files by name; `lift.py` starts it."""
    return _Files(seed).write()


def outcome_of_files(files: dict[str, str]) -> str:
    """Draft and build a program of several files and run both: `same`, `refused: …`, or `different: …`."""
    with tempfile.TemporaryDirectory() as work:
        before, after = Path(work) / "before", Path(work) / "after"
        for folder in (before, after):
            folder.mkdir()
        for name, text in files.items():
            (before / name).write_text(text)
        program = read_program_of(before / "lift.py")
        try:
            built = build(program, propose(program))
        except AedifexError as error:
            return f"refused: {error}"
        for path, data in new_files(program, built).items():
            (after / path).parent.mkdir(parents=True, exist_ok=True)
            (after / path).write_bytes(data)
        one, two = play_apart(before, "lift.py"), play_apart(after, "lift.py")
        if one == two:
            return "same" if built.program.gone else "same, apart"
        texts = [f"--- {path.name}\n{path.read_text()}" for path in [*before.glob("*.py"), *after.glob("*.py")]]
        return "different:\n" + "\n".join([*texts, "----", one, "----", two])
