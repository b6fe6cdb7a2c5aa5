"""Random scripts in JavaScript that declare, hide and use a few names in all the ways there are."""

from __future__ import annotations

import random

_NAMES = ("a", "b", "c", "d")
_HOISTED = ("v", "w")
_DEEPEST = 4


def write_names(seed: int) -> str:
    """A script; what it does makes no sense, but every name in it means something."""
    return _Writer(random.Random(f"names {seed}")).block(0)


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.lexical: list[set[str]] = [set()]

    def name(self) -> str:
        return self.chance.choice(_HOISTED if self.chance.random() < 0.15 else _NAMES)

    def block(self, depth: int, known: frozenset[str] = frozenset()) -> str:
        self.lexical.append(set(known))
        text = "".join(self.statement(depth) for _ in range(self.chance.randint(1, 4)))
        self.lexical.pop()
        return text

    def fresh(self) -> str:
        """A name that `let` may declare here."""
        free = [name for name in _NAMES if name not in self.lexical[-1]]
        name = self.chance.choice(free) if free else f"x{self.chance.randrange(10**6)}"
        self.lexical[-1].add(name)
        return name

    def statement(self, depth: int) -> str:
        plain = [self.declared, self.hoisted, self.assigned, self.used, self.taken_apart]
        deep = [self.function, self.closure, self.loop, self.walk, self.guarded, self.choice, self.klass, self.braces]
        chosen = self.chance.choice(plain if depth >= _DEEPEST else plain + deep)
        return chosen(depth)

    def value(self, depth: int = _DEEPEST) -> str:
        one, other = self.name(), self.name()
        choices = [one, f"{one}.{other}", f"{one}[{other}]", f"{one}({other}, ...{one})", f"`t${{{one}}}`", f"{one}++"]
        choices += [f"{{{one}, q: {other}}}", f"({one} = {other})", f"typeof {one}", f"({one}) => {other}"]
        choices += [f"async ({one} = {other}) => {one}", f"function {one}() {{ {other}; return arguments; }}"]
        choices += [f"class {one} {{ {other}() {{ {one}; }} }}", f"{one} ?? {other}", f"new {one}({other})"]
        return self.chance.choice([*choices, f"{{ {one}() {{ {other}; }}, [{other}]: {one} }}"])

    def declared(self, _depth: int) -> str:
        name = self.fresh()
        kind = self.chance.choice(["let", "const", "let"])
        return f"{kind} {name} = {self.value()};\n"

    def hoisted(self, _depth: int) -> str:
        name = self.chance.choice(_HOISTED)
        return self.chance.choice(
            [f"var {name};\n", f"var {name} = {self.value()};\n", f"var [{name}] = {self.name()};\n"]
        )

    def assigned(self, _depth: int) -> str:
        return f"{self.name()} {self.chance.choice(['=', '+=', '||='])} {self.value()};\n"

    def used(self, _depth: int) -> str:
        return f"({self.value()});\n"

    def taken_apart(self, _depth: int) -> str:
        one, other, value = self.name(), self.name(), self.value()
        pattern = self.chance.choice([f"[{one}, {other} = {value}]", f"[{one}.{other}, ...{other}]"])
        return (
            f"{pattern} = {self.name()};\n" if self.chance.random() < 0.5 else f"({{{one}, q: {other}}} = {value});\n"
        )

    def function(self, depth: int) -> str:
        name, one = self.fresh(), self.name()
        default = self.chance.choice(["", f" = {self.value()}"])
        heading = self.chance.choice([f"{one}{default}", f"{{{one}, q = {self.name()}}}", f"...{one}", ""])
        body = self.block(depth + 1, frozenset({one}))
        return f"function {name}({heading}) {{\n{body}}}\n"

    def closure(self, depth: int) -> str:
        name, one = self.fresh(), self.name()
        arrow = self.chance.random() < 0.5
        body = self.block(depth + 1, frozenset({one}))
        made = f"({one}) => {{\n{body}}}" if arrow else f"function ({one}) {{\n{body}}}"
        return f"const {name} = {made};\n" if self.chance.random() < 0.5 else f"let {name}; call({made});\n"

    def loop(self, depth: int) -> str:
        one = self.name()
        return f"for (let {one} = {self.value()}; {one} < 3; {one}++) {{\n{self.block(depth + 1)}}}\n"

    def walk(self, depth: int) -> str:
        one, word = self.name(), self.chance.choice(["of", "in"])
        kind = self.chance.choice(["const ", "let ", ""])
        target = self.chance.choice([one, f"[{one}, {one}2]"]) if kind else one
        return f"for ({kind}{target} {word} {self.name()}2) {{\n{self.block(depth + 1)}}}\n"

    def guarded(self, depth: int) -> str:
        name = self.chance.choice(_NAMES)  # a `var` of the same name inside would be two variables at once
        caught = self.chance.choice(["", f" ({name})", f" ({{{name}}})"])
        inside = self.block(depth + 1, frozenset(_NAMES))
        return f"try {{\n{self.block(depth + 1)}}} catch{caught} {{\n{inside}}} finally {{\n{self.block(depth + 1)}}}\n"

    def choice(self, depth: int) -> str:
        self.lexical.append(set())
        cases = "".join(f"case {self.name()}: {self.statement(depth + 1)}" for _ in range(self.chance.randint(1, 2)))
        self.lexical.pop()
        return f"switch ({self.value()}) {{\n{cases}default: {self.name()};\n}}\n"

    def klass(self, _depth: int) -> str:
        name, one, other = self.fresh(), self.name(), self.name()
        base = self.chance.choice(["", f" extends {self.name()}"])
        members = [f"{one} = {other};", f"{one}({other} = {one}) {{ {name}; return {other}; }}", f"static {{ {one}; }}"]
        members += [f"[{one}]() {{ {other}; }}", f"#p = {one}; get {other}() {{ return this.#p; }}"]
        chosen = self.chance.sample(members, self.chance.randint(1, 3))
        return f"class {name}{base} {{ {' '.join(chosen)} }}\n"

    def braces(self, depth: int) -> str:
        return f"{{\n{self.block(depth + 1)}}}\n"
