"""Scripts written at random in which things move about and meet: conditions about the fields of two of them."""

from __future__ import annotations

import random

_MEETS = (
    "abs({a}x - {b}x) < {n} and abs({a}y - {b}y) < {n}",
    "{a}x == {b}x and {a}y == {b}y",
    "{a}x + {n} > {b}x and {a}x < {b}x + {n} and {a}y + {n} > {b}y and {a}y < {b}y + {n}",
    "{a}x < {b}x",
    "abs({a}x - {b}x) + abs({a}y - {b}y) <= {n}",
    "{b}y <= {a}y <= {b}y + {n} and {a}x > {b}x",
    "abs({b}x - {a}x) < {n} and abs({b}y - {a}y) < {n} and turn > 2",
    "not ({a}x == {b}x and {a}y == {b}y)",
    "{a}x + {n} > {b}x and ({a}y < {b}y or {a}y > {b}y + {n})",
    "(\n    abs({a}x - {b}x) < {n}\n    and abs({a}y - {b}y) < {n}\n)",
    "(\n    abs({a}x - {b}x) < {n}  # near\n    and abs({a}y - {b}y) < {n}\n)",
    "max({a}x, {b}x) < {n} and min({a}y, {b}y) > 1",
)
_DEEDS = (
    "hits += 1",
    "print('met', turn, {a}x, {b}y)",
    "{a}x = {n}",
    "{b}y += 1",
    "hits += 2\n{a}y = 0",
)


class _Script:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.is_listed = self.chance.random() < 0.7
        self.is_table = self.chance.random() < 0.4

    def meeting(self, one: str, other: str, depth: str) -> list[str]:
        chance = self.chance
        pair = (one, other) if chance.random() < 0.6 else (other, one)
        named = {"a": pair[0], "b": pair[1], "n": chance.randint(1, 9)}
        condition = chance.choice(_MEETS)
        deed = chance.choice(_DEEDS)
        lines = f"if {condition}:".format(**named).split("\n")
        lines += [f"    {line}" for line in deed.format(**named).split("\n")]
        if chance.random() < 0.3:
            lines += ["else:", "    print('not met')"]
        return [depth + line for line in lines]

    def log(self, key: str) -> str:
        return f'log["{key}"]' if self.is_table else f"log[{'xyv'.index(key)}]"

    def write(self) -> str:
        chance = self.chance
        lines = [
            "hits = 0",
            "ferry_x = 3",
            "ferry_y = 4",
            "ferry_speed = 1",
            "buoy_x = 6",
            "buoy_y = 5",
            "buoy_lit = 0",
        ]
        rows = [(chance.randint(0, 9), chance.randint(0, 9), chance.choice([-1, 1])) for _ in range(3)]
        made = [f'{{"x": {x}, "y": {y}, "v": {v}}}' if self.is_table else f"[{x}, {y}, {v}]" for x, y, v in rows]
        lines += [f"logs = [{', '.join(made)}]", "", ""]
        lines += ["def drift():", "    global ferry_x, ferry_y, ferry_speed", "    ferry_x += ferry_speed"]
        lines += [
            "    if ferry_x > 9 or ferry_x < 1:",
            "        ferry_speed = -ferry_speed",
            "        ferry_y += 1",
            "",
            "",
        ]
        lines += ["def light():", "    global buoy_lit, buoy_x, buoy_y", "    buoy_lit = 1 - buoy_lit"]
        lines += [
            "    buoy_x -= buoy_lit",
            "    if buoy_x < 0:",
            "        buoy_y = buoy_x + 4",
            "        buoy_x = 8",
            "",
            "",
        ]
        is_apart = chance.random() < 0.5
        if is_apart:
            lines += ["def look(turn):", "    global hits, ferry_x, ferry_y, buoy_x, buoy_y"]
            lines += [*self.meeting("ferry_", "buoy_", "    "), "", ""]
        lines += ["for turn in range(12):", "    drift()", "    light()"]
        lines += ["    look(turn)"] if is_apart else self.meeting("ferry_", "buoy_", "    ")
        lines += ["    for log in logs:", f"        {self.log('x')} += {self.log('v')}"]
        meeting = self.meeting("log.", chance.choice(["ferry_", "buoy_"]), "        ")
        for key in "xy":
            meeting = [line.replace(f"log.{key}", self.log(key)) for line in meeting]
        lines += [line.replace("'", '"') if "f'" in line else line for line in meeting]
        lines += self.meeting("ferry_", "buoy_", "    ") if chance.random() < 0.4 else []
        lines += ["    print(turn, ferry_x, ferry_y, buoy_x, buoy_y, buoy_lit, hits)"]
        return "\n".join(lines) + "\n"


def write_meetings(seed: int) -> str:
    """A script in which a ferry, a buoy and some logs meet."""
    return _Script(seed).write()
