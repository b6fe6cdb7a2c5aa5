"""Random scripts with functions that are given the number of an element, and the move that gives them the element."""

from __future__ import annotations

import random

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.point import Point
from aedifex.program.model.program import Program
from aedifex.source.errors import RefusedError
from tests.support.scripts import changed_outcome


def write_numbers(seed: int) -> str:
    """The script of a seed: a list of tables, which may shrink, and functions that reach into it by number."""
    return _Writer(random.Random(seed)).text()


def with_elements(text: str) -> str:
    """`same N`, with how many functions were changed, or `different: …`."""
    counts: list[int] = []
    end = changed_outcome(text, lambda program: _given_elements(program, counts))
    return f"{end} {len(counts)}" if end == "same" else end


def _given_elements(program: Program, counts: list[int]) -> Program:
    while True:
        try:
            program = perform(program, Point(program.main.path, "boats", "boat"))
        except RefusedError:
            return program
        counts.append(1)


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.shrinks = self.rarely(0.25)
        self.names: list[str] = []
        self.given: dict[str, str] = {}

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def text(self) -> str:
        count = self.chance.randint(1, 4)
        lines = ["boats = ["]
        lines += [
            f"    {{'n': {self.chance.randint(0, 9)}, 'load': {self.chance.randint(0, 4)}}}," for _ in range(count)
        ]
        lines += ["]", "total = 0", ""]
        for number in range(self.chance.randint(2, 4)):
            lines += ["", *self.function(f"f{number}"), ""]
        lines += self.main_code()
        return "\n".join(lines) + "\n"

    def function(self, name: str) -> list[str]:
        self.given[name] = self.chance.choice(["i", "i", "i", "i, by", "by, i", "i, by=2" if self.rarely(0.2) else "i"])
        lines = [f"def {name}({self.given[name]}):"]
        lines += ["    global total", "    total += 1"] if self.rarely(0.4) else []
        lines += ['    """What it does."""'] if len(lines) == 1 and self.rarely(0.2) else []
        for _ in range(self.chance.randint(1, 3)):
            lines += [f"    {line}" for line in self.statement("by" if "by" in lines[0] else "1")]
        lines.append(
            "    return i" if self.rarely(0.05) else "    return boats[i]['n']" if self.rarely(0.5) else "    return 3"
        )
        self.names.append(name)
        return lines

    def statement(self, by: str) -> list[str]:
        alike = [name for name in self.names if self.given[name] == "i"]
        call = f"{self.chance.choice(alike)}(i)" if alike else "total"
        return self.chance.choice(
            [
                [f"boats[i]['n'] += {by}"],
                [f"if boats[i]['n'] > {by}:", "    boats[i]['load'] = 0"],
                [f"if {by} > 1:", "    boats[i]['n'] -= 1"],
                ["print(boats[i]['n'], len(boats))"],
                [f"print({by}, boats[i]['load'])"],
                ["try:", "    boats[i]['n'] += 1", "except IndexError:", "    print('none')"],
                ["for step in range(2):", "    boats[i]['load'] += step"],
                ["print([boats[i]['n'] + k for k in range(2)])"],
                [f"print({call})"],
                ["boats.append({'n': 1, 'load': 0})"] if self.rarely(0.1) else ["boats[i]['load'] += 1"],
                ["boats[i] = {'n': 0, 'load': 0}"] if self.rarely(0.1) else ["print(boats[i])"],
                ["boats.pop()"] if self.shrinks and self.rarely(0.4) else ["print('on')"],
                ["i += 0"] if self.rarely(0.1) else ["print(boats[i]['n'] if boats[i]['load'] else 0)"],
                ["print((lambda: boats[i]['n'])())"] if self.rarely(0.15) else [f"boats[i]['n'] = {by}"],
            ]
        )

    def call(self) -> list[str]:
        name = self.chance.choice(self.names)
        number = self.chance.choice(["0", "0", "1" if self.rarely(0.2) else "0", "len(boats) - 1"])
        number = self.chance.choice(["-1", "total % 3", "9"]) if self.rarely(0.1) else number
        given = {"i": number, "i, by": f"{number}, 2", "by, i": f"total, {number}"}.get(self.given[name], number)
        given = f"i={number}" if given == number and self.rarely(0.04) else given
        line = f"print({name}({given}))"
        line_in = f"{name}({given.replace(number, 'i')})"
        return self.chance.choice(
            [
                ["for i in range(len(boats)):", f"    print({line_in})"],
                ["for i in range(len(boats)):", f"    print({line_in})", "    boats.append({'n': 5, 'load': 1})"],
                ["for k, boat in enumerate(boats[:2]):", f"    {line_in.replace('(i', '(k')}"]
                if self.rarely(0.1)
                else ["print(len(boats))"],
                ["try:", f"    {line}", "except (IndexError, TypeError) as error:", "    print(error, total)"],
                ["try:", f"    {line}", "except (IndexError, TypeError) as error:", "    print(error, total)"],
            ]
        )

    def main_code(self) -> list[str]:
        lines = []
        for _ in range(self.chance.randint(2, 5)):
            lines += self.call()
            if self.shrinks and self.rarely(0.3):
                lines.append("del boats[-1:]")
        return [*lines, "print(boats, total)"]
