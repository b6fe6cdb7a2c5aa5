"""Scripts written at random in which functions are given one of several lists, in ways that keep it a list or not."""

from __future__ import annotations

import random

_NOUNS = (("pile", "crate"), ("hand", "card"), ("lane", "cart"), ("shelf", "packet"))
_SHOWS = (
    "print(@)",
    "print(len(@), sum(@))",
    "print('many' if @ else 'none')",
    "print(sorted(@)[:2], max(@, default=0))",
    "print(*@)",
    "print(f'{@} {len(@)}')",
    "print(3 in @, @ == [1, 2], @ is None)",
    "print([x + 1 for x in @], @[:2], @[-1:])",
)


class _Script:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(f"handful {seed}")
        self.noun, self.thing = self.chance.choice(_NOUNS)
        self.names = self.chance.choice([["left", "right"], ["red", "blue", "green"], ["first", "second"]])
        self.is_apart = self.chance.random() < 0.25

    def function(self, name: str) -> list[str]:
        noun, thing = self.noun, self.thing
        show = self.chance.choice(_SHOWS).replace("@", noun)
        bodies = [
            [f"{noun}.append({thing})", f"return {thing}"],
            [f"for {thing} in {noun}:", f"    print({thing})", show],
            [f"if len({noun}) > 4:", f"    {noun}.pop(0)", show],
            [f"{noun} += [{thing}, 2]", show],
            [f"{noun} = {noun} + [{thing}]", show],
            [f"total = 0 if not {noun} else {noun}[0]", f"return total + {thing}"],
            [f"del {noun}[2:]", f"{noun}.extend([{thing}] * 2)"],
            [f"other = {noun}", f"other.append({thing})", show],
            [f"other = list({noun})", f"other.append({thing})", "print(other)", show],
            [f"{noun}[:] = [x for x in {noun} if x != {thing}]", show],
            [show, f"return {noun}"],
            [f"kept.append({noun})", show],
            [f"def inner():\n        return {noun} + [{thing}]", "print(inner())"],
            [f"print({noun}, {thing})"],
        ]
        weights = [6, 4, 3, 2, 2, 2, 2, 2, 2, 2, 1, 1, 1, 3]
        order = f"{noun}, {thing}" if self.chance.random() < 0.7 else f"{thing}, {noun}"
        return [f"def {name}({order}):", *(f"    {line}" for line in self.chance.choices(bodies, weights)[0]), "", ""]

    def makings(self) -> list[str]:
        chance, names = self.chance, self.names
        values = [chance.choice(["[]", "[]", "[1, 2]", f"fresh_{self.noun}()", "list(range(3))"]) for _ in names]
        if chance.random() < 0.3:
            return [f"{', '.join(names)} = {', '.join(values)}"]
        if chance.random() < 0.1:
            return [f"{' = '.join(names)} = []"]
        return [f"{name} = {value}" for name, value in zip(names, values, strict=True)]

    def use(self, functions: list[str]) -> list[str]:
        chance, noun = self.chance, self.noun
        name, other, function = chance.choice(self.names), chance.choice(self.names), chance.choice(functions)
        number = str(chance.randint(1, 5))
        ways = [
            [f"{function}({noun}={name}, {self.thing}={number})"],
            [f"print({function}({noun}={name}, {self.thing}={number}))"],
            [f"for {noun} in ({', '.join(self.names)}):", f"    {function}({noun}={noun}, {self.thing}={number})"],
            [f"{name} = []"],
            [f"{name} = {other}"],
            [f"{name} = {other}[:]"],
            [f"{name}, {other} = {other}, {name}"],
            [f"{name}.append({number})", f"print({name}, {other})"],
            [f"print({name} == {other}, {name} is {other}, len({name}))"],
            [f"best = {name} if len({name}) > len({other}) else {other}", "print(best)"],
            [f"best = max({name}, {other}, key=len)", "print(len(best))"],
            [f"{name} += {other}"],
            [f"both = {name} + {other}", "print(both)"],
            [f"{function}({noun}=[{number}], {self.thing}=1)"],
            [f"everything = [{', '.join(self.names)}]", "print(everything)"],
            [f"{self.thing} = {name}.pop() if {name} else 0", f"print({self.thing})"],
            [f"{function}(@, 2)".replace("@", f"random.choice([{name}, {other}])")],
            [f"{noun} = random.choice(({name}, {other}))", f"{noun}.append(8)", f"print({noun})"],
        ]
        weights = [9, 5, 4, 2, 1, 1, 1, 3, 1, 1, 1, 1, 1, 1, 1, 3, 2, 2]
        return chance.choices(ways, weights)[0]

    def write(self) -> str:
        functions = [f"work_{number}" for number in range(self.chance.randint(2, 4))]
        parts = [line for name in functions for line in self.function(name)]
        fresh = [f"def fresh_{self.noun}():", f"    {self.noun} = [4]", f"    return {self.noun}", "", ""]
        run = [*self.makings(), "for turn in range(4):", "    print('turn', turn)"]
        run += [f"    {line}" for _ in range(self.chance.randint(2, 5)) for line in self.use(functions)]
        run += [f"print({', '.join(self.names)})"]
        if self.is_apart:
            run = ["def main():", *(f"    {line}" for line in run), "", "", "main()"]
        return "\n".join(["import random", "", "kept = []", "", "", *fresh, *parts, *run, "print(kept)"]) + "\n"


def write_handfuls(seed: int) -> str:
    """Functions, the lists that they are given, and what else is done with these."""
    return _Script(seed).write()
