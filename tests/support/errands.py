"""Random scripts whose functions do something with one object and, in some branch, with the program's state."""

from __future__ import annotations

import random

OWN = (
    '{o}["height"] += {n}',
    '{o}["line"] -= {n}',
    'print({o}["name"], {o}["height"])',
    'step = {o}["line"] - {n}\n{o}["height"] += step % 3',
    '{o}["up"] = {o}["height"] > {n}',
    '# a gust\n{o}["line"] += wind % {n}',
)
OTHER = (
    "lost += 1",
    "total += {o}['height']",
    "landed.append({o}['name'])",
    "report({n})",
    'print("of", total, {o}["line"])\ntotal += {n}',
    "if lost > {n}:\n    total = 0",
    "{o}['height'] = total % 7\nlost += 1",
)
ASKED = ('{o}["height"] > {n}', '{o}["line"] < {n}', "{o}['up']", "wind > {n} and {o}['height'] != 2", "not {o}['up']")

SCRIPT = """\
lost = 0
total = 1
landed = []


def make(name, height, line):
    return {{"name": name, "height": height, "line": line, "up": True}}


kites = [make("red", 4, 9), make("blue", 7, 3), make("green", 1, 6)]


def report(number):
    global total
    total += number
    print("report", number, lost, len(landed))


def fly_kite(kite, wind):
{body}

for turn in range(6):
    for kite in kites:
        {call}
    print(turn, lost, total, landed, [kite["height"] for kite in kites])
"""


def write_errand(seed: int) -> str:
    """A script with a function that ends, in one of its branches or not, with what is not the object's matter."""
    chance = random.Random(seed)
    lines = _block(chance, depth=0, can_end=True)
    named = [name for name in ("lost", "total") if any(_sets(line, name) for line in lines)]
    if named:
        lines.insert(0, f"global {', '.join(named)}")
    if chance.random() < 0.15:
        lines.insert(0, '"""Let a kite fly for a while."""')
    call = chance.choice(
        ["fly_kite(kite, turn)", "fly_kite(kite, turn)", "fly_kite(kite, turn + 1)", "fly_kite(kite, 3)"]
    )
    if call.endswith("3)") or call.endswith("1)"):
        call = f"gust = turn + 1\n        {call}" if chance.random() < 0.5 else call
    return SCRIPT.format(body="\n".join(f"    {line}" for line in lines) + "\n", call=call)


def _sets(line: str, name: str) -> bool:
    return line.strip().startswith((f"{name} +=", f"{name} ="))


def _block(chance: random.Random, depth: int, can_end: bool) -> list[str]:
    found = [line for _ in range(chance.randint(depth == 0, 2)) for line in _lines(chance, OWN)]
    if can_end and depth < 3 and chance.random() < 0.8:
        branches = chance.randint(1, 3)
        ending = chance.randrange(branches)
        for number in range(branches):
            head = (
                f"if {_filled(chance, chance.choice(ASKED))}:"
                if number == 0
                else f"elif {_filled(chance, chance.choice(ASKED))}:"
            )
            if number == branches - 1 and number and chance.random() < 0.5:
                head = "else:"
            inner = _block(chance, depth + 1, number == ending) or _lines(chance, OWN)
            if number != ending and chance.random() < 0.2:
                inner = [*inner, "return"]
            found += [head, *(f"    {line}" for line in inner)]
    elif can_end:
        found += [line for _ in range(chance.randint(1, 3)) for line in _lines(chance, (*OTHER, *OTHER, *OWN))]
    if depth == 0 and chance.random() < 0.15:
        found += _lines(chance, (*OWN, *OTHER))
    return found


def _lines(chance: random.Random, known: tuple[str, ...]) -> list[str]:
    return _filled(chance, chance.choice(known)).split("\n")


def _filled(chance: random.Random, text: str) -> str:
    return text.replace("{o}", "kite").replace("{n}", str(chance.randint(1, 6)))
