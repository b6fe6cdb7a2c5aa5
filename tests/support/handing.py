"""Random scripts whose functions hand the same values to one another, or nearly so."""

from __future__ import annotations

import random

_VALUES = {"width": "9", "mark": "'#'", "board": "[[1, 2], [3, 4]]", "sums": "{'a': 1}", "limit": "len('abcd')"}


def write_handing(seed: int) -> str:
    """The script of a seed: a routine that sets one to three values, and functions that are handed them."""
    return _Writer(random.Random(seed)).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.shared = chance.sample(sorted(_VALUES), chance.choice([1, 2, 2, 3]))
        self.functions: list[tuple[str, list[str]]] = []

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def text(self) -> str:
        lines = ["total = 0", ""]
        for number in range(self.chance.randint(3, 6)):
            lines += ["", *self.function(f"{self.chance.choice(['show', 'count', 'line', 'fill'])}_{number}"), ""]
        body = self.body()
        if self.rarely(0.6):
            lines += ["", "def main():", *(f"    {line}" for line in body), "", "", "main()"]
            lines += ["main()"] if self.rarely(0.1) else []
        else:
            lines += ["", *body]
        return "\n".join(lines) + "\n"

    def function(self, name: str) -> list[str]:
        own = [v for v in self.shared if self.rarely(0.85)] or self.shared[:1]
        if self.rarely(0.2):
            self.chance.shuffle(own)
        given = [*own, "n"] if self.rarely(0.8) else ["n", *own]
        head = ", ".join(given) if not self.rarely(0.05) else ", ".join([*given[:-1], f"{given[-1]}=3"])
        lines = [f"def {name}({head}):"]
        lines += ["    global total", "    total += 1"] if self.rarely(0.08) else []
        for _ in range(self.chance.randint(1, 3)):
            lines += [f"    {line}" for line in self.statement(own, name)]
        self.functions.append((name, given))
        return [*lines, f"    return {self.chance.choice(['n', 'n + 1', self.read(own)])}"]

    def read(self, own: list[str]) -> str:
        value = self.chance.choice(own)
        return {
            "width": "width + n",
            "mark": "mark * 2",
            "board": "board[n % 2][0]",
            "sums": "sums['a']",
            "limit": "limit - n",
        }[value]

    def statement(self, own: list[str], name: str) -> list[str]:
        read = self.read(own)
        return self.chance.choice(
            [
                [f"print({read})"],
                [f"print([{read} for n in range(2)], (lambda: {read})())"],
                ["board[n % 2][1] += 1"] if "board" in own else [f"print(n, {read})"],
                ["sums['a'] += n"] if "sums" in own else ["n += 1"],
                [f"n = n + 1 if {read} else n"],
                [f"print(f'{{{own[0]}}}', {read})"],
                [f"print(f'{{{own[0]}=}}')"] if self.rarely(0.1) else [f"print({own[-1]})"],
                [f"{own[0]} = {own[0]}"] if self.rarely(0.1) else ["pass"],
                [f"print({self.call(own)})"] if self.functions and self.rarely(0.7) else [f"print({read})"],
                ["print(sorted(locals()))"] if self.rarely(0.05) else ["print(n)"],
                ["if n < 0:", f"    print({name})"] if self.rarely(0.05) else ["if n > 2:", f"    return {read}"],
            ]
        )

    def call(self, known: list[str]) -> str:
        fit = [f for f in self.functions if set(f[1]) <= {*known, "n"}]
        if not fit:
            return "n" if "n" in known else "0"
        name, given = self.chance.choice(fit)
        number = self.chance.choice(["1", "2", "n"]) if known is not self.shared else str(self.chance.randint(0, 3))
        values = [number if value == "n" else value for value in given]
        if self.rarely(0.04):
            values[-1] = f"{given[-1]}={values[-1]}"
        if self.rarely(0.04):
            values = [_VALUES.get(value, value) for value in values]
        return f"{name}({', '.join(values)})"

    def body(self) -> list[str]:
        lines = [f"{value} = {_VALUES[value]}" for value in self.shared]
        if len(lines) > 1 and self.rarely(0.08):
            lines.insert(len(lines) - 1, f"print({self.call(self.shared[:-1])})")
        for _ in range(self.chance.randint(2, 5)):
            lines.append(f"print({self.call(self.shared)})")
        lines += ["for turn in range(3):", f"    print(turn, {self.call(self.shared)})"]
        lines += (
            [f"{self.shared[0]} = {_VALUES[self.shared[0]]}", f"print({self.call(self.shared)})"]
            if self.rarely(0.06)
            else []
        )
        lines += [f"f = {self.functions[0][0]}", "print(callable(f))"] if self.rarely(0.06) else []
        lines.append(f"print({', '.join(self.shared)})")
        return lines
