"""Random scripts with classes whose constructor a library writes, and functions about their objects."""

from __future__ import annotations

import random

_HEADS = {
    "dataclass": ["from dataclasses import asdict, astuple, dataclass, field, replace", "from copy import copy"],
    "declared row": ["from typing import NamedTuple"],
    "made row": ["from collections import namedtuple"],
}
_FIELDS = ("depth", "load", "mark", "lit")


def write_declared(seed: int) -> str:
    """The script of a seed."""
    return _Writer(random.Random(seed)).text()


class _Writer:
    def __init__(self, chance: random.Random) -> None:
        self.chance = chance
        self.store = chance.choice(list(_HEADS))
        self.is_odd = self.rarely(0.4)
        self.fields = chance.sample(_FIELDS, chance.randint(2, 4))
        self.is_frozen = self.store != "dataclass" or self.rarely(0.2)

    def rarely(self, share: float) -> bool:
        return self.chance.random() < share

    def text(self) -> str:
        lines = [*_HEADS[self.store], "", "", *self.own_class(), "", ""]
        lines += [f"buoys = [{self.made()}, {self.made()}, {self.made()}]", f"best = {self.made()}", "total = 0", ""]
        self.functions: list[tuple[str, str, str]] = []
        for number in range(self.chance.randint(2, 4)):
            lines += ["", *self.function(number), ""]
        lines += ["", "for turn in range(2):", *(f"    {line}" for _ in range(3) for line in self.use())]
        lines += [line for _ in range(2) for line in self.use()]
        return "\n".join([*lines, "print(buoys, best, total)"]) + "\n"

    def own_class(self) -> list[str]:
        if self.store == "made row":
            listed = self.chance.choice(
                [f"'{' '.join(self.fields)}'", f"'{', '.join(self.fields)}'", str(self.fields), str(tuple(self.fields))]
            )
            extra = ", defaults=(7,)" if self.rarely(0.2) else ""
            return [f"Buoy = namedtuple('Buoy', {listed}{extra})"]
        body = [f"    {name}: int" for name in self.fields]
        if self.rarely(0.3):
            body[-1] += " = 3"
        if self.is_odd and self.store == "dataclass":
            body += self.chance.choice(
                [["    seen: list = field(default_factory=list)"], ["    kind = 'buoy'"], [], ["    pass"]]
            )
        if self.is_odd and self.rarely(0.4):
            body += ["", "    def known(self):", f"        return self.{self.fields[0]}"]
        if self.store == "declared row":
            return ["class Buoy(NamedTuple):", *body]
        options = ["(order=True)", "(eq=False)", "()", ""]
        frozen = "(frozen=True)" if self.is_frozen else self.chance.choice(options)
        return [f"@dataclass{frozen}", "class Buoy:", *body]

    def made(self) -> str:
        values = [str(self.chance.randint(0, 5)) for _ in self.fields]
        if self.rarely(0.2):
            return f"Buoy({', '.join(f'{n}={v}' for n, v in zip(self.fields, values, strict=True))})"
        return f"Buoy({', '.join(values)})"

    def function(self, number: int) -> list[str]:
        field, other = self.chance.choice(self.fields), self.chance.choice(self.fields)
        name = self.chance.choice([f"f{number}", f"raise_{field}{number}", field if self.rarely(0.3) else f"g{number}"])
        if any(name == known for known, _, _ in self.functions):
            name = f"f{number}"
        ways = [
            ("value", [f"return buoy.{field} + buoy.{other}"], ""),
            ("value", [f"return buoy.{field} > by"], "by"),
            ("value", [f"print('shown', buoy.{field}, buoy.{other})"], ""),
            ("change", [self.rebuilt(field, other)], "by"),
            ("change", [f"if buoy.{field} > 3:", "    return buoy", self.rebuilt(field, other)], "by"),
        ]
        if not self.is_frozen:
            ways += [
                ("value", [f"buoy.{field} += by"], "by"),
                ("value", [f"buoy.{field} = buoy.{other} * 2", f"return buoy.{field}"], ""),
            ]
        if self.is_odd:
            ways += [
                ("value", [f"print(buoy, buoy.{field})"], ""),
                ("value", [f"return buoy in buoys and buoy.{field}"], ""),
                ("value", ["global total", f"total += buoy.{field}"], ""),
                ("value", [f"return sorted([buoy.{field}, by])"], "by"),
                ("other", [f"return buoy.{field} if buoy else by"], "by"),
            ]
            if self.store == "dataclass":
                ways += [("value", [f"return asdict(buoy), buoy.{field}"], ""), ("change", ["return copy(buoy)"], "")]
                ways += [("value", [f"return astuple(buoy)[0] + buoy.{field}"], "")]
            else:
                ways += [
                    ("value", [f"first, *rest = buoy; return first + buoy.{field}"], ""),
                    ("value", [f"return buoy[0] + buoy.{field}"], ""),
                    ("value", [f"return [part for part in buoy] + [buoy.{field}]"], ""),
                    ("value", [f"return buoy.index(buoy.{field})"], ""),
                ]
        sort, body, more = self.chance.choice(ways)
        self.functions.append((name, sort, more))
        return [f"def {name}(buoy{', ' + more if more else ''}):", *(f"    {line}" for line in body)]

    def rebuilt(self, field: str, other: str) -> str:
        value = f"buoy.{other} + by"
        if self.store == "dataclass":
            return f"return replace(buoy, {field}={value})"
        return f"return buoy._replace({field}={value})"

    def use(self) -> list[str]:
        name, sort, more = self.chance.choice(self.functions)
        given = f", {self.chance.randint(0, 3)}" if more else ""
        if sort == "change":
            return self.chance.choice(
                [
                    [f"best = {name}(best{given})"],
                    ["for i in range(len(buoys)):", f"    buoys[i] = {name}(buoys[i]{given})"],
                    [f"buoys = [{name}(buoy{given}) for buoy in buoys]"],
                ]
            )
        ways = [
            ["for buoy in buoys:", f"    print({name}(buoy{given}))"],
            [f"print({name}(best{given}))"],
            [f"print([{name}(buoy{given}) for buoy in buoys])"],
        ]
        if self.is_odd:
            ways += [
                [f"print(best in buoys, {name}(buoys[0]{given}))"],
                [f"print(max(buoys, key=lambda buoy: buoy.{self.fields[0]}))"],
                [f"print({name}(None{given}) if best is None else 0)"],
                ["print(type(best).__name__, isinstance(best, Buoy), Buoy)"],
                [f"keep = {name}", f"print(keep(best{given}))"],
                ["print(best == buoys[0], repr(best))"],
            ]
        return self.chance.choice(ways)
