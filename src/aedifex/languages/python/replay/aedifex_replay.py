"""Plays recorded cases again, each on an object of its own, and prints what came of them.

Runs beside the built program, with `aedifex_cases.json` in its folder: the `modules` of the program, the `classes` and
how new objects of them are made, the `cases`, and `mistakes`, which are other texts of modules. What comes out is one
line of JSON: an answer for each case, the numbers of some cases that together see the mistakes, and what stands in for
libraries that would show or play something.

Whether chance decides in a case is told by the state of the generators, which is another afterwards.
"""

import ast
import contextlib
import functools
import importlib
import importlib.abc
import importlib.util
import inspect
import io
import json
import operator
import random
import resource
import runpy
import signal
import sys
import tokenize
from collections import defaultdict
from collections.abc import Iterator
from typing import Any
from unittest.mock import Mock, _Call

from _aedifex_stage.list_texts import text_of_list
from aedifex_stand_ins import Stand, found_in, outside

_PATIENCE = 0.3
_MOST_CALLS = 40
_LONG = 80
_SECONDS = 20.0
_RECORDS = ("Rect", "FRect", "Vector2", "Vector3")


class TooLongError(BaseException):
    """A case does not come to its end."""


class Mistaken(importlib.abc.MetaPathFinder, importlib.abc.SourceLoader):
    """Gives another text for one module of the program."""

    def __init__(self) -> None:
        self.module = self.text = ""

    def find_spec(self, name: str, path: object, target: object = None) -> object:
        """A module with another text."""
        return importlib.util.spec_from_loader(name, self) if name == self.module else None

    def get_filename(self, name: str) -> str:
        """Where its own text would stand."""
        return f"{name}.py"

    def get_data(self, path: object) -> bytes:
        """The other text, as it says itself that it is encoded."""
        data = self.text.encode()
        encoding, _ = tokenize.detect_encoding(io.BytesIO(data).readline)
        return self.text.encode(encoding)


class NothingTypedError(OSError):
    """A case asks for typed lines."""


class NothingTyped(io.StringIO):
    """Standard input as it is while tests run: nobody is there to type."""

    def readline(self, size: "int | None" = -1) -> str:
        """Nothing can be read."""
        raise NothingTypedError

    read = readline


class Replay:
    """Plays cases on the modules of a program."""

    def __init__(self, given: "dict[str, Any]") -> None:
        self.modules = given["modules"]
        self.classes = given["classes"]
        self.cases = given["cases"]
        self.mistaken = Mistaken()
        self.stands: list[Stand] = []
        sys.meta_path.insert(0, self.mistaken)

    def load(self) -> None:
        """Load the program's modules anew, and put stand-ins in place of what they would show or play."""
        for stand in self.stands:
            stand.stop()
        for name in self.modules:
            sys.modules.pop(name, None)
        importlib.invalidate_caches()
        with patience(), contextlib.redirect_stdout(io.StringIO()):
            modules = [importlib.import_module(name) for name in self.modules]
        self.stands = found_in(modules)
        for stand in self.stands:
            stand.start()

    def answers(self) -> "list[dict[str, Any]]":
        """What comes of each case."""
        return [self.answer(case) for case in self.cases]

    def first_that_sees(
        self, mistake: "dict[str, str]", answers: "list[dict[str, Any]]", first: "list[int]"
    ) -> "int | None":
        """The number of a case that comes out otherwise than it should.

        Those named are tried first, then the cases of the routine that the mistake is in, or else one of each method;
        conversations last, for a test of its own tells more of a method. A module without classes is used by all.
        """
        homes = {number: home for number, case in enumerate(self.cases) if (home := self.home_of(case))}
        about = [number for number, home in homes.items() if home == mistake["module"]] or [*homes]
        again = [number for number in about if number in first]
        methods = [self.cases[number]["method"] for number in about]
        own = [number for number, method in zip(about, methods, strict=True) if method == mistake["routine"]]
        if not own:
            own += {method: number for method, number in zip(methods[::-1], about[::-1], strict=True)}.values()
        talks = [number for number, case in enumerate(self.cases) if not self.home_of(case)]
        talks.sort(key=lambda number: number not in first)
        for number in dict.fromkeys([*again, *own, *talks]):
            if "failed" not in answers[number] and self.answer(self.cases[number]) != answers[number]:
                return number
        return None

    def home_of(self, case: "dict[str, Any]") -> str:
        """The module that a case is about; none for a conversation, which is about all."""
        return "" if "lines" in case else self.classes[case["class"]]["module"]

    def answer(self, case: "dict[str, Any]") -> "dict[str, Any]":
        """What comes of one case, or the error that it ends with."""
        if "lines" in case:
            return self.talk(case)
        try:
            with patience():
                return self.play(case)
        except (Exception, SystemExit, TooLongError) as error:
            return {"failed": type(error).__name__, "asks": isinstance(error, NothingTypedError)}

    def play(self, case: "dict[str, Any]") -> "dict[str, Any]":
        """One case on a new object."""
        is_start = case["method"] == "__init__"
        random.seed(1)
        out = io.StringIO()
        outside.reset_mock(return_value=True)
        with contextlib.redirect_stdout(out):
            made = self.made(case["class"], {} if is_start else case["fields"])
            inner, before, greets = {}, {}, False
            if is_start:
                result, state = None, chance()
            else:
                given = self.values(case["given"])
                alter(made, given, self.values(case["altered"]))
                inner, before = inside(made), shown_fields(made)
                outside.reset_mock()
                for name, value in self.values(case["returned"]).items():
                    operator.attrgetter(name)(outside).return_value = value
                random.seed(case["seed"])
                greets = bool(out.getvalue())
                out.truncate(out.seek(0))
                state = chance()
                result = getattr(made, case["method"])(**given)
        after = shown_fields(made)
        changed = [name for name, text in after.items() if before.get(name) != text]
        return {
            "by_chance": chance() != state,
            "result": shown(result),
            "after": after,
            "changed": changed,
            "is_telling": bool(changed or asked() or out.getvalue()) or result not in (None, False),
            "inner": {} if is_start else {path: text for path, text in inside(made).items() if inner.get(path) != text},
            "calls": [call_text(each, made) for each in asked()[:_MOST_CALLS]],
            "call_count": len(asked()),
            "said": out.getvalue(),
            "greets": greets,
        }

    def talk(self, case: "dict[str, Any]") -> "dict[str, Any]":
        """A conversation with the whole program, typed lines from a text."""
        random.seed(case["seed"])
        out = io.StringIO()
        ended = ""
        typed = io.StringIO("".join(f"{line}\n" for line in case["lines"]))
        real = sys.stdin
        try:
            with patience():
                if case["streams"]:
                    importlib.import_module(case["module"]).main(typed, out)
                else:
                    sys.stdin = typed
                    with contextlib.redirect_stdout(out):
                        runpy.run_module(case["module"], run_name="__main__")
        except (Exception, SystemExit, TooLongError) as error:
            ended = type(error).__name__
        finally:
            sys.stdin = real
        return {"said": out.getvalue(), "ended": ended}

    def made(self, name: str, fields: "dict[str, str]") -> Any:
        """A new object of a class as the script makes it, with some fields otherwise."""
        found = self.classes[name]
        made = getattr(sys.modules[found["module"]], name)(**self.values(found["start"]))
        vars(made).update(self.values(fields))
        return made

    def values(self, texts: "dict[str, str]") -> "dict[str, Any]":
        """Values made anew from their texts."""
        scope = {"outside": outside, "defaultdict": defaultdict}
        if "pygame" in sys.modules:
            scope |= {"pygame": sys.modules["pygame"], "Event": sys.modules["pygame.event"].Event}
        for name in self.classes:
            scope[f"a_new_{name}"] = functools.partial(self.remade, name)
        return {name: eval(text, scope) for name, text in texts.items()}

    def remade(self, name: str, /, **fields: Any) -> Any:
        """What a helper of the tests makes."""
        made = self.made(name, {})
        vars(made).update(fields)
        return made


def alter(made: object, given: "dict[str, Any]", altered: "dict[str, Any]") -> None:
    """Put other values of the same types in place of arguments (`wind`) and fields (`.oil`, and `.lamp.oil` of a part).

    Raises:
        TypeError: something holds no value of the type.
    """
    for way, value in altered.items():
        *owners, name = way.split(".")
        holder = operator.attrgetter(".".join(owners[1:]))(made) if owners[1:] else made
        there = vars(holder) if owners else given
        if kind(there[name]) is not kind(value):
            raise TypeError(way)
        there[name] = value


def kind(value: object) -> type:
    """The type of a value; whole numbers are numbers like others."""
    return float if type(value) is int else type(value)


@contextlib.contextmanager
def patience() -> Iterator[None]:
    """What comes to no end within its time is stopped, again and again if it catches that."""
    signal.setitimer(signal.ITIMER_VIRTUAL, _PATIENCE, _PATIENCE / 10)
    try:
        yield
    finally:
        signal.setitimer(signal.ITIMER_VIRTUAL, 0)


def is_too_long(*given: object) -> None:
    """Stop what runs."""
    raise TooLongError


def chance() -> str:
    """The state of the generators of random numbers, those of NumPy too where it is used."""
    numpy = sys.modules.get("numpy")
    return repr((random.getstate(), numpy.random.get_state() if numpy is not None else None))


def inside(made: object) -> "dict[str, str]":
    """The fields of objects of the program's own that an object holds, by the way to them."""
    found = {}
    for name, value in vars(made).items():
        if is_own(value):
            found[f"vars({{}}.{name})"] = fields_of(value)
        elif isinstance(value, list) and value and all(map(is_own, value)):
            found[f"[vars(each) for each in {{}}.{name}]"] = f"[{', '.join(map(fields_of, value))}]"
    return found


def is_own(value: object) -> bool:
    """Whether a value is an object of one of the program's classes, with fields."""
    return not isinstance(value, Mock) and type(value).__module__ in REPLAYED and hasattr(value, "__dict__")


def shown_fields(value: object) -> "dict[str, str]":
    """The fields of an object as texts."""
    return {name: shown(each) for name, each in vars(value).items()}


def fields_of(value: object) -> str:
    """The fields of an object as the text of a dict."""
    return "{" + ", ".join(f"{name!r}: {text}" for name, text in shown_fields(value).items()) + "}"


def asked() -> "list[_Call]":
    """What was asked of stand-ins, but for what Python asks of them."""
    return [each for each in outside.mock_calls if "__" not in each[0]]


def call_text(each: _Call, made: object) -> str:
    """A call of a stand-in, as it is compared in a test."""
    name, args, named = each
    given = [argument(value, made) for value in args] + [
        f"{key}={argument(value, made)}" for key, value in named.items()
    ]
    return f"call{'.' if name else ''}{name}({', '.join(given)})"


def argument(value: object, made: object) -> str:
    """An argument of such a call: a method of the object that is tested is called `{}` and its name."""
    if inspect.ismethod(value) and value.__self__ is made:
        return f"{{}}.{value.__name__}"
    return shown(value)


def shown(value: object) -> str:
    """The text of what a value is compared with: of a plain one what makes it anew, else anything."""
    if isinstance(value, (list, tuple)) and not isinstance(value, Mock) and type(value) in (list, tuple):
        texts = [shown(each) for each in value]
        comma = "," if type(value) is tuple and len(texts) == 1 else ""
        whole = f"[{', '.join(texts)}]" if isinstance(value, list) else f"({', '.join(texts)}{comma})"
        is_long = isinstance(value, list) and len(whole) > _LONG
        return text_of_list(texts, is_shared=True) if is_long else whole
    text = repr(value)
    try:
        again = ast.literal_eval(text)
        if type(again) is type(value) and again == value:
            return text
    except (ValueError, SyntaxError, MemoryError, RecursionError):
        pass
    if type(value).__name__ in _RECORDS and type(value).__module__.startswith("pygame"):
        return f"pygame.{type(value).__name__}({', '.join(map(repr, value))})"
    return "ANY"


REPLAYED: "set[str]" = set()


def main() -> None:
    """Play all cases, and print the answers as one line of JSON."""
    with open("aedifex_cases.json", encoding="utf-8") as file:
        given = json.load(file)
    REPLAYED.update(given["modules"])
    signal.signal(signal.SIGVTALRM, is_too_long)
    sys.stdin = NothingTyped()
    replay = Replay(given)
    replay.load()
    answers = replay.answers()
    stands = [[stand.target, stand.name] for stand in replay.stands]
    seen: list[int] = []
    for mistake in given["mistakes"]:
        replay.mistaken.module, replay.mistaken.text = mistake["module"], mistake["text"]
        try:
            replay.load()
        except BaseException:
            continue  # whatever imports it sees that
        number = replay.first_that_sees(mistake, answers, seen)
        if number is not None and number not in seen:
            seen.append(number)
        if resource.getrusage(resource.RUSAGE_SELF).ru_utime > _SECONDS:
            break
    print("\n" + json.dumps({"answers": answers, "seen": seen, "stand_ins": stands}))


if __name__ == "__main__":
    main()
