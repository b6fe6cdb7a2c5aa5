"""Random scripts of JavaScript with records in maps, sets, tables and lists, gone through in every way that there is.

Some do what tells records from objects of a class: they show them, write them down, copy them, or list what they have.
"""

from __future__ import annotations

import random

_FILLED = {
    "map": [
        "new Map()",
        "new Map([['a', { rope: 2, up: true }]])",
        "new Map([['a', { rope: 2, up: true }], ['b', { rope: 5, up: false }]])",
        "new Map(Object.entries({ a: { rope: 2, up: true } }))",
    ],
    "table": ["{}", "{ a: { rope: 2, up: true } }"],
    "set": ["new Set()", "new Set([{ rope: 2, up: true }])"],
    "list": ["[]", "[{ rope: 2, up: true }]"],
}
_PUT = {
    "map": "kites.set(name, { rope: rope, up: false });",
    "table": "kites[name] = { rope: rope, up: false };",
    "set": "kites.add({ rope: rope, up: name.length > 1 });",
    "list": "kites.push({ rope, up: false });",
}
_GOT = {
    "map": "kites.get(name)",
    "table": "kites[name]",
    "set": "[...kites].find((kite) => kite.rope === 2)",
    "list": "kites[0]",
}
_WALKS = {
    "map": [
        "for (const [name, kite] of kites) { %s }",
        "for (const kite of kites.values()) { %s }",
        "kites.forEach((kite) => { %s });",
        "kites.forEach((kite, name) => { log.push(name); %s });",
        "for (const pair of kites) { const kite = pair[1]; %s }",
        "for (const [name, kite] of kites.entries()) { %s }",
        "for (const kite of Array.from(kites.values())) { %s }",
        "for (const kite of [...kites.values()]) { %s }",
        "for (const name of kites.keys()) { const kite = kites.get(name); %s }",
        "[...kites].forEach(([name, kite]) => { %s });",
        "[...kites.entries()].map((pair) => pair[1]).forEach((kite) => { %s });",
    ],
    "table": [
        "for (const kite of Object.values(kites)) { %s }",
        "for (const [name, kite] of Object.entries(kites)) { %s }",
        "for (const name in kites) { const kite = kites[name]; %s }",
        "Object.keys(kites).forEach((name) => { const kite = kites[name]; %s });",
    ],
    "set": [
        "for (const kite of kites) { %s }",
        "kites.forEach((kite) => { %s });",
        "for (const kite of kites.values()) { %s }",
        "Array.from(kites).forEach((kite) => { %s });",
    ],
    "list": [
        "for (const kite of kites) { %s }",
        "for (const kite of new Set(kites)) { %s }",
        "Array.from(kites).forEach((kite) => { %s });",
        "for (const [i, kite] of kites.entries()) { %s }",
        "for (const i of kites.keys()) { const kite = kites[i]; %s }",
    ],
}
_DEEDS = [
    "kite.rope += wind;",
    "kite.up = !kite.up;",
    "log.push(kite.rope);",
    "if (kite.rope > 4) { kite.up = true; kite.rope -= 3; }",
    "console.log(kite.rope, kite.up);",
    "last = kite;",
]
_TRICKS = [
    "console.log(kites);",
    "console.log(JSON.stringify([...(kites.values ? kites.values() : Object.values(kites))]));",
    "console.log(Object.keys(last || {}));",
    "log.push(JSON.stringify(last));",
    "console.log(last);",
    "kites = structuredClone(kites);",
    "for (const k in last) log.push(k);",
    "console.log({ ...last });",
    "last = Object.assign({}, last);",
    "console.log(Object.entries(last || {}).length);",
    "console.log(`${last}`);",
    "other.set(last, 1);",
    "copy = new Map(other);",
    "console.log(Object.values(last || {}).join());",
]


def write_maps(seed: int) -> str:
    """A random script."""
    chance = random.Random(seed)
    kind = chance.choice(["map", "map", "map", *_FILLED])
    filled, walks = chance.choice(_FILLED[kind]), chance.randint(1, 3)
    functions = [f"function add(name, rope) {{\n  {_PUT[kind]}\n}}"]
    deeds = "\n  ".join(chance.sample(_DEEDS, 2))
    functions.append(
        f"function one(name) {{\n  const kite = {_GOT[kind]};\n  if (!kite) return false;\n  {deeds}\n  return true;\n}}"
    )
    for number in range(walks):
        inside = chance.choice(_WALKS[kind]) % " ".join(chance.sample(_DEEDS, chance.randint(1, 2)))
        functions.append(f"function each{number}() {{\n  {inside}\n}}")
    functions.append("function rope(kite) {\n  return kite.rope * 2 + (kite.up ? 1 : 0);\n}")
    tricks = chance.sample(_TRICKS, chance.randint(1, 2)) if chance.random() < 0.4 else []
    lines = "".join(f"  try {{ {trick} }} catch (error) {{ console.log(error.name); }}\n" for trick in tricks)
    count = "kites.size" if kind in ("map", "set") else "Object.keys(kites).length"
    functions.append(
        "function tell() {\n  if (last) console.log('last', rope(last));\n"
        f"  console.log(log.join(' '), wind, {count});\n{lines}}}"
    )
    main = ["add('c', 4);", "one('a');", "one('c');", "wind = 2;", *(f"each{number}();" for number in range(walks))]
    main += ["add('dd', 6);", "one('dd');", "tell();", "wind += 1;", "each0();", "tell();"]
    state = f"let kites = {filled};\nlet wind = 1;\nlet last = null;\nlet log = [];\nconst other = new Map();\nlet copy = null;"
    return "\n\n".join([state, *functions, "\n".join(main)]) + "\n"
