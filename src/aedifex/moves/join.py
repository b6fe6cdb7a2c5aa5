"""join: files that share their state with the script come into it, so that one class can have what all of them change.

It is the first half of `house`, which takes classes out into files again.
"""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from pathlib import Path
from typing import ClassVar, NoReturn

from aedifex.moves.kit.description import Description, Example, Given
from aedifex.moves.kit.move import module_of
from aedifex.moves.kit.planner import Planner
from aedifex.moves.kit.rewriter import Rewriter
from aedifex.moves.kit.rewriting import Instead, Renamed, Rewriting
from aedifex.program.dialect.writer import Piece
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Form, Imported, Mode, Reference, ScopeKind, Symbol
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Function, Kind, Statement
from aedifex.program.structure.imports import imports_noticeably
from aedifex.program.structure.layout import Layout
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.obstacles import is_hard_to_echo
from aedifex.program.structure.shared_modules import shared_modules
from aedifex.source.errors import RefusedError
from aedifex.source.text import Span

_ADVICE = "Put what shares this state into one file first, or let it be."


@dataclass(frozen=True)
class Join:
    """Bring the text of the modules that share state with a script into it, where it imports them."""

    name: ClassVar[str] = "join"

    path: Path

    def plan(self, program: Program) -> Rewriting:
        """Work out the rewriting.

        Raises:
            RefusedError: nothing is shared, or a module is used in a way that its text could not be.
        """
        module = module_of(program, self.path)
        joined = shared_modules(program)
        if not joined:
            raise RefusedError(f"no file beside {module.path.name} has state that others change")
        return _Joining(program, module, joined).plan()


class _Joining(Planner):
    def __init__(self, program: Program, module: Module, joined: Sequence[Module]) -> None:
        super().__init__(module)
        self.program = program
        self.joined = joined
        self.files = [module, *joined]
        self.homes = {each.scope: each for each in self.files}
        self.rewriters = {each: Rewriter(each, self.rewriting) for each in joined} | {module: self.rewriter}

    def plan(self) -> Rewriting:
        found = super().plan()
        for each in self.joined:
            self.rewriters[each].finish()
        return found

    # -- reasons against it

    def find_objections(self) -> None:
        for each in self.program.modules.values():
            for reference in each.references:
                self.find_in_reference(each, reference)
        for each in self.files:
            self.find_in_file(each)
        self.find_clashes()
        self.find_overtaking()

    def refuse(self, module: Module, offset: int, reason: str) -> NoReturn:
        raise RefusedError(reason, module.source.place(offset), _ADVICE)

    def find_in_file(self, each: Module) -> None:
        for hindrance in each.hindrances:
            self.refuse(each, each.source.line_starts[hindrance.line - 1], f"this {hindrance.reason}")
        if each.found_by_name or each.shares_globals or each.unknown_stars:
            self.refuse(each, 0, f"names of {each.path.name} may be used in ways that cannot be seen")
        if each is self.module:
            return
        if each.source.newline != self.module.source.newline or each.path.parent != self.module.path.parent:
            self.refuse(each, 0, f"{each.path.name} is another sort of file, or stands elsewhere")
        for statement in each.block.statements:
            if statement is each.guard:
                continue
            if statement.holds_for_file or any(self.dialect.rules.is_place_name(r.name) for r in statement.references):
                self.refuse(each, statement.start, f"this means something else outside of {each.path.name}")

    def find_in_reference(self, each: Module, reference: Reference) -> None:
        """An import must be plain, and what is reached by it a name of the module that means the same everywhere."""
        if self.is_guarded(each, reference):
            return
        is_place = reference.symbol.origin is not None and self.dialect.rules.is_place_name(reference.name)
        if is_place and each in self.joined:
            self.refuse(each, reference.start, f"`{reference.name}` means something else outside of {each.path.name}")
        home = self.home_of(reference)
        if home is None or home is each:
            return
        statement = reference.statement
        if each not in self.files or home is self.module:
            self.refuse(each, reference.start, f"{each.path.name} imports {home.path.name} and stays where it is")
        if reference.mode.writes or reference.form is Form.STAR:
            if statement is None or not self.is_plain_import(each, statement):
                self.refuse(each, reference.start, f"{home.path.name} is not imported by a line of its own at the top")
            is_kept = all(self.is_the_same(binding, home) for binding in reference.symbol.bindings)
            if reference.form is not Form.STAR and not is_kept:
                self.refuse(each, reference.start, f"`{reference.name}` is bound again")
            return
        if reference.form is Form.DECLARATION or reference.mode is Mode.DELETE:
            self.refuse(each, reference.start, f"`{reference.name}`, of {home.path.name}, is declared or deleted here")
        found = self.meant(reference)
        if found is None:
            self.refuse(each, reference.start, f"`{reference.name}` is used itself, as a module")
        if reference.symbol.target is not None and found in self.set_later:
            self.refuse(each, reference.start, f"`{reference.name}` was imported by its name, and is set anew later")
        if self.sets(reference) and reference.scope.frame.kind is ScopeKind.CLASS:
            self.refuse(each, reference.start, "this is set in a class, whose own it would be")
        if is_hard_to_echo(each, reference):
            self.refuse(each, reference.start, "a template shows this by its text")

    def is_the_same(self, binding: Reference, home: Module) -> bool:
        """Whether a name is bound to a module by an import, or by a star import of what has imported it likewise."""
        if binding.form is Form.IMPORT:
            return self.home_of(binding) is home and len(binding.symbol.bindings) - self.stars(binding.symbol) == 1
        if binding.form is not Form.STAR or binding.statement is None:
            return False
        names = (r for symbol in binding.symbol.scope.symbols.values() for r in symbol.bindings if r.form is Form.STAR)
        brought = [self.home_of(r) for r in names if r.statement is binding.statement]
        known = [s for each in self.files if (s := each.scope.symbols.get(binding.name)) is not None]
        is_joined = any(found is not None and found is not home for found in brought)
        return is_joined and all(symbol.module_scope is home.scope for symbol in known)

    @staticmethod
    def stars(symbol: Symbol) -> int:
        return sum(binding.form is Form.STAR for binding in symbol.bindings)

    def is_guarded(self, each: Module, reference: Reference) -> bool:
        """Whether a name stands in code of a joined module that runs only when its file is started itself."""
        guard = each.guard if each in self.joined else None
        return guard is not None and guard.start <= reference.start < guard.end

    def find_clashes(self) -> None:
        """What two files bind under one name must be the same import, or can be called otherwise."""
        for symbol, name in self.names.items():
            if not name:
                home = self.homes[symbol.scope]
                at = symbol.references[0].start
                self.refuse(home, at, f"`{symbol.name}` of {home.path.name} means something else in another file")

    def find_overtaking(self) -> None:
        """What a module does when it is first imported must not come behind what comes after it today."""
        rest = [s for s in self.module.block.statements if s.start > self.imports[0].start and s.kind is Kind.IMPORT]
        noticed = [s for s in rest if s not in self.gone and imports_noticeably(self.module, s)]
        noticed += [s for each in self.joined for s in self.hoisted(each) if imports_noticeably(each, s)]
        between = [s for s in self.module.block.statements if self.imports[0].start < s.start < self.imports[-1].start]
        for each in self.joined:
            main = MainCode.of(each)
            doing = next((s for s in each.block.statements if s is not each.doc and self.does_something(main, s)), None)
            if doing is not None and (noticed or any(s.kind is not Kind.IMPORT for s in between)):
                self.refuse(each, doing.start, "this does something while its file is imported, between other imports")
        if any(s.kind is not Kind.IMPORT for s in between):
            self.refuse(self.module, self.imports[-1].start, "this is imported below other code")

    def does_something(self, main: MainCode, statement: Statement) -> bool:
        return statement.kind is not Kind.IMPORT and main.does_something(statement)

    # -- what names mean

    def home_of(self, reference: Reference) -> Module | None:
        """The joined module, or the script, that a name leads into by an import."""
        symbol = reference.symbol
        if symbol.imported is None:
            return None
        if symbol.module_scope is not None:
            return self.homes.get(symbol.module_scope)
        return self.homes.get(symbol.final.scope) if symbol.target is not None else None

    def meant(self, reference: Reference) -> Symbol | None:
        """The variable or routine of a joined module that a use of an import stands for."""
        if reference.symbol.target is not None:
            return reference.symbol.final
        first = reference.path[0] if reference.path else None
        if first is None or first.kind is not AccessKind.ATTRIBUTE or first.name is None:
            return None
        scope = reference.symbol.module_scope
        found = scope.symbols.get(first.name) if scope is not None else None
        return found if found is not None and found.imported is None else None

    def sets(self, reference: Reference) -> bool:
        """Whether a use of a module gives one of its variables another value."""
        is_member = reference.symbol.module_scope is not None and len(reference.path) == 1
        return is_member and reference.path_mode is not None and reference.path_mode.writes

    @cached_property
    def set_later(self) -> set[Symbol]:
        """The variables that may get another value once their file has been imported."""
        own = (s for each in self.files for s in each.symbols)
        found = {s for s in own if any(r.mode.writes and r.scope is not s.scope for r in s.references)}
        uses = (r for each in self.files for r in each.references if self.home_of(r) is not None)
        return found | {meant for use in uses if self.sets(use) and (meant := self.meant(use)) is not None}

    @cached_property
    def names(self) -> dict[Symbol, str]:
        """What each name at the top level of a joined module is called in the script; empty where that cannot be."""
        taken: dict[str, Symbol] = {}
        found: dict[Symbol, str] = {}
        inner: dict[str, set[Symbol]] = defaultdict(set)
        for each in self.files:
            for scope in [each.outside, *each.scope.walk()]:
                for symbol in scope.symbols.values():
                    if scope is not each.scope and self.homes.get(symbol.final.scope) is None:
                        inner[symbol.name].add(symbol)
        for each in [self.module, *self.joined]:
            for symbol in each.scope.symbols.values():
                if symbol.target is not None and self.homes.get(symbol.final.scope) is not None:
                    continue
                if symbol.module_scope is not None and symbol.module_scope in self.homes:
                    continue
                other = taken.get(symbol.name)
                is_same = other is not None and other.imported is not None and other.imported == symbol.imported
                if is_same:
                    continue
                wishes = [symbol.name, self.dialect.naming.joined(symbol.name, each.path.stem)]
                if each is self.module or symbol.imported is not None:
                    wishes = wishes[:1]
                free = (w for w in wishes if w not in taken and (each is self.module or not inner[w]))
                found[symbol] = next(free, "")
                taken[found[symbol] or symbol.name] = symbol
        return found

    # -- imports

    def is_plain_import(self, each: Module, statement: Statement) -> bool:
        """Whether an import stands alone at the top level, and brings nothing but joined modules, or names of them."""
        if statement.kind is not Kind.IMPORT or statement.block.owner is not None:
            return False
        return Layout.of(each).stands_alone(statement) and all(
            self.home_of(r) is not None or r.form is Form.STAR for r in statement.references
        )

    def imports_of(self, each: Module) -> Iterator[Statement]:
        """The imports of a file that bring joined modules."""
        for statement in each.block.statements:
            if statement.kind is Kind.IMPORT and any(self.home_of(r) is not None for r in statement.references):
                yield statement
        stems = {each.path.stem for each in self.joined}
        yield from (star.statement for name, star in each.stars if star.statement is not None and name in stems)

    @cached_property
    def imports(self) -> list[Statement]:
        """The imports of the script that bring joined modules."""
        return sorted(set(self.imports_of(self.module)), key=lambda statement: statement.start)

    @cached_property
    def gone(self) -> set[Statement]:
        """All imports of joined modules."""
        return {statement for each in self.files for statement in self.imports_of(each)}

    def hoisted(self, each: Module) -> list[Statement]:
        """The imports of a joined module that come to the script's own."""
        return [s for s in each.block.statements if s.kind is Kind.IMPORT and s not in self.gone]

    # -- writing

    def write(self) -> None:
        self.rewriting.changes.deleted |= {each.path for each in self.joined}
        for each in self.files:
            self.rename(each)
            self.reach(each)
            for statement in self.gone & set(each.block.statements):
                self.rewriters[each].drop(statement.references)
                self.rewriters[each].remove(Layout.of(each).own_lines(statement))
        for each in self.joined:
            if each.guard is not None:
                self.rewriters[each].drop(each.references_within(each.guard.span))
                self.rewriters[each].remove(Layout.of(each).lines(each.guard))
        self.bring_imports()
        self.bring_texts()

    def rename(self, each: Module) -> None:
        """Give what is called like something else another name, in its own file."""
        for reference in each.references:
            name = self.names.get(reference.symbol, reference.name)
            if self.is_guarded(each, reference):
                continue
            if reference.symbol.scope is each.scope and name not in ("", reference.name):
                self.rewriters[each].replace(reference, name, Renamed(name))

    def reach(self, each: Module) -> None:
        """Let names stand for what was reached through imports, and say where what is set lives."""
        declared: dict[Function, set[str]] = defaultdict(set)
        for reference in each.references:
            found = self.meant(reference) if self.home_of(reference) is not None else None
            if (
                found is None
                or self.is_guarded(each, reference)
                or reference.mode.writes
                or reference.form is Form.STAR
            ):
                continue
            name, span = self.names[found], reference.span
            if reference.symbol.target is None:
                span = Span(reference.start, reference.path[0].end)
                self.rewriting.paths[reference] = tuple(step.name for step in reference.path[1:])
            self.rewriters[each].replace(reference, name, Instead(found, name), span)
            routine = reference.scope.frame.routine
            if self.sets(reference) and isinstance(routine, Function):
                declared[routine].add(name)
        for function, names in declared.items():
            self.declare(each, function, sorted(names))

    def declare(self, each: Module, function: Function, names: Sequence[str]) -> None:
        layout = Layout.of(each)
        first = next(s for s in function.body.statements if s.span != function.doc)
        at = layout.own_lines(first).start
        self.rewriters[each].insert(at, *self.writer.sharing(names, layout.margin(first)))

    def bring_imports(self) -> None:
        """The imports that joined modules need, behind those of the script; names of one module stand in one line."""
        known = {self.module.source.slice(s.span) for s in self.module.block.statements if s.kind is Kind.IMPORT}
        lines: list[Piece] = []
        named: dict[str, set[str]] = defaultdict(set)
        for each in self.joined:
            for statement in self.hoisted(each):
                text, span = each.source.slice(statement.span), Layout.of(each).lines(statement)
                names = self.plain_names(each, statement)
                self.rewriters[each].remove(span)
                if names is not None:
                    named[names[0]].update(names[1])
                    self.rewriters[each].drop(statement.references)
                elif text in known:
                    self.rewriters[each].drop(statement.references)
                else:
                    lines += self.rewriters[each].lines_taken(span)
                known.add(text)
        for name, wanted in named.items():
            left = {n for n in wanted if not self.is_imported(name, n)}
            lines += [self.writer.import_names(name, sorted(left))] if left else []
        if lines:
            self.rewriter.insert(self.layout.own_lines(self.imports[-1]).end, *lines)

    def is_imported(self, module: str, name: str) -> bool:
        """Whether the script imports a name of a module as it is called there."""
        symbol = self.module.scope.symbols.get(name)
        is_star = symbol is not None and any(r.form is Form.STAR for r in symbol.references)
        return symbol is not None and symbol.imported == Imported(module, name) and not is_star

    def plain_names(self, each: Module, statement: Statement) -> tuple[str, list[str]] | None:
        """The module, and its names, that an import brings as they are called there; a star brings what is used."""
        star = next((name for name, star in each.stars if star.statement is statement), None)
        if star is not None:
            used = [s for s in each.symbols if s.imported is not None and s.imported.module == star]
            return star, [s.name for s in used if any(r.form is Form.STAR for r in s.references)]
        brought = [r.symbol for r in statement.references if r.form is Form.IMPORT]
        found = {s.imported.module for s in brought if s.imported is not None and s.imported.name == s.name}
        is_plain = bool(brought) and all(s.imported is not None and s.imported.name == s.name for s in brought)
        return (found.pop(), [s.name for s in brought]) if is_plain and len(found) == 1 else None

    def bring_texts(self) -> None:
        """The texts of the modules, in the order in which they run today, behind the imports."""
        statements = self.module.block.statements
        imports = [s for s in statements if s.kind is Kind.IMPORT and s.start >= self.imports[0].start]
        last = imports[0]
        for statement in imports[1:]:
            if statement.index != last.index + 1:
                break
            last = statement
        at = self.layout.own_lines(last).end
        texts = [pieces for each in self.joined if (pieces := self.text(each))]
        is_first = not any(s not in self.gone for s in statements[: last.index + 1])
        for number, pieces in enumerate(texts):
            self.rewriter.insert(at, "" if is_first and number == 0 else "\n", *pieces)

    def text(self, each: Module) -> list[Piece]:
        """What a joined module says, without what heads it."""
        layout = Layout.of(each)
        rest = [s for s in each.block.statements if s is not each.doc and s.kind is not Kind.IMPORT]
        if not rest:
            return []
        begin = min(layout.lines(rest[0]).start, *(c.start for c in each.comments if c.alone), len(each.source.data))
        pieces: list[Piece] = []
        if each.doc is not None:
            begin = max(begin, layout.own_lines(each.doc).end)
            said = self.writer.text_value(each.source.slice(each.doc.span)) or ""
            pieces += [self.writer.remark(said.strip()), "\n"] if said.strip() else []
        begin = max(begin, each.source.line_starts[each.header_lines] if each.header_lines else 0)
        end = len(each.source.data)
        return [*pieces, *self.rewriters[each].lines_taken(Span(begin, end))]


def _by_hand(program: Program, script: Path, given: Given) -> list[Join]:
    return [Join(script)]


MOVE = Description(
    name="join",
    place=1,
    summary=(
        "Files whose variables others change come into the script, for classes to have them.\n"
        "Refused where a module is used as a value, or does something while it is imported."
    ),
    term="Inline Module",
    help="Bring the files that share their state with a script into it.",
    make=_by_hand,
    example=Example(
        language="python",
        words="",
        before="""\
import tide


def wait():
    tide.height += 1


wait()
print(tide.height, tide.is_high())
""",
        beside={
            "tide.py": """\
HIGH = 3

height = 2


def is_high():
    return height >= HIGH
""",
        },
        after={
            "harbour.py": """\
HIGH = 3

height = 2


def is_high():
    return height >= HIGH


def wait():
    global height
    height += 1


wait()
print(height, is_high())
""",
        },
    ),
)
