"""Plays recorded cases again, each on an object of its own, and prints what came of them.

Runs beside the built program, with `aedifex_cases.json` in its folder. Whether chance decides in a case is told by the
state of the generators, which is another afterwards.
"""

import ast
import contextlib
import importlib
import io
import json
import random
import sys
from typing import Any


def play(case: "dict[str, Any]") -> "dict[str, Any]":
    """One case on a new object."""
    random.seed(1)
    out = io.StringIO()
    with contextlib.redirect_stdout(out):
        made = getattr(importlib.import_module(case["module"]), case["class"])(**values(case["start"]))
        vars(made).update(values(case["fields"]))
        if case["method"] != "__init__":
            random.seed(1)
            out.truncate(out.seek(0))
            state = chance()
            result = getattr(made, case["method"])(**values(case["given"]))
        else:
            result, state = None, chance()
    return {
        "by_chance": chance() != state,
        "result": written(result),
        "after": {name: written(value) for name, value in vars(made).items()},
        "said": out.getvalue(),
    }


def chance() -> str:
    """The state of the generators of random numbers, those of NumPy too where it is used."""
    numpy = sys.modules.get("numpy")
    return repr((random.getstate(), numpy.random.get_state() if numpy is not None else None))


def talk(case: "dict[str, Any]") -> "dict[str, Any]":
    """A conversation with the whole program, typed lines from a text."""
    random.seed(case["seed"])
    out = io.StringIO()
    ended = ""
    try:
        importlib.import_module(case["module"]).main(io.StringIO("".join(f"{line}\n" for line in case["lines"])), out)
    except (Exception, SystemExit) as error:
        ended = type(error).__name__
    return {"said": out.getvalue(), "ended": ended}


def values(texts: "dict[str, str]") -> "dict[str, Any]":
    """Values made anew from their texts."""
    return {name: ast.literal_eval(text) for name, text in texts.items()}


def written(value: object) -> "str | None":
    """A plain value as the text that makes it anew."""
    text = repr(value)
    try:
        again = ast.literal_eval(text)
    except (ValueError, SyntaxError, MemoryError, RecursionError):
        return None
    return text if type(again) is type(value) and again == value else None


def main() -> None:
    """Play all cases, and print the answers as one line of JSON."""
    with open("aedifex_cases.json", encoding="utf-8") as file:
        cases = json.load(file)
    answers = []
    for case in cases:
        try:
            if "lines" in case:
                answers.append(talk(case))
                continue
            answers.append(play(case))
        except Exception as error:
            answers.append({"failed": type(error).__name__})
    print(json.dumps(answers))


if __name__ == "__main__":
    main()
