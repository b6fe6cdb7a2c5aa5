"""Random scripts whose functions are given lists of the module, mostly always the same."""

from __future__ import annotations

import random

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.spare import Spare
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from tests.support.scripts import changed_outcome


def spared(text: str) -> str:
    """Let functions use the lists that they are always given, and run both: `same N`, or `different: …`."""
    counts: list[int] = []
    end = changed_outcome(text, lambda program: _spared(program, counts))
    return f"{end} {len(counts)}" if end == "same" else end


def _spared(program: Program, counts: list[int]) -> Program:
    for name in ("boats", "carts"):
        try:
            while True:
                program = perform(program, Spare(program.main.path, name))
                counts.append(1)
        except RefusedError:
            continue
    return program


class _Script:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.oddity = self.chance.choice([0.0, 0.3, 1.0])
        self.given: dict[str, list[str]] = {}

    def oddly(self, share: float) -> bool:
        return self.chance.random() < share * self.oddity

    def function(self, name: str) -> list[str]:
        chance = self.chance
        own = chance.choice(["boats", "boats", "fleet", "them"])
        parameters = [own, *chance.sample(["by", "word"], chance.randint(0, 2))]
        if chance.random() < 0.4:
            chance.shuffle(parameters)
        self.given[name] = parameters
        shown = [f"{p}: list" if p == own and self.oddly(0.3) else p for p in parameters]
        lines = [f"def {name}({', '.join(shown)}{', extra=2' if self.oddly(0.2) else ''}):"]
        for _ in range(chance.randint(1, 3)):
            lines += [f"    {line}" for line in self.deed(own, parameters).replace("{l}", own).split("\n")]
        return [*lines, f"    return len({own})", "", ""]

    def deed(self, own: str, parameters: list[str]) -> str:
        chance = self.chance
        plain = ["{l}.append(total)", "print({l}[:3])", "for n in {l}:\n    print(n + 1)", "print([n for n in {l}])"]
        plain += ["{l}[0] += 1", "print((lambda: {l}[-1])())", "def inner():\n    return {l}[0]\nprint(inner())"]
        if earlier := [name for name in self.given if name != list(self.given)[-1]]:
            name = chance.choice(earlier)
            plain += [self.call(name, "{l}")] * 3
        odd = ["{l} = list({l})\n{l}.append(1)", "boats = 3\nprint(boats)", "print({l} is boats)", "print(f'{{l}=}')"]
        odd += ["print([boats for boats in range(2)])", "global boats\nboats = [9]" if own != "boats" else "pass"]
        odd += ["def boats():\n    return {l}\nprint(len(boats()))" if own != "boats" else "pass", "del {l}\n{l} = [1]"]
        text = chance.choice(odd if self.oddly(0.3) else plain)
        return text if "boats" not in text.replace("{l}", "") or own == "boats" or chance.random() < 0.5 else "pass"

    def call(self, name: str, given: str) -> str:
        arguments = []
        for parameter in self.given[name]:
            value = {"by": "2", "word": "'quay'"}.get(parameter, given)
            arguments.append(value)
        if self.oddly(0.15):
            arguments[-1] = f"{self.given[name][-1]}={arguments[-1]}"
        return f"print({name}({', '.join(arguments)}))"

    def write(self) -> str:
        chance = self.chance
        lines = ["total = 5", f"boats = {chance.choice(['[3, 1, 4]', '[total, 2]'])}", "carts = [7]", "", ""]
        for name in ("load", "weigh", "sail", "count")[: chance.randint(1, 4)]:
            lines += self.function(name)
        lines += ["keep = load"] if self.oddly(0.15) else []
        lines += ["boats = [2, 2]"] if self.oddly(0.15) else []
        for name in self.given:
            for _ in range(chance.randint(1, 2)):
                other = chance.choice(["carts", "[6]", "boats[:]", "boats or carts"])
                lines.append(self.call(name, other if self.oddly(0.25) else "boats"))
            lines += [f"print(list(map({name}, [[1]] * 2)))"] if self.oddly(0.1) and self.given[name][1:] == [] else []
        return "\n".join([*lines, "print(boats, carts, total)"]) + "\n"


def write_sparing(seed: int) -> str:
    """A script with one to four functions, each with a list among its parameters."""
    return _Script(seed).write()
