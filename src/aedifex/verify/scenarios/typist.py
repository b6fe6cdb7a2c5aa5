"""What to type into fields and to send with requests: words and numbers that a script listens to, and others."""

from __future__ import annotations

import random

from aedifex.program.model.inputs import Inputs

_FOR_ALL = ("", "1", "2", "3", "10", "0", "-1", "y", "n", "yes", "no", "a", "hello", "quit", "exit", "q")
_ODD = ("", "x", "2.5", "1,5", "-3")
_NAMES = ("Ann", "hello", "x")
_SMALL = 12
_LARGE = 100
_BESIDE = (0, 0, -1, 1)


class Typist:
    """Thinks of words and numbers."""

    def __init__(self, inputs: Inputs, chance: random.Random) -> None:
        self.inputs = inputs
        self.chance = chance

    def entry(self) -> str:
        """What to type into a field: most often a number."""
        kind = self.chance.random()
        if kind < 0.6:
            return self.number()
        return self.token() if kind < 0.85 else self.chance.choice(_ODD)

    def token(self) -> str:
        """One word."""
        kind = self.chance.random()
        if kind < 0.45:
            return self.number()
        if kind < 0.75 and self.inputs.choices:
            return self.chance.choice(self.inputs.choices)
        return self._word() if kind < 0.95 else self.chance.choice(_NAMES)

    def _word(self) -> str:
        """A word of the script; those that it compares with come first in the list, and more often."""
        words = self.inputs.words
        if not words:
            return self.chance.choice(self.inputs.choices or _FOR_ALL)
        return words[min(int(self.chance.expovariate(3 / len(words))), len(words) - 1)]

    def number(self) -> str:
        """A whole number: one of the script's own or one beside it, or another."""
        chance, numbers = self.chance, self.inputs.numbers
        if numbers and chance.random() < 0.5:
            return str(chance.choice(numbers) + chance.choice(_BESIDE))
        return str(chance.randint(0, _SMALL if chance.random() < 0.7 else _LARGE))
