"""How prototypes are made after others by hand, and functions called on an object that others have made."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.written import BaseCall, Inheritance
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import AccessKind, Mode, Origin, Reference
from aedifex.program.model.statements import Call, Statement, call_of
from aedifex.source.text import Span

_PAIR = 2


def inheritances(module: Module) -> Sequence[Inheritance]:
    """Those of a file: `Object.create` as a prototype, and `Object.setPrototypeOf` of one."""
    return list(_found(module)) if b"new.target" not in module.source.parse_view else []


def _found(module: Module) -> Iterator[Inheritance]:
    for tree in Surroundings.of(module).trees:
        statement = tree.statement
        if statement is None or statement.block is not module.block:
            continue
        if tree.sense is Sense.SET and len(tree.parts) == _PAIR:
            made = _made_after(statement, *tree.parts)
        elif tree.sense is Sense.ALONE:
            made = _set_after(statement, tree.parts[0])
        else:
            made = None
        if made is not None:
            yield made


def _made_after(statement: Statement, target: Expression, value: Expression) -> Inheritance | None:
    """`Heir.prototype = Object.create(Base.prototype)`, perhaps with a table that says what makes them."""
    heir, given = _whose_prototype(target), _given(value, "create")
    base = _whose_prototype(given[0]) if given else None
    if heir is None or base is None or len(given) > _PAIR:
        return None
    says_maker = len(given) == _PAIR
    if says_maker and not _says_only_maker(given[1], heir):
        return None
    return Inheritance(statement, heir, base, replaces=True, says_maker=says_maker)


def _set_after(statement: Statement, call: Expression) -> Inheritance | None:
    """`Object.setPrototypeOf(Heir.prototype, Base.prototype)`."""
    given = _given(call, "setPrototypeOf")
    if len(given) != _PAIR:
        return None
    heir, base = map(_whose_prototype, given)
    return Inheritance(statement, heir, base, replaces=False, says_maker=True) if heir and base else None


def _whose_prototype(expression: Expression) -> Reference | None:
    is_prototype = expression.sense is Sense.MEMBER and expression.name == "prototype"
    return expression.parts[0].reference if is_prototype else None


def _given(value: Expression, name: str) -> list[Expression]:
    """What a call of a function of `Object` is given; nothing where it is no such."""
    callee = value.parts[0] if value.sense is Sense.CALL else None
    if callee is None or callee.sense is not Sense.MEMBER or callee.name != name:
        return []
    owner = callee.parts[0].reference
    is_builtin = owner is not None and owner.name == "Object" and owner.symbol.origin is Origin.BUILTIN
    return value.parts[1:] if is_builtin else []


def _says_only_maker(table: Expression, heir: Reference) -> bool:
    """`{ constructor: { value: Heir, … } }`."""
    if table.sense is not Sense.TABLE or [key.name for key in table.parts[::2]] != ["constructor"]:
        return False
    about = table.parts[1]
    keys = [key.name for key in about.parts[::2]] if about.sense is Sense.TABLE else []
    reference = about.parts[keys.index("value") * 2 + 1].reference if "value" in keys else None
    return reference is not None and reference.symbol is heir.symbol


def base_call(module: Module, function: Reference) -> BaseCall | None:
    """`Base.call(this, …)`, `Base.prototype.member.call(this, …)`, or the same by `apply(this, arguments)`."""
    steps = [step.name or "" for step in function.path if step.kind is AccessKind.ATTRIBUTE]
    call = call_of(function) if function.path_mode is Mode.CALL and len(steps) == len(function.path) else None
    if call is None or call.inside is None or not call.arguments or steps[-1] not in ("call", "apply"):
        return None
    owners, hands_on = steps[:-1], steps[-1] == "apply"
    if owners and (len(owners) != _PAIR or owners[0] != "prototype"):
        return None
    receiver, *given = [_named(module, call, number) for number in range(len(call.arguments))]
    if receiver is None or receiver.name != "this":
        return None
    if hands_on and [name and name.name for name in given] != ["arguments"]:
        return None
    end = call.arguments[1].start if given else call.inside.end
    return BaseCall(function, receiver, call, Span(call.start, end), owners[1] if owners else "", hands_on)


def _named(module: Module, call: Call, number: int) -> Reference | None:
    """The name that an argument is, and nothing else."""
    argument = call.arguments[number]
    reference = module.reference_at.get(argument.start)
    return reference if reference is not None and reference.span == argument.span and not argument.stars else None
