"""What a script in JavaScript listens to."""

from __future__ import annotations

from aedifex.languages.javascript.library.facts import KEYS
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module

_CLICKS = frozenset({"click", "mousedown", "mouseup", "pointerdown", "touchstart"})
_LISTENING = frozenset({"mousePressed", "mouseClicked", "touchStarted"})


def inputs_of(module: Module) -> Inputs:
    """The keys that it names, and whether it reads lines, arguments, or where it is clicked."""
    text, slice_of = module.source.data.decode("utf-8", "replace"), module.source.slice
    texts = {slice_of(span).strip("\"'`") for span in module.strings}
    imported = {name.removeprefix("node:") for name in module.imported}
    steps = {step.name for reference in module.references for step in reference.path}
    return Inputs(
        takes_lines=bool({"readline", "readline/promises"} & imported) or "prompt" in module.outside.symbols,
        keys=tuple(dict.fromkeys(KEYS.findall(text))),
        takes_clicks=bool(_CLICKS & texts) or bool(_LISTENING & module.scope.symbols.keys()),
        takes_arguments="argv" in steps,
    )
