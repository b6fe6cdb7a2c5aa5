"""What is known of the library of a language, and of well-known libraries beside it."""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from pathlib import Path
from typing import Protocol

from aedifex.program.dialect.handling import Handling, Search
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module
from aedifex.program.model.names import Imported, Reference

_WORD = re.compile(r"\w+")


@dataclass(frozen=True)
class Refusal:
    """How a handler answers that there is no such thing: the statement, in which `{text}` stands for a text that says
    so, and what it needs imported.
    """

    imported: Imported | None
    statement: str


@dataclass(frozen=True)
class ApplicationPart:
    """A part of an application that has routes of its own, whose paths begin alike.

    `imported` makes it, by `making`, in which `{name}` and `{prefix}` stand for what it is called and begins with;
    `joining` is how `{app}` gets a `{part}`, `telling` what routes are told by. Who asks for a route by its name, which
    has that of the part before it then, says one of the words in `seen_by`, there or in texts in `folders`.
    """

    imported: Imported
    making: str
    joining: str
    telling: str
    seen_by: frozenset[str]
    folders: tuple[str, ...] = ()

    def made(self, name: str, prefix: str) -> str:
        """The expression that makes one."""
        return self.making.format(name=name, prefix=prefix)

    def joined(self, application: str, part: str) -> str:
        """The statement that gives it to an application."""
        return self.joining.format(app=application, part=part)

    def is_seen_in(self, text: str) -> bool:
        """Whether a text may ask for a route by its name."""
        return not self.seen_by.isdisjoint(_WORD.findall(text))


@dataclass(frozen=True)
class Resource:
    """Something of a library that a program has one of, and calls again and again.

    `words` name a class around it, `field` is what that calls it, and `calls` says in the program's words what its
    methods do. `library` is the module whose functions have to do with it; where it `is_handed`, a routine gets it.
    What `begins` with one of some calls goes by a name of its own.
    """

    words: tuple[str, ...]
    field: str
    calls: Mapping[str, str]
    library: str
    is_handed: bool = False
    begins: Mapping[str, str] | None = None


@dataclass(frozen=True)
class SessionFacts:
    """How something of a library is opened, asked once and closed.

    `words` name a class for that, `field` what is opened. The method `asks` gets the `arguments`, of which all but the
    first may be left out; `parameters` are how a routine takes them, and `closes` ends it. `names` say what is done, by
    what else is called, the most telling first.
    """

    words: tuple[str, ...]
    field: str
    asks: str
    closes: str
    parameters: tuple[str, ...]
    arguments: tuple[str, ...]
    names: Mapping[str, str]


class Library(Protocol):
    """What functions do that no program shows. `says` and `asks` print, and read a typed line; `count_member` of a list
    is how many elements it has, empty where none is. `handlers_word` is what people call handlers of requests together.

    `errors_of_absence` are raised where a part, or a member, of no object at all is asked for. `request_parts` are
    members of a request that hold texts by their names, and are always there; functions that are `converting` make a
    number, a text or a truth of a text, and cannot fail.
    """

    says: str
    handlers_word: str
    count_member: str
    errors_of_absence: frozenset[str]
    request_parts: frozenset[str]
    converting: frozenset[str]
    asks: str

    def only_reads_arguments(self, function: str) -> bool:
        """Whether a library function of this name leaves its arguments alone and calls nothing back."""
        ...

    def does_nothing(self, function: str) -> bool:
        """Whether a builtin function of this name changes nothing itself, and calls nothing of the program."""
        ...

    def resource_of(self, function: str) -> Resource | None:
        """What a function makes, or hands to the routine that it is given; by its name with that of its module."""
        ...

    def session_of(self, function: str) -> SessionFacts | None:
        """What a function opens, by its name with that of its module."""
        ...

    def leaves_program_alone(self, method: str) -> bool:
        """Whether a library's method of this name calls nothing back, and changes nothing that the program holds."""
        ...

    def calls_later(self, function: str) -> bool:
        """Whether a function of this name only keeps what it is given, and calls it later."""
        ...

    def keeps_handler(self, function: str) -> bool:
        """Whether a function of this name, or a member, is given what answers events, or is carried out in time."""
        ...

    def only_tells(self, method: str) -> bool:
        """Whether a library's method of this name does nothing but tell of its object."""
        ...

    def calls_nothing(self, method: str) -> bool:
        """Whether a library's method of this name, whatever it does, calls nothing of the program."""
        ...

    def leaves_no_trace(self, method: str) -> bool:
        """Whether a method that leaves the program alone does nothing that is seen before another one follows."""
        ...

    def keeps_elements(self, function: str) -> bool:
        """Whether what a function of this name gives back may hold the objects that it is given, or parts of them."""
        ...

    def gives_element(self, method: str) -> bool:
        """Whether a method of this name gives back what its object holds."""
        ...

    def makes_plain_values(self, function: str) -> bool:
        """Whether a library function of this name gives back nothing but numbers, texts and truth values."""
        ...

    def tells_place(self, module: str) -> bool:
        """Whether what a module does depends on the file in which it is called."""
        ...

    def shows(self, function: str) -> bool:
        """Whether a builtin makes a text or a number of an object that tells what it is."""
        ...

    def only_makes(self, function: str, given: int) -> bool:
        """Whether a builtin given so many values only makes a new object of them, and cannot fail for plain ones."""
        ...

    def opens_file(self, function: str) -> bool:
        """Whether a builtin opens the file whose place it is given first."""
        ...

    def gives_text(self, method: str) -> bool:
        """Whether a method of plain values of this name gives back a plain value."""
        ...

    def gives_numbers(self, function: str) -> bool:
        """Whether a loop over what a library function of this name gives back is one over numbers."""
        ...

    def only_reads_object(self, method: str) -> bool:
        """Whether a method of this name leaves its object as it is."""
        ...

    def fires_events(self, name: str) -> bool:
        """Whether a function or method of this name lets handlers run before it comes back."""
        ...

    def calls_back(self, keyword: str | None) -> bool:
        """Whether what a library function is given under this keyword may be called by it."""
        ...

    def is_quiet(self, module: str) -> bool:
        """Whether the functions of a library module never call the program back, unless they are given a function."""
        ...

    def is_module(self, name: str) -> bool:
        """Whether a module is of the language's own library, so that importing it goes unnoticed."""
        ...

    def is_about_process(self, module: str) -> bool:
        """Whether a library module is what scripts prepare the process with, before they import others."""
        ...

    def is_concurrent(self, module: str) -> bool:
        """Whether a library module lets routines of the program run at the same time as others."""
        ...

    def is_served_by_name(self, module: str) -> bool:
        """Whether a script that imports a library is one in which other programs find things by their names."""
        ...

    def looks_inside(self, runner: str) -> bool:
        """Whether what finds things by their names, called so in messages, wants the functions themselves."""
        ...

    def copies_objects(self, module: str) -> bool:
        """Whether a library module copies or stores objects member by member."""
        ...

    def ends_program(self, module: str, function: str) -> bool:
        """Whether a library function ends the program and never comes back."""
        ...

    def computes(self, function: str) -> bool:
        """Whether a builtin function of this name does no more than to work a number out of numbers."""
        ...

    def picks(self, function: str) -> bool:
        """Whether a function or method of this name gives back one of several things, whatever it is."""
        ...

    def is_placed(self, class_name: str) -> bool:
        """Whether objects of a library's class are somewhere, and are moved about."""
        ...

    def sets_scene(self, module: str, function: str) -> bool:
        """Whether a library function only prepares what surrounds the program: chance, time, the terminal."""
        ...

    def surely_draws(self, module: str, function: str, arguments: Sequence[str]) -> bool:
        """Whether a library function, given what is written so, only draws something at random and cannot fail."""
        ...

    def is_main_loop(self, function: str) -> bool:
        """Whether a function of this name takes the program over until its window, or its service, is closed."""
        ...

    def job_of(self, function: str) -> str:
        """What a library function, named with its path, is for: `take_input`, `draw`, or nothing that is known."""
        ...

    def makes_widget(self, function: str) -> bool:
        """Whether a function of this name, in a program with windows, makes a part of one."""
        ...

    def finds_widget(self, function: str) -> bool:
        """Whether a function of this name gives a part of a window, or page, that is there without the program."""
        ...

    def finds_several(self, function: str) -> bool:
        """Whether a function that gives parts of a window, or page, gives a list of them."""
        ...

    def titles_window(self, function: str) -> bool:
        """Whether a function of this name gives a window its title."""
        ...

    def kept_pens(self, function: str) -> int:
        """1 for a function, named with its path, that keeps how is drawn, -1 for one that brings that back, else 0."""
        ...

    def begins_path(self, function: str) -> bool:
        """Whether a function, named with its path, begins an outline that others go on with until it is drawn."""
        ...

    def goes_on_with_path(self, function: str) -> bool:
        """Whether a function, named with its path, goes on with an outline, or draws it."""
        ...

    def sets_pen(self, function: str) -> bool:
        """Whether a function of this name only says how what comes behind it is drawn."""
        ...

    def title_around(self, module: Module) -> str:
        """The title of the page that a script stands in; empty where there is none."""
        ...

    def keys_in(self, text: str) -> list[str]:
        """The keys that a text names as well-known libraries do."""
        ...

    def is_standard_stream(self, name: str) -> bool:
        """Whether the library keeps a stream of the process under this name."""
        ...

    def defines_only(self, decorator: Reference) -> bool:
        """Whether a decorator does no more than to define what it decorates."""
        ...

    def makes_record(self, reference: Reference) -> bool:
        """Whether a decorator, or a base, lets the library write the constructor of a class by the fields it has."""
        ...

    def is_record(self, base: Reference) -> bool:
        """Whether it is a base, and not a decorator."""
        ...

    def rebuilds_record(self, method: str) -> bool:
        """Whether a method of such objects gives another one like it, with other values in the fields it is given."""
        ...

    def copies_record(self, function: Reference) -> bool:
        """Whether a function of a library does so, given such an object first."""
        ...

    def is_member_of_record(self, name: str) -> bool:
        """Whether objects of a class whose constructor a library writes may have such a member from it."""
        ...

    def makes_rows(self, function: Reference) -> bool:
        """Whether a library's function makes a class of rows whose parts have names."""
        ...

    def names_listed(self, text: str) -> tuple[str, ...] | None:
        """The names that such a function is given by what is written out there; None where it is something else."""
        ...

    def is_field_type(self, annotation: str) -> bool:
        """Whether what a class declares with a type is a field that objects are given when they are made."""
        ...

    def leaves_constructor_alone(self, option: str) -> bool:
        """Whether the constructor takes all fields in their order, where such a decorator is given an option."""
        ...

    def is_exception(self, base: str) -> bool:
        """Whether a class of the library, by its name, is an exception."""
        ...

    def opens(self, function: str) -> bool:
        """Whether a library function of this name gives back something open, which is closed when nobody holds it."""
        ...

    def closes(self, method: str) -> bool:
        """Whether a method of this name closes what it is called on."""
        ...

    def stores_objects(self, module: str) -> bool:
        """Whether a library module writes objects down together with the place of their class."""
        ...

    def makes_class(self, function: str) -> bool:
        """Whether a library function of this name gives back a new class."""
        ...

    def looks_at_functions(self, module: str) -> bool:
        """Whether a library module may tell a bound method from a function: by copying, storing or examining it."""
        ...

    def asks_identity(self, name: Reference, folder: Path) -> bool:
        """Whether an imported name comes from a file in `folder` that asks whether two values are the same one."""
        ...

    def tells_class(self, function: str) -> bool:
        """Whether a function of this name gives the class of an object."""
        ...

    def may_have_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether objects of a class that a file in `folder` inherits from may have a member of that name."""
        ...

    def may_inherit_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether a class that a file in `folder` inherits from has a member of that name, so that another hides it."""
        ...

    def may_ask_class(self, base: Reference, folder: Path) -> bool:
        """Whether a class that a file in `folder` names asks of which class its objects are, but to show them."""
        ...

    def may_take_part_in_objects(self, base: Reference, folder: Path) -> bool:
        """Whether a class that a file in `folder` inherits from may decide how objects are made, or fields set."""
        ...

    def handling_by_function(self, function: str) -> Handling | None:
        """What a library function of this name does with a container that it is given first; None if not known."""
        ...

    def handling_by_method(self, method: str) -> Handling | None:
        """What a method of this name does with the container that it belongs to; None if not known."""
        ...

    def search_by_method(self, method: str) -> Search | None:
        """What a method of this name looks for that asks its argument about each element; None if it does not."""
        ...

    def adds_one(self, method: str) -> bool:
        """Whether a method of this name lets its one argument become one more element."""
        ...

    def is_member_of_container(self, name: str) -> bool:
        """Whether lists, texts, or what else holds things, have a member of this name."""
        ...

    def keeps_places(self, member: str) -> bool:
        """Whether a member of a list leaves each element where it is, and is no other name for one."""
        ...

    def may_hand_elements_on(self, method: str) -> bool:
        """Whether a method of which no more is known may let others have what its object holds."""
        ...

    def puts_in_order(self, name: str) -> bool:
        """Whether a function or method of this name asks which of its things comes first."""
        ...

    def parameter_name(self, function: str, number: int) -> str:
        """What the value is that a well-known function takes at a place; empty where that is not known."""
        ...

    def deed(self, function: str) -> str:
        """What a well-known function does, in words that a name can begin with; empty where that is not known."""
        ...

    def inputs_of(self, module: Module) -> Inputs:
        """What a script listens to: typed words, keys, clicks, arguments."""
        ...

    def makes_application(self, function: str) -> bool:
        """Whether a library function of this full name makes an application that answers requests, or a part of one."""
        ...

    def makes_part(self, function: str) -> bool:
        """Whether a library function of this full name makes a part of an application, with paths of its own."""
        ...

    def part_of_application(self, function: str) -> ApplicationPart | None:
        """The parts that an application made by a library function of this full name can have."""
        ...

    def tells_application(self, function: str) -> bool:
        """Whether a call of this full name tells an application of a function."""
        ...

    def says_not_found(self, imported: Collection[str]) -> Refusal | None:
        """How handlers in a file that imports some modules answer with status 404; None where that is not known."""
        ...

    def written_hook(self, decorator: str, keywords: Collection[str], *, is_called: bool) -> str | None:
        """How a decorator, by its full name and keywords, that only tells of a function is written as a statement.

        What stands for what in it: `{app}` the application, `{how}` the decorator without its values, `{all}` its
        values, `{first}` and `{rest}` the first and the others, each of these with a comma, `{handler}` the function.
        None where the decorator does more, or is not known.
        """
        ...
