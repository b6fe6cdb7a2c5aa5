"""What to type: lines made of what a script listens to, and of what has been learnt from typing them."""

from __future__ import annotations

import random

from aedifex.program.model.inputs import Inputs
from aedifex.verify.running.trace import Trace

_FOR_ALL = ("", "1", "2", "3", "10", "0", "-1", "y", "n", "yes", "no", "a", "hello", "quit", "exit", "q")
_ODD = ("", "x", "2.5", "1,5", "-3")
_NAMES = ("Ann", "hello", "x")
_TOKENS, _SHARES = (1, 2, 3, 4), (40, 33, 20, 7)
_MOST_TRIES = 5
_STREAKS = 0.5
_LONG = 100
_SMALL = 12
_LARGE = 100


class Typist:
    """Thinks of lines. One that has ended the program with an error, or ended it at all, is seldom typed again."""

    def __init__(self, inputs: Inputs, chance: random.Random) -> None:
        self.inputs = inputs
        self.chance = chance
        self.ending: set[str] = set()
        self.good: list[str] = []

    def learn(self, trace: Trace, lines: tuple[str, ...], is_new: bool) -> None:
        """Note which line ended a run, and which were typed in one that reached new lines of the script."""
        typed = [entry.text.rstrip("\n") for entry in trace.entries if entry.kind == "typed" and entry.text]
        if typed and not trace.ending.ran_out and not trace.ending.stopped and len(typed) <= len(lines):
            self.ending.add(typed[-1])
        if is_new:
            self.good += [line for line in dict.fromkeys(typed) if line not in self.ending]

    def lines(self, count: int, *, is_stuck: bool = False) -> list[str]:
        """So many lines; where nothing new turns up, often one word again and again, for what takes its time."""
        if is_stuck and self.chance.random() < _STREAKS:
            word = self._word()
            return [self.line() for _ in range(count // 4)] + [word] * (0 if word in self.ending else _LONG)
        return [self.line() for _ in range(count)]

    def line(self) -> str:
        """A line to type."""
        line = ""
        for _ in range(_MOST_TRIES):
            line = self._line()
            if line not in self.ending:
                break
        return line

    def entry(self) -> str:
        """What to type into a field: most often a number."""
        kind = self.chance.random()
        if kind < 0.6:
            return self.number()
        return self.token() if kind < 0.85 else self.chance.choice(_ODD)

    def at_borders(self) -> list[str]:
        """Lines that went well, with the numbers that the script has, and those beside them, in place of theirs."""
        forms = [line.split(" ") for line in self.good if any(token.isdigit() for token in line.split(" "))]
        found: list[str] = []
        for number in self.inputs.numbers if forms else ():
            for near in (number - 1, number, number + 1):
                form = self.chance.choice(forms)
                found.append(" ".join(str(near) if token.isdigit() else token for token in form))
        return [line for line in dict.fromkeys(found) if line not in self.ending]

    def before_the_end(self, lines: tuple[str, ...]) -> tuple[str, ...]:
        """Lines up to the first that would end the program."""
        until = next((number for number, line in enumerate(lines) if line in self.ending), len(lines))
        return lines[:until]

    def _line(self) -> str:
        chance = self.chance
        if chance.random() < 0.1:
            return chance.choice(_FOR_ALL)
        if self.good and chance.random() < 0.25:
            return self._changed(chance.choice(self.good))
        [count] = chance.choices(_TOKENS, _SHARES)
        first = self._word() if chance.random() < 0.85 else self.number()
        return " ".join([first, *(self.token() for _ in range(count - 1))])

    def _changed(self, line: str) -> str:
        """A line with one of its words another."""
        tokens = line.split(" ")
        at = self.chance.randrange(len(tokens))
        tokens[at] = self.token()
        return " ".join(tokens)

    def token(self) -> str:
        """One word of a line."""
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
        """A whole number: one of the script's own, or another."""
        chance, numbers = self.chance, self.inputs.numbers
        if numbers and chance.random() < 0.5:
            return str(chance.choice(numbers))
        return str(chance.randint(0, _SMALL if chance.random() < 0.7 else _LARGE))
