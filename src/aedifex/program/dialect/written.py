"""Objects that are written out with functions of their own, as a language spells them."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.source.text import Span


@dataclass(frozen=True)
class WrittenMember:
    """One member of an object that is written out: what it holds, or a routine that begins at `routine`.

    Where it is `worked_out` by the routine, nobody calls that, and one of the same name may say what setting it does.
    `whole` spans it without what parts it from the next, `named` its name, `value` what it holds, where it holds
    something: the same as `named` where a variable of that name is meant.
    """

    name: str
    whole: Span
    named: Span
    value: Span | None = None
    routine: int | None = None
    worked_out: bool = False
