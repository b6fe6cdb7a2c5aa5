"""Random pages whose scripts listen to buttons, keys and clocks; and what comes of building one."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path
from tempfile import TemporaryDirectory

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.program.reading import read_program
from aedifex.source.errors import AedifexError
from aedifex.source.text import SourceText
from aedifex.verify.compare import Comparison
from aedifex.verify.scenarios.scenario import Event, Scenario
from tests.support.javascript_scripts import JavaScriptWriter

EVENTS = (
    *(Event(turn, "choose", name) for turn, name in ((2, "One"), (4, "Two"), (6, "Three"), (9, "One"), (12, "Two"))),
    *(Event(turn, "key", name) for turn, name in ((3, "a"), (7, "ArrowUp"))),
)


class PageWriter(JavaScriptWriter):
    """Writes a page: a script as others are, whose main code listens besides."""

    def write(self) -> str:
        script = super().write()
        margin = self.random.choice(["", "  ", "    "])
        inside = "".join(f"{margin}{line}\n" if line else "\n" for line in script.splitlines())
        called = [f' onclick="{name}()"' for name, _ in self.functions if self.random.random() < 0.3]
        buttons = [
            f'{margin}<button id="b{n}"{called.pop() if called and n > 1 else ""}>{text}</button>\n'
            for n, text in enumerate(("One", "Two", "Three"), 1)
        ]
        return f'<!DOCTYPE html>\n<body>\n{"".join(buttons)}<p id="said"></p>\n{margin}<script>\n{inside}{margin}</script>\n</body>\n'

    def main(self) -> list[str]:
        lines = super().main()
        for _ in range(self.random.randint(1, 4)):
            lines[self.random.choice([0, len(lines)]) : 0] = self.listening()
        return lines

    def listening(self) -> list[str]:
        """A statement that has something called later."""
        chance, end = self.random, self.end
        nameless = self.handler()
        named = chance.choice(self.functions)[0] if self.functions else None
        given = [named] if named is not None and chance.random() < 0.5 else nameless
        first, *inner = given
        last = f"{inner.pop()}" if inner else ""
        button = f"document.getElementById({self.text(f'b{chance.randint(1, 3)}')})"
        form = chance.randint(0, 4)
        opening, closing = [
            (f"{button}.addEventListener({self.text('click')}, ", ")"),
            (f"{button}.onclick = ", ""),
            (f"document.addEventListener({self.text('keydown')}, ", ")"),
            ("setTimeout(", ", 90)"),
            (f"const clock{self.local()} = setInterval(", ", 70)"),
        ][form]
        if not inner and not last:
            return [f"{opening}{first}{closing}{end}"]
        return [f"{opening}{first}", *inner, f"{last}{closing}{end}"]

    def handler(self) -> list[str]:
        head = self.random.choice(["function () {", "() => {", "function (event) {", "(event) => {", "event => {"])
        return [head, *self.block([], 1, "  "), "}"]


def write_page(seed: int) -> str:
    """A page."""
    return PageWriter(seed).write()


def outcome(text: str) -> str:
    """What comes of building a page: `same`, `refused: …` or `different: …`."""
    return compared(text, "harbour.html", EVENTS)


def compared(text: str, name: str, events: Sequence[Event]) -> str:
    """What comes of building a page or a sketch, with what a visitor does."""
    with TemporaryDirectory() as folder:
        before, after = Path(folder, name), Path(folder, "built", name)
        before.write_text(text)
        try:
            program = read_program([DIALECT.files.opened(SourceText.read(before))], DIALECT)
            built = build(program, propose(program)).program.main.source.encode()
        except AedifexError as error:
            return f"refused: {error}"
        after.parent.mkdir()
        after.write_bytes(built)
        verdict = Comparison(before, after, DIALECT.runner).compare([Scenario(turns=20, events=tuple(events))])
        if verdict.same:
            return "same"
        return f"different:\n{text}\n---- became\n{built.decode()}\n---- {verdict.divergence}"
