"""A second draft: the design that a user has edited, brought up to a script that has changed since."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

from aedifex.design.document.design import ClassPlan, Design, KindPlan, QuestionPlan
from aedifex.design.document.writing import Member, reason_of, write_class, write_data, write_keeps, write_member


@dataclass
class Updated:
    """The text of the design file, and in words what came in and what went."""

    text: str
    added: list[str] = field(default_factory=list)
    gone: list[str] = field(default_factory=list)


def update(text: str, old: Design, new: Design, classes: Collection[str] = ()) -> Updated:
    """Bring a design up to date: the user's classes, names, order and comments stay; `classes` are the script's own.

    What the script has no more goes. What it had not when the first draft was made joins the class in which the new
    draft puts it, if that has most of its other fields from one of the user's; a class of nothing but new variables
    is added whole. Lines that become methods are taken from the new draft, for the old ones mean other lines now.
    """
    if old.sources[0].digest == new.sources[0].digest:
        return Updated(text)
    return _Updating(text, old, new, classes).result()


class _Updating:
    def __init__(self, text: str, old: Design, new: Design, classes: Collection[str]) -> None:
        import tomlkit

        self.classes = classes
        self.document: Any = tomlkit.parse(text)
        self.new = new
        self.present = set(new.keeps) | set(_members(new))
        self.asked = {question.asks for plan in new.all_classes for question in plan.questions}
        self.asked_before = {question.asks for plan in old.all_classes for question in plan.questions}
        self.known = set(old.keeps) | set(_members(old))
        self.done = Updated(text)

    def result(self) -> Updated:
        import tomlkit

        self.document["source"][0]["digest"] = self.new.sources[0].digest
        tables: Any = self.document.get("class", [])
        self.update_kinds(tables)
        for table in tables:
            for key in ("fields", "methods"):
                if "store" not in table:
                    self.drop(table, key)
            self.drop_questions(table)
        for number in reversed(range(len(tables))):
            if "store" not in tables[number] and not tables[number].get("fields"):
                self.done.gone.append(f"class {tables[number]['name']}")
                del tables[number]
        self.drop(self.document["owner"], "methods")
        for plan in self.new.classes:
            self.take(plan, tables)
        self.update_parts(self.document.get("part", []))
        self.update_data(self.document.get("data", []))
        self.update_bases(self.document.get("base", []))
        constants = {(c.name, c.value): list(c.lines) for c in reversed(self.new.constants)}
        texts = {(t.name, t.file): t.begins for t in reversed(self.new.texts)}
        self.update_places(self.document.get("constant", []), "value", constants, "lines")
        self.update_places(self.document.get("text", []), "file", texts, "begins")
        self.add(self.document["owner"], "methods", self.new.methods, "the owner")
        self.keep()
        self.done.text = re.sub(r"\}, # (\d+% sure: )", r"},  # \1", tomlkit.dumps(self.document))
        return self.done

    def update_kinds(self, tables: Any) -> None:
        """Kinds that the script still has stay as the user has them; those that are new come in."""
        kept: list[KindPlan] = []
        for number in reversed(range(len(tables))):
            table = tables[number]
            if "store" not in table:
                continue
            held = set(table["instances"])
            found = next((p for p in self.new.kinds if p.store == table["store"] and held & set(p.instances)), None)
            if found is None:
                self.done.gone.append(f"class {table['name']}")
                del tables[number]
            else:
                kept.append(found)
                self.renew_lines(table, found)
                self.add(table, "questions", self.new_questions(found), table["name"])
        for plan in self.new.kinds:
            if plan not in kept:
                self.add_class(plan.name, "class", write_class(plan))

    def renew_lines(self, table: Any, plan: KindPlan) -> None:
        """Lines that became methods are looked for anew; they keep the names that the user gave them."""
        found = [method for method in plan.methods if method.lines is not None]
        entries = table.get("methods", [])
        for number in reversed(range(len(entries))):
            entry = entries[number]
            if "lines" not in entry:
                continue
            sources = entry["from"] if isinstance(entry["from"], list) else [entry["from"]]
            alike = [m for m in found if list(m.sources) == list(map(str, sources))]
            alike = [m for m in alike if m.answers == bool(entry.get("answers", False))]
            if alike:
                first, last = alike[-1].lines or (0, 0)
                entry["lines"] = f"{first}-{last}"
                found.remove(alike[-1])
            else:
                self.done.gone.append(str(entry["name"]))
                del entries[number]
        self.add(table, "methods", found, table["name"])

    def update_parts(self, tables: Any) -> None:
        """The parts of classes that are still there stay, with the members that they still have."""
        for number in reversed(range(len(tables))):
            table = tables[number]
            known = {str(entry["from"]) for entry in table["fields"]}
            alike = (p for p in self.new.parts if p.whole == table["of"] and known & {f.variable for f in p.fields})
            found = next(alike, None)
            if found is None:
                self.done.gone.append(f"class {table['name']}")
                del tables[number]
                continue
            whole = {m.routine for m in found.methods if m.lines is None}
            self.present |= {f.variable for f in found.fields} | whole
            self.drop(table, "fields")
            self.drop(table, "methods")
            self.add(table, "methods", [m for m in found.methods if m.lines is not None], table["name"])

    def update_data(self, tables: Any) -> None:
        """Classes of lists that the script still has stay; those that are new come in."""
        found = {plan.variable: plan for plan in self.new.data}
        for number in reversed(range(len(tables))):
            if found.pop(str(tables[number]["from"]), None) is None:
                self.done.gone.append(f"class {tables[number]['name']}")
                del tables[number]
        for plan in found.values():
            self.add_class(plan.name, "data", write_data(plan))

    def update_bases(self, tables: Any) -> None:
        """Classes from which others come stay as long as the design or the script has all of those."""
        there = {*self.classes, *(str(table["name"]) for table in self.document.get("class", []))}
        for number in reversed(range(len(tables))):
            if not there.issuperset(map(str, tables[number]["of"])):
                self.done.gone.append(f"class {tables[number]['name']}")
                del tables[number]

    def update_places(self, tables: Any, own: str, found: Mapping[tuple[str, str], Any], place: str) -> None:
        """Numbers and texts that the script still has stay, with the lines on which they are now."""
        for number in reversed(range(len(tables))):
            table = tables[number]
            what = (str(table.get("name", "")), str(table[own]))
            if what in found:
                table[place] = found[what]
            else:
                self.done.gone.append(what[0] or what[1])
                del tables[number]

    def drop(self, table: Any, key: str) -> None:
        """Remove what the script has no more, and all that names lines."""
        entries = table.get(key, [])
        for number in reversed(range(len(entries))):
            entry = entries[number]
            if "lines" in entry or entry["from"] not in self.present:
                self.done.gone += [] if "lines" in entry else [str(entry["from"])]
                del entries[number]
        if key in table and not entries:
            del table[key]

    def drop_questions(self, table: Any) -> None:
        """Remove what nobody asks any more."""
        entries = table.get("questions", [])
        for number in reversed(range(len(entries))):
            if entries[number]["asks"] not in self.asked:
                self.done.gone.append(str(entries[number]["name"]))
                del entries[number]
        if "questions" in table and not entries:
            del table["questions"]

    def take(self, plan: ClassPlan, tables: Any) -> None:
        """Put what is new of a drafted class into the user's class that it is most like, or add it."""
        variables = {f.variable for f in plan.fields}
        single = [table for table in tables if "store" not in table]
        alike = [(len(variables & {str(f["from"]) for f in table["fields"]}), table) for table in single]
        shared = max((count for count, _ in alike), default=0)
        fresh = [f for f in plan.fields if f.variable not in self.known]
        if shared:
            table = next(table for count, table in alike if count == shared)
            self.add(table, "fields", fresh, table["name"])
            methods = [m for m in plan.methods if m.lines is not None or m.routine not in self.known]
            self.add(table, "methods", methods, table["name"])
            self.add(table, "questions", self.new_questions(plan), table["name"])
        elif len(fresh) == len(plan.fields):
            self.add_class(plan.name, "class", write_class(plan))

    def new_questions(self, plan: ClassPlan | KindPlan) -> list[QuestionPlan]:
        """What is asked of a class now and was not when the design was drafted before."""
        return [question for question in plan.questions if question.asks not in self.asked_before]

    def add(self, table: Any, key: str, plans: Iterable[Member], home: str) -> None:
        import tomlkit

        entries = (entry for k in ("fields", "methods", "questions") for entry in table.get(k, []))
        taken = {str(entry.get("name", entry.get("from"))) for entry in entries}
        for plan in plans:
            if plan.name in taken:
                continue
            if key not in table:
                table[key] = tomlkit.array()
            written: Any = tomlkit.parse(f"entry = {write_member(plan)}")
            table[key].add_line(written["entry"], indent="  ", comment=reason_of(plan) or None)
            self.done.added.append(f"{plan.name} to {home}")
        if key in table:
            _end_on_own_line(table[key])

    def add_class(self, name: str, key: str, text: str) -> None:
        import tomlkit

        whole: Any = tomlkit.parse("\n" + text)
        if key not in self.document:
            self.document[key] = tomlkit.aot()
        self.document[key].append(whole[key][0])
        self.done.added.append(f"class {name}")

    def keep(self) -> None:
        """The owner keeps what no class has now."""
        import tomlkit

        tables: Any = self.document.get("class", [])
        given = {
            str(entry["from"]) for table in tables for key in ("fields", "methods") for entry in table.get(key, [])
        }
        present = [*self.new.keeps, *_members(self.new)]
        kept: Any = tomlkit.parse(write_keeps([name for name in present if name not in given]))
        self.document["owner"]["keeps"] = kept["keeps"]


def _members(design: Design) -> Iterable[str]:
    for plan in design.classes:
        yield from (f.variable for f in plan.fields)
        yield from (m.routine for m in plan.methods if m.lines is None)


def _end_on_own_line(entries: Any) -> None:
    if not entries.as_string().rstrip("]").endswith("\n"):
        entries.add_line(indent="")
