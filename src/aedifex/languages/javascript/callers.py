"""What looks for functions of a script by their names: a library for sketches, and the page around it."""

from __future__ import annotations

import re

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.page_code import page_of
from aedifex.program.model.module import Module

SKETCH = "the sketch's library"
_PAGE = "the page"
_IMPORTER = "what imports this file"
_MADE_BY = frozenset(
    """
createCanvas noCanvas noLoop redraw background describe createDiv createP createImg createButton createInput
createSlider createCheckbox createSelect createElement createGraphics createVector loadImage loadTable loadStrings
loadJSON loadXML loadFont loadShader frameRate strokeWeight textSize ellipse
""".split()
)
_CALLED_FIRST = frozenset({"setup", "draw"})
_LOOKED_FOR = frozenset(
    """
setup draw preload mousePressed mouseReleased mouseClicked mouseMoved mouseDragged mouseWheel doubleClicked keyPressed
keyReleased keyTyped touchStarted touchMoved touchEnded windowResized deviceMoved deviceTurned deviceShaken
""".split()
)
_WHOLE_CALL = re.compile(r"\s*(?:javascript:)?(?:[A-Za-z_$][\w$]*\([^()]*\)\s*;?\s*)+")
_HANDLER = re.compile(r"""\bon[a-z]+\s*=\s*\\?["']?([^"'>]*)""")
_CALLED = re.compile(r"[A-Za-z_$][\w$]*")


def find(module: Module) -> dict[str, str]:
    """The names of the module's top level that something outside looks for, each with what does."""
    names = module.scope.symbols.keys()
    rules = module.dialect.rules
    found = {f.name: _IMPORTER for f in module.functions if rules.is_handed_out(module, f.name)}
    found |= {name: _PAGE for name in (*named_by_page(module), *_named_in_texts(module)) if name in names}
    is_drawn = not _CALLED_FIRST.isdisjoint(names) and not _MADE_BY.isdisjoint(module.outside.symbols)
    if is_drawn or names >= _CALLED_FIRST:
        found |= {name: SKETCH for name in sorted(_LOOKED_FOR & names)}
    return found


def _named_in_texts(module: Module) -> set[str]:
    """The names in texts of the script that a page would carry out: calls written out, and handlers of elements."""
    found: set[str] = set()
    for span in (*module.strings, *module.fixed):
        text = module.source.slice(span)[1:-1]
        if _WHOLE_CALL.fullmatch(text):
            found.update(_CALLED.findall(text))
        for handler in _HANDLER.finditer(text):
            found.update(_CALLED.findall(handler[1]))
    return found


def named_by_page(module: Module) -> set[str]:
    """The names in what a page carries out when something happens to one of its elements."""
    if not pages.is_page(module.path):
        return set()
    return {name for text in pages.handlers_of(page_of(module.source)) for name in _CALLED.findall(text)}
