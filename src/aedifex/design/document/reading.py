"""Reading the design file (`*.design.toml`), with the line of each mistake and the nearest valid word."""

from __future__ import annotations

import difflib
import os
import re
from bisect import bisect_left
from collections.abc import Iterable, Iterator, Mapping
from pathlib import Path
from typing import Any

from aedifex.design.document.design import (
    FORMAT,
    STORES,
    BasePlan,
    ClassPlan,
    ConstantPlan,
    DataPlan,
    Design,
    FieldPlan,
    KindPlan,
    MethodPlan,
    PartPlan,
    QuestionPlan,
    SourcePlan,
    TextPlan,
)
from aedifex.source.content import text_of, toml_of
from aedifex.source.errors import DesignError, Place
from aedifex.survey.missing_records import NOT_FOUND

_TOP = ("format", "source", "owner", "part", "data", "base", "class", "constant", "text")


_SOURCE = ("path", "digest")


_TEXT = ("file", "begins", "name")


_CONSTANT = ("name", "value", "computed", "passed", "lines", "why")


_PART = ("name", "of", "object", "fields", "methods", "why")


_BASE = ("name", "file", "of", "why")
_DATA = ("name", "file", "from", "missing")


_OWNER = ("name", "file", "why", "lifted", "fronts", "streams", "prefix", "keeps", "methods")


_CLASS = ("name", "file", "instances", "why", "fields", "methods", "questions")


_KIND = ("name", "file", "store", "instances", "held", "why", "fields", "methods", "questions")


_FIELD = ("from", "name", "start")


_RENAMED = ("from", "name")


_METHOD = ("from", "name", "lines", "with")
_KIND_METHOD = (*_METHOD, "answers")


_QUESTION = ("asks", "name")


def script_of(design: Design) -> Path:
    """The script that a design read from a file is for.

    Raises:
        DesignError: the design names none.
    """
    if not design.sources or design.path is None:
        raise DesignError(
            "names no script", Place(design.path) if design.path else None, "Add a [[source]] with its path and digest."
        )
    return Path(os.path.normpath(design.path.parent / design.sources[0].path))


def read(path: Path) -> Design:
    """Read a design file.

    Raises:
        UnreadableError: there is no such file, or it is not TOML.
        DesignError: it says something that no design can say; with the line and the nearest valid word.
    """
    text = text_of(path, "Make a design with `aedifex draft SCRIPT`.")
    return parse(path, text)


def parse(path: Path, text: str) -> Design:
    """The design that the text of a design file says.

    Raises:
        UnreadableError: it is not TOML.
        DesignError: it says something that no design can say; with the line and the nearest valid word.
    """
    return _Reader(path, text).design(toml_of(path, text))


class _Reader:
    """Turns a parsed file into a design, with the lines where things stand."""

    def __init__(self, path: Path, text: str) -> None:
        self.path = path
        self.places: dict[str, list[int]] = {}
        self.beginnings: dict[str, list[int]] = {}
        for number, line in enumerate(text.splitlines(), 1):
            words = re.findall(r"""[^\s\[\]{}=,"']+""", line)
            for word in dict.fromkeys(words):
                self.places.setdefault(word, []).append(number)
            for word in words[:1]:
                self.beginnings.setdefault(word, []).append(number)
        self.heads = [line.strip().partition("]]")[0] for line in text.splitlines()]

    def design(self, document: Mapping[str, Any]) -> Design:
        self.keys(document, _TOP, 1, "a design file")
        if document.get("format") != FORMAT:
            raise self.error(
                self.line("format"),
                f"says format = {document.get('format')}, not {FORMAT}",
                "Draft the design again with this version of Aedifex.",
            )
        sources = [self.source(item, at) for item, at in self.tables(document, "source")]
        if len(sources) > 1:
            raise self.error(sources[1].line, "there is a second [[source]]", "A design is for one script: keep one.")
        owner = self.table(document.get("owner"), 1, "[owner]")
        self.keys(owner, _OWNER, self.line("owner"), "[owner]")
        return Design(
            sources=sources,
            owner=self.text(owner, "name", self.line("owner"), "[owner]"),
            classes=[self.class_plan(item, at) for item, at in self.tables(document, "class") if "store" not in item],
            kinds=[self.kind_plan(item, at) for item, at in self.tables(document, "class") if "store" in item],
            owner_why=str(owner.get("why", "")),
            path=self.path,
            owner_line=self.line("owner"),
            owner_file=str(owner.get("file", "")),
            has_fronts=self.truth(owner, "fronts", self.line("owner")),
            methods=list(self.methods(owner, self.line("owner"))),
            streams=self.truth(owner, "streams", self.line("owner")),
            prefix=str(owner.get("prefix", "")),
            is_lifted=self.truth(owner, "lifted", self.line("owner"), default=True),
            keeps=self.names(owner, "keeps", self.line("owner")),
            parts=[self.part(item, at) for item, at in self.tables(document, "part")],
            data=[self.data(item, at) for item, at in self.tables(document, "data")],
            bases=[self.base(item, at) for item, at in self.tables(document, "base")],
            texts=[self.text_plan(item, at) for item, at in self.tables(document, "text")],
            constants=[self.constant(item, at) for item, at in self.tables(document, "constant")],
        )

    def source(self, item: Mapping[str, Any], at: int) -> SourcePlan:
        self.keys(item, _SOURCE, at, "[[source]]")
        return SourcePlan(self.text(item, "path", at, "[[source]]"), self.text(item, "digest", at, "[[source]]"), at)

    def constant(self, item: Mapping[str, Any], at: int) -> ConstantPlan:
        """A number that gets a name."""
        self.keys(item, _CONSTANT, at, "[[constant]]")
        name, value = (self.text(item, key, at, "[[constant]]") for key in ("name", "value"))
        lines = item.get("lines")
        if not isinstance(lines, list) or not lines or not all(type(line) is int and line > 0 for line in lines):
            raise self.error(self.line("lines", at), f"{name} needs its lines, as in lines = [12, 40]", "Name them.")
        computed, passed, why = (str(item.get(key, "")) for key in ("computed", "passed", "why"))
        return ConstantPlan(name, value, tuple(lines), computed, passed, at, why)

    def part(self, item: Mapping[str, Any], at: int) -> PartPlan:
        """Members of a class that become one of their own."""
        self.keys(item, _PART, at, "[[part]]")
        name, whole = (self.text(item, key, at, "[[part]]") for key in ("name", "of"))
        instance = self.text(item, "object", at, "[[part]]")
        fields = list(self.fields(item, at, _RENAMED))
        return PartPlan(name, whole, instance, fields, list(self.methods(item, at)), str(item.get("why", "")), at)

    def base(self, item: Mapping[str, Any], at: int) -> BasePlan:
        """A class from which others come."""
        self.keys(item, _BASE, at, "[[base]]")
        name, file = (self.text(item, key, at, "[[base]]") for key in ("name", "file"))
        children = self.names(item, "of", at)
        if len(children) < 2:
            raise self.error(self.line("of", at), f"{name} needs two classes or more", 'Write of = ["Kite", "Gull"].')
        return BasePlan(name, file, children, str(item.get("why", "")), at)

    def data(self, item: Mapping[str, Any], at: int) -> DataPlan:
        """A class of a list of records."""
        self.keys(item, _DATA, at, "[[data]]")
        name, file, variable = (self.text(item, key, at, "[[data]]") for key in _DATA[:3])
        missing = str(item.get("missing", ""))
        if missing not in ("", NOT_FOUND):
            problem = f'what is missing can be answered with "{NOT_FOUND}" only, not with "{missing}"'
            raise self.error(self.line("missing", at), problem, "Take the line out, and it fails as before.")
        return DataPlan(name, file, variable, at, missing)

    def text_plan(self, item: Mapping[str, Any], at: int) -> TextPlan:
        """A long text that moves into a file."""
        self.keys(item, _TEXT, at, "[[text]]")
        begins = item.get("begins")
        if type(begins) is not int or begins < 1:
            raise self.error(self.line("begins", at), "[[text]] needs the line on which it `begins`", "Name it.")
        return TextPlan(self.text(item, "file", at, "[[text]]"), begins, str(item.get("name", "")), at)

    def class_plan(self, item: Mapping[str, Any], at: int) -> ClassPlan:
        self.keys(item, _CLASS, at, "[[class]]")
        name = self.text(item, "name", at, "[[class]]")
        instances = item.get("instances", [])
        if not isinstance(instances, list) or len(instances) != 1 or not isinstance(instances[0], str):
            line = self.line("instances", at)
            raise self.error(line, f'{name} needs one instance, as in instances = ["ferry"]', "Name one.")
        plan = ClassPlan(
            name, self.text(item, "file", at, "[[class]]"), instances[0], str(item.get("why", "")), line=at
        )
        plan.fields += self.fields(item, at)
        plan.methods += self.methods(item, at)
        plan.questions += self.questions(item, at)
        return plan

    def kind_plan(self, item: Mapping[str, Any], at: int) -> KindPlan:
        """A class whose things are stored in some form already."""
        self.keys(item, _KIND, at, "[[class]]")
        name, store = self.text(item, "name", at, "[[class]]"), item["store"]
        if store not in STORES:
            known = ", ".join(f'"{known}"' for known in STORES)
            raise self.error(self.line("store", at), f"store = {store!r} is no form of things", f"Choose {known}.")
        instances = self.names(item, "instances", at)
        if not instances:
            line = self.line("instances", at)
            raise self.error(line, f'{name} needs an instance, as in instances = ["kites[]"]', "Name one.")
        plan = KindPlan(name, self.text(item, "file", at, "[[class]]"), store, instances, str(item.get("why", "")))
        plan.line = at
        plan.held = str(item.get("held", ""))
        plan.fields += self.fields(item, at)
        plan.methods += self.methods(item, at, _KIND_METHOD)
        plan.questions += self.questions(item, at)
        return plan

    def fields(self, item: Mapping[str, Any], at: int, keys: Iterable[str] = _FIELD) -> Iterator[FieldPlan]:
        for entry, line in self.entries(item, "fields", at):
            self.keys(entry, keys, line, "a field")
            variable, *copies = self.sources(entry, line, "a field")
            start = entry.get("start", "fixed")
            if start not in ("argument", "fixed"):
                raise self.error(line, f'start = {start!r} is neither "argument" nor "fixed"', "Choose one.")
            yield FieldPlan(variable, str(entry.get("name", variable)), start, line, copies=tuple(copies))

    def methods(self, item: Mapping[str, Any], at: int, keys: Iterable[str] = _METHOD) -> Iterator[MethodPlan]:
        for entry, line in self.entries(item, "methods", at):
            self.keys(entry, keys, line, "a method")
            routine, *copies = self.sources(entry, line, "a method")
            lines = self.span_of_lines(entry, line) if "lines" in entry else None
            values = tuple(self.names(entry, "with", line))
            name, answers = str(entry.get("name", routine)), bool(entry.get("answers", False))
            yield MethodPlan(routine, name, line, lines, values, copies=tuple(copies), answers=answers)

    def questions(self, item: Mapping[str, Any], at: int) -> Iterator[QuestionPlan]:
        for entry, line in self.entries(item, "questions", at):
            self.keys(entry, _QUESTION, line, "a question")
            asks, name = (self.text(entry, key, line, "a question") for key in _QUESTION)
            yield QuestionPlan(asks, name, line)

    def sources(self, entry: Mapping[str, Any], line: int, what: str) -> list[str]:
        """What a member is made of: one name, or a list of those of all copies."""
        found = entry.get("from")
        if not isinstance(found, list):
            return [self.text(entry, "from", line, what)]
        if not found or not all(isinstance(name, str) and name for name in found):
            raise self.error(line, f"{what} needs names in quotes in its `from`", 'Write from = ["…", "…"].')
        return found

    # -- pieces

    def truth(self, item: Mapping[str, Any], key: str, at: int, *, default: bool = False) -> bool:
        found = item.get(key, default)
        if not isinstance(found, bool):
            raise self.error(self.line(key, at), f"`{key}` must be true or false", "Choose one.")
        return found

    def names(self, item: Mapping[str, Any], key: str, at: int) -> list[str]:
        found = item.get(key, [])
        if not isinstance(found, list) or not all(isinstance(name, str) for name in found):
            raise self.error(self.line(key, at), f"`{key}` must be a list of names in quotes", "Put each in quotes.")
        return found

    def span_of_lines(self, entry: Mapping[str, Any], line: int) -> tuple[int, int]:
        found = re.fullmatch(r"\s*(\d{1,9})(?:\s*-\s*(\d{1,9}))?\s*", str(entry["lines"]))
        first, last = (int(found[1]), int(found[2] or found[1])) if found is not None else (0, 0)
        if not 0 < first <= last:
            said = repr(entry["lines"])[:40]
            raise self.error(line, f"lines = {said} is no span of lines", 'Write it as "12-19".')
        return first, last

    def tables(self, document: Mapping[str, Any], key: str) -> list[tuple[Mapping[str, Any], int]]:
        items = document.get(key, [])
        heads = [n for n, head in enumerate(self.heads, 1) if head.startswith("[[") and head[2:].strip() == key]
        if not isinstance(items, list):
            raise self.error(self.line(key), f"`{key}` must be written as [[{key}]]", "Double the brackets.")
        heads += [1] * (len(items) - len(heads))
        return [(self.table(item, at, f"[[{key}]]"), at) for item, at in zip(items, heads, strict=False)]

    def entries(self, item: Mapping[str, Any], key: str, at: int) -> list[tuple[Mapping[str, Any], int]]:
        found = item.get(key, [])
        if not isinstance(found, list):
            raise self.error(self.line(key, at), f"`{key}` must be a list", "Put it in square brackets.")
        line = self.line(key, at)
        entries = []
        for entry in found:
            table = self.table(entry, line, f"an entry of `{key}`")
            source = table.get("from", table.get("name", ""))
            word = source[0] if isinstance(source, list) and source else source
            line = self.line(str(word), line, anywhere=True)
            entries.append((table, line))
        return entries

    def table(self, item: object, line: int, what: str) -> Mapping[str, Any]:
        if not isinstance(item, dict):
            raise self.error(line, f"{what} is missing or not a table", "Add it.")
        return item

    def keys(self, item: Mapping[str, Any], known: Iterable[str], at: int, what: str) -> None:
        for key in item:
            if key not in known:
                raise self.error(
                    self.line(key, at, anywhere=True),
                    f"{what} has no key `{key}`",
                    nearest(key, known),
                )

    def text(self, item: Mapping[str, Any], key: str, at: int, what: str) -> str:
        value = item.get(key)
        if not isinstance(value, str) or not value:
            raise self.error(at, f"{what} needs a `{key}` in quotes", f'Write {key} = "…".')
        return value

    def line(self, word: str, start: int = 1, *, anywhere: bool = False) -> int:
        """The first line from `start` on that begins with a key or heading, or has the word anywhere."""
        places = (self.places if anywhere else self.beginnings).get(word, [])
        at = bisect_left(places, start)
        return places[at] if at < len(places) else start

    def error(self, line: int, reason: str, advice: str) -> DesignError:
        return DesignError(reason, Place(self.path, line), advice)


def nearest(word: str, known: Iterable[str]) -> str:
    """Advice that names the valid word nearest to a mistaken one."""
    choices = list(known)
    found = difflib.get_close_matches(word, choices, 1, 0.5)
    if found:
        return f"Did you mean `{found[0]}`?"
    listed = ", ".join(f"`{choice}`" for choice in choices[:8])
    return f"Known here: {listed}." if listed else "There is nothing to choose from here."
