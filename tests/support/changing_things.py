"""Scripts written at random in which variables get other objects now and then, some of them made without a key.

Functions work on what such a variable has: some begin anew in the middle, or ask for it once more after something else
did.
"""

from __future__ import annotations

import random
from dataclasses import dataclass, field

_KEYS = ("x", "load", "pace", "rings")
_SPARE = "lamp"


@dataclass
class _Language:
    """How a few things are written."""

    is_python: bool
    lines: list[str] = field(default_factory=list)

    def record(self, values: dict[str, object]) -> str:
        pairs = (f'"{key}": {value}' if self.is_python else f"{key}: {value}" for key, value in values.items())
        return "{" + ", ".join(pairs) + "}" if self.is_python else "{ " + ", ".join(pairs) + " }"

    def part(self, name: str, key: str) -> str:
        return f'{name}["{key}"]' if self.is_python else f"{name}.{key}"

    def spare(self, name: str, key: str) -> str:
        return f'{name}.get("{key}", 0)' if self.is_python else f"({name}.{key} || 0)"

    def function(self, name: str, given: str, body: list[str], rebound: list[str]) -> None:
        indent = "    " if self.is_python else "  "
        shared = [f"global {', '.join(rebound)}"] if rebound and self.is_python else []
        end = [] if self.is_python else ["}"]
        head = f"def {name}({given}):" if self.is_python else f"function {name}({given}) {{"
        self.lines += [head, *(indent + line for line in [*shared, *body]), *end, "", *[""] * self.is_python]

    def when(self, question: str, deed: str) -> list[str]:
        return [f"if {question}:", f"    {deed}"] if self.is_python else [f"if ({question}) {{", f"  {deed}", "}"]

    def says(self, *values: str) -> str:
        return f"{'print' if self.is_python else 'console.log'}({', '.join(values)})"

    def declared(self, name: str, value: str) -> str:
        return f"{name} = {value}" if self.is_python else f"let {name} = {value}"


class _Writer:
    def __init__(self, seed: int, *, is_python: bool) -> None:
        self.chance = random.Random(f"changing {seed}")
        self.to = _Language(is_python)
        self.names = self.chance.sample(["ferry", "kite", "buoy"], self.chance.choice([1, 1, 2]))
        self.keys = {name: self.chance.sample(_KEYS, self.chance.randint(2, 4)) for name in self.names}
        self.is_spare = {name: self.chance.random() < 0.4 for name in self.names}

    def write(self) -> str:
        to, chance = self.to, self.chance
        to.lines += [to.declared(name, self.made(name)) for name in self.names]
        to.lines += [to.declared("turn", "0"), "", *[""] * to.is_python]
        again = [f"{name} = {self.made(name)}" for name in self.names]
        to.function("start_again", "", [*again, to.says('"again"')], self.names)
        to.function("told", "value", [to.says('"told"', "value"), *self.at_times(0.15), "return value"], [])
        calls = [self.deed(number) for number in range(chance.randint(2, 4))]
        body = ["turn += 1", *calls, *self.shown()]
        if chance.random() < 0.7:
            body += to.when(f"turn % {chance.randint(2, 4)} == 0", "start_again()")
        head, end = ("while turn < 7:", []) if to.is_python else ("while (turn < 7) {", ["}"])
        indent = "    " if to.is_python else "  "
        return "\n".join([*to.lines, head, *(indent + line for line in body), *end]) + "\n"

    def made(self, name: str) -> str:
        values: dict[str, object] = {key: self.chance.randint(0, 9) for key in self.keys[name]}
        if self.is_spare[name] and self.chance.random() < 0.5:
            values[_SPARE] = self.chance.randint(1, 5)
        return self.to.record(values)

    def at_times(self, often: float) -> list[str]:
        if self.chance.random() >= often:
            return []
        return self.to.when(f"turn % {self.chance.randint(2, 5)} == 1", "start_again()")

    def deed(self, number: int) -> str:
        """A function about what one of the variables has, and its call."""
        to, chance = self.to, self.chance
        name = chance.choice(self.names)
        verb = chance.choice(["sail", "load", "turn", "lift"])
        deeds = [self.change(name) for _ in range(chance.randint(1, 4))]
        deeds.insert(chance.randint(0, len(deeds)), self.at_times(0.25))
        body = [line for deed in deeds for line in deed]
        rebound = [name] if chance.random() < 0.12 else []
        if rebound:
            body.append(f"{name} = {self.made(name)}")
        is_given = chance.random() < 0.4
        if is_given:
            body.append(f"{to.part(name, self.keys[name][0])} += by")
        function = f"{verb}_{name}_{number}"
        to.function(function, "by" if is_given else "", body, rebound)
        given = chance.choice(["turn % 2", "3", "told(2)"]) if is_given else ""
        return f"{function}({given})"

    def change(self, name: str) -> list[str]:
        to, chance = self.to, self.chance
        one, other = (to.part(name, chance.choice(self.keys[name])) for _ in range(2))
        beside = to.part(*(lambda each: (each, self.keys[each][0]))(chance.choice(self.names)))
        found = [
            [f"{one} += {other} + 1"],
            [f"{one} = {other} % 7"],
            [f"{one} += turn"],
            [f"{one} += told({other})"],
            [f"{one} -= {beside}"],
            to.when(f"{one} > 20", f"{one} = {other} % 5"),
            [to.says(f'"{name}"', one)],
        ]
        if self.is_spare[name]:
            found += [[f"{one} += {to.spare(name, _SPARE)}"], [f"{to.part(name, _SPARE)} = 2"]]
        return chance.choice(found)

    def shown(self) -> list[str]:
        values = [self.to.part(name, key) for name in self.names for key in self.keys[name]]
        return [self.to.says("turn", *values)]


def write_changing(seed: int, *, is_python: bool) -> str:
    """A script of one of the languages."""
    return _Writer(seed, is_python=is_python).write()
