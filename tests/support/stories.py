"""Scripts written at random that decide outside of their objects, use bare numbers, hold long texts, and loop on words.

Each runs to its end and prints what became of everything.
"""

from __future__ import annotations

import random

_FIELDS = {"fuel": "12", "load": "[]", "mode": "'open'", "mate": "None", "height": "3.5", "lives": "3", "x": "40"}
_CONDITIONS = [
    "{o}.fuel < {n}",
    "{o}.fuel >= {n}",
    "{o}.fuel <= 0",
    "0 < {o}.fuel",
    "not {o}.load",
    "len({o}.load) >= {most}",
    "len({o}.load) == 0",
    "{o}.mode == 'open'",
    "{o}.mode != 'shut'",
    "{o}.mate is None",
    "{o}.mate is not None",
    "{o}.lives <= 0 or {o}.fuel < {n}",
    "{o}.fuel >= {n} and {o}.lives >= 2",
    "{o}.x > {n} and not {o}.load",
    "{o}.fuel < amount",
    "'milk' in {o}.load",
]
_DEEDS = [
    "{o}.fuel -= {n}",
    "{o}.fuel = {o}.fuel - 1",
    "{o}.load.append('milk')",
    "{o}.load.clear()",
    "{o}.mode = 'shut'",
    "{o}.mode = 'open'",
    "{o}.lives -= 1",
    "{o}.lives = 3",
    "{o}.x += {n}",
    "{o}.x -= {n}",
    "{o}.height = {o}.height * 0.5 + minutes % 60",
]
_TOTALS = [
    "minutes += 37",
    "minutes += amount",
    "if minutes > 999: minutes = 999",
    "print(minutes // 60, minutes % 60)",
    "print('day', minutes // 1440)",
    "clock += 0.25",
    "heat += 8 * 0.25",
    "heat -= heat * 0.25",
    "if heat > 50: heat = 50",
    "score += 1",
]
_TEXT = '"""\n  quay | {word}\n  ---- +\n{{}} \\\\ü\n"""'


class _Story:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.noun = self.chance.choice(["Ferry", "Kite", "Cart", "Gauge"])
        self.numbers = [str(self.chance.choice([3, 5, 8, 9])) for _ in range(2)]
        self.names = self.chance.sample(["swan", "heron", "crane", "gull"], 2)
        self.fields = ["fuel", *self.chance.sample([f for f in _FIELDS if f != "fuel"], 6)]
        self.most = self.chance.choice(["2", "MOST_LOAD", "3"])

    def filled(self, template: str, thing: str) -> str:
        return template.format(o=thing, n=self.chance.choice(self.numbers), most=self.most)

    def condition(self, thing: str) -> str:
        return self.filled(self.chance.choice(_CONDITIONS), thing)

    def deed(self, thing: str) -> str:
        return self.filled(self.chance.choice(_DEEDS), thing)

    def write(self) -> str:
        chance = self.chance
        lines = ["import random", "", "MOST_LOAD = 2", f"class {self.noun}:", "    def __init__(self, name):"]
        lines += ["        self.name = name", *(f"        self.{f} = {_FIELDS[f]}" for f in self.fields), "", ""]
        lines += [f"{name} = {self.noun}({name!r})" for name in self.names]
        lines += [f"fleet = [{', '.join(self.names)}]", "minutes = 60", "heat = 20.0", "clock = 0.0", "score = 0"]
        if chance.random() < 0.5:
            lines += [f"rules = {_TEXT.format(word='rules')}"]
        lines += ["", *self.function("look", "print({o}.name, {o}.fuel, {o}.load)"), *self.function("work", "")]
        lines += self.world()
        return "\n".join([*lines, *self.loop(), *self.end()]) + "\n"

    def function(self, name: str, first: str) -> list[str]:
        thing = self.chance.choice(["it", self.noun.lower(), "one"])
        lines = [f"def {name}({thing}, amount):", *([f"    {first.format(o=thing)}"] if first else [])]
        for _ in range(self.chance.randint(1, 3)):
            lines += [f"    if {self.condition(thing)}:", f"        {self.deed(thing)}"]
            if self.chance.random() < 0.4:
                lines += [f"    elif {self.condition(thing)}:", f"        print({thing}.name, amount)"]
        if self.chance.random() < 0.4:
            lines.append(f"    return {self.condition(thing)}")
        if self.chance.random() < 0.3:
            lines.insert(1, f"    print({_TEXT.format(word=name)})")
        return [*lines, "", ""]

    def world(self) -> list[str]:
        lines = ["def world(amount):", "    global minutes, heat, clock, score"]
        lines += [f"    {deed}" for deed in self.chance.sample(_TOTALS, 6)]
        return [*lines, ""]

    def loop(self) -> list[str]:
        chance = self.chance
        leaving = ["if word == 'quit':", "    break"]
        words = [chance.choice(["load", "go", "look", "wait", "odd"]) for _ in range(6)]
        lines = [f"for turn, word in enumerate({[*words, 'quit']!r}):", "    amount = turn + 1"]
        lines += [f"    {line}" for line in leaving]
        for number, word in enumerate(["load", "go", "look", "wait"]):
            lines.append(f"    {'elif' if number or chance.random() < 0.8 else 'if'} word == {word!r}:")
            for _ in range(chance.randint(1, 3)):
                thing = chance.choice(self.names)
                lines += [f"        if {self.condition(thing)}:", f"            {self.deed(thing)}"]
            lines += ["        continue"] if chance.random() < 0.3 else []
        lines += ["    else:", "        print('what?', word)", "        continue"]
        lines += ["    # --- the world goes on", "    world(amount)", "    for it in fleet:"]
        lines += ["        look(it, amount)", f"        if {self.condition('it')}:", "            work(it, turn)"]
        return lines

    def end(self) -> list[str]:
        lines = [f"print([one.name for one in fleet if {self.condition('one').replace('amount', 'score')}])"]
        if any(line.startswith("rules") for line in lines) or self.chance.random() < 0.2:
            lines.append(f"print({_TEXT.format(word='end')}, score)")
        state = ", ".join(f"{name}.{field}" for name in self.names for field in self.fields if field != "mate")
        return [*lines, f"print({state})", "print(minutes, round(heat, 3), clock, score)"]


def write_story(seed: int) -> str:
    """A script with one class of several objects, whose fields its functions and its main loop decide upon."""
    return _Story(seed).write()
