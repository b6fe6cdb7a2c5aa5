"""Making a program ready for a design: its state becomes module variables, which can be named and moved."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from aedifex.construction.closed import with_closed_modules
from aedifex.construction.data import with_data
from aedifex.construction.kind_building import with_kinds
from aedifex.construction.parts import with_parts
from aedifex.design.dividing.loop_body import LONG_TURN, longest_loop
from aedifex.design.dividing.names_from_calls import called_alone
from aedifex.design.document.design import Design
from aedifex.moves.ask_event import AskEvent, asking
from aedifex.moves.close_over import CloseOver, is_for_closing
from aedifex.moves.compose import Compose
from aedifex.moves.declare import Declare, is_for_declaring
from aedifex.moves.derive import Derive
from aedifex.moves.embody import Embody
from aedifex.moves.enclose import enclosed
from aedifex.moves.front import Front
from aedifex.moves.fuse import Fuse, choices_of_additions
from aedifex.moves.hoist import Hoist, chains_that_leave
from aedifex.moves.inherit import Inherit, made_rows
from aedifex.moves.join import Join
from aedifex.moves.kit.binding_check import attempted, perform
from aedifex.moves.kit.handlers import handlers
from aedifex.moves.kit.move import Move
from aedifex.moves.loosen import Loosen, loose_names, tables
from aedifex.moves.name_callback import NameCallbacks
from aedifex.moves.name_handlers import NameHandlers, nameless_handlers
from aedifex.moves.name_main import NameMain, nameless_main
from aedifex.moves.narrow import Narrow
from aedifex.moves.pool import Pool
from aedifex.moves.prefix import with_prefix
from aedifex.moves.register import Register
from aedifex.moves.remark import Remark, loose_texts
from aedifex.moves.respell import Respell, is_for_respelling
from aedifex.moves.separate import Separate
from aedifex.moves.settle import Settle
from aedifex.moves.share_file import ShareFile
from aedifex.moves.split import Split, variables_of_loops
from aedifex.moves.unfold import Unfold, unfolds
from aedifex.moves.unload import Unload
from aedifex.program.model.module import Module
from aedifex.program.model.program import Program
from aedifex.program.model.statements import Sort, Statement
from aedifex.program.structure.announcements import Announcements
from aedifex.program.structure.fronts import Fronts
from aedifex.program.structure.main_code import MainCode
from aedifex.program.structure.passing_values import PassingValues
from aedifex.program.structure.routes import Routes
from aedifex.program.structure.shared_modules import shared_modules
from aedifex.program.structure.state import Constants, state
from aedifex.source.errors import RefusedError
from aedifex.survey.kinds.carried import Carried
from aedifex.survey.kinds.columns import column_kinds
from aedifex.survey.kinds.file_uses import file_uses
from aedifex.survey.kinds.hand_made import HandMadeClasses
from aedifex.survey.kinds.lone_objects import LoneObjects
from aedifex.survey.kinds.objects import object_parameter
from aedifex.survey.kinds.twins import twin_kinds
from aedifex.survey.repeated_data import excerpts, repeated_data


def prepared(program: Program, design: Design | None = None) -> Program:
    """The program that designs are drafted for and carried out on; the same where nothing is in the way of that.

    Classes of the script are divided, and what occurs several times has become a class, where a design says so.

    Raises:
        DesignError: the script has no such classes or kinds.
        RefusedError: a class cannot be divided, or a kind cannot become one.
    """
    ready = opened(program)
    if design is not None and design.prefix:
        ready = with_prefix(ready, design.prefix)
    if design is not None and design.has_fronts:
        ready = with_fronts(ready)
    if design is not None:
        ready = with_data(with_kinds(with_parts(ready, design), design), design)
    return loosened(ready)


def opened(program: Program) -> Program:
    """The program with what one routine or a guard keeps to itself at the top level, and its handlers named."""
    program = _joined(_remarked(_with_main_named(program)))
    while unfolds(program.main):
        try:
            program = perform(program, Unfold(program.main.path))
        except RefusedError:
            break
    program = _narrowed(_registered(_declared(enclosed(_registered(_declared(program))))))
    if is_for_respelling(program.main):
        program = attempted(program, Respell(program.main.path))
    if any(asking(program.main)):
        program = attempted(program, AskEvent(program.main.path))
    if program.dialect.rules.keys_are_members:  # else an object that is the state would be a thing
        program = _with_loose_tables(program)
    program = _composed(program)
    if any(nameless_handlers(program.main)):
        program = attempted(program, NameHandlers(program.main.path))
    if any(handlers(program.main)):
        program = attempted(program, NameCallbacks(program.main.path))
    if is_for_closing(program.main):
        program = attempted(program, CloseOver(program.main.path))
    return _hoisted(
        _settled(_with_fused_choices(_with_lists_apart(_pooled(_with_heirs(_unloaded(_with_shared_files(program)))))))
    )


def _with_main_named(program: Program) -> Program:
    """The program with a name for the function that it is, where that has none."""
    return attempted(program, NameMain(program.main.path)) if nameless_main(program.main) is not None else program


def _declared(program: Program) -> Program:
    """The program with a declaration for each of its variables, in a language that has some."""
    return attempted(program, Declare(program.main.path)) if is_for_declaring(program.main) else program


def _narrowed(program: Program) -> Program:
    """The program with variables of its own for each routine, where they are no more than paper to work on."""
    passing = PassingValues.of(program.main)
    copies = {symbol for kind in twin_kinds(program.main) for symbol in kind.variables if not kind.is_single}
    wanted = [s for s in passing.found if s not in copies and passing.is_scratch(s)]
    if set(Constants.of(program.main).changing(state(program.main))) <= set(wanted):
        return program  # a script without state has nothing to gather
    for name in [symbol.name for symbol in wanted]:
        program = attempted(program, Narrow(program.main.path, name))
    return program


def _composed(program: Program) -> Program:
    """The program with a class for each function, and each object, that is one but for its form."""
    program = with_closed_modules(program)
    for made in HandMadeClasses.of(program.main).found:
        program = attempted(program, Compose(program.main.path, made.function.name))
    for lone in LoneObjects.of(program.main).found:
        program = attempted(program, Embody(program.main.path, lone.symbol.name))
    return program


def with_fronts(program: Program) -> Program:
    """The program with fronts for the functions that a library finds by their names; the same where it has none."""
    return attempted(program, Front(program.main.path)) if Fronts.of(program.main).wanted else program


def _unloaded(program: Program) -> Program:
    """The program with variables for what it hangs on single objects of a library."""
    for symbol in Carried.of(program.main).values:
        program = attempted(program, Unload(program.main.path, symbol.name))
    return program


def _with_shared_files(program: Program) -> Program:
    """The program with functions for what others each read from a file, or write to it."""
    for opened in file_uses(program.main):
        program = attempted(program, ShareFile(program.main.path, opened))
    return program


def _with_heirs(program: Program) -> Program:
    """The program with classes of its own for rows with names that functions are about."""
    for name in [symbol.name for symbol, _, _ in made_rows(program.main)]:
        after = attempted(program, Inherit(program.main.path, name))
        scope = next((scope for scope in after.main.classes if scope.name == name), None)
        if scope is not None and any(object_parameter(after.main, f, scope) for f in after.main.functions):
            program = after
    return program


def _settled(program: Program) -> Program:
    """The program with its plain first values above what it says before its main loop."""
    return attempted(program, Settle(program.main.path)) if Announcements.of(program.main).behind else program


def _remarked(program: Program) -> Program:
    """The program with comments for the texts that stand between its statements, as it was read.

    What a main function begins with comes to stand there later, and describes the class that is made of it.
    """
    is_as_read = program.origin is program
    return attempted(program, Remark(program.main.path)) if is_as_read and any(loose_texts(program.main)) else program


def _joined(program: Program) -> Program:
    """The program with the files that share their state with the script in it."""
    return attempted(program, Join(program.main.path)) if shared_modules(program) else program


def _pooled(program: Program) -> Program:
    """The program with data that functions write out, each for itself, in one place."""
    refused: set[Move] = set()
    while True:
        move = next((m for m in _poolings(program) if m not in refused), None)
        if move is None:
            return program
        refused.add(move)
        try:
            program = perform(program, move)
        except RefusedError:
            continue


def _poolings(program: Program) -> Iterator[Move]:
    """What could be done for data that is written out again."""
    path = program.main.path
    yield from (Pool(path, writings[0].symbol.name) for writings in repeated_data(program.main))
    yield from (Derive(path, excerpt.writing.symbol.name) for excerpt in excerpts(program.main))


def _registered(program: Program) -> Program:
    """The program with its handlers of requests told to their application by statements."""
    return attempted(program, Register(program.main.path)) if Routes.of(program.main).hooks else program


def _with_lists_apart(program: Program) -> Program:
    """The program with a line for each of the lists that one assignment makes: they may be side by side."""
    lines = [program.main.source.line_of(s.start) for s in program.main.block.statements if _makes_lists(s)]
    for line in reversed(lines):
        program = attempted(program, Separate(program.main.path, line))
    return program


def _with_fused_choices(program: Program) -> Program:
    """The program with one addition for what a choice adds to a list, where others are filled beside it."""
    for choice in reversed(list(choices_of_additions(program.main))):
        after = attempted(program, Fuse(program.main.path, program.main.source.line_of(choice.statement.start)))
        found = (kind for kind in column_kinds(after.main) if not kind.obstacles)
        if any(choice.filled.name in kind.names for kind in found):
            program = after
    return program


def _makes_lists(statement: Statement) -> bool:
    pairs = statement.assignment.pairs if statement.assignment is not None else ()
    return len(pairs) > 1 and all(pair.value.sort is Sort.LIST for pair in pairs)


def _hoisted(program: Program) -> Program:
    """The program with the tests that end a long main loop by themselves, so that what is behind can be cut out."""
    refused = set[int]()
    while True:
        module = program.main
        chains = (
            chain for loop in _long_loops(program) for chain in chains_that_leave(module, loop.blocks[0].statements)
        )
        lines = (module.source.line_of(chain.start) for chain in chains)
        line = next((line for line in lines if line not in refused), None)
        if line is None:
            return program
        try:
            program = perform(program, Hoist(module.path, line))
        except RefusedError:
            refused.add(line)


def _long_loops(program: Program) -> Iterator[Statement]:
    """The long main loops: of the main code, and of the functions that it does nothing with but to call them."""
    module, run = program.main, MainCode.of(program.main).run
    called = [module.function(called_alone(statement)) for statement in run]
    for statements in (run, *(function.deeds for function in called if function is not None)):
        loop = longest_loop(statements)
        if loop is not None and loop.blocks[0].statements and _line_count(module, loop) > LONG_TURN:
            yield loop


def _line_count(module: Module, statement: Statement) -> int:
    return len(module.source.slice(statement.span).splitlines())


def loosened(program: Program) -> Program:
    """The program with a variable for each part of the tables that are its state, and names apart for its loops."""
    program = _with_loose_tables(program)
    for symbol in list(variables_of_loops(program.main)):
        program = attempted(program, Split(program.main.path, symbol.name))
    return program


def _with_loose_tables(program: Program) -> Program:
    has_members = program.dialect.rules.keys_are_members
    for table in [symbol.name for symbol in tables(program.main)]:
        names = loose_names(program.main, program.main.scope.symbols[table])
        try:
            after = perform(program, Loosen(program.main.path, table))
        except RefusedError:
            continue
        spellings = {name: f"{table}.{key}" if has_members else f'{table}["{key}"]' for key, name in names.items()}
        program = replace(after, spellings={**program.spellings, **spellings})
    return program


def table_and_key(spelling: str) -> tuple[str, str]:
    """The table and the key of which a variable's spelling tells, as `state["turn"]` or `state.turn`."""
    table, _, key = spelling.removesuffix('"]').replace('["', ".").partition(".")
    return table, key


def why_not_joined(program: Program) -> RefusedError | None:
    """Why files that share their state with the script of a prepared program stay apart."""
    return _refusal(program, Join(program.main.path)) if shared_modules(program) else None


def why_not_fronted(program: Program) -> RefusedError | None:
    """Why what is found by its name in a prepared program does not hand on to other functions."""
    fronts = Fronts.of(program.main)
    if fronts.wanted:
        return _refusal(program, Front(program.main.path))
    if fronts.unable is None:
        return None
    name, who = fronts.unable.name, program.main.found_by_name[fronts.unable.name]
    return RefusedError(
        f"`{name}` is found by its name by {who}, and no other function could hand on to it",
        program.main.source.place(fronts.unable.statement.start),
        "It waits, is decorated, or asks for all that it is given: write that in another way.",
    )


def why_not_registered(program: Program) -> RefusedError | None:
    """Why the decorators of a prepared program's handlers stay as they are."""
    return _refusal(program, Register(program.main.path)) if Routes.of(program.main).hooks else None


def why_not_unfolded(program: Program) -> RefusedError | None:
    """Why the function that is the whole of a prepared program, or the code behind its guard, stays as it is."""
    return _refusal(program, Unfold(program.main.path)) if unfolds(program.main) else None


def _refusal(program: Program, move: Move) -> RefusedError | None:
    try:
        perform(program, move)
    except RefusedError as error:
        return error
    return None
