"""What a script in JavaScript listens to."""

from __future__ import annotations

import re
from collections.abc import Iterator
from contextlib import suppress
from pathlib import Path

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.library.facts import KEYS
from aedifex.languages.javascript.library.requests import requests_of, router_of, routers_of
from aedifex.languages.javascript.linking import found as found_file
from aedifex.languages.javascript.page_code import page_of
from aedifex.program.analysis.expected_values import joined_values, values_of
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText, Span

_CLICK = re.compile(
    r"""["'`](?P<event>(?:dbl)?click|contextmenu|wheel|submit|(?:mouse|pointer|touch)[a-z]+)["'`]|"""
    r"""\bon(?:(?:dbl)?click|wheel|submit|(?:mouse|pointer|touch)[a-z]+)\b"""
)
_LONGEST, _MOST = 20, 40
_LIBRARY = 200_000
"""In bytes: what is larger is no script of the page's own."""
_STRING = re.compile(r"""(?P<q>["'`])(?P<text>[^"'`\\\n]*)(?P=q)""")
_COMPARED = re.compile(r"""(?:[!=]==?\s*|case\s+|includes\(|startsWith\()(?P<q>["'`])(?P<text>[^"'`\\\n]*)(?P=q)""")
_LOOKED_UP = re.compile(
    r"""\b([\w$]+)\[\s*[A-Za-z_$][^\]"'`]*\]|\bin\s+([\w$]+)|\b([\w$]+)\.(?:hasOwnProperty|has|get)\("""
)
_TABLE = re.compile(r"\b([\w$]+)\s*=\s*\{")
_INNER = re.compile(r"\{[^{}]*\}|\([^()]*\)|\[[^\[\]]*\]")
_KEY = re.compile(r"""(?:^|,)\s*(?:async\s+)?(["'`]?)(?P<key>[\w$ -]+?)\1\s*(?=[:,(]|$)""")
_NUMBER = re.compile(r"(?<![\w.])\d{1,4}(?![\w.])")
_SIGN = re.compile(r"""\b(?:key|code)\w*\)?\s*[!=]==?\s*["'`](.)["'`]|\bcase\s+["'`](.)["'`]""")
_CODE = re.compile(r"\b(?:keyCode|which|keyIsDown\()\D{0,6}(\d{2})\b|\bcase\s+(\d{2})\s*:")
_WORD = re.compile(r"\w+")
_HEARS_KEYS = re.compile(r"\b(?:on)?key(?:down|up|press|Pressed|Typed|Released)\b")
_ARROWS = ("LEFT", "UP", "RIGHT", "DOWN")
_NAMED = {f"{way}_ARROW": f"Arrow{way.title()}" for way in _ARROWS} | {"ENTER": "Enter", "ESCAPE": "Escape"}
_NUMBERED = {
    "37": "ArrowLeft",
    "38": "ArrowUp",
    "39": "ArrowRight",
    "40": "ArrowDown",
    "13": "Enter",
    "32": " ",
    "27": "Escape",
}
_ELEMENT = re.compile(r"\b(?:getElementById|querySelector)\(")
_FIELD = re.compile(r"""(\w+|\(\s*["'`][^"'`\n]+["'`]\s*\))\.value\b""")
_MOST_FIELDS = 8
_LISTENING = frozenset({"mousePressed", "mouseClicked", "touchStarted"})
_ASKING = re.compile(r"(?<![\w$.])(?:window\.)?(?:prompt|confirm)\s*\(")
_READING = frozenset({"readline", "readline/promises"})
_FROM_INPUT = re.compile(r"""\bread(?:File)?Sync\(\s*(?:0|process\.stdin\.fd|["']/dev/stdin["'])\s*[,)]""")


def _keys_of(text: str) -> list[str]:
    """The keys that a script names, by what they are called or by their numbers; some others where it names none."""
    numbers = [found[1] or found[2] for found in _CODE.finditer(text)]
    found = [*KEYS.findall(text), *(sign[1] or sign[2] for sign in _SIGN.finditer(text))]
    found += [_NAMED[word] for word in _WORD.findall(text) if word in _NAMED]
    found += [_NUMBERED.get(number, chr(int(number)).lower()) for number in numbers]
    named = dict.fromkeys(" " if key == "Space" else key.removeprefix("Key").removeprefix("Digit") for key in found)
    return [*named] or (["ArrowLeft", "a", " "] if _HEARS_KEYS.search(text) else [])


def inputs_of(module: Module) -> Inputs:
    """The texts that it compares, the keys that it names, and whether it reads lines, arguments, or hears clicks.

    Of a page this is what all its scripts do, but for libraries.
    """
    is_page, page = pages.is_page(module.path), page_of(module.source)
    loaded = [path.read_text("utf-8", "replace") for path in _own_files(module.path, page)] if is_page else []
    text = "\n".join([page.decode("utf-8", "replace"), *loaded])
    texts = dict.fromkeys(module.source.slice(span).strip("\"'`") for span in module.strings)
    texts |= dict.fromkeys(found["text"] for each in loaded for found in _STRING.finditer(each))
    imported = {name.removeprefix("node:") for name in module.imported}
    steps = {step.name for reference in module.references for step in reference.path}
    compared = dict.fromkeys([*(found["text"] for found in _COMPARED.finditer(text)), *_keys_looked_up(text)])
    short = [each for each in texts if each.isprintable()]
    numbers = dict.fromkeys(int(found[0]) for found in _NUMBER.finditer(text))
    asks = _ASKING.search(text) is not None or "stdin" in steps
    beside, requests = list(_routers_beside(module, text)), list(requests_of(text))
    for path, other in beside:
        whole = other.source.slice(Span(0, len(other.source.data)))
        requests += requests_of(whole, {router_of(whole): path})
    words = tuple(word for word in compared if word and len(word) <= _LONGEST)[:_MOST]
    return Inputs(
        words=words,
        choices=tuple(word for word in short if word and len(word) <= _LONGEST and word not in compared)[:_MOST],
        numbers=tuple(numbers)[:_MOST],
        takes_lines=asks or bool(_READING & imported) or _FROM_INPUT.search(text) is not None,
        keys=tuple(_keys_of(text)),
        widgets=tuple(dict.fromkeys(pages.pressed_in(page))) if is_page else (),
        fields=pages.fields_of(page) if is_page else _fields_asked(text),
        takes_clicks=_CLICK.search(text) is not None or bool(_LISTENING & set(_WORD.findall(text))),
        takes_arguments="argv" in steps,
        arguments=words if "argv" in steps else (),
        requests=tuple(requests),
        values=joined_values(map(values_of, [module, *(other for _, other in beside)])) if requests else {},
    )


def _routers_beside(module: Module, text: str) -> Iterator[tuple[str, Module]]:
    """The files from which a script takes routers, each with the path that its router is under."""
    for spelled, path in routers_of(text).items():
        file = found_file(spelled, module.path.parent)
        if file is not None:
            with suppress(UnreadableError):
                yield path, module.dialect.files.read(SourceText.read(file))


def _keys_looked_up(text: str) -> Iterator[str]:
    """The keys of tables in which the script looks for what it is told, where these are written out."""
    asked = {name for found in _LOOKED_UP.findall(text) for name in found}
    for table in _TABLE.finditer(text):
        if table[1] in asked:
            yield from (found["key"] for found in _KEY.finditer(_flat(text[table.end() :])))


def _flat(text: str) -> str:
    """What stands in a table up to its end, without what stands in brackets there."""
    depth = 1
    for place, sign in enumerate(text):
        depth += (sign == "{") - (sign == "}")
        if depth == 0:
            inside, before = text[:place], ""
            while inside != before:
                before, inside = inside, _INNER.sub("()", inside)
            return inside.replace("()", "")
    return ""


def _fields_asked(text: str) -> int:
    """How many fields, by their names, the script of a page that is not here asks for what is typed there."""
    return min(len(set(_FIELD.findall(text))), _MOST_FIELDS) if _ELEMENT.search(text) else 0


def _own_files(path: Path, page: bytes) -> list[Path]:
    return [file for file in pages.files_of(path, page) if file.stat().st_size <= _LIBRARY]
