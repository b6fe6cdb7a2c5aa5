"""Where members of a class, or its objects, may be used unseen."""

from __future__ import annotations

from collections.abc import Iterator

from aedifex.moves.kit.member_names import is_seen_whole
from aedifex.program.analysis.members import Members
from aedifex.program.model.statements import Function


def hidden_uses(members: Members) -> Iterator[str]:
    """Why members of a class cannot go to another one: plain sentences."""
    home, dialect = members.scope.name, members.module.dialect
    rules, own = dialect.rules, (symbol.name for symbol in members.scope.symbols.values() if symbol.bindings)
    if any(rules.customises_access(name) and not rules.is_constructor(name) for name in own):
        yield f"{home} itself decides how its members are reached or copied"
    if members.all.are_looked_up_by_text or is_seen_whole(members):
        yield f"members of {home} may be reached by their text"
    copying = next((name for name in members.program.imported if dialect.library.copies_objects(name)), None)
    if copying is not None:
        yield f"objects of {home} may be copied or stored with `{copying}`"


def is_used_by_class(members: Members, function: Function) -> bool:
    """Whether the body of a class itself uses the name of one of its methods, or gives it to something else as well."""
    used = any(use.name == function.name and not use.mode.writes for use in members.scope.uses)
    return used or len(function.symbol.bindings) != 1
