"""Names for classes, instances, files and members, made from the script's own words."""

from __future__ import annotations

import re
from collections.abc import Collection, Container, Iterable, Sequence
from pathlib import Path

from aedifex.program.analysis.surroundings import Surroundings
from aedifex.program.analysis.values import first_value, value_of
from aedifex.program.dialect.handling import CALLING, CHANGING, Handling
from aedifex.program.model.expressions import Sense
from aedifex.program.model.module import Module
from aedifex.program.model.names import Form, Mode, Symbol
from aedifex.program.model.statements import Shape, Sort, Value, final_name
from aedifex.program.structure.obstacles import told_name
from aedifex.program.structure.routes import Routes
from aedifex.survey.handler_names import kept_things
from aedifex.survey.words import is_plural, singular, words_of

ATTRIBUTE_WORDS = frozenset(
    "x y z dx dy vx vy pos position speed velocity direction dir angle heading size width height length count counter "
    "number num total sum max min maximum minimum old new last previous next current is has can on off time timer "
    "delay color colour name id list text value index state flag data item level start end begin stop left right up "
    "down top bottom first second temp tmp result mode status type kind "
    "today yesterday tomorrow now".split()
)
"""Words that say something about a thing rather than name one."""

CONTAINER_WORDS = frozenset("items all list elements entries content contents queue stack".split())
"""Words that say that there are several of something, and not of what."""

VALUE_WORDS = frozenset("count number value".split())
"""What a field is called that is all of a thing, and no more than a number."""

POSITION_WORDS = frozenset("x y pos position place row column".split())
"""Words for where a thing is: what sets them moves it."""

ACTION_WORDS = frozenset(
    "add remove get set draw update move make create init check handle show print load save run start stop do reset "
    "read write find calc compute build new delete drop change increase decrease turn go play".split()
)
"""Verbs that routines' names begin with."""

VERBS = ACTION_WORDS | frozenset(
    "adjust advance animate append apply ask assign attach begin bind blit bounce calculate call cancel center choose "
    "clean clear close collect compare configure connect convert copy count cut deal decide define detect determine "
    "disable disconnect display divide drift eat empty enable end erase extract fade fall feed fetch fill filter "
    "finish fire flip fly format generate give grow hide hit init initialise initialize insert join jump keep kill "
    "launch leave limit listen load manipulate mark match measure melt merge mix normalise normalize open pack paint "
    "parse pass paste pause pick place plan plot pop position preload prepare process pull push put quit randomise "
    "randomize receive record redraw refresh register release reload rename render repeat replace report resize "
    "respond restart restore resume reverse rise roll rotate sail scale scan score scroll search select send setup "
    "shift shoot shuffle sink skip slide sort spawn spin split steer step store swap swim switch take tell test throw "
    "tick toggle track transform translate undo unload unlock use verify wait walk wrap".split()
)
"""Verbs that comments begin with."""

_CLASS = "class"
_GOING = frozenset("bounce drift fall fly go grow jump melt move rise sail sink swim".split())
"""What things do of themselves."""

RESOURCE_WORDS = frozenset(
    "screen window win display clock surface canvas context ctx font connection conn socket sock cursor db database "
    "log logger parser args options config settings root app".split()
)
"""What a program has one of, and makes once."""

TABLE_WORDS = frozenset("app context ctx data g game globals info program st state stuff values variables vars".split())
"""What tables of a program's state are called, whatever they hold."""

RUNNING_WORDS = frozenset("running going done finished playing quit alive exit again over stopped".split())
"""What says whether a program goes on."""

_NUMBERED = frozenset("chapter day floor frame lap level line month page round stage step trip turn wave week".split())
"""What comes one after the other, and has a number."""

_SERVING_WORDS = frozenset(
    "app application main server web site pages page views view routes route api run wsgi asgi index bp blueprint "
    "router".split()
)
"""What the files of applications are called whatever these are about."""

GENERIC_WORDS = frozenset(
    "main game app application script program prog run start code test project new file my the python py gui "
    "index".split()
)
"""What file names say that say nothing."""
_OF_GAMES = frozenset("game score lives player level".split())
ARTICLES = frozenset({"a", "an", "the"})

_QUOTED = re.compile(r"""["']([A-Za-z][\w' -]*)["']""")
_MOST_WORDS = 3
_PLACE = 2

_LONGER = {
    "dir": "direction",
    "id": "number",
    "len": "length",
    "list": "items",
    "max": "maximum",
    "min": "minimum",
    "pos": "position",
    "str": "text",
    "sum": "total",
    "type": "kind",
}
"""What to write for a word that is a builtin's name."""

_CUT_OFF = frozenset("dir len max min pos str".split())
"""Those of them that are cut short, whatever the language has."""

_ONLY_MAKING = frozenset("fetch from get of parse query".split())
"""What functions are called that make all sorts of things."""

_FILLED = frozenset(
    "tide water sea river flood rain tank glass bottle bucket fuel oil gas battery lamp light sound noise volume "
    "energy power".split()
)
"""What has a level."""

_OF_MANY = CALLING | CHANGING | {Handling.KEYS, Handling.VALUES, Handling.ITEMS}
"""What is done with containers only."""

_BARE = {
    Sort.NUMBER: ("value",),
    Sort.TEXT: ("text",),
    Sort.LIST: ("items",),
    Sort.TABLE: ("entries",),
    Sort.TRUTH: ("is", "on"),
}
"""What to call the one variable that has just the thing's own name, by what it holds."""


def longer(word: str) -> str:
    """A word, or what to write for it where it is the name of a builtin."""
    return _LONGER.get(word, word)


def is_truth_at_first(symbol: Symbol) -> bool:
    """Whether a variable begins with what is true or not."""
    value = value_of(symbol.references[0])
    return value is not None and value.sort is Sort.TRUTH


_HALF_SAID = frozenset("is are has have can was may must should".split())
"""What says nothing without the words behind it."""


def strip_nouns(
    name: str, nouns: Collection[str], taken: Container[str], module: Module, *, is_method: bool = False
) -> str:
    """A member's name without the class's words; as it was where that would leave nothing, or something in use.

    What a method does may have the name of a builtin, as `gates.open()` does. A name that is asked for stays.
    """
    if is_method and _is_told(module, name):
        return name
    words = [word for word in words_of(name) if singular(word) not in nouns]
    rules = module.dialect.rules
    if len(words) == 1 and (words[0] in _CUT_OFF or rules.is_taken_as_member(words[0])):
        words = [longer(words[0])]
    short = module.dialect.naming.member_name(words)
    is_builtin = rules.is_taken_as_member(short) and not (is_method and short in VERBS)
    if not short or not rules.is_name(short) or is_builtin or short in taken or short in _HALF_SAID:
        return name
    return short


def _is_told(module: Module, name: str) -> bool:
    """Whether the program asks a function for its name."""
    return any(f.name == name and told_name(module, f) is not None for f in module.functions)


def verb_first(words: Sequence[str]) -> list[str]:
    """Words with the verb in front, in its plain form: `border checking` is `check border`, `kite flies` `fly kite`."""
    last = words[-1] if words else ""
    if len(words) > 1 and last != singular(last) and singular(last) in _GOING:
        return [singular(last), *words[:-1]]
    stem = last.removesuffix("ing")
    for verb in (stem, stem + "e", stem[:-1]):
        if stem != last and verb in ACTION_WORDS:
            return [verb, *words[:-1]]
    return list(words)


def bare_name(value: Value, maker: str, module: Module, symbol: Symbol | None = None) -> str:
    """A field's name for the variable that is called like the thing itself, from its first value.

    That is what makes the value, by the name of the function or class that is called, or what it is: a number that only
    goes up or down by one counts something.
    """
    picked = _sort_picked(value, module) if module.dialect.library.picks(maker) else None
    if picked is not None:
        return module.dialect.naming.member_name(_BARE.get(picked, ("value",)))
    words = words_of(maker)
    words = words[1:] if len(words) > 1 and words[0] in ACTION_WORDS else words
    words = [] if _ONLY_MAKING.issuperset(words) else words
    if not words and symbol is not None and is_plural(words_of(symbol.name)[-1]):
        is_many = value.shape is Shape.CALL or (value.sort is Sort.OTHER and holds_many(module, symbol))
        if is_many:
            return "items"
    if not words and _is_place(value, module):
        return "position"
    if not words and value.sort is Sort.NUMBER and symbol is not None:
        if not _FILLED.isdisjoint(words_of(symbol.name)):
            return "level"
        last = (words_of(symbol.name) or [""])[-1]
        if (is_plural(last) or last in _NUMBERED) and _counts(symbol, module):
            return "count" if is_plural(last) else "number"
    return module.dialect.naming.member_name(words or _BARE.get(value.sort, ("value",)))


def holds_many(module: Module, symbol: Symbol) -> bool:
    """Whether a variable is told by its methods to be a list, a set or a table."""
    called = [r.path[-1].name or "" for r in symbol.references if len(r.path) == 1 and r.path_mode is Mode.CALL]
    return any(module.dialect.library.handling_by_method(name) in _OF_MANY for name in called)


def _sort_picked(value: Value, module: Module) -> Sort:
    """What it is that is picked out of a list of the script, by the list's first element."""
    call = Surroundings.of(module).by_span.get(value.span)
    among = call.parts[1].reference if call is not None and len(call.parts) > 1 else None
    first = first_value(among.symbol) if among is not None else None
    listed = Surroundings.of(module).by_span.get(first.span) if first is not None else None
    text = module.source.slice(listed.parts[0].span) if listed is not None and listed.parts else ""
    return Sort.TEXT if module.dialect.writer.text_value(text) is not None else Sort.OTHER


def _counts(symbol: Symbol, module: Module) -> bool:
    """Whether all that is done to a number is to add or take away one."""
    updates = [r.statement for r in symbol.references if r.mode is Mode.READ_WRITE and r.statement is not None]
    texts = [module.source.slice(statement.span).replace(" ", "") for statement in updates]
    return bool(texts) and all(text.rstrip(";").endswith(("+=1", "-=1", "++", "--")) for text in texts)


def _is_place(value: Value, module: Module) -> bool:
    """Whether a value is a list or tuple of two numbers."""
    trees = Surroundings.of(module).trees
    written = next((t.parts[-1] for t in trees if t.sense is Sense.SET and t.parts[-1].span == value.span), None)
    parts = written.parts if written is not None and written.sense in (Sense.LIST, Sense.TUPLE) else []
    texts = [module.source.slice(part.span) for part in parts]
    return len(texts) == _PLACE and all(text.lstrip("-")[:1].isdigit() for text in texts)


def is_resource(symbol: Symbol) -> bool:
    """Whether a variable is a resource of the whole program, made once: its window, its clock; by its name or maker."""
    value = first_value(symbol) if len(symbol.bindings) == 1 else None
    if value is None or value.shape is not Shape.CALL:
        return False
    statement = symbol.bindings[0].statement
    calls = statement.calls if statement is not None else ()
    maker = next((call.callee for call in calls if call.span == value.span), None)
    is_own = maker is not None and Form.CLASS in maker.symbol.forms
    called = [] if maker is None or is_own else words_of(final_name(maker))
    return not RESOURCE_WORDS.isdisjoint([*words_of(symbol.name)[-1:], *called[-1:]])


class Names:
    """Hands out names that nothing else in the script has; files that are `gone` leave theirs."""

    def __init__(self, module: Module, gone: Collection[Path] = ()) -> None:
        self.module = module
        self.gone = frozenset(gone)
        self.given: set[str] = set()
        self.files: set[str] = {module.path.name}

    def owner(self) -> str:
        """The owner's class name: from the file's, or, where that says nothing or is a thing's, a title."""
        words = [word for word in words_of(self.module.path.stem) if word]
        routes = Routes.of(self.module)
        if routes.registrations:
            told = [words_of(routes.subject), words, words_of(routes.usual_step), kept_things(self.module)]
            about = next((few for found in told if (few := [w for w in found if w not in _SERVING_WORDS])), [])
            return self.class_name([*about, self.module.dialect.library.handlers_word])
        if GENERIC_WORDS.issuperset(words):
            words = self._title_words() or self._kind_words(words)
        if not words or words[0].isdigit():
            words = ["script", *words]
        name = self.module.dialect.naming.class_name(words)
        if name in self.given and (titled := self._title_words()):
            title = self.module.dialect.naming.class_name(titled)
            name = title if title not in self.given and not self._is_used(title) else name
        return self._free_class(name, (*self._of_many(name), "Program", "Script"))

    def _kind_words(self, words: list[str]) -> list[str]:
        """What a script is that says no more than the words of its file."""
        if words == ["index"]:
            known = {word for symbol in self.module.scope.symbols for word in words_of(symbol)}
            return ["page"] if known.isdisjoint(_OF_GAMES) else ["game"]
        return words if words != ["main"] else ["program"]

    def _of_many(self, name: str) -> list[str]:
        """What the owner is where a class has its name already: the list of its things, if there is one."""
        is_class = any(scope.name == name for scope in self.module.classes)
        lists = [symbol for symbol in self.module.scope.symbols if symbol != singular(symbol)]
        held = {self.module.dialect.naming.class_name(words_of(singular(symbol))) for symbol in lists}
        return ["List"] if is_class and name in held else []

    def class_name(self, words: Sequence[str], *, of_one: bool = False) -> str:
        """A class name made of some words, with one more where that is taken; `of_one` thing of several it says so."""
        endings = ("Entry", "Record") if of_one else ("Group", "Part")
        return self._free_class(self.module.dialect.naming.class_name(words), endings)

    def instance(self, noun: str, variables: Iterable[Symbol]) -> str | None:
        """A name for the class's one object, free wherever the variables are used; None if there is none."""
        own = list(variables)
        joined = self.module.dialect.naming.joined
        for name in (noun, joined("the", noun), joined(noun, "object")):
            if name not in self.given and not self.module.dialect.rules.is_taken(name) and self._is_free(name, own):
                self.given.add(name)
                return name
        return None

    def file(self, noun: str, what: str = _CLASS) -> str:
        """A file name for a class, which hides no module and no other file; the script's own if names are uncertain.

        `what` says what it is, where the noun alone would be the script's name.
        """
        if self.module.unknown_stars:
            return self.module.path.name
        stem, noun = self.module.path.stem, self.module.dialect.naming.as_field(noun)
        suffix = self.module.dialect.files.class_suffix(self.module)
        joined = self.module.dialect.naming.joined
        as_class = joined(noun, what)
        second = joined(stem, noun) if noun not in stem else as_class
        for name in (noun, second, as_class, joined(noun, "part")):
            file = name + suffix
            path = self.module.path.with_name(file)
            exists = path.exists() and path not in self.gone
            fits = self.module.dialect.rules.is_name(name) and not self.module.dialect.files.is_taken(
                name, self.module.path.parent
            )
            if fits and not exists and file not in self.files:
                self.files.add(file)
                return file
        return self.module.path.name

    def _free_class(self, name: str, endings: Iterable[str]) -> str:
        for candidate in (name, *(name + ending for ending in endings)):
            if candidate not in self.given and not self._is_used(candidate):
                self.given.add(candidate)
                return candidate
        return name + "Kind"

    def _title_words(self) -> list[str]:
        """The words of the title of the page around the script, or of the one that it gives its window."""
        titles, source = self.module.dialect.library.titles_window, self.module.source
        around = words_of(self.module.dialect.library.title_around(self.module))
        told = [word for word in around if word not in ARTICLES]
        if told and len(told) <= _MOST_WORDS and all(word.isalpha() for word in told):
            return told
        for statement in self.module.walk():
            for call in statement.calls:
                if call.callee is None or not call.arguments:
                    continue
                names = [call.callee.name, *(step.name or "" for step in call.callee.path)]
                found = _QUOTED.fullmatch(source.slice(call.arguments[0].span)) if titles(names[-1]) else None
                if found is not None and len(words_of(found[1])) <= _MOST_WORDS:
                    return words_of(found[1])
        return []

    def _is_used(self, name: str) -> bool:
        module = self.module
        return (
            module.dialect.rules.is_taken(name)
            or any(name in scope.symbols for scope in module.scope.walk())
            or (name in module.outside.symbols)
        )

    def _is_free(self, name: str, variables: list[Symbol]) -> bool:
        module = self.module
        if name in module.outside.symbols:
            return False
        used = module.scope.symbols.get(name)
        if used is not None and used not in variables:
            return False
        for symbol in variables:
            for reference in symbol.references:
                hidden = reference.scope.find(name)
                if hidden is not None and not hidden.is_module_level:
                    return False
        return True
