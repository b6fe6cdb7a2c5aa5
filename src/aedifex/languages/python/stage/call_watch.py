"""What the methods of some classes were given, and what they did, in values that a text can hold."""

from __future__ import annotations

import ast
import inspect
import io
import json
import os
import sys

from _aedifex_stage import pygame_values
from _aedifex_stage.list_texts import text_of_list

_MOST_OF_ONE = 200
_LONG, _LONGEST = 80, 400
_MOST_ELEMENTS = 2000
_NEVER_CHANGED = (int, float, str, type(None))
_DEEPEST = 2
_SHOWING = frozenset({"tkinter", "turtle", "curses", "_curses", "_aedifex_stage"})
_COMPUTING = frozenset({"numpy", "scipy", "pandas", "sympy"})
_OUR_WIDGETS = os.path.join(os.path.dirname(os.path.abspath(__file__)), "tk_")
_RUNS_LATER = inspect.CO_GENERATOR | inspect.CO_COROUTINE | inspect.CO_ASYNC_GENERATOR | inspect.CO_VARARGS


def start(world: object) -> object:
    """Begin to watch; the result stops and writes the calls down."""
    plan = world.plan
    watch = CallWatch(frozenset(plan.classes), plan.folder)
    world.returned = watch.returned
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
        elif event == "return" and code.co_name == "get" and code.co_filename.startswith(_OUR_WIDGETS):
            widget = type(frame.f_locals["self"]).__name__
            self.returned(f"{widget}.return_value.get", given)

    def begin(self, frame: object, code: object) -> None:
        """Note what a method is given, if it belongs to one of the classes; generators and the like are left out."""
        names = code.co_varnames[: code.co_argcount + code.co_kwonlyargcount]
        owner = frame.f_locals.get(names[0])
        name = type(owner).__name__
        if names[0] != "self" or name not in self.classes or not is_own(type(owner), code):
            return
        if self.seen.get((name, code.co_name), 0) >= _MOST_OF_ONE or code.co_flags & _RUNS_LATER:
            return
        given = [[each, self.written(frame.f_locals[each], each)] for each in names[1:]]
        self.open[id(frame)] = {"class": name, "method": code.co_name, "given": given, "before": self.fields(owner)}

    def returned(self, name: str, value: object) -> None:
        """Note what a library returned to the method that is at work."""
        frame = sys._getframe(1)
        while frame is not None and id(frame) not in self.open:
            frame = frame.f_back
        if frame is not None:
            known, text = self.open[id(frame)].setdefault("returned", {}), self.written(value, name)
            known[name] = text if known.get(name, text) == text else None

    def end(self, call: dict, frame: object, result: object) -> None:
        """Keep a call with what came of it, if there was none like it."""
        owner = frame.f_locals.get("self")
        call["result"], call["after"] = self.written(result, "result"), self.fields(owner)
        key = json.dumps(call, sort_keys=True)
        if key not in self.known:
            self.known.add(key)
            self.calls.append(call)
            of_one = (call["class"], call["method"])
            self.seen[of_one] = self.seen.get(of_one, 0) + 1

    def fields(self, owner: object, around: tuple[object, ...] = ()) -> dict[str, str | None]:
        """The fields of an object, each as a text, or None where no text can hold it; it may stand in others."""
        found = vars(owner).items() if hasattr(owner, "__dict__") else ()
        return {name: self.written(value, name, (*around, owner)) for name, value in found}

    def written(self, value: object, name: str, around: tuple[object, ...] = ()) -> str | None:
        """A value as the text that makes it anew, or one that stands in for it.

        An object of the program is `a_new_Kite(x=3)`, one of a library that shows something is `outside` and a name.
        """
        text = plain(value)
        if text is None or (type(value) is list and len(text) > _LONG):
            text = self.composed(value, name, around)
        return text if text is not None and len(text) <= _LONGEST else None

    def composed(self, value: object, name: str, around: tuple[object, ...]) -> str | None:
        """The text of a value that holds others, or is none of plain Python's."""
        kind = type(value)
        root = kind.__module__.partition(".")[0]
        if kind in (list, tuple):
            texts = [self.written(each, name, around) for each in value[:_MOST_ELEMENTS]]
            if None in texts or len(value) > _MOST_ELEMENTS:
                return None
            if kind is list:
                return text_of_list(texts, is_shared=all(isinstance(each, _NEVER_CHANGED) for each in value))
            return f"({', '.join(texts)}{',' if len(texts) == 1 else ''})"
        if kind is dict:
            pairs = [(plain(key), self.written(each, name, around)) for key, each in value.items()]
            return None if None in sum(pairs, ()) else "{" + ", ".join(f"{key}: {each}" for key, each in pairs) + "}"
        if kind.__name__ in self.classes and len(around) <= _DEEPEST and not any(value is each for each in around):
            found = self.fields(value, around)
            given = ", ".join(f"{key}={each}" for key, each in found.items())
            return None if None in found.values() else f"a_new_{kind.__name__}({given})"
        if (text := pygame_values.text_of(value)) is not None:
            return text
        is_ours = kind.__name__ in self.classes or callable(value) or isinstance(value, io.TextIOBase)
        is_foreign = root not in sys.stdlib_module_names and root not in _COMPUTING
        return f"outside.{name.strip('_')}" if is_ours or is_foreign or root in _SHOWING else None


def is_own(kind: type, code: object) -> bool:
    """Whether objects of a class are told by a method of this code, and not by one that calls it as its base's."""
    method = inspect.unwrap(getattr(kind, code.co_name, None))
    return getattr(method, "__code__", None) is code


def plain(value: object) -> str | None:
    """A plain value as the text that makes it anew."""
    text = repr(value)
    if len(text) > _LONGEST:
        return None
    try:
        again = ast.literal_eval(text)
    except (ValueError, SyntaxError, MemoryError, RecursionError):
        return None
    return text if type(again) is type(value) and again == value else None
