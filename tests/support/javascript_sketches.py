"""Random sketches whose variables get their values in `setup`, or somewhere else; and what comes of building one."""

from __future__ import annotations

import random
from collections.abc import Sequence

from aedifex.verify.scenarios.scenario import Event
from tests.support.javascript_pages import EVENTS, compared

_NOUNS = ("kite", "buoy", "gull", "lamp")
_PARTS = ("X", "Y", "Speed", "Size", "Lit")


class SketchWriter:
    """Writes a sketch: several things of one kind in variables of their own, a thing alone, and some counts."""

    def __init__(self, seed: int) -> None:
        self.random = random.Random(seed)
        self.noun = self.random.choice(_NOUNS)
        self.parts = self.random.sample(_PARTS, self.random.randint(1, 4))
        self.marks = [str(number) for number in range(1, self.random.choice([3, 3, 4]))]
        self.lone = self.random.sample(["ferryX", "ferryY", "ferryRope"], self.random.randint(1, 3))
        self.counts = ["score", "wind", "turns"][: self.random.randint(1, 3)]

    def name(self, mark: str, part: str) -> str:
        return f"{self.noun}{mark}{part}"

    @property
    def copies(self) -> list[list[str]]:
        return [[self.name(mark, part) for part in self.parts] for mark in self.marks]

    @property
    def everything(self) -> list[str]:
        return [*(name for copy in self.copies for name in copy), *self.lone, *self.counts]

    def write(self) -> str:
        """The whole sketch."""
        chance = self.random
        blocks = [self.set_up(), self.drawing(), *self.handlers()]
        if chance.random() < 0.5:
            blocks.append(["function again() {", *self.given(chance.sample(self.copies, 1)), "}"])
        if chance.random() < 0.15:
            blocks.append(["function preload() {", f"  {chance.choice(self.everything)} = 4;", "}"])
        chance.shuffle(blocks)
        lines = self.declared()
        if chance.random() < 0.1:
            lines.append("tell();")
        blocks.append(["function tell() {", f"  print({', '.join(chance.sample(self.everything, 2))});", "}"])
        for block in blocks:
            lines += ["", *block]
        return "\n".join(lines) + "\n"

    def declared(self) -> list[str]:
        chance = self.random
        word = chance.choice(["let", "let", "var"])
        lines = []
        for names in (*self.copies, self.lone):
            told = [name if chance.random() < 0.97 else f"{name} = {chance.randint(0, 9)}" for name in names]
            lines += [f"{word} {', '.join(told)};"] if chance.random() < 0.6 else [f"{word} {name};" for name in told]
        return [*lines, *(f"{word} {name}{chance.choice([' = 0', ''])};" for name in self.counts)]

    def value(self, part: str) -> str:
        chance = self.random
        if part == "Lit":
            return chance.choice(["true", "false"])
        return chance.choice(
            [
                str(chance.randint(1, 99)),
                f"width / {chance.randint(2, 5)}",
                "random(40)",
                f"height - {chance.randint(1, 9)}",
            ]
        )

    def given(self, copies: Sequence[Sequence[str]]) -> list[str]:
        """The values of some copies: copy by copy, attribute by attribute, or in any order."""
        chance = self.random
        plain = {part: self.value(part) for part in self.parts}
        told = [
            [
                f"  {name} = {plain[part] if chance.random() < 0.6 else self.value(part)};"
                for name, part in zip(copy, self.parts, strict=True)
            ]
            for copy in copies
        ]
        order = chance.random()
        if order < 0.5:
            return [line for copy in told for line in copy]
        lines = [line for attribute in zip(*told, strict=True) for line in attribute]
        if order > 0.85:
            chance.shuffle(lines)
        return lines

    def set_up(self) -> list[str]:
        chance = self.random
        lines = ["  createCanvas(200, 100);"]
        given = self.given(self.copies)
        if chance.random() < 0.1 and given:
            given[-1] = f"  if (width > 5) {{ {given[-1].strip()} }}"
        alone = [f"  {name} = {self.value('X')};" for name in self.lone if chance.random() < 0.9]
        other = chance.choice(
            [[], ["  noStroke();"], ["  tell();"], [f"  {self.counts[0]} = 1;"], ["  if (width < 9) return;"]]
        )
        parts = [given, alone, other]
        if chance.random() < 0.4:
            chance.shuffle(parts)
        if chance.random() < 0.1:
            lines, parts = [*lines, *parts[0]], [*parts[1:], ["  tell();"]]
        return ["function setup() {", *lines, *(line for part in parts for line in part), "}"]

    def drawing(self) -> list[str]:
        chance = self.random
        lines = ["  background(9);"]
        for _ in range(chance.randint(1, 4)):
            part, other = chance.choice(self.parts), chance.choice(self.parts)
            done = chance.choice(
                [
                    "# += 2;",
                    "if (# > width) # = 0;",
                    "ellipse(#, @, 9);",
                    "if (#) @ = 3;",
                    f"# += @ + {self.counts[0]};",
                ]
            )
            some = self.marks if chance.random() < 0.85 else self.marks[:1]
            lines += [f"  {done.replace('#', self.name(m, part)).replace('@', self.name(m, other))}" for m in some]
        lines += [f"  {name} += 1;" for name in self.lone if chance.random() < 0.6]
        lines += [f"  rect({', '.join((*self.lone, '5', '5'))});", f"  {chance.choice(self.counts)}++;"]
        return ["function draw() {", *lines, f"  text({chance.choice(self.everything)}, 1, 1);", "}"]

    def handlers(self) -> list[list[str]]:
        chance = self.random
        first, counted = self.name(chance.choice(self.marks), self.parts[0]), chance.choice(self.counts)
        pressed = chance.choice([f"{first} = mouseX;", f"if ({first} > 9) {counted}++;", f"{counted} = {first};"])
        keyed = chance.choice(["setup();", f"{counted} = 0;", f"print({first});", "tell();"])
        return [
            ["function mousePressed() {", f"  {pressed}", "}"],
            ["function keyPressed() {", f"  {keyed}", "}"],
        ][: chance.randint(0, 2)]


class _RecordWriter(SketchWriter):
    """One thing more, which is an object that `setup` makes, or nearly so, with functions about it."""

    def declared(self) -> list[str]:
        return [*super().declared(), self.random.choice(["let boat;", "let boat;", "var boat;", "let boat = null;"])]

    def set_up(self) -> list[str]:
        chance = self.random
        head, *lines, foot = super().set_up()
        made = [f"  boat = {{ x: {self.value('X')}, y: {self.value('Y')}, speed: {chance.randint(1, 5)}, up: false }};"]
        if chance.random() < 0.1:
            made = ["  if (width > 9) {", f"  {made[0]}", "  }"]
        if chance.random() < 0.15:
            made = chance.choice([["  driftBoat();", *made], [*made, "  driftBoat();"], [*made, "  boat.more = 2;"]])
        at = chance.choice([0, 1, len(lines)])
        return [head, *lines[:at], *made, *lines[at:], foot]

    def drawing(self) -> list[str]:
        head, *lines, foot = super().drawing()
        told = self.random.choice(["driftBoat();", "if (boat.up) driftBoat();", "boat.x += boat.speed;"])
        return [head, *lines, f"  {told}", "  paintBoat();", foot]

    def handlers(self) -> list[list[str]]:
        chance = self.random
        done = ["boat.x += boat.speed;", "if (boat.x > width) boat.x = 0;", f"boat.y += {self.counts[0]};"]
        done += ["boat.up = !boat.up;", f"boat.speed += boat.y % {chance.randint(2, 5)};"]
        lines = [f"  {line}" for line in chance.sample(done, 2)]
        touched = chance.choice(
            ["boat.up = true;", "boat.x = mouseX;", "boat = null;", "driftBoat();", "print(boat.x);"]
        )
        return [
            *super().handlers()[:1],
            ["function driftBoat() {", *lines, "}"],
            ["function paintBoat() {", "  rect(boat.x, boat.y, boat.speed, 5);", "}"],
            ["function mouseReleased() {", f"  if (mouseX > 9) {touched}", "}"],
        ]


def write_record_sketch(seed: int) -> str:
    """A sketch one of whose things is an object that is made later."""
    return _RecordWriter(seed).write()


def write_sketch(seed: int) -> str:
    """A sketch."""
    return SketchWriter(seed).write()


def outcome(text: str) -> str:
    """What comes of building a sketch: `same`, `refused: …` or `different: …`."""
    return compared(text, "harbour.js", (*EVENTS, *(Event(turn, "click", (40, 50)) for turn in (1, 5, 11))))
