"""Scopes and references against the compiler's own tables, and against running programs."""

from __future__ import annotations

import ast
import sys
from pathlib import Path

import pytest

from aedifex.program.model.names import Form, Mode, Origin
from tests.support.compiler import compare_text, disagreements, misplaced, read
from tests.support.helpers import module_of

LIBRARY = Path(ast.__file__).parent
SAMPLE = sorted(p for p in LIBRARY.glob("*.py"))[::3] + sorted((LIBRARY / "turtledemo").glob("*.py"))

FORMS = {
    "globals": "x = 1\ndef f():\n    global x\n    def g():\n        global x\n        x = 2\n    x += 1\n",
    "nonlocal chain": "def f():\n    x = 1\n    def g():\n        def h():\n            nonlocal x\n            x = 2\n        return h\n",
    "class skipped": "x = 0\nclass C:\n    x = 1\n    y = [x for _ in range(x)]\n    def f(self):\n        return x\n",
    "first iterable": "class C:\n    n = 3\n    m = [i for i in range(n) if i]\n",
    "walrus": "def f():\n    [y := i for i in range(3)]\n    return y\n[z := i for i in range(3)]\n",
    "walrus global": "def f():\n    global y\n    return [[y := i for i in range(3)] for _ in range(2)]\n",
    "mangling": "class _C:\n    __a = 1\n    def f(self, __b):\n        return self.__a, __b, __c\n",
    "except": "try:\n    pass\nexcept (ValueError, KeyError) as e:\n    print(e)\n",
    "except star": "try:\n    pass\nexcept* ValueError as e:\n    print(e)\n",
    "with": "with open('a') as f, open('b') as (g, h):\n    pass\nwith (open('a') as f, open('b') as g):\n    pass\n",
    "for": "for a, *b in []:\n    pass\nelse:\n    c = 1\nfor d.e in []: pass\n",
    "star targets": "a, (b, *c), d[0], e.f = 1, (2, 3), 4, 5\n",
    "annotated": "x: int = 1\ny: str\ndef f():\n    z: int\n    (w): int = 1\n    self.a: int = 2\n",
    "delete": "x = 1\ndel x\ndef f():\n    del y, z[0], w.v\n",
    "chained": "a = b = c.d = e[f] = 1\n",
    "defaults": "def f(a, b=c, *d, e=g, **h) -> i:\n    return a, b, d, e, h\n",
    "decorators": "@d(e)\ndef f(): pass\n@g\nclass C(B, metaclass=M, **k): pass\n",
    "lambda": "f = lambda a, *b, c=d, **e: (a, b, c, e, g)\n",
    "f-strings": 'def f(a):\n    return f\'{a!r:>{w}} {b + c} {{}} {d["e"]} {f"{g}"}\'\n',
    "match": (
        "match a, b:\n    case C(x=0, y=yy) | C(yy): pass\n    case [p, *q]: pass\n    case {'k': v, **r}: pass\n"
        "    case str() as s: pass\n    case m.n.o: pass\n    case (t, u) if t: pass\n    case _: pass\n    case w: pass\n"
    ),
    "imports": "import a.b.c, d as e\nfrom . import f as g\nfrom .h import (i,\n    j as k)\ndef l():\n    import m\n    global n\n    import n\n",
    "class cell": "class C:\n    def f(self):\n        def g():\n            return __class__, super().f()\n",
    "async": "async def f():\n    async with a as b:\n        async for c in d:\n            yield [e async for e in c if await e]\n",
    "generators": "def f(n):\n    return (i for i in range(n) if (j := i))\n",
    "conditional lambda": "a = (lambda: x) if y else (lambda x: x)\n",
    "print chevron": "print >> f, x\n",
    "type call": "type(a).b = c\ntype (d).e = f\n",
    "names like keywords": "match = 1\ntype = 2\ncase = match\nprint(type, case)\n_ = 3\n",
    "continuation": "def f(a, \\\n      b):\n    return a \\\n        + b\n",
    "non-ascii": "\ufb01 = 1\nprint(fi)\nnaïve = fi\n",
}
NEWER = {
    "type parameters": "def f[T: int, *Ts, **P](a: T) -> T:\n    x: T\n    return T\nclass C[T](B[T]):\n    y: T\ntype A[T] = list[T]\n",
    "mangled type parameter": "class Foo[__T]:\n    a: __T\n",
}


@pytest.mark.parametrize("name", FORMS)
def test_each_binding_form_agrees_with_the_compiler(name):
    assert compare_text(FORMS[name]) == []


@pytest.mark.skipif(sys.version_info < (3, 12), reason="syntax of Python 3.12")
@pytest.mark.parametrize("name", NEWER)
def test_each_newer_binding_form_agrees_with_the_compiler(name):
    assert compare_text(NEWER[name]) == []


@pytest.mark.parametrize("path", SAMPLE, ids=lambda path: path.stem)
def test_the_standard_library_agrees_with_the_compiler(path):
    assert disagreements(path) == []


@pytest.mark.parametrize("text", [*FORMS.values(), *NEWER.values()])
def test_every_span_holds_the_name(text):
    assert list(misplaced(read(text))) == []


def modes(text: str, name: str) -> list[tuple[Mode, Form]]:
    module = module_of(text)
    return [(r.mode, r.form) for r in module.references if r.name == name]


def test_modes_and_forms():
    text = """
        score = 0
        def hit():
            global score
            score += 1
            print(score, f"{score:>{score}}")
            del score
        for score in []: pass
    """
    assert modes(text, "score") == [
        (Mode.WRITE, Form.TARGET),
        (Mode.DECLARE, Form.DECLARATION),
        (Mode.READ_WRITE, Form.TARGET),
        (Mode.READ, Form.PLAIN),
        (Mode.READ, Form.PLAIN),
        (Mode.READ, Form.PLAIN),
        (Mode.DELETE, Form.TARGET),
        (Mode.WRITE, Form.LOOP),
    ]


def test_paths_of_keys_and_attributes():
    module = module_of("state['score'] += 1\nboard.x.y = 2\nlog.append(3)\ngrid[i][0] = 4\n")
    paths = {r.name: ([a.name for a in r.path], r.path_mode) for r in module.references if r.path}
    assert paths == {
        "state": (["score"], Mode.READ_WRITE),
        "board": (["x", "y"], Mode.WRITE),
        "log": (["append"], Mode.CALL),
        "grid": ([None, "0"], Mode.WRITE),
    }


def test_quoted_annotations_are_references():
    module = module_of("class Kite: pass\ndef fly(kite: 'Kite', all: 'list[Kite]') -> 'Kite': ...\n")
    quoted = [r for r in module.references if r.form is Form.QUOTED]
    assert [r.name for r in quoted] == ["Kite", "list", "Kite", "Kite"]
    assert all(module.source.slice(r.span) == r.name for r in quoted)


def test_unbound_names_are_builtins_or_unknown():
    module = module_of("print(nowhere, len)\n")
    origins = {r.name: r.symbol.origin for r in module.references}
    assert origins == {"print": Origin.BUILTIN, "nowhere": Origin.UNKNOWN, "len": Origin.BUILTIN}
