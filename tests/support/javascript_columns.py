"""Random scripts of JavaScript that keep things in lists side by side, and ask these for what may not be there.

Each runs to its end and says what became of everything: what is behind the end of a list is told as `undefined`.
"""

from __future__ import annotations

import random

_NOUNS = "kite lamp packet gauge".split()
_FIELDS = "x y speed load name lit".split()


class JavaScriptColumns:
    """Writes one script."""

    def __init__(self, seed: int) -> None:
        self.random = chance = random.Random(seed)
        self.end = chance.choice([";", ";", ";", ""])
        self.noun = chance.choice(_NOUNS)
        self.fields = chance.sample(_FIELDS, chance.randint(2, 4))
        self.lists = [f"{self.noun}{field.title()}" for field in self.fields]
        self.numbers = [n for n, f in zip(self.lists, self.fields, strict=True) if f not in ("name", "lit")]
        self.is_careful = chance.random() < 0.6
        self.counted = chance.random() < 0.4
        self.may_shrink = chance.random() < 0.6
        self.functions: list[tuple[str, bool]] = []
        self.tick = 0

    def write(self) -> str:
        """The whole script."""
        chance, end = self.random, self.end
        size = 0 if self.counted else chance.randint(0, 4)
        word = chance.choice(["let", "let", "const", "var"])
        self.is_fixed = word == "const"
        head = [f"let turn = 0{end}", f"{chance.choice(['const', 'let'])} LOTS = {chance.randint(2, 5)}{end}"]
        for name, field in zip(self.lists, self.fields, strict=True):
            head.append(f"{word} {name} = [{', '.join(self.value(field) for _ in range(size))}]{end}")
        blocks = [head]
        if self.counted:
            blocks.append(self.filling())
        blocks.append(self.adding())
        blocks += [self.function(number) for number in range(chance.randint(2, 5))]
        blocks.append(self.main())
        return "\n".join("\n".join(block) + "\n" for block in blocks)

    # -- values

    def value(self, field: str) -> str:
        chance = self.random
        if field == "name":
            return f"'{chance.choice(['red', 'blue', 'tall'])}{chance.randint(1, 9)}'"
        if field == "lit":
            return chance.choice(["true", "false"])
        return str(chance.randint(0, 20))

    def given(self, field: str, number: str) -> str:
        """A new value, worked out."""
        chance = self.random
        plain = self.value(field)
        if field in ("name", "lit") or chance.random() < 0.4:
            return plain
        return chance.choice([f"{plain} + turn", f"{number} * 2", "turn++", f"Math.max({plain}, turn)"])

    def part(self, number: str) -> str:
        return f"{self.random.choice(self.lists)}[{number}]"

    # -- routines

    def filling(self) -> list[str]:
        chance, end = self.random, self.end
        limit = chance.choice(["LOTS", "LOTS", "3"])
        lines = [f"  for (let i = 0; i < {limit}; i++) {{"]
        by_place = chance.random() < 0.5
        for name, field in zip(self.lists, self.fields, strict=True):
            value = self.given(field, "i")
            lines.append(f"    {name}[i] = {value}{end}" if by_place else f"    {name}.push({value}){end}")
        if not self.is_careful and chance.random() < 0.3:
            lines.insert(1, f"    if (i === 1) {chance.choice(['continue', 'break'])}{end}")
        lines.append("  }")
        self.is_filled_by_call = chance.random() < 0.5
        if self.is_filled_by_call:
            return ["function fillAll() {", *lines, "}"]
        return [line[2:] for line in lines]

    def adding(self) -> list[str]:
        chance, end = self.random, self.end
        way = chance.choice(["push", "push", "push", "unshift"])
        lines = [f"  {n}.{way}({self.given(f, 'at')}){end}" for n, f in zip(self.lists, self.fields, strict=True)]
        self.functions.append((f"add{self.noun.title()}", True))
        return [f"function add{self.noun.title()}(at) {{", *lines, "}"]

    def function(self, number: int) -> list[str]:
        chance = self.random
        name = f"{chance.choice(['check', 'go', 'turn', 'show'])}{self.noun.title()}{number}"
        has_number = chance.random() < 0.15
        inside = self.body("at" if has_number else "", 1)
        self.functions.append((name, has_number))
        return [f"function {name}({'at' if has_number else ''}) {{", *inside, "}"]

    def body(self, number: str, depth: int) -> list[str]:
        chance, found = self.random, []
        for _ in range(chance.randint(1, 3)):
            if number:
                found += self.about(number, depth, in_loop=depth > 1)
            else:
                found += self.loop(depth)
        return found

    def about(self, number: str, depth: int, *, in_loop: bool) -> list[str]:
        """Something done with one thing."""
        chance, end, margin = self.random, self.end, "  " * depth
        way = chance.choice([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10])
        if way <= 2:
            return [f"{margin}console.log('{self.next_tick()}', {self.part(number)}, {self.part(number)}){end}"]
        if way <= 4 and self.numbers:
            part = f"{chance.choice(self.numbers)}[{number}]"
            step = chance.choice([f"{part} += {chance.randint(1, 4)}", f"{part}++", f"{part} = {part} * 2 - turn"])
            return [f"{margin}{step}{end}"]
        if way == 5 and self.numbers and depth < 4:
            part = f"{chance.choice(self.numbers)}[{number}]"
            inside = self.about(number, depth + 1, in_loop=in_loop)
            return [f"{margin}if ({part} > {chance.randint(0, 20)}) {{", *inside, f"{margin}}}"]
        if way == 6 and self.functions and chance.random() < 0.6:
            name, has_number = chance.choice(self.functions)
            if name.startswith("add") and in_loop:
                return [f"{margin}turn += 2{end}"]
            return [f"{margin}{name}({number if has_number else ''}){end}"]
        if way in (7, 8) and self.may_shrink and (in_loop or chance.random() < 0.3):
            return self.removal(number, depth, in_loop=in_loop)
        name, field = chance.choice(list(zip(self.lists, self.fields, strict=True)))
        return [f"{margin}{name}[{number}] = {self.given(field, number)}{end}"]

    def removal(self, number: str, depth: int, *, in_loop: bool) -> list[str]:
        chance, end, margin = self.random, self.end, "  " * depth
        condition = f"{self.part(number)} === {chance.choice(['undefined', 'true', '4', '7', '12'])} || turn % 3 === 1"
        way = chance.choice(["splice(NUMBER, 1)", "splice(NUMBER, 1)", "pop()", "shift()"]).replace("NUMBER", number)
        removed = [f"{margin}  {name}.{way}{end}" for name in self.lists]
        leaving = chance.choice(["continue", "break", "return", "", ""]) if in_loop else chance.choice(["return", ""])
        if in_loop and chance.random() < 0.4:
            removed.append(f"{margin}  {number}--{end}")
        if leaving:
            removed.append(f"{margin}  {leaving}{end}")
        return [f"{margin}if ({condition}) {{", f"{margin}  turn++{end}", *removed, f"{margin}}}"]

    def loop(self, depth: int) -> list[str]:
        chance, end, margin = self.random, self.end, "  " * depth
        name, number = chance.choice(self.lists), "ijk"[min(depth - 1, 2)]
        way = chance.randint(0, 7)
        if way == 6 and not self.is_fixed and self.may_shrink:
            return [f"{margin}{each} = []{end}" for each in self.lists]
        if way == 7 and self.may_shrink:
            return [f"{margin}{each}.length = 0{end}" for each in self.lists]
        if way == 5:
            seen = chance.choice([f"{name}.length", f"{name}.indexOf(4)", f"{name}.join('+')", f"Math.max(...{name})"])
            return [f"{margin}console.log('{self.next_tick()}', {seen}){end}"]
        if way == 4:
            return [f"{margin}for (const each of {name}) {{", f"{margin}  console.log(each, turn){end}", f"{margin}}}"]
        up = f"let {number} = {chance.choice(['0', '0', '1'])}; {number} < {name}.length; {number}++"
        down = f"let {number} = {name}.length - 1; {number} >= 0; {number}--"
        fixed = f"let {number} = 0; {number} < {chance.choice(['LOTS', '3', '2'])}; {number}++"
        header = chance.choice([up, up, down, fixed] if self.counted or not self.is_careful else [up, up, down])
        inside: list[str] = []
        for _ in range(chance.randint(1, 3)):
            inside += self.about(number, depth + 1, in_loop=True)
        if depth < 3 and chance.random() < 0.25:
            inside += self.loop(depth + 1)
        guard = f"{margin}  if (turn++ > 400) break{end}"
        return [f"{margin}for ({header}) {{", guard, *inside, f"{margin}}}"]

    def main(self) -> list[str]:
        chance, end = self.random, self.end
        lines = [f"fillAll(){end}"] if self.counted and self.is_filled_by_call else []
        for _ in range(chance.randint(3, 6)):
            name, has_number = chance.choice(self.functions)
            lines.append(f"{name}({chance.randint(0, 2) if has_number else ''}){end}")
        if chance.random() < 0.3:
            lines += [line[2:] if line.startswith("  ") else line for line in self.loop(1)]
        if not self.is_careful and chance.random() < 0.3 and len(lines) > 1:
            lines.append(lines.pop(0))
        lines.append(f"console.log({', '.join(f'{name}.join()' for name in self.lists)}, turn){end}")
        return lines

    def next_tick(self) -> str:
        self.tick += 1
        return f"say{self.tick}"


def write_javascript_columns(seed: int) -> str:
    """A script with lists side by side."""
    return JavaScriptColumns(seed).write()
