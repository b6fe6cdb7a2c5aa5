"""Random scripts that do the same with each of their copies, now and then with other values, names or order."""

from __future__ import annotations

import random

_SIDES = (("left", "right"), ("red", "blue"), ("1", "2"), ("near", "far"))
_ODD = 0.12


def write_each_in_turn(seed: int) -> str:
    """A script with two copies of one thing, kept apart, and runs of statements that stand once for each of them."""
    return _Writer(random.Random(f"each in turn {seed}")).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.noun = chance.choice(["gull", "buoy", "cart"])
        self.marks = chance.choice(_SIDES)
        self.fields = chance.sample(["x", "speed", "load", "log", "aim"], chance.randint(2, 4))
        if not {"x", "speed", "load"} & set(self.fields):
            self.fields.append("x")
        self.made = 0

    def name(self, number: int, field: str) -> str:
        mark = self.marks[number]
        return f"{self.noun}{mark}_{field}" if mark.isdigit() else f"{mark}_{self.noun}_{field}"

    def local(self, number: int, word: str) -> str:
        mark = self.marks[number]
        return self.chance.choice([f"{word}{mark}", f"{word}_{mark}"]) if mark.isdigit() else f"{mark}_{word}"

    def text(self) -> str:
        numbers = [field for field in self.fields if field != "log"]
        lines = ["count = 0", ""]
        for number in (0, 1):
            for field in self.fields:
                first = "[]" if field == "log" else str(self.chance.randint(-5, 9))
                lines.append(f"{self.name(number, field)} = {first}")
            lines.append("")
        lines += ["", "def seen(value, word=''):", "    print('seen', value, word)", "    return value * 2", "", ""]
        for routine in ("tick", "show")[: self.chance.choice([1, 2])]:
            body = self.body(numbers)
            known = sorted({self.name(n, f) for n in (0, 1) for f in self.fields} - {"log"})
            shared = ", ".join(["count", *(name for name in known if not name.endswith("log"))])
            lines += [f"def {routine}():", f"    global {shared}", *(f"    {line}" for line in body), "", ""]
            self.made += 1
        routines = ("tick", "show")[: self.made]
        loop = [f"    {routine}()" for routine in routines]
        main = [f"    {line}" for line in self.body(numbers)] if self.chance.random() < 0.4 else []
        ends = [f"print({self.name(n, f)})" for n in (0, 1) for f in self.fields]
        return "\n".join([*lines, "for turn in range(3):", *loop, *main, "    count += 1", *ends, "print(count)", ""])

    def body(self, numbers: list[str]) -> list[str]:
        lines: list[str] = []
        for _ in range(self.chance.randint(1, 3)):
            lines += self.pair(numbers)
            if self.chance.random() < 0.5:
                lines += ["", self.chance.choice(["count += 1", "seen(count)", "print('between', count)"]), ""]
        return lines

    def pair(self, numbers: list[str]) -> list[str]:
        """The same statements for each copy, one after the other or with something in between."""
        field, other = self.chance.choice(numbers), self.chance.choice(numbers)
        word = self.chance.choice(["end", "bow", "sum"])
        makers = self.chance.sample(_KINDS, self.chance.randint(1, 3))
        texts = [(self.chance.choice(["'up'", "'down'", "7", "-2"]), self.local(n, word)) for n in (0, 1)]
        runs: list[list[str]] = []
        for number in (0, 1):
            value, local = texts[number]
            if self.chance.random() < _ODD:
                local = word
            run: list[str] = []
            for maker in makers:
                f, o = (self.name(number, field), self.name(number, other))
                if self.chance.random() < _ODD:
                    o = self.name(1 - number, other)
                log = self.name(number, "log") if "log" in self.fields else "seen([])"
                run += maker.format(f=f, o=o, v=value, local=local, log=log).split("\n")
            runs.append([*run, *([f"# of {value}"] if self.chance.random() < _ODD else [])])
        between = self.chance.choice([[], [""], ["count += 1"], ["", "seen('x')", ""]])
        after = [f"print({texts[0][1]}, {texts[1][1]})"] if self.binds(makers) and self.are_bound(runs, texts) else []
        return [*runs[0], *between, *runs[1], *after]

    @staticmethod
    def binds(makers: list[str]) -> bool:
        return any(maker.startswith("{local} =") for maker in makers)

    @staticmethod
    def are_bound(runs: list[list[str]], texts: list[tuple[str, str]]) -> bool:
        return all(
            any(line.startswith(f"{local} =") for line in run) for run, (_, local) in zip(runs, texts, strict=True)
        )


_KINDS = [
    "{f} += {o}",
    "{f} = {o} + 1\n{o} = {f} % 5",
    "{local} = {f} + {o}",
    "{local} = seen({f}, {v})\n{f} = {local} % 7",
    "seen({f} + {o}, {v})",
    "if {f} > 9 or {f} < -9:\n    {f} = -{f}",
    "if {f} > {o}:\n    {f} -= 1\nelse:\n    print('low', {v}, {f})",
    "{log}.append({f}) if {f} > 0 else seen({o})",
    "for step in range(2):\n    {f} += step\n    seen({o}, {v})",
    "print({f}, {o}, {v})",
]
