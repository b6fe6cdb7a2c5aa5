"""Scripts written at random that draw the same again and again with other arguments, on a board that tells all it is told.

The board stands in a file of its own, as a library would.
"""

from __future__ import annotations

import random

BOARD = """\
class Board:
    def __init__(self):
        self.pen = "thin"
        self.looks = []

    def render(self, text, color):
        return f"<{text} in {color}>"

    def blit(self, image, place):
        print("blit", image, place, self.pen)

    def fill(self, color):
        print("fill", color)

    def attron(self, look):
        self.looks.append(look)

    def attroff(self, look):
        self.looks.remove(look)

    def addstr(self, row, column, text):
        print("at", row, column, text, self.looks)

    def hook(self, row, column, text):
        print("hook", row, column, text)
        if self.handler is not None:
            self.handler()

    handler = None
"""
_STEADY = (
    "score", "place", "names[0]", "len(names)", "score + {n}", "f'{score} points'", "'%d of %d' % (score, place)",
    "total()", "str(score)", "'ferry'.upper()", "self_like.level", "[score][0]", "(score, {n})", "-{n}", "'rope'",
    "'two' if score > 3 else 'one'", "not names", "local", "local * 2", "names[local % len(names)]",
)  # fmt: skip
_UNSTEADY = (
    "counted()", "names.pop() if len(names) > 2 else 0", "(score := score + 0)", "sum(n for n in range({n}))",
    "max(map(len, names))", "names.append('x')", "[score, {n}]", "board_of().pen", "told()", "text",
)  # fmt: skip
_RUNS = (
    ("{s}.attron({k})", "{s}.addstr({a}, {b}, {c})", "{s}.attroff({k})"),
    ("text = {s}.render({a}, {k})", "{s}.blit(text, ({b}, {c}))", "{s}.fill({k})"),
    ("{s}.fill({k})", "{s}.blit({s}.render({a}, {b}), {c})", "{s}.attron(1)"),
    ("{s}.addstr({a}, 4, {b})", "{s}.addstr({a}, 8, {c})", "{s}.fill({k})"),
    ("{s}.hook({a}, 4, {b})", "{s}.addstr({a}, 8, {c})", "{s}.fill({k})"),
    ("score = {a}", "{s}.addstr(1, 8, {c})", "{s}.fill({k})"),
    ("print({a})", "{s}.addstr(2, 8, {c})", "{s}.fill({b})"),
)


class _Drawing:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.unsteady = self.chance.choice([0.0, 0.0, 0.05, 0.2])
        self.runs = self.chance.sample(_RUNS, 2)

    def value(self) -> str:
        known = _UNSTEADY if self.chance.random() < self.unsteady else _STEADY
        return self.chance.choice(known).replace("{n}", str(self.chance.randint(1, 9)))

    def run(self) -> list[str]:
        given = {name: self.value() for name in "abc"} | {"k": str(self.chance.randint(1, 3)), "s": "screen"}
        return [line.format(**given) for line in self.chance.choice(self.runs)]

    def write(self) -> str:
        chance = self.chance
        lines = ["import board", "", "screen = board.Board()", "score = 2", "place = 7", "count = 0"]
        lines += ["names = ['heron', 'crane', 'gull']", "text = 'none'", "", ""]
        lines += ["class Thing:", "    level = 3"]
        if chance.random() < 0.1:
            lines += ["    def __str__(self):", "        print('shown')", "        return 'thing'"]
        lines += ["", "", "self_like = Thing()", "", "", "def total():", "    return score + place", "", ""]
        lines += ["def counted():", "    global count", "    count += 1", "    return count", "", ""]
        lines += ["def told():", "    print('told')", "    return place", "", ""]
        lines += ["def board_of():", "    return screen", "", ""]
        if chance.random() < 0.3:
            lines += ["def hear():", "    global score", "    score += 1", "", "", "screen.handler = hear", "", ""]
        for name in ("draw_top", "draw_end", "draw_rest"):
            lines += [f"def {name}(local):", "    global score", "    text = 'start'"]
            for _ in range(chance.randint(1, 3)):
                inner = self.run()
                if chance.random() < 0.3:
                    inner = ["if local > 1:", *(f"    {line}" for line in inner)]
                if chance.random() < 0.1:
                    inner = ["try:", *(f"    {line}" for line in inner), "except TypeError:", "    print('error')"]
                lines += [f"    {line}" for line in inner] + (["    score += 1"] if chance.random() < 0.4 else [])
            lines += ["    return text", "", ""]
        lines += ["for turn in range(4):", "    place += turn", "    print(draw_top(turn), draw_end(2))"]
        if chance.random() < 0.3:
            lines += [
                "    try:",
                "        draw_end(0)",
                "    except (TypeError, IndexError):",
                "        print('caught')",
            ]
        lines += ["    draw_rest(turn * 2)", "print(score, place, count, names)"]
        return "\n".join(lines) + "\n"


def write_drawings(seed: int) -> dict[str, str]:
    """The texts of the script, which `lift.py` is called, and of the board."""
    return {"lift.py": _Drawing(seed).write(), "board.py": BOARD}
