"""Random scripts of JavaScript that run to their end and say what they do; and what comes of building one."""

from __future__ import annotations

import random
import subprocess
from collections.abc import Callable
from functools import partial
from pathlib import Path
from tempfile import TemporaryDirectory

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.moves.kit.move import Move
from aedifex.program.model.program import Program
from aedifex.program.reading import read_program
from aedifex.source.errors import AedifexError, RefusedError
from aedifex.source.text import SourceText
from aedifex.verify.compare import Comparison
from aedifex.verify.scenarios.scenario import Scenario
from tests.support.carving import moves_at_random, random_carve
from tests.support.parting import as_one_class, random_part

_WORDS = "ferry tide kite rain seed buoy quay gauge rope mast".split()
_PARTS = "Level Speed Load Height Count Turn Mark".split()
_SECONDS = 20
_DELAYS = (0, 0, 60, 120)
"""In milliseconds: far enough apart for what is slow one time, and not the other, to change nothing."""


class JavaScriptWriter:
    """Writes one script: variables of all sorts, functions of all sorts that use them, and code that calls them."""

    def __init__(self, seed: int) -> None:
        self.random = random.Random(seed)
        self.end = self.random.choice([";", ";", ""])
        self.quote = self.random.choice("'\"")
        self.numbers: list[str] = []
        self.lists: list[str] = []
        self.tables: list[str] = []
        self.functions: list[tuple[str, int]] = []
        self.classes: list[str] = []
        self.copies: list[tuple[str, int, list[str]]] = []
        self.lines: list[str] = []
        self.fresh = 0

    def write(self) -> str:
        """The whole script."""
        chance = self.random
        if chance.random() < 0.15:
            self.lines.append(f"{self.text('use strict')}{self.end}")
            self.is_strict = True
        else:
            self.is_strict = False
        self.declare_all()
        bodies = [self.function(number) for number in range(chance.randint(2, 6))]
        if chance.random() < 0.25:
            bodies.insert(chance.randint(0, len(bodies)), self.plain_class())
        start = self.main()
        if chance.random() < 0.3:  # what is called stands above what is hoisted
            hoisted = [body for body in bodies if body[0].startswith(("function", "async", "//", "/**"))]
            others = [body for body in bodies if body not in hoisted]
            blocks = [*others, start, *hoisted]
        else:
            blocks = [*bodies, start]
        for block in blocks:
            self.lines += ["", *block]
        return "\n".join(self.lines) + "\n"

    # -- variables

    def text(self, said: str) -> str:
        return f"{self.quote}{said}{self.quote}"

    def name(self) -> str:
        while True:
            joined = self.random.choice(_WORDS) + self.random.choice([*_PARTS, ""])
            if joined not in (*self.numbers, *self.lists, *self.tables):
                return joined

    def local(self) -> str:
        self.fresh += 1
        return f"{self.random.choice(['item', 'part', 'step', 'one'])}{self.fresh}"

    def declare_all(self) -> None:
        for _ in range(self.random.randint(3, 8)):
            self.declare()
        if self.random.random() < 0.35:
            self.declare_copies()
        if self.random.random() < 0.3:
            self.only_declare()

    def only_declare(self) -> None:
        """A thing whose variables get their values somewhere, if at all; some of them may have one."""
        chance, end, noun = self.random, self.end, self.random.choice(_WORDS)
        wished = [noun + part for part in chance.sample([*_PARTS, ""], chance.randint(2, 4))]
        names = [name for name in wished if name not in (*self.numbers, *self.lists, *self.tables)]
        told = [name if chance.random() < 0.75 else f"{name} = {chance.randint(0, 9)}" for name in names]
        word = chance.choice(["let", "let", "var"])
        if told and chance.random() < 0.5:
            self.lines.append(f"{word} {', '.join(told)}{end}")
        else:
            self.lines += [f"{word} {name}{end}" for name in told]
        self.numbers += names

    def declare_copies(self) -> None:
        """Several things of one shape, told apart by numbers, each with variables of its own."""
        chance, end = self.random, self.end
        noun, parts = (
            chance.choice(["crate", "lamp", "gull"]),
            chance.sample(["X", "Y", "Size", "Lit"], chance.randint(1, 3)),
        )
        self.copies = [(noun, number, parts) for number in range(1, chance.randint(3, 4))]
        for _, number, _ in self.copies:
            values = [
                f"{noun}{number}{part} = {chance.randint(0, 9) if part != 'Lit' else chance.choice(['true', 'false'])}"
                if chance.random() < 0.97
                else f"{noun}{number}{part}"
                for part in parts
            ]
            word = chance.choice(["let", "var"])
            self.lines += (
                [f"{word} {', '.join(values)}{end}"] if chance.random() < 0.5 else [f"{word} {v}{end}" for v in values]
            )

    def with_copies(self, margin: str) -> list[str]:
        """The same done with each of the copies, or with one of them."""
        chance, end = self.random, self.end
        part, other = chance.choice(self.copies[0][2]), chance.choice(self.copies[0][2])
        form = chance.randint(0, 4)
        done = {
            0: "if (#X > 5) #X = 0; else #X += 1",
            1: "console.log('#', #X, #Y)",
            2: "#X += 2",
            3: "if (#X) { #Y = !#Y; }",
            4: "console.log(#X)",
        }[form]
        some = self.copies if chance.random() < 0.8 else [chance.choice(self.copies)]
        lines = []
        for noun, number, _ in some:
            line = (
                done.replace("#X", f"{noun}{number}{part}")
                .replace("#Y", f"{noun}{number}{other}")
                .replace("'#'", self.text(noun))
            )
            lines.append(f"{margin}{line}{end}")
        return lines

    def declare(self) -> None:
        chance, name, end = self.random, self.name(), self.end
        word = chance.choice(["let", "let", "var", "const"])
        kind = chance.choice(["number"] * 5 + ["list", "list", "table", "several", "bare", "implicit", "pattern"])
        if kind == "implicit" and self.is_strict:
            kind = "number"
        remark = chance.choice(["", "", f" // the {name}"])
        if kind == "number":
            self.numbers.append(name)
            self.lines.append(f"{'let' if word == 'const' else word} {name} = {chance.randint(0, 9)}{end}{remark}")
        elif kind == "list":
            self.lists.append(name)
            self.lines.append(f"{word} {name} = [{chance.randint(0, 9)}, {chance.randint(0, 9)}]{end}{remark}")
        elif kind == "table":
            self.tables.append(name)
            self.lines.append(f"{word} {name} = {{ a: {chance.randint(0, 9)}, b: {chance.randint(0, 9)} }}{end}")
        elif kind == "several":
            self.numbers.append(name)
            other = self.name()
            self.numbers.append(other)
            between = chance.choice([", ", ",\n  ", ", // first\n    "])
            self.lines.append(f"{chance.choice(['let', 'var'])} {name} = 1{between}{other} = {name} + 2{end}")
        elif kind == "bare":
            self.lines.append(f"{chance.choice(['let', 'var'])} {name}{end}")
            self.lines.append(f"{name} = {chance.randint(0, 9)}{end}")
            self.numbers.append(name)
        elif kind == "implicit":
            self.numbers.append(name)
            self.lines.append(f"{name} = {chance.randint(0, 9)}{end}{remark}")
        else:
            other = name + "Rest"
            pattern = chance.choice([f"[{name}, {other}] = [1, 2]", f"{{ {name}, {other} = 5 }} = {{ {name}: 4 }}"])
            self.lines.append(f"{chance.choice(['let', 'var'])} {pattern}{end}")
            self.numbers += [name, other]

    # -- values

    def number(self, known: list[str], depth: int = 0) -> str:
        chance = self.random
        kind = chance.randint(0, 9 if depth < 2 else 2)
        if kind == 0 or not (known or self.numbers):
            return str(chance.randint(0, 9))
        if kind <= 2:
            return chance.choice([*known, *self.numbers])
        if kind <= 4:
            return f"{self.number(known, depth + 1)} {chance.choice('+-*')} {self.number(known, depth + 1)}"
        if kind == 5 and self.lists:
            return chance.choice([f"{(held := chance.choice(self.lists))}.length", f"({held}[0] || 0)"])
        if kind == 6 and self.tables:
            return f"{chance.choice(self.tables)}.{chance.choice('ab')}"
        if kind == 7 and self.lists:
            item = self.local()
            value = self.number([*known, item], depth + 1)
            return f"{chance.choice(self.lists)}.reduce((sum, {item}) => sum + ({value}), 0)"
        return f"({self.number(known, depth + 1)} % 7)"

    def question(self, known: list[str]) -> str:
        return f"{self.number(known, 1)} {self.random.choice(['<', '>', '===', '!=='])} {self.number(known, 1)}"

    # -- statements

    def block(self, known: list[str], depth: int, margin: str) -> list[str]:
        return [line for _ in range(self.random.randint(1, 3)) for line in self.statement(list(known), depth, margin)]

    def statement(self, known: list[str], depth: int, margin: str) -> list[str]:
        chance, end = self.random, self.end
        if self.copies and chance.random() < 0.15:
            return self.with_copies(margin)
        target = chance.choice(self.numbers) if self.numbers else None
        kind = chance.randint(0, 13 if depth < 2 else 7)
        if kind <= 2 and target is not None:
            change = chance.choice(
                [f"{target} += {self.number(known)}", f"{target}++", f"{target} = {self.number(known)}"]
            )
            return [f"{margin}{change}{end}", f"{margin}{target} %= 1000{end}"]
        if kind == 3 and self.lists:
            held = chance.choice(self.lists)
            return [f"{margin}if ({held}.length < 9) {held}.push({self.number(known)}){end}"]
        if kind == 4 and self.tables:
            return [f"{margin}{chance.choice(self.tables)}.{chance.choice('ab')} = {self.number(known)} % 100{end}"]
        if kind == 5 and self.numbers:
            one, other = chance.choice(self.numbers), chance.choice(self.numbers)
            shown = chance.choice(
                [
                    f"{{ {one}, other: {other} }}",
                    f"`{one} ${{{one}}}`",
                    f"{self.text(other)}, {one} + {other}",
                    f"typeof {one}",
                ]
            )
            return [f"{margin}console.log({shown}){end}"]
        if kind == 6 and len(self.numbers) > 1:
            one, other = chance.sample(self.numbers, 2)
            return [f"{margin};[{one}, {other}] = [{other}, {one}]{end}"]
        if kind == 7:
            name = self.local()
            lines = [f"{margin}{chance.choice(['let', 'const', 'var'])} {name} = {self.number(known)}{end}"]
            known.append(name)
            return [*lines, f"{margin}console.log({name}){end}"]
        if kind == 8:
            inner = self.block(known, depth + 1, margin + "  ")
            other = ["} else {", *self.block(known, depth + 1, margin + "  ")] if chance.random() < 0.4 else []
            return [
                f"{margin}if ({self.question(known)}) {{",
                *inner,
                *(margin * (line[:1] == "}") + line for line in other),
                f"{margin}}}",
            ]
        if kind == 9:
            name = self.local()
            word = chance.choice(["let", "var"])
            inner = self.block([*known, name], depth + 1, margin + "  ")
            return [f"{margin}for ({word} {name} = 0; {name} < 3; {name}++) {{", *inner, f"{margin}}}"]
        if kind == 10 and self.lists:
            name = self.local()
            inner = self.block([*known, name], 2, margin + "  ")
            return [f"{margin}for (const {name} of {chance.choice(self.lists)}.slice(0, 3)) {{", *inner, f"{margin}}}"]
        if kind == 11:
            inner = self.block(known, 2, margin + "  ")
            head = chance.choice(["setTimeout(() => {", "setTimeout(function () {", "[1, 2].forEach(function (each) {"])
            last = "})" if "forEach" in head else f"}}, {chance.choice(_DELAYS)})"
            return [f"{margin};{head}", *inner, f"{margin}{last}{end}"]
        if kind == 12:
            inner = self.block(known, 2, margin + "    ")
            return [
                f"{margin}switch ({self.number(known, 1)} % 3) {{",
                f"{margin}  case 0:",
                *inner,
                f"{margin}    break{end}",
                f"{margin}  default:",
                *self.block(known, 2, margin + "    "),
                f"{margin}}}",
            ]
        return self.calling(known, margin) if chance.random() < 0.6 else self.rare(known, depth, margin)

    def rare(self, known: list[str], depth: int, margin: str) -> list[str]:
        """What is met now and then: errors that are caught, loops with labels, objects and functions with `this`."""
        chance, end, inside = self.random, self.end, margin + "  "
        kind = chance.randint(0, 7)
        if kind == 0:
            thrown = f"{inside}throw new Error({self.text('storm')}){end}"
            caught = f"{inside}console.log(error.message){end}"
            last = ["} finally {", *self.block(known, 2, inside)] if chance.random() < 0.3 else []
            body = [*self.block(known, 2, inside), thrown]
            return [
                f"{margin}try {{",
                *body,
                f"{margin}}} catch (error) {{",
                caught,
                *(margin * (line[:1] == "}") + line for line in last),
                f"{margin}}}",
            ]
        if kind == 1:
            name = self.local()
            leave = f"{inside}  if ({self.question([*known, name])}) {chance.choice(['break outer', 'continue outer'])}{end}"
            head = f"{margin}outer: for (let {name} = 0; {name} < 3; {name}++) {{"
            return [
                head,
                f"{inside}for (const each of [1, 2]) {{",
                leave,
                *self.block([*known, name], 2, inside + "  "),
                f"{inside}}}",
                f"{margin}}}",
            ]
        if kind == 2:
            name = self.local()
            made = f"{margin}const {name} = {{ depth: {self.number(known)}, sink() {{ return this.depth + {self.number(known, 1)} }} }}{end}"
            return [made, f"{margin}console.log({name}.sink()){end}"]
        if kind == 3:
            name = self.local()
            count = f"{margin}let {name} = 0{end}"
            return [
                count,
                f"{margin}do {{",
                *self.block([*known, name], 2, inside),
                f"{inside}{name}++{end}",
                f"{margin}}} while ({name} < 2){end}",
            ]
        if kind == 4:
            inner, form = self.block(known, 2, inside), chance.randint(0, 3)
            if form == 3:
                return [f"{margin}console.log(typeof (null || function () {{", *inner, f"{margin}}})){end}"]
            head, last = [("(function () {", "})()"), ("(function () {", "}())"), ("!function () {", "}()")][form]
            return [f"{margin};{head}", *inner, f"{margin}{last}{end}"]
        if kind == 5 and self.numbers:
            target = chance.choice(self.numbers)
            return [
                f"{margin}Promise.resolve({self.number(known)}).then(function (given) {{",
                f"{inside}{target} = given % 100{end}",
                *self.block(known, 2, inside),
                f"{margin}}}){end}",
            ]
        if kind == 6 and chance.random() < 0.5:
            name = self.local()
            words = chance.choice([f"const {name} = function", f"var {name} = async function", f"function {name}"])
            last = "" if words.startswith("function") else end or ";"
            used = chance.choice([f"{name}(2)", f"new {name}(2)"]) if "async" not in words else f"{name}(2)"
            body = self.block(["by"], 2, inside)
            return [f"{margin}{words} (by) {{", *body, f"{margin}}}{last}", f"{margin}console.log(typeof {used}){end}"]
        if kind == 6:
            name = self.local()
            first = self.number(known, 1)
            return [
                f"{margin}const {name} = function () {{ return arguments.length + {first} }}{end}",
                f"{margin}console.log({name}(1, 2)){end}",
            ]
        if self.tables:
            table = chance.choice(self.tables)
            return [
                f"{margin}for (const key in {table}) {{",
                f"{inside}console.log(key, {table}[key]){end}",
                *self.block(known, 2, inside),
                f"{margin}}}",
            ]
        return [f"{margin}console.log({self.number(known)} ? {self.number(known)} : {self.number(known)}){end}"]

    def calling(self, known: list[str], margin: str) -> list[str]:
        chance, end = self.random, self.end
        if not self.functions:
            return [f"{margin}console.log({self.number(known)}){end}"]
        name, count = chance.choice(self.functions)
        values = [self.number(known, 1) for _ in range(count)]
        if chance.random() < 0.15:  # fewer than it takes, more, or all of a list
            values = chance.choice([values[:-1], [*values, self.number(known, 1)], ["...[2, 3]"]])
        given = ", ".join(values)
        form = chance.randint(0, 4)
        if form == 0:
            return [f"{margin}setTimeout({name}, {chance.choice(_DELAYS)}){end}"]
        if form == 1:
            return [f"{margin}console.log({name}({given})){end}"]
        if form == 2:
            return [f"{margin};[3].map({name}){end}"]
        if form == 3:
            return [f"{margin}{name}.call(null{', ' if given else ''}{given}){end}"]
        return [f"{margin}{name}({given}){end}"]

    # -- functions

    def function(self, number: int) -> list[str]:
        chance, end = self.random, self.end
        name = f"{chance.choice(['move', 'rise', 'show', 'turn', 'fill'])}{chance.choice(_WORDS).title()}{number}"
        count = chance.randint(0, 2)
        parameters = [self.local() for _ in range(count)]
        listed = [*parameters]
        if count and chance.random() < 0.25:
            listed[-1] += f" = {self.number([], 1)}"
        if chance.random() < 0.1:
            rest = self.local()
            listed.append(f"...{rest}")
        known = list(parameters)
        body = self.block(known, 0, "  ")
        if len(listed) > len(parameters):
            body.append(f"  console.log({rest}.length, {rest}[0] ?? 'none'){end}")
        inner = self.local()
        if chance.random() < 0.25:
            used = self.number(known, 1)
            body += [f"  function {inner}() {{", f"    return {used}{end}", "  }", f"  console.log({inner}()){end}"]
        if chance.random() < 0.2 and self.numbers:  # a local that hides a variable of the script
            hidden = chance.choice(self.numbers)
            body = [
                f"  {{ let {hidden} = 4{end} console.log({hidden}){end or ';'} }}".replace("4 console", "4; console"),
                *body,
            ]
        if chance.random() < 0.5:
            body.append(f"  return {self.number(known)}{end}")
        comment = chance.choice([[], [], [f"// {name} does it"], [f"/** Lets {name} do it. */"]])
        form = chance.randint(0, 5)
        if form > 2 and chance.random() < 0.1:
            body.insert(0, f"  console.log(arguments.length){end}")
        signature = ", ".join(listed)
        if form == 0:
            made = [*comment, f"const {name} = ({signature}) => {{", *body, f"}}{end or ';'}"]
        elif form == 1:
            made = [*comment, f"var {name} = function ({signature}) {{", *body, f"}}{end or ';'}"]
        elif form == 2:
            made = [*comment, f"const {name} = ({signature}) => {self.number(known)}{end or ';'}"]
        else:
            made = [*comment, f"function {name}({signature}) {{", *body, "}"]
        self.functions.append((name, count))
        return made

    def plain_class(self) -> list[str]:
        """A class of the script's own, which uses its variables."""
        name, end = self.random.choice(["Pier", "Lock", "Crane"]), self.end
        self.classes.append(name)
        lines = [
            f"class {name} {{",
            "  constructor(length) {",
            f"    this.length = length{end}",
            "  }",
            "",
            "  work(by) {",
        ]
        return [*lines, *self.block(["by", "this.length"], 1, "    "), f"    return this.length + by{end}", "  }", "}"]

    def main(self) -> list[str]:
        lines: list[str] = []
        for name in self.classes:
            lines.append(f"console.log(new {name}({self.number([])}).work({self.number([])})){self.end}")
        for _ in range(self.random.randint(3, 7)):
            lines += self.statement([], 0, "")
        shown = ", ".join([*self.numbers, *self.lists, *self.tables])
        return [*lines, f"console.log({shown}){self.end}"]


def write_javascript(seed: int) -> str:
    """A script."""
    return JavaScriptWriter(seed).write()


def with_paragraphs(text: str, chance: random.Random) -> str:
    """The same script with blank lines and comments between some of its statements, as people have them."""
    often = chance.choice([0, 0, 0.15, 0.5])
    lines: list[str] = []
    for line in text.split("\n"):
        ends = bool(lines) and lines[-1].rstrip().endswith((";", "}")) and "`" not in lines[-1]
        if ends and chance.random() < often:
            lines.append("")
        if ends and line.strip() and chance.random() < often / 3:
            lines.append(
                line[: len(line) - len(line.lstrip())] + f"// {chance.choice(_WORDS)} and {chance.choice(_WORDS)}"
            )
        lines.append(line)
    return "\n".join(lines)


def outcome(text: str, name: str = "harbour.js") -> str:
    """What comes of building a script: `same`, `refused: …`, `broken` where the script itself fails, or `different: …`."""
    return compared(text, lambda program: build(program, propose(program)).program, name)


def outcome_in_files(text: str) -> str:
    """The same of a script that shows to be one of Node's, or a module: its classes go into files of their own."""
    if len(text) % 2:
        return outcome(text + "export {};\n", "harbour.mjs")
    return outcome(text + "console.log(typeof require('os').EOL);\n")


def carved(text: str, chance: random.Random, times: int = 3) -> str:
    """What comes of carving some statements at random: the same words."""
    return compared(text, lambda program: _moved(program, lambda now, number: random_carve(now, chance, number), times))


def parted(text: str, chance: random.Random, times: int = 4) -> str:
    """What comes of making one class of a script, and classes of its own of some of its members, chosen at random."""
    part = partial(random_part, chance=chance)
    return compared(text, lambda program: _moved(as_one_class(program), lambda now, n: part(now, number=n), times))


def _moved(program: Program, move_for: Callable[[Program, int], Move], times: int) -> Program:
    made, done, reason = moves_at_random(program, move_for, times)
    if not done:
        raise RefusedError(reason)
    return made


def compared(text: str, change: Callable[[Program], Program], name: str = "harbour.js") -> str:
    """What comes of changing a script: the same words."""
    with TemporaryDirectory() as folder:
        before, after = Path(folder, name), Path(folder, "after", name)
        text = with_paragraphs(text, random.Random(len(text)))
        before.write_text(text)
        said = _run(before)
        if said[0] != 0:
            return f"broken: {said[2]}"
        try:
            made = change(read_program([SourceText.read(before)], DIALECT))
        except RefusedError as error:
            return f"refused: {error.reason}"
        except AedifexError as error:
            return f"refused: {error}"
        after.parent.mkdir()
        for path, module in made.modules.items():
            after.with_name(path.name).write_bytes(module.source.encode())
        now = _run(after)
        if now[:2] == said[:2] or _is_same(before, after):
            return "same"
        became = "".join(f"// {path.name}\n{module.source.encode().decode()}" for path, module in made.modules.items())
        return f"different:\n{text}\n---- became\n{became}\n---- {said}\n{now}"


def _is_same(before: Path, after: Path) -> bool:
    """Whether the two do the same where time is told: timers that are due together may come in another order else."""
    return Comparison(before, after, DIALECT.runner).compare([Scenario()]).same


def _run(script: Path) -> tuple[int, str, str]:
    done = subprocess.run(["node", script.name], cwd=script.parent, capture_output=True, text=True, timeout=_SECONDS)
    return done.returncode, done.stdout, done.stderr[-300:]
