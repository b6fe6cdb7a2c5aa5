"""Writes scripts in which something lies in wait for a careless rewriting: one or several hazards among plain state.

Each hazard is a function that is given random choices and a word of its own, and gives back the lines that it adds: to
the imports, to the top-level code in its order, and to the turns of the main loop. They are found by their names.
"""

from __future__ import annotations

import random
import subprocess
import sys
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from textwrap import dedent

_WORDS = ["ferry", "tide", "kite", "gauge", "seed", "quay", "rope", "buoy"]


@dataclass
class Lines:
    """What one hazard adds; `top` holds pieces that keep their order, others may come between them."""

    top: list[str] = field(default_factory=list)
    turn: list[str] = field(default_factory=list)
    imports: list[str] = field(default_factory=list)


Hazard = Callable[[random.Random, str], Lines]


def _piece(text: str) -> str:
    return dedent(text).strip("\n")


def plain_state(pick: random.Random, w: str) -> Lines:
    """State that is easy to gather."""
    first = pick.choice(["3", "[1, 2]", "'low'", "{'a': 1}", "None", "(1, 2)"])
    change = {"3": "+= 1", "[1, 2]": "+= [3]", "'low'": "+= '!'", "{'a': 1}": "|= {'b': 2}"}.get(first, "= 7")
    return Lines(
        [
            f"{w}_x = 0\n{w}_y = {first}",
            f"def move_{w}():\n    global {w}_x, {w}_y\n    {w}_x += 1\n    {w}_y {change}",
        ],
        [f"move_{w}()", f"print({w}_x, {w}_y)"],
    )


def values_in_time(pick: random.Random, w: str) -> Lines:
    """First values that cannot all be worked out at one time."""
    middle = pick.choice(
        [
            f"{w}_y = random.randint(1, 99)",
            f"{w}_y = {w}_x\n{w}_x += 1",
            f"{w}_y = 0\nfor {w}_step in range(3):\n    {w}_y += {w}_step",
            f"if {w}_x > 2:\n    {w}_y = ask()\nelse:\n    {w}_y = 4",
            f"try:\n    {w}_y = int('x{w}')\nexcept ValueError:\n    {w}_y = ask()",
            f"{w}_y = ask()\nwhile {w}_y < 3:\n    {w}_y = ask()",
            f"{w}_y = len([1 for _ in range({w}_x)]) + ask()",
        ]
    )
    noise = pick.choice(["print('between')", "random.random()", f"print({w}_x)", "pass"])
    return Lines(
        [
            f"{w}_x = {pick.randint(1, 5)}",
            middle,
            noise,
            pick.choice([f"{w}_z = random.random()", f"{w}_z = {w}_y * 2", f"{w}_z = [{w}_y]"]),
            f"def move_{w}():\n    global {w}_x, {w}_y, {w}_z\n    {w}_x += 1\n    {w}_y += {w}_x\n    {w}_z = ({w}_z, 1)[0]",
            f"def show_{w}():\n    print({w}_x, {w}_y, {w}_z)",
        ],
        [f"move_{w}()", f"show_{w}()"],
    )


def shared_objects(pick: random.Random, w: str) -> Lines:
    """Values changed through another name, an element, a loop variable or a library call."""
    change = pick.choice(
        [
            f"{w}_other = {w}_list\n{w}_other.append(9)",
            f"random.shuffle({w}_list)",
            f"for each in [{w}_list, {w}_more]:\n    each.append(4)",
            f"{w}_all = [{w}_list]\n{w}_all[0].insert(0, 5)",
            f"heapq.heappush({w}_list, 0)",
            f"{w}_list.sort(reverse=True)",
            f"vars_of_{w} = {{'l': {w}_list}}\nvars_of_{w}['l'] += [8]",
        ]
    )
    return Lines(
        [
            f"{w}_list = [3, 1, 2]\n{w}_more = []",
            change,
            pick.choice([f"{w}_first = {w}_list[0]", f"{w}_first = list({w}_list)", f"{w}_first = sum({w}_list)"]),
            f"def grow_{w}():\n    global {w}_first\n    {w}_list.append({w}_first)\n    {w}_first = len({w}_list)",
        ],
        [f"grow_{w}()", f"print({w}_list, {w}_first, {w}_more)"],
        ["import heapq"],
    )


def class_attributes(pick: random.Random, w: str) -> Lines:
    """Values kept on a class, and operators of the script's own that do something."""
    name = w.capitalize()
    return Lines(
        [
            _piece(f"""
            class {name}Box:
                count = 0
                def __init__(self):
                    {name}Box.count += 1
                def __add__(self, other):
                    print("adding {w}")
                    {name}Box.count += other
                    return {name}Box.count
            """),
            f"{w}_box = {name}Box()",
            f"{w}_now = {name}Box.count",
            pick.choice([f"{name}Box.count = 5", f"{w}_sum = {w}_box + 2", "print('quiet')"]),
            f"{w}_later = {name}Box.count",
            f"def use_{w}():\n    global {w}_now, {w}_later\n    {w}_now += {w}_later\n    {w}_later = {w}_box + 1",
        ],
        [f"use_{w}()", f"print({w}_now, {w}_later, {name}Box.count)"],
    )


def late_imports(pick: random.Random, w: str) -> Lines:
    """Imports behind what may prepare them, in parts, and in functions."""
    return Lines(
        [
            f"{w}_n = 1",
            pick.choice([f"os.environ['{w.upper()}'] = '4'", "sys.path.insert(0, os.getcwd())", "print('loading')"]),
            pick.choice(
                ["import string", "import xml.dom\nimport xml.sax", "from math import *", "import os.path as way"]
            ),
            f"{w}_text = {pick.choice(['os.sep', 'str(len(sys.argv))', 'os.environ.get(' + repr(w.upper()) + ', chr(63))'])}",
            f"def read_{w}():\n    global {w}_n\n    import json\n    {w}_n += len(json.dumps({w}_text))",
        ],
        [f"read_{w}()", f"print({w}_n, {w}_text)"],
        ["import os", "import sys"],
    )


def own_objects(pick: random.Random, w: str) -> Lines:
    """Classes of the script that use its state, and are made, copied or derived in other ways than by name."""
    name = w.capitalize()
    base = pick.choice(["", "(int)", "(tuple)", "(dict)"])
    make = pick.choice(["type(self)()", "self.__class__()", f"{name}Thing.make()"])
    made = pick.choice([f"{name}Thing()", f"{name}Thing.make()", f"copy.copy({name}Thing())", f"type({name}Thing())()"])
    return Lines(
        [
            f"{w}_made = 0\n{w}_log = []",
            _piece(f"""
            class {name}Thing{base}:
                def note(self):
                    global {w}_made
                    {w}_made += 1
                    {w}_log.append({w}_made)
                def other(self):
                    return {make}
                @classmethod
                def make(cls):
                    return cls()
            """),
            f"{w}_thing = {made}",
            f"def turn_{w}():\n    global {w}_thing\n    {w}_thing.note()\n    {w}_thing = {w}_thing.other()",
        ],
        [f"turn_{w}()", f"print({w}_made, {w}_log)"],
        ["import copy"],
    )


def hooked_classes(pick: random.Random, w: str) -> Lines:
    """Classes whose making is noticed: by a hook, a metaclass, a decorator, or in their bodies."""
    name = w.capitalize()
    way = pick.randint(0, 3)
    base, mark = f"({name}Base)", ""
    if way == 0:
        body = f"class {name}Base:\n    def __init_subclass__(cls):\n        {w}_seen.append(cls.__name__)"
    elif way == 1:
        body = (
            f"class {name}Meta(type):\n    def __new__(m, n, b, d):\n        {w}_seen.append(n)\n"
            f"        return super().__new__(m, n, b, d)\n\n\nclass {name}Base(metaclass={name}Meta):\n    pass"
        )
    elif way == 2:
        body, base, mark = f"def mark_{w}(c):\n    {w}_seen.append(c.__name__)\n    return c", "", f"@mark_{w}\n"
    else:
        body, base = f"print('{w} begins')", ""
    return Lines(
        [
            f"{w}_seen = []",
            body,
            pick.choice([f"{w}_seen.append('between')", f"print({w}_seen)", "pass"]),
            f"{mark}class {name}One{base}:\n    print('body of {w}')\n    size = len({w}_seen)",
            f"{w}_size = {name}One.size",
            f"def grow_{w}():\n    global {w}_size\n    {w}_size += 1\n    {w}_seen.append({w}_size)",
        ],
        [f"grow_{w}()", f"print({w}_seen, {w}_size)"],
    )


def meanwhile(pick: random.Random, w: str) -> Lines:
    """Code that runs in between: threads, generators, callbacks, signals."""
    way = pick.randint(0, 4)
    start = [
        f"{w}_thread = threading.Thread(target=work_{w})\n{w}_thread.start()\n{w}_thread.join()",
        f"list(map(lambda _: work_{w}(), range(2)))",
        f"sorted([3, 1], key=lambda n: (work_{w}(), n)[1])",
        f"signal.signal(signal.SIGUSR1, lambda *a: work_{w}())\nos.kill(os.getpid(), signal.SIGUSR1)",
        f"with ThreadPoolExecutor(1) as pool_{w}:\n    pool_{w}.submit(work_{w}).result()",
    ][way]
    return Lines(
        [
            f"{w}_done = 0\n{w}_wait = 1",
            f"def work_{w}():\n    global {w}_done\n    {w}_done += {w}_wait",
            _piece(f"""
            def steps_{w}():
                global {w}_wait
                for n in range(2):
                    {w}_wait += n
                    yield {w}_wait
                    work_{w}()
            """),
            _piece(f"""
            def check_{w}(limit):
                before = {w}_done
                for n in steps_{w}():
                    print(n, {w}_done - before, limit)
            """),
            start,
        ],
        [f"check_{w}({w}_done)", start if way in (1, 2) else f"work_{w}()", f"print({w}_done, {w}_wait)"],
        ["import os", "import signal", "import threading", "from concurrent.futures import ThreadPoolExecutor"],
    )


def functions_as_values(pick: random.Random, w: str) -> Lines:
    """Functions kept, compared, copied, wrapped, named and given away."""
    use = pick.choice(
        [
            f"print({w}_table['a'] == act_{w}, act_{w} in {w}_table.values())",
            f"print({w}_table['a'] is act_{w})",
            f"print(copy.deepcopy({w}_table)['a'](1))",
            f"print(act_{w}.__name__, callable(act_{w}))",
            f"print(functools.partial(act_{w}, 2)())",
            f"print(len({{act_{w}, {w}_table['a'], rest_{w}}}))",
            f"{w}_queue.append(act_{w})\n{w}_queue.remove(act_{w})\nprint(len({w}_queue))",
            f"print(type(act_{w}).__name__)",
            f"print(str({w}_table['a'])[:9])",
            f"act_{w}.calls = 3\nprint(act_{w}.calls)",
            f"print(inspect.signature(act_{w}))",
            f"print(weakref.ref(act_{w})() is not None)",
        ]
    )
    imports = {
        "copy.": "import copy",
        "functools": "import functools",
        "inspect": "import inspect",
        "weakref": "import weakref",
    }
    return Lines(
        [
            f"{w}_hits = 0\n{w}_queue = []",
            f"def act_{w}(n):\n    global {w}_hits\n    {w}_hits += n\n    return {w}_hits",
            f"def rest_{w}(n):\n    {w}_queue.append(n)\n    return -n",
            f"{w}_table = {{'a': act_{w}, 'b': rest_{w}}}",
        ],
        [f"{w}_table['a'](2)", f"{w}_table['b'](1)", use, f"print({w}_hits, {w}_queue)"],
        [text for mark, text in imports.items() if mark in use],
    )


def decorated(pick: random.Random, w: str) -> Lines:
    """Decorators of the script, and definitions in blocks."""
    head = pick.choice([f"@noted_{w}", f"@{w}_seen.append", "@functools.cache", f"if len({w}_seen) < 9:"])
    is_block = head.startswith("if")
    body = f"def act_{w}(n=1):\n    global {w}_level\n    {w}_level += n\n    return {w}_level"
    shown = "\n".join(f"    {line}" for line in body.split("\n")) if is_block else body
    calls = [f"act_{w}()"] if not head.startswith(f"@{w}") else [f"{w}_seen[0](2)"]
    return Lines(
        [
            f"{w}_seen = []\n{w}_level = 0",
            _piece(f"""
            def noted_{w}(function):
                def inner(*given):
                    {w}_seen.append(function.__name__)
                    return function(*given)
                return inner
            """),
            pick.choice([f"{w}_level = 3", "print('ready')", "pass"]),
            f"{head}\n{shown}",
            f"def also_{w}():\n    global {w}_level\n    {w}_level += 10",
        ],
        [*calls, f"also_{w}()", f"print({w}_level, len({w}_seen))"],
        ["import functools"],
    )


def lifetimes(pick: random.Random, w: str) -> Lines:
    """Files, and objects that tell when they go."""
    keep = pick.choice([f"{w}_door = Door{w}()", f"Door{w}()", f"{w}_doors = [Door{w}(), Door{w}()]"])
    return Lines(
        [
            f"{w}_open = 0",
            f"class Door{w}:\n    def __del__(self):\n        print('{w} shut')",
            f"def note_{w}(text):\n    global {w}_open\n    {w}_open += 1\n    out = open('{w}.txt', 'a')\n    out.write(text)",
            keep,
            pick.choice([f"atexit.register(print, 'end of {w}')", f"{w}_open = 2", "pass"]),
        ],
        [f"note_{w}('x')", f"print({w}_open, open('{w}.txt').read())"],
        ["import atexit"],
    )


def told_places(pick: random.Random, w: str) -> Lines:
    """Names of classes, functions and modules that show."""
    name = w.capitalize()
    show = pick.choice(
        [
            f"print({name}Error.__name__, {name}Error.__module__)",
            f"print({w}_point._replace(x=3))",
            f"print(repr({name}Error('a')))",
            f"print(fail_{w}.__qualname__)",
            f"try:\n    fail_{w}()\nexcept {name}Error as error:\n    print(type(error), error)",
            f"print(sorted(n for n in dir() if n.startswith('{w}')))",
        ]
    )
    return Lines(
        [
            f"{w}_tries = 0",
            f"class {name}Error(Exception):\n    pass",
            f"{name}Point = namedtuple('{name}Point', 'x y')\n{w}_point = {name}Point(1, 2)",
            f"def fail_{w}():\n    global {w}_tries, {w}_point\n    {w}_tries += 1\n    {w}_point = {name}Point({w}_tries, 0)\n"
            f"    if {w}_tries > 9:\n        raise {name}Error({w}_tries)",
        ],
        [f"fail_{w}()", f"print({w}_tries, {w}_point)", show],
        ["from collections import namedtuple"],
    )


def seen_names(pick: random.Random, w: str) -> Lines:
    """Names that are shadowed, deleted, rebound, or looked at by their texts."""
    odd = pick.choice(
        [
            f"{w}_tmp = 3\ndel {w}_tmp",
            f"def redo_{w}():\n    return 1\nredo_{w}()\ndef redo_{w}():\n    return 2",
            f"{w}_len = len\n{w}_max = max(1, 2)",
            f"for {w}_i in range(2): pass",
            f"{w}_pair = {w}_a, {w}_b = 1, 2",
            f"{w}_f = [lambda: {w}_n for _ in range(2)]",
        ]
    )
    look = pick.choice(
        [
            f"print('%({w}_local)d' % locals())",
            "print(sorted(locals()))",
            f"print({w}_local)",
            f"print(eval('a + 1', {{'a': {w}_local}}))",
            f"print(f'{{{w}_n=}}')",
        ]
    )
    return Lines(
        [
            f"{w}_n = 1",
            odd,
            f"def look_{w}({w}_x):\n    global {w}_n\n    {w}_n += {w}_x\n    {w}_local = {w}_n * 2\n    {look}",
            f"def show_{w}():\n    {w}_n = 5\n    return {w}_n",
        ],
        [f"look_{w}(2)", f"print({w}_n, show_{w}())"],
    )


HAZARDS: dict[str, Hazard] = {
    name: found
    for name, found in list(globals().items())
    if getattr(found, "__annotations__", {}).get("return") == "Lines"
}

_LOOPS: dict[str, str] = {
    "while": "turn = 0\nwhile turn < 3:\n    turn += 1\n{}",
    "for": "for turn in range(3):\n{}",
    "guard": "if __name__ == '__main__':\n    turn = 0\n    while turn < 2:\n        turn += 1\n{}",
    "function": "def main():\n    turn = 0\n    while turn < 2:\n        turn += 1\n{}\n\n\nmain()",
    "try": "turn = 0\ntry:\n    while turn < 2:\n        turn += 1\n{}\nfinally:\n    print('over')",
    "caught": "def main():\n    turn = 0\n    while turn < 2:\n        turn += 1\n{}\n\n\ntry:\n    main()\nexcept KeyError:\n    print('no')",
}


def write_hazards(seed: int, names: Sequence[str] = ()) -> str:
    """One script with the hazards of these names, or with up to three; the same seed gives the same script."""
    pick = random.Random(seed)
    words = pick.sample(_WORDS, 4)
    chosen = [plain_state, *(HAZARDS[name] for name in names or pick.sample(list(HAZARDS), pick.randint(1, 3)))]
    parts = [hazard(pick, word) for hazard, word in zip(chosen, words, strict=False)]
    imports = sorted({"import random", *(line for part in parts for line in part.imports)})
    lines = [*imports, "random.seed(5)", "answers = iter(range(1, 99))", "def ask():\n    return next(answers)"]
    queues = [list(part.top) for part in parts]
    while any(queues):
        queue = pick.choice([queue for queue in queues if queue])
        lines.append(queue.pop(0))
    turns = [line for part in pick.sample(parts, len(parts)) for line in part.turn]
    kind = pick.choice(list(_LOOPS))
    margin = " " * (4 if kind in ("while", "for") else 8)
    body = "\n".join(margin + line for turn in turns for line in turn.split("\n"))
    return "\n".join([*lines, "", _LOOPS[kind].format(body)]) + "\n"


def play_apart(folder: Path, script: str) -> str:
    """Run a script in a process of its own: what it printed, how it ended, its last word of error, and its files."""
    done = subprocess.run(
        [sys.executable, "-B", script], cwd=folder, capture_output=True, text=True, check=False, timeout=60
    )
    last = done.stderr.strip().splitlines()[-1:] if done.returncode else []
    files = {path.name: path.read_text() for path in sorted(folder.glob("*.txt"))}
    return f"{done.stdout}\n{done.returncode} {last} {files}"
