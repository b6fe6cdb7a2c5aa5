"""Random scripts of JavaScript whose things are objects written out: in lists, by themselves, out of functions.

Each runs to its end and says what became of everything. Some of what they do only plain objects can: be shown whole,
be walked over by key, be spread, be asked by a text.
"""

from __future__ import annotations

import random

_NOUNS = "kite lamp packet gauge cart".split()
_NUMBERS = "x height load hours count size".split()
_TRUTHS = "lit up full".split()
_WORDS = "red blue green tall north".split()


class JavaScriptKinds:
    """Writes one script."""

    def __init__(self, seed: int) -> None:
        self.random = chance = random.Random(seed)
        self.end = chance.choice([";", ";", ""])
        self.noun = chance.choice(_NOUNS)
        self.all = f"{self.noun}s"
        self.numbers = chance.sample(_NUMBERS, chance.randint(1, 3))
        self.truth = chance.choice(_TRUTHS)
        self.keys = ["name", *self.numbers, self.truth]
        chance.shuffle(self.keys)
        self.tricks = chance.random() < 0.4
        self.functions: list[tuple[str, bool]] = []
        self.has_factory = chance.random() < 0.5
        self.has_single = chance.random() < 0.5

    def write(self) -> str:
        """The whole script."""
        chance, end = self.random, self.end
        lines = [f"let turn = 0{end}", f"let total = 0{end}"]
        first = [self.literal() for _ in range(chance.randint(0, 3))]
        lines.append(f"{chance.choice(['const', 'let', 'var'])} {self.all} = [{', '.join(first)}]{end}")
        if self.has_single:
            lines.append(f"const pier = {{ open: true, berths: {chance.randint(1, 5)}, taken: 0 }}{end}")
        blocks = [lines]
        if self.has_factory:
            blocks.append(self.factory())
        blocks.append(self.adding())
        blocks += [self.function(number) for number in range(chance.randint(2, 5))]
        if self.has_single:
            blocks.append(self.about_single())
        main = self.main()
        if chance.random() < 0.25:  # what is called stands above what is hoisted
            blocks = [blocks[0], main, *blocks[1:]]
        else:
            blocks.append(main)
        return "\n".join("\n".join(block) + "\n" for block in blocks)

    # -- values

    def value(self, key: str) -> str:
        chance = self.random
        if key == "name":
            return f'"{chance.choice(_WORDS)}"'
        return chance.choice(["true", "false"]) if key == self.truth else str(chance.randint(0, 20))

    def literal(self, known: dict[str, str] | None = None) -> str:
        chance, known = self.random, known or {}
        keys = list(self.keys)
        if self.tricks and chance.random() < 0.1:
            chance.shuffle(keys)
        if self.tricks and chance.random() < 0.08:
            keys.append("extra")
        said = [key if known.get(key) == key else f"{key}: {known.get(key) or self.value(key)}" for key in keys]
        if chance.random() < 0.2:
            return "{\n    " + ",\n    ".join(said) + ",\n  }"
        return "{ " + ", ".join(said) + " }"

    def number(self) -> str:
        return self.random.choice(self.numbers)

    # -- functions

    def factory(self) -> list[str]:
        given = self.random.sample(self.keys, self.random.randint(1, 2))
        self.given = len(given)
        made = self.literal({key: key for key in given})
        name, form = f"make{self.noun.title()}", self.random.randint(0, 3)
        if form == 0:
            return [f"const {name} = ({', '.join(given)}) => ({made}){self.end or ';'}"]
        if form == 1:
            body = [f"  const made = {made}{self.end}", f"  return made{self.end}"]
        elif form == 2:
            body = [f"  const made = {{}}{self.end}"]
            for key in self.keys:
                body.append(f"  made.{key} = {key if key in given else self.value(key)}{self.end}")
            body.append(f"  return made{self.end}")
        else:
            body = [f"  return {made}{self.end}"]
        return [f"function {name}({', '.join(given)}) {{", *body, "}"]

    def made(self) -> str:
        if self.has_factory and self.random.random() < 0.6:
            return f"make{self.noun.title()}({', '.join(str(self.random.randint(0, 9)) for _ in range(self.given))})"
        return self.literal({self.numbers[0]: "turn"})

    def adding(self) -> list[str]:
        body = self.random.choice(
            [
                [f"  {self.all}.push({self.made()}){self.end}"],
                [f"  const {self.noun} = {self.made()}{self.end}", f"  {self.all}.push({self.noun}){self.end}"],
                [f"  {self.all}.unshift({self.made()}){self.end}", f"  return {self.all}[0]{self.end}"],
            ]
        )
        return [f"function add{self.noun.title()}() {{", *body, "}"]

    def about(self, one: str) -> list[str]:
        """Something that is done with one of the things."""
        chance, end = self.random, self.end
        number, other = self.number(), self.number()
        done = [
            [f"{one}.{number} += by{end}"],
            [f"if ({one}.{number} > 12) {{", f"  {one}.{self.truth} = !{one}.{self.truth}{end}", "}"],
            [f"console.log({one}.name, {one}.{number}){end}"],
            [f"console.log(`${{{one}.name}}: ${{{one}.{other}}}`){end}"],
            [f"const {{ name, {number} }} = {one}{end}", f"console.log(name, {number}){end}"],
            [f"{one}.{number}--{end}", f"total += {one}.{other}{end}"],
            [f"if ({one} === {self.all}[0]) console.log({chance.randint(0, 9)}){end}"],
            [f"if ({one}.{self.truth}) return {one}.{number}{end}"],
        ]
        if self.tricks:
            done += [
                [f"console.log({one}){end}"],
                [f"console.log(JSON.stringify({one})){end}"],
                [f"for (const key in {one}) console.log(key){end}"],
                [f"console.log(Object.keys({one}).length){end}"],
                [f"const other = {{ ...{one} }}{end}", f"other.{number} = 3{end}", f"console.log(other.{number}){end}"],
                [f'const key = "{number}"{end}', f"console.log({one}[key]){end}"],
                [f'console.log({one}["{number}"]){end}'],
                [f"{one}.seen = true{end}", f"console.log({one}.seen){end}"],
                [f"if (!{one}) return 0{end}"],
                [f"console.log({one}?.{number}){end}"],
                [f"console.log({one} instanceof Object, typeof {one}, String({one})){end}"],
                [f"setTimeout(() => console.log({one}.{number}), 5){end}"],
                [f"[1].forEach(function () {{ {one}.{number} += 1{end} }}){end}"],
                [f"console.log({one}.constructor === Object){end}"],
                [f"total += {one}.{number}.toFixed(1).length{end}"],
                [f"arguments.length > 1 && console.log(arguments[0].{number}){end}"],
            ]
        return [line for part in chance.sample(done, chance.randint(1, 3)) for line in part]

    def function(self, number: int) -> list[str]:
        chance, end = self.random, self.end
        title = chance.choice(["move", "check", "show", "turn"])
        name = f"{title}{self.noun.title()}{number}"
        takes = chance.random() < 0.7
        if takes:
            one = chance.choice([self.noun, "one", self.noun[0]])
            listed = [one, "by"] if chance.random() < 0.8 else ["by", one]
            body = [f"  {line}" for line in self.about(one)]
            signature = ", ".join(listed)
            self.functions.append((name, listed[0] == one))
            form = chance.randint(0, 3)
            if form == 0:
                return (
                    [f"const {name} = ({signature}) => {{", *body, f"}}{end or ';'}"]
                    if "arguments" not in str(body)
                    else [f"function {name}({signature}) {{", *body, "}"]
                )
            if form == 1:
                return [f"const {name} = function ({signature}) {{", *body, f"}}{end or ';'}"]
            return [f"// {name} looks after one", f"function {name}({signature}) {{", *body, "}"]
        self.functions.append((name, True))
        if chance.random() < 0.5:
            return self.taking_apart(name)
        return [
            f"function {name}(given, by) {{",
            f"  console.log(given === undefined ? 0 : by){end}",
            *[f"  {line}" for line in self.walk()],
            "}",
        ]

    def taking_apart(self, name: str) -> list[str]:
        """A function that gives names of its own to what one of the things has."""
        chance, end, number = self.random, self.end, self.number()
        pattern = chance.choice(
            [f"name, {number}", f"{number}: far, name = 0", f"{number} = 7, name", f"name, {number}"]
        )
        if self.tricks and chance.random() < 0.3:
            pattern = f"name, {number}, ...others"
        far = "far" if "far" in pattern else number
        body = [f"  console.log(name, {far}, by){end}", f"  {self.all}[0].{number} += 1{end}"]
        if chance.random() < 0.5:
            body.append(
                f"  for (const [n, {{ {number}: each }}] of {self.all}.entries()) console.log(n, each, {far}){end}"
            )
        if "others" in pattern:
            body.append(f"  console.log(Object.keys(others).length){end}")
        return [f"function {name}({{ {pattern} }}, by) {{", *body, "}"]

    def about_single(self) -> list[str]:
        end = self.end
        shown = self.random.choice(["pier.taken, pier.open", "pier.berths", "JSON.stringify(pier)"])
        return [
            "function dock(by) {",
            f"  if (pier.taken < pier.berths) pier.taken += by{end}",
            f"  else pier.open = false{end}",
            f"  console.log({shown}){end}",
            "}",
        ]

    def told(self, one: str) -> str:
        """A call about one thing, or a line about it."""
        if not self.functions:
            return f"{one}.{self.number()} += 1{self.end}"
        name, is_first = self.random.choice(self.functions)
        by = self.random.choice(["2", "turn", f"{one}.{self.number()}"])
        given = [one, by] if is_first else [by, one]
        if self.random.random() < 0.15:
            given = self.random.choice([[one] if is_first else given, [*given, "3"], [f"...[{', '.join(given)}]"]])
        return f"{name}({', '.join(given)}){self.end}"

    def walk(self) -> list[str]:
        """A walk over all things, or a look at some of them."""
        chance, end, all_of, noun = self.random, self.end, self.all, self.noun
        inside = [self.told(noun) if chance.random() < 0.6 else f"console.log({noun}.{self.number()}){end}"]
        number = self.number()
        forms = [
            [f"for (const {noun} of {all_of}) {{", *[f"  {line}" for line in inside], "}"],
            [f"for (let i = 0; i < {all_of}.length; i++) {{", f"  {self.told(f'{all_of}[i]')}", "}"],
            [f"{all_of}.forEach(({noun}) => {{", *[f"  {line}" for line in inside], f"}}){end}"],
            [f"{all_of}.forEach(function ({noun}, i) {{", f"  console.log(i, {noun}.name){end}", f"}}){end}"],
            [f"const found = {all_of}.find(({noun}) => {noun}.{number} > 5){end}", f"if (found) {self.told('found')}"],
            [f"const some = {all_of}.filter((k) => k.{self.truth}){end}", f"for (const k of some) {self.told('k')}"],
            [f"console.log({all_of}.map((k) => k.{number}).join()){end}"],
            [f"total += {all_of}.reduce((sum, k) => sum + k.{number}, 0){end}"],
            [f"{all_of}.sort((a, b) => a.{number} - b.{number}){end}"],
            [
                f"for (let i = {all_of}.length - 1; i >= 0; i--) {{",
                f"  if ({all_of}[i].{number} > 14) {all_of}.splice(i, 1){end}",
                "}",
            ],
            [f"if ({all_of}.length > 1) {{", f"  const last = {all_of}.pop(){end}", f"  {self.told('last')}", "}"],
            [f"if ({all_of}.some((k) => k.{self.truth})) total++{end}"],
            [f"if ({all_of}.length > 0) {self.told(f'{all_of}[0]')}"],
        ]
        if self.tricks:
            forms += [
                [f"console.log(JSON.stringify({all_of})){end}"],
                [f"console.log({all_of}.length, {all_of}){end}"],
                [f"const copy = [...{all_of}]{end}", f"if (copy[0]) {self.told('copy[0]')}"],
                [f"const more = {all_of}.concat([]){end}", f"for (const m of more) {self.told('m')}"],
                [f"const pair = {{ first: {all_of}[0] }}{end}", f"if (pair.first) {self.told('pair.first')}"],
                [
                    f"const by_name = new Map(){end}",
                    f"{all_of}.forEach((k) => by_name.set(k.name, k)){end}",
                    f"console.log(by_name.size){end}",
                ],
                [f"{all_of}.map(({{ name, {number} }}) => console.log(name, {number})){end}"],
                [f"console.log({all_of}.indexOf({all_of}[1]), {all_of}.includes({all_of}[0])){end}"],
            ]
            if self.functions and self.functions[0][1]:
                forms.append([f"{all_of}.forEach({self.functions[0][0]}){end}"])
        return chance.choice(forms)

    def main(self) -> list[str]:
        chance, end = self.random, self.end
        lines = ["for (turn = 1; turn < 4; turn++) {", f"  add{self.noun.title()}(){end}"]
        for _ in range(chance.randint(1, 3)):
            lines += ["  {", *[f"    {line}" for line in self.walk()], "  }"]
        if self.has_single:
            lines.append(f"  dock({chance.randint(1, 2)}){end}")
        lines.append("}")
        shown = ", ".join(f"k.{key}" for key in self.keys)
        lines.append(f"for (const k of {self.all}) console.log({shown}){end}")
        return [*lines, f"console.log(total){end}"]


def write_objects(seed: int) -> str:
    """A script."""
    return JavaScriptKinds(seed).write()


class _TwoSorts(JavaScriptKinds):
    """Things of another sort beside them, and functions that are given either."""

    def write(self) -> str:
        chance, end = self.random, self.end
        lines = [super().write()]
        marks = ", ".join(self.mark() for _ in range(chance.randint(1, 3)))
        lines.append(f"{chance.choice(['const', 'let'])} marks = [{marks}]{end}")
        lines += self.meeting()
        for _ in range(chance.randint(2, 4)):
            lines += chance.choice([self.met, self.counted, self.handed])()
        shown = ", ".join(f"m.{key}" for key in (*self.numbers, "shown"))
        return "\n".join([*lines, f"for (const m of marks) console.log({shown}){end}"]) + "\n"

    def mark(self) -> str:
        chance, keys = self.random, [*self.numbers, "shown"]
        if chance.random() < 0.3:
            keys = [*self.keys]  # then it only seems to be another sort
        said = ", ".join(f"{key}: {self.value(key) if key in self.keys else chance.randint(0, 9)}" for key in keys)
        return f"{{ {said} }}"

    def meeting(self) -> list[str]:
        """What is given two things, and mostly only asks them for something."""
        chance, end, one, other = self.random, self.end, self.number(), self.number()
        before = []
        if self.tricks:
            odd = [f"b.{other} += 1{end}", f"console.log(a === b){end}", f"console.log(Object.keys(b).length){end}"]
            odd += [f"total += [a, b].length{end}", f"if (!a) return false{end}", f"a = b{end}"]
            odd += [f"console.log([a.{one}].map((n) => n + b.{other})[0]){end}", f"b.met = true{end}"]
            before = [f"  {line}" for line in chance.sample(odd, chance.randint(0, 1))]
        answer = f"a.{one} < b.{one} + 3 && b.{other} >= a.{other}"
        if chance.random() < 0.3 and not before:
            return [f"const meets = (a, b) => {answer}{end or ';'}"]
        return ["function meets(a, b) {", *before, f"  return {answer}{end}", "}"]

    def met(self) -> list[str]:
        body = f"if (meets({self.random.choice(['k, mark', 'mark, k', 'k, k'])})) mark.{self.number()} += 1{self.end}"
        lines = ["for (const mark of marks) {", f"  for (const k of {self.all}) {{", f"    {body}", "  }"]
        if self.random.random() < 0.5:
            lines.append(f"  if (meets(mark, marks[0])) console.log(mark.{self.number()}){self.end}")
        return [*lines, "}"]

    def counted(self) -> list[str]:
        one, other = self.number(), self.number()
        step = f"marks[i].{one} += marks[i].{other} * {self.random.choice(['total', 'turn', '2'])}{self.end}"
        lines = ["for (let i = 0; i < marks.length; i++) {", f"  {step}"]
        if self.random.random() < 0.5:
            lines.append(f"  if (meets({self.all}[0], marks[i])) total++{self.end}")
        return [*lines, "}"]

    def handed(self) -> list[str]:
        one, other = self.number(), self.number()
        told = self.random.choice([f"console.log(m.{one}, m.{other})", f"console.log(meets(m, {self.all}[0]))"])
        return [f"marks.forEach((m) => {told}){self.end or ';'}"]


def write_sorts(seed: int) -> str:
    """A script whose things are of two sorts."""
    return _TwoSorts(seed).write()
