"""The snippets of JavaScript."""

from __future__ import annotations

from aedifex.languages.javascript import DIALECT

__all__ = ["ABSENT", "DIALECT", "SNIPPETS", "SUFFIX"]

SUFFIX = ".js"
ABSENT = frozenset({"a declared type is known", "an argument by name", "a text that stands alone"})
"""What JavaScript does not have: types, names for arguments, and texts that describe a function."""

SNIPPETS = {
    "a value is given to a name": "let a = 1;\na;\n",
    "a value is given to two names at once": "let [a, b] = [1, 2];\n",
    "one value is given to two names in a chain": "a = b = 1;\nvar a, b;\n",
    "a list is taken apart into names": "let [a, b] = g();\n",
    "a name is changed by what it holds": "let a = 1;\na += 2;\n",
    "a name is declared with a type and without a value": "let a;\n",
    "a loop variable is bound by its loop": "for (const a of [1, 2]) {\n  print(a);\n}\n",
    "an imported name knows where it comes from": 'import { a } from "m";\n',
    "an imported module knows that it is one": 'const m = require("m");\n',
    "an import under another name": 'import { a as b } from "m";\n',
    "a caught error has its name in the handler": "try {\n  f();\n} catch (a) {\n  print(a);\n}\n",
    "a local variable is not the module's of the same name": "let a = 1;\nfunction f() {\n  let a = 2;\n  return a;\n}\n",
    "a parameter hides the module's variable": "let a = 1;\nfunction f(a) {\n  return a;\n}\n",
    "a function reads the module's variable": "let a = 1;\nfunction f() {\n  return a;\n}\n",
    "a function writes the module's variable": "let a = 1;\nfunction f() {\n  a = 2;\n}\n",
    "an inner function reads a variable of the function around it": (
        "function f() {\n  let a = 1;\n  function g() {\n    return a;\n  }\n  return g;\n}\n"
    ),
    "an inner function writes a variable of the function around it": (
        "function f() {\n  let a = 1;\n  const g = () => {\n    a = 2;\n  };\n  return g;\n}\n"
    ),
    "methods do not see the names of their class": "let a = 1;\nclass K {\n  a = 2;\n  f() {\n    return a;\n  }\n}\n",
    "code of an inner function runs later": "function f() {}\n",
    "a name that nothing binds comes from outside": "print(unheard_of);\n",
    "where a default is worked out": "let a = 1;\nfunction f(p = a) {}\n",
    "a member is read": "let a = 1;\na.x;\n",
    "a member is set, which changes the object and not the name": "let a = g();\na.x = 2;\n",
    "a member of a member": "let a = 1;\na.x.y;\n",
    "an entry under a constant key": "let a = {};\na['x'];\n",
    "an entry at a constant place": "let a = [];\na[0];\n",
    "an entry at a place that varies": "let a = [], b = 1;\na[b];\n",
    "a method that changes its object": "let a = [];\na.push(1);\n",
    "a method that leaves its object as it is": "let a = '';\na.toUpperCase();\n",
    "a call knows its callee and its arguments": "function f(p, a) {}\nf(1, 2);\n",
    "arguments out of a list": "function f(p) {}\nf(...[1]);\n",
    "a call of a method": "let a = 1;\na.f();\n",
    "a function that calls another": "function g() {}\nfunction f() {\n  g();\n}\n",
    "a function that calls itself": "function f() {\n  f();\n}\n",
    "effects reach through calls": "let a = 1;\nfunction g() {\n  a = 2;\n}\nfunction f() {\n  g();\n}\n",
    "a function is handed on as a value": "function f() {}\nregister(f);\n",
    "a nameless function is handed on as a value": "register(() => 1);\n",
    "a nameless function of one expression": "let a = 1;\nregister(() => a);\n",
    "a parameter that takes the rest": "function f(...p) {}\n",
    "a method knows its receiver": "class K {\n  f() {}\n}\n",
    "the fields of a class": "class K {\n  constructor() {\n    this.x = 1;\n  }\n}\n",
    "the constructor of a class": "class K {\n  constructor() {\n    this.x = 1;\n  }\n}\n",
    "a class that inherits": "class L {}\nclass K extends L {}\n",
    "an object is made": "class K {\n  constructor() {\n    this.x = 1;\n  }\n}\nlet a = new K();\nprint(a.x);\n",
    "a method handed on without a call": "let a = 1;\nregister(a.f);\n",
    "a branch with an other side": "let a;\nif (f()) {\n  a = 1;\n} else {\n  a = 2;\n}\n",
    "both sides of a branch give a name its value": "if (f()) {\n  var a = 1;\n} else a = 2;\n",
    "one side of a branch gives a name its value": "if (f()) {\n  var a = 1;\n}\nprint(a);\n",
    "a chain of conditions": "let a;\nif (f()) a = 1;\nelse if (g()) a = 2;\nelse a = 3;\n",
    "a loop with a condition": "while (f()) {\n  g();\n}\n",
    "a loop is left early": "while (f()) {\n  if (g()) break;\n}\n",
    "a round of a loop is cut short": "while (f()) {\n  if (g()) continue;\n  f();\n}\n",
    "a function is left early": "function f() {\n  if (g()) return;\n  f();\n}\n",
    "what a return gives back": "let a = 1;\nfunction f() {\n  return a;\n}\n",
    "an error is raised": "function f() {\n  throw new Error();\n}\n",
    "what is guarded may be left at any place": "let a = 1;\ntry {\n  a = f();\n} catch {\n  print(a);\n}\n",
    "what is done at the end in any case": "try {\n  f();\n} finally {\n  g();\n}\n",
    "a choice by a value": "switch (f()) {\n  case 1:\n    g();\n    break;\n  default:\n    f();\n}\n",
    "a name is live where it is read later": "let a = 1;\nprint(a);\n",
    "a name has a value before it is read": "function f() {\n  let a = 1;\n  return a;\n}\n",
    "values come one by one": "function* f() {\n  yield 1;\n}\n",
    "a function that waits": "async function f() {\n  await g();\n}\n",
    "a constant": "const a = 3;\nprint(a);\n",
    "a list that changes is no constant": "const a = [];\nfunction f() {\n  a.push(1);\n}\n",
    "what is computed from constants is one": "const a = 3;\nconst b = a * 2;\n",
    "a table written out in place": "let a = { x: 1, y: 2 };\n",
    "state that functions share": "let a = 1;\nfunction f() {\n  return a;\n}\n",
    "the loop is the run, what comes before is set-up": (
        "let a = [];\na.push(1);\nwhile (a.length) {\n  a.pop();\n  f();\n  g();\n}\n"
    ),
    "a comment knows what it says": "// the tide\nlet a = 1; /* in feet */\n",
}
