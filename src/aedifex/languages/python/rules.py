"""What names mean to Python itself."""

from __future__ import annotations

import re
from collections.abc import Sequence

from aedifex.languages.python.library import standard
from aedifex.program.dialect.written import Inheritance
from aedifex.program.model.expressions import Expression
from aedifex.program.model.module import Module
from aedifex.program.model.names import Reference, Symbol
from aedifex.program.model.statements import Call, Function, Routine, Statement, Value
from aedifex.source.text import Span

_USABLE_SOFT_KEYWORDS = frozenset({"match", "case", "type"})
_CONSTRUCTORS = frozenset({"__init__", "__new__", "__post_init__"})
_PLACE_NAMES = frozenset("__file__ __name__ __doc__ __spec__ __package__ __loader__".split())
_DIRECTIVE = re.compile(
    r"\s*(?:-\*-|(?:vim?|ex|kate|coding|encoding|pylint|flake8|ruff|mypy|pyright|isort|yapf|black|type|noqa|nosec|pragma"
    r"|SPDX-[\w-]+):|fmt:\s*(?:off|on|skip)\b|isort:|noqa\b|type:\s*ignore)"
)
_TEMPLATE_MEMBER = re.compile(r"\{\w*\.[A-Za-z_]\w*[^{}]*\}")
_ABOUT_FILE = frozenset("__all__ __version__ __author__".split())

_SEARCHED = re.compile(r"(?<!not )\bin (\w+)\s*:?\s*$")
_ASKING_KIND = frozenset({"isinstance", "issubclass"})
_NAMES = re.compile(r"[\w\s,()]+")
_BEGINNING = re.compile(rb"super\(\s*\)\s*\.\s*__init__\s*\(")
_PLACE = re.compile(r"-?[0-9]+")
_COMPARED = re.compile(r"^\W*(?:\w+\W+)?[\w.]+\s*(?:==|\bis\b)\s*(?:\w+\.)*([A-Z][A-Z0-9_]{2,})\s*:?\s*$")


class PythonRules:
    """Python's rules for names."""

    methods_hang_on = ""
    constructor = "__init__"
    binds_anew = True
    base_comes_first = False
    runs_by_events = False
    has_functions_early = False
    ends_silently = False
    keys_are_members = False
    lets_go_at_once = True
    calls_tell_owner = False
    calls_for_each = ""
    entry = "main"
    name_attribute = "__name__"
    full_name_attributes = frozenset({"__qualname__"})
    many_have_names = False
    doc_attribute = "__doc__"
    count_attribute = ""
    reaches_base = "super"

    def is_name(self, text: str) -> bool:
        """Whether a text can be an identifier of the user's own."""
        return text.isidentifier() and text not in standard.KEYWORDS - _USABLE_SOFT_KEYWORDS

    def is_taken(self, name: str) -> bool:
        """Whether the language or its builtins use a name already."""
        return name in standard.KEYWORDS or name in standard.BUILTINS

    def is_taken_as_member(self, name: str) -> bool:
        """Fields are not called as functions of the language either."""
        return self.is_taken(name)

    def is_directive(self, comment: str) -> bool:
        """Whether a comment, without its mark, speaks to an editor or a tool."""
        return _DIRECTIVE.match(comment) is not None

    def is_reserved(self, name: str) -> bool:
        """Whether it begins with two underscores, which Python mangles or means itself, or is what starts programs."""
        return name.startswith("__") or name == self.entry

    def is_private(self, name: str) -> bool:
        """Whether a name would be mangled inside a class."""
        return name.startswith("__") and not name.endswith("__")

    def has_meaning(self, name: str) -> bool:
        """Whether a member's name begins with two underscores: Python calls it, or mangles it."""
        return name.startswith("__")

    def is_kept_outside(self, module: Module, symbol: Symbol) -> bool:
        """None is."""
        return False

    def is_of_world(self, name: str) -> bool:
        """Each file has names of its own."""
        return False

    def calls_once(self, module: Module, statement: Statement) -> bool:
        """Nothing is known of what others call."""
        return False

    def makes_object(self, module: Module, function: Reference) -> bool:
        """No function is."""
        return False

    def asks_kind(self, module: Module, function: Reference) -> bool:
        """By `isinstance` or `issubclass`, which it is given alone or in a tuple."""
        if function.path or function.statement is None:
            return False
        asking = [c for c in function.statement.calls if c.callee is not None and c.callee.name in _ASKING_KIND]
        given = [c.arguments[1] for c in asking if len(c.arguments) == 2 and c.callee is not None and not c.callee.path]
        return any(a.start <= function.start < a.end and _NAMES.fullmatch(module.source.slice(a.span)) for a in given)

    def is_closed_over(self, module: Module, routine: Routine) -> bool:
        """Each is."""
        return True

    def members_written(self, module: Module, value: Span) -> None:
        """Python has no objects that are written out."""

    def inheritances(self, module: Module) -> Sequence[Inheritance]:
        """Classes say themselves what they inherit from."""
        return ()

    def base_call(self, module: Module, function: Reference) -> None:
        """None: what makes objects is a class."""

    def is_bound_for_good(self, module: Module, value: Value) -> bool:
        """It need not be: what an object has in a field is told nothing."""
        return False

    def has_receiver(self, module: Module, routine: Routine) -> bool:
        """One that hangs on a class would be."""
        return False

    def walks_over_names(self, module: Module) -> int | None:
        """Nothing hangs on what all objects share."""
        return None

    def shows_maker(self, module: Module) -> int | None:
        """Classes make all objects."""
        return None

    def is_there_early(self, module: Module, symbol: Symbol) -> bool:
        """None is declared."""
        return True

    def hands_on(self, function: Reference) -> bool:
        """None does that a method has in the same way."""
        return False

    def is_constructor(self, name: str) -> bool:
        """Whether a method of this name has to do with setting up a new object."""
        return name in _CONSTRUCTORS

    def begins_base(self, module: Module, call: Call) -> bool:
        """`super().__init__(…)`."""
        text = module.source.parse_view[call.start : call.inside.start] if call.inside is not None else b""
        return _BEGINNING.fullmatch(text) is not None

    def is_finalizer(self, name: str) -> bool:
        """Whether it is `__del__`."""
        return name == "__del__"

    def is_implicit_method(self, name: str) -> bool:
        """Whether Python itself calls methods of this name."""
        return name.startswith("__") and name.endswith("__")

    def is_root_class(self, name: str) -> bool:
        """Whether a class of this name is what every class inherits from anyway."""
        return name == "object"

    def is_place_name(self, name: str) -> bool:
        """Whether a builtin name means something else in another file."""
        return name in _PLACE_NAMES

    def is_about_file(self, name: str) -> bool:
        """Whether a variable of this name tells importers and tools something about its file."""
        return name in _ABOUT_FILE

    def event_member(self, module: Module, value: Expression) -> str:
        """No function has a receiver that it does not name."""
        return ""

    def lets_go(self, module: Module, value: Expression) -> bool:
        """Nothing is called on an event for which it would matter."""
        return False

    def is_handed_out(self, module: Module, name: str) -> bool:
        """Whether the name stands as a text in a statement about `__all__`."""
        listing = module.scope.symbols.get("__all__")
        references = listing.references if listing is not None else ()
        places = [r.statement.span for r in references if r.statement is not None]
        quoted = (f"'{name}'", f'"{name}"')
        return any(text in module.source.slice(span) for span in places for text in quoted)

    def runs_first(self, module: Module, function: Function) -> bool:
        """No runner is known to promise that."""
        return False

    def is_found_by_own_name(self, module: Module, name: str) -> bool:
        """Runners have names of their own for what they look for."""
        return False

    def hands_out(self, module: Module, statement: Statement) -> bool:
        """Names are handed out as they are; a list of them only tells which."""
        return False

    def handed_out_as(self, module: Module, statement: Statement, routine: Span) -> tuple[str, str]:
        """What has no name is not handed out."""
        return "", ""

    def words_handing_out(self, module: Module, statement: Statement) -> Span:
        """There are none."""
        return Span(statement.start, statement.start)

    def may_wait_behind(self, function: Function) -> bool:
        """Who asks a function whether it waits would notice one before it that does not."""
        return not function.is_async and not function.is_postponed

    def compared_constant(self, condition: str) -> str:
        """A name in capitals, perhaps of a module, behind `==` or `is`."""
        found = _COMPARED.search(condition)
        return found[1] if found is not None else ""

    def searched_container(self, condition: str) -> str:
        """The name behind the last `in`, if nothing follows it."""
        found = _SEARCHED.search(condition)
        return found[1] if found is not None else ""

    def place_asked(self, key: str, length: int) -> int | None:
        """Numbers with a minus count from the end."""
        if not _PLACE.fullmatch(key):
            return None
        number = int(key)
        return number % length if -length <= number < length else None

    def customises_access(self, name: str) -> bool:
        """Whether a name decides how the members of an object are reached, copied or stored, or leads to its class."""
        return name in standard.ACCESS_NAMES

    def names_member(self, text: str) -> bool:
        """Whether a plain text is a template that takes a member of what it is given: `{kite.x}`."""
        return _TEMPLATE_MEMBER.search(text) is not None

    def is_reflection(self, name: str) -> bool:
        """Whether a function or attribute of this name reaches the members of an object by their text."""
        return name in standard.MEMBER_LOOKUPS
