"""Random scripts with functions that ask tables again and again, and the move that names what they ask for."""

from __future__ import annotations

import random

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.name_part import NamePart
from tests.support.scripts import changed_outcome


def write_askings(seed: int) -> str:
    """The script of a seed: a table of tables, a place that changes, and functions that ask for what is there."""
    return _Writer(random.Random(seed)).text()


def with_names(text: str) -> str:
    """`same`, `refused`, or `different: …`."""
    return changed_outcome(text, lambda program: perform(program, NamePart(program.main.path, "rooms")))


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.is_odd = self.rarely(0.3)
        self.names: list[str] = []

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def text(self) -> str:
        lines = ["rooms = {"]
        lines += [
            f"    '{k}': {{'n': {self.chance.randint(0, 5)}, 'to': '{to}', 'things': [1]}},"
            for k, to in ("ab", "bc", "ca")
        ]
        lines += ["}", "where = 'a'", "seen = 0", ""]
        for number in range(3):
            lines += ["", *self.function(f"f{number}"), ""]
        for _ in range(5):
            name = self.chance.choice(self.names)
            given = self.chance.choice(["'a'", "'b'", "where", "'x'" if self.rarely(0.3) else "'c'"])
            lines += [
                "try:",
                f"    print({name}({given}), where)",
                "except KeyError as error:",
                "    print('no', error, seen)",
            ]
        return "\n".join([*lines, "print(rooms, where, seen)"]) + "\n"

    def function(self, name: str) -> list[str]:
        self.key = self.chance.choice(["where", "where", "key"])
        shared = ["seen"] if self.rarely(0.4) else []
        shared += ["where"] if self.key == "where" and self.rarely(0.5) else []
        self.may_go = "where" in shared or self.key == "key"
        lines = [f"def {name}(key):"]
        lines += [f"    global {', '.join(shared)}"] if shared else []
        lines += ["    seen += 1"] if "seen" in shared else []
        for _ in range(self.chance.randint(2, 5)):
            lines += [f"    {line}" for line in self.statement(0)]
        self.names.append(name)
        return [*lines, f"    return rooms[{self.key}]['n']"]

    def statement(self, depth: int) -> list[str]:
        part = f"rooms[{self.key}]"
        choices = [
            [f"print({part}['n'], {part}['things'])"],
            [f"{part}['n'] += 1"],
            [f"{part}['things'].append({part}['n'])"],
            [f"print(key if len(key) > 3 else {part}['to'])"],
            [f"print(len(key) > 3 and {part}['to'])"],
            [f"print([{part}['n'] for _ in range(2)])"],
            [f"{self.key} = {part}['to']"] if self.may_go and self.rarely(0.5) else ["print('on')"],
            [f"print({self.chance.choice(self.names)}(key), {part}['n'])"] if self.names else ["print(seen)"],
        ]
        if self.is_odd:
            choices += [
                [f"{part} = {{'n': 1, 'to': 'a', 'things': []}}"],
                ["rooms.pop('c', 0)"],
                ["print(list(rooms))"],
                [f"room = {part}"],
            ]
        if depth < 2:
            inner = [f"    {line}" for line in self.statement(depth + 1)]
            other = [f"    {line}" for line in self.statement(depth + 1)]
            choices += [
                [f"if {part}['n'] > 2:", *inner, "else:", *other],
                [f"if len(key) > 3 or {part}['n'] > 2:", *inner],
                [f"for thing in {part}['things'][:2]:", *inner],
                ["for step in range(2):", *inner, *other],
                ["try:", *inner, "except KeyError:", *other],
                [f"if '{self.chance.choice('xa')}' in rooms:", *inner],
                [f"while {part}['n'] < 3:", f"    {part}['n'] += 1", *inner]
                if "+= 1" in inner[0]
                else ["print('end')"],
            ]
        return self.chance.choice(choices)
