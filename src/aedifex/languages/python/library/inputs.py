"""Finding what a Python script listens to, from its text alone."""

from __future__ import annotations

import ast
import re
from collections import Counter
from collections.abc import Iterable, Iterator
from contextlib import suppress

from aedifex.languages.python.library import all_known, declared, handler_requests, requests
from aedifex.program.analysis.expected_values import joined_values, values_of
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module
from aedifex.program.model.statements import Call, final_name
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText

_SEQUENCE = re.compile(r"<(?:Any-)?(?:Key-|KeyPress-|KeyRelease-)?([A-Za-z0-9_]+)>")
_BUTTON = re.compile(r"<(?:B\d|Button|Motion|Double)")
_NUMBER = re.compile(rb"(?<![\w.])\d{1,4}(?![\w.])")
_LONGEST_WORD = 24
_PROMPTS = " :?>"
_PRESSED = frozenset(
    "Button Checkbutton Combobox OptionMenu Radiobutton add_checkbutton add_command add_radiobutton insert".split()
)
_FIELDS = frozenset({"Entry", "Spinbox", "Combobox", "Text", "ScrolledText"})


def find(module: Module) -> Inputs:
    """What reaches the script from outside."""
    known = all_known()
    names = {r.name for r in module.references} | {name for s in module.walk() for name in s.attributes}
    texts = dict(_texts(module))
    keys, sequences = _keys(module, texts)
    words = _words(module, texts)
    takes_arguments = "argv" in names or "argparse" in names
    takes_lines = bool(names & known.reads_lines)
    asked = [*requests.find(module), *handler_requests.find(module)]
    beside = list(_parts_beside(module))
    for part, other in beside:
        asked += requests.find(other, {part.name: part.path})
    return Inputs(
        takes_lines=takes_lines,
        words=tuple(words),
        keys=tuple(
            dict.fromkeys([*keys, *_constant_keys(names), *_terminal_keys(names, words), *_listed_keys(module)])
        ),
        takes_clicks=bool(names & (known.hears_clicks | known.click_names)) or any(_BUTTON.match(s) for s in sequences),
        takes_arguments=takes_arguments,
        numbers=tuple(sorted({int(text) for text in _NUMBER.findall(module.source.data)})),
        widgets=tuple(_shown_on_widgets(module, texts)),
        fields=sum(final_name(call.callee) in _FIELDS for s in module.walk() for call in s.calls),
        choices=tuple(_choices(module, texts, words)),
        options=tuple(declared.find(module)) if takes_arguments else (),
        requests=tuple(asked),
        values=joined_values(map(values_of, [module, *(other for _, other in beside)])) if asked else {},
        arguments=tuple(_words_given(texts.values(), words, takes_lines=takes_lines)) if takes_arguments else (),
    )


def _words_given(texts: Iterable[str], words: Iterable[str], *, takes_lines: bool) -> Iterator[str]:
    """What may stand on the command line: what begins as options do, and the words of a script that reads no lines."""
    yield from (word for word in texts if word.startswith("-") and len(word) > 1)
    yield from () if takes_lines else words


def _parts_beside(module: Module) -> Iterator[tuple[requests.Joined, Module]]:
    """The modules from which a script takes parts of an application, each with the part."""
    for part in requests.joined(module):
        stem = module.path.parent.joinpath(*part.module.split("."))
        file = next((path for path in (stem.with_suffix(".py"), stem / "__init__.py") if path.is_file()), None)
        if file is not None and part.module:
            with suppress(UnreadableError):
                yield part, module.dialect.files.read(SourceText.read(file))


def _texts(module: Module) -> Iterable[tuple[int, str]]:
    for span in module.strings:
        try:
            value = ast.literal_eval(module.source.slice(span))
        except (ValueError, SyntaxError):
            continue
        if isinstance(value, str):
            yield span.start, value


def _words(module: Module, texts: dict[int, str]) -> list[str]:
    """Short texts in conditions first, then other short texts of one word."""
    asked: dict[str, None] = {}
    others: dict[str, None] = {}
    for start, text in texts.items():
        if not text.strip() or len(text) > _LONGEST_WORD or not text.isprintable() or "{" in text:
            continue
        if _stands_in_condition(module, start):
            asked[text] = None
        elif text.isalnum():
            others[text] = None
    return [*asked, *(word for word in others if word not in asked)]


def _shown_on_widgets(module: Module, texts: dict[int, str]) -> list[str]:
    """The texts that are given to what can be pressed: buttons, entries of menus, lines of lists."""
    found: list[str] = []
    for statement in module.walk():
        for call in statement.calls:
            if final_name(call.callee) in _PRESSED:
                found += [text for text in _arguments(call, texts) if text.strip()]
    return list(dict.fromkeys(found))


def _choices(module: Module, texts: dict[int, str], words: list[str]) -> list[str]:
    """Short texts, of several words too, that stand beside others in a line: in lists and tables."""
    lines = Counter(module.source.line_of(start) for start in texts)
    found = (text for start, text in texts.items() if lines[module.source.line_of(start)] > 1)
    short = (text for text in found if text.strip() and len(text) <= _LONGEST_WORD and text.isprintable())
    short = (text for text in short if text[-1] not in _PROMPTS)
    return [text for text in dict.fromkeys(short) if text not in words or text.isalpha()]


def _stands_in_condition(module: Module, offset: int) -> bool:
    line = module.source.line(module.source.line_of(offset)).lstrip()
    return line.startswith(("if ", "elif ", "while ", "case ", "match ", "and ", "or ", "if(", "elif("))


def _keys(module: Module, texts: dict[int, str]) -> tuple[list[str], list[str]]:
    """The keys named in calls that register handlers, and the event sequences."""
    keys: list[str] = []
    sequences: list[str] = []
    for statement in module.walk():
        for call in statement.calls:
            if final_name(call.callee) in all_known().hears_keys:
                for text in _arguments(call, texts):
                    if text.startswith("<"):
                        sequences.append(text)
                        match = _SEQUENCE.fullmatch(text)
                        if match and not _BUTTON.match(text) and match[1] not in ("Configure", "Key", "KeyPress"):
                            keys.append(match[1])
                    elif text:
                        keys.append(text)
    return keys, sequences


def _arguments(call: Call, texts: dict[int, str]) -> list[str]:
    inside = call.inside
    return [text for start, text in texts.items() if inside is not None and inside.start <= start < inside.end]


def _constant_keys(names: set[str]) -> list[str]:
    return sorted(name[2:] for name in names if name.startswith("K_") and len(name) > 2)


def _listed_keys(module: Module) -> list[str]:
    """The keys that are named in a table of a library's, such as `keys.SPACE`."""
    tables = all_known().key_tables
    found = (r.path[0].name for r in module.references if r.name in tables and r.path and r.path[0].name)
    return sorted({name.upper() if len(name) > 1 else name for name in found})


def _terminal_keys(names: set[str], words: list[str]) -> list[str]:
    """The keys that a program on a terminal screen asks for: arrows and the like by name, and single characters."""
    if not names & {"getch", "getkey", "get_wch"}:
        return []
    named = sorted(name[4:].capitalize() for name in names if name.startswith("KEY_") and name != "KEY_RESIZE")
    return [*named, *(word for word in words if len(word) == 1), "Return", "space", "Escape"]
