"""Random scripts with a loop over words in which some branch of a chain ends the loop, wherever it stands."""

from __future__ import annotations

import random

_WORDS = ["load", "go", "look", "quit", "end", "wait", "quit now", "7", "8"]


class _Ending:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.subject = self.chance.choice(["word", "parts[0]", "parts[0]", "number"])
        self.is_number = self.subject == "number"
        self.oddity = self.chance.choice([0.15, 0.5, 1.0])

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def oddly(self, share: float) -> bool:
        return self.rarely(share * self.oddity)

    def constant(self) -> str:
        if self.is_number:
            return str(self.chance.randint(0, 9))
        quote = self.chance.choice("'\"")
        return f"{quote}{self.chance.choice(_WORDS)}{quote}"

    def test(self) -> str:
        """A condition on the subject, mostly a plain one."""
        if self.oddly(0.12):
            return f"{self.subject} != {self.constant()}"
        if self.oddly(0.25):
            sign = "not in" if self.oddly(0.2) else "in"
            return f"{self.subject} {sign} ({self.constant()}, {self.constant()})"
        if self.oddly(0.08) and not self.is_number:
            return f"{self.subject}.startswith({self.constant()})"
        if self.oddly(0.08):
            return f"note({self.subject}) == {self.constant()}"
        return f"{self.subject} == {self.constant()}"

    def condition(self) -> str:
        if self.oddly(0.15):
            return f"{self.test()} {self.chance.choice(['or', 'and'])} {self.test()}"
        if self.oddly(0.2):
            counted = f"len(parts) {self.chance.choice(['==', '>', '!='])} {self.chance.randint(0, 2)}"
            return self.chance.choice([f"{counted} and {self.test()}", f"{self.test()} and {counted}"])
        if self.oddly(0.08):
            return self.chance.choice(["total > 9", "not parts", "note(total) > 3", "total % 5 == 1"])
        return self.test()

    def deeds(self) -> list[str]:
        return self.chance.sample(
            [
                "total += 1",
                "log.append(word)",
                "print('so', word, total)",
                "total -= len(log)",
                "print(note(total))",
                "left = total",
            ],
            self.chance.randint(1, 3),
        )

    def branch(self, word: str, share: float) -> list[str]:
        lines = [f"{word} {self.condition()}:", *(f"    {deed}" for deed in self.deeds())]
        if self.rarely(share):
            lines.append("    break" if self.rarely(0.8) else "    continue")
        if self.oddly(0.08):
            lines.insert(0, "# now this")
        if self.oddly(0.08):
            lines[-1] += "  # so it is"
        if self.rarely(0.05):
            lines.append("    # behind it")
        return lines

    def write(self) -> str:
        chance = self.chance
        words = [chance.choice(_WORDS) for _ in range(9)]
        lines = ["log = []", "total = 0", "left = 0", f"words = {words!r}", "", "", "def note(thing):"]
        lines += ["    global left", "    left += 1", "    print('note', thing)", "    return thing", "", ""]
        lines += ["for turn, word in enumerate(words):", "    parts = word.split()", "    number = (turn * 7) % 10"]
        if self.rarely(0.3):
            lines.append("    print('turn', turn)")
        for count in range(chance.randint(2, 6)):
            lines += [f"    {line}" for line in self.branch("elif" if count else "if", 0.35)]
        if self.rarely(0.6):
            lines += ["    else:", "        print('what?', word)"]
        lines += ["    total += 2", "    print(total, left)"]
        return "\n".join([*lines, "print(log, total, left)"]) + "\n"


def write_endings(seed: int) -> str:
    """A script with one loop over words, and a chain of conditions in it."""
    return _Ending(seed).write()
