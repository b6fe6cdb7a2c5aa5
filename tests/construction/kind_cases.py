"""Small scripts in which things of one kind wait for a careless rewriting: how many kinds become classes, and the text.

Where the number is 0, something in the script can only be done with the things as they are stored.
"""

from __future__ import annotations

from textwrap import dedent

_TURNS = "n = 0\nwhile n < 3:\n    n += 1\n"
_KITES = """\
kites = []


def make(name, height):
    return {"name": name, "height": height}


kites.append(make("a", 3))
kites.append(make("b", 4))
"""


def _records(body: str, before: str = "") -> str:
    turn = "".join(f"    {line}\n" for line in dedent(body).strip("\n").splitlines())
    return f"{dedent(before)}{_KITES}{_TURNS}{turn}    print([k['height'] for k in kites])\n"


def _columns(body: str, before: str = "") -> str:
    turn = "".join(f"    {line}\n" for line in dedent(body).strip("\n").splitlines())
    start = "names = ['a', 'b', 'c']\nheights = [3, 4, 5]\n"
    use = "    for i in range(len(names)):\n        heights[i] += 1\n        print(names[i], heights[i], n)\n"
    return f"{start}{dedent(before)}{_TURNS}{turn}{use}"


def _twins(body: str = "", before: str = "", turn: str = "") -> str:
    functions = "".join(
        f"def step{k}(by):\n    global lamp{k}_x, lamp{k}_lit\n    lamp{k}_x += by\n"
        + "".join(f"    {line.replace('@', str(k))}\n" for line in dedent(body).strip("\n").splitlines())
        + "\n\n"
        for k in (1, 2)
    )
    start = "lamp1_x = 1\nlamp1_lit = True\nlamp2_x = 5\nlamp2_lit = False\n"
    after = "".join(f"    {line}\n" for line in dedent(turn).strip("\n").splitlines())
    calls = "    step1(n)\n    step2(n)\n    print(lamp1_x, lamp1_lit, lamp2_x, lamp2_lit)\n"
    return f"{dedent(before)}{start}{functions}{_TURNS}{calls}{after}"


CASES: dict[str, tuple[int, str]] = {
    # records
    "changed by all": (1, _records("for kite in kites:\n    kite['height'] += n")),
    "removed by value": (1, _records("if n == 1:\n    kites.remove(make('a', 3))\nprint(kites.index(kites[0]))")),
    "compared by value": (1, _records("print(make('b', 4) == kites[-1], make('b', 4) in kites)")),
    "two names for one": (1, _records("best = kites[0]\nbest['height'] += 1\nprint(best is kites[0])")),
    "looked up with a default": (1, _records("print(kites[0].get('height', 0), kites[1].get('name'))")),
    "sorted and picked": (
        1,
        _records("kites.sort(key=lambda k: -k['height'])\nprint(max(kites, key=lambda k: k['name'])['name'])"),
    ),
    "held by key": (
        1,
        _records("by = {k['name']: k for k in kites}\nfor word in sorted(by):\n    print(word, by[word]['height'])"),
    ),
    "in a text": (1, _records("print(f\"{kites[0]['name']}: {kites[0]['height']:>4}\")")),
    "made in two ways": (1, _records("if n == 2:\n    kites.append({'height': n, 'name': 'z'})")),
    "shown whole": (0, _records("print(kites[0])")),
    "shown in a list": (0, _records("print(kites)")),
    "counted": (0, _records("print(len(kites[0]))")),
    "asked for a key": (0, _records("print('height' in kites[0])")),
    "walked over": (0, _records("for key in kites[0]:\n    print(key, kites[0][key])")),
    "copied": (0, _records("other = dict(kites[0])\nother['height'] = 9")),
    "spread out": (0, _records("print(dict(**kites[0]))")),
    "written down": (0, _records("print(json.dumps(kites))", "import json\n")),
    "formatted by its keys": (0, _records("print('%(name)s' % kites[0])")),
    "asked for what it is": (0, _records("print(isinstance(kites[0], dict))")),
    "gains a key": (0, _records("kites[0]['extra'] = n")),
    "loses a key": (0, _records("if n == 3:\n    del kites[0]['name']")),
    "unpacked": (0, _records("one, other = kites[0]\nprint(one)")),
    "merged": (0, _records("both = kites[0] | kites[1]\nprint(both['name'])")),
    "shown by its text": (0, _records("print(f\"{kites[0]['name']=}\")")),
    "comes from elsewhere": (0, _records('kites.append(json.loads(\'{"name": "j", "height": 1}\'))', "import json\n")),
    "an error is told apart": (
        0,
        _records(
            "try:\n    print(find('q')['name'])\nexcept TypeError:\n    print('none')", "def find(x): return None\n"
        )
        .replace("return None\n", "\n    return next((k for k in kites if k['name'] == x), None)\n", 1)
        .replace("def find(x): \n", "def find(x):\n", 1),
    ),
    # lists side by side
    "grown together": (1, _columns("names.append(str(n))\nheights.append(n)")),
    "one by one away": (1, _columns("if n == 2:\n    del names[0]\n    del heights[0]")),
    "walked side by side": (1, _columns("for a, b in zip(names, heights):\n    print(a, b)")),
    "walked and counted": (1, _columns("for i, a in enumerate(names):\n    print(i, a, heights[i])")),
    "picked while it shrinks": (
        1,
        _columns(
            "i = 0\nwhile i < len(names):\n    heights[i] += 3\n    if heights[i] > 12:\n        print(names[i])\n"
            "        del names[i]\n        del heights[i]\n    else:\n        i += 1"
        ),
    ),
    "the number goes on in an inner loop": (
        1,
        _columns(
            "i = 0\nwhile i < len(names) - 1:\n    print(heights[i])\n    while i < 2:\n        print(names[i])\n"
            "        i += 1\n    i += 1"
        ),
    ),
    "summed": (1, _columns("print(sum(heights), max(heights), 'a' in names)")),
    "the neighbour": (1, _columns("for i in range(len(names)):\n    print(names[i - 1], heights[i], i)")),
    "one grows alone": (0, _columns("names.append('d')\nheights.append(0)\nif n == 3:\n    heights.append(1)")),
    "one is sorted": (0, _columns("heights.sort()")),
    "one has another name": (0, _columns("other = heights\nother[0] += 1")),
    "one is cut": (0, _columns("print(heights[:2])")),
    "may fail half-way": (
        0,
        _columns(
            "try:\n    names.append('x')\n    heights.append(int('x'))\nexcept ValueError:\n    heights.append(0)"
        ),
    ),
    "looks while it grows": (0, _columns("names.append('d')\nheights.append(len(names))")),
    "changes while walked": (
        1,
        _columns(
            "for i in range(len(names) - 1, -1, -1):\n    if heights[i] > 6:\n        del names[i]\n        del heights[i]"
        ),
    ),
    # copies
    "alike": (1, _twins("if lamp@_x > 3:\n    lamp@_lit = not lamp@_lit")),
    "says its number": (1, _twins("print('lamp @ at', lamp@_x)\nprint(f\"{'lamp @'}: {lamp@_x}\")")),
    "formats its number": (1, _twins("print('lamp @: %d' % lamp@_x, 'lamp-@', 'lamp @ of 3')")),
    "with a name of its own inside": (1, _twins("y@ = lamp@_x * 2\nprint(y@)")),
    "forgotten in one": (1, _twins("print(lamp@_x)").replace("print(lamp2_x)\n\n", "print(lamp2_x + 1)\n\n")),
    "differ in a constant": (1, _twins("lamp@_x += @\nif lamp@_x > 7 + @:\n    print('lamp @', lamp@_x)")),
    "begin with one value": (
        1,
        _twins().replace("lamp1_x = 1\n", "lamp1_x = lamp2_x = 4\n").replace("lamp2_x = 5\n", ""),
    ),
    "set up in one way": (
        1,
        _twins("lamp@_list.append(by)")
        .replace("lamp1_lit = True\n", "lamp1_lit = True\nlamp1_list = list((1, 2))\n")
        .replace("lamp2_lit = False\n", "lamp2_lit = False\nlamp2_list = list((3, 4))\n"),
    ),
    "differ in a default": (
        1,
        _twins().replace("def step2(by)", "def step2(by=3)").replace("def step1(by)", "def step1(by=2)"),
    ),
    "handed over": (1, _twins(turn="for handler in [step2, step1]:\n    handler(1)")),
    "bound late": (1, _twins(turn="later = [lambda: step1(1), lambda: step2(2)]\nfor one in later:\n    one()")),
    "in another order": (1, _twins().replace("    step1(n)\n    step2(n)\n", "    step2(n)\n    step1(n)\n")),
    "random draws in order": (1, _twins("lamp@_x += random.randint(0, 9)", "import random\n\nrandom.seed(1)\n")),
    "told apart": (1, _twins(turn="if lamp1_x > 4:\n    lamp2_x -= 1\nprint(lamp1_x + lamp2_x)")),
    "shown by their text": (0, _twins("print(f'{lamp@_x=}')")),
    "read by name": (0, _twins(turn="print(globals()['lamp1_x'])")),
    "deleted": (0, _twins(turn="if n == 3:\n    del lamp1_lit")),
}
