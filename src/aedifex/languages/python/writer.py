"""Writing Python."""

from __future__ import annotations

import ast
import re
from collections.abc import Collection, Iterable, Sequence

from aedifex.languages.python.folding import breaks
from aedifex.languages.python.library import standard
from aedifex.languages.python.type_hints import place_of_type
from aedifex.languages.python.varying_texts import varying_text
from aedifex.languages.tree.writing import CommonWriter, in_row
from aedifex.program.dialect.handling import Search
from aedifex.program.dialect.writer import (
    Break,
    Frame,
    Piece,
    Replacement,
    RoutineSpans,
    VaryingText,
    margin_of_first_line,
)
from aedifex.program.model.enclosed import Enclosed
from aedifex.program.model.module import Echo, Module
from aedifex.program.model.names import Imported
from aedifex.program.model.statements import Leave, Parameter, ParameterKind
from aedifex.source.text import Span

_ROOM = 76
_FEW_COMPARED = 3

_ASKING = """\
def {name}(self, prompt=""):
    if self.{reader} is None:
        return input(prompt)
    print(prompt, end="", file=self.{writer}, flush=True)
    line = self.{reader}.readline()
    if not line:
        raise EOFError
    return line.removesuffix("\\n")
"""
_STARS = {ParameterKind.REST: "*", ParameterKind.KEYWORD_REST: "**"}
_OTHER_CONDITION = re.compile(r"(?:\s|#[^\n]*\n|;)*(?P<word>elif)\b")
_NO_BASES = re.compile(r"\s*(?:\(\s*\)\s*)?:")
_UNLESS = re.compile(r"if not (?P<condition>.*):\s*", re.DOTALL)
_GO_OVER_ONCE = frozenset({"sum", "any", "all", "min", "max", "sorted", "list", "tuple", "set", "frozenset"})


class PythonWriter(CommonWriter):
    """Writes Python as the style guide has it."""

    receiver = "self"
    declares = ""
    waiting = "await "
    making = ""
    unit = "    "
    gap = 2
    before_comment = "  "
    binder = Imported("functools", "partial")
    copier = "list"
    turner = "reversed"
    counter = "enumerate"
    entries = "items"
    contents = "values"
    path_maker = Imported("pathlib", "Path")

    # -- definitions

    def class_frame(self, name: str, doc: str, unit: str, base: str = "") -> Frame:
        """`class` with its docstring."""
        heading = f"class {name}({base}):\n" if base else f"class {name}:\n"
        return Frame(f'{heading}{unit}"""{doc}"""\n\n' if doc else heading, "")

    def no_more_fields(self) -> str:
        """No slots but those of the base."""
        return "__slots__ = ()"

    def inheriting(self, heading: str, base: str) -> tuple[int, str] | None:
        """The base in parentheses before the colon."""
        found = _NO_BASES.match(heading)
        return (len(found[0].encode()), f"({base}):") if found is not None else None

    def base_call(self, arguments: Sequence[str]) -> str:
        """By `super`."""
        return self.call(self.member(self.call("super", []), "__init__"), arguments)

    def base_call_begun(self, member: str, *, hands_on: bool) -> str:
        """By `super`."""
        return f"{self.member(self.call('super', []), member or '__init__')}({'*' if hands_on else ''}"

    def not_made(self) -> str:
        """An error."""
        return "raise NotImplementedError"

    def method_frame(
        self, name: str, parameters: Sequence[str], margin: str, unit: str, *, is_async: bool = False
    ) -> Frame:
        """`def` with `self` in front."""
        return Frame(f"{margin}{'async ' * is_async}def {name}({', '.join([self.receiver, *parameters])}):\n", "")

    def constructor_frame(self, parameters: Sequence[str], margin: str, unit: str) -> Frame:
        """`def __init__`."""
        return self.method_frame("__init__", parameters, margin, unit)

    def function_frame(self, name: str, signature: str, *, is_async: bool = False) -> Frame:
        """`def` at the margin."""
        return Frame(f"{'async ' * is_async}def {name}({signature}):\n", "")

    def field_declared(self, name: str) -> str:
        """Each has a value."""
        return ""

    def as_method(self, text: bytes, routine: RoutineSpans, unit: str) -> list[Replacement]:
        """`self` in front of the parameters, on a line of its own where these begin on one."""
        at, inside = routine.signature.start, text[routine.signature.start : routine.signature.end].decode()
        added = self.receiver_parameter(bool(inside.strip()))
        margin = margin_of_first_line(inside)
        if margin is not None:  # it moves into a class, one step further in
            added = f"\n{unit}{margin}{added.rstrip()}"
        return [Replacement(at, at, added)]

    def as_closure(self, text: bytes, routine: RoutineSpans, before: str, behind: str) -> list[Replacement]:
        """None has one."""
        return []

    def respelled(self, literal: str) -> str:
        """All texts may stand anywhere."""
        return literal

    def binding(self, method: str) -> str:
        """Each is bound when it is fetched."""
        return ""

    def receiver_parameter(self, has_others: bool) -> str:
        """`self`."""
        return f"{self.receiver}, " if has_others else self.receiver

    def optional_parameter(self, name: str, default: str = "") -> str:
        """A default, which is None else."""
        return f"{name}={default or 'None'}"

    def parameter_behind(self, name: str, parameters: Sequence[Parameter]) -> str:
        """By keyword where the others could not stay where they are."""
        is_starred = any(p.kind in (ParameterKind.REST, ParameterKind.KEYWORD_ONLY) for p in parameters)
        is_plain = all(p.default is None and p.kind is ParameterKind.PLAIN for p in parameters)
        return name if is_plain or is_starred else f"*, {name}"

    def call_on_new(self, made: str, method: str, arguments: Sequence[str], variable: str = "") -> str:
        """`Ferry().add_to(app)`, or `ferry = Ferry()` and `ferry.add_to(app)`."""
        called = f"{method}({', '.join(arguments)})\n"
        return f"{variable} = {made}\n{variable}.{called}" if variable else f"{made}.{called}"

    def entry(self, owner: str, run: str, unit: str, *, is_guarded: bool) -> str:
        """The two-line `main`, and its guard or a plain call."""
        started = f"{self.guard_frame().head}{unit}main()\n" if is_guarded else "main()\n"
        return f"def main():\n{unit}{owner}().{run}()\n\n\n{started}"

    def guard_frame(self) -> Frame:
        """`if __name__ == "__main__":`."""
        return Frame('if __name__ == "__main__":\n', "")

    def enclosed_entry(self, around: Enclosed, owner: str, run: str, unit: str) -> str:
        """The heading as it was, the one line that makes the owner and runs it, and what calls that."""
        given = ", ".join(name for name, _ in around.given)
        waiting = f"{'return ' * around.gives_value}{'await ' * around.is_async}"
        closing = f"\n\n{around.closing}" if around.closing else ""
        return f"{around.heading}\n{unit}{waiting}{owner}({given}).{run}()\n{closing}"

    # -- statements

    def assignment(self, target: str, value: Sequence[Piece], annotation: Piece | None = None) -> list[Piece]:
        """`target: annotation = value`."""
        return [target, *([": ", annotation] if annotation is not None else []), " = ", *value, "\n"]

    def assignments(self, pairs: Sequence[tuple[Piece, Piece]], keyword: str = "") -> list[Piece]:
        """`a, b = v, w`."""
        targets, values = in_row(target for target, _ in pairs), in_row(value for _, value in pairs)
        return [*targets, " = ", *values]

    def variable(self, name: str, value: Sequence[Piece]) -> list[Piece]:
        """An assignment like any other."""
        return self.assignment(name, value)

    def result(self, names: Sequence[str], call: str, keyword: str = "") -> str:
        """`a, b = call`."""
        return f"{', '.join(names)} = {call}" if names else call

    def returning(self, value: Sequence[Piece]) -> list[Piece]:
        """`return value`."""
        return ["return ", *value] if value else ["return"]

    def handing_back(self, names: Sequence[str]) -> str:
        """`return a, b`."""
        return f"return {', '.join(names)}"

    def beginning(self, statement: str) -> Frame:
        """Nothing: its line is enough."""
        return Frame("", "")

    def ended(self, statement: str) -> str:
        """By the end of its line."""
        return statement

    def leave(self, leave: Leave) -> str:
        """The word itself."""
        return leave.value

    def nothing(self) -> str:
        """`pass`."""
        return "pass"

    def unless(self, condition: str, action: str, margin: str, unit: str) -> str:
        """`if not condition`."""
        return f"{margin}if not {condition}:\n{margin}{unit}{action}\n"

    def ensuring(self, lines: Sequence[str], last: str, margin: str, unit: str) -> str:
        """`try` and `finally`."""
        body = "".join(f"{margin}{unit}{line}\n" for line in lines)
        return f"{margin}try:\n{body}{margin}finally:\n{margin}{unit}{last}\n"

    def asks_unless(self, head: str) -> str:
        """The condition of `if not condition:`."""
        found = _UNLESS.fullmatch(head)
        return found["condition"] if found is not None else ""

    def condition_alone(self, between: str) -> tuple[int, int, str] | None:
        """`if` for `elif`."""
        found = _OTHER_CONDITION.match(between)
        if found is None:
            return None
        start, end = (len(between[:at].encode()) for at in found.span("word"))
        return start, end, "if"

    def sharing(self, names: Sequence[Piece], unit: str) -> list[Piece]:
        """A `global` line."""
        return [f"{unit}{self.sharing_word()} ", *in_row(names), "\n"]

    def declaration(self, keyword: str, names: Sequence[Piece]) -> list[Piece]:
        """`global` or `nonlocal`, as it was."""
        return [f"{keyword} ", *in_row(names)]

    def sharing_word(self) -> str:
        """`global`."""
        return "global"

    # -- expressions

    def plain_text(self, text: str) -> str:
        """In double quotes."""
        return f'"{text}"'

    def values_of(self, table: str) -> str:
        """`table.values()`."""
        return self.call(self.member(table, "values"), [])

    def creation(self, class_name: str, arguments: Sequence[Piece], names: Sequence[str] = ()) -> list[Piece]:
        """A call of the class."""
        if not names:
            return [f"{class_name}(", *in_row(arguments), ")"]
        named = [piece for name, value in zip(names, arguments, strict=True) for piece in (", ", f"{name}=", value)]
        return [f"{class_name}(", *named[1:], ")"]

    def all_others(self, name: str) -> str:
        """`*name`."""
        return f"*{name}"

    def named_argument(self, name: str, value: str) -> str:
        """`name=value`."""
        return f"{name}={value}"

    def handed_on(self, parameters: Iterable[Parameter]) -> list[str]:
        """Each under its own name, with its stars."""
        return [
            self.named_argument(p.name, p.name)
            if p.kind is ParameterKind.KEYWORD_ONLY
            else f"{_STARS.get(p.kind, '')}{p.name}"
            for p in parameters
        ]

    def handler(self, signature: str, call: str) -> str:
        """A lambda."""
        return f"lambda {signature}: {call}" if signature else f"lambda: {call}"

    def truth(self, value: bool) -> str:
        """`True` or `False`."""
        return str(value)

    def no_value(self) -> str:
        """`None`."""
        return "None"

    def grouped(self, value: str) -> tuple[str, str]:
        """Parentheses around what may be a tuple."""
        return ("(", ")") if "," in value else ("", "")

    # -- members that moves write whole

    def handing_on(self, head: str, call: str, margin: str, unit: str, *, gives_value: bool) -> str:
        """The same heading over one line; what it gives back is handed on as it is, so it need not wait for it."""
        signature = head.removeprefix("async ").strip().removesuffix(":")
        return f"{margin}{signature}:\n{margin}{unit}{'return ' if gives_value else ''}{call}\n"

    def asking_method(self, name: str, reader: str, writer: str, unit: str) -> str:
        """It reads a typed line as `input` does."""
        lines = _ASKING.format(name=name, reader=reader, writer=writer).replace("    ", unit).splitlines(keepends=True)
        return "".join(unit + line for line in lines)

    def with_argument(self, function: str, value: str) -> str:
        """`partial(function, value)`."""
        return f"{self.binder.name}({function}, {value})"

    def loop_over(self, item: str, container: str, number: str = "") -> str:
        """`for item in container`, or `for number, item in enumerate(container)`."""
        return f"for {number}, {item} in {self.counter}({container})" if number else f"for {item} in {container}"

    def so_many(self, value: Sequence[Piece], count: Piece, *, is_number: bool) -> list[Piece]:
        """`value for _ in range(count)`."""
        return [*value, " for _ in ", *(["range(", count, ")"] if is_number else [count])]

    def or_else(self, value: Sequence[Piece], other: str) -> list[Piece]:
        """By `or`."""
        return [*value, " or ", other]

    def searched(self, search: Search, item: str, container: str, condition: str) -> str:
        """`next((item for item in container if condition), None)`, `[item for item in container if condition]`, …"""
        place = f"{self.counter}({container})"
        match search:
            case Search.FIRST:
                return f"next(({item} for {item} in {container} if {condition}), None)"
            case Search.ALL:
                return f"[{item} for {item} in {container} if {condition}]"
            case Search.PLACE:
                return f"next((place for place, {item} in {place} if {condition}), -1)"
            case Search.ANY:
                return f"any({condition} for {item} in {container})"

    def when_missing(self, name: str) -> str:
        """`if name is None`."""
        return f"if {name} is None"

    def looked_up(self, table: str, key: str) -> str:
        """`table.get(key)`."""
        return f"{table}.get({key})"

    def when_there(self, name: str) -> str:
        """`if name is not None`."""
        return f"if {name} is not None"

    def choice(self, condition: Piece, value: Piece, other: Sequence[Piece]) -> list[Piece]:
        """`value if condition else other`."""
        return [value, " if ", condition, " else ", *other]

    def condition(self, question: str) -> str:
        """`if question`."""
        return f"if {question}"

    def taking_out(self, container: str, item: str) -> str:
        """`container.remove(item)`."""
        return self.call(self.member(container, "remove"), [item])

    def block_frame(self, head: str, margin: str) -> Frame:
        """The head with its colon."""
        return Frame(f"{margin}{head}:\n", "")

    def all_of(self, value: str, item: str, container: str, within: str) -> str:
        """`[value for item in container]`, without brackets for what goes over it once."""
        values = f"{value} for {item} in {container}"
        return values if within in _GO_OVER_ONCE else f"[{values}]"

    def equality_method(self, class_name: str, fields: Sequence[str], unit: str) -> str:
        """`__eq__`, by the fields, or by all there are where these are many."""
        one, other = ([f"{thing}.{name}" for name in fields] for thing in ("self", "other"))
        test = f"({', '.join(one)}) == ({', '.join(other)})" if len(fields) > 1 else f"{one[0]} == {other[0]}"
        test = "vars(self) == vars(other)" if len(fields) > _FEW_COMPARED else test
        return f"{unit}def __eq__(self, other):\n{unit * 2}return isinstance(other, {class_name}) and {test}\n"

    def stream_argument(self, stream: str, given: Iterable[str | None]) -> str | None:
        """`file=stream`."""
        return None if "file" in given else self.named_argument("file", stream)

    def with_brackets(self, text: bytes, record: Span) -> Span:
        """Brackets are as needed, or as little."""
        return record

    # -- imports

    def file_heading(self, module: Module) -> str:
        """The `__future__` imports, which hold for a whole file."""
        imported = [s.imported for s in module.symbols if s.imported and s.imported.module == "__future__"]
        features = [feature.name for feature in imported if feature.name]
        return self.import_names("__future__", features) if features else ""

    def import_names(self, module: str, names: Iterable[str]) -> str:
        """`from module import a, b`."""
        return f"from {module} import {', '.join(sorted(names))}\n"

    def import_line(self, imported: Imported, name: str) -> str:
        """`import module`, or `from module import what`, under its name."""
        module, what = imported
        if what is not None:
            return f"from {module} import {what}{'' if what == name else f' as {name}'}\n"
        is_plain = name == (module if "." not in module else imported.package)
        return f"import {module}\n" if is_plain or module == name else f"import {module} as {name}\n"

    def takes_more_imports(self, text: str) -> bool:
        """Names that follow one another on one line, and take no more than it has room for."""
        return not text.endswith((")", "*")) and "\n" not in text and len(text) < _ROOM

    def one_more_import(self, text: str, imported: Imported) -> tuple[int, str]:
        """`name, ` before the first that comes behind it, where the names are in order; else `, name` at the end."""
        head, _, tail = text.rpartition("import ")
        names, name = [part.strip() for part in tail.split(",")], imported.name or ""
        for order in (str, str.lower):
            later = next((each for each in names if order(each) > order(name)), None)
            if later is not None and len(names) > 1 and names == sorted(names, key=order):
                place = re.compile(rf"\b{re.escape(later)}\b").search(text, len(head) + len("import "))
                assert place is not None
                return place.start(), f"{name}, "
        return len(text), f", {name}"

    def handing_out(self, names: Sequence[str]) -> tuple[str, str]:
        """Others may import whatever a file defines."""
        return "", ""

    def in_groups(self, lines: Iterable[str]) -> list[list[str]]:
        """The standard library's first; in each group `import` before `from`."""
        ordered = sorted(lines, key=lambda line: (line.startswith("from "), line))
        groups = [[line for line in ordered if _is_standard(line) is is_standard] for is_standard in (True, False)]
        return [group for group in groups if group]

    def fewer_imports(self, text: str, kept: Sequence[int]) -> str | None:
        """The same line with fewer names; None for one in parentheses, or with comments in it."""
        if any(mark in text for mark in "(\\#"):
            return None
        head, _, tail = text.rpartition("import ")
        parts = [part.strip() for part in tail.split(",")]
        return f"{head}import {', '.join(parts[number] for number in kept)}"

    # -- long texts

    def remark(self, text: str) -> str:
        """Lines behind `#`."""
        return "".join(f"# {line.strip()}".rstrip() + "\n" for line in text.splitlines())

    def text_value(self, literal: str) -> str | None:
        """A text without a prefix; not one with carriage returns, which files lose, or half characters."""
        try:
            value = ast.literal_eval(literal)
            value.encode()
        except (ValueError, SyntaxError, AttributeError):
            return None
        return value if isinstance(value, str) and "\r" not in value else None

    @property
    def quotes(self) -> tuple[str, str]:
        """Double quotes, as formatters have them."""
        return '"', '"'

    def place_of_type(self, declared: str, depth: int) -> tuple[int, int] | None:
        """`dict` in `list[dict]` at depth 1."""
        return place_of_type(declared, depth)

    def varying_text(self, literals: Sequence[str]) -> VaryingText | None:
        """As an f-string, of texts in the same quotes."""
        return varying_text(literals)

    def reading_text(self, file: str) -> str:
        """By a path from the file's own."""
        steps = " / ".join(["Path(__file__).parent", *(f'"{part}"' for part in file.split("/"))])
        return f'({steps}).read_text(encoding="utf-8")'

    # -- long lines

    def line_breaks(self, text: str, lines: Collection[int], width: int, unit: str) -> list[Break]:
        """Inside brackets, at commas or before operators."""
        return breaks(text, lines, width, unit)

    # -- templates that show their own text

    def spelled_out(self, shown: str) -> str:
        """Braces are doubled."""
        return shown.replace("{", "{{").replace("}", "}}")

    def shown_expression(self, echo: Echo, shown: str) -> tuple[int, str]:
        """The equals sign goes; `!r` stands for it where nothing says how the value is formatted."""
        return len(shown.rstrip().removesuffix("=").rstrip().encode()), "" if echo.formats else "!r"

    def is_hard_to_spell(self, shown: str) -> bool:
        """Whether quotes, braces, backslashes or line ends stand in it."""
        return any(mark in shown for mark in "\\'\"\n{}")


def _is_standard(line: str) -> bool:
    return line.split()[1].partition(".")[0] in standard.STANDARD_MODULES
