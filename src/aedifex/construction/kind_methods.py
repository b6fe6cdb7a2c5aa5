"""What is about one object of a kind becomes its method: functions, the first part of some, and lines of others."""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass

from aedifex.construction.places import free_name, lines_now, method_at, parameter_for, routine_at
from aedifex.design.dividing.chain_branches import chain_branches
from aedifex.design.dividing.object_answers import is_short_step, object_answers
from aedifex.design.dividing.object_blocks import object_blocks
from aedifex.design.dividing.object_repeats import object_repeats
from aedifex.design.document.design import MethodPlan
from aedifex.design.drafting.handing import handed_to
from aedifex.design.drafting.object_methods import method_name
from aedifex.moves.adopt import Adopt, NewMethod
from aedifex.moves.answer import Answer
from aedifex.moves.attach import Attach
from aedifex.moves.carve import Carve
from aedifex.moves.inject import Inject
from aedifex.moves.inline import Inline
from aedifex.moves.kit.binding_check import attempted, perform
from aedifex.moves.kit.move import class_of
from aedifex.moves.rename import Rename
from aedifex.program.model.names import Scope
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Kind
from aedifex.program.structure.main_code import MainCode
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.objects import member_names, object_lent, object_of, object_parameter, object_used
from aedifex.survey.words import common_words, words_of

_MOST_CARVED = 12


@dataclass(frozen=True)
class Given:
    """A program with methods that a class was given, and the plans of these."""

    program: Program
    methods: list[MethodPlan]


def with_answering_methods(program: Program, class_name: str) -> Given:
    """Give a class what functions do with one object of it before the program's part, each only if that can be done."""
    taken: list[MethodPlan] = []
    refused: set[str] = set()
    while len(taken) < _MOST_CARVED:
        module, scope = program.main, _own_class(program, class_name)
        known = object_answers(module, scope) if scope is not None else ()
        answer = next((a for a in known if a.routine.name not in refused), None)
        if answer is None or scope is None:
            break
        refused.add(answer.routine.name)
        lines = _lines_then(program, *answer.lines)
        if lines is None:
            continue
        name = method_name(module, answer.routine, class_name, answer.parameter, member_names(module, scope))
        why = "this is about one object of it, and it says whether to go on"
        method = MethodPlan(answer.routine.qualified_name, name, lines=lines, why=why, answers=True)
        try:
            program = answer_attached(program, class_name, method)
        except RefusedError:
            continue
        taken.append(method)
    return Given(program, taken)


def with_carved_methods(program: Program, class_name: str) -> Given:
    """Give a class the statements that are about one object of it, each run only if that can be done."""
    taken: list[MethodPlan] = []
    refused: set[tuple[int, int]] = set()
    while len(taken) < _MOST_CARVED:
        module, scope = program.main, _own_class(program, class_name)
        found = (find(module, scope) for find in (object_repeats, object_blocks) if scope is not None)
        blocks = (block for known in found for block in known if block.names)
        then = ((b, _lines_then(program, b.first, b.last)) for b in blocks)
        block, lines = next(((b, lines) for b, lines in then if lines and lines not in refused), (None, None))
        if block is None or scope is None:
            break
        assert lines is not None
        refused.add(lines)
        why = "these lines are about one object of it"
        method = MethodPlan(block.routine, block.names[0], lines=lines, values=block.values, why=why)
        try:
            program = block_attached(program, class_name, method)
        except RefusedError:
            continue
        taken.append(method)
    return Given(program, taken)


def with_branch_methods(program: Program, class_name: str) -> Given:
    """Give a class the branches of long chains in its methods: each only if that can be done, and most of them can."""
    before = program
    taken: list[MethodPlan] = []
    seen: set[str] = set()
    while True:
        scope = _own_class(program, class_name)
        blocks = chain_branches(program.main, scope) if scope is not None else []
        block = next((b for b in reversed(blocks) if b.names[0] not in seen), None)
        if block is None:
            return Given(program, taken[::-1]) if 2 * len(taken) > len(seen) else Given(before, [])
        seen.add(block.names[0])
        lines = _lines_then(program, block.first, block.last)
        if lines is None:
            continue
        method = MethodPlan(block.routine, block.names[0], lines=lines, why="a branch of a long chain")
        with suppress(RefusedError):
            program = block_attached(program, class_name, method)
            taken.append(method)


def _own_class(program: Program, name: str) -> Scope | None:
    return next((scope for scope in program.main.classes if scope.name == name), None)


def _lines_then(program: Program, first: int, last: int) -> tuple[int, int] | None:
    """Some lines in the script as it was read."""
    found = program.original_lines(first, last)
    now = program.lines_now(program.main.path, *found) if found is not None else None
    return found if found is not None and now is not None and _of_each(program, found, now) == (first, last) else None


def _of_each(program: Program, lines: tuple[int, int], now: tuple[int, int]) -> tuple[int, int]:
    """Where some lines stand now; of one line that has become a loop, where that says what is done with each thing."""
    module, line_of = program.main, program.main.source.line_of
    is_one = lines[0] == lines[1]
    loops = (s for s in module.walk() if s.kind is Kind.EACH and line_of(s.start) == now[0]) if is_one else ()
    inner = next((loop.blocks[0].statements for loop in loops), [])
    if not inner or line_of(inner[0].start) == now[0]:
        return now
    return line_of(inner[0].start), line_of(inner[-1].end - 1)


def answer_attached(program: Program, class_name: str, method: MethodPlan) -> Program:
    """The program with a method that answers whether its routine is to go on; a short rest goes where it is called.

    Raises:
        RefusedError: the routine cannot be divided there, or is not about one object of the class.
    """
    assert method.lines is not None
    path, module, naming = program.main.path, program.main, program.dialect.naming
    first, last = lines_now(program, method.lines)
    routine = routine_at(module, first)
    function = module.function(routine)
    lines = (module.source.line_of(s.start) for s in function.body.walk()) if function is not None else ()
    rest = next((line for line in lines if line > last), last)
    name = free_name(module, naming.joined(method.name, naming.member_name(words_of(class_name))))
    divided = perform(program, Answer(path, routine, rest, name))
    attached = perform(divided, Attach(path, class_name, (NewMethod(name, method.name),)))
    return _put_in_place(attached, routine) if is_short_step(attached.main, routine) else attached


def _put_in_place(program: Program, routine: str) -> Program:
    """The program with a routine in the place of its call, if that can be done and all state stays shared."""
    try:
        made = perform(program, Inline(program.main.path, routine))
    except RefusedError:
        return program
    shared = [{symbol.name for symbol in MainCode.of(p.main).fields} for p in (program, made)]
    return made if shared[0] == shared[1] else program


def block_attached(program: Program, class_name: str, method: MethodPlan) -> Program:
    """The program with some lines as a method of a class.

    Raises:
        RefusedError: they cannot be carved, or are not about one object of the class.
    """
    assert method.lines is not None
    path, naming = program.main.path, program.dialect.naming
    first, last = _of_each(program, method.lines, lines_now(program, method.lines))
    around = method_at(program.main, first)
    if around is not None and around.symbol.scope.name == class_name:
        return perform(program, Carve(path, around.qualified_name, first, last, method.name, values=method.values))
    name = free_name(program.main, naming.joined(method.name, naming.member_name(words_of(class_name))))
    carve = Carve(path, routine_at(program.main, first), first, last, name, values=method.values)
    carved = _with_common_result(perform(program, carve), name)
    return attached(carved, class_name, [MethodPlan(name, method.name)])


def _with_common_result(program: Program, routine: str) -> Program:
    """The program with what a function hands back called in it by what all names for that have in common."""
    module = program.main
    given: dict[str, None] = {}
    for statement in module.walk():
        pairs = statement.assignment.pairs if statement.assignment is not None else ()
        calls = {call.span for call in statement.calls if call.callee is not None and call.callee.name == routine}
        given |= {pair.target.name: None for pair in pairs if pair.value.span in calls}
    function, common = module.function(routine), program.dialect.naming.member_name(common_words(list(given)))
    own = next((name for name in given if function is not None and name in function.scope.symbols), "")
    return attempted(program, Rename(module.path, f"{routine}.{own}", common)) if own and common else program


def _handed(program: Program, class_name: str, routine: str) -> Program:
    """The program with a function that is handed what it draws on, writes to or only reads.

    Raises:
        RefusedError: it cannot be.
    """
    module, path = program.main, program.main.path
    function, scope = module.function(routine), class_of(module, class_name)[1]
    if function is None:
        return program
    own = object_of(module, function, scope)
    lent = object_lent(module, function, scope) if own is None else None
    if lent is not None:
        parameter = parameter_for(module, function, lent, lent.name)
        return _handed(perform(program, Inject(path, routine, lent.name, None, parameter)), class_name, routine)
    if own is None:
        return program
    for symbol in handed_to(module, function, own) or ():
        parameter = parameter_for(module, function, symbol, symbol.name)
        program = perform(program, Inject(path, routine, symbol.name, None, parameter))
    return program


def tried(program: Program, class_name: str, methods: Sequence[MethodPlan]) -> Program | None:
    """The program with functions as methods of a class; None where that cannot be done."""
    try:
        return attached(program, class_name, methods)
    except RefusedError:
        return None


def one_by_one(program: Program, class_name: str, methods: Sequence[MethodPlan]) -> Program:
    """The program with functions as methods of a class, each by a move of its own.

    Raises:
        RefusedError: one of them cannot be.
    """
    for method in methods:
        program = attached(program, class_name, [method])
    return program


def attached(program: Program, class_name: str, methods: Sequence[MethodPlan]) -> Program:
    """The program with functions as methods of a class: of the object that they are given, or else that they use.

    Raises:
        RefusedError: one of them cannot be.
    """
    path = program.main.path
    for method in methods:
        program = _handed(program, class_name, method.routine)
    module = program.main
    scope = class_of(module, class_name)[1]
    by_object: dict[str | None, list[NewMethod]] = {}
    for method in methods:
        function = module.function(method.routine)
        is_given = function is None or object_parameter(module, function, scope) is not None
        used = None if function is None or is_given else object_used(module, function, scope)
        by_object.setdefault(used.name if used is not None else None, []).append(NewMethod(method.routine, method.name))
    for name, found in by_object.items():
        new = tuple(found)
        program = perform(program, Adopt(path, class_name, name, new) if name else Attach(path, class_name, new))
    return program
