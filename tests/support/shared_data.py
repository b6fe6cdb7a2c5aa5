"""Random scripts in which several functions write out the same tables and lists, and mostly only read them."""

from __future__ import annotations

import random

_PLACES = (("quay", 3, 2), ("lock", 5, 0), ("ford", 1, 1), ("weir", 4, 7))
_READING = (
    "return places[name]['depth'] + n",
    "if name not in places:\n    return None\nplace = places[name]\nreturn place['boats'] * n",
    "found = 0\nfor key in places:\n    found += places[key]['depth'] * n\nreturn found",
    "return [key for key in places if places[key]['boats'] > n]",
    "place = places.get(name)\nreturn place['depth'] if place else n",
    "return sorted(places), len(places)",
    "return max(p['depth'] for p in places.values())",
    "return json.dumps(places)",
    "return json.dumps({'all': [places, n], 'one': places.get(name)})",
    "return json.dumps(list(places.values()), indent=n, default=str)",
)
_CHANGING = (
    "places[name] = {'depth': n, 'boats': n}\nreturn len(places)",
    "place = places[name]\nplace['boats'] += n\nreturn place['boats']",
    "for place in places.values():\n    place['depth'] += n\nreturn places[name]['depth']",
    "kept.append(places)\nkept[0].pop(name, None)\nreturn sorted(places)",
    "places.pop(name)\nreturn sorted(places)",
    "text = json.dumps(places)\nplaces[name] = n\nreturn text, json.dumps([places])",
    "text = json.dumps([places])\nfor place in places.values():\n    place['boats'] = 0\nreturn text",
    "keep(places)\nreturn kept[-1] is places",
    "def later():\n    return places[name]\nlater()['depth'] = n\nreturn places[name]['depth']",
)
_DEPTHS = (
    "return depths[name] + n",
    "if n > 1:\n    return depths[name]\nreturn n",
    "return name in depths",
    "depths[name] = n\nreturn depths[name]",
    "return depths.get(name, n)",
)

_SCRIPT = """\
import json

kept = []
calls = 0
{shared}

def keep(thing):
    kept.append(thing)

{functions}
while calls < 6:
    calls += 1
    for name in ("quay", "ford", "moor"):
{used}
print(calls, len(kept))
"""


def write_data(seed: int) -> str:
    """A script with two to four functions around the same data."""
    chance = random.Random(seed)
    names: list[str] = []
    functions = ""
    for number in range(chance.randint(2, 4)):
        body = chance.choice(_READING if chance.random() < 0.8 else _CHANGING)
        functions += _function(f"look{number}", "places", _table(chance, changed=0.1), body, chance)
        names.append(f"look{number}")
    if chance.random() < 0.5:
        depths = ", ".join(f'"{name}": {depth}' for name, depth, _ in _PLACES)
        depths = depths.replace(": 5", ": 6") if chance.random() < 0.2 else depths
        functions += _function("depth", "depths", f"{{{depths}}}", chance.choice(_DEPTHS), chance)
        names.append("depth")
    shared = f"places = {_table(chance, changed=0.1)}\n" if chance.random() < 0.3 else ""
    used = "".join(
        f"        try:\n            print({name}(name, calls))\n        except KeyError as error:\n            print(error)\n"
        for name in names
    )
    return _SCRIPT.format(shared=shared, functions=functions, used=used.rstrip("\n"))


def _table(chance: random.Random, changed: float) -> str:
    quote = chance.choice("'\"")
    rows = [f'{quote}{n}{quote}: {{"depth": {depth}, "boats": {boats}}}' for n, depth, boats in _PLACES]
    if chance.random() < changed:
        rows[0] = rows[0].replace("3", "8")
    if chance.random() < 0.5:
        return f"{{{', '.join(rows)}}}"
    return "{\n" + "".join(f"        {row},\n" for row in rows) + "    }"


def _function(name: str, variable: str, value: str, body: str, chance: random.Random) -> str:
    remark = "    # in meters\n" if chance.random() < 0.3 else ""
    lines = "".join(f"    {line}\n" for line in body.split("\n"))
    return f"\ndef {name}(name, n):\n{remark}    {variable} = {value}\n{lines}\n"
