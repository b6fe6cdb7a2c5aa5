"""Objects that are written out with functions of their own, as a language spells them."""

from __future__ import annotations

from dataclasses import dataclass

from aedifex.program.model.names import Reference
from aedifex.program.model.statements import Call, Statement
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


@dataclass(frozen=True)
class Inheritance:
    """A statement by which objects that a function makes share all that those of another have in common.

    `heir` and `base` are the uses of both there. Where it `replaces` what the heir's had in common, nothing of that is
    left; `says_maker` tells that an object still says afterwards what made it.
    """

    statement: Statement
    heir: Reference
    base: Reference
    replaces: bool
    says_maker: bool


@dataclass(frozen=True)
class BaseCall:
    """A call of a function on the receiver of the routine around it, or of a `member` that hangs on that function.

    `use` is that of the function, `head` spans all that stands before what is given, and `hands_on` tells that this is
    whatever its own routine was given.
    """

    use: Reference
    receiver: Reference
    call: Call
    head: Span
    member: str
    hands_on: bool
