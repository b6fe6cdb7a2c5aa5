"""Random scripts with one big class whose text has sections."""

from __future__ import annotations

import random
from collections.abc import Iterator

_SECTIONS = ("tide", "ferry", "kites", "rain gauge", "seeds")
_FIELDS = ("level", "count", "mood", "log", "limit")


def write_sections(seed: int) -> str:
    """The script of a seed: fields under headings or not, methods that use their own section and others."""
    return _Writer(random.Random(seed)).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        names = chance.sample(_SECTIONS, chance.randint(3, 5))
        self.sections = {name: self.fields(name) for name in names}
        self.methods: list[tuple[str, str]] = []
        self.is_marked = chance.random() < 0.6

    def fields(self, section: str) -> list[str]:
        word = section.split()[-1]
        chosen = self.chance.sample(_FIELDS, self.chance.randint(1, 3))
        return [self.chance.choice([f"{word}_{name}", f"{word}_{name}", f"_{word}_{name}"]) for name in chosen]

    def text(self) -> str:
        body = list(self.body())
        lines = ["import random", "", "", "LIMIT = 7", "", "", "def twice(value):", "    return value * 2", "", ""]
        lines += ["class Harbour:", *body, "", *self.use()]
        return "\n".join(lines) + "\n"

    def body(self) -> Iterator[str]:
        yield "    def __init__(self, start=2):"
        for section, fields in self.sections.items():
            if self.is_marked:
                yield f"        # {section}"
            for name in fields:
                yield f"        self.{name} = {self.first(name)}"
        if self.chance.random() < 0.2:
            yield "        self.greet_all()"
            self.methods.append(("greet_all", ""))
        rule = self.chance.choice(["# ---- {}", "# {}", "# === {} ===", "#------\n    # {}\n    #------"])
        for section in self.sections:
            yield ""
            yield f"    {rule.format(section)}"
            for number in range(self.chance.randint(1, 3)):
                if number:
                    yield ""
                yield from self.method(section, number)
        if ("greet_all", "") in self.methods:
            yield from ["", "    def greet_all(self):", "        print('harbour', LIMIT)"]

    def first(self, name: str) -> str:
        if name.endswith("log"):
            return "[]"
        return self.chance.choice(["0", "3", "start", "random.randint(1, 9)", "LIMIT", "start + 1"])

    def method(self, section: str, number: int) -> Iterator[str]:
        name = f"{self.chance.choice(['turn', 'check', 'move', 'show'])}_{section.split()[-1]}{number or ''}"
        takes = self.chance.choice(["", "", "by", "by=2"])
        yield f"    def {name}(self{', ' + takes if takes else ''}):"
        known = ["by"] if takes else []
        for _ in range(self.chance.randint(1, 4)):
            yield from (f"        {line}" for line in self.statement(section, known))
        if self.chance.random() < 0.5:
            yield f"        return {self.value(section, known)}"
        self.methods.append((name, takes))

    def statement(self, section: str, known: list[str]) -> list[str]:
        field = self.field(section)
        value = self.value(section, known)
        kind = self.chance.randrange(8)
        if field.endswith("log"):
            return [self.chance.choice([f"self.{field}.append({value})", f"print(self.{field}, {value})"])]
        if kind == 0:
            return [f"if {value} > {self.chance.randint(0, 9)}:", f"    self.{field} += 1"]
        if kind == 1:
            known.append("found")
            return [f"found = {value}"]
        if kind == 2 and self.methods:
            name, takes = self.chance.choice(self.methods)
            return [f"self.{name}({value if takes == 'by' else ''})"]
        if kind == 3:
            return [f"for _ in range({self.chance.randint(1, 3)}):", f"    self.{field} = {value} % 50"]
        if kind == 4:
            return [f"if {value} == 3:", f"    return {self.value(section, known)}"]
        if kind == 5:
            return [f"print('{section}', {value})"]
        return [f"self.{field} = {value} % 50"]

    def value(self, section: str, known: list[str]) -> str:
        field = self.field(section if self.chance.random() < 0.6 else self.chance.choice(list(self.sections)))
        own = f"len(self.{field})" if field.endswith("log") else f"self.{field}"
        return self.chance.choice(
            [own, own, f"{own} + 1", f"{own} * 2", f"{own} - 1", f"twice({own})", f"max({own}, LIMIT)", *known]
        )

    def field(self, section: str) -> str:
        return self.chance.choice(self.sections[section])

    def use(self) -> list[str]:
        count = self.chance.randint(2, 5)
        lines = ["", "random.seed(4)", "harbour = Harbour(1)", f"for turn in range({count}):"]
        for name, takes in self.chance.sample(self.methods, min(4, len(self.methods))):
            given = "turn" if takes == "by" else self.chance.choice(["", "by=turn"]) if takes else ""
            lines.append(f"    print(harbour.{name}({given}))")
        shown = [self.field(section) for section in self.sections]
        if self.chance.random() < 0.5:
            lines.append(f"    harbour.{shown[0]} = {'[]' if shown[0].endswith('log') else 'turn'}")
        return [*lines, *(f"print(harbour.{name})" for name in shown)]
