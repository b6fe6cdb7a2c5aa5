"""Random scripts with loops that count a list of objects down and take some out, and the move that turns them round."""

from __future__ import annotations

import random

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.sift import Sift
from tests.support.scripts import changed_outcome

_HEAD = """\
class Kite:
    def __init__(self, height):
        self.height = height


kites = [Kite(4), Kite(9), Kite(2)]
seen = []
total = 0


def more(by):
    {more}


"""


def turned(text: str) -> str:
    """Turn the loops of a script round and run both: `same`, `refused`, or `different: …`."""
    return changed_outcome(text, lambda program: perform(program, Sift(program.main.path, "kites")))


class _Script:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.oddity = self.chance.choice([0.0, 0.0, 0.3, 1.0])

    def oddly(self, share: float) -> bool:
        return self.chance.random() < share * self.oddity

    def deed(self) -> str:
        plain = ["kites[i].height -= 1", "print(kites[i].height)", "total += kites[i].height", "print(total)"]
        plain += ["print(len(kites))", "print([k.height for k in kites])", "print((lambda k: k.height)(kites[i]))"]
        odd = ["print(i)", "kites.append(Kite(total))", "more(total)", "seen.append(kites[i])", "kite = 3; print(kite)"]
        odd += ["kites[i] = Kite(1)", "print(kites[i - 1].height)", "i -= 0", "kites.sort(key=lambda k: k.height)"]
        return self.chance.choice(odd if self.oddly(0.3) else plain)

    def condition(self) -> str:
        return self.chance.choice(["kites[i].height < 4", "kites[i].height % 2 and total > 3", "kites[i].height > 8"])

    def loop(self) -> list[str]:
        lines = ["for i in range(len(kites) - 1, -1, -1):"]
        lines += [f"    {self.deed()}" for _ in range(self.chance.randint(0, 2))]
        lines.append(f"    if {self.condition()}:")
        lines += [f"        {self.deed()}" for _ in range(self.chance.randint(0, 2))]
        removal = "kites.pop(i)" if self.oddly(0.2) else "del kites[i]"
        lines.append(f"        {removal}")
        lines += ["        print(kites[i].height)"] if self.oddly(0.1) else []
        lines += [f"        {self.chance.choice(['break', 'continue'])}"] if self.chance.random() < 0.2 else []
        lines += ["    else:", f"        {self.deed()}"] if self.chance.random() < 0.3 else []
        lines += ["    del kites[-1:]"] if self.oddly(0.1) else []
        return lines

    def write(self) -> str:
        more = self.chance.choice(["kites.append(Kite(by))", "kites.append(kites[0])", "print(by)", "print(by)"])
        lines = ["def sift():", "    global total", *(f"    {line}" for line in self.loop())]
        lines += [f"    {line}" for line in self.loop()] if self.chance.random() < 0.3 else []
        lines += ["    print(i)"] if self.oddly(0.2) else []
        lines += ["", "", "kites.append(Kite(7))", "kites.append(kites[0])" if self.oddly(0.3) else "more(3)"]
        lines += ["other = kites", "other.append(Kite(3))"] if self.oddly(0.2) else []
        lines += ["for turn in range(3):", "    try:", "        sift()", "    except IndexError as error:"]
        lines += ["        print(error)", "    kites.append(Kite(turn + 3))"]
        return _HEAD.format(more=more) + "\n".join([*lines, "print([kite.height for kite in kites], total)"]) + "\n"


def write_backward(seed: int) -> str:
    """A script with a function that sifts kites, and changes the list before, after and perhaps within."""
    return _Script(seed).write()
