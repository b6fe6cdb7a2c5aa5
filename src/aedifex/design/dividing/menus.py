"""What the choices of a program are for, as it says itself: of `1. Mark done` the choice `1` marks done."""

from __future__ import annotations

import re

from aedifex.program.analysis.cached import Analysis
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.survey.words import words_of

_ENTRY = re.compile(
    r"(?<![\w.])[\[(]?(\d|[A-Za-z])\s?(?:[.):\]]|-|=)+\s*([A-Za-z][A-Za-z' -]*?)(?=\s{2,}|[,;:.>(]|\s+[\[(]?\d|\\n|$)"
)
_CHOSEN = re.compile(r"""["'](\w)["']|(?<![\w"'.])(\d)(?![\w"'.])""")
_FEWEST = 2
_MOST_WORDS = 3
_SHORTEST = 3
_ARTICLES = frozenset({"a", "an", "the", "your", "my"})


class Menus(Analysis):
    """The words behind numbers and letters in the texts that a program says, or asks with."""

    def __init__(self, module: Module) -> None:
        super().__init__(module)
        library = module.dialect.library
        self.names: dict[str, str] = {}
        found: list[tuple[str, str]] = []
        for tree in Surroundings.of(module).trees:
            for call in tree.walk():
                callee = module.source.slice(call.parts[0].span) if call.sense is Sense.CALL else ""
                if callee in (library.says, library.asks):
                    for text in (part for part in call.parts[1:] if part.sense is Sense.CONSTANT):
                        found += _ENTRY.findall(text.name or "")
        for choice, said in found if len(found) >= _FEWEST else ():
            words = [word for word in words_of(said.strip()) if word not in _ARTICLES][:_MOST_WORDS]
            name = module.dialect.naming.member_name(words)
            if (
                len(name) >= _SHORTEST
                and module.dialect.rules.is_name(name)
                and not module.dialect.rules.is_taken(name)
            ):
                self.names.setdefault(choice, name)

    def name_for(self, condition: str) -> str:
        """What is chosen where a condition holds; empty where the program does not say so."""
        chosen = {one or other for one, other in _CHOSEN.findall(condition)}
        names = {self.names[choice] for choice in chosen if choice in self.names}
        return names.pop() if len(names) == 1 else ""
