"""Random scripts whose functions are noted by decorators of their own, and called by what was noted."""

from __future__ import annotations

import random

_NAMES = ("rise", "fall", "send", "load", "rest")
_STATE = "level = 3\nferries = []\n"
_NOTING = (
    "    NOTED[{key}] = function\n",
    "    NOTED[{key}] = (function, {key})\n",
    "    ORDER.append({key})\n    NOTED[{key}] = function\n",
    "    NOTED.setdefault({key}, function)\n",
    "    function.known = True\n    NOTED[{key}] = function\n",
    "    NOTED[{key}] = function\n    print('noted', {key})\n",
)
_CALLING = """
for word in "rise fall load rise send rest none".split():
    if word not in NOTED:
        print("no", word)
        continue
    found = NOTED[word]
    if isinstance(found, tuple):
        found = found[0]
    print(word, found(), level, ferries)
print(list(NOTED), ORDER, level)
"""


def write_registry(seed: int) -> str:
    """A script whose decorators note functions under names, in a table and perhaps a list."""
    chance = random.Random(f"registry {seed}")
    is_called, noting = chance.random() < 0.6, chance.choice(_NOTING)
    lines = [_STATE, "NOTED = {}\nORDER = []\n\n\n", *_decorator(is_called, noting)]
    for name in chance.sample(_NAMES, chance.randint(2, len(_NAMES))):
        if chance.random() < 0.2:
            lines.append(
                chance.choice(["ferries.append(len(NOTED))\n", "print(list(NOTED))\n", "LIMIT = 4\n"]) + "\n\n"
            )
        lines += _function(chance, name, is_called)
    return "".join(lines) + _CALLING


def _decorator(is_called: bool, noting: str) -> list[str]:
    if not is_called:
        return ["def note(function):\n", noting.format(key="function.__name__"), "    return function\n\n\n"]
    inner = "".join(f"    {line}" for line in noting.format(key="name").splitlines(keepends=True))
    return ["def note(name):\n    def noting(function):\n", inner, "        return function\n    return noting\n\n\n"]


def _function(chance: random.Random, name: str, is_called: bool) -> list[str]:
    hooks = [f'@note("{name}")\n'] if is_called else ["@note\n"]
    if is_called and chance.random() < 0.2:
        hooks.append(f'@note("{name} again")\n')
    bodies = (
        "    global level\n    level += 1\n    return 'up'\n",
        "    ferries.append(level)\n    return len(ferries)\n",
        "    return 'plain'\n",
        "    return sorted(ferries)[-2:]\n",
    )
    given = chance.choice(["", "", "by=1", "by=len(NOTED)"])
    return [*hooks, f"def {name}({given}):\n", chance.choice(bodies), "\n\n"]
