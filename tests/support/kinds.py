"""Scripts written at random in which things of one kind occur, stored in every way and used in many.

Each is made so that it runs to its end, and prints what became of everything. Unless they are to be plain, some of what
they do only their store can: print a record whole, look into it by a computed key, compare two, let lists grow apart.
"""

from __future__ import annotations

import ast
import random
import re
from collections.abc import Sequence
from pathlib import Path
from typing import Protocol

from aedifex.construction.propose import propose
from aedifex.design.document.design import KindPlan
from aedifex.languages.python import DIALECT
from aedifex.program.reading import read_program
from aedifex.source.text import SourceText

_NOUNS = ["kite", "lamp", "packet", "gauge", "cart"]
_NUMBERS = ["x", "height", "load", "hours", "count"]
_TRUTHS = ["lit", "up", "full"]
_TEXTS = ["name", "color", "label"]
_WORDS = ["red", "blue", "green", "tall", "north"]


class _Thing:
    """What one script's things have: a noun, numbers, a truth and a text; named as people do, or by single letters."""

    def __init__(self, chance: random.Random, named: bool) -> None:
        self.chance = chance
        self.noun = chance.choice(_NOUNS) if named else "t"
        self.numbers = chance.sample(_NUMBERS, chance.randint(1, 3))
        self.truth = chance.choice(_TRUTHS)
        self.text = chance.choice(_TEXTS)
        if not named:
            self.numbers = ["q", "v", "w"][: len(self.numbers)]
            self.truth, self.text = "d", "e"
        self.keys = [self.text, *self.numbers, self.truth]

    def value(self, key: str) -> str:
        """A first value, as text."""
        if key in self.numbers:
            return str(self.chance.randint(0, 20))
        return self.chance.choice(["True", "False"]) if key == self.truth else repr(self.chance.choice(_WORDS))

    def number(self) -> str:
        return self.chance.choice(self.numbers)


def write_twins(seed: int, *, named: bool = True, plain: bool = False) -> str:
    """Things in variables of their own, with functions of their own."""
    chance = random.Random(seed)
    thing = _Thing(chance, named)
    marks = [str(number) for number in range(1, chance.randint(3, 4))]
    if chance.random() < 0.3:
        marks = chance.choice([["left", "right"], ["red", "blue", "green"], ["top", "bottom"]])

    def name(mark: str, key: str) -> str:
        return f"{thing.noun}{mark}_{key}" if mark.isdigit() else f"{mark}_{key}"

    lines = ["import random", "", "random.seed(3)", "turn = 0", ""]
    in_rows = chance.random() < 0.3
    order = [(m, k) for k in thing.keys for m in marks] if in_rows else [(m, k) for m in marks for k in thing.keys]
    for mark, key in order:
        lines.append(f"{name(mark, key)} = {thing.value(key)}")
    families = [_family(thing, chance, number) for number in range(chance.randint(1, 3))]
    for title, body in families:
        for mark in marks:
            odd = body if chance.random() < 0.93 or plain else [line.replace("1", "2") for line in body]
            text = [line.replace("@", f"{name(mark, '')}") for line in odd]
            used = sorted({name(mark, key) for key in thing.keys if any(name(mark, key) in line for line in text)})
            lines += ["", "", f"def {title}_{thing.noun}{mark}(by):", f"    global {', '.join(used)}", *text]
    whole = [line for mark in marks for line in [f"    print({', '.join(name(mark, k) for k in thing.keys)})"]]
    lines += ["", "", "def show():", "    print('turn', turn)", *whole, "", ""]
    lines += ["while turn < 5:", "    turn += 1"]
    for title, _ in families:
        for mark in marks if chance.random() < 0.8 else reversed(marks):
            lines.append(f"    {title}_{thing.noun}{mark}({chance.choice(['turn', '2'])})")
    if chance.random() < 0.4:
        lines.append(f"    if {name(marks[0], thing.number())} > 9:")
        lines.append(f"        {name(marks[-1], thing.number())} += 1")
    if chance.random() < 0.2:
        lines.append(f"    handler = {families[0][0]}_{thing.noun}{marks[-1]}")
        lines.append("    handler(1)")
    lines += ["    show()", f"print({' + '.join(name(m, thing.numbers[0]) for m in marks)})"]
    return "\n".join(lines) + "\n"


def _family(thing: _Thing, chance: random.Random, number: int) -> tuple[str, list[str]]:
    """A function about one copy, `@` standing for the beginning of its variables' names."""
    title = ["update", "move", "check"][number]
    body = [f"    @{thing.number()} += by"]
    choices = [
        [f"    if @{thing.number()} > 12:", f"        @{thing.truth} = not @{thing.truth}"],
        [f"    step = @{thing.number()} % 3", f"    @{thing.number()} -= step"],
        [f"    if random.random() < 0.5 and @{thing.truth}:", f"        @{thing.number()} += 1"],
        [f"    print(@{thing.text}, @{thing.number()})"],
        [f"    @{thing.number()}, @{thing.truth} = 1, False"],
    ]
    for part in chance.sample(choices, chance.randint(1, 3)):
        body += part
    return title, body


def write_columns(seed: int, *, named: bool = True, plain: bool = False) -> str:
    """Things in lists side by side."""
    chance = random.Random(seed)
    thing = _Thing(chance, named)
    has_noun = chance.random() < 0.6
    names = {key: f"{thing.noun}_{key}" if has_noun else f"{key}s" for key in thing.keys}
    size = chance.randint(0, 3)
    lines = ["import random", "", "random.seed(5)", "turn = 0", ""]
    for key in thing.keys:
        lines.append(f"{names[key]} = [{', '.join(thing.value(key) for _ in range(size))}]")
    first = names[thing.keys[0]]
    adding = [
        f"    {names[key]}.append({thing.value(key) if key != thing.numbers[0] else 'size'})" for key in thing.keys
    ]
    if chance.random() < 0.15 and not plain:
        adding.insert(1, "    print('adding')")
    lines += ["", "", f"def add_{thing.noun}(size):", *adding]
    number, other = names[thing.number()], names[thing.number()]
    truth, text = names[thing.truth], names[thing.text]
    updates = [
        [
            f"    for i in range(len({first})):",
            f"        {number}[i] += by",
            f"        if {number}[i] > 15:",
            f"            {truth}[i] = not {truth}[i]",
        ],
        ["    i = 0", f"    while i < len({first}):", f"        {number}[i] -= 1", f"        if {number}[i] < -2:"]
        + [f"            del {names[key]}[i]" for key in thing.keys]
        + ["        else:", "            i += 1"],
        ["    i = 0", f"    while i < len({first}):", f"        {number}[i] += by", f"        if {number}[i] > 12:"]
        + [f"            del {names[key]}[i]" for key in thing.keys]
        + [f"        elif {other}[i] % 3 == 1 and {truth}[i]:", f"            print({text}[i])"]
        + [f"            del {names[key]}[i]" for key in thing.keys]
        + ["        else:", "            i += 1"],
        [
            f"    if len({first}) > 2:",
            f"        {first}.pop({chance.choice(['', '', '0', '-1'])})",
            *(f"        {names[key]}.pop()" for key in thing.keys[1:]),
        ],
        [f"    if len({first}) > 1:", *(f"        {names[key]}.pop(0)" for key in thing.keys)],
        [f"    for i, word in enumerate({text}):", f"        print(i, word, {other}[i])"],
        [f"    for one, two in zip({text}, {number}):", "        print(one, two)"],
        [f"    print(sum({number}), max({number} + [0]), {text}.count('red'))"],
        [f"    print(sum({number}), sorted({other}), 'red' in {text})"],
        [f"    for i in range(len({first})):", f"        j = (i + 1) % len({first})", f"        print({text}[j], i)"],
        [f"    for word in {text}:", "        print(word)"],
        [f"    for i in range(len({first}) - 1, -1, -1):", f"        if {truth}[i] and {number}[i] > 20:"]
        + [f"            del {names[key]}[i]" for key in thing.keys],
    ]
    if chance.random() < 0.1 and not plain:
        updates.append([f"    print({number})", f"    {number}.sort()"])
    functions = chance.sample(updates, chance.randint(2, 4))
    for at, body in enumerate(functions):
        lines += ["", "", f"def work_{at}(by):", *body]
    lines += ["", "", "while turn < 6:", "    turn += 1", f"    if turn < 4:\n        add_{thing.noun}(turn)"]
    lines += [f"    work_{at}({chance.choice(['1', 'turn', '3'])})" for at in range(len(functions))]
    lines += [f"for i in range(len({first})):", f"    print({', '.join(names[key] + '[i]' for key in thing.keys)})"]
    return "\n".join(lines) + "\n"


def write_spread_columns(seed: int) -> str:
    """Things in lists side by side, some of which say how often they hold the same value."""
    chance = random.Random(f"spread {seed}")
    lines = write_columns(seed).split("\n")
    starts = [at for at, line in enumerate(lines) if re.fullmatch(r"\w+ = \[.*\]", line)]
    size = chance.choice([2, 3, 5])
    names = [lines[at].partition(" ")[0] for at in starts]
    is_all = chance.random() < 0.3
    for number, at in enumerate(starts):
        value = chance.choice(["0", "7", "1.5", "[]", "[0] * 3", "None"]) if "'" not in lines[at] else "'red'"
        counts = ["COUNT", str(size), *([f"len({names[0]})"] if number else [])]
        ways = [f"[{value}] * {chance.choice(counts)}", f"[{value} for _ in range({chance.choice(counts)})]"]
        ways += [f"[{value} for _ in {names[0]}]"] if number else []
        written = ", ".join(str(value) for _ in range(size))
        is_spread = is_all or chance.random() < 0.5
        lines[at] = f"{names[number]} = {chance.choice(ways) if is_spread else f'[{written}]'}"
    lines.insert(starts[0], f"COUNT = {size}")
    if chance.random() < 0.1:
        lines.insert(starts[1] + 1, chance.choice([f"{names[0]}.append(0)", f"{names[0]} = []", "print('so far')"]))
    text = "\n".join(lines)
    if chance.random() < 0.5:
        text = text.replace(f"range(len({names[0]}))", "range(COUNT)")
    if chance.random() < 0.6:
        text = re.sub(r"\n    if turn < 4:\n +add_\w+\(turn\)", "", text)
    return text


def write_records(seed: int, *, named: bool = True, plain: bool = False) -> str:
    """Things in tables with plain keys: made by a function or in place, held in a list, in variables, by key."""
    chance = random.Random(seed)
    thing = _Thing(chance, named)
    noun, plural = thing.noun, f"{thing.noun}s"
    lines = ["import random", "", "random.seed(7)", "turn = 0", f"{plural} = []", ""]
    given = thing.text
    entries = [f'"{key}": {key if key == given else thing.value(key)}' for key in thing.keys]
    ways = [
        [f"def make_{noun}({given}):", f"    return {{{', '.join(entries)}}}"],
        [f"def make_{noun}({given}):", "    made = {}"]
        + [f'    made["{key}"] = {key if key == given else thing.value(key)}' for key in thing.keys]
        + ["    return made"],
        [
            f"def make_{noun}({given}):",
            f"    made = {{{', '.join(entries[:-1])}}}",
            f"    made[{entries[-1].partition(': ')[0]}] = {entries[-1].partition(': ')[2]}",
            "    print('made')",
            "    return made",
        ],
    ]
    lines += ["", *chance.choice(ways), "", ""]
    number, other = thing.number(), thing.number()
    actions = [
        [f'    {noun}["{number}"] += by'],
        [f'    if {noun}["{thing.truth}"]:', f'        {noun}["{number}"] -= 2', f"        return {noun}"],
        [f'    {noun}["{thing.truth}"] = not {noun}["{thing.truth}"]', f'    print({noun}["{given}"], by)'],
        [f'    {noun}["{other}"], {noun}["{number}"] = by, {noun}["{other}"]'],
        [f'    print({noun}.get("{number}"), {noun}.get("{other}", 0))'],
        [f"    print(f\"{{{noun}['{given}']}}: {{{noun}['{number}']:>4}}\")"],
    ]
    chosen = chance.sample(actions, chance.randint(2, 4))
    for at, body in enumerate(chosen):
        parameters = f"{noun}, by" if chance.random() < 0.7 else f"by, {noun}"
        lines += [f"def act_{at}({parameters}):", *body, "", ""]
    signatures = [line for line in lines if line.startswith("def act_")]
    lines += [f"def find({given}):", f"    for one in {plural}:", f'        if one["{given}"] == {given}:']
    lines += ["            return one", "    return None", "", ""]
    odd = chance.random() + plain
    if odd < 0.06:
        lines.append(f"print(make_{noun}('x'))")
    elif odd < 0.12:
        lines.append(f"print(make_{noun}('x') == make_{noun}('x'))")
    elif odd < 0.18:
        lines += [f"for key in make_{noun}('x'):", "    print(key)"]
    elif odd < 0.24:
        lines += [f"twin = dict(make_{noun}('x'))", f'print(twin["{number}"])']
    elif odd < 0.3:
        lines += ["import json", f"print(json.dumps(make_{noun}('x'), sort_keys=True))"]
    for word in chance.sample(_WORDS, 3):
        lines.append(f"{plural}.append(make_{noun}({word!r}))")
    if chance.random() < 0.3:
        lines.append(
            f"{plural}.append({{{', '.join(f'{chr(34)}{k}{chr(34)}: {thing.value(k)}' for k in thing.keys)}}})"
        )
    lines += [f"first = {plural}[0]", "", "while turn < 5:", "    turn += 1"]
    for at, signature in enumerate(signatures):
        order = "one, turn" if f"({noun}, by)" in signature else "turn, one"
        lines += [f"    for one in {plural}:", f"        act_{at}({order})"]
    uses = [
        [f'    best = max({plural}, key=lambda one: one["{number}"])', f'    print(best["{given}"])'],
        [f'    {plural}.sort(key=lambda one: one["{other}"])'],
        [f'    print(sum(one["{number}"] for one in {plural}), len({plural}))'],
        ["    found = find('red')", "    if found is not None:", f'        print(found["{number}"], found is first)'],
        [f'    {plural} = [one for one in {plural} if one["{number}"] < 60]'],
        [f"    if len({plural}) > 2 and turn == 3:", f"        {plural}.remove({plural}[1])"],
        ["    for at, one in enumerate(" + plural + "):", f'        print(at, one["{thing.truth}"])'],
        [
            f'    by_name = {{one["{given}"]: one for one in {plural}}}',
            "    for word in sorted(by_name):",
            f'        print(word, by_name[word]["{number}"])',
        ],
        [f"    print(first in {plural}, {plural}.index(first) if first in {plural} else -1)"],
    ]
    for body in chance.sample(uses, chance.randint(2, 4)):
        lines += body
    lines += [f"for one in {plural}:", f"    print({', '.join(f'one[{chr(34)}{key}{chr(34)}]' for key in thing.keys)})"]
    return "\n".join(lines) + "\n"


class _Rows(ast.NodeTransformer):
    """Writes the tables of a script as rows, with what only rows can do here and there."""

    def __init__(self, keys: Sequence[str], chance: random.Random, *, are_settled: bool) -> None:
        self.keys = list(keys)
        self.chance = chance
        self.are_settled = are_settled

    @property
    def settled(self) -> list[str]:
        """The lines that give the numbers of places names, one by one or all at once."""
        names = [key.upper() for key in self.keys]
        lines = [f"{name} = {number}" for number, name in enumerate(names)]
        in_one = f"{', '.join(names)} = {', '.join(map(str, range(len(names))))}"
        return self.chance.choice([lines, [in_one]]) if self.are_settled else []

    def visit_Dict(self, node: ast.Dict) -> ast.AST:
        self.generic_visit(node)
        keys = [key.value if isinstance(key, ast.Constant) else None for key in node.keys]
        return ast.List(node.values, ast.Load()) if keys == self.keys else node

    def visit_Subscript(self, node: ast.Subscript) -> ast.AST:
        self.generic_visit(node)
        if isinstance(node.slice, ast.Constant) and node.slice.value in self.keys:
            node.slice = self.number(node.slice.value)
        return node

    def visit_Call(self, node: ast.Call) -> ast.AST:
        self.generic_visit(node)
        function = node.func
        if isinstance(function, ast.Attribute) and function.attr == "get" and isinstance(node.args[0], ast.Constant):
            return ast.Subscript(function.value, self.number(str(node.args[0].value)), ast.Load())
        if isinstance(function, ast.Name) and function.id == "dict":
            function.id = "list"
        return node

    def number(self, key: str) -> ast.expr:
        number = self.keys.index(key)
        is_odd = self.chance.random() < 0.02
        if self.are_settled and self.chance.random() < 0.9:
            return ast.Name(key.upper(), ast.Load())
        return ast.Constant(number - len(self.keys) if is_odd else number)


def _seed_of_rows(seed: int, named: bool, plain: bool) -> int:
    """The first seed from which tables are written that stand whole where they are made."""
    seeds = range(seed * 100, seed * 100 + 99)
    return next(seed for seed in seeds if "    made" not in write_records(seed, named=named, plain=plain))


def write_rows(seed: int, *, named: bool = True, plain: bool = False) -> str:
    """Things in rows of one length, asked for their places; now and then something that only a row can do."""
    chance = random.Random(seed)
    seed = _seed_of_rows(seed, named, plain)
    text = write_records(seed, named=named, plain=plain)
    thing = _Thing(random.Random(seed), named)
    rows = _Rows(thing.keys, chance, are_settled=chance.random() < 0.3)
    tree = rows.visit(ast.parse(text))
    plural = f"{thing.noun}s"
    odd = [
        f"one, *others = {plural}[0]\nprint(one, others)",
        f"print(len({plural}[0]), {plural}[0][1:])",
        f"for one in {plural}:\n    first, *others = one\n    print(first)",
        f"print({plural}[0] + [1])",
        f"print({plural}[0] == [1, 2])",
        f"{plural}[0].append(4)\nprint({plural}[0][-1])",
        f"print(max({plural}[0][:1]), 3 in {plural}[0])",
        f"print([one[turn % 2] for one in {plural}])",
        f"print(tuple({plural}[0]) in {{(1, 2): 3}})",
        f"print({plural} < [[0]])",
        f"print(f'{{{plural}[0]}}')",
        f"print(*{plural}[0])",
        f"for one, *others in {plural}:\n    print(one)",
        f"print(any({plural}[0]), sorted({plural}[0], key=str))",
    ]
    extra = chance.choice(odd) if chance.random() < 0.35 and not plain else ""
    ways = _unpackings(plural, thing.keys)
    unpacked = chance.choice(ways[:1] if plain else ways) if chance.random() < 0.6 or plain else ""
    return "\n".join([*rows.settled, ast.unparse(ast.fix_missing_locations(tree)), extra, unpacked]) + "\n"


def _unpackings(plural: str, names: Sequence[str]) -> list[str]:
    """Places where a row gives its places to several names, as a function or in the main code."""
    targets, first, last = ", ".join(names), names[0], names[-1]
    plain = [
        f"for {targets} in {plural}:\n    print({first}, {last})",
        f"for {targets} in {plural}:\n    print({first})\nprint({last})",
        f"for number, ({targets}) in enumerate({plural}):\n    print(number, {first}, {last})",
        f"for one in {plural}:\n    {targets} = one\n    one[0] = {last}\n    print({first}, one[0])",
        f"for {targets} in {plural}:\n    {plural}[0][0] = 9\n    print({first})",
        f"for {targets} in {plural}:\n    {first} = 3\n    print({first}, {last})",
        f"for {targets} in {plural}[:]:\n    print({last})\n    {plural}.pop()",
        f"print([{first} for {targets} in {plural} if {last}], any({first} == {last} for {targets} in {plural}))",
        f"later = [lambda: {first} for {targets} in {plural}]\nprint([one() for one in later])",
        f"{targets} = {plural}[0]\nprint({last})",
        f"for {targets} in {plural}:\n    print(f'{{{first}=}}')",
        f"one = {plural}[0]\n({targets}) = one\n{targets} = one\nprint({first})",
        f"first = {plural}[0]\n{first}, {last} = first[0], first[1]\nprint({first}, {last})",
        f"for {targets} in {plural}: print({first})",
    ]
    inside = [
        "def spread():\n" + "\n".join(f"    {line}" for line in text.split("\n")) + "\nspread()" for text in plain
    ]
    return [*plain, *inside, f"def take(one):\n    {targets} = one\n    return {last}\nprint(take({plural}[0]))"]


class Write(Protocol):
    """Writes a script for a seed."""

    def __call__(self, seed: int, *, named: bool = True, plain: bool = False) -> str: ...


def write_bare_objects(seed: int, *, named: bool = True, plain: bool = False) -> str:
    """The same things as objects of nothing but members."""
    text = write_records(seed, named=named, plain=plain)
    text = re.sub(r"""\{((?:["']\w+["']: [^{}]*)?)\}(?!['"}:])""", _bare, text)
    text = re.sub(r"""\.get\(["'](\w+)["'](?:, \w+)?\)""", r".\1", text)
    text = re.sub(r"""\[["'](\w+)["']\]""", r".\1", text)
    return text.replace("import random\n", "import random\nfrom types import SimpleNamespace\n", 1)


def _bare(table: re.Match[str]) -> str:
    members = re.sub(r"""["'](\w+)["']: """, r"\1=", table[1])
    return f"SimpleNamespace({members})"


STORES: dict[str, Write] = {
    "twins": write_twins,
    "columns": write_columns,
    "records": write_records,
    "rows": write_rows,
}


def plans_of(text: str) -> list[KindPlan]:
    """The kinds that a draft of a script makes classes of."""
    program = read_program([SourceText(Path("script.py"), text.encode())], DIALECT)
    return propose(program).kinds


def kinds_found(text: str, stores: Sequence[str] = tuple(STORES)) -> int:
    """How many kinds of some stores a draft of a script makes classes of."""
    return sum(plan.store in stores for plan in plans_of(text))


def keys_of(store: str, seed: int, *, named: bool = True, plain: bool = False) -> set[str]:
    """What the things of a script written for a seed have: the truth that a draft is held against."""
    if store == "rows":
        seed = _seed_of_rows(seed, named, plain)
    return set(_Thing(random.Random(seed), named).keys)
