"""What the upper layers ask of a language."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from pathlib import Path
from typing import Protocol

from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference
from aedifex.source.text import SourceText


class Dialect(Protocol):
    """One language: how its files are read, what its library does, and how its code is written.

    `hooks` are the keywords by which functions of its library are given something to call, `saying`
    and `asking` its functions that print and that read a typed line, `target` the keyword that says where to print;
    `main_loops` are the functions by which libraries take the program over.
    """

    name: str
    suffixes: tuple[str, ...]
    receiver: str
    nothing: str
    module_word: str
    no_value: str
    hooks: frozenset[str]
    saying: str
    asking: str
    target: str
    main_loops: frozenset[str]

    def read(self, source: SourceText) -> Module:
        """Read one file.

        Raises:
            UnreadableError: it does not follow the language's grammar.
        """
        ...

    def of_interpreter(self, command: str) -> Dialect:
        """The same language, for scripts that another interpreter runs, with another library.

        Raises:
            RunError: the interpreter cannot be asked for its library.
        """
        ...

    def check(self, source: SourceText) -> None:
        """Have the language's own compiler check a text, without running it.

        Raises:
            UnreadableError: it finds a mistake.
        """
        ...

    def link(self, modules: Mapping[Path, Module]) -> None:
        """Set the `target` of each imported symbol that another of these modules defines."""
        ...

    def neighbours(self, module: Module) -> Sequence[Path]:
        """The files beside a script that it imports, directly or through one another."""
        ...

    def users(self, path: Path) -> Sequence[Path]:
        """The files beside a script that import it."""
        ...

    def module_name(self, path: Path, importer: Path) -> str:
        """The name under which the script `importer` imports the file at `path`."""
        ...

    def only_reads_arguments(self, function: str) -> bool:
        """Whether a library function of this name leaves its arguments alone and calls nothing back."""
        ...

    def only_reads_object(self, method: str) -> bool:
        """Whether a method of this name leaves its object as it is."""
        ...

    def may_have_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether objects of a class that a file in `folder` inherits from may have a member of that name."""
        ...

    def steers_access(self, name: str) -> bool:
        """Whether a name decides how the members of an object are reached, copied or stored, or leads to its class."""
        ...

    def copies_objects(self, module: str) -> bool:
        """Whether a library module copies or stores objects member by member."""
        ...

    def runs_beside(self, module: str) -> bool:
        """Whether a library module lets routines of the program run at the same time as others."""
        ...

    def is_implicit_method(self, name: str) -> bool:
        """Whether the language itself calls methods of this name."""
        ...

    def is_place_name(self, name: str) -> bool:
        """Whether a builtin name means something else in another file."""
        ...

    def looks_up_members(self, name: str) -> bool:
        """Whether a function or attribute of this name reaches the members of an object by their text."""
        ...

    def is_private(self, name: str) -> bool:
        """Whether a name means something else inside a class than outside."""
        ...

    def is_name(self, text: str) -> bool:
        """Whether a text can be a name of the user's own."""
        ...

    def is_taken(self, name: str) -> bool:
        """Whether the language or its builtins use a name already."""
        ...

    def is_module_taken(self, name: str) -> bool:
        """Whether a file of this name would hide a module of the language's library."""
        ...

    def is_library_module(self, name: str) -> bool:
        """Whether a module is of the language's own library, so that importing it goes unnoticed."""
        ...

    def class_name(self, words: Sequence[str]) -> str:
        """A class's name made of words."""
        ...

    def member_name(self, words: Sequence[str]) -> str:
        """A field's, method's or file's name made of words."""
        ...

    def class_head(self, name: str, doc: str, unit: str) -> str:
        """The lines that begin a class, its docstring included where `doc` is not empty."""
        ...

    def is_constructor(self, name: str) -> bool:
        """Whether a method of this name sets up a new object."""
        ...

    def ends_program(self, module: str, function: str) -> bool:
        """Whether a library function ends the program and never comes back."""
        ...

    def job_of(self, function: str) -> str:
        """What a library function, named with its path, is for: `take_input`, `draw`, or nothing that is known."""
        ...

    def is_quiet_library(self, module: str) -> bool:
        """Whether the functions of a library module never call the program back, unless they are given a function."""
        ...

    def constructor_head(self, parameters: Sequence[str], unit: str) -> str:
        """The line that begins a constructor, indented by `unit`."""
        ...

    def method_head(self, name: str, unit: str) -> str:
        """The line that begins a method without parameters, indented by `unit`."""
        ...

    def function_head(self, name: str, parameters: str) -> str:
        """The line that begins a function at the margin."""
        ...

    def truth(self, value: bool) -> str:
        """How a truth value is written."""
        ...

    def unless(self, condition: str, action: str, margin: str, unit: str) -> str:
        """The lines that do something unless a condition holds."""
        ...

    def asking_method(self, name: str, reader: str, target: str, unit: str) -> str:
        """The method that reads a typed line from the reader that its object keeps, if that has one."""
        ...

    def entry(self, owner: str, run: str, unit: str) -> str:
        """The last lines of a script: a `main` of two lines, and what starts it."""
        ...

    def import_names(self, module: str, names: Sequence[str]) -> str:
        """A line that imports names from a module."""
        ...

    def is_library_line(self, line: str) -> bool:
        """Whether an import line brings something of the language's own library."""
        ...

    def import_line(self, module: str, what: str | None, name: str) -> str:
        """A line that imports a module, or `what` from it, under a name."""
        ...

    def inputs_of(self, module: Module) -> Inputs:
        """What a script listens to: typed words, keys, clicks, arguments."""
        ...

    def postpones_annotations(self, module: Module) -> bool:
        """Whether a file's annotations are not evaluated where they stand."""
        ...

    def shared_heading(self, module: Module) -> str:
        """Lines that every file made from `module` must begin with to mean the same."""
        ...
