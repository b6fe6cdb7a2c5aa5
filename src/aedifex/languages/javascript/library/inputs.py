"""What a script in JavaScript listens to."""

from __future__ import annotations

import re

from aedifex.languages.javascript.library.facts import KEYS
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module

_CLICKS = frozenset({"click", "mousedown", "mouseup", "pointerdown", "touchstart"})
_LONGEST, _MOST = 20, 40
_COMPARED = re.compile(r"""(?:[!=]==?\s*|case\s+|includes\(|startsWith\()(?P<q>["'`])(?P<text>[^"'`\\\n]*)(?P=q)""")
_NUMBER = re.compile(r"(?<![\w.])\d{1,4}(?![\w.])")
_LISTENING = frozenset({"mousePressed", "mouseClicked", "touchStarted"})


_READING = frozenset({"readline", "readline/promises"})
_FROM_INPUT = re.compile(r"""\bread(?:File)?Sync\(\s*(?:0|process\.stdin\.fd|["']/dev/stdin["'])\s*[,)]""")


def inputs_of(module: Module) -> Inputs:
    """The texts that it compares, the keys that it names, and whether it reads lines, arguments, or hears clicks."""
    text, slice_of = module.source.data.decode("utf-8", "replace"), module.source.slice
    texts = {slice_of(span).strip("\"'`") for span in module.strings}
    imported = {name.removeprefix("node:") for name in module.imported}
    steps = {step.name for reference in module.references for step in reference.path}
    compared = dict.fromkeys(found["text"] for found in _COMPARED.finditer(text))
    short = [
        each for each in dict.fromkeys(slice_of(span).strip("\"'`") for span in module.strings) if each.isprintable()
    ]
    numbers = dict.fromkeys(int(found[0]) for found in _NUMBER.finditer(text))
    return Inputs(
        words=tuple(word for word in compared if word and len(word) <= _LONGEST)[:_MOST],
        choices=tuple(word for word in short if word and len(word) <= _LONGEST and word not in compared)[:_MOST],
        numbers=tuple(numbers)[:_MOST],
        takes_lines=bool(_READING & imported) or "stdin" in steps or _FROM_INPUT.search(text) is not None,
        keys=tuple(dict.fromkeys(KEYS.findall(text))),
        takes_clicks=bool(_CLICKS & texts) or bool(_LISTENING & module.scope.symbols.keys()),
        takes_arguments="argv" in steps,
    )
