"""Words for things: those that say nothing, and what people mean by a thing that has certain fields."""

from __future__ import annotations

from collections.abc import Collection

BARE_NOUN = "item"
"""What things are called when nothing says what they are."""
SHORT = 2
"""Words of so many letters say nothing."""
PLAIN_WORDS = frozenset(
    "the and for with from into this that these those are is was has does one two three all each lists names "
    "values things numbers items times".split()
)
"""What comments and names say of anything."""
HAPPENING = frozenset(
    "clicked dragged ended key keys mouse moved pressed released resized started touch typed wheel window".split()
)
"""What names of handlers say of what happens."""
_HAVING = {
    "book": frozenset({"author", "isbn"}),
    "student": frozenset({"grade", "mark", "homework"}),
    "employee": frozenset({"salary", "wage"}),
    "person": frozenset({"age", "birthday", "surname"}),
    "account": frozenset({"balance", "deposit"}),
    "city": frozenset({"population", "mayor"}),
    "product": frozenset({"price", "stock"}),
    "player": frozenset({"score", "lives", "points"}),
}
"""What only such things have."""
POINT = "point"
"""What has nothing but coordinates."""
_PLACES = frozenset("x xs y ys z zs".split())


def noun_with(fields: Collection[str]) -> str:
    """What people mean by a thing that has such fields; what things are called for want of a word, if that is open."""
    if fields and _PLACES.issuperset(fields):
        return POINT
    return next((noun for noun, telling in _HAVING.items() if not telling.isdisjoint(fields)), BARE_NOUN)
