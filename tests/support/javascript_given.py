"""Random scripts that are one function, handed to something; and names for functions of others."""

from __future__ import annotations

import random
from textwrap import indent

from tests.support.javascript_scripts import write_javascript

_HANDED = (
    "[3, 4].forEach(function (stage) {{\n{body}}});\n",
    "[3].map((stage, turn) => {{\n{body}}});\n",
    "setTimeout(function () {{\n{body}}}, 5);\n",
    "Promise.resolve(4).then(function (stage) {{\n{body}}});\n",
    "(function (stage, turn) {{\n{body}}})(3);\n",
)
"""Ways to hand on a whole script; the first carries it out twice."""

_NAMED = (
    "const {name} = Object.prototype.toString;",
    "let {name} = Object.prototype.toString;",
    "var {{ toString: {name} }} = Object.prototype;",
    "const kinds = Object.prototype;\nconst {name} = kinds.toString;",
    "let {name} = null;\nfunction learn() {{ {name} = Object.prototype.toString; }}\nlearn();",
    "let {name} = () => 'mine';",
    "var path = require('path'), {name} = path.basename.bind(path, 'quay/kite');",
    "const {{ sep: bar, join: {name} = null }} = require('path');",
    "let {name} = function () {{ return typeof this; }};",
)
"""What is called by a name of its own: a careless field tells some of them of the object that they are kept in."""


def write_with_named(seed: int) -> str:
    """A script in which a function of somebody else has a name, and is called by it."""
    chance = random.Random(seed)
    text = write_javascript(seed)
    names = chance.sample(["kindOf", "sortOf", "whose"], chance.choice([1, 1, 2]))
    forms = chance.sample(_NAMED, len(names))
    head = "".join(f"{form.format(name=name)}\n" for name, form in zip(names, forms, strict=True))
    calls = ", ".join(f"{name}()" for name in names)
    asking = f"let asked = 0;\nfunction ask(by) {{\n  asked += by;\n  console.log(asked, {calls});\n}}\n"
    last = f"ask(2);\nask(3);\nconsole.log(asked, {calls});\n"
    strict, newline, rest = text.partition("\n")
    is_strict = "use strict" in strict
    opening, body = (f"{strict}\n", rest) if is_strict else ("", f"{strict}{newline}{rest}")
    if chance.random() < 0.5:
        return f"{opening}{head}{asking}{body}{last}"
    return f"{opening}{body}{head}{asking}{last}"


def write_handed(seed: int) -> str:
    """A script that is one function, which something is given to call."""
    chance = random.Random(seed)
    inner = write_with_named(seed) if chance.random() < 0.5 else write_javascript(seed)
    return chance.choice(_HANDED).format(body=indent(inner, "  "))
