"""Random scripts with lists of rows or tables in which functions look for one, and which they walk over."""

from __future__ import annotations

import random

_ROWS = (("quay", 3, "ferry"), ("lock", 5, "barge"), ("ford", 1, "raft"), ("weir", 4, "ferry"))
_KEYS = ("place", "depth", "boat")


class _Looking:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.form = self.chance.choice(["tuple", "tuple", "list", "table"])
        self.length = self.chance.choice([3, 3, 2])
        self.names = list(_KEYS[: self.length])
        self.is_local = self.rarely(0.3)

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def data(self) -> str:
        rows = [row[: self.length] for row in _ROWS]
        if self.form == "table":
            return repr([dict(zip(self.names, row, strict=True)) for row in rows])
        return repr([list(row) if self.form == "list" else row for row in rows])

    def loop(self) -> tuple[str, list[str]]:
        """How a loop goes over the rows, and how each of their values is asked for in it."""
        if self.form == "table":
            item = self.chance.choice(["spot", "one", "row"])
            return f"for {item} in spots:", [f"{item}[{key!r}]" for key in self.names]
        if self.rarely(0.15):
            return "for row in spots:", [f"row[{number}]" for number in range(self.length)]
        names = [name if self.rarely(0.97) else name[0] for name in self.names]
        return f"for {', '.join(names)} in spots:", names

    def look(self, name: str) -> list[str]:
        head, values = self.loop()
        key, other = self.chance.sample(values, 2)
        sign = self.chance.choice(["==", "==", "==", "==", "!="]) if key == values[0] else "=="
        asked = f"{key} {sign} wanted" if self.rarely(0.8) else f"wanted {sign} {key}"
        leave = self.chance.choice(
            [
                f"return {other}",
                f"print({other})\n            break",
                f"found = {other}",
                f"asked += 2\n            print({other})",
            ]
        )
        lines = [f"def {name}(wanted):", "    global asked", *self.local()]
        lines += ["    asked += 1"] if self.rarely(0.5) else []
        lines += ["    found = None"] if self.rarely(0.5) or leave == f"found = {other}" else []
        lines += [f"    {head}", f"        if {asked}:", f"            {leave}"]
        if self.rarely(0.15):
            lines += ["        asked += 1"]
        ends = ["None", "asked", *(["found"] * 3 if "    found = None" in lines else [])]
        return [*lines, f"    return {self.chance.choice(ends)}", "", ""]

    def walk(self, name: str) -> list[str]:
        head, values = self.loop()
        said = self.chance.choice([", ".join(values), f"{values[0]}, len(spots)", f"'{{}}'.format({values[-1]})"])
        lines = [f"def {name}(wanted):", *self.local(), f"    {head}", f"        print({said})"]
        if self.rarely(0.2):
            lines += [f"        {values[1]} += 1" if self.form != "tuple" or "row" not in head else "        pass"]
        if self.rarely(0.1):
            lines += ["    spots.append(spots[0])"]
        if self.rarely(0.1):
            lines += ["    print(spots[-1])"]
        if self.rarely(0.3):
            lines += ["    print(json.dumps(spots))"]
        if self.rarely(0.1) and self.form == "table":
            lines += [f"    spots[0].update({{{self.chance.choice(self.names)!r}: 'ford'}})"]
        if self.rarely(0.1) and self.form == "table":
            lines += ["    for key in ('place', 'depth'):", "        spots[1][key] = 'weir'"]
        return [*lines, "", ""]

    def local(self) -> list[str]:
        return [f"    spots = {self.data()}"] if self.is_local else []

    def write(self) -> str:
        lines = ["import json", "", "asked = 0", *([] if self.is_local else [f"spots = {self.data()}"]), "", ""]
        names = []
        for number in range(self.chance.randint(2, 4)):
            names.append(f"look{number}" if number == 0 or self.rarely(0.5) else f"walk{number}")
            lines += self.look(names[-1]) if names[-1].startswith("look") else self.walk(names[-1])
        lines += ["for turn in range(3):", "    for word in ('quay', 'ford', 'raft', 4, 'moor'):"]
        for name in names:
            lines.append(f"        print(turn, {name}(word))")
        return "\n".join([*lines, "print(asked)"]) + "\n"


def write_looking(seed: int) -> str:
    """A script with one list, and two to four functions that look something up in it, or show all."""
    return _Looking(seed).write()
