"""Giving a member of a class another name, which `rename` and `seal` both do."""

from __future__ import annotations

from aedifex.moves.kit.move import Objections
from aedifex.moves.kit.rewriting import Renamed, Rewriting
from aedifex.program.analysis.holding.holding import Whole
from aedifex.program.analysis.holding.inference import Holdings
from aedifex.program.analysis.members import Members
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.model.expressions import Sense
from aedifex.source.text import Span
from aedifex.survey.kinds.objects import class_of_objects


def why_not_renamed(members: Members, old: str, new: str) -> str | None:
    """Why a member cannot get another name, in a plain sentence, or None."""
    home = members.scope.name
    if old not in members.fields and old not in members.methods:
        return f"{home} has no member `{old}`"
    if not members.is_plain:
        return f"{home} inherits or is inherited from, so `{old}` may be used where it cannot be seen"
    if members.strangers(old) > 0:
        return f"`.{old}` is also used on objects that may or may not be of {home}"
    if new in members.fields or new in members.methods or members.mentions(new) or not _is_of_others(members, new):
        return f"a member `{new}` is in use already"
    if members.module.dialect.rules.has_meaning(old):
        return f"`{old}` has a meaning of its own in the language"
    if old in members.methods and any(r.scope is members.scope and not r.mode.writes for r in members.scope.uses):
        return f"the body of {home} uses its own names"
    if members.all.are_looked_up_by_text or is_seen_whole(members):
        return f"`{old}` may be reached by its text"
    return None


def _is_of_others(members: Members, name: str) -> bool:
    """Whether each mention of a member is certainly one of another class."""
    if members.strangers(name) == 0:
        return True
    elsewhere = (module for module in members.program.modules.values() if module is not members.module)
    if any(step.name == name for module in elsewhere for r in module.references for step in r.path):
        return False
    holdings, trees = Holdings.of(members.module), Surroundings.of(members.module).trees
    asked = [e for tree in trees for e in tree.walk() if e.sense is Sense.MEMBER and e.name == name]
    held = [holdings.of_expression(e.parts[0]) for e in asked]
    homes = {class_of_objects(holdings, each) for each in held}
    own = holdings.instance_of(members.scope)
    is_kept = own.lost is None and own.foreign is None and own not in held  # nobody else can have one
    return len(asked) >= members.strangers(name) and members.scope not in homes and (None not in homes or is_kept)


def is_seen_whole(members: Members) -> bool:
    """Whether others are given objects of a class, and may ask for what they have, or write it down by its names.

    So does who asks an object for a member by a key.
    """
    if not members.module.dialect.rules.keys_are_members:
        return False
    holdings = Holdings.of(members.module)
    held = holdings.instance_of(members.scope)
    if held.lost is not None or any(whole in (Whole.WRITTEN, Whole.LOOK) for whole, _ in held.wholes):
        return True
    asked = (e for tree in Surroundings.of(members.module).trees for e in tree.walk() if e.sense is Sense.PART)
    return any(members.scope in holdings.of_expression(e.parts[0]).classes for e in asked)


def member_objections(objections: Objections, members: Members, old: str, new: str) -> None:
    """Note why a member cannot get another name."""
    reason = why_not_renamed(members, old, new)
    if reason is not None:
        objections.add(members.statement.start, reason, "Choose another name, or leave it as it is.")


def rename_member(rewriting: Rewriting, members: Members, old: str, new: str) -> None:
    """Write the new name wherever the member is mentioned, and where the class defines it."""
    for mention in members.mentions(old):
        path = rewriting.paths.get(mention.reference, tuple(step.name for step in mention.reference.path))
        rewriting.paths[mention.reference] = (*path[: mention.at], new, *path[mention.at + 1 :])
        at = mention.access.end - len(old.encode())
        rewriting.changes.replace(mention.module.path, Span(at, mention.access.end), new)
    symbol = members.scope.symbols.get(old)
    for reference in symbol.references if symbol is not None else ():
        rewriting.changes.replace(members.module.path, reference.span, new)
        rewriting.destinations[reference] = Renamed(new)
        rewriting.spans[reference] = reference.span
