"""Writing JavaScript."""

from __future__ import annotations

import re
from collections.abc import Collection, Iterable, Sequence

from aedifex.languages.javascript.library.containers import SEARCHES
from aedifex.languages.javascript.literals import text_value
from aedifex.languages.javascript.reader.import_statements import DEFAULT
from aedifex.languages.javascript.sharing import Sharing
from aedifex.languages.javascript.style import USUAL, Style
from aedifex.languages.tree.writing import CommonWriter, in_row
from aedifex.program.dialect.handling import Search
from aedifex.program.dialect.writer import Break, Frame, Piece, Replacement, RoutineSpans, VaryingText
from aedifex.program.model.enclosed import Enclosed
from aedifex.program.model.module import Echo, Module
from aedifex.program.model.names import Imported
from aedifex.program.model.statements import Kind, Leave, Parameter, ParameterKind
from aedifex.source.text import Span

_UNLESS = re.compile(r"if \(!(?P<condition>.*)\)\s*\{?\s*", re.DOTALL)
_OTHER_CONDITION = re.compile(r"\s*\}?\s*(?P<word>else\s+)if\b")
_NO_BASE = re.compile(r"\s*\{")
_NAMED_IMPORT = re.compile(r"\{(?P<names>[^{}]*)\}")
_ASYNC = re.compile(r"\basync\b")
_GENERATOR = re.compile(r"\bfunction\s*\*")
_FUNCTION = re.compile(r"(?P<waits>\basync\s+)?\bfunction\b\s*(?P<star>\*)?")
_GOING_ON = frozenset("{([`+-/")
_CONSTRUCTOR = re.compile(r"[.{,\s][A-Z][\w$]*\s*[:=]\s*$")
_ARROW_STANDS = re.compile(r"(?:^|[(,:[{};]|(?<!\?)\?|(?<![=!<>])=|=>|\breturn)\s*$")
_GIVEN_BACK = re.compile(rb"=>\s*\($")
_NEAR = 40
_RELATIVE = (".", "/")
_ROOM = 76

_IN_OCTAL = re.compile(r"(\\[^0-9])|\\(0(?![0-9])|[0-3][0-7]{0,2}|[4-7][0-7]?|[89])")


def _in_hexadecimal(found: re.Match[str]) -> str:
    """What an escape in octal is in hexadecimal; any other as it is."""
    digits = found[2]
    if digits is None or digits == "0":
        return found[0]
    return digits if digits in "89" else f"\\x{int(digits, 8):02x}"


class JavaScriptWriter(CommonWriter):
    """Writes JavaScript in the style of a file."""

    receiver = "this"
    declares = "let"
    waiting = "await "
    making = "new "
    unit = "  "
    gap = 1
    before_comment = " "
    binder = Imported("", "bind")
    copier = "Array.from"
    turner = "reversed"
    counter = "entries"
    entries = "entries"
    contents = "values"
    path_maker = Imported("node:path", "join")

    def __init__(self, style: Style = USUAL) -> None:
        self.style = style

    # -- definitions

    def class_frame(self, name: str, doc: str, unit: str, base: str = "") -> Frame:
        """`class` between braces, below its comment."""
        above = f"/** {doc} */\n" if doc else ""
        return Frame(f"{above}class {name}{f' extends {base}' if base else ''} {{\n", "}\n")

    def field_declared(self, name: str) -> str:
        """The name alone."""
        return self.ended(name)

    def no_more_fields(self) -> str:
        """Nothing keeps objects from more fields."""
        return ""

    def inheriting(self, heading: str, base: str) -> tuple[int, str] | None:
        """`extends` before the brace."""
        found = _NO_BASE.match(heading)
        return (len(found[0].encode()), f" extends {base} {{") if found is not None else None

    def base_call(self, arguments: Sequence[str]) -> str:
        """By `super`."""
        return self.ended(self.call("super", arguments))

    def base_call_begun(self, member: str, *, hands_on: bool) -> str:
        """By `super`, and `...` before `arguments`."""
        return f"super{'.' if member else ''}{member}({'...' if hands_on else ''}"

    def not_made(self) -> str:
        """An error."""
        return self.ended(f"throw new Error({self.plain_text('not implemented')})")

    def method_frame(
        self, name: str, parameters: Sequence[str], margin: str, unit: str, *, is_async: bool = False
    ) -> Frame:
        """Its name and parameters, and braces."""
        return Frame(
            f"{margin}{'async ' * is_async}{name}{self.style.space}({', '.join(parameters)}) {{\n", f"{margin}}}\n"
        )

    def constructor_frame(self, parameters: Sequence[str], margin: str, unit: str) -> Frame:
        """`constructor`."""
        return self.method_frame("constructor", parameters, margin, unit)

    def function_frame(self, name: str, signature: str, *, is_async: bool = False) -> Frame:
        """`function` at the margin."""
        return Frame(f"{'async ' * is_async}function {name}{self.style.space}({signature}) {{\n", "}\n")

    def as_method(self, text: bytes, routine: RoutineSpans, unit: str) -> list[Replacement]:
        """What says that it is a function goes: the word, or a declaration with an arrow or a function as value."""
        name, signature, body = routine
        before, between = text[: name.start].decode(), text[name.end : signature.start].decode()
        is_async = _ASYNC.search(before + between) is not None
        is_generator = _GENERATOR.search(before + between) is not None
        found = [Replacement(0, name.start, f"{'async ' * is_async}{'*' * is_generator}")]
        if "=" in between or ":" in between:
            found.append(Replacement(name.end, signature.start, f"{self.style.space}("))
            is_value = not text[body.start : body.end].startswith(b"{")
            found.append(Replacement(signature.end, body.start, f") {{\n{unit * 2}return " if is_value else ") "))
            ending = f"{self.style.end}\n{unit}}}" if is_value else ""
            if text[body.end :] or ending:
                found.append(Replacement(body.end, len(text), ending))
        return found

    def as_closure(self, text: bytes, routine: RoutineSpans, before: str, behind: str) -> list[Replacement]:
        """An arrow, in parentheses among operators and where it is called; one with a name is the value of that."""
        name, signature, body = routine
        head, between = text[: signature.start].decode(), text[signature.end : body.start].decode()
        found = _FUNCTION.search(head)
        if found is None or found["star"] or "=>" in between or _CONSTRUCTOR.search(before):
            return []
        at, waits = len(head[: found.start()].encode()), "async " * bool(found["waits"])
        is_declared = at < name.start
        if is_declared:
            changes = [
                Replacement(at, name.start, f"{self.style.keyword} "),
                Replacement(name.end, signature.start - 1, f" = {waits}"),
                Replacement(body.end, body.end, self.style.end),
            ]
        else:
            is_used = behind.lstrip().startswith(("(", ".", "[", "?."))
            is_apart = name.start < name.end or (_ARROW_STANDS.search(before) is not None and not is_used)
            changes = [Replacement(at, signature.start - 1, f"{'' if is_apart else '('}{waits}")]
            changes += [] if is_apart else [Replacement(body.end, body.end, ")")]
        return [*changes, Replacement(signature.end + 1, body.start, " => ")]

    def receiver_parameter(self, has_others: bool) -> str:
        """It goes without saying."""
        return ""

    def respelled(self, literal: str) -> str:
        """Signs in octal are written in hexadecimal."""
        return _IN_OCTAL.sub(_in_hexadecimal, literal)

    def binding(self, method: str) -> str:
        """A method as a value forgets its object: the object keeps it bound, the same one each time."""
        name = self.member(self.receiver, method)
        return self.ended(f"{name} = {self.call(self.member(name, 'bind'), [self.receiver])}")

    def optional_parameter(self, name: str, default: str = "") -> str:
        """Each is; what stands for one that is not given follows the sign."""
        return f"{name} = {default}" if default else name

    def parameter_behind(self, name: str, parameters: Sequence[Parameter]) -> str:
        """By its place."""
        return name

    def call_on_new(self, made: str, method: str, arguments: Sequence[str], variable: str = "") -> str:
        """`new Ferry().addTo(app);`, or `const ferry = new Ferry();` and `ferry.addTo(app);`."""
        called = self.ended(f"{method}({', '.join(arguments)})")
        kept = self.ended(f"{self.style.keyword} {variable} = {made}")
        return f"{kept}\n{variable}.{called}\n" if variable else f"{made}.{called}\n"

    def entry(self, owner: str, run: str, unit: str, *, is_guarded: bool) -> str:
        """It is made, and runs."""
        return self.ended(f"new {owner}().{run}()") + "\n"

    def guard_frame(self) -> Frame:
        """`if (require.main === module)`."""
        return Frame("if (require.main === module) {\n", "}\n")

    def enclosed_entry(self, around: Enclosed, owner: str, run: str, unit: str) -> str:
        """The heading as it was, the one line that makes the owner and runs it, and what calls that."""
        given = ", ".join(name for name, _ in around.given)
        waiting = f"{'return ' * around.gives_value}{'await ' * around.is_async}"
        closing = f"\n{around.closing}" if around.closing else ""
        return f"{around.heading} {{\n{unit}{self.ended(f'{waiting}new {owner}({given}).{run}()')}\n}}\n{closing}"

    # -- statements

    def assignment(self, target: str, value: Sequence[Piece], annotation: Piece | None = None) -> list[Piece]:
        """`target = value;`."""
        return [target, " = ", *value, self.style.end, "\n"]

    def assignments(self, pairs: Sequence[tuple[Piece, Piece]], keyword: str = "") -> list[Piece]:
        """`let a = v;`, or `let [a, b] = [v, w];`."""
        word = f"{keyword} " if keyword else ""
        if len(pairs) == 1:
            return [word, pairs[0][0], " = ", pairs[0][1], self.style.end]
        apart = "" if word else self.beginning("[").head
        targets, values = in_row(target for target, _ in pairs), in_row(value for _, value in pairs)
        return [f"{word or apart}[", *targets, "] = [", *values, "]", self.style.end]

    def variable(self, name: str, value: Sequence[Piece]) -> list[Piece]:
        """By a declaration."""
        return self.assignment(f"{self.style.keyword} {name}", value)

    def result(self, names: Sequence[str], call: str, keyword: str = "") -> str:
        """`[a, b] = call;`, or `const a = call;`."""
        if not names:
            return self.ended(call)
        given = _alone_or_listed(names)
        return self.ended(f"{f'{keyword} ' if keyword else self.beginning(given).head}{given} = {call}")

    def returning(self, value: Sequence[Piece]) -> list[Piece]:
        """`return value;`."""
        return ["return ", *value, self.style.end] if value else [self.ended("return")]

    def handing_back(self, names: Sequence[str]) -> str:
        """`return [a, b];`."""
        return self.ended(f"return {_alone_or_listed(names)}")

    def beginning(self, statement: str) -> Frame:
        """Parentheses around what would be a block; where lines have no semicolons, one before what would go on."""
        apart = ";" if not self.style.end and statement[:1] in _GOING_ON else ""
        return Frame(f"{apart}(", ")") if statement.startswith("{") else Frame(apart, "")

    def ended(self, statement: str) -> str:
        """By a semicolon, where the file has them."""
        return f"{statement}{self.style.end}"

    def leave(self, leave: Leave) -> str:
        """The word itself."""
        return self.ended(leave.value)

    def nothing(self) -> str:
        """An empty statement."""
        return ";"

    def unless(self, condition: str, action: str, margin: str, unit: str) -> str:
        """`if (!condition)`."""
        return f"{margin}if (!{condition}) {{\n{margin}{unit}{action}\n{margin}}}\n"

    def ensuring(self, lines: Sequence[str], last: str, margin: str, unit: str) -> str:
        """`try` and `finally`."""
        body = "".join(f"{margin}{unit}{line}\n" for line in lines)
        return f"{margin}try {{\n{body}{margin}}} finally {{\n{margin}{unit}{last}\n{margin}}}\n"

    def asks_unless(self, head: str) -> str:
        """The condition of `if (!condition) {`."""
        found = _UNLESS.fullmatch(head)
        return found["condition"] if found is not None else ""

    def condition_alone(self, between: str) -> tuple[int, int, str] | None:
        """`if` for `else if`."""
        found = _OTHER_CONDITION.match(between)
        if found is None:
            return None
        start, end = (len(between[:at].encode()) for at in found.span("word"))
        return start, end, ""

    def sharing(self, names: Sequence[Piece], unit: str) -> list[Piece]:
        """That goes unsaid."""
        return []

    def declaration(self, keyword: str, names: Sequence[Piece]) -> list[Piece]:
        """`let`, `const` or `var`, as it was."""
        return [f"{keyword} ", *in_row(names), self.style.end]

    def sharing_word(self) -> str:
        """`var`."""
        return "var"

    # -- expressions

    def plain_text(self, text: str) -> str:
        """In the quotes that the file has."""
        return f"{self.style.quote}{text}{self.style.quote}"

    def values_of(self, table: str) -> str:
        """`Object.values(table)`."""
        return self.call("Object.values", [table])

    def creation(self, class_name: str, arguments: Sequence[Piece], names: Sequence[str] = ()) -> list[Piece]:
        """By `new`."""
        return [f"{self.making}{class_name}(", *in_row(arguments), ")"]

    def all_others(self, name: str) -> str:
        """`...name`."""
        return f"...{name}"

    def named_argument(self, name: str, value: str) -> str:
        """By its place."""
        return value

    def handed_on(self, parameters: Iterable[Parameter]) -> list[str]:
        """Each under its own name, and what is left with its dots."""
        return [f"{'...' * (p.kind is ParameterKind.REST)}{p.name}" for p in parameters]

    def handler(self, signature: str, call: str) -> str:
        """An arrow."""
        return f"({signature}) => {call}"

    def truth(self, value: bool) -> str:
        """`true` or `false`."""
        return "true" if value else "false"

    def no_value(self) -> str:
        """`undefined`."""
        return "undefined"

    def grouped(self, value: str) -> tuple[str, str]:
        """Parentheses around what may be several expressions."""
        return ("(", ")") if "," in value else ("", "")

    # -- members that moves write whole

    def handing_on(self, head: str, call: str, margin: str, unit: str, *, gives_value: bool) -> str:
        """The same heading over one line."""
        done = self.ended(f"{'return ' * gives_value}{call}")
        return f"{margin}{head.strip().removesuffix('{').strip()} {{\n{margin}{unit}{done}\n{margin}}}\n"

    def asking_method(self, name: str, reader: str, writer: str, unit: str) -> str:
        """No stream is asked for a line in a way that could be kept."""
        raise NotImplementedError

    def with_argument(self, function: str, value: str) -> str:
        """`function.bind(null, value)`."""
        return self.call(self.member(function, "bind"), ["null", value])

    def loop_over(self, item: str, container: str, number: str = "") -> str:
        """`for (const item of container)`, or `for (const [number, item] of container.entries())`."""
        if number:
            return f"for (const [{number}, {item}] of {container}.{self.counter}())"
        return f"for (const {item} of {container})"

    def so_many(self, value: Sequence[Piece], count: Piece, *, is_number: bool) -> list[Piece]:
        """`...Array.from({ length: count }, () => value)`."""
        return ["...Array.from({ length: ", count, " }, () => ", *value, ")"]

    def or_else(self, value: Sequence[Piece], other: str) -> list[Piece]:
        """By `||`."""
        return [*value, " || ", other]

    def searched(self, search: Search, item: str, container: str, condition: str) -> str:
        """`container.find((item) => condition)`, `container.filter((item) => condition)`, …"""
        method = next(name for name, known in SEARCHES.items() if known is search)
        return f"{container}.{method}(({item}) => {condition})"

    def when_missing(self, name: str) -> str:
        """`if (name === undefined)`."""
        return f"if ({name} === undefined)"

    def looked_up(self, table: str, key: str) -> str:
        """`table[key]`."""
        return self.element(table, key)

    def when_there(self, name: str) -> str:
        """`if (name !== undefined)`."""
        return f"if ({name} !== undefined)"

    def choice(self, condition: Piece, value: Piece, other: Sequence[Piece]) -> list[Piece]:
        """`condition ? value : other`."""
        return [condition, " ? ", value, " : ", *other]

    def condition(self, question: str) -> str:
        """`if (question)`."""
        return f"if ({question})"

    def taking_out(self, container: str, item: str) -> str:
        """`container.splice(container.indexOf(item), 1);`."""
        return self.ended(f"{container}.splice({container}.indexOf({item}), 1)")

    def block_frame(self, head: str, margin: str) -> Frame:
        """The head with its braces."""
        return Frame(f"{margin}{head} {{\n", f"{margin}}}\n")

    def all_of(self, value: str, item: str, container: str, within: str) -> str:
        """`container.map((item) => value)`."""
        return f"{container}.map(({item}) => {value})"

    def equality_method(self, class_name: str, fields: Sequence[str], unit: str) -> str:
        """Objects are equal only to themselves, whatever a class says."""
        raise NotImplementedError

    def stream_argument(self, stream: str, given: Iterable[str | None]) -> str | None:
        """What is said goes where it goes."""
        return None

    def with_brackets(self, text: bytes, record: Span) -> Span:
        """What an arrow gives back is in brackets, for it would be a block."""
        above = text[max(record.start - _NEAR, 0) : record.start]
        is_given = _GIVEN_BACK.search(above) is not None and text[record.end : record.end + 1] == b")"
        return Span(record.start - 1, record.end + 1) if is_given else record

    # -- imports

    def file_heading(self, module: Module) -> str:
        """A word on strictness, where the file has one."""
        first = next(iter(module.block.statements), None)
        is_word = first is not None and first.kind is Kind.NOTHING
        return f"{module.source.slice(first.span)}\n" if first is not None and is_word else ""

    def import_names(self, module: str, names: Iterable[str]) -> str:
        """`import { a, b } from "module";`, or `const { a, b } = require("module");`."""
        return self._brought(f"{{ {', '.join(sorted(names))} }}", module)

    def import_line(self, imported: Imported, name: str) -> str:
        """A line that brings the whole, or what is named, under its name."""
        module, what = imported
        is_asked = self.style.sharing is Sharing.REQUIRES
        if what is None:
            return self._brought(name if is_asked else f"* as {name}", module)
        if what == DEFAULT and not is_asked:
            return self._brought(name, module)
        renamed = f"{what}: {name}" if is_asked else f"{what} as {name}"
        return self._brought(f"{{ {what if what == name else renamed} }}", module)

    def _brought(self, taken: str, module: str) -> str:
        if self.style.sharing is Sharing.REQUIRES:
            return self.ended(f"{self.style.keyword} {taken} = require({self.plain_text(module)})") + "\n"
        return self.ended(f"import {taken} from {self.plain_text(module)}") + "\n"

    def handing_out(self, names: Sequence[str]) -> tuple[str, str]:
        """`export` before each, or `module.exports` at the end."""
        if self.style.sharing is not Sharing.REQUIRES:
            return "export ", ""
        return "", self.ended(f"module.exports = {{ {', '.join(names)} }}") + "\n"

    def takes_more_imports(self, text: str) -> bool:
        """Names between braces on one line, which has room for another."""
        return _NAMED_IMPORT.search(text) is not None and "\n" not in text and len(text) < _ROOM

    def one_more_import(self, text: str, imported: Imported) -> tuple[int, str]:
        """Behind the others."""
        found = _NAMED_IMPORT.search(text)
        assert found is not None
        return len(text[: found.start("names")] + found["names"].rstrip()), f", {imported.name}"

    def in_groups(self, lines: Iterable[str]) -> list[list[str]]:
        """Those of packages first, then the program's own."""
        ordered = sorted(lines)
        groups = [[line for line in ordered if _is_own(line) is is_own] for is_own in (False, True)]
        return [group for group in groups if group]

    def fewer_imports(self, text: str, kept: Sequence[int]) -> str | None:
        """The same line with fewer names between its braces."""
        found = _NAMED_IMPORT.search(text)
        if found is None or "/" in found["names"]:
            return None
        parts = [part.strip() for part in found["names"].split(",") if part.strip()]
        names = ", ".join(parts[number] for number in kept)
        return f"{text[: found.start()]}{{ {names} }}{text[found.end() :]}"

    # -- long texts

    def remark(self, text: str) -> str:
        """Lines behind `//`."""
        return "".join(f"// {line.strip()}".rstrip() + "\n" for line in text.splitlines())

    def text_value(self, literal: str) -> str | None:
        """A text with no more than the usual escapes."""
        return text_value(literal)

    @property
    def quotes(self) -> tuple[str, str]:
        """Those of the file."""
        return self.style.quote, self.style.quote

    def place_of_type(self, declared: str, depth: int) -> tuple[int, int] | None:
        """No types are declared."""
        return None

    def varying_text(self, literals: Sequence[str]) -> VaryingText | None:
        """Not looked for yet."""
        return None

    def reading_text(self, file: str) -> str:
        """By Node's own means, from the folder of the code."""
        return f'require("node:fs").readFileSync(`${{__dirname}}/{file}`, "utf8")'

    # -- long lines

    def line_breaks(self, text: str, lines: Collection[int], width: int, unit: str) -> list[Break]:
        """Lines stay as long as they are."""
        return []

    # -- templates that show their own text

    def spelled_out(self, shown: str) -> str:
        """No template does."""
        return shown

    def shown_expression(self, echo: Echo, shown: str) -> tuple[int, str]:
        """No template does."""
        return len(shown.encode()), ""

    def is_hard_to_spell(self, shown: str) -> bool:
        """No template does."""
        return False


def _alone_or_listed(names: Sequence[str]) -> str:
    return names[0] if len(names) == 1 else f"[{', '.join(names)}]"


def _is_own(line: str) -> bool:
    quoted = re.search(r"""(?:from |require\()(['"])(.*)\1""", line)
    return quoted is not None and quoted[2].startswith(_RELATIVE)
