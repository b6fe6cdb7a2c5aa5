"""Names declared twice, against what an engine loads."""

from __future__ import annotations

import json
import random
import shutil
import subprocess

import pytest

from aedifex.languages.javascript.reader.declared_twice import first_declared_twice
from aedifex.languages.javascript.reader.grammar import GRAMMAR

_LOADS = """
const vm = require("node:vm");
const loads = (text) => { try { return Boolean(new vm.Script(text)); } catch { return false; } };
console.log(JSON.stringify(JSON.parse(require("node:fs").readFileSync(0, "utf8")).map(loads)));
"""
_SIMPLE = (
    "let {a} = 1;",
    "const {a} = 2;",
    "var {a} = 3;",
    "class {A} {{}}",
    "const {{ tide: {a}, ...{b} }} = {{}};",
    "let [{a}, {b} = {c}] = [];",
    "for (const {a} of []) {{ {inner} }}",
    "for (var {a} of []) {{ {inner} }}",
    "{{ {inner} }}",
    "switch (1) {{ case 1: {inner} default: {last} }}",
    "function {a}({b}, {{ tide: {c} }}) {{ {inner} }}",
    "(function ({b}) {{ {inner} }})();",
    "(({b} = 1) => {{ {inner} }})();",
    "(({b}) => {b})(1);",
    "({{ rise({b}) {{ {inner} }} }});",
    "try {{ {inner} }} catch {{ {last} }}",
    "try {{ {inner} }} catch ({a}) {{ {last} }}",
    "for (let {a} = 1, {b} = 2; ; ) {{ {inner} }}",
    "function {a}() {{ {inner} }}",
)


def _written(chance: random.Random, depth: int) -> str:
    names = chance.sample(["tide", "kite", "seed", "lamp", "rain"], 3)
    inner, last = ("".join(_written(chance, depth - 1) for _ in range(depth)) for _ in range(2))
    form = chance.choice(_SIMPLE if depth else _SIMPLE[:6])
    return form.format(a=names[0], A=names[0], b=names[1], c=names[2], inner=inner, last=last) + "\n"


@pytest.mark.skipif(shutil.which("node") is None, reason="Node is not installed")
def test_what_is_declared_twice_is_what_an_engine_does_not_load():
    chance = random.Random(11)
    texts = ["".join(_written(chance, 2) for _ in range(2)) for _ in range(3000)]
    said = subprocess.run(["node", "-e", _LOADS], input=json.dumps(texts), capture_output=True, text=True, check=True)
    loads = json.loads(said.stdout)
    assert 500 < sum(loads) < 2500
    for text, loaded in zip(texts, loads, strict=True):
        assert (first_declared_twice(GRAMMAR.parse(text.encode()).root_node) is None) == loaded, text
