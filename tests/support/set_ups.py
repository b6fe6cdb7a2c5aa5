"""Random scripts with objects that are set up where they are made: of a library, or of a class without a constructor."""

from __future__ import annotations

import random

_LIBRARY = {
    "textwrap.TextWrapper": (["{0}.fill('a b c d')", "{0}.wrap('tide')"], ["{0}.width = 5", "{0}.tabsize = 2"]),
    "calendar.TextCalendar": (["{0}.getfirstweekday()", "{0}.setfirstweekday(2)"], ["{0}.firstweekday = 3"]),
    "threading.Event": (["{0}.is_set()", "{0}.set()"], ["{0}.clear()"]),
    "queue.Queue": (["{0}.qsize()", "{0}.put(3)"], ["{0}.maxsize = 9"]),
}
_MARKS = (("left", "right"), ("a", "b"), ("ida", "tom"), ("1", "2"), ("first", "second"))
_MEMBERS = ("load", "pace", "mark", "lit")


def write_set_ups(seed: int) -> str:
    """The script of a seed."""
    return _Writer(random.Random(seed)).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.is_own = self.rarely(0.5)
        self.maker = "Boat" if self.is_own else chance.choice(list(_LIBRARY))
        self.members = chance.sample(_MEMBERS, chance.randint(1, 3))
        self.is_odd = self.rarely(0.3)

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def text(self) -> str:
        module, _, name = self.maker.rpartition(".")
        lines = ["import random", "random.seed(4)"]
        if not self.is_own and self.rarely(0.5):
            lines.insert(1, f"from {module} import {name}")
            self.made = name
        else:
            lines[1:1] = [f"import {module}"] if module else []
            self.made = self.maker
        lines += ["LIMIT = 6", "wind = 2", "total = 0", ""]
        if self.is_own:
            lines += ["", *self.own_class(), "", ""]
        write = self.chance.choice([self.listed, self.listed, self.by_factory, self.by_factory, self.named, self.alone])
        return "\n".join([*lines, *write()]) + "\n"

    def own_class(self) -> list[str]:
        body = self.chance.choice(
            [
                ["pass"],
                ["pass"],
                ['"""A boat."""'],
                ["rope = 3"],
                ["def tell(self):", f"    return self.{self.members[0]}"],
            ]
        )
        heading = "class Boat(object):" if self.rarely(0.1) else "class Boat:"
        return [heading, *(f"    {line}" for line in body)]

    # -- what sets an object up

    def making(self, name: str, *, near: str) -> list[str]:
        """The lines that make an object and set it up; `near` is a name from around that they may use."""
        lines = [f"{name} = {self.made}()"]
        members = list(self.members)
        if self.is_odd and self.rarely(0.2):
            members.reverse()
        for member in members:
            if self.is_odd and self.rarely(0.15):
                lines.append(
                    self.chance.choice(
                        ["print('made', total)", "total = 1", f"other = {name}", f"print({name} is None)"]
                    )
                )
            lines.append(f"{name}.{member} = {self.value(near)}")
            lines += self.library_step(name)
        return lines

    def library_step(self, name: str) -> list[str]:
        if self.is_own or self.rarely(0.5):
            return []
        calls, settings = _LIBRARY[self.maker]
        return [self.chance.choice(calls + settings).format(name)]

    def value(self, near: str) -> str:
        plain = [
            "0",
            "1",
            "4",
            "'x'.count('x')",
            "LIMIT",
            "LIMIT - 2",
            "random.randint(1, 5)",
            near,
            near,
            f"{near} + 1",
        ]
        return self.chance.choice(["wind", "total", "len([k for k in range(3)])"] if self.rarely(0.08) else plain)

    # -- functions

    def about(self, name: str, given: str, thing: str) -> list[str]:
        """A function about one object."""
        lines = [f"def {name}({given}):"]
        if self.rarely(0.15):
            lines.append("    global total")
            lines.append("    total += 1")
        for _ in range(self.chance.randint(1, 3)):
            lines += [f"    {line}" for line in self.deed(thing)]
        return lines

    def deed(self, thing: str) -> list[str]:
        one, other = self.chance.choice(self.members), self.chance.choice(self.members)
        deeds = [
            [f"{thing}.{one} += 1"],
            [f"{thing}.{one} += wind"],
            [f"if {thing}.{one} > LIMIT:", f"    {thing}.{one} = 0"],
            [f"{thing}.{one} = {thing}.{other} - wind"],
            [f"print('{one}', {thing}.{one}, wind)"],
            [f"{thing}.{one} *= -1"],
        ]
        if not self.is_own:
            deeds.append([f"print({self.chance.choice(_LIBRARY[self.maker][0][:1]).format(thing)})"])
        if self.is_odd:
            deeds += [
                [f"print(hasattr({thing}, 'load'))"],
                [f"print(type({thing}).__name__)"],
                [f"del {thing}.{one}"],
                [f"print(isinstance({thing}, {self.made}))"],
                [f"{thing}.extra = 3", f"print({thing}.extra)"],
                [f"{thing} = None"],
            ]
        return self.chance.choice(deeds)

    def story(self, calls: list[str]) -> list[str]:
        lines = ["for step in range(3):", "    wind += 1"] if self.rarely(0.7) else ["for step in range(3):"]
        for call in calls:
            if self.rarely(0.2):
                lines += [
                    "    try:",
                    f"        {call}",
                    "    except (AttributeError, NameError, TypeError):",
                    "        print('no')",
                ]
            else:
                lines.append(f"    {call}")
        return lines

    def showing(self, thing: str) -> str:
        return f"print({', '.join(f'{thing}.{member}' for member in self.members)}, wind, total)"

    # -- where the objects are

    def listed(self) -> list[str]:
        lines = ["boats = []", f"for n in range({self.chance.randint(1, 3)}):"]
        lines += [f"    {line}" for line in self.making("boat", near="n")]
        lines += ["    boats.append(boat)", ""]
        return [*lines, *self.walked()]

    def by_factory(self) -> list[str]:
        given = self.chance.choice(["n", "n", "n, by", "by, n", "n=2"])
        lines = [f"def make_boat({given}):", *(f"    {line}" for line in self.making("boat", near="n"))]
        lines += ["    return boat" if not (self.is_odd and self.rarely(0.3)) else "    return boat, n", ""]
        call = {"n": "make_boat(k)", "n=2": "make_boat()"}.get(given, "make_boat(k, 3)")
        lines += ["", f"boats = [{call} for k in range(2)]"] if lines[-2].endswith("boat") else ["", "boats = []"]
        return [*lines, *self.walked()]

    def walked(self) -> list[str]:
        lines: list[str] = []
        for number in range(2):
            lines += ["", *self.about(f"turn_{number}", "boat", "boat"), ""]
        calls = ["for boat in boats:", "    turn_0(boat)", "    turn_1(boat)"]
        inline = self.deed("boat") if self.rarely(0.4) else []
        calls += [f"    {line}" for line in inline if "None" not in line]
        lines += ["for step in range(3):", "    wind += 1", *(f"    {call}" for call in calls)]
        return [*lines, "for boat in boats:", f"    {self.showing('boat')}"]

    def named(self) -> list[str]:
        marks = self.chance.choice(_MARKS)
        is_behind = self.rarely(0.5)
        names = [
            f"boat_{mark}" if is_behind else mark if not mark.isdigit() and self.rarely(0.3) else f"boat{mark}"
            for mark in marks
        ]
        state = self.chance.getstate()
        lines: list[str] = []
        for name in names:
            self.chance.setstate(state)
            made = self.making(name, near="LIMIT")
            lines += [line if not self.rarely(0.1) else line.replace("4", "5") for line in made] + [""]
        state = self.chance.getstate()
        for name in names:
            if not self.rarely(0.1):
                self.chance.setstate(state)
            lines += ["", *self.about(f"{name}_up", "", name), ""]
        lines += ["", "def call(handler):", "    handler()", "", ""]
        calls = [call for name in names for call in (f"{name}_up()", f"call({name}_up)")]
        return [*lines, *self.story(calls), *(self.showing(name) for name in names)]

    def alone(self) -> list[str]:
        lines = [*self.making("boat", near="LIMIT"), "", "", *self.about("turn", "", "boat"), "", ""]
        lines += self.story(["turn()", *(line for line in self.deed("boat")[:1] if not line.startswith("if"))])
        return [*lines, self.showing("boat")]
