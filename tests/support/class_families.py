"""Random scripts with classes that come from one another and use variables of the script, in Python and JavaScript.

They set up objects by what they inherit, early or late, override one another's methods, call these while an object is
set up, make objects of one another, and ask what an object is. Some do what nothing can be handed over for: a base that
is set up under a condition, or twice, not at all, with fewer values, or that calls what the heir has changed.
"""

from __future__ import annotations

import random
from textwrap import indent

_NOUNS = "Vessel Barge Tug Ketch Punt".split()
_FIELDS = "load rope depth crew".split()
_WORDS = "haul drift sink count".split()


class Family:
    """Writes one script, in either language."""

    def __init__(self, seed: int, *, is_python: bool) -> None:
        self.random = chance = random.Random(seed)
        self.is_python = is_python
        self.names = chance.sample(_NOUNS, chance.randint(2, 4))
        self.bases = {
            n: chance.choice(self.names[:i]) for i, n in enumerate(self.names) if i and chance.random() < 0.85
        }
        self.fields = {name: chance.sample(_FIELDS, chance.randint(1, 2)) for name in self.names}
        self.has_own = {name: name not in self.bases or chance.random() < 0.7 for name in self.names}
        self.tricks = chance.random() < 0.4
        self.own = "self" if is_python else "this"

    # -- the languages

    def body(self, head: str, lines: list[str]) -> str:
        inside = indent("\n".join(lines or (["pass"] if self.is_python else [])), "    " if self.is_python else "  ")
        return f"{head}:\n{inside}" if self.is_python else f"{head} {{\n{inside}\n}}"

    def line(self, text: str) -> str:
        return text if self.is_python else f"{text};"

    def making(self, name: str, given: str) -> str:
        return f"{name}({given})" if self.is_python else f"new {name}({given})"

    def method(self, name: str, parameters: str, lines: list[str], shared: list[str]) -> str:
        constructor = "__init__" if self.is_python else "constructor"
        called = constructor if name == "" else name
        if self.is_python:
            used = [f"global {', '.join(shared)}"] if shared else []
            return self.body(f"def {called}(self{', ' if parameters else ''}{parameters})", used + lines)
        return self.body(f"{called}({parameters})", lines)

    def function(self, head: str, lines: list[str]) -> str:
        if self.is_python:
            return self.body(f"def {head}", ["global total", *lines])
        return self.body(f"function {head}", lines)

    def tells(self, what: str) -> str:
        return self.line(f"print({what})" if self.is_python else f"console.log({what})")

    def is_a(self, thing: str, name: str) -> str:
        return f"isinstance({thing}, {name})" if self.is_python else f"{thing} instanceof {name}"

    def adds(self, container: str, value: str) -> str:
        return self.line(f"{container}.append({value})" if self.is_python else f"{container}.push({value})")

    def when(self, condition: str, line: str) -> str:
        return f"if {condition}:\n    {line}" if self.is_python else f"if ({condition}) {{\n  {line}\n}}"

    # -- the script

    def write(self) -> str:
        chance = self.random
        word = "" if self.is_python else chance.choice(["let ", "let ", "var "])
        parts = [
            self.line(f"{word}total = {chance.randint(0, 3)}"),
            self.line(f"{word}limit = {chance.randint(2, 6)}"),
            self.line(f"{word}log = []"),
        ]
        classes = [self.a_class(name) for name in self.names]
        parts = [*classes, *parts] if chance.random() < 0.3 else [*parts, *classes]
        parts.append(self.function("note(what)", [self.adds("log", "what"), self.line("total += 1")]))
        for number in range(chance.randint(1, 2)):
            parts.append(self.function(f"step{number}(by)", self.deeds("by")))
        main = [f"thing{n}" for n in range(chance.randint(1, 3))]
        declared = "" if self.is_python else "const "
        lines = [self.line(f"{declared}{name} = {self.new()}") for name in main]
        for name in main:
            lines += [self.tells(f"{name}.haul({chance.randint(0, 5)}), total, limit"), self.line("step0(2)")]
        lines.append(self.tells("total, log, " + ", ".join(self.is_a(main[0], name) for name in self.names)))
        return "\n\n".join([*parts, "\n".join(lines)]) + "\n"

    def given(self, name: str) -> list[str]:
        """The parameters by which an object of a class is made."""
        while not self.has_own[name]:
            name = self.bases[name]
        return self.fields[name]

    def new(self, name: str = "") -> str:
        name = name or self.random.choice(self.names)
        return self.making(name, ", ".join(str(self.random.randint(0, 4)) for _ in self.given(name)))

    def a_class(self, name: str) -> str:
        base = self.bases.get(name)
        if self.is_python:
            head = f"class {name}({base})" if base else f"class {name}"
        else:
            head = f"class {name} extends {base}" if base else f"class {name}"
        members = [self.constructor(name)] if self.has_own[name] else []
        words = self.random.sample(_WORDS, self.random.randint(1, 3))
        words = list(dict.fromkeys(["haul", *words])) if base is None else words
        members += [self.a_method(name, word) for word in words]
        return self.body(head, ["\n\n".join(members)])

    def constructor(self, name: str) -> str:
        chance, base, own = self.random, self.bases.get(name), self.own
        sets = [self.line(f"{own}.{field} = {field}") for field in self.fields[name]]
        more = chance.choice([[], [], [self.line("total += 1")], [self.line(f"note({own}.{self.fields[name][0]})")]])
        if chance.random() < 0.2 and base is None:
            more = [*more, self.line(f"{own}.haul(1)")]
        if base is None:
            return self.method("", ", ".join(self.fields[name]), [*sets, *more], ["total"])
        values = [chance.choice([*self.fields[name], "2"]) for _ in self.given(base)]
        if self.tricks and chance.random() < 0.1:
            values = values[:-1]
        call = f"super().__init__({', '.join(values)})" if self.is_python else f"super({', '.join(values)})"
        if self.is_python and chance.random() < 0.2:
            call = f"{base}.__init__({', '.join(['self', *values])})"
        begin = [self.line(call)]
        if self.tricks and chance.random() < 0.15:
            begin = [self.when("total >= 0", begin[0])]
        if self.is_python and self.tricks and chance.random() < 0.3:
            begin = chance.choice([[], begin * 2, [self.line("self.haul(1)"), *begin], [*sets, *begin]])
        before = [self.line("total += limit")] if chance.random() < 0.2 else []
        return self.method("", ", ".join(self.fields[name]), [*before, *begin, *sets, *more], ["total"])

    def a_method(self, name: str, word: str) -> str:
        return self.method(word, "by", [*self.deeds("by", name), self.line("return by")], ["total", "limit"])

    def deeds(self, given: str, name: str = "") -> list[str]:
        """What a method does, or a function."""
        chance, own = self.random, self.own
        field = f"{own}.{self.fields[name][0]}" if name else "total"
        ways = [
            [self.line(f"total += {given}")],
            [self.adds("log", field)],
            [self.line(f"note({given} + limit)")],
            [self.when(f"{given} > 3", self.line(f"{self.making_one()}.haul({given} - 3)"))],
            [self.tells(f"total, log, {given}")],
        ]
        if name:
            base = self.bases.get(name)
            ways.append([self.line(f"{field} += limit"), self.line("limit += 1")])
            ways.append([self.when(self.is_a(own, chance.choice(self.names)), self.line("total += 2"))])
            if base is not None:
                above = "super()" if self.is_python else "super"
                ways.append([self.when(f"{given} > 0", self.line(f"{above}.haul({given} - 1)"))])
        return [line for way in chance.sample(ways, chance.randint(1, 2)) for line in way]

    def making_one(self) -> str:
        return f"({self.new()})" if not self.is_python else self.new()


def write_family(seed: int, *, is_python: bool) -> str:
    """A random script of either language."""
    return Family(seed, is_python=is_python).write()
