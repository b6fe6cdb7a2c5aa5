"""Random scripts of JavaScript with classes set up by hand: functions that make objects, and methods hung on them.

Each runs to its end and says what became of everything. Some do what only such functions can: they are called without
`new`, used above all that is hung on them, walked over by name, replaced, or their methods are handed on.
"""

from __future__ import annotations

import random

_NOUNS = "Kite Lamp Packet Gauge Cart".split()
_FIELDS = "x height load hours".split()
_WORDS = "pull rise fill count turn".split()


class ByHand:
    """Writes one script."""

    def __init__(self, seed: int, *, inherits: bool = False) -> None:
        self.random = chance = random.Random(seed)
        self.end = chance.choice([";", ";", ""])
        self.kinds = chance.sample(_NOUNS, chance.randint(1, 2))
        self.fields = {kind: chance.sample(_FIELDS, chance.randint(1, 3)) for kind in self.kinds}
        self.methods = {kind: chance.sample(_WORDS, chance.randint(1, 3)) for kind in self.kinds}
        self.tricks = chance.random() < 0.4
        self.bases: dict[str, str] = {}
        if inherits:
            self.kinds = chance.sample(_NOUNS, chance.randint(2, 4))
            self.fields = {kind: chance.sample(_FIELDS, chance.randint(1, 3)) for kind in self.kinds}
            self.methods = {kind: chance.sample(_WORDS, chance.randint(1, 3)) for kind in self.kinds}
            for number, kind in enumerate(self.kinds[1:]):
                if chance.random() < 0.8:
                    self.bases[kind] = chance.choice(self.kinds[: number + 1])

    def write(self) -> str:
        """The whole script."""
        chance, end = self.random, self.end
        word = chance.choice(["let", "var"])
        blocks = [f"{word} wind = {chance.randint(1, 4)}{end}\n{word} log = []{end}"]
        parts = [part for kind in self.kinds for part in self.kind(kind)]
        blocks += parts
        blocks.append(f"function note(what) {{\n  log.push(what){end}\n  wind += {chance.randint(0, 2)}{end}\n}}")
        blocks += [self.function(number) for number in range(chance.randint(1, 3))]
        main = self.main()
        at = chance.randint(1, len(blocks)) if self.tricks and chance.random() < 0.4 else len(blocks)
        blocks.insert(at, main)
        return "\n\n".join(blocks) + "\n"

    def kind(self, kind: str) -> list[str]:
        chance, end, fields = self.random, self.end, self.fields[kind]
        begin = "".join(f"  this.{field} = {field}{end}\n" for field in fields)
        if kind in self.bases:
            begin = self.begin(kind, begin)
        more = chance.choice(["", "", f"  note('{kind}'){end}\n", f"  this.made = wind{end}\n"])
        if self.tricks and chance.random() < 0.15:
            more += f"  if (!(this instanceof {kind})) return new {kind}({', '.join(fields)}){end}\n"
        parts = [f"function {kind}({', '.join(fields)}) {{\n{begin}{more}}}"]
        methods = [self.method(kind, name) for name in self.methods[kind]]
        if kind in self.bases:
            parts += [*self.link(kind), *methods]
        else:
            parts += [self.table(kind, methods)] if chance.random() < 0.3 else methods
        if chance.random() < 0.3:
            parts.append(f"{kind}.most = {chance.randint(1, 9)}{end}")
        if self.tricks:
            parts += [each for each, share in self.traps(kind) if chance.random() < share]
        if self.tricks and chance.random() < 0.1:
            chance.shuffle(parts)
        return parts

    def begin(self, kind: str, own: str) -> str:
        """What a function does to a new object, with what that does from which it inherits."""
        chance, end, base = self.random, self.end, self.bases[kind]
        if self.tricks and chance.random() < 0.1:
            return own
        given = "".join(f", {chance.choice([*self.fields[kind], '3'])}" for _ in self.fields[base])
        call = (
            f"  {base}.call(this{given}){end}\n" if chance.random() < 0.8 else f"  {base}.apply(this, arguments){end}\n"
        )
        before = chance.choice(["", "", f"  wind += {chance.randint(0, 2)}{end}\n"])
        if self.tricks and chance.random() < 0.15:
            before += f"  if (wind > 9) return{end}\n"
        return own + before + call if self.tricks and chance.random() < 0.2 else before + call + own

    def link(self, kind: str) -> list[str]:
        """The statements by which it inherits."""
        chance, end, base = self.random, self.end, self.bases[kind]
        if self.tricks and chance.random() < 0.1:
            return [f"{kind}.prototype = new {base}(){end}"]
        if chance.random() < 0.3:
            return [f"Object.setPrototypeOf({kind}.prototype, {base}.prototype){end}"]
        if chance.random() < 0.2:
            more = f"{{\n  constructor: {{ value: {kind}, writable: true }},\n}}"
            return [f"{kind}.prototype = Object.create({base}.prototype, {more}){end}"]
        link = f"{kind}.prototype = Object.create({base}.prototype){end}"
        return [link, f"{kind}.prototype.constructor = {kind}{end}"] if chance.random() < 0.8 else [link]

    def table(self, kind: str, methods: list[str]) -> str:
        """The same methods in one table, which takes the place of what all objects share."""
        chance, entries = self.random, [f"  constructor: {kind}"] if self.random.random() < 0.5 else []
        for name, text in zip(self.methods[kind], methods, strict=True):
            head, _, rest = text.partition(f"{kind}.prototype.{name} = ")
            lines = f"{head}{name}: {rest.rstrip(';')}".splitlines()
            entries.append("\n".join(f"  {line}" for line in lines))
        gap = ",\n" if chance.random() < 0.5 else ",\n\n"
        return f"{kind}.prototype = {{\n{gap.join(entries)}{chance.choice(['', ','])}\n}}{self.end}"

    def traps(self, kind: str) -> list[tuple[str, float]]:
        end, field, method = self.end, self.fields[kind][0], self.methods[kind][0]
        inherited = [
            (f"function print{kind}() {{\n  console.log(new {kind}(1), new {kind}(2).constructor.name){end}\n}}", 0.2),
            (f"{self.bases.get(kind, kind)}.most = {kind}.most || 2{end}", 0.1),
        ]
        return [
            *(inherited if self.bases else []),
            (f"{kind}.prototype.{method} = function () {{ return 7{end} }}{end}", 0.08),
            (f"{kind}.prototype.colour = 'red'{end}", 0.15),
            (f"{kind}.prototype = {{ {method}: function () {{ return 8{end} }} }}{end}", 0.08),
            (f"{kind}.prototype.late = () => wind{end}", 0.1),
            (f"function show{kind}() {{\n  for (const key in new {kind}(1)) console.log(key){end}\n}}", 0.12),
            (f"function hand{kind}() {{\n  const it = new {kind}(2).{method}{end}\n  return typeof it{end}\n}}", 0.1),
            (f"function call{kind}() {{\n  return {kind}.call({{ {field}: 3 }}, 4){end}\n}}", 0.08),
            (f"if (wind > 2) {kind}.prototype.{method} = function () {{ return 9{end} }}{end}", 0.08),
        ]

    def method(self, kind: str, name: str) -> str:
        chance, end, field = self.random, self.end, self.random.choice(self.fields[kind])
        other = chance.choice(self.methods[kind])
        does = [
            f"  this.{field} += by * wind{end}\n  return this{end}\n",
            f"  note(this.{field}){end}\n  return this.{field} + by{end}\n",
            f"  if (by > 0) return this.{other}(by - 2){end}\n  return this.{field}{end}\n",
            f"  const self = this{end}\n  [1, 2].forEach(function (n) {{ self.{field} += n{end} }}){end}\n  return this.{field}{end}\n",
            f"  wind = wind + arguments.length{end}\n  return this instanceof {kind}{end}\n",
        ]
        base = self.bases.get(kind)
        if base is not None:
            inherited = chance.choice(self.methods[base])
            does += [
                f"  return {base}.prototype.{inherited}.call(this, by) || this.{field}{end}\n",
                f"  {base}.prototype.{inherited}.apply(this, arguments){end}\n  return this{end}\n",
                f"  const self = this{end}\n  return [1, 2].map(() => {base}.prototype.{inherited}.call(this, by)).length + self.{field}{end}\n",
                f"  console.log(this instanceof {base}, this instanceof {kind}, '' + this.{field}){end}\n  return by{end}\n",
            ]
        above = chance.choice(["", "", "// what it does\n"])
        return f"{above}{kind}.prototype.{name} = function (by) {{\n{chance.choice(does)}}}{chance.choice([';', ';', self.end])}"

    def use(self, kind: str) -> str:
        chance = self.random
        given = ", ".join(str(chance.randint(0, 9)) for _ in self.fields[kind])
        return f"new {kind}({given})"

    def function(self, number: int) -> str:
        chance, end, kind = self.random, self.end, self.random.choice(self.kinds)
        method = chance.choice(self.methods[kind])
        return (
            f"function step{number}(by) {{\n  const it = {self.use(kind)}{end}\n  const got = it.{method}(by){end}\n"
            f"  console.log('{number}', typeof got, it.{self.fields[kind][0]}, wind){end}\n  return it{end}\n}}"
        )

    def main(self) -> str:
        chance, end = self.random, self.end
        lines = []
        for number in range(chance.randint(1, 3)):
            kind = chance.choice(self.kinds)
            lines.append(f"const thing{number} = {self.use(kind)}{end}")
            lines.append(f"console.log(thing{number}.{chance.choice(self.methods[kind])}({chance.randint(0, 4)})){end}")
        lines += [f"step0({chance.randint(0, 3)}){end}" for _ in range(chance.randint(1, 2))]
        calls = [
            f"typeof {name}{kind} === 'function' && {name}{kind}()"
            for kind in self.kinds
            for name in ("show", "hand", *(["print"] if self.bases else []))
        ]
        lines += [f"console.log({call}){end}" for call in calls] if self.tricks else []
        lines.append(f"console.log(wind, log.length, thing0 instanceof {self.kinds[0]}){end}")
        return "\n".join(lines)


def write_by_hand(seed: int, *, inherits: bool = False) -> str:
    """A random script with classes set up by hand, some of which may inherit from others."""
    return ByHand(seed, inherits=inherits).write()
