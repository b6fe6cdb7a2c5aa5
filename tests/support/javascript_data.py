"""Random scripts of JavaScript with a list or table of records in which functions look for one, in all ways that people
know; that let records come and go; and that sometimes do what a class which finds records could not do for them."""

from __future__ import annotations

import random

_VALUES = ("1", "2", '"2"', "9", "undefined")


class DataWriter:
    """Writes one script."""

    def __init__(self, seed: int) -> None:
        self.random = chance = random.Random(seed)
        self.end = chance.choice([";", ";", ""])
        self.sign = chance.choice(["===", "===", "=="])
        self.key = chance.choice([".id", ".name", '["id"]'])
        self.is_empty = chance.random() < 0.3
        self.keyword = chance.choice(["let", "let", "var", "const"])

    def write(self) -> str:
        """The whole script."""
        chance, end = self.random, self.end
        records = [self.record(number) for number in range(1, chance.randint(3, 5))]
        written = ",\n".join(f"  {record}" for record in records)
        if chance.random() < 0.15:
            self.keyword = "const"
            return self.with_table(records)
        listed = "[]" if self.is_empty else f"[\n{written},\n]"
        functions = [self.function(number) for number in range(chance.randint(2, 5))]
        if self.is_empty:
            functions.append(f"function fill(id, name) {{\n  kites.push({{ id, name, wind: id }}){end}\n}}")
        calls = [f"fill({n}, '{n}')" for n in (1, 2, 3)] if self.is_empty else []
        calls += [f"say(do{chance.randrange(len(functions) - self.is_empty)}({self.value()}))" for _ in range(6)]
        lines = [f"{self.keyword} kites = {listed}{end}", f"let count = 0{end}", *functions, self.saying()]
        lines += [f"{call}{end}" for call in calls]
        lines += [f"say(kites){end}", f"say(count, kites.length){end}"]
        return "\n\n".join(lines) + "\n"

    def saying(self) -> str:
        return (
            "function say(...things) {\n"
            "  console.log(things.map((one) => JSON.stringify(one) ?? String(one)).join(' '))"
            f"{self.end}\n}}"
        )

    def record(self, number: int) -> str:
        identity = self.random.choice([str(number), str(number), f'"{number}"', "2"])
        return f"{{ id: {identity}, name: '{number}', wind: {self.random.randint(1, 9)} }}"

    def value(self) -> str:
        return self.random.choice(_VALUES)

    def condition(self, item: str, wanted: str) -> str:
        sign = self.sign if self.random.random() < 0.9 else "==="
        sides = [f"{item}{self.key}", wanted]
        if self.random.random() < 0.1:
            sides.reverse()
        return f" {sign} ".join(sides)

    def asking(self, condition: str) -> str:
        return self.random.choice(
            [f"(k) => {condition}", f"k => {condition}", f"function (k) {{ return {condition}{self.end} }}"]
        )

    def function(self, number: int) -> str:
        """One that looks for a record, or changes what there is."""
        chance, end = self.random, self.end
        wanted = chance.choice(
            ["id", "id", "Number(id)", "String(id)", "one", "2", "id.length", "++count", "Math.random()"]
        )
        above = f"  const one = id{end}\n" if wanted == "one" else ""
        asked = self.asking(self.condition("k", wanted))
        contrary = self.asking(self.condition("k", wanted).replace("===", "!==").replace(" == ", " != "))
        bodies = [
            f"  const found = kites.find({asked}){end}\n  return found ? found.wind : 'none'{end}",
            f"  const found = kites.find({asked}){end}\n  return found.wind{end}",
            f"  return kites.filter({asked}){end}",
            f"  if (kites.some({asked})) count += 1{end}\n  return count{end}",
            f"  const at = kites.findIndex({asked}){end}\n  if (at < 0) return 'none'{end}\n"
            f"  return kites.splice(at, 1){chance.choice(['', '[0]', '[0].wind'])}{end}",
            f"  const at = kites.findIndex({asked}){end}\n  if (at >= 0) kites.splice(at, {chance.choice('112')}){end}",
            f"  kites = kites.filter({contrary}){end}\n  return kites.length{end}",
            f"  return kites.filter({contrary}).length{end}",
            f"  kites.push({{ id, name: 'new', wind: kites.length }}){end}\n  return kites.length{end}",
            f"  return kites.push({{ id, name: 'new', wind: 3 }}){end}",
            self.loop(),
            self.loop(),
            f"  const found = kites.find({asked}){end}\n  if (!found) return{end}\n  found.wind += 1{end}\n  count++{end}",
            f"  return kites.map((k) => k.wind).join('-'){end}",
            f"  return kites.find({self.asking(self.condition('k', 'k.name'))}){end}",
        ]
        if self.keyword == "const":
            del bodies[6]
        body = chance.choice(bodies)
        if "found.wind" in body and "?" not in body and "!found" not in body:
            body = f"  try {{\n{body}\n  }} catch (error) {{\n  return error.constructor.name{end}\n  }}"
        return f"function do{number}(id) {{\n{above}{body}\n}}"

    def loop(self) -> str:
        """A search by hand."""
        chance, end = self.random, self.end
        deed = chance.choice(
            [
                f"return k{end}",
                f"return k{end}",
                f"count += k.wind{end}\n      break{end}",
                f"// there it is\n      k.wind = 0{end}\n      return count{end}",
                f"found = k{end}",
                f"found = k{end}\n      break{end}",
                f"setTimeout(() => say(k.wind), 0){end}\n      return 1{end}",
            ]
        )
        begin = f"  let found = {chance.choice(['undefined', 'undefined', 'null'])}{end}\n" if "found" in deed else ""
        last = "found" if begin else chance.choice(["undefined", "null", "0", "count", "kites.length"])
        more = f"  for (const k of kites) count += k.wind{end}\n" if chance.random() < 0.2 else ""
        word = chance.choice(["const", "const", "let", "var"])
        block = f"{{\n      {deed}\n    }}"
        if "//" not in deed and chance.random() < 0.3:
            inside = "; ".join(line.strip().rstrip(";") for line in deed.splitlines())
            block = f"{{ {inside}; }}" if "\n" in deed or chance.random() < 0.5 else f"{inside}{end}"
        return (
            f"{begin}  for ({word} k of kites) {{\n    if ({self.condition('k', 'id')}) {block}\n  }}\n"
            f"{more}  return {last}{end}"
        )

    def with_table(self, records: list[str]) -> str:
        """Records under their names."""
        chance, end = self.random, self.end
        entries = ",\n".join(f"  {name}: {record}" for name, record in zip("ab12", records, strict=False))
        other = chance.choice(
            [
                f"kites[name].wind += 1{end}",
                f"count += Object.keys(kites).length{end}",
                f"for (const each in kites) count += kites[each].wind{end}",
                f"delete kites[name]{end}",
                f"kites[name] = {{ id: 7, name, wind: 7 }}{end}",
                f"if (name in kites) count += 1{end}",
            ]
        )
        return (
            f"const kites = {{\n{entries},\n}}{end}\nlet count = 0{end}\n\n"
            f"function look(name) {{\n  const kite = kites[name]{end}\n  if (!kite) return 'none'{end}\n"
            f"  count += 1{end}\n  return kite.wind{end}\n}}\n\n"
            f"function turn(name) {{\n  {other}\n}}\n\n"
            + "".join(
                f"console.log(look('{name}'), count){end}\n" for name in chance.sample(["a", "b", "1", "toString"], 2)
            )
            + f"turn('a'){end}\nconsole.log(look('a'), JSON.stringify(kites)){end}\n"
        )


def write_javascript_data(seed: int) -> str:
    """The script of a seed."""
    return DataWriter(seed).write()
