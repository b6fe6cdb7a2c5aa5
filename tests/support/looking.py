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

    def ask(self, name: str) -> list[str]:
        """A function that asks in one expression for one row, or for all of a sort."""
        item = self.chance.choice(["spot", "one", "wanted" if self.rarely(0.1) else "row"])
        key = self.chance.choice([*self.names[:1] * 3, *self.names])
        asked = f"{item}[{key!r}]" if self.form == "table" else f"{item}[{self.names.index(key)}]"
        wanted = self.chance.choice(["wanted"] * 5 + ["'ford'", "asked", "str(wanted)", "spots[0]", item])
        sign = self.chance.choice(["=="] * 8 + ["!=", "in"])
        test = f"{asked} {sign} {wanted}" if self.rarely(0.8) else f"{wanted} {sign} {asked}"
        test += " and asked" if self.rarely(0.1) else ""
        given = item if self.rarely(0.9) else asked
        each = f"{given} for {item} in spots if {test}"
        nothing = self.chance.choice(["None"] * 6 + ["4"])
        ways = [f"next(({each}), {nothing})"] * 3 + [f"[{each}]"] * 3
        ways += [f"[{each}][0]", f"len([{each}])", f"list({each})", f"next({each})", f"sum(1 for _ in [{each}])"]
        lines = [f"def {name}(wanted):", "    global asked", *self.local(), "    asked += 1", "    try:"]
        way = self.chance.choice(ways)
        lines += [f"        found = {way}", "        print(found)"] if self.rarely(0.5) else [f"        return {way}"]
        lines += ["    except (IndexError, StopIteration, TypeError, RuntimeError) as error:"]
        return [
            *lines,
            "        return type(error)",
            "    return found" if "found = " in lines[5] else "    return 3",
            "",
            "",
        ]

    def local(self) -> list[str]:
        return [f"    spots = {self.data()}"] if self.is_local else []

    def write(self) -> str:
        lines = ["import json", "", "asked = 0", *([] if self.is_local else [f"spots = {self.data()}"]), "", ""]
        names = []
        for number in range(self.chance.randint(2, 4)):
            way = self.chance.choice([self.look, self.ask]) if number == 0 or self.rarely(0.6) else self.walk
            names.append(f"{way.__name__}{number}")
            lines += way(names[-1])
        lines += ["for turn in range(3):", "    for word in ('quay', 'ford', 'raft', 4, 'moor'):"]
        for name in names:
            lines.append(f"        print(turn, {name}(word))")
        return "\n".join([*lines, "print(asked)"]) + "\n"


def write_looking(seed: int) -> str:
    """A script with one list, and two to four functions that look something up in it, or show all."""
    return _Looking(seed).write()
