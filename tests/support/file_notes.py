"""Random scripts whose functions each open files, to read them or to write to them."""

from __future__ import annotations

import random

_READING = ("{h}.read()", "json.load({h})", "{h}.readlines()", "list({h})", "len({h}.read())")
_WRITING = ("json.dump({v}, {h})", "{h}.write(str({v}))", "json.dump({v}, {h}, indent=1)")


def write_file_notes(seed: int) -> str:
    """The script of a seed."""
    return _Writer(random.Random(seed)).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.is_odd = self.rarely(0.4)
        self.is_named = self.rarely(0.5)
        self.file = "LOANS" if self.is_named else "'loans.json'"
        self.reading = chance.choice(_READING)
        self.writing = chance.choice(_WRITING)

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def text(self) -> str:
        lines = ["import json", "import os"]
        lines += ["LOANS = 'loans.json'"] if self.is_named else []
        lines += ["total = 0", "with open('loans.json', 'w') as out:", "    json.dump([3, 1], out)"]
        names = [f"f{number}" for number in range(self.chance.randint(3, 5))]
        for name in names:
            lines += ["", "", *self.function(name)]
        lines += ["", ""]
        if self.rarely(0.4):
            lines += ["if os.path.exists('loans.json'):", "    print('there')"]
        for _ in range(6):
            call = f"print({self.chance.choice(names)}({self.chance.choice(['4', '[5, 6]', 'total'])}), total)"
            lines += [
                "try:",
                f"    {call}",
                "except (ValueError, TypeError) as error:",
                "    print(type(error).__name__)",
            ]
        if self.is_odd and self.rarely(0.3):
            lines += [f"print(open({self.file}).read())"]
        return "\n".join([*lines, "print(open('loans.json').read())"]) + "\n"

    def function(self, name: str) -> list[str]:
        handle = self.chance.choice(["f", "f", "out", "file"])
        lines = [f"def {name}(given):"]
        if self.rarely(0.4):
            lines += ["    global total", "    total += 1"]
        parts = self.chance.choice([["read"], ["read"], ["write"], ["read", "write"], ["read", "write"], ["back"]])
        for part in parts:
            lines += [f"    {line}" for line in getattr(self, part)(handle)]
        if "back" not in parts:
            lines += [self.chance.choice(["    return given", "    print(name(given))", "    return total"])]
        if self.is_odd and self.rarely(0.2):
            lines.append(f"    print({handle}.closed)")
        return [line.replace("name(given)", "given") for line in lines]

    def opened(self, mode: str) -> str:
        extra = f", '{mode}'" if mode else ""
        encoding = ", encoding='utf-8'" if self.is_odd and self.rarely(0.3) else ""
        return f"open({self.file}{extra}{encoding})"

    def read(self, handle: str) -> list[str]:
        target = self.chance.choice(["given", "given", "loans"])
        lines = [f"with {self.opened('')} as {handle}:", f"    {target} = {self.reading.format(h=handle)}"]
        if self.is_odd and self.rarely(0.3):
            lines.append("    print('open')")
        if self.is_odd and self.rarely(0.2):
            lines.insert(1, "    # what is there")
        return [*lines, f"print({target})"]

    def write(self, handle: str) -> list[str]:
        value = self.chance.choice(["given", "given", "total"]) if self.is_odd else "given"
        return [f"with {self.opened('w')} as {handle}:", f"    {self.writing.format(h=handle, v=value)}"]

    def back(self, handle: str) -> list[str]:
        return [f"with {self.opened('')} as {handle}:", f"    return {self.reading.format(h=handle)}"]
