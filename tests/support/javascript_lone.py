"""Random scripts of JavaScript with objects that are written out once, with what they hold and functions of their own.

Each runs to its end and says what became of everything. Some do what only such objects can: they are shown, walked over,
given away, their functions handed on or replaced.
"""

from __future__ import annotations

import random

_NOUNS = "ferry tide kite gauge locker".split()
_FIELDS = "x height load hours".split()
_VERBS = "rise fill turn haul".split()


class LoneObjectsWriter:
    """Writes one script."""

    def __init__(self, seed: int) -> None:
        self.random = chance = random.Random(seed)
        self.end = chance.choice([";", ";", ""])
        self.comma = chance.choice([",", ""])
        self.names = chance.sample(_NOUNS, chance.randint(1, 3))
        self.fields = {name: chance.sample(_FIELDS, chance.randint(1, 3)) for name in self.names}
        self.methods = {name: chance.sample(_VERBS, chance.randint(1, 3)) for name in self.names}
        self.tricks = chance.random() < 0.4
        self.steps = 0

    def write(self) -> str:
        """The whole script."""
        chance, end = self.random, self.end
        blocks = [f"let wind = {chance.randint(1, 4)}{end}\nconst log = []{end}"]
        blocks += [self.written_out(name) for name in self.names]
        self.steps = chance.randint(0, 2)
        blocks += [self.function(number) for number in range(self.steps)]
        if chance.random() < 0.2:
            chance.shuffle(blocks)
        return "\n\n".join([*blocks, self.main()]) + "\n"

    def written_out(self, name: str) -> str:
        chance = self.random
        members = [f"  {field}: {self.value(name)}" for field in self.fields[name]]
        members += [self.method(name, verb) for verb in self.methods[name]]
        if chance.random() < 0.2:
            members.append(f"  get half() {{\n    return this.{self.fields[name][0]} / 2{self.end}\n  }}")
        if chance.random() < 0.2:
            members.append(f"  late: (by) => wind + by + {name}.{self.fields[name][0]}")
        if chance.random() < 0.2:
            members.append(f"  inner: {{\n    n: 1,\n    up() {{\n      this.n += wind{self.end}\n    }},\n  }}")
        if chance.random() < 0.3:
            chance.shuffle(members)
        told = [("\n" * (chance.random() < 0.2)) + ("  // told\n" * (chance.random() < 0.2)) + each for each in members]
        word = chance.choice(["const", "const", "let", "var"])
        return f"{word} {name} = {{\n" + ",\n".join(told) + f"{self.comma}\n}}{self.end}"

    def value(self, name: str) -> str:
        chance = self.random
        trick = ["wind", "this === undefined ? 1 : 2"] if self.tricks else ["wind"]
        return chance.choice([str(chance.randint(0, 9)), str(chance.randint(0, 9)), *trick])

    def method(self, name: str, verb: str) -> str:
        chance = self.random
        head = chance.choice([f"{verb}(by = 1)", f"{verb}: function (by = 1)", f"{verb}: function {verb}(by = 1)"])
        lines = [self.deed(name, "    ") for _ in range(chance.randint(1, 3))]
        return f"  {head} {{\n" + "\n".join(lines) + f"\n    return by{self.end}\n  }}"

    def deed(self, name: str, margin: str) -> str:
        chance, end = self.random, self.end
        me = chance.choice(["this", "this", name])
        field, other = chance.choice(self.fields[name]), chance.choice(self.names)
        return margin + chance.choice(
            [
                f"{me}.{field} += by + wind{end}",
                f"wind += {me}.{field} % 3{end}",
                f"log.push({me}.{field}){end}",
                f"{other}.{chance.choice(self.fields[other])} -= 1{end}",
                f"log.forEach((one) => {{ {me}.{field} += one % 2{end} }}){end}",
                f"log.forEach(function (one) {{ {name}.{field} += one % 2{end} }}){end}",
                f"if ({me}.{field} > 40) {me}.{field} = 0{end}",
                f"{me}.seen = (({me}.seen) || 0) + 1{end}",
            ]
        )

    def call(self, margin: str) -> str:
        name = self.random.choice(self.names)
        return f"{margin}{name}.{self.random.choice(self.methods[name])}({self.random.choice(['', '2', 'wind'])}){self.end}"

    def function(self, number: int) -> str:
        name = self.random.choice(self.names)
        lines = [self.call("  "), f"  wind += {name}.{self.random.choice(self.fields[name])} % 2{self.end}"]
        return f"function step{number}() {{\n" + "\n".join(lines[: self.random.randint(1, 2)]) + "\n}"

    def trap(self) -> str:
        chance, end, name = self.random, self.end, self.random.choice(self.names)
        verb, field = chance.choice(self.methods[name]), chance.choice(self.fields[name])
        return chance.choice(
            [
                f"console.log({name}){end}",
                f"console.log(JSON.stringify({name}), Object.keys({name}).length){end}",
                f"for (const key in {name}) console.log(key){end}",
                f"console.log([1, 2].map({name}.{verb})){end}",
                f"const taken = {name}.{verb}{end}\ntry {{ console.log(taken(3)){end} }} catch (error) {{ console.log('no') }}",
                f"{name}.{verb} = () => 5{end}\nconsole.log({name}.{verb}()){end}",
                f"console.log({{ ...{name} }}.{field}, '{verb}' in {name}, {name}.hasOwnProperty('{verb}')){end}",
                f"console.log({name}['{field}'], {name}.{verb}.name, typeof {name}.{verb}.prototype){end}",
                f"delete {name}.{field}{end}\nconsole.log({name}.{field}){end}",
                f"console.log({name}.{verb}.call({{ {field}: 3 }})){end}",
                f"console.log(String({name}), {name} == {name}){end}",
                f"console.log(({name}.{verb} || 0)(2)){end}",
            ]
        )

    def main(self) -> str:
        chance = self.random
        lines = [self.call("") for _ in range(chance.randint(1, 4))]
        lines += [f"step{number}(){self.end}" for number in range(self.steps)]
        if self.tricks:
            lines += [self.trap() for _ in range(chance.randint(1, 2))]
        shown = ", ".join(f"{name}.{field}" for name in self.names for field in self.fields[name])
        return "\n".join([*lines, f"console.log({shown}, wind, log.join()){self.end}"])


def write_lone_objects(seed: int) -> str:
    """A script."""
    return LoneObjectsWriter(seed).write()


class _StatesWriter(LoneObjectsWriter):
    """The objects are the state of the script, and its functions do all that is done with them."""

    def __init__(self, seed: int) -> None:
        super().__init__(seed)
        known = dict(zip(self.names, self.random.sample(["state", "game", "ferry"], len(self.names)), strict=True))
        self.fields = {known[name]: fields for name, fields in self.fields.items()}
        self.names = list(known.values())
        self.methods = {name: [f"{name}{verb.title()}" for verb in _VERBS[:2]] for name in self.names}

    def written_out(self, name: str) -> str:
        chance, end = self.random, self.end
        members = [f"{field}: {self.value(name)}" for field in self.fields[name]]
        if chance.random() < 0.5:
            members = [f"\n  {each}" + chance.choice(["", "", " /* of the river */"]) for each in members]
        if self.tricks and chance.random() < 0.2:
            members.append(
                chance.choice(["up() { return 1 }", "...{}", "['far']: 2", "wind", "get half() { return 1 }"])
            )
        object_text = (
            f"{chance.choice(['const', 'const', 'let', 'var'])} {name} = {{ {', '.join(members)} }}{end or ';'}"
        )
        return "\n\n".join([object_text, *(self.deed_of(name, verb) for verb in self.methods[name])])

    def deed_of(self, name: str, verb: str) -> str:
        lines = [self.deed(name, "  ").replace("this.", f"{name}.") for _ in range(self.random.randint(1, 3))]
        return f"function {verb}(by = 1) {{\n" + "\n".join(lines) + f"\n  return by{self.end}\n}}"

    def call(self, margin: str) -> str:
        verb = self.random.choice(self.methods[self.random.choice(self.names)])
        return f"{margin}{verb}({self.random.choice(['', '2', 'wind'])}){self.end}"

    def trap(self) -> str:
        chance, end, name = self.random, self.end, self.random.choice(self.names)
        field = chance.choice(self.fields[name])
        return chance.choice(
            [
                f"console.log(JSON.stringify({name}), Object.keys({name}).length){end}",
                f"for (const key in {name}) console.log(key){end}",
                f"const {{ {field}: taken }} = {name}{end}\nconsole.log(taken){end}",
                f"console.log({name}['{field}'], {name}?.{field}, `${{{name}.{field}}}`){end}",
                f"delete {name}.{field}{end}\nconsole.log({name}.{field}){end}",
                f"{name}.more = 3{end}\nconsole.log({name}.more){end}",
                f"setTimeout(() => console.log({name}.{field}++), 2){end}",
                f"const same = {name}{end}\nsame.{field} += 1{end}",
                f"try {{ {name}.{field}.far.away(){end} }} catch (error) {{ console.log('no') }}",
                f"console.log([{name}.{field}].map((n) => n + {name}.{field})[0]){end}",
            ]
        )


def write_states(seed: int) -> str:
    """A script whose state is in objects that are written out once."""
    return _StatesWriter(seed).write()
