"""What libraries do, as upper layers ask it of JavaScript. What is not known here is taken for what does most."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from pathlib import Path

from aedifex.languages.javascript import pages
from aedifex.languages.javascript.library import containers, facts, inputs, names, routes
from aedifex.languages.javascript.page_code import page_of
from aedifex.program.dialect.handling import Handling, Search
from aedifex.program.dialect.library import ApplicationPart, Refusal, Resource, SessionFacts
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference

_QUIET_METHODS = facts.CANVAS | frozenset("concat includes indexOf log pop push shift slice splice unshift".split())


class JavaScriptLibrary:
    """JavaScript's own library, the document of a page, and Node's modules."""

    says, asks, handlers_word = "console.log", "prompt", "routes"
    count_member = "length"
    errors_of_absence = frozenset({"TypeError"})
    request_parts = routes.REQUEST_PARTS
    converting = facts.CONVERTING

    def only_reads_arguments(self, function: str) -> bool:
        """Whether a library function of this name leaves its arguments alone and calls nothing back."""
        return function in facts.READING_FUNCTIONS or function in facts.SKETCHING

    def does_nothing(self, function: str) -> bool:
        """Whether a builtin function of this name changes nothing itself, and calls nothing of the program."""
        return function in facts.READING_FUNCTIONS

    def resource_of(self, function: str) -> Resource | None:
        """What a function makes, or hands to the routine that it is given; by its name with that of its module."""
        return None

    def session_of(self, function: str) -> SessionFacts | None:
        """What a function opens, by its name with that of its module."""
        return None

    def leaves_program_alone(self, method: str) -> bool:
        """Whether a library's method of this name calls nothing back, and changes nothing that the program holds."""
        return method in containers.READING - containers.CALLING_BACK

    def calls_later(self, function: str) -> bool:
        """Listeners, timers and frames."""
        return function in facts.CALLING_LATER

    def keeps_handler(self, function: str) -> bool:
        """Listeners, clocks and servers; `onclick` and the like are given one."""
        return function in facts.KEEPING_HANDLERS or function in names.HANDLERS

    def only_tells(self, method: str) -> bool:
        """Whether a library's method of this name does nothing but tell of its object."""
        return method in containers.TEXTUAL

    def calls_nothing(self, method: str) -> bool:
        """Those of texts, of lists that are given no function, and of a canvas."""
        return method in containers.TEXTUAL or method in _QUIET_METHODS

    def leaves_no_trace(self, method: str) -> bool:
        """Whether a method that leaves the program alone does nothing that is seen before another one follows."""
        return method in containers.TEXTUAL

    def keeps_elements(self, function: str) -> bool:
        """Whether what a function of this name gives back may hold the objects that it is given, or parts of them."""
        return function not in facts.PLAIN_FUNCTIONS

    def gives_element(self, method: str) -> bool:
        """Whether a method of this name gives back what its object holds."""
        return method in facts.ELEMENT_GIVERS

    def makes_plain_values(self, function: str) -> bool:
        """Whether a library function of this name gives back nothing but numbers, texts and truth values."""
        return function in facts.PLAIN_FUNCTIONS

    def tells_place(self, module: str) -> bool:
        """Whether what a module does depends on the file in which it is called."""
        return False

    def shows(self, function: str) -> bool:
        """Whether a builtin makes a text or a number of an object that tells what it is."""
        return function == "String"

    def only_makes(self, function: str, given: int) -> bool:
        """Whether a builtin given so many values only makes a new object of them, and cannot fail for plain ones."""
        return function in facts.MAKERS and not given

    def opens_file(self, function: str) -> bool:
        """Whether a builtin opens the file whose place it is given first."""
        return False

    def gives_text(self, method: str) -> bool:
        """Whether a method of plain values of this name gives back a plain value."""
        return method in containers.TEXTUAL

    def gives_numbers(self, function: str) -> bool:
        """Whether a loop over what a library function of this name gives back is one over numbers."""
        return False

    def only_reads_object(self, method: str) -> bool:
        """Whether a method of this name leaves its object as it is."""
        return method in containers.READING

    def fires_events(self, name: str) -> bool:
        """Those of elements and emitters, and what lets a sketch draw once more."""
        return name in facts.FIRING

    def calls_back(self, keyword: str | None) -> bool:
        """Whether what a library function is given under this keyword may be called by it."""
        return False

    def is_quiet(self, module: str) -> bool:
        """Whether the functions of a library module never call the program back, unless they are given a function."""
        return _plain(module) in facts.QUIET_MODULES or module in ("Math", "Date", "performance")

    def is_module(self, name: str) -> bool:
        """Whether a module is of the language's own library, so that importing it goes unnoticed."""
        return _plain(name).partition("/")[0] in names.MODULES

    def is_about_process(self, module: str) -> bool:
        """Whether a library module is what scripts prepare the process with, before they import others."""
        return _plain(module) == "process"

    def is_concurrent(self, module: str) -> bool:
        """Whether a library module lets routines of the program run at the same time as others."""
        return _plain(module) in ("worker_threads", "cluster")

    def is_served_by_name(self, module: str) -> bool:
        """Whether a script that imports a library is one in which other programs find things by their names."""
        return False

    def looks_inside(self, runner: str) -> bool:
        """Whether what finds things by their names, called so in messages, wants the functions themselves."""
        return False

    def copies_objects(self, module: str) -> bool:
        """Whether a library module copies or stores objects member by member."""
        return _plain(module) == "v8"

    def ends_program(self, module: str, function: str) -> bool:
        """Whether a library function ends the program and never comes back."""
        return (module, function) == ("process", "exit")

    def computes(self, function: str) -> bool:
        """Whether a builtin function of this name does no more than to work a number out of numbers."""
        return function in facts.PLAIN_FUNCTIONS

    def picks(self, function: str) -> bool:
        """Whether a function or method of this name gives back one of several things, whatever it is."""
        return function in facts.ELEMENT_GIVERS

    def is_placed(self, class_name: str) -> bool:
        """Whether objects of a library's class are somewhere, and are moved about."""
        return False

    def sets_scene(self, module: str, function: str) -> bool:
        """Whether a library function only prepares what surrounds the program: chance, time, the terminal."""
        return False

    def surely_draws(self, module: str, function: str, arguments: Sequence[str]) -> bool:
        """Whether a library function, given what is written so, only draws something at random and cannot fail."""
        return False

    def is_main_loop(self, function: str) -> bool:
        """Whether a function of this name takes the program over until its window, or its service, is closed."""
        return function in ("requestAnimationFrame", "listen")

    def job_of(self, function: str) -> str:
        """What a library function, named with its path, is for: `take_input`, `draw`, or nothing that is known."""
        last = function.rpartition(".")[2]
        if last in facts.ASKING:
            return "take_input"
        draws = last in facts.DRAWING or last in facts.MOVING_PENS or self.kept_pens(function)
        draws = draws or self.begins_path(function) or self.goes_on_with_path(function)
        return "draw" if draws else ""

    def kept_pens(self, function: str) -> int:
        """`push` and `pop` of a sketch, `save` and `restore` of a canvas."""
        base, _, last = function.rpartition(".")
        return (facts.KEEPING_PENS_OF_CANVAS if base else facts.KEEPING_PENS).get(last, 0)

    def begins_path(self, function: str) -> bool:
        """`beginShape` of a sketch, `beginPath` of a canvas."""
        base, _, last = function.rpartition(".")
        return last in (facts.BEGINNING_PATHS_OF_CANVAS if base else facts.BEGINNING_PATHS)

    def goes_on_with_path(self, function: str) -> bool:
        """`vertex` and `endShape` of a sketch, `arc`, `fill` and others of a canvas."""
        base, _, last = function.rpartition(".")
        return last in (facts.GOING_ON_PATHS_OF_CANVAS if base else facts.GOING_ON_PATHS)

    def makes_widget(self, function: str) -> bool:
        """Whether a function of this name, in a program with windows, makes a part of one."""
        return function in ("createElement", "createButton", "createSlider")

    def finds_widget(self, function: str) -> bool:
        """Those of the document."""
        return function in facts.FINDING

    def finds_several(self, function: str) -> bool:
        """All but those for one with an id, or the first that fits."""
        return function in facts.FINDING and function not in facts.FINDING_ONE

    def titles_window(self, function: str) -> bool:
        """Whether a function of this name gives a window its title."""
        return False

    def sets_pen(self, function: str) -> bool:
        """Those of canvases and sketches."""
        return function in facts.PENS

    def title_around(self, module: Module) -> str:
        """What the page says in `<title>`, or in its first heading."""
        return pages.title_of(page_of(module.source)) if pages.is_page(module.path) else ""

    def keys_in(self, text: str) -> list[str]:
        """The keys that a text names as well-known libraries do."""
        return facts.KEYS.findall(text)

    def is_standard_stream(self, name: str) -> bool:
        """Whether the library keeps a stream of the process under this name."""
        return name in ("stdin", "stdout", "stderr")

    def defines_only(self, decorator: Reference) -> bool:
        """Whether a decorator does no more than to define what it decorates."""
        return False

    def makes_record(self, reference: Reference) -> bool:
        """Whether a decorator, or a base, lets the library write the constructor of a class by the fields it has."""
        return False

    def is_record(self, base: Reference) -> bool:
        """Whether it is a base, and not a decorator."""
        return False

    def rebuilds_record(self, method: str) -> bool:
        """Whether a method of such objects gives another one like it, with other values in the fields it is given."""
        return False

    def copies_record(self, function: Reference) -> bool:
        """Whether a function of a library does so, given such an object first."""
        return False

    def is_member_of_record(self, name: str) -> bool:
        """Whether objects of a class whose constructor a library writes may have such a member from it."""
        return False

    def makes_rows(self, function: Reference) -> bool:
        """Whether a library's function makes a class of rows whose parts have names."""
        return False

    def names_listed(self, text: str) -> tuple[str, ...] | None:
        """The names that such a function is given by what is written out there; None where it is something else."""
        return None

    def is_field_type(self, annotation: str) -> bool:
        """Whether what a class declares with a type is a field that objects are given when they are made."""
        return False

    def leaves_constructor_alone(self, option: str) -> bool:
        """Whether the constructor takes all fields in their order, where such a decorator is given an option."""
        return False

    def is_exception(self, base: str) -> bool:
        """Whether a class of the library, by its name, is an exception."""
        return base.endswith("Error")

    def opens(self, function: str) -> bool:
        """Whether a library function of this name gives back something open, which is closed when nobody holds it."""
        return False

    def closes(self, method: str) -> bool:
        """Whether a method of this name closes what it is called on."""
        return method == "close"

    def stores_objects(self, module: str) -> bool:
        """Whether a library module writes objects down together with the place of their class."""
        return _plain(module) == "v8"

    def makes_class(self, function: str) -> bool:
        """Whether a library function of this name gives back a new class."""
        return False

    def looks_at_functions(self, module: str) -> bool:
        """Whether a library module may tell a bound method from a function: by copying, storing or examining it."""
        return _plain(module) in ("util", "vm")

    def asks_identity(self, name: Reference, folder: Path) -> bool:
        """A method that is a value is kept bound: it is the same one each time."""
        return False

    def tells_class(self, function: str) -> bool:
        """Whether a function of this name gives the class of an object."""
        return False

    def may_have_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether objects of a class that a file in `folder` inherits from may have a member of that name."""
        return True

    def may_inherit_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether a class that a file in `folder` inherits from has a member of that name, so that another hides it."""
        return True

    def may_ask_class(self, base: Reference, folder: Path) -> bool:
        """Whether a class that a file in `folder` names asks of which class its objects are, but to show them."""
        return True

    def may_take_part_in_objects(self, base: Reference, folder: Path) -> bool:
        """Whether a class that a file in `folder` inherits from may decide how objects are made, or fields set."""
        return True

    def handling_by_function(self, function: str) -> Handling | None:
        """What a library function of this name does with a container that it is given first; None if not known."""
        return containers.BY_FUNCTION.get(function)

    def handling_by_method(self, method: str) -> Handling | None:
        """What a method of this name does with the container that it belongs to; None if not known."""
        return containers.BY_METHOD.get(method)

    def search_by_method(self, method: str) -> Search | None:
        """What a method of arrays looks for."""
        return containers.SEARCHES.get(method)

    def adds_one(self, method: str) -> bool:
        """At the end, or at the begin."""
        return method in ("push", "unshift")

    def is_member_of_container(self, name: str) -> bool:
        """Whether arrays, maps, sets, texts or functions have it."""
        return name in containers.MEMBERS

    def keeps_places(self, member: str) -> bool:
        """Whether it only looks, or adds something at the end."""
        return member in ("length", "push") or member in containers.READING

    def may_hand_elements_on(self, method: str) -> bool:
        """All but those that make a text, a number or a truth of it."""
        return method not in containers.TEXTUAL

    def puts_in_order(self, name: str) -> bool:
        """Whether a function or method of this name asks which of its things comes first."""
        return name in ("sort", "toSorted", "min", "max")

    def parameter_name(self, function: str, number: int) -> str:
        """What the value is that a well-known function takes at a place; empty where that is not known."""
        return ""

    def deed(self, function: str) -> str:
        """To draw, if it does."""
        return "draw" if function in facts.DRAWING else ""

    def inputs_of(self, module: Module) -> Inputs:
        """What a script listens to: typed words, keys, clicks, arguments."""
        return inputs.inputs_of(module)

    def makes_application(self, function: str) -> bool:
        """Whether a library function of this full name makes an application that answers requests, or a part of one."""
        return function in routes.APPLICATIONS

    def makes_part(self, function: str) -> bool:
        """Routers are parts of others."""
        return function.endswith(".Router")

    def part_of_application(self, function: str) -> ApplicationPart | None:
        """The parts that an application made by a library function of this full name can have."""
        return None

    def tells_application(self, function: str) -> bool:
        """Whether a call of this full name tells an application of a function."""
        made, _, how = function.rpartition(".")
        return made in routes.APPLICATIONS and how in routes.TELLING

    def says_not_found(self, imported: Collection[str]) -> Refusal | None:
        """By an error that says so, where the library is one that answers errors by their status."""
        return routes.NOT_FOUND if routes.ANSWERING_ERRORS & set(imported) else None

    def written_hook(self, decorator: str, keywords: Collection[str], *, is_called: bool) -> str | None:
        """How a decorator, by its full name and keywords, that only tells of a function is written as a statement.

        What stands for what in it: `{app}` the application, `{how}` the decorator without its values, `{all}` its
        values, `{first}` and `{rest}` the first and the others, each of these with a comma, `{handler}` the function.
        None where the decorator does more, or is not known."""
        return None


def _plain(module: str) -> str:
    """A module's name without what says that it is Node's own."""
    return module.removeprefix("node:")
