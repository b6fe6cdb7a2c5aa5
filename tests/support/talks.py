"""Scripts written at random that talk and compute: typed words change what there is, and much is told about it.

Each reads its words from the keyboard until they end, and tells in the end what became of everything.
"""

from __future__ import annotations

import random
import re
import subprocess
import sys
from pathlib import Path

_STATE = {
    "level": "4",
    "waiting": "[3, 1]",
    "crates": "{'tea': 2, 'rope': 5}",
    "paid": "0",
    "open": "False",
    "captain": "None",
    "total": "0.5",
    "log": "[]",
}
_DEEDS = (
    "level += {n}",
    "level = level - 1",
    "level = {n}",
    "waiting.append(level)",
    "waiting.sort()",
    "waiting = [w + 1 for w in waiting]",
    "if waiting:\n    paid += waiting.pop()",
    "if level > {n}:\n    level = 0\n    paid += 1\nelse:\n    level += 2",
    "for w in waiting:\n    total += w * 0.5",
    "crates['tea'] += {n}",
    "crates['rope'] -= 1\nlog.append('rope')",
    "open = not open",
    "captain = None\npaid = 0\nwaiting = []",
    "captain = word\nlevel = {n}",
    "total = total * 2 + level",
    "log.append((word, level))",
    "del waiting[1:]",
    "level, paid = paid, level",
    "rest = level % {n}\nlevel -= rest\npaid += rest",
    "spare = []\nwhile len(waiting) > {n}:\n    spare.append(waiting.pop())\nlog.extend(spare)",
    "price = level * {n}\nif paid > 3:\n    price -= 1\ntotal += price",
    "random.shuffle(waiting)",
    "level += random.randint(0, {n})",
    "waiting.append(int(word) if word.isdigit() else {n})",
)
_WORDS = (
    "print('level', level, waiting)",
    "print(f'{captain!r} has {paid} of {total:.2f}')",
    "print(len(log), end=' ')",
    "for name in crates:\n    print(name, crates[name])",
    "if open:\n    print('open', log[-2:])",
    "if level < {n}:\n    print('low')\n    {leave}",
    "if captain is None:\n    print('nobody')\n    {leave}",
    "if not waiting:\n    {leave}",
    "price = level * {n}\nif paid > 3:\n    price = price - 1\nprice = price * 2\nprint('costs', price)",
    "word = input('which? ') or word\nlevel += len(word)",
    "try:\n    level += int(word)\nexcept ValueError:\n    print('no number', word)",
    "print(sum(waiting) / {n}, max(waiting, default=0))",
    "print(sorted(log, key=lambda entry: str(entry))[:2])",
)
_COMMANDS = ("fill", "in", "pay", "reset", "board", "count", "go", "7")


class _Talk:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.state = self.chance.sample(sorted(_STATE), self.chance.randint(5, len(_STATE)))

    def deeds(self, leave: str, *, may_talk: bool = True) -> list[str]:
        """Some lines of code, in which everything is there that is used."""
        found: list[str] = []
        for _ in range(self.chance.randint(1, 5)):
            kinds = _WORDS if may_talk and self.chance.random() < 0.35 else _DEEDS
            known = [line for line in kinds if self.is_known(line)]
            text = self.chance.choice(known) if known else "level = 1"
            found += text.replace("{n}", str(self.chance.randint(1, 5))).replace("{leave}", leave).split("\n")
        return found

    def is_known(self, text: str) -> bool:
        return all(name in self.state for name in _STATE if _has_word(text, name))

    def function(self, name: str, *, may_talk: bool) -> list[str]:
        body = self.deeds("return", may_talk=may_talk)
        bound = [n for n in self.state if any(_binds(line.strip(), n) for line in body)]
        if bound:
            body.insert(0, f"global {', '.join(bound)}")
        if self.chance.random() < 0.3:
            body.append(f"return {self.chance.choice(self.state)}")
        return [f"def {name}(word):", *(f"    {line}" for line in body), "", ""]

    def write(self) -> str:
        chance = self.chance
        lines = ["import random", "", "random.seed(5)", *(f"{n} = {_STATE[n]}" for n in self.state), "", ""]
        functions = chance.sample(["load", "tell", "land", "sail", "weigh"], chance.randint(0, 4))
        for name in functions:
            lines += self.function(name, may_talk=chance.random() < 0.7)
        lines += ["print('ferry office')", "while True:", "    try:", "        word = input('> ')"]
        lines += ["    except EOFError:", "        break"]
        for number, command in enumerate(chance.sample(_COMMANDS, chance.randint(2, 6))):
            lines.append(f"    {'elif' if number else 'if'} word == {command!r}:")
            inner = self.deeds("continue")
            if functions and chance.random() < 0.5:
                call = f"{chance.choice(functions)}(word)"
                inner.append(call if chance.random() < 0.6 else f"print({call})")
                inner += self.deeds("continue") if chance.random() < 0.5 else []
            lines += [f"        {line}" for line in inner]
        lines += ["    else:", "        print('what is', word)"]
        lines += [f"print({', '.join(self.state)})"]
        return "\n".join(lines) + "\n"


def _has_word(text: str, name: str) -> bool:
    return re.search(rf"\b{name}\b", text) is not None


def _binds(line: str, name: str) -> bool:
    return re.match(rf"([a-z]+, )?{name}(, [a-z]+)? [-+]?= ", line) is not None


def write_talk(seed: int) -> str:
    """A script of functions and a loop over typed words, in which what computes and what tells are mixed."""
    return _Talk(seed).write()


def play_typed(folder: Path, script: str) -> str:
    """Run a script and type words; what it printed, how it ended, and its last word of error."""
    chance = random.Random(8)
    typed = "".join(f"{chance.choice((*_COMMANDS, *_COMMANDS, 'hm', ''))}\n" for _ in range(60))
    command = [sys.executable, "-B", script]
    done = subprocess.run(command, cwd=folder, capture_output=True, text=True, input=typed, check=False, timeout=60)
    last = done.stderr.strip().splitlines()[-1:] if done.returncode else []
    return f"{done.stdout}\n{done.returncode} {last}"
