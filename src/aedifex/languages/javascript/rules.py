"""What names mean to JavaScript itself."""

from __future__ import annotations

import re
from collections.abc import Sequence

from aedifex.languages.javascript.callers import SKETCH
from aedifex.languages.javascript.elements import Elements
from aedifex.languages.javascript.library.names import BUILTINS, FILE_ITSELF, HANDLERS, KEYWORDS
from aedifex.languages.javascript.prototype_chains import base_call, inheritances
from aedifex.languages.javascript.written_objects import members_written
from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.dialect.written import BaseCall, Inheritance, WrittenMember
from aedifex.program.model.expressions import Expression, Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Reference, Symbol
from aedifex.program.model.statements import Call, Function, Lambda, Routine, Statement, Value
from aedifex.source.text import Span

_NAME = re.compile(r"[^\W\d][\w$]*|\$[\w$]*")
_DIRECTIVE = re.compile(r"\s*(?:eslint|jshint|jslint|global|globals|exported|prettier|@ts-|istanbul|c8|v8)\b")
_COMPARED = re.compile(r"^\W*(?:\w+\W+)?[\w.]+\s*===?\s*(?:\w+\.)*([A-Z][A-Z0-9_]{2,})\s*\)?\s*$")
_SEARCHED = re.compile(r"^\(?\s*(\w+)\.(?:includes|has)\([^()]*\)\s*\)?$")
_FUNCTION = re.compile(rb"(?:async\s+)?function\b")
_OVER_NAMES = re.compile(rb"(?<![\w$.])for\s*\(\s*(?:(?:var|let|const)\s+)?[\w$.]+\s+in\b")
_SHOWING = re.compile(rb"(?<![\w$.])console\s*\.|\binspect\b|\.\s*constructor\b")
_BEGINNING = re.compile(rb"super\s*\(")
_LAST_WORD = re.compile(rb"([\w$]+)\s+\Z")
_REACH = 80
_PLACE = re.compile(r"[0-9]+")
_EXPORT = re.compile(r"export\s+(?:default\s+)?")
_NAMED = re.compile(r"(?P<name>[A-Za-z_$][\w$]*)\s*[:=]\s*$")
_METHOD = re.compile(r"(?:async\s+)?(?!(?:function|async)\b)(?P<name>[A-Za-z_$][\w$]*)\s*\([^)]*\)\s*\{")
_BOUND = re.compile(r"\.\s*bind\([^()]*\)$")
_ONCE = re.compile(
    r"""(?:window\s*\.\s*)?onload\s*=|setTimeout\s*\(|(?:\$|jQuery)\s*\(|
    (?:window|document)\s*\.\s*addEventListener\s*\(\s*["'](?:DOMContentLoaded|load)["']""",
    re.VERBOSE,
)
_EXPORTING = re.compile(r"^export\b|(?<![\w$.])(?:module\.)?exports\b")
_ELEMENT = "currentTarget"
_TELLING = HANDLERS - {"onerror"}  # which is told of no event
_OF_WINDOW = HANDLERS | frozenset("closed event length location name opener origin parent self status top".split())
_MEANT = frozenset("constructor prototype __proto__ toString valueOf toJSON then".split())
_REFLECTING = frozenset("Function Proxy Reflect assign defineProperty eval getOwnPropertyNames setPrototypeOf".split())


class JavaScriptRules:
    """JavaScript's rules for names."""

    constructor = "constructor"
    methods_hang_on = "prototype"
    binds_anew = False
    base_comes_first = True
    runs_by_events = True
    has_functions_early = True
    ends_silently = True
    keys_are_members = True
    lets_go_at_once = False
    calls_tell_owner = True
    calls_for_each = "forEach"
    entry = "main"
    name_attribute = "name"
    full_name_attributes = frozenset({"name"})  # that of a bound method begins with a word of its own
    many_have_names = True
    doc_attribute = ""
    count_attribute = "length"
    reaches_base = "super"

    def is_name(self, text: str) -> bool:
        """Whether a text can be an identifier of the user's own."""
        return _NAME.fullmatch(text) is not None and text not in KEYWORDS

    def is_taken(self, name: str) -> bool:
        """Whether the language, the document or Node use a name already."""
        return name in KEYWORDS or name in BUILTINS

    def is_taken_as_member(self, name: str) -> bool:
        """Whether the language uses it: what the document or Node have is no member of an object."""
        return name in KEYWORDS

    def is_directive(self, comment: str) -> bool:
        """Whether a comment, without its mark, speaks to a tool."""
        return _DIRECTIVE.match(comment) is not None

    def is_reserved(self, name: str) -> bool:
        """Whether it is what starts programs, or what leads to the prototype."""
        return name in (self.entry, "__proto__")

    def is_private(self, name: str) -> bool:
        """Whether a name is known inside its class only."""
        return name.startswith("#")

    def has_meaning(self, name: str) -> bool:
        """Whether JavaScript asks for a member of this name itself."""
        return name in _MEANT

    def is_kept_outside(self, module: Module, symbol: Symbol) -> bool:
        """Whether it is a member of the window that `var`, or no declaration, leaves what it is."""
        is_local = module.waiting_names is not None
        return symbol.name in _OF_WINDOW and not is_local and words_declaring(module, symbol) <= {"var"}

    def is_of_world(self, name: str) -> bool:
        """Whether the language, the window or Node has it."""
        return name in BUILTINS or name in _OF_WINDOW

    def calls_once(self, module: Module, statement: Statement) -> bool:
        """Whether it waits for a page to be there, or for a time."""
        return _ONCE.match(module.source.slice(statement.span)) is not None

    def makes_object(self, module: Module, function: Reference) -> bool:
        """Whether `new` stands before it."""
        return _word_before(module, function) == b"new"

    def asks_kind(self, module: Module, function: Reference) -> bool:
        """Whether `instanceof` stands before it."""
        return _word_before(module, function) == b"instanceof"

    def is_bound_for_good(self, module: Module, value: Value) -> bool:
        """Whether it ends in a call of `bind`."""
        return _BOUND.search(module.source.slice(value.span)) is not None

    def has_receiver(self, module: Module, routine: Routine) -> bool:
        """Whether it is no arrow."""
        if isinstance(routine, Function):
            return _FUNCTION.match(module.source.parse_view, routine.statement.start) is not None
        body = routine.body if isinstance(routine, Lambda) else None
        return body is not None and "=>" not in module.source.slice(Span(routine.signature.end, body.start))

    def is_closed_over(self, module: Module, routine: Routine) -> bool:
        """Whether it can be an arrow: what an object has between its braces, without the word, cannot."""
        return (
            isinstance(routine, Function) or _FUNCTION.match(module.source.parse_view, routine.scope.start) is not None
        )

    def members_written(self, module: Module, value: Span) -> Sequence[WrittenMember] | None:
        """Those of an object between braces."""
        return members_written(module, value)

    def inheritances(self, module: Module) -> Sequence[Inheritance]:
        """By `Object.create` and `Object.setPrototypeOf`."""
        return inheritances(module)

    def base_call(self, module: Module, function: Reference) -> BaseCall | None:
        """By `call`, or by `apply` with `arguments`."""
        return base_call(module, function)

    def walks_over_names(self, module: Module) -> int | None:
        """The first `for (… in …)`."""
        found = _OVER_NAMES.search(module.source.parse_view)
        return found.start() if found is not None else None

    def shows_maker(self, module: Module) -> int | None:
        """The first thing that is shown on the console, or asked for its constructor."""
        found = _SHOWING.search(module.source.parse_view)
        return found.start() if found is not None else None

    def is_there_early(self, module: Module, symbol: Symbol) -> bool:
        """Whether `var` declares it, or nothing: not what `let` declares, nor what is given, which has a value."""
        is_given = any(reference.form is Form.PARAMETER for reference in symbol.references)
        return not is_given and words_declaring(module, symbol) <= {"var"}

    def hands_on(self, function: Reference) -> bool:
        """`bind`, `call` and `apply`: what they say of `this` matters to nothing that is kept bound."""
        return bool(function.path) and function.path[0].name in ("bind", "call", "apply")

    def is_constructor(self, name: str) -> bool:
        """Whether it is `constructor`."""
        return name == self.constructor

    def begins_base(self, module: Module, call: Call) -> bool:
        """`super(…)`."""
        text = module.source.parse_view[call.start : call.inside.start] if call.inside is not None else b""
        return _BEGINNING.fullmatch(text) is not None

    def is_finalizer(self, name: str) -> bool:
        """Nothing runs when an object goes."""
        return False

    def is_implicit_method(self, name: str) -> bool:
        """Whether JavaScript itself calls methods of this name, to make a text, a number or a promise of an object."""
        return name in _MEANT or name.startswith("[Symbol.")

    def is_root_class(self, name: str) -> bool:
        """Whether a class of this name is what every class inherits from anyway."""
        return name == "Object"

    def is_place_name(self, name: str) -> bool:
        """Whether a builtin name means something else in another file."""
        return name in ("__filename", "__dirname", "module", "exports", "require", FILE_ITSELF)

    def is_about_file(self, name: str) -> bool:
        """No variable tells tools something about its file."""
        return False

    def event_member(self, module: Module, value: Expression) -> str:
        """`currentTarget`, where an element of the page, or the page itself, gets it as a listener or under `on…`.

        Or where the usual library for pages tells them of it: who is asked for has the same.
        """
        surroundings, elements = Surroundings.of(module), Elements.of(module)
        around = surroundings.around(value)
        target = around.parts[0] if around is not None else None
        if around is None or target is None or target.sense is not Sense.MEMBER or len(around.parts) < 2:
            return ""
        is_called, name = around.sense is Sense.CALL, target.name or ""
        is_told = is_called and name == "addEventListener" and around.parts[2:3] == [value]
        is_set = around.sense is Sense.SET and around.parts == [target, value] and name in _TELLING
        if is_told or (is_set and name not in elements.members_asked_for):
            return _ELEMENT if elements.is_one(target.parts[0]) else ""
        is_last = is_called and around.parts[-1] is value
        tells = is_last and (name == "on" if len(around.parts) > 2 else f"on{name}" in HANDLERS)
        return _ELEMENT if tells and elements.are_asked_for(target.parts[0]) else ""

    def lets_go(self, module: Module, value: Expression) -> bool:
        """`removeEventListener`."""
        around = Surroundings.of(module).around(value)
        return around is not None and around.sense is Sense.CALL and around.parts[0].name == "removeEventListener"

    def is_handed_out(self, module: Module, name: str) -> bool:
        """Whether a statement about `export` or `exports` names it, and does not only call it."""
        symbol = module.scope.symbols.get(name)
        uses = symbol.references if symbol is not None else ()
        named = [r for r in uses if r.mode is not Mode.CALL and r.scope is module.scope]
        return any(r.statement is not None and self.hands_out(module, r.statement) for r in named)

    def runs_first(self, module: Module, function: Function) -> bool:
        """`setup` of a sketch, where nothing but its library finds functions, and none is looked for before."""
        is_alone = set(module.found_by_name.values()) == {SKETCH} and "preload" not in module.found_by_name
        return function.name == "setup" and function.name in module.found_by_name and is_alone

    def is_found_by_own_name(self, module: Module, name: str) -> bool:
        """Pages and other files ask for what the script has; only libraries for sketches look for names of theirs."""
        return module.found_by_name.get(name, SKETCH) != SKETCH

    def hands_out(self, module: Module, statement: Statement) -> bool:
        """Whether its own text is about `export` or `exports`."""
        end = statement.header_end if statement.blocks else statement.end
        return _EXPORTING.search(module.source.slice(Span(statement.start, end))) is not None

    def handed_out_as(self, module: Module, statement: Statement, routine: Span) -> tuple[str, str]:
        """`exports.add = function …` and `add: …` name it `add`, and so does `add(…) { … }`, whose key it is."""
        method = _METHOD.match(module.source.slice(routine))
        if method is not None:
            return method["name"], method["name"]
        named = _NAMED.search(module.source.slice(Span(statement.start, routine.start)))
        return (named["name"] if named is not None and named["name"] != "exports" else ""), ""

    def words_handing_out(self, module: Module, statement: Statement) -> Span:
        """`export`, or `export default`, before what is declared."""
        found = _EXPORT.match(module.source.slice(statement.span))
        return Span(statement.start, statement.start + (len(found[0].encode()) if found is not None else 0))

    def may_wait_behind(self, function: Function) -> bool:
        """Whoever calls it gets a promise or an iterator, whether or not the function itself is one that waits."""
        return True

    def compared_constant(self, condition: str) -> str:
        """A name in capitals behind `===`."""
        found = _COMPARED.search(condition)
        return found[1] if found is not None else ""

    def searched_container(self, condition: str) -> str:
        """What `includes` or `has` is asked of."""
        found = _SEARCHED.match(condition)
        return found[1] if found is not None else ""

    def place_asked(self, key: str, length: int) -> int | None:
        """Numbers count from the begin; one with a minus is no place."""
        return int(key) if _PLACE.fullmatch(key) and int(key) < length else None

    def customises_access(self, name: str) -> bool:
        """Whether a name leads to what an object inherits from, or is made by."""
        return name in ("__proto__", "prototype", "constructor")

    def names_member(self, text: str) -> bool:
        """No plain text takes a member of what it is given."""
        return False

    def is_reflection(self, name: str) -> bool:
        """Whether it reaches the members of an object by their text."""
        return name in _REFLECTING


def _word_before(module: Module, name: Reference) -> bytes:
    """The word before a name, where nothing but blanks parts them."""
    found = _LAST_WORD.search(module.source.parse_view, max(name.start - _REACH, 0), name.start)
    return found[1] if found is not None else b""


def words_declaring(module: Module, symbol: Symbol) -> set[str]:
    """The words by which a symbol is declared: `let`, `const`, `var`, or none."""
    statements = [r.statement for r in symbol.references if r.declares and r.statement is not None]
    return {module.source.slice(s.keyword) for s in statements if s.keyword is not None}
