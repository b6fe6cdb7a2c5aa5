"""Writes whole procedural scripts at random, runs them, and builds them by drafted and by random designs."""

from __future__ import annotations

import contextlib
import io
import random
import re
import sys
import tempfile
from collections.abc import Callable, Iterator
from pathlib import Path

from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.prepare import prepared
from aedifex.construction.propose import propose
from aedifex.design.document.design import ClassPlan, Design, FieldPlan, MethodPlan, SourcePlan
from aedifex.languages.python import DIALECT
from aedifex.program.model.program import Program
from aedifex.program.reading import read_program
from aedifex.program.structure.main_code import MainCode
from aedifex.source.errors import RefusedError
from aedifex.source.text import SourceText

_NOUNS = ["ferry", "tide", "kite", "gauge", "seed"]
_PARTS = ["x", "y", "speed", "load", "rings", "dir", "max", "name"]
_VERBS = ["move", "update", "show", "grow", "check"]


class ScriptWriter:
    """Writes one script from a source of random choices; the same choices give the same script."""

    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.numbers: list[str] = []
        self.lists: list[str] = []
        self.functions: list[tuple[str, int, bool]] = []
        self.lines: list[str] = []

    def text(self) -> str:
        pick = self.chance
        if pick.random() < 0.3:
            self.lines += ['"""A script of the harbour."""']
        self.lines += ["import random", "from math import floor as down", "", "LIMIT = 9", "STEP = LIMIT // 4", ""]
        for noun in pick.sample(_NOUNS, pick.randint(1, 4)):
            self.state(noun)
        self.functions_of_script()
        self.main()
        return "\n".join(self.lines) + "\n"

    # -- state

    def state(self, noun: str) -> None:
        pick = self.chance
        if pick.random() < 0.6:
            self.lines.append(pick.choice([f"# --- the {noun}", f"# {noun}", f"#### {noun} ####"]))
        names = [f"{noun}_{part}" for part in pick.sample(_PARTS, pick.randint(1, 3))]
        if pick.random() < 0.3:
            names[0] = noun
        if len(names) > 1 and pick.random() < 0.3:
            self.lines.append(f"{', '.join(names[:2])} = {pick.randint(0, 5)}, {pick.randint(0, 5)}  # together")
            self.numbers += names[:2]
            names = names[2:]
        for name in names:
            self.start(name)
        if pick.random() < 0.4:
            name = f"{noun}_list"
            self.lines.append(
                f"{name} = {pick.choice(['[]', '[1, 2]', '[' + chr(10) + '    3,' + chr(10) + '    4,' + chr(10) + ']'])}"
            )
            self.lists.append(name)
        if pick.random() < 0.2:
            self.lines.append(f'print("{noun} is set up")')
        if pick.random() < 0.3:
            self.meanwhile(noun)
        if pick.random() < 0.7:
            self.lines.append("")

    def meanwhile(self, noun: str) -> None:
        """Something that changes what is there already, before other variables get their first values."""
        pick = self.chance
        form = pick.randrange(4)
        name = pick.choice(self.numbers)
        if form == 0:
            self.lines.append(f"{name} += {pick.randint(1, 4)}")
        elif form == 1 and self.lists:
            self.lines.append(f"{pick.choice(self.lists)}.append({name})")
        elif form == 2 and self.lists:
            self.lines.append(f"{noun}_copy = {pick.choice(self.lists)}{pick.choice(['', ' + [5]', '[:]'])}")
            self.lists.append(f"{noun}_copy")
        else:
            self.lines += [f"def begin_{noun}():", f"    global {name}", f"    {name} += 3"]
            self.lines += [f"    {pick.choice(self.lists)}.append({name})"] if self.lists else []
            self.lines += [
                f"    return {name}",
                *pick.choice([[f"begin_{noun}()"], [f"{noun}_first = begin_{noun}()"]]),
            ]

    def start(self, name: str) -> None:
        pick = self.chance
        form = pick.randrange(11)
        if form == 0 and self.numbers:
            self.lines.append(f"{name} = {pick.choice(self.numbers)} + STEP")
        elif form == 1:
            self.lines.append(f"{name} = down({pick.randint(0, 9)}.5)")
        elif form == 2 and self.numbers:
            self.lines.append(f"if {pick.choice(self.numbers)} > 2:\n    {name} = 1\nelse:\n    {name} = 2")
        elif form == 3:
            self.lines.append(f"{name}: int = {pick.randint(0, 9)}")
        elif form == 4:
            self.lines.append(f"# how it starts\n{name} = {pick.randint(0, 9)}  # {name} at first")
        elif form == 5 and self.numbers:
            self.lines.append(f"{name} = {pick.choice(self.numbers)}_copy = {pick.randint(0, 9)}")
        elif form == 6:
            self.lines.append(f"{name} = random.randint(0, 9)")
        elif form == 7 and self.numbers:
            self.lines.append(f"{name} = {pick.choice(self.numbers)}")
        elif form == 8 and len(self.numbers) > 1:
            one, two = pick.sample(self.numbers, 2)
            self.lines.append(f"{name} = {one} {pick.choice(['//', '%', '*', '-'])} {two}")
        else:
            self.lines.append(f"{name} = {pick.randint(0, 9)}")
        self.numbers.append(name)

    # -- functions

    def functions_of_script(self) -> None:
        pick = self.chance
        for _ in range(pick.randint(1, 6)):
            noun, verb = pick.choice(_NOUNS), pick.choice(_VERBS)
            name = pick.choice([f"{verb}_{noun}", f"{noun}_{verb}", verb])
            if any(name == other for other, _, _ in self.functions):
                continue
            if pick.random() < 0.3:
                self.lines.append(f"# about {name}")
            self.function(name)
            self.lines += ["", ""]

    def function(self, name: str) -> None:
        pick = self.chance
        parameters = pick.sample(["n", "step", "x", "load", "text"], pick.randint(0, 2))
        shadow = pick.choice(self.numbers) if self.numbers and pick.random() < 0.15 else None
        signature = [*parameters, *([shadow] if shadow else [])]
        defaults = pick.random() < 0.2
        shown = [f"{p}={'LIMIT' if pick.random() < 0.4 else 2}" if defaults else p for p in signature]
        written = [v for v in self.numbers if v != shadow and pick.random() < 0.35]
        self.lines.append(f"def {name}({', '.join(shown)}):")
        if pick.random() < 0.2:
            self.lines.append(f'    """What {name} does."""')
        if written:
            self.lines.append(f"    global {', '.join(written)}")
        body = list(self.body(written, signature, shadow))
        self.lines += [f"    {line}" for line in body] or ["    pass"]
        returns = pick.random() < 0.5
        if returns:
            self.lines.append(f"    return {self.number(signature)}")
        self.functions.append((name, len(signature), returns))

    def body(self, written: list[str], locals_: list[str], shadow: str | None) -> Iterator[str]:
        pick = self.chance
        known = list(locals_)
        for _ in range(pick.randint(1, 5)):
            form = pick.randrange(19)
            if form == 16:
                way = pick.choice(["break", "continue", "break  # enough", f"return {self.number(known)}"])
                yield "for turn in range(4):"
                yield f"    print(turn, {self.number(known)})"
                yield f"    if turn % 3 == {self.number(known)} % 3:"
                yield f"        {way}"
                yield f"    print({self.number(known)})"
                if pick.random() < 0.4:
                    yield f"    if {self.number(known)} > 4:"
                    yield f"        {pick.choice(['break', 'continue'])}"
            elif form == 17:
                yield f"if {self.number(known)} > 6:"
                yield f"    print({self.number(known)})"
                yield pick.choice(["    return", f"    return {self.number(known)}"])
            elif form <= 2 and written:
                yield f"{pick.choice(written)} {pick.choice(['+=', '-=', '='])} {self.number(known)} % 7"
            elif form == 3 and self.lists:
                yield f"{pick.choice(self.lists)}.append({self.number(known)})"
            elif form == 4:
                yield f"local = {self.number(known)}"
                known.append("local")
            elif form == 5 and self.numbers:
                name = pick.choice([n for n in self.numbers if n != shadow] or ["LIMIT"])
                yield f'print(f"{{{name}=}} {{{name}:>3}} {{{name} + 1!r}}")'
            elif form == 6 and self.lists:
                name = pick.choice(self.lists)
                yield f"print([{name}_item + 1 for {name}_item in {name}], sum(i for i in {name}))"
            elif form == 7:
                yield f"if {self.number(known)} > {self.number(known)}:"
                inner = pick.choice(written) if written else "unused"
                yield f"    {inner} = {self.number(known)} % 5"
                if pick.random() < 0.4:
                    yield "else:"
                    yield f"    print({self.number(known)})"
            elif form == 8 and self.functions:
                yield f"print({self.call(known)})"
            elif form == 9 and written:
                yield f"for {pick.choice(written)} in range(2):"
                yield f"    print({self.number(known)})"
            elif form == 10:
                yield f"again = lambda: {self.number(known)}"
                yield "print(again())"
            elif form == 11:
                yield "def inner(k):"
                yield f"    return k + {self.number(known)}"
                yield f"print(inner({self.number(known)}))"
            elif form == 12 and written:
                a, b = pick.choice(written), pick.choice(written)
                yield f"{a}, {b} = {self.number(known)}, {self.number(known)}"
            elif form == 13:
                yield "try:"
                yield f"    print(10 // {self.number(known)})"
                yield "except ZeroDivisionError as error:"
                yield "    print(error)"
            elif form == 14:
                yield 'print("""two'
                yield f'  lines {{}}""".format({self.number(known)}))'
            else:
                yield f"print({self.number(known)}, {self.number(known)})"

    def number(self, known: list[str]) -> str:
        pick = self.chance
        choices = [str(pick.randint(0, 9)), "LIMIT", *known, *known]
        if self.numbers:
            choices += [pick.choice(self.numbers)] * 4
        one = pick.choice(choices)
        if pick.random() < 0.25:
            return f"({one} {pick.choice('+-*')} {pick.choice(choices)})"
        return one

    def call(self, known: list[str]) -> str:
        name, count, _ = self.chance.choice(self.functions)
        arguments = ", ".join(self.number(known) for _ in range(count))
        return f"{name}({arguments})"

    # -- main code

    def main(self) -> None:
        pick = self.chance
        body: list[str] = []
        if self.functions and pick.random() < 0.3:
            plain = [name for name, count, _ in self.functions if count == 0]
            if plain:
                body.append(f"actions = {{{', '.join(f'{n!r}: {n}' for n in plain)}}}")
                body.append("for key in actions:")
                body.append("    print(key, actions[key]())")
        if pick.random() < 0.5:
            body.append("total = 0")
        else:
            body += ["", "# the loop", "total = 1"]
        loop = pick.choice(["while total < 6:", "for turn in range(5):"])
        body.append(loop)
        for _ in range(pick.randint(1, 4)):
            body += self.main_statement()
        body.append("    total += 1")
        body.append("print(total)")
        for name in self.numbers + self.lists:
            body.append(f'print("{name}", {name})')
        if pick.random() < 0.3:
            body = ['if __name__ == "__main__":', *(f"    {line}" if line else "" for line in body)]
        self.lines += body

    def main_statement(self) -> list[str]:
        pick = self.chance
        form = pick.randrange(8)
        if form == 6:
            guard = "total += 1\n        " if pick.random() < 0.9 else ""
            leave = f"{guard}continue" if guard else "break"
            return [f"    if {self.number(['total'])} % 3 == 1:", f"        print('on', total)\n        {leave}"]
        if form == 7:
            return [f"    if {self.number(['total'])} > 8:", "        break"]
        if form == 0 and self.functions:
            return [f"    print({self.call(['total'])})"]
        if form == 1 and self.functions:
            return [f"    result = {self.call(['total'])}", "    print(result)"]
        if form == 2 and self.numbers:
            return [f"    {pick.choice(self.numbers)} += {self.number(['total'])}"]
        if form == 3 and self.numbers:
            name = pick.choice(self.numbers)
            return [f"    if {name} > 4:", f"        {name} = 0", f'        print("{name} again")']
        if form == 4 and self.lists:
            return [f"    print(len({pick.choice(self.lists)}), {self.number([])})"]
        return [f"    print({self.number(['total'])})"]


class ClassWriter(ScriptWriter):
    """Writes scripts that have a class already, which uses and changes what the script shares."""

    def functions_of_script(self) -> None:
        super().functions_of_script()
        pick = self.chance
        default = pick.choice(["", "", "=2"])
        self.lines += ["", "class Gull:", *pick.choice([[], ['    """A gull."""', ""], ["    wings = 2", ""]])]
        if pick.random() < 0.8:
            self.lines += [f"    def __init__(self, size{default}):", "        self.size = size"]
            self.lines += [f"        self.seen = {pick.choice(self.numbers)}"] if pick.random() < 0.3 else []
            given = pick.choice(["3", "size=1"] + ([""] if default else []))
        else:
            self.lines += ["    size = 1"]
            given = ""
        for name in ("look", "take", "dive"):
            self.lines += ["", f"    def {name}(self, n=1):", *self.method_lines()]
        self.lines += ["        return [self.size, n]", "", f"gull = Gull({given})"]
        if pick.random() < 0.4:
            self.lines += [f"def breed():\n    return Gull({given}).look()\n"]
            self.functions.append(("breed", 0, False))
        self.lines += ["def fly():", "    gull.take(2)", "    print(gull.look(), gull.size, gull.dive())", ""]
        self.functions.append(("fly", 0, False))

    def method_lines(self) -> list[str]:
        pick = self.chance
        number = pick.choice(self.numbers)
        lines = [f"        global {number}", f"        {number} += n"] if pick.random() < 0.5 else []
        lines += [f"        n += {pick.choice(self.numbers)}"] if pick.random() < 0.5 else []
        if self.lists and pick.random() < 0.4:
            lines.append(f"        {pick.choice(self.lists)}.append(self.size)")
        plain = [name for name, parameters, _ in self.functions if not parameters]
        if plain and pick.random() < 0.3:
            lines.append(f"        {pick.choice(plain)}()")
        return [*lines, "        print(self.size, n)"]


def write_classes(seed: int) -> str:
    """A random script with a class of its own."""
    return ClassWriter(random.Random(seed)).text()


def write_script(seed: int) -> str:
    """The script of a seed."""
    return ScriptWriter(random.Random(seed)).text()


def write_whole(seed: int) -> str:
    """The script of a seed as one function with inner functions, whose locals are the state."""
    lines = write_script(seed).splitlines()
    pick = random.Random(seed)
    first = next(n for n, line in enumerate(lines) if line.startswith("from math")) + 1
    guard = next((n for n, line in enumerate(lines) if line.startswith("if __name__")), None)
    if guard is not None:
        lines = lines[:guard] + [line.removeprefix("    ") for line in lines[guard + 1 :]]
    body = [re.sub(r"^( +)global ", r"\1nonlocal ", line) for line in lines[first:]]
    quoted = False
    shifted = []
    for line in body:
        shifted.append(line if quoted or not line else f"    {line}")
        quoted ^= line.count('"""') % 2 == 1
    ways = [
        "main()",
        "main()\nprint('after')",
        "if __name__ == '__main__':\n    main()",
        "end = main()\nprint(end)",
        "print(main())",
    ]
    way = pick.randrange(len(ways))
    leave = ["", "    return 3", "    return total"][pick.randrange(3) if way < 3 else pick.randint(1, 2)]
    if way in (0, 2) and pick.random() < 0.5:
        at = max(n for n, line in enumerate(shifted) if line.startswith("    total = "))
        loop = next(n for n in range(at, len(shifted)) if re.match(r"    (while|for) ", shifted[n]))
        shifted.insert(loop + 1, "        if total > 3:\n            return")
    return "\n".join([*lines[:first], "", "", "# all of it", "def main():", *shifted, leave, "", "", ways[way], ""])


def play_here(folder: Path, script: str) -> str:
    """Run a script in this process and in its folder; return what it printed, and the error that ended it."""
    out = io.StringIO()
    known = set(sys.modules)
    sys.path.insert(0, str(folder))
    random.seed(3)
    try:
        with contextlib.chdir(folder), contextlib.redirect_stdout(out):
            code = compile((folder / script).read_bytes(), script, "exec")
            exec(code, {"__name__": "__main__", "__file__": str(folder / script)})
    except (Exception, SystemExit) as error:
        kind = "NameError" if isinstance(error, AttributeError | NameError) else type(error).__name__
        out.write(f"\n{kind}")
    finally:
        sys.path.remove(str(folder))
        for name in set(sys.modules) - known:
            del sys.modules[name]
    return out.getvalue()


def random_design(program: Program, chance: random.Random) -> Design:
    """Variables and functions dealt out to classes at random."""
    module = program.main
    fields = [symbol.name for symbol in MainCode(module).fields]
    functions = [function.name for function in module.functions]
    chance.shuffle(fields)
    chance.shuffle(functions)
    classes = []
    for number in range(chance.randint(1, 3)):
        taken, fields = fields[: (size := chance.randint(1, 3))], fields[size:]
        if not taken:
            break
        methods = [functions.pop() for _ in range(min(len(functions), chance.randint(0, 2)))]
        classes.append(
            ClassPlan(
                f"Thing{number}",
                f"thing{number}.py",
                f"thing{number}",
                fields=[FieldPlan(name, f"f_{name}", chance.choice(["argument", "fixed"])) for name in taken],
                methods=[MethodPlan(name, f"m_{name}") for name in methods],
            )
        )
    return Design([SourcePlan(module.path.name, module.source.digest)], "Owner", classes)


def changed_outcome(text: str, change: Callable[[Program], Program]) -> str:
    """Change a script by moves and run both: `same`, `refused` where a move is, or `different: …`."""
    with tempfile.TemporaryDirectory() as work:
        script = Path(work) / "script.py"
        script.write_text(text)
        before = play_here(script.parent, script.name)
        try:
            program = change(read_program([SourceText.read(script)], DIALECT))
        except RefusedError:
            return "refused"
        script.write_bytes(program.main.source.encode())
        now = play_here(script.parent, script.name)
        return "same" if before == now else f"different:\n{text}\n----\n{script.read_text()}\n{before}\n{now}"


def outcome(text: str, chance: random.Random | None = None, play: Callable[[Path, str], str] | None = None) -> str:
    """Build a script and run both: `same`, `refused: …`, or `different: …`.

    The design is drafted, or made at random where `chance` is given; `play` runs a script of a folder.
    """
    play = play or play_here
    with tempfile.TemporaryDirectory() as work:
        before, after = Path(work) / "before", Path(work) / "after"
        before.mkdir()
        after.mkdir()
        script = before / "script.py"
        script.write_text(text)
        program = read_program([SourceText.read(script)], DIALECT)
        try:
            ready = prepared(program)
            design = propose(program) if chance is None else random_design(ready, chance)
            built = build(program, design)
        except RefusedError as error:
            return f"refused: {error.reason}"
        for name, data in new_files(program, built).items():
            (after / name).parent.mkdir(exist_ok=True)
            (after / name).write_bytes(data)
        one, two = play(before, "script.py"), play(after, "script.py")
        if one == two:
            return "same"
        return f"different:\n{text}\n----\n{_all_text(after)}\n----\n{one}\n----\n{two}"


def _all_text(folder: Path) -> str:
    return "\n".join(f"## {path.name}\n{path.read_text()}" for path in sorted(folder.glob("*.py")))
