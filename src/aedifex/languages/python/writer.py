"""Writing Python: the text of classes, constructors, methods, imports and the entry."""

from __future__ import annotations

from collections.abc import Sequence

RECEIVER = "self"


def class_name(words: Sequence[str]) -> str:
    """A class's name made of words."""
    return "".join(word[:1].upper() + word[1:].lower() for word in words)


def member_name(words: Sequence[str]) -> str:
    """A field's, method's or variable's name made of words."""
    return "_".join(word.lower() for word in words)


def class_head(name: str, doc: str, unit: str) -> str:
    """The lines that begin a class, up to its first member."""
    return f'class {name}:\n{unit}"""{doc}"""\n\n' if doc else f"class {name}:\n"


def method_head(name: str, parameters: Sequence[str], unit: str) -> str:
    """The line that begins a method."""
    return f"{unit}def {name}({', '.join([RECEIVER, *parameters])}):\n"


def entry(owner: str, run: str, unit: str) -> str:
    """The last lines of a script: a two-line `main` behind the guard."""
    return f'def main():\n{unit}{owner}().{run}()\n\n\nif __name__ == "__main__":\n{unit}main()\n'


_ASKING = """\
def {name}(self, prompt=""):
    if self.{reader} is None:
        return input(prompt)
    print(prompt, end="", file=self.{target}, flush=True)
    line = self.{reader}.readline()
    if not line:
        raise EOFError
    return line.removesuffix("\\n")
"""


def asking_method(name: str, reader: str, target: str, unit: str) -> str:
    """The method that reads a typed line as `input` does, from a reader if its object keeps one."""
    lines = _ASKING.format(name=name, reader=reader, target=target).replace("    ", unit).splitlines(keepends=True)
    return "".join(unit + line for line in lines)


def import_names(module: str, names: Sequence[str]) -> str:
    """A line that imports names from a module."""
    return f"from {module} import {', '.join(sorted(names))}\n"


def import_line(module: str, what: str | None, name: str) -> str:
    """A line that imports a module, or `what` from it, under a name."""
    if what is not None:
        alias = "" if what == name else f" as {name}"
        return f"from {module} import {what}{alias}\n"
    if module == name or "." not in module:
        alias = "" if module == name else f" as {name}"
        return f"import {module}{alias}\n"
    return f"import {module}\n" if module.partition(".")[0] == name else f"import {module} as {name}\n"
