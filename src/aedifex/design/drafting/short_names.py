"""Names that begin with the first letters of what they are about: `fx` and `fspeed` are the ferry's."""

from __future__ import annotations

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence

from aedifex.design.drafting.naming import ATTRIBUTE_WORDS, VERBS
from aedifex.program.analysis.effects import Effects
from aedifex.program.model.module import Module
from aedifex.program.model.names import Symbol
from aedifex.program.structure.layout import Layout
from aedifex.survey.words import nouns_of, singular

_MOVES = frozenset("x y z vx vy dx dy ax ay speed vel velocity pos dir direction angle".split())
"""What only a thing has that is somewhere or goes somewhere."""

_PARTS = _MOVES | ATTRIBUTE_WORDS | frozenset("w h r rad rect img image pic score lives life hp alive step".split())
_NO_PREFIXES = frozenset("d v a my max min old new num cur pre get set is has in on no to un".split())
_LONGEST_PREFIX = 3
_SHORTEST_NOUN = 3
_ENOUGH = 2
_HEADED, _USED, _NAMED = 3, 2, 1


def full_names(module: Module, variables: Sequence[Symbol]) -> Mapping[str, str]:
    """The names of some variables, written out, where they begin with the first letters of a thing.

    At least two must begin so, and one of these say where the thing is or how it goes. Which thing it is, a heading
    above them says, or the functions that use them.
    """
    by_prefix: dict[str, list[tuple[Symbol, str]]] = defaultdict(list)
    for symbol in variables:
        for prefix, part in _cuts(symbol.name):
            by_prefix[prefix].append((symbol, part))
    joined = module.dialect.naming.joined
    found: dict[str, str] = {}
    for prefix, cut in sorted(by_prefix.items(), key=lambda each: -len(each[1])):
        left = [(symbol, part) for symbol, part in cut if symbol.name not in found]
        if len(left) > 1 and any(part in _MOVES for _, part in left):
            noun = _noun(module, prefix, [symbol for symbol, _ in left])
            found |= {symbol.name: joined(noun, part) for symbol, part in left if noun}
    return found


def _cuts(name: str) -> Iterator[tuple[str, str]]:
    if name in _PARTS or not name.isalpha() or not name.islower():
        return
    for length in range(1, _LONGEST_PREFIX + 1):
        if name[length:] in _PARTS and name[:length] not in _NO_PREFIXES:
            yield name[:length], name[length:]


def _noun(module: Module, prefix: str, variables: Sequence[Symbol]) -> str:
    """The thing that begins with some letters, by what speaks for it most; empty where nothing does."""
    votes: Counter[str] = Counter()
    for text, weight in _texts(module, variables):
        for word in {singular(word) for word in nouns_of(text)}:
            if word.startswith(prefix) and len(word) >= max(_SHORTEST_NOUN, len(prefix) + 1):
                votes[word] += 0 if word in ATTRIBUTE_WORDS | VERBS else weight
    [(noun, most)] = votes.most_common(1) or [("", 0)]
    return noun if most >= _ENOUGH else ""


def _texts(module: Module, variables: Sequence[Symbol]) -> Iterator[tuple[str, int]]:
    layout, effects = Layout.of(module), Effects.of(module)
    for symbol in variables:
        first = symbol.references[0].statement
        if first is not None:
            heading = layout.section_of(first)
            yield layout.comment_above(first), _HEADED
            yield heading.text if heading is not None else "", _HEADED
    for function in module.functions:
        if not effects.direct[function].touches.isdisjoint(variables):
            yield function.name, _USED
    for name in module.scope.symbols:
        yield name, _NAMED
