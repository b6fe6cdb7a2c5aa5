"""What libraries do, as upper layers ask it of Python."""

from __future__ import annotations

import ast
import builtins
import re
from collections.abc import Collection, Sequence
from pathlib import Path

from aedifex.languages.python.imports.stars import StarImports
from aedifex.languages.python.library import all_known, containers, inputs, sources, standard
from aedifex.languages.python.library.chance import surely_draws
from aedifex.languages.python.library.known import KnownLibrary
from aedifex.languages.python.library.resources import RESOURCES, SESSIONS
from aedifex.languages.python.routes import all_routes
from aedifex.languages.python.runners import all_runners
from aedifex.program.dialect.handling import Handling, Search
from aedifex.program.dialect.library import ApplicationPart, Refusal, Resource, SessionFacts
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin, Reference, ScopeKind

_KEYS = re.compile(r"\bK_(\w+)")


class PythonLibrary:
    """The standard library, and the well-known libraries of the folder `library`."""

    says, asks, handlers_word = "print", "input", "pages"
    count_member = ""
    errors_of_absence = frozenset({"TypeError", "AttributeError"})
    request_parts: frozenset[str] = frozenset()
    converting = frozenset({"str", "bool"})

    def __init__(self, stars: StarImports) -> None:
        self.stars = stars

    @property
    def known(self) -> KnownLibrary:
        """What is known of all libraries together."""
        return all_known()

    def only_reads_arguments(self, function: str) -> bool:
        """Whether a library function of this name leaves its arguments alone and calls nothing back."""
        return function in standard.ONLY_READING_FUNCTIONS

    def does_nothing(self, function: str) -> bool:
        """What gives back plain values, and what shows the fields of an object."""
        is_quiet = self.makes_plain_values(function) and function != self.asks
        return is_quiet or function in standard.SHOWING_FUNCTIONS

    def resource_of(self, function: str) -> Resource | None:
        """By the table of those that are known."""
        return RESOURCES.get(function)

    def session_of(self, function: str) -> SessionFacts | None:
        """By the table of those that are known."""
        return SESSIONS.get(function)

    def leaves_program_alone(self, method: str) -> bool:
        """Whether a library is known for it."""
        return method in self.known.aloof or method in self.known.unseen

    def calls_later(self, function: str) -> bool:
        """What is given may be called at once."""
        return False

    def keeps_handler(self, function: str) -> bool:
        """Those are named by another move."""
        return False

    def only_tells(self, method: str) -> bool:
        """Whether a library is known for that."""
        return method in self.known.telling

    def calls_nothing(self, method: str) -> bool:
        """Those that do nothing but tell."""
        return self.only_tells(method)

    def leaves_no_trace(self, method: str) -> bool:
        """Whether a library is known for that."""
        return method in self.known.unseen

    def keeps_elements(self, function: str) -> bool:
        """Whether what a function of this name gives back may hold the objects that it is given, or parts of them."""
        return function in standard.KEEPING_FUNCTIONS

    def gives_element(self, method: str) -> bool:
        """Whether a method of this name gives back what its object holds."""
        return method in standard.ELEMENT_GIVERS

    def makes_plain_values(self, function: str) -> bool:
        """Whether a library function of this name gives back nothing but numbers, texts and truth values."""
        return function in standard.PLAIN_FUNCTIONS

    def tells_place(self, module: str) -> bool:
        """Whether what a module does depends on the file in which it is called: warnings are shown by that."""
        return module == "warnings"

    def shows(self, function: str) -> bool:
        """Whether a builtin makes a text or a number of an object that tells what it is."""
        return function in standard.SHOWING

    def only_makes(self, function: str, given: int) -> bool:
        """Whether a builtin given so many values only makes a new object of them, and cannot fail for plain ones."""
        return function in standard.MAKERS and given <= standard.MAKERS[function]

    def opens_file(self, function: str) -> bool:
        """Whether a builtin opens the file whose place it is given first."""
        return function == "open"

    def gives_text(self, method: str) -> bool:
        """Whether a method of this name makes a text or a number of one."""
        return method in standard.TEXT_GIVERS

    def gives_numbers(self, function: str) -> bool:
        """Whether a loop over what a library function of this name gives back is one over numbers."""
        return function == "range"

    def only_reads_object(self, method: str) -> bool:
        """Whether a method of this name leaves its object as it is."""
        return method in standard.ONLY_READING_METHODS

    def fires_events(self, name: str) -> bool:
        """Any may, for all that is known."""
        return True

    def calls_back(self, keyword: str | None) -> bool:
        """Whether what a library function is given under this keyword may be called by it."""
        return keyword in standard.HOOKS

    def is_quiet(self, module: str) -> bool:
        """Whether the functions of a library module never call the program back, unless they are given a function."""
        return module in self.known.quiet

    def is_module(self, name: str) -> bool:
        """Whether a module is of the standard library, but for those that do something when imported."""
        return name.partition(".")[0] in standard.STANDARD_MODULES - standard.NOTICED_IMPORTS

    def is_about_process(self, module: str) -> bool:
        """Whether a library module is what scripts prepare the process with, before they import others."""
        return module.partition(".")[0] in standard.PROCESS_MODULES

    def is_concurrent(self, module: str) -> bool:
        """Whether a library module lets routines of the program run at the same time as others."""
        return module.partition(".")[0] in self.known.concurrent

    def is_served_by_name(self, module: str) -> bool:
        """Whether a script that imports a library is one in which other programs find things by their names."""
        return any(module.partition(".")[0] in runner.modules for runner in all_runners())

    def looks_inside(self, runner: str) -> bool:
        """As the runners in the folder `runners` do."""
        return any(known.name == runner and known.looks_inside for known in all_runners())

    def copies_objects(self, module: str) -> bool:
        """Whether a library module copies or stores objects member by member."""
        return module.partition(".")[0] in self.known.copying

    def ends_program(self, module: str, function: str) -> bool:
        """Whether a library function ends the program and never comes back."""
        return (module, function) in standard.ENDING

    def computes(self, function: str) -> bool:
        """Whether a builtin function of this name does no more than to work a number out of numbers."""
        return function in standard.COMPUTING

    def picks(self, function: str) -> bool:
        """Whether a function or method of this name gives back one of several things, whatever it is."""
        return function in standard.PICKING

    def is_placed(self, class_name: str) -> bool:
        """Whether objects of a library's class are somewhere, and are moved about."""
        return class_name in self.known.placed

    def sets_scene(self, module: str, function: str) -> bool:
        """Whether a library function only prepares what surrounds the program: chance, time, the terminal."""
        return (module, function) in standard.SCENE

    def surely_draws(self, module: str, function: str, arguments: Sequence[str]) -> bool:
        """Whether a library function, given what is written so, only draws something at random and cannot fail."""
        return module == "random" and surely_draws(function, arguments)

    def is_main_loop(self, function: str) -> bool:
        """Whether a function of this name takes the program over until its window, or its service, is closed."""
        return function in self.known.main_loops

    def job_of(self, function: str) -> str:
        """What a library function, named with its path, is for: `take_input`, `draw`, or nothing that is known."""
        for job, ends in (("take_input", self.known.takes_input), ("draw", self.known.draws)):
            if function.rpartition(".")[2] in ends or any(function.endswith(f".{end}") for end in ends):
                return job
        return ""

    def makes_widget(self, function: str) -> bool:
        """Whether a function of this name, in a program with windows, makes a part of one."""
        return function in self.known.makes_widgets

    def finds_widget(self, function: str) -> bool:
        """What is in a window is made by the program itself."""
        return False

    def finds_several(self, function: str) -> bool:
        """None does."""
        return False

    def titles_window(self, function: str) -> bool:
        """Whether a function of this name gives a window its title."""
        return function in self.known.titles

    def kept_pens(self, function: str) -> int:
        """How is drawn is not kept and brought back."""
        return 0

    def begins_path(self, function: str) -> bool:
        """What is drawn is whole by itself."""
        return False

    def goes_on_with_path(self, function: str) -> bool:
        """What is drawn is whole by itself."""
        return False

    def sets_pen(self, function: str) -> bool:
        """What is drawn is told how where it is drawn."""
        return False

    def title_around(self, module: Module) -> str:
        """Scripts stand alone."""
        return ""

    def keys_in(self, text: str) -> list[str]:
        """The keys that a text names as pygame does."""
        return _KEYS.findall(text)

    def is_standard_stream(self, name: str) -> bool:
        """Whether the library keeps a stream of the process under this name."""
        return name in standard.STREAMS

    def defines_only(self, decorator: Reference) -> bool:
        """Whether a decorator is a builtin, of a module of such, or what a property has for its setter."""
        if decorator.symbol.imported is not None:
            return decorator.symbol.imported.module.partition(".")[0] in standard.DECORATING
        is_of_property = bool(decorator.path) and decorator.symbol.scope.kind is ScopeKind.CLASS
        return decorator.symbol.origin is Origin.BUILTIN or is_of_property

    def makes_record(self, reference: Reference) -> bool:
        """Whether a decorator or a base lets the library write the constructor of a class, by its fields."""
        return _brought(reference) in standard.RECORD_MAKERS or self.is_record(reference)

    def is_record(self, base: Reference) -> bool:
        """Whether it is a base, whose heirs are rows with names."""
        return _brought(base) == standard.NAMED_ROW or self.makes_rows(base)

    def makes_rows(self, function: Reference) -> bool:
        """Whether a function makes a class of rows with names."""
        return _brought(function) == standard.ROW_MAKER

    def names_listed(self, text: str) -> tuple[str, ...] | None:
        """The names of fields in a text, or in a list or tuple of texts, as `namedtuple` takes them."""
        try:
            listed = ast.literal_eval(text)
        except (ValueError, SyntaxError):
            return None
        names = listed.replace(",", " ").split() if isinstance(listed, str) else listed
        is_plain = isinstance(names, (list, tuple)) and all(isinstance(name, str) for name in names)
        return tuple(names) if is_plain and all(name.isidentifier() for name in names) else None

    def rebuilds_record(self, method: str) -> bool:
        """Whether a method of rows with names gives another with other values."""
        return method == "_replace"

    def copies_record(self, function: Reference) -> bool:
        """Whether a function does so for objects of a class whose constructor the library writes."""
        return _brought(function) == ("dataclasses", "replace")

    def is_member_of_record(self, name: str) -> bool:
        """Whether objects of classes with such a constructor may have a member of that name from the library."""
        return name.startswith("_") or name in standard.ROW_METHODS

    def is_field_type(self, annotation: str) -> bool:
        """Whether what is declared with a type is a field that objects are given when they are made."""
        return not any(word in annotation for word in standard.TYPES_OF_NO_FIELD)

    def leaves_constructor_alone(self, option: str) -> bool:
        """Whether the constructor takes all fields in their order under an option for such a decorator."""
        return option in standard.RECORD_OPTIONS

    def is_exception(self, base: str) -> bool:
        """Whether it is a builtin exception, or called like one."""
        built_in = getattr(builtins, base, None)
        if isinstance(built_in, type):
            return issubclass(built_in, BaseException)
        return base.endswith(("Error", "Exception", "Warning"))

    def opens(self, function: str) -> bool:
        """Whether it opens a file, a socket, an archive, a database or the like."""
        return function in standard.OPENERS

    def closes(self, method: str) -> bool:
        """Whether it is `close` or one of its kind."""
        return method in standard.CLOSERS

    def stores_objects(self, module: str) -> bool:
        """Whether it is `pickle`, or builds on it."""
        return module.partition(".")[0] in standard.STORING

    def makes_class(self, function: str) -> bool:
        """Whether it is `namedtuple` or one of its kind."""
        return function in standard.CLASS_MAKERS

    def looks_at_functions(self, module: str) -> bool:
        """Whether a module copies, stores, refers weakly to or examines functions."""
        return self.copies_objects(module) or module.partition(".")[0] in standard.FUNCTION_EXAMINERS

    def asks_identity(self, name: Reference, folder: Path) -> bool:
        """Whether the file compares by `is`, with anything but a constant."""
        imported = name.symbol.imported
        path = self.stars.find(imported.module, folder) if imported is not None else None
        return path is not None and path.is_relative_to(folder) and sources.compares_identity(path)

    def tells_class(self, function: str) -> bool:
        """Whether it is `type`, or the member that has the class."""
        return function in ("type", "__class__")

    def may_have_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether objects of a class that a file in `folder` inherits from may have a member of that name.

        A library's source tells by the members that it names anywhere; what has none may have any.
        """
        if base.symbol.imported is None:
            found = getattr(getattr(builtins, base.name, None), name, None)
            return base.symbol.origin is not Origin.BUILTIN or found is not getattr(object, name, None)
        path, class_name = self._source_of(base, folder)
        return path is None or sources.may_mention(self.stars.find, path, class_name, name)

    def may_inherit_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether the source of a class that a file in `folder` inherits from has a member of that name itself."""
        if base.symbol.imported is None:
            return self.may_have_member(base, name, folder)
        path, class_name = self._source_of(base, folder)
        return path is None or sources.may_have(self.stars.find, path, class_name, name)

    def may_take_part_in_objects(self, base: Reference, folder: Path) -> bool:
        """Whether a class that a file in `folder` inherits from may decide how objects are made, or fields set."""
        return self.may_have_member(base, "__setattr__", folder) or self._may_make(base, folder)

    def may_ask_class(self, base: Reference, folder: Path) -> bool:
        """Whether the source of a class, or of one that it inherits from, says so or cannot be read."""
        if base.symbol.imported is None:
            return True
        path, class_name = self._source_of(base, folder)
        if path is None or sources.may_ask_class(self.stars.find, path, class_name):
            return True
        return sources.may_mention(self.stars.find, path, class_name, "__init_subclass__")

    def _may_make(self, base: Reference, folder: Path) -> bool:
        """Whether a class may look at what its objects are made with before their constructor does."""
        if base.symbol.imported is None:
            return base.name not in standard.GROWING_TYPES and self.may_have_member(base, "__new__", folder)
        path, name = self._source_of(base, folder)
        return path is None or sources.may_define(path, name, "__new__")

    def _source_of(self, base: Reference, folder: Path) -> tuple[Path | None, str]:
        """The file of an imported class, if it is found, and the name of the class there."""
        assert base.symbol.imported is not None
        module, what = base.symbol.imported
        steps = [*([what] if what is not None else []), *(step.name or "" for step in base.path)]
        return self.stars.find(".".join([module, *steps[:-1]]), folder), steps[-1] if steps else ""

    def handling_by_function(self, function: str) -> Handling | None:
        """What a builtin, or a function of a well-known module, does with a container."""
        return containers.FUNCTIONS.get(function)

    def handling_by_method(self, method: str) -> Handling | None:
        """What a method of the builtin containers, a deque or a queue does with it."""
        return containers.METHODS.get(method)

    def search_by_method(self, method: str) -> Search | None:
        """None does: expressions with loops in them look for things."""
        return None

    def adds_one(self, method: str) -> bool:
        """At one of the ends, or wherever a queue has it."""
        return containers.METHODS.get(method) is Handling.ADDS

    def is_member_of_container(self, name: str) -> bool:
        """Whether the builtin containers, a deque or a queue have a method of this name."""
        return name in containers.METHODS

    def keeps_places(self, member: str) -> bool:
        """Not asked of methods: a loop knows nothing of what is added while it goes on."""
        return False

    def may_hand_elements_on(self, method: str) -> bool:
        """What the methods of containers do is known."""
        return False

    def puts_in_order(self, name: str) -> bool:
        """Whether a function or method asks which of several things is the smallest."""
        return name in containers.ORDERING

    def parameter_name(self, function: str, number: int) -> str:
        """By the function's own name where that says what it takes; `x` and `y` for what goes to a place."""
        known = standard.PARAMETERS.get(function)
        if known is not None:
            return known[number] if number < len(known) else ""
        return function if function in standard.NAMED_BY_FUNCTION else ""

    def deed(self, function: str) -> str:
        """By its name."""
        return standard.DEEDS.get(function, "")

    def inputs_of(self, module: Module) -> Inputs:
        """What a script listens to."""
        return inputs.find(module)

    def makes_application(self, function: str) -> bool:
        """Whether one of the libraries in the folder `routes` says so."""
        return any(function in known.applications for known in all_routes())

    def makes_part(self, function: str) -> bool:
        """Whether it makes a part for routes that begin alike."""
        return function.rpartition(".")[2] in ("Blueprint", "APIRouter")

    def part_of_application(self, function: str) -> ApplicationPart | None:
        """As the libraries in the folder `routes` have it."""
        found = (known.part for known in all_routes() if known.part and function in known.applications)
        return next((part for part in found if not function.endswith(f".{part.imported.name}")), None)

    def tells_application(self, function: str) -> bool:
        """As the libraries in the folder `routes` have it."""
        return any(known.tells(function) for known in all_routes())

    def says_not_found(self, imported: Collection[str]) -> Refusal | None:
        """As the libraries in the folder `routes` have it."""
        found = (known.not_found for known in all_routes() if known.is_used_in(imported))
        return next((refusal for refusal in found if refusal is not None), None)

    def written_hook(self, decorator: str, keywords: Collection[str], *, is_called: bool) -> str | None:
        """As the libraries in the folder `routes` have it."""
        found = (known.written(decorator, keywords, is_called=is_called) for known in all_routes())
        return next((written for written in found if written is not None), None)


def _brought(reference: Reference) -> tuple[str, str]:
    """The module and the name by which something was imported."""
    imported = reference.symbol.imported
    if imported is None:
        return "", ""
    return imported.module, imported.name or ".".join(step.name or "" for step in reference.path)
