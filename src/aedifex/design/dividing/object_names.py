"""Names for methods of statements about one object: from comments, the routine around, and what becomes of fields."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.design.dividing.drawings import sets_up_resource
from aedifex.design.dividing.loop_body import Job, job_of, only_draws
from aedifex.design.dividing.names_from_calls import MOVING, called_alone, only_says, sets_plain_values, verb_at_end
from aedifex.design.dividing.names_from_changes import flips, turns_back, verb_of_change, verb_of_edge
from aedifex.design.dividing.names_from_comments import names_from
from aedifex.design.dividing.state_needs import StateNeeds
from aedifex.design.drafting.naming import POSITION_WORDS, VERBS, is_resource
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, Reference, Scope, Symbol
from aedifex.program.model.statements import Block, Function, Kind, Statement
from aedifex.program.structure.layout import Layout
from aedifex.survey.kinds.objects import member_names
from aedifex.survey.words import nouns_of, singular, words_of

_PACES = frozenset("dx dy vx vy speed velocity".split())
_COORDINATES = frozenset("x y".split())
_SWITCHES = frozenset({"on", "off"})
_AGAIN = frozenset("again begin init initialize new reset restart start".split())
_ALL = frozenset({"all", "each", "every", "everything"})
_TEXTS = frozenset({"description", "label", "line", "picture", "row", "text"})
_TURNS = frozenset("cycle do frame game loop main play run step tick timer turn".split())
"""What functions are called that do all that a turn takes."""

_PLAIN_DEEDS = frozenset({"bounce", "toggle"})
"""What cannot be mistaken, whatever the routine around does besides."""

_AT_EDGES = frozenset({"limit", "wrap"})
_DRAW = "draw"
_HANDLE = "handle"
"""What is done where nothing else is said of it."""

_SHORT = 3
_DEFINING = frozenset({Kind.ROUTINE, Kind.CLASS, Kind.IMPORT, Kind.DECLARE, Kind.NOTHING})


def is_restart(routine: Function) -> bool:
    """Whether a routine is called like one in which all begins once more."""
    return not _AGAIN.isdisjoint(words_of(routine.name))


def is_for_each(block: Block) -> bool:
    """Whether a block is what a loop does with each of several things."""
    return block.owner is not None and block.owner.kind is Kind.EACH


class ObjectNames:
    """Finds names for what becomes a method of one class."""

    def __init__(self, module: Module, scope: Scope) -> None:
        self.module = module
        self.scope = scope
        self.layout = Layout.of(module)
        self.members = member_names(module, scope)

    def of(
        self, routine: Function | None, block: Block, run: Sequence[Statement], symbol: Symbol, *, has_reason: bool
    ) -> Iterator[str]:
        """Names for a run of a block of a routine that the class has not yet, the best first.

        Names that say no more than that something changes are for runs that are a method for another reason.
        """
        rules = self.module.dialect.rules
        verb = verb_at_end(run)
        found = names_from(self.layout.comment_above(run[0]), verb, self.module.dialect)
        said = [name for name in found if not self.only_says_whose(name, symbol)]
        is_about_all = not any(self.layout.comment_above(statement) for statement in run[1:])
        wishes = [*said] if is_about_all else []
        tells = self.only_tells(run)
        wishes += ["ask"] if any(job_of(self.module, s) is Job.INPUT for s in run) else []
        wishes += self.text_made(run)
        wishes += ["show", "describe"] if tells and is_for_each(block) else []
        goes = [called_alone(statement) in MOVING for statement in run]
        drawing = [s for s in run if not sets_up_resource(s) and not self.only_prepares(s)]
        if drawing and only_draws(self.module, drawing) and not goes[-1]:
            wishes.insert(0, _DRAW)
        elif any(goes) or self.only_shifts(run, symbol):
            wishes.insert(0, "move")
        doing = [s for s in block.statements if s.kind not in _DEFINING and not self.is_before_it(s, symbol)]
        is_most = is_for_each(block) or 2 * len(run) >= len(doing)
        like: list[str] = []
        if routine is not None and 2 * len(run) >= len(doing):
            like = [*self.named_like(routine, symbol), *self.called_alone_like(routine, run)]
            draws = any(job_of(self.module, s) is Job.DRAW for s in run)
            like = [name for name in like if draws or words_of(name)[0] != _DRAW]
        says_what = routine is not None and not _TURNS.issuperset(words_of(routine.name))
        begins = has_reason or (routine is not None and is_restart(routine))
        is_anew = begins and (sets_plain_values(run) or self.begins_anew(run, symbol))
        changes = ["reset", "restart"] if is_anew else []
        changes += self.by_changes(run, symbol, has_reason=has_reason, is_most=is_most)
        plain = _PLAIN_DEEDS | _AT_EDGES if is_for_each(block) else _AT_EDGES
        wishes += [change for change in changes if change in plain]
        wishes += like if says_what else []
        wishes += ["explain"] if tells and self.gives_reasons(block, run) else []
        wishes += ["show", "describe"] if tells else []
        wishes += [*changes, *like]
        for wish in dict.fromkeys([*wishes, *said, *([_HANDLE] if found else [])]):
            if wish not in self.members and rules.is_name(wish) and not rules.is_taken(wish):
                yield wish

    def only_prepares(self, statement: Statement) -> bool:
        """Whether a statement gives names of its own routine what it works out, and changes nothing else."""
        targets = [r for r in statement.references if r.mode.writes or (r.path_mode is not None and r.path_mode.writes)]
        shared = StateNeeds.of(self.module).shared
        is_own = all(r.binds and r.symbol not in shared for r in targets)
        return (
            statement.kind is Kind.ASSIGN and bool(targets) and is_own and job_of(self.module, statement) is Job.UPDATE
        )

    def only_says_whose(self, name: str, symbol: Symbol) -> bool:
        """Whether a name says of which object something is, and no more: `handle_ferry` of a ferry."""
        own = {*nouns_of(self.scope.name), *nouns_of(symbol.name), _HANDLE}
        return own.issuperset(map(singular, words_of(name)))

    def only_tells(self, run: Sequence[Statement]) -> bool:
        """Whether a run changes nothing, and says something at its end."""
        changes = any(r.path_mode is not None and r.path_mode.writes for r in self.references_in(run))
        changes = changes or any(is_resource(r.symbol) for r in self.references_in(run))
        return not changes and (self.says(run[-1]) or run[-1].kind is Kind.ASSIGN)

    def text_made(self, run: Sequence[Statement]) -> list[str]:
        """The name that a run gives the one text that it makes: `line`."""
        pairs = run[0].assignment.pairs if run[0].assignment is not None else ()
        made = pairs[0].target.symbol.name if len(pairs) == 1 and run[0].kind is Kind.ASSIGN else ""
        is_made = made in _TEXTS and not any(s.kind is Kind.EXPRESSION for statement in run for s in statement.walk())
        return [made] if is_made else []

    def says(self, statement: Statement) -> bool:
        """Whether a statement says something, or chooses what to say."""
        if statement.kind is Kind.BRANCH:
            return all(map(self.says, statement.inner))
        return only_says(self.module, statement)

    def gives_reasons(self, block: Block, run: Sequence[Statement]) -> bool:
        """Whether a run chooses what to say where a question has been answered with no."""
        owner = block.owner
        is_last = owner is not None and owner.kind is Kind.BRANCH and block is not owner.blocks[0]
        return is_last and run[-1].kind is Kind.BRANCH

    def by_changes(self, run: Sequence[Statement], symbol: Symbol, *, has_reason: bool, is_most: bool) -> Iterator[str]:
        """Names for what a run does to the fields of the object; `is_most` of what is done around it may be plain."""
        naming = self.module.dialect.naming
        steps = [(r.path[0], r.path_mode) for r in self.references_in(run) if r.symbol is symbol and len(r.path) == 1]
        written = dict.fromkeys(step.name or "" for step, mode in steps if mode is not None and mode.writes)
        fields = [name for name in written if name]
        if edge := verb_of_edge(self.module, run, symbol, _COORDINATES):
            yield edge
        if POSITION_WORDS & set(fields) or any(map(self.shifts, self.references_in(run))):
            yield "move"
        if fields[:1] and fields[0] in _SWITCHES:
            yield naming.member_name(["switch", fields[0]])
        own = [r for r in self.references_in(run if not written else run[:1]) if r.symbol is symbol]
        if any(map(self.moves, own)) and (not written or run[0].kind is Kind.EXPRESSION):
            yield "move"
        if (
            fields
            and all(singular(words_of(name)[0]) in _PACES for name in fields)
            and turns_back(self.module, run, symbol)
        ):
            yield "bounce"
        if len(fields) == 1 and flips(self.module, run, symbol):
            yield "toggle"
            yield naming.joined("toggle", fields[0])
        verb = verb_of_change(self.module, run, symbol, fields[0]) if len(fields) == 1 else ""
        if verb:
            yield naming.joined(verb, fields[0])
        if has_reason and is_most and written:
            yield "update"
        if has_reason and is_most:
            yield from (naming.joined("change", name) for name in fields)

    def only_shifts(self, run: Sequence[Statement], symbol: Symbol) -> bool:
        """Whether a run only counts a coordinate of the object up or down."""
        written = [r for r in self.references_in(run) if r.path_mode is not None and r.path_mode.writes]
        is_position = all(r.symbol is symbol and r.path[-1].name in POSITION_WORDS for r in written)
        return len(run) == 1 and run[0].kind is Kind.UPDATE and is_position

    def begins_anew(self, run: Sequence[Statement], symbol: Symbol) -> bool:
        """Whether a run gives several fields of the object values that have nothing to do with what it was."""
        uses = [r for r in self.references_in(run) if r.symbol is symbol]
        is_set = all(s.kind is Kind.ASSIGN for s in run) and all(r.path_mode is Mode.WRITE for r in uses)
        return is_set and len({r.path[0].name for r in uses if r.path}) > 1

    def shifts(self, reference: Reference) -> bool:
        """Whether what a field of an object holds gets another position."""
        is_written = reference.path_mode is not None and reference.path_mode.writes
        return is_written and len(reference.path) > 1 and reference.path[-1].name in POSITION_WORDS

    def moves(self, reference: Reference) -> bool:
        """Whether what a field of the object holds is put somewhere else."""
        name = reference.path[1].name or "" if len(reference.path) > 1 else ""
        return name in MOVING or (name.startswith("set") and name[3:] in POSITION_WORDS)

    def references_in(self, run: Sequence[Statement]) -> list[Reference]:
        """All names in a run."""
        return [r for statement in run for r in self.module.references_within(statement.span)]

    def is_before_it(self, statement: Statement, symbol: Symbol) -> bool:
        """Whether a statement only fetches the object, or leaves where there is nothing to do."""
        is_fetch = statement.kind is Kind.ASSIGN and any(r.symbol is symbol and r.binds for r in statement.references)
        last = statement.blocks[0].statements[-1] if len(statement.blocks) == 1 else None
        is_guard = statement.kind is Kind.BRANCH and last is not None and last.kind is Kind.LEAVE
        return is_fetch or is_guard

    def called_alone_like(self, routine: Function, run: Sequence[Statement]) -> list[str]:
        """The one word that a routine is called, where a run is what it changes: that is what is done, verb or not."""
        words = words_of(routine.name)
        changes = any(r.path_mode is not None and r.path_mode.writes for r in self.references_in(run))
        return words if len(words) == 1 and len(words[0]) > _SHORT and changes else []

    def named_like(self, routine: Function, symbol: Symbol) -> list[str]:
        """The name of a routine without what says whose it is, if it begins with a verb; else the verb alone."""
        words = words_of(routine.name)
        own = {*nouns_of(self.scope.name), *nouns_of(symbol.name)}
        rest = [word for word in words if singular(word) not in own and word not in _ALL]
        rest = [*rest[:1], *(word for word in rest[1:] if word not in _TURNS)]
        if not words or words[0] not in VERBS or words[0] == _HANDLE:
            return []
        return [self.module.dialect.naming.member_name(rest or words[:1]), words[0]]
