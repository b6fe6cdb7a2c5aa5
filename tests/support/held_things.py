"""Scripts written at random with lists of things of a library, which are made, gone over, compared and taken out."""

from __future__ import annotations

import random

_MADE = ("Values(dict(x={n}, y=turn))", "Values(dict(x=turn % 3, y=0))", "optparse.Values(dict(x=reach, y={n}))")
_DEEDS = (
    "{e}.x += {n}",
    "{e}.y = {e}.x + {n}",
    "show({e})",
    "print({e}.x, {e}.y)",
    "reach = {e}.x",
    "last = {e}",
    "{e}.x += 1\n{e}.y -= 1",
    "if {e}.x > 6:\n    reach += 1",
    "print({e} == last)",
    "later.append(lambda one={e}: one.x)",
)
_TAKING = (
    "if {e}.x > {n}:\n    {l}.remove({e})",
    "if {e}.y < 0:\n    {l}.remove({e})\nelif {e}.x > 9:\n    {l}.remove({e})\n    reach -= 1",
    "if {e} in {l}:\n    print('still there', {l}.index({e}))",
)
_ALL = (
    "{l} = [{e} for {e} in {l} if {e}.x < 1{n}]",
    "print(len({l}), [one.x for one in {l}])",
    "if {l}:\n    print({l}[0].x, {l}[-1].y)",
    "if len({l}) > 4:\n    del {l}[0]",
    "if len({l}) > 5:\n    {l}.pop()",
    "for number, {e} in enumerate({l}):\n    {e}.y += number",
    "{l}.insert(0, Values(dict(x={n}, y=2)))",
    "fresh = Values(dict(x={n}, y=reach))\nfresh.x += 1\n{l}.append(fresh)\nfresh.y = 5",
    "{e} = Values(dict(x={n}, y=reach))\n{e}.x += 2\n{l}.append({e})\n{e}.y = 4",
    "if {l} and turn > 3:\n    {l}[0] = Values(dict(x=0, y={n}))",
    "print(sum({e}.x for {e} in {l}), any({e}.y > 3 for {e} in {l}))",
    "for {e} in reversed({l}):\n    print({e}.x, end=' ')\nprint()",
)
_STRANGE = (
    "print({l} == {l}[:], {l} != [])",
    "other = {l}\nprint(len(other))",
    "{l}.sort(key=lambda one: one.x)",
    "for {e} in {l}:\n    {e} = Values(dict(x=1, y=1))\n    print({e}.x)",
    "if last in {l}:\n    {l}.remove(last)",
    "{l} += [Values(dict(x=1, y={n}))]",
    "for {e} in {l}:\n    pass\nif {l}:\n    print({e}.x)",
    "{l}.extend({l}[:1])",
    "for {e} in {l}[1:]:\n    {e}.x -= 1",
)


class _Script:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.strange = self.chance.choice([0.0, 0.0, 0.0, 0.2])

    def filled(self, text: str, listed: str, element: str) -> list[str]:
        return text.format(l=listed, e=element, n=self.chance.randint(1, 7)).split("\n")

    def walk(self, listed: str, element: str) -> list[str]:
        chance = self.chance
        copied = chance.choice(["{l}[:]", "list({l})", "{l}.copy()", "{l}"]).format(l=listed)
        deeds = chance.sample(_DEEDS, chance.randint(1, 3))
        deeds += [chance.choice(_TAKING)] if copied != listed and chance.random() < 0.7 else []
        lines = [line for deed in deeds for line in self.filled(deed, listed, element)]
        return [f"for {element} in {copied}:", *(f"    {line}" for line in lines)]

    def block(self, listed: str, element: str) -> list[str]:
        chance, lines = self.chance, []
        for _ in range(chance.randint(2, 4)):
            if chance.random() < self.strange:
                lines += self.filled(chance.choice(_STRANGE), listed, element)
            elif chance.random() < 0.5:
                lines += self.walk(listed, element)
            else:
                lines += self.filled(chance.choice(_ALL), listed, element)
        return lines

    def write(self) -> str:
        chance = self.chance
        lines = ["import optparse", "from optparse import Values", "", "reach = 2", "last = None", "later = []"]
        starts = (
            "[]",
            "[Values(dict(x=1, y=1)), Values(dict(x=1, y=1))]",
            "[Values(dict(x=i, y=0)) for i in range(3)]",
        )
        lines += [f"logs = {chance.choice(starts)}", f"buoys = {chance.choice(starts)}", "", ""]
        lines += ["def show(one):", "    print('at', one.x, one.y)", "", ""]
        is_apart = chance.random() < 0.5
        if is_apart:
            body = self.block("logs", "log")
            lines += ["def drift(turn):", "    global reach, last, logs", *(f"    {line}" for line in body), "", ""]
        made = self.filled(chance.choice(_MADE), "logs", "log")[0]
        lines += ["for turn in range(7):", f"    logs.append({made})"]
        lines += ["    drift(turn)"] if is_apart else [f"    {line}" for line in self.block("logs", "log")]
        lines += [f"    {line}" for line in self.block("buoys", chance.choice(["buoy", "log"]))]
        if chance.random() < 0.5:
            lines += ["    for buoy in buoys:", "        for log in logs[:]:"]
            lines += ["            if buoy.x == log.x:", "                logs.remove(log)", "                break"]
        lines += ["    print(turn, reach, [one.x for one in logs], [one.y for one in buoys])"]
        lines += ["print([one() for one in later], last)"]
        return "\n".join(lines) + "\n"


def write_held(seed: int) -> str:
    """A script in which logs and buoys, things of a library, come and go."""
    return _Script(seed).write()
