"""Whether a name certainly holds an object, by what the program has asked before."""

from __future__ import annotations

import pytest

from aedifex.program.analysis.holding.presence import Presence
from aedifex.program.model.expressions import Sense
from tests.support.helpers import module_of

CERTAIN = [
    "if cart:\n    use(cart)",
    "if cart is not None and ready:\n    use(cart)",
    "if cart is None:\n    pass\nelse:\n    use(cart)",
    "if cart is None:\n    pass\nelif ready:\n    use(cart)",
    "if cart is None:\n    pass\nelif use(cart):\n    pass",
    "if cart is None:\n    raise KeyError\nuse(cart)",
    "if not cart or ready:\n    raise KeyError\nuse(cart)",
    "if cart == None:\n    raise KeyError\nelif ready:\n    raise ValueError\nuse(cart)",
    "if ready:\n    raise KeyError\nelif cart is None:\n    raise ValueError\nuse(cart)",
    "while cart is not None:\n    use(cart)\n    cart = None",
    "cart.tip()\nuse(cart)",
    "if cart['load'] > 3:\n    pass\nuse(cart)",
    "cart and use(cart)",
    "cart is None or use(cart)",
    "use(cart) if cart else 0",
    "for turn in range(3):\n    if cart is None:\n        continue\n    use(cart)",
]
UNCERTAIN = [
    "use(cart)",
    "if cart or ready:\n    use(cart)",
    "if cart is None:\n    use(cart)",
    "if cart is None:\n    print(1)\nuse(cart)",
    "if cart is None:\n    raise KeyError\ncart = None\nuse(cart)",
    "if cart is None and ready:\n    raise KeyError\nuse(cart)",
    "if ready:\n    cart.tip()\nuse(cart)",
    "ready and cart.tip()\nuse(cart)",
    "use(cart) if ready else cart",
    "if cart:\n    for turn in range(3):\n        use(cart)\n        cart = None",
    "while cart is None:\n    use(cart)",
    "later = lambda: use(cart)\nif cart:\n    later()",
    "if cart:\n    cart = None\n    use(cart)",
]
FORGETTING = "def forget():\n    global cart\n    cart = None\n\n\n"


def is_certain(text):
    module = module_of(f"cart = ready = find()\n{text}\n")
    presence = Presence(module)
    calls = [e for tree in presence.surroundings.trees for e in tree.walk() if e.sense is Sense.CALL]
    use = next(c for c in calls if c.parts[0].reference is not None and c.parts[0].reference.name == "use")
    return presence.is_certain(use.parts[1])


@pytest.mark.parametrize("text", CERTAIN)
def test_what_was_asked_tells_that_it_is_there(text):
    assert is_certain(text)


@pytest.mark.parametrize("text", UNCERTAIN)
def test_what_was_asked_tells_nothing(text):
    assert not is_certain(text)


@pytest.mark.parametrize("text", CERTAIN)
def test_nothing_is_certain_of_what_a_function_may_change(text):
    assert not is_certain(FORGETTING + text)
