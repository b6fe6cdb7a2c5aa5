"""What the methods of some classes were given, and what they did, in values that a text can hold."""

from __future__ import annotations

import ast
import inspect
import json
import os
import sys

_MOST_OF_ONE = 200
_LONGEST = 300
_RUNS_LATER = inspect.CO_GENERATOR | inspect.CO_COROUTINE | inspect.CO_ASYNC_GENERATOR | inspect.CO_VARARGS


def start(plan: object) -> object:
    """Begin to watch; the result stops and writes the calls down."""
    watch = CallWatch(frozenset(plan.classes), plan.folder)
    sys.setprofile(watch.event)

    def stop() -> None:
        sys.setprofile(None)
        data = json.dumps(watch.calls).encode()
        while data:
            data = data[os.write(plan.calls_file, data) :]

    return stop


class CallWatch:
    """Notes calls as they begin, and keeps those that end with a result."""

    def __init__(self, classes: frozenset[str], folder: str) -> None:
        self.classes = classes
        self.folder = folder + os.sep
        self.open: dict[int, dict] = {}
        self.calls: list[dict] = []
        self.seen: dict[tuple[str, str], int] = {}
        self.known: set[str] = set()

    def event(self, frame: object, event: str, given: object) -> None:
        """What the interpreter tells of every call."""
        code = frame.f_code
        if event == "call" and code.co_filename.startswith(self.folder) and code.co_argcount:
            self.begin(frame, code)
        elif event == "return" and id(frame) in self.open:
            self.end(self.open.pop(id(frame)), frame, given)

    def begin(self, frame: object, code: object) -> None:
        """Note what a method is given, if it belongs to one of the classes; generators and the like are left out."""
        names = code.co_varnames[: code.co_argcount + code.co_kwonlyargcount]
        owner = frame.f_locals.get(names[0])
        name = type(owner).__name__
        if names[0] != "self" or name not in self.classes or getattr(type(owner), code.co_name, None) is None:
            return
        if self.seen.get((name, code.co_name), 0) >= _MOST_OF_ONE or code.co_flags & _RUNS_LATER:
            return
        given = [[each, written(frame.f_locals[each])] for each in names[1:]]
        self.open[id(frame)] = {"class": name, "method": code.co_name, "given": given, "before": fields(owner)}

    def end(self, call: dict, frame: object, result: object) -> None:
        """Keep a call with what came of it, if there was none like it."""
        owner = frame.f_locals.get("self")
        call["result"], call["after"] = written(result), fields(owner)
        key = json.dumps(call, sort_keys=True)
        if key not in self.known:
            self.known.add(key)
            self.calls.append(call)
            of_one = (call["class"], call["method"])
            self.seen[of_one] = self.seen.get(of_one, 0) + 1


def fields(owner: object) -> dict[str, str | None]:
    """The fields of an object, each as a text, or None where no text can hold it."""
    return {name: written(value) for name, value in vars(owner).items()} if hasattr(owner, "__dict__") else {}


def written(value: object) -> str | None:
    """A plain value as the text that makes it anew."""
    text = repr(value)
    if len(text) > _LONGEST:
        return None
    try:
        again = ast.literal_eval(text)
    except (ValueError, SyntaxError, MemoryError, RecursionError):
        return None
    return text if type(again) is type(value) and again == value else None
