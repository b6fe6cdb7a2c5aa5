"""Scripts written at random in which a thing may not be there, and is asked for in many ways before it is used.

Some of these ways tell that it is there, some only look so: then it may be missing, and the script ends with an error.
"""

from __future__ import annotations

import random
import re
from pathlib import Path

from tests.support.scripts import play_here

_SCRIPT = """
import random

random.seed({seed})
carts = []


def add(name, load):
    carts.append({{"name": name, "load": load, "full": False}})


def find(name):
    for cart in carts:
        if cart["name"] == name:
            return cart
    return None


def fill(cart, by):
    print("filling by", by)
    cart["load"] += by
    cart["full"] = cart["load"] > 9
    return cart["full"]


def tip(cart):
    print("tipping")
    print(cart["name"], cart["load"])
    cart["load"] = 0


def forget():
    global found
    if random.random() < 0.3:
        found = None


add("red", 3)
add("blue", 8)
found = None
{main}
for cart in carts:
    print(cart["name"], cart["load"], cart["full"])
"""


def write_absences(seed: int) -> str:
    """A loop, or a function, that looks for things by name and does something with what it found."""
    chance = random.Random(f"absence {seed}")
    is_apart = chance.random() < 0.4
    leaving = "return" if is_apart else "continue"
    turns = [line for _ in range(chance.randint(1, 3)) for line in _turn(chance, leaving)]
    names = [chance.choice(["red", "blue", "green"]) for _ in range(5)]
    if is_apart:
        shared = ["    global found"] if chance.random() < 0.4 else []
        lines = ["def turn(word):", *shared, '    print("word", word)', *turns]
        lines += [f"for word in {names}:", "    turn(word)"]
    else:
        lines = [f"for word in {names}:", '    print("word", word)', *turns]
    text = _SCRIPT.format(seed=seed, main="\n".join(lines))
    return text if "forget()" in "\n".join(turns) else text.replace(_forgetting(text), "")


def play_absent(folder: Path, script: str) -> str:
    """Run a script, with one name for the errors of asking nothing at all: tables and objects differ in that."""
    return re.sub(r"\n(TypeError|NameError)$", "\nnothing there", play_here(folder, script))


def _forgetting(text: str) -> str:
    start = text.index("def forget")
    return text[start : text.index("add(", start)]


def _turn(chance: random.Random, leaving: str) -> list[str]:
    use = chance.choice(["tip(found)", "fill(found, 2)", "print(fill(found, 3))"])
    other = chance.choice(["print('none')", "pass", "found = carts[0]", "word = 'red'"])
    inner = f"    {use}"
    leaving = chance.choice([leaving, leaving, "raise ValueError(word)", "print('gone')"])
    between = chance.choice(["", "", "", "forget()", "found = find('red')", "print(len(carts))"])
    ways = [
        ["if found is not None:", inner],
        ["if found:", inner, "else:", f"    {other}"],
        ["if found is None:", f"    {other}", "else:", inner],
        ["if found is None:", f"    {leaving}", between, use],
        ["if not found:", f"    {leaving}", between, use],
        ["if found is None:", "    print('none')", 'elif word == "red":', inner, "else:", inner],
        ['if word == "red":', "    print('red')", "elif found is None:", f"    {other}", "else:", inner],
        ['if found is not None and found["load"] > 2:', inner],
        ['if found is None or word == "blue":', f"    {leaving}", between, use],
        ['if found is not None or word == "red":', inner],
        ["if found and fill(found, 1):", f"    {other}"],
        ["print(found and fill(found, 1))"],
        ['print(fill(found, 1) if found is not None else "no")'],
        ['print("no" if found is not None else fill(found, 1))'],
        ['print(found["name"])', between, use],
        ['if found["load"] > 4:', "    print('much')", between, use],
        ['if word == "red" and found["load"] > 4:', "    print('much')", use],
        ["while found is not None:", inner, '    if found["load"] > 20:', "        break", "    found = find('green')"],
        ["while found is None:", "    found = find('red')", use],
        ["if found is None:", "    found = find('blue')", between, use],
        ["try:", '    print(found["name"])', f"    {use}", "except TypeError:", "    print('error')"],
        ["if found != None:", inner],
        ["later = lambda: fill(found, 1)", "if found:", "    print(later())", "found = None"],
        [use],
    ]
    lines = ["found = find(word)", *chance.choice(ways)]
    return [f"    {line}" for line in lines if line]
