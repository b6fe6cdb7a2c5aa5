"""Random scripts with copies of one kind of thing, and branches that choose one of them by a number or a word."""

from __future__ import annotations

import random

_KEYS = (("1", "2", "3"), ("0", "1", "2"), ("'a'", "'b'", "'c'"), ("'north'", "'middle'", "'south'"))
_FIELDS = ("lit", "hours", "load")


def write_choices(seed: int) -> str:
    """The script of a seed."""
    return _Writer(random.Random(seed)).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.is_odd = self.rarely(0.3)
        self.count = chance.choice([2, 2, 3])
        self.keys = chance.choice(_KEYS)[: self.count]
        self.fields = chance.sample(_FIELDS, chance.randint(2, 3))
        self.turns = self.rarely(0.4)

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def text(self) -> str:
        lines = ["total = 0", f"turn = {self.chance.choice(self.keys)}", ""]
        named = ["RED, BLUE = 'red', 'blue'", "GREEN = 'green'"] if self.rarely(0.5) else []
        named = named or ["RED = 'red'", "BLUE = 'blue'", "GREEN = 'green'"]
        is_late = self.rarely(0.15)
        lines += [] if is_late else named
        lines += self.beginning()
        lines += named if is_late else []
        functions = [self.function(f"f{number}") for number in range(self.chance.randint(1, 3))]
        for function in functions:
            lines += ["", "", *function]
        lines += ["", "", *self.use([f"f{number}" for number in range(len(functions))])]
        return "\n".join(lines) + "\n"

    def beginning(self) -> list[str]:
        """First values, some of which are worked out, copy by copy or field by field."""
        made = self.chance.sample(self.fields, self.chance.randint(0, 2)) if self.rarely(0.5) else []
        places = [(number, field) for number in range(1, self.count + 1) for field in self.fields]
        if self.rarely(0.3):
            places.sort(key=lambda place: self.fields.index(place[1]))
        same = self.rarely(0.5)
        lines = ["def dealt(most):", "    print('dealt', most)", "    return most - 1", "", ""] if made else []
        for number, field in places:
            most = 3 if same else number
            worked_out = [f"dealt({most})", f"dealt({most})", f"total + {most}", f"len('abc') + {most}", "turn == 1"]
            plain = str(self.chance.randint(0, 4))
            lines.append(f"lamp{number}_{field} = {self.chance.choice(worked_out) if field in made else plain}")
            if self.rarely(0.04):
                lines.append(self.chance.choice(["total += 1", "print('so far')", f"lamp1_{self.fields[0]} += 1"]))
        return lines

    def function(self, name: str) -> list[str]:
        self.subject = self.chance.choice(["which", "which", "turn"])
        shared = [f"lamp{n}_{field}" for n in range(1, self.count + 1) for field in self.fields]
        lines = [f"def {name}(which):", f"    global {', '.join([*shared, 'total', 'turn'])}"]
        if self.rarely(0.3):
            lines.append("    total += 1")
        if self.rarely(0.15):
            lines.append(f"    which = {self.chance.choice([*self.keys, 'which', '[which]'])}")
        lines += [f"    {line}" for line in self.chain()]
        lines.append("    total += 2")
        if self.rarely(0.5):
            lines += [f"    {line}" for line in self.named_alike()]
        if self.turns and self.rarely(0.6):
            lines.append(f"    turn = {self.next_turn()}")
        return lines

    def named_alike(self) -> list[str]:
        """The same for each copy, with a name of a constant that differs."""
        field, other = self.chance.choice(self.fields), self.chance.choice(self.fields)
        ways = [
            [f"if which == %: @_{field} += 1"],
            ["if str(which) < %:", f"    @_{field} -= 2", f"    print(%, @_{other})"],
            [f"print(%, @_{field})", f"@_{other} += len(%)"],
            [f"print(% if @_{field} else 'none')"],
        ]
        lines: list[str] = []
        body = self.chance.choice(ways)
        for at, name in enumerate(("RED", "BLUE", "GREEN")[: self.count]):
            lines += [line.replace("@", f"lamp{at + 1}").replace("%", name) for line in body]
            if self.is_odd and self.rarely(0.1):
                lines.append("total += 1")
        return lines

    def next_turn(self) -> str:
        one, two = self.keys[:2]
        ways = [f"{two} if turn == {one} else {one}", one, two]
        if self.keys[0] == "1":
            ways += ["3 - turn", "turn % 2 + 1"]
        if self.keys[0] == "0":
            ways += ["1 - turn", f"(turn + 1) % {self.count}"]
        return self.chance.choice(ways)

    def chain(self) -> list[str]:
        keys = list(self.keys)
        if self.rarely(0.1):
            keys[0] = "7" if keys[0].isdigit() else "'zz'"
        body = self.body()
        order = list(range(self.count))
        if self.rarely(0.3):
            self.chance.shuffle(order)
        is_apart = self.rarely(0.25)
        last = self.chance.choice(["", "", "copy", "other"]) if not is_apart else ""
        lines: list[str] = []
        if self.rarely(0.2) and not is_apart:
            lines += [f"if {self.subject} == 9:", "    print('nine')"]
        for at in order:
            is_last = at == order[-1] and len(lines) > 0
            word = "if" if is_apart or not lines else "elif"
            sign = "!=" if self.rarely(0.08) else "=="
            lines.append("else:" if is_last and last == "copy" else f"{word} {self.subject} {sign} {keys[at]}:")
            lines += [f"    {line}" for line in self.of_copy(body, at)]
        if last == "other":
            lines += ["else:", f"    {self.chance.choice(['total -= 1', 'return', 'print(which)'])}"]
        return lines

    def body(self) -> list[str]:
        return [self.statement() for _ in range(self.chance.randint(1, 3))]

    def statement(self) -> str:
        field, other = self.chance.choice(self.fields), self.chance.choice(self.fields)
        ways = [
            f"@_{field} += 1",
            f"@_{field} = not @_{field}",
            f"if @_{field} > 2: @_{other} = 0",
            f"print('lamp', @_{field}, @_{other})",
            f"print('lamp #', @_{field})",
            f"@_{field} = @_{other} + which" if self.keys[0].isdigit() else f"@_{field} = total",
            f"total += @_{field}",
            f"@_{field} += ~",
        ]
        if self.is_odd:
            ways += [
                f"print([@_{field} for _ in range(2)])",
                f"print(@_{field}, which)",
                f"{self.subject} = {self.chance.choice(self.keys)}",
                f"return @_{field}",
                f"@_{field} = lamp1_{other}",
                "print('odd')",
                f"turn = {self.next_turn()}",
            ]
        return self.chance.choice(ways)

    def of_copy(self, body: list[str], at: int) -> list[str]:
        name = f"lamp{at + 1}"
        own = self.chance.randint(1, 3)
        lines = [line.replace("@", name).replace("#", str(at + 1)).replace("~", str(own)) for line in body]
        if self.rarely(0.05):
            lines.append(f"print('only {name}')")
        if self.rarely(0.05):
            lines.insert(0, f"# about {name}")
        return lines

    def use(self, names: list[str]) -> list[str]:
        lines: list[str] = []
        given = [*self.keys, *self.keys, "turn", "5"]
        if self.is_odd:
            given += ["1.0", "True", "None", "[1]", "int(2.5)", "str(1)"]
        for _ in range(6):
            name = self.chance.choice(names)
            call = f"print({name}({self.chance.choice(given)}), turn)"
            lines += ["try:", f"    {call}", "except TypeError:", "    print('no')"] if self.is_odd else [call]
        if self.rarely(0.5):
            lines += ["for key in (" + ", ".join(self.keys) + "):", "    f0(key)"]
        if self.rarely(0.3):
            lines += [f"for key in range({self.count + 1}):", "    f0(key)"]
        if self.rarely(0.5):
            lines += [line for n in range(self.count) for line in [f"lamp{n + 1}_{self.fields[0]} += 1"]]
        shown = [f"lamp{n}_{field}" for n in range(1, self.count + 1) for field in self.fields]
        return [*lines, f"print({', '.join(shown)}, total, turn)"]
