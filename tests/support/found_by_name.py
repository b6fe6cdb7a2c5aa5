"""Random scripts whose functions a runner finds by their names, and a runner that calls them."""

from __future__ import annotations

import random
import subprocess
import sys
from pathlib import Path

_RUNNER = """
import builtins, importlib, sys
sys.path.insert(0, ".")


class Screen:
    kept = []

    def show(self, *things):
        print("shown", *things)

    def later(self, function):
        self.kept.append(function)


builtins.screen = Screen()
script = importlib.import_module({module!r})
for turn in range(4):
    for name, given in (("update", ()), ("draw", ()), ("on_key_down", (turn,)), ("on_mouse_down", ((turn, 2),))):
        hook = getattr(script, name, None)
        if hook is not None:
            try:
                print(name, hook(*given))
            except Exception as error:
                print(name, type(error).__name__, error)
    for _ in range(9):
        if Screen.kept:
            print("late", Screen.kept.pop()())
print(getattr(script, "WIDTH", None), getattr(script, "TITLE", None))
"""
_HOOKS = {"update": "", "draw": "", "on_key_down": "key", "on_mouse_down": "pos, button=1"}


class _Script:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(f"found by name {seed}")
        self.oddity = self.chance.choice([0.0, 0.0, 0.3])
        self.hooks = self.chance.sample(list(_HOOKS), self.chance.randint(1, 4))

    def oddly(self, share: float) -> bool:
        return self.chance.random() < share * self.oddity

    def deed(self, hook: str) -> list[str]:
        plain = ["level += 2", "gulls.append(level)", "screen.show(level, len(gulls))", "rise(3)", "print(level)"]
        plain += ["gulls[:] = [g for g in gulls if g > 1]", "boats.append({'x': level, 'lit': False})"]
        plain += ["for boat in boats:\n        boat['x'] += 1", "for boat in boats:\n        screen.show(boat['x'])"]
        plain += ["if level > 7:\n        return level", "mood = 'calm' if level < 5 else 'wild'", "screen.show(mood)"]
        plain += [f"screen.show({_HOOKS[hook].partition(',')[0] or 'WIDTH'})"]
        others = [other for other in self.hooks if other != hook and not _HOOKS[other]]
        plain += [f"{other}()" for other in others if hook in ("on_key_down", "on_mouse_down")]
        plain += [f"screen.later({other})" for other in others]
        odd = ["yield level", "screen.later(lambda: level)", "print(sorted(globals())[:1])", "print(update.__name__)"]
        return self.chance.choice(odd if self.oddly(0.2) else plain).split("\n")

    def hook(self, name: str) -> list[str]:
        signature = _HOOKS[name].replace("=1", "=level" if self.oddly(0.3) else "=1")
        lines = ["@str"] if self.oddly(0.1) else []
        lines += [f"def {name}({signature}):", "    global level, mood"]
        for _ in range(self.chance.randint(1, 4)):
            lines += [f"    {line}" for line in self.deed(name)]
        lines += ["    return level"] if self.chance.random() < 0.2 else []
        return [*lines, "", ""]

    def write(self) -> str:
        chance = self.chance
        lines = ["WIDTH = 300", "level = 0", "mood = 'calm'", "gulls = [4, 1]", "boats = []"]
        lines += ["TITLE = 'quay'"] if chance.random() < 0.5 else []
        lines += ["TITLE = TITLE + 's'"] if self.oddly(0.2) and "TITLE = 'quay'" in lines else []
        lines += [
            "",
            "",
            "def rise(by):",
            "    global level",
            "    level += by",
            "    screen.show(by)",
            "    return level",
            "",
            "",
        ]
        for name in self.hooks:
            lines += self.hook(name)
            lines += chance.choice(
                [["print('so far', level)", ""], ["for turn in range(2):", "    rise(turn)", ""], []]
            )
        lines += chance.choice(
            [[], ["if __name__ == '__main__':", "    print('begins', level)"], ["screen.show(WIDTH)"]]
        )
        return "\n".join(lines) + "\n"


def write_found_by_name(seed: int) -> str:
    """A script with functions and constants that a game's runner looks for, and state that they share."""
    return _Script(seed).write()


def play_by_name(folder: Path, name: str) -> str:
    """What a script of a folder says while a runner calls its functions."""
    code = _RUNNER.format(module=name.removesuffix(".py"))
    run = subprocess.run([sys.executable, "-c", code], cwd=folder, capture_output=True, text=True, timeout=60)
    return run.stdout + (run.stderr.strip().splitlines() or [""])[-1]
