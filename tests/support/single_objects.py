"""Random scripts with classes whose objects stand in variables of the main code, and functions that use these."""

from __future__ import annotations

import random

_CLASSES = {"Tank": ("level", "limit", "open"), "Bed": ("need", "wet", "name")}
_FIELDS = {"level": "4", "limit": "9", "open": "False", "need": "7", "wet": "2", "name": "'north'"}
_NUMBERS = ("level", "limit", "need", "wet")


def write_single_objects(seed: int) -> str:
    """The script of a seed: one or two objects of each class, and functions about one, about two, or about more."""
    return _Writer(random.Random(seed)).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.objects = {"tank": "Tank", "bed": "Bed"}
        if chance.random() < 0.5:
            self.objects["bed2"] = "Bed"
        if chance.random() < 0.2:
            self.objects["tank2"] = "Tank"
        self.functions: dict[str, int] = {}

    def text(self) -> str:
        lines = ["import random", "random.seed(3)", "rain = 2", "days = 0", ""]
        for name, fields in _CLASSES.items():
            lines += ["", *self.class_of(name, fields), ""]
        late = self.rarely(0.1)
        made = [f"{name} = {kind}()" for name, kind in self.objects.items()]
        lines += made if not late else made[1:]
        lines += ["bed = Bed()"] if self.rarely(0.06) else []
        for number in range(self.chance.randint(3, 6)):
            lines += [
                "",
                "",
                *self.function(f"{self.chance.choice(['fill', 'check', 'dry', 'show', 'move'])}_{number}"),
            ]
        lines += ["", ""]
        lines += [f"print('early', {self.call()})"] if late and self.rarely(0.5) else []
        lines += made[:1] if late else []
        lines += self.main_code()
        return "\n".join(lines) + "\n"

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def class_of(self, name: str, fields: tuple[str, ...]) -> list[str]:
        lines = [f"class {name}:", "    def __init__(self):"]
        lines += [f"        self.{field} = {_FIELDS[field]}" for field in fields]
        if self.rarely(0.3):
            lines += ["", "    def count(self):", f"        return self.{fields[0]} + 1"]
        if self.rarely(0.1):
            lines += ["", "    def compare(self):", f"        return {name.lower()}.{fields[0]} - self.{fields[0]}"]
        if self.rarely(0.1):
            lines += [
                "",
                "    def tell(self):",
                "        return fill_0()" if self.rarely(0.5) else "        return rain",
            ]
        return lines

    def one(self) -> tuple[str, str]:
        """An object, and a field of it that holds a number."""
        name = self.chance.choice(sorted(self.objects))
        fields = [field for field in _CLASSES[self.objects[name]] if field in _NUMBERS]
        return name, self.chance.choice(fields)

    def function(self, name: str) -> list[str]:
        about, field = self.one()
        given = self.chance.choice(["", "", "", "amount", "amount", "thing"])
        if given == "thing":
            about, field = "thing", "level"
        lines = [f"def {name}({given}):"]
        lines += ["    global rain"] if self.rarely(0.15) else []
        if len(lines) > 1:
            lines.append("    rain += 1")
        if self.rarely(0.04):
            lines += [f"    global {about}" if about != "thing" else "    global tank", "    tank = Tank()"][:1]
        for _ in range(self.chance.randint(1, 3)):
            lines += [f"    {line}" for line in self.statement(about, field, given)]
        self.functions[name] = {"": 0, "amount": 1, "thing": 2}[given]
        return [*lines, f"    return {about}.{field}"]

    def statement(self, about: str, field: str, given: str) -> list[str]:
        by = "amount" if given == "amount" else self.chance.choice(["1", "2", "rain", "days", "random.randint(1, 3)"])
        place = f"{about}.{field}"
        other, other_field = self.one()
        return self.chance.choice(
            [
                [f"{place} += {by}"],
                [f"if {place} > {by}:", f"    {place} = 0", "else:", f"    {place} += 1"],
                [f"print('{field}', {place}, {by})"],
                [f"{place} -= {by}", f"if {place} < 0:", f"    {place} = 0", f"    print('empty', {place})"],
                [
                    f"if {place} > 3 and {other}.{other_field} > 0:",
                    f"    {place} -= 1",
                    f"    {other}.{other_field} += 1",
                ],
                [f"for step in range({by} % 3):", f"    {place} += step", f"    print(step, {place})"],
                [f"print([{place} + k for k in range(2)], (lambda: {place})())"],
                [f"{place} = max(0, min({by}, {place}))"],
                [f"if {place} == {by}:", "    return -1"],
                [f"print({self.call()})"] if self.functions and given != "thing" and self.rarely(0.3) else ["pass"],
            ]
        )

    def call(self) -> str:
        """A call of a function that stands above."""
        names = [name for name in self.functions if self.functions[name] < 2] or ["len"]
        name = self.chance.choice(names)
        if name == "len":
            return "len('')"
        return f"{name}({self.chance.randint(0, 4) if self.functions[name] else ''})"

    def main_code(self) -> list[str]:
        about, field = self.one()
        lines = []
        names = [name for name in self.functions if self.functions[name] == 0]
        if names and self.rarely(0.4):
            lines.append(f"steps = [{', '.join(names)}]")
            lines.append(f"table = {{'a': {names[0]}}}")
        lines += ["while days < 4:", "    days += 1"]
        for name, count in self.functions.items():
            given = {0: "", 1: str(self.chance.randint(0, 5)), 2: self.chance.choice(["tank", "tank"])}[count]
            lines.append(f"    print('{name}', {name}({given}))")
        lines += [f"    if {about}.{field} > 5:", f"        {about}.{field} = 1", "        print('over')"]
        if lines[0].startswith("steps"):
            lines += ["    for step in steps:", "        print(step())", "    print(table['a']())"]
        if self.rarely(0.1):
            lines.append(f"    print(steps[0] is {names[0]})" if lines[0].startswith("steps") else "    pass")
        if self.rarely(0.08):
            lines += ["    if days == 2:", "        tank = Tank()"]
        if self.rarely(0.08):
            lines += ["    spare = bed", "    spare.wet += 1"]
        shown = ", ".join(f"{name}.{field}" for name, kind in self.objects.items() for field in _CLASSES[kind])
        return [*lines, f"print({shown})"]
