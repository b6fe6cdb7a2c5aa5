"""What names mean to a language itself."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

from aedifex.program.dialect.written import BaseCall, Inheritance, WrittenMember
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Call, Function, Routine, Statement, Value
from aedifex.source.text import Span


class Rules(Protocol):
    """The rules of one language that upper layers ask about.

    `binds_anew` tells that a method is another value each time it is fetched from its object, `runs_by_events` that a
    program goes on when its text has been carried out, for what it has handed out is called; `has_functions_early` that
    functions are there before the statements that declare them, `ends_silently` that a list gives nothing where it is
    asked for what is behind its end; `base_comes_first` that an object is there for its constructor when that of its
    base has been called; `keys_are_members` that what a table holds under a plain key is its member of that name, and
    that two tables are equal where they are one; `lets_go_at_once` that an object ends when nobody holds it any more;
    `calls_tell_owner` that a function which is called as a member is told of which object, wherever it is from;
    `constructor` is the name of the method that sets up a new object, `name_attribute` and `doc_attribute` those of
    what tells a function's name and description, `count_attribute` that of what tells how much it takes,
    `full_name_attributes` those by which a method's name is always another than a function's, `many_have_names`
    that things of other sorts have their names there, too; `calls_for_each` that by which a list hands each of its
    things to a routine, where its loops are no more usual, `entry` that of the routine with which people start a
    program. Through `reaches_base` a method gets at what its class inherits. What hangs on a function's member
    `methods_hang_on` is a method of all objects that are made by the function, "" where there is no such.
    """

    constructor: str
    methods_hang_on: str
    binds_anew: bool
    runs_by_events: bool
    has_functions_early: bool
    ends_silently: bool
    base_comes_first: bool
    keys_are_members: bool
    lets_go_at_once: bool
    calls_tell_owner: bool
    calls_for_each: str
    entry: str
    name_attribute: str
    full_name_attributes: frozenset[str]
    many_have_names: bool
    doc_attribute: str
    count_attribute: str
    reaches_base: str

    def is_name(self, text: str) -> bool:
        """Whether a text can be a name of the user's own."""
        ...

    def is_taken(self, name: str) -> bool:
        """Whether the language or its builtins use a name already."""
        ...

    def is_taken_as_member(self, name: str) -> bool:
        """Whether a member is better not called so, as the language uses the name."""
        ...

    def is_directive(self, comment: str) -> bool:
        """Whether a comment, without its mark, speaks to an editor or a tool."""
        ...

    def is_reserved(self, name: str) -> bool:
        """Whether a name has a meaning of its own, so that no design may choose it."""
        ...

    def is_private(self, name: str) -> bool:
        """Whether a name means something else inside a class than outside."""
        ...

    def has_meaning(self, name: str) -> bool:
        """Whether the language gives a member of this name a meaning of its own."""
        ...

    def is_kept_outside(self, module: Module, symbol: Symbol) -> bool:
        """Whether what runs the script keeps a variable of that name, and may make something else of its values."""
        ...

    def is_of_world(self, name: str) -> bool:
        """Whether what runs scripts has something of that name, which a variable at the top level would be or hide."""
        ...

    def calls_once(self, module: Module, statement: Statement) -> bool:
        """Whether what a statement hands on is called once in a run, or never."""
        ...

    def makes_object(self, module: Module, function: Reference) -> bool:
        """Whether a function is called as a class is, so that it must stay one."""
        ...

    def asks_kind(self, module: Module, function: Reference) -> bool:
        """Whether it is asked here whether something was made by a function."""
        ...

    def is_closed_over(self, module: Module, routine: Routine) -> bool:
        """Whether a routine that has a receiver could be written as one that has that of what is around it."""
        ...

    def members_written(self, module: Module, value: Span) -> Sequence[WrittenMember] | None:
        """The members of an object that is written out; None where it is none, or what it has cannot be told."""
        ...

    def inheritances(self, module: Module) -> Sequence[Inheritance]:
        """The top-level statements by which functions that make objects inherit from others, by hand."""
        ...

    def base_call(self, module: Module, function: Reference) -> BaseCall | None:
        """The call that a use of a function is, on the receiver of the routine around it; None where it is none."""
        ...

    def is_bound_for_good(self, module: Module, value: Value) -> bool:
        """Whether a value is a function that is called on one object, however it is called."""
        ...

    def has_receiver(self, module: Module, routine: Routine) -> bool:
        """Whether a routine that is no method is given an object when it is called as one."""
        ...

    def walks_over_names(self, module: Module) -> int | None:
        """Where in a file the names of an object's members are gone through, those of all objects of its kind, too."""
        ...

    def shows_maker(self, module: Module) -> int | None:
        """Where in a file it may be shown, or asked, what made an object."""
        ...

    def is_there_early(self, module: Module, symbol: Symbol) -> bool:
        """Whether a variable can be asked for its value before the statement that declares it."""
        ...

    def hands_on(self, function: Reference) -> bool:
        """Whether a member of a function is used that does with it what calls do: a method has it as well."""
        ...

    def is_constructor(self, name: str) -> bool:
        """Whether a method of this name has to do with setting up a new object."""
        ...

    def begins_base(self, module: Module, call: Call) -> bool:
        """Whether a call in a constructor lets that of what its class comes from set up the object."""
        ...

    def is_finalizer(self, name: str) -> bool:
        """Whether a method of this name runs when an object goes."""
        ...

    def is_implicit_method(self, name: str) -> bool:
        """Whether the language itself calls methods of this name."""
        ...

    def is_root_class(self, name: str) -> bool:
        """Whether a class of this name is what every class inherits from anyway."""
        ...

    def is_place_name(self, name: str) -> bool:
        """Whether a builtin name means something else in another file."""
        ...

    def is_about_file(self, name: str) -> bool:
        """Whether a variable of this name tells the tools of the language something about its file."""
        ...

    def event_member(self, module: Module, value: Expression) -> str:
        """By what member an event says what the receiver is of a function that is to be called on it.

        `value` is the function, written out or by its name, where it is given away. Empty where that is done for
        something else, or is not sure.
        """
        ...

    def lets_go(self, module: Module, value: Expression) -> bool:
        """Whether a function is named to say that it is no longer to be called on an event."""
        ...

    def is_handed_out(self, module: Module, name: str) -> bool:
        """Whether a file says by its text that it hands a name out to others."""
        ...

    def runs_first(self, module: Module, function: Function) -> bool:
        """Whether what finds functions by their names calls this one once, before it calls any other."""
        ...

    def is_found_by_own_name(self, module: Module, name: str) -> bool:
        """Whether what finds a function by its name has that name from the file itself, and none of its own for it."""
        ...

    def hands_out(self, module: Module, statement: Statement) -> bool:
        """Whether a statement is about what its file hands out to others."""
        ...

    def handed_out_as(self, module: Module, statement: Statement, routine: Span) -> tuple[str, str]:
        """The name by which other files get a nameless routine in a statement about them, "" where they do not.

        Beside it the key that is part of the routine's text, where it stands in a table like a method.
        """
        ...

    def words_handing_out(self, module: Module, statement: Statement) -> Span:
        """The words before a declaration that hand out what it declares; empty where there are none."""
        ...

    def may_wait_behind(self, function: Function) -> bool:
        """Whether a function that only hands on to this one may stand in its place, should this one wait."""
        ...

    def compared_constant(self, condition: str) -> str:
        """The constant with which the text of a condition compares something, if it does nothing else; else empty."""
        ...

    def searched_container(self, condition: str) -> str:
        """The variable in which the text of a condition asks for something, at its end; else empty."""
        ...

    def place_asked(self, key: str, length: int) -> int | None:
        """Which place the text of a key asks a row of some length for, counted from its begin; None if none it has."""
        ...

    def customises_access(self, name: str) -> bool:
        """Whether a name decides how the members of an object are reached, copied or stored, or leads to its class."""
        ...

    def names_member(self, text: str) -> bool:
        """Whether a plain text is a template that takes a member of what it is given."""
        ...

    def is_reflection(self, name: str) -> bool:
        """Whether a function or attribute of this name reaches the members of an object by their text."""
        ...
