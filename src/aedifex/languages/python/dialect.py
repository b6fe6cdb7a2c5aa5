"""Python as a `Dialect`."""

from __future__ import annotations

import builtins
import re
from collections.abc import Mapping, Sequence
from pathlib import Path

from aedifex.languages.python import inputs, knowledge, writer
from aedifex.languages.python.imports import linking, neighbours
from aedifex.languages.python.imports.stars import StarImports, search_path_of
from aedifex.languages.python.reader import grammar
from aedifex.languages.python.reader.modules import read_module
from aedifex.program.model.inputs import Inputs
from aedifex.program.model.module import Module
from aedifex.program.model.names import Origin, Reference
from aedifex.source.text import SourceText

_USABLE_SOFT_KEYWORDS = frozenset({"match", "case", "type"})


class PythonDialect:
    """How Python is read and written."""

    name = "python"
    suffixes: tuple[str, ...] = (".py", ".pyw")
    receiver = writer.RECEIVER
    nothing = "pass"
    module_word = "global"
    no_value = "None"
    hooks = knowledge.HOOKS
    main_loops = knowledge.MAIN_LOOPS
    saying, asking, target = "print", "input", "file"

    def __init__(self, stars: StarImports | None = None) -> None:
        self.stars = stars or StarImports()

    def of_interpreter(self, command: str) -> PythonDialect:
        """The same, for scripts that another Python runs: its library tells what star imports bring."""
        return PythonDialect(StarImports(search_path_of(command)))

    def read(self, source: SourceText) -> Module:
        """Read one file."""
        return read_module(source, self, self.stars)

    def check(self, source: SourceText) -> None:
        """Have this Python compile a text, without running it."""
        grammar.check(source)

    def link(self, modules: Mapping[Path, Module]) -> None:
        """Follow imports between files."""
        linking.link(modules)

    def neighbours(self, module: Module) -> Sequence[Path]:
        """The files below the script's folder that it imports, directly or through one another."""
        return neighbours.find(module, self)

    def users(self, path: Path) -> Sequence[Path]:
        """The files beside a script that import it."""
        return neighbours.users(path, self)

    def module_name(self, path: Path, importer: Path) -> str:
        """The dotted name of a file as seen from a script's folder."""
        return ".".join(path.relative_to(importer.parent).with_suffix("").parts)

    def only_reads_arguments(self, function: str) -> bool:
        """Whether a library function of this name leaves its arguments alone and calls nothing back."""
        return function in knowledge.ONLY_READING_FUNCTIONS

    def only_reads_object(self, method: str) -> bool:
        """Whether a method of this name leaves its object as it is."""
        return method in knowledge.ONLY_READING_METHODS

    def is_constructor(self, name: str) -> bool:
        """Whether a method of this name sets up a new object."""
        return name in ("__init__", "__new__", "__post_init__")

    def ends_program(self, module: str, function: str) -> bool:
        """Whether a library function ends the program and never comes back."""
        return (module, function) in (("sys", "exit"), ("os", "_exit"), ("os", "abort"))

    def job_of(self, function: str) -> str:
        """What a library function, named with its path, is for: `take_input`, `draw`, or nothing that is known."""
        whole, last = function, function.rpartition(".")[2]
        for job, endings in knowledge.JOBS.items():
            if last in endings or any(whole.endswith(f".{ending}") for ending in endings):
                return job
        return ""

    def is_quiet_library(self, module: str) -> bool:
        """Whether the functions of a library module never call the program back, unless they are given a function."""
        return module in knowledge.QUIET_MODULES

    def may_have_member(self, base: Reference, name: str, folder: Path) -> bool:
        """Whether objects of a class that a file in `folder` inherits from may have a member of that name.

        A library's source tells by the members that it names anywhere; what has none may have any.
        """
        if base.symbol.brought is None:
            found = getattr(getattr(builtins, base.name, None), name, None)
            return base.symbol.origin is not Origin.BUILTIN or found is not getattr(object, name, None)
        module, what = base.symbol.brought
        steps = [*([what] if what is not None else []), *(step.name or "" for step in base.path)]
        path = self.stars.find(".".join([module, *steps[:-1]]), folder)
        if path is None:
            return True
        named = re.compile(rf"(?:\.|\bdef\s+){name}\b|^[ \t]+{name}\s*[=:]|['\"]{name}['\"]", re.MULTILINE)
        return named.search(path.read_text("utf-8", errors="replace")) is not None

    def steers_access(self, name: str) -> bool:
        """Whether a name decides how the members of an object are reached, copied or stored, or leads to its class."""
        return name in knowledge.ACCESS_NAMES

    def copies_objects(self, module: str) -> bool:
        """Whether a library module copies or stores objects member by member."""
        return module.partition(".")[0] in knowledge.COPYING_MODULES

    def runs_beside(self, module: str) -> bool:
        """Whether a library module lets routines of the program run at the same time as others."""
        return module.partition(".")[0] in knowledge.CONCURRENT_MODULES

    def is_implicit_method(self, name: str) -> bool:
        """Whether Python itself calls methods of this name."""
        return name.startswith("__") and name.endswith("__")

    def is_place_name(self, name: str) -> bool:
        """Whether a builtin name means something else in another file."""
        return name in ("__file__", "__name__", "__doc__", "__spec__", "__package__", "__loader__")

    def looks_up_members(self, name: str) -> bool:
        """Whether a function or attribute of this name reaches the members of an object by their text."""
        return name in knowledge.MEMBER_LOOKUPS

    def is_private(self, name: str) -> bool:
        """Whether a name would be mangled inside a class."""
        return name.startswith("__") and not name.endswith("__")

    def is_name(self, text: str) -> bool:
        """Whether a text can be an identifier of the user's own."""
        return text.isidentifier() and text not in knowledge.KEYWORDS - _USABLE_SOFT_KEYWORDS

    def is_taken(self, name: str) -> bool:
        """Whether the language or its builtins use a name already."""
        return name in knowledge.KEYWORDS or name in knowledge.BUILTINS

    def is_module_taken(self, name: str) -> bool:
        """Whether a file of this name would hide a module of the standard library or an installed one."""
        return name in knowledge.STANDARD_MODULES or self.stars.is_module(name)

    def is_library_module(self, name: str) -> bool:
        """Whether a module is of the standard library, but for those that do something when imported."""
        return name.partition(".")[0] in knowledge.STANDARD_MODULES - knowledge.NOTICED_IMPORTS

    def class_name(self, words: Sequence[str]) -> str:
        """Words in capitals, joined."""
        return writer.class_name(words)

    def member_name(self, words: Sequence[str]) -> str:
        """Words in small letters, joined by underscores."""
        return writer.member_name(words)

    def class_head(self, name: str, doc: str, unit: str) -> str:
        """The lines that begin a class."""
        return writer.class_head(name, doc, unit)

    def constructor_head(self, parameters: Sequence[str], unit: str) -> str:
        """The line that begins a constructor."""
        return writer.method_head("__init__", parameters, unit)

    def method_head(self, name: str, unit: str) -> str:
        """The line that begins a method without parameters."""
        return writer.method_head(name, [], unit)

    def function_head(self, name: str, parameters: str) -> str:
        """The line that begins a function at the margin."""
        return f"def {name}({parameters}):\n"

    def truth(self, value: bool) -> str:
        """How a truth value is written."""
        return str(value)

    def unless(self, condition: str, action: str, margin: str, unit: str) -> str:
        """The lines that do something unless a condition holds."""
        return f"{margin}if not {condition}:\n{margin}{unit}{action}\n"

    def asking_method(self, name: str, reader: str, target: str, unit: str) -> str:
        """The method that reads a typed line from the reader that its object keeps, if that has one."""
        return writer.asking_method(name, reader, target, unit)

    def entry(self, owner: str, run: str, unit: str) -> str:
        """The two-line `main` and its guard."""
        return writer.entry(owner, run, unit)

    def import_names(self, module: str, names: Sequence[str]) -> str:
        """A line that imports names from a module."""
        return writer.import_names(module, names)

    def is_library_line(self, line: str) -> bool:
        """Whether an import line brings something of the standard library."""
        return line.split()[1].partition(".")[0] in knowledge.STANDARD_MODULES

    def import_line(self, module: str, what: str | None, name: str) -> str:
        """A line that imports a module, or `what` from it, under a name."""
        return writer.import_line(module, what, name)

    def inputs_of(self, module: Module) -> Inputs:
        """What a script listens to."""
        return inputs.find(module)

    def postpones_annotations(self, module: Module) -> bool:
        """Whether the file asks for it by a `__future__` import."""
        return any(symbol.brought == ("__future__", "annotations") for symbol in module.symbols)

    def shared_heading(self, module: Module) -> str:
        """The `__future__` imports, which hold for a whole file."""
        features = [s.brought[1] for s in module.symbols if s.brought and s.brought[0] == "__future__"]
        return writer.import_names("__future__", [f for f in features if f]) + "\n" if features else ""


DIALECT = PythonDialect()
