"""Classes around a file that functions read and write: what they share is where it is."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import PurePath

from aedifex.design.document.design import ClassPlan, FieldPlan, MethodPlan
from aedifex.design.drafting.naming import Names, strip_nouns
from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.talk import Talk
from aedifex.program.analysis.values import only_value
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Symbol
from aedifex.program.model.statements import Function
from aedifex.program.structure.obstacles import function_obstacles, variable_obstacles
from aedifex.program.structure.state import Constants, is_state
from aedifex.survey.words import nouns_of, singular

_FEWEST = 2
_FIELD = "path"
_FILE = "file"
_PLAIN = frozenset("file path name filename db data json save my the".split())


@dataclass(frozen=True)
class KeptFile:
    """A constant that says where a file is, what it says, and the functions that do nothing but to work with that."""

    symbol: Symbol
    path: str
    functions: tuple[Function, ...]


def kept_files(module: Module) -> Iterator[KeptFile]:
    """The files that several functions read and write in silence, and nothing else knows where they are."""
    constants = Constants.of(module)
    for symbol in module.scope.symbols.values():
        if not is_state(symbol) or not constants.settles(symbol) or variable_obstacles(module, symbol):
            continue
        only = only_value(symbol)
        path = module.dialect.writer.text_value(module.source.slice(only.value.span)) if only is not None else None
        functions = _users(module, symbol)
        is_own = not module.is_known_outside(symbol.name) and len(only.pairs if only is not None else ()) == 1
        if path and is_own and len(functions) >= _FEWEST and _is_opened(module, symbol):
            yield KeptFile(symbol, path, tuple(functions))


def _users(module: Module, symbol: Symbol) -> list[Function]:
    """The functions that a constant is read in; none where other code reads it too, or they do other things."""
    found: dict[Function, None] = {}
    for reference in (r for r in symbol.references if not r.binds):
        home = next((f for f in module.functions if reference.scope is f.scope), None)
        if home is None or reference.form is Form.DECLARATION or not _is_silent(module, home, symbol):
            return []
        found[home] = None
    return list(found)


def _is_silent(module: Module, function: Function, symbol: Symbol) -> bool:
    touched = Effects.of(module).transitive[function].touches - {symbol}
    is_free = not any(is_state(other) for other in Constants.of(module).changing(touched))
    return is_free and function not in Talk.of(module).routines and not function_obstacles(module, function)


def _is_opened(module: Module, symbol: Symbol) -> bool:
    """Whether a file is opened under a name."""
    surroundings = Surroundings.of(module)
    for reference in symbol.references:
        name = surroundings.of_reference(reference)
        call = surroundings.around(name) if name is not None else None
        callee = call.parts[0].reference if call is not None and call.sense is Sense.CALL else None
        if callee is not None and callee.is_builtin and module.dialect.library.opens_file(callee.name):
            return True
    return False


def file_plan(kept: KeptFile, module: Module, names: Names) -> ClassPlan | None:
    """The class of a file; None where no name is free for its object."""
    naming = module.dialect.naming
    words = [word for word in nouns_of(PurePath(kept.path).stem) if word not in _PLAIN and word.isalpha()]
    words = words or [word for word in nouns_of(kept.symbol.name) if word not in _PLAIN]
    title = [*map(singular, words[-1:]), _FILE]
    instance = names.instance(naming.member_name(title), [kept.symbol])
    if instance is None:
        return None
    plan = ClassPlan(names.class_name(title), names.file(naming.member_name(title)), instance)
    listed = " and ".join(function.name for function in kept.functions)
    plan.why = f"{listed} work with one file, and share only where it is"
    plan.fields.append(FieldPlan(kept.symbol.name, _FIELD, "argument", why="says where the file is"))
    taken = {_FIELD}
    for function in kept.functions:
        name = strip_nouns(function.name, set(title), taken, module, is_method=True)
        taken.add(name)
        plan.methods.append(MethodPlan(function.name, name, why=f"uses {kept.symbol.name}"))
    return plan
