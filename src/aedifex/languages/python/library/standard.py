"""Python's own names and its standard library: keywords, builtins, and which calls leave their arguments alone."""

from __future__ import annotations

import builtins
import keyword
import sys

from aedifex.languages.python.library.known import KnownLibrary, words

BUILTINS = frozenset(dir(builtins)) | {"__file__", "__builtins__", "__annotations__", "WindowsError"}
KEYWORDS = frozenset(keyword.kwlist) | frozenset(keyword.softkwlist) - {"_"}
STANDARD_MODULES = frozenset(sys.stdlib_module_names)
NOTICED_IMPORTS = frozenset(
    {"__future__", "antigravity", "this", "readline", "rlcompleter", "site", "tkinter", "turtle"}
)
"""Modules of the standard library whose import changes what the program does, or what it needs."""

ONLY_READING_FUNCTIONS = frozenset(
    "abs all any ascii bin bool bytes callable chr complex dict divmod enumerate float format frozenset hash hex "
    "id input int isinstance issubclass len list max min oct open ord pow print range repr reversed round set "
    "slice str sum tuple type zip choice choices sample join randint random uniform exit quit BaseException "
    "Exception ValueError KeyError IndexError TypeError RuntimeError StopIteration NotImplementedError SystemExit "
    "KeyboardInterrupt".split()
)
"""Functions that neither change what they are given nor call the program back."""

KEEPING_FUNCTIONS = frozenset(
    "list tuple set frozenset dict sorted reversed enumerate zip iter next min max copy filter map slice choice "
    "choices sample".split()
)
"""Functions whose results hold what they were given, or parts of it."""

SHOWING_FUNCTIONS = frozenset({"vars"})
"""Functions that give back what an object holds, for others to look at or to change."""

PLAIN_FUNCTIONS = frozenset(
    "abs all any ascii bin bool bytes chr complex divmod float format hash hex id input int isinstance issubclass len "
    "oct ord pow repr round str sum randint randrange random uniform gauss triangular time monotonic perf_counter sqrt "
    "sin cos tan atan atan2 hypot floor ceil radians degrees".split()
)
"""Functions of the library that give back numbers, texts or truth values only."""

ELEMENT_GIVERS = frozenset("get values items pop popitem popleft copy setdefault".split())
"""Methods of containers that give back what is in them."""

TEXT_GIVERS = frozenset(
    "capitalize casefold center count endswith find format index isalpha isdigit islower isnumeric isspace isupper "
    "ljust lower lstrip removeprefix removesuffix replace rfind rjust rstrip startswith strip swapcase title translate "
    "upper zfill".split()
)
"""Methods of plain values that give back another."""

SHOWING = frozenset("print str repr ascii format hash id type".split())
"""Builtins that make something of an object which tells what it is."""

MAKERS = {"list": 0, "dict": 0, "set": 0, "tuple": 0, "frozenset": 0, "bytearray": 0, "object": 0, "str": 1, "bool": 1}
"""Builtins that only make an object, with how many plain values they take without ever failing."""

ENDING = frozenset({("sys", "exit"), ("os", "_exit"), ("os", "abort")})
"""Functions, with their modules, that end the program and never come back."""

SCENE = frozenset({("random", "seed"), ("time", "sleep"), ("os", "system")})
"""Functions, with their modules, that begin chance anew, wait, or do something to the terminal."""

PICKING = frozenset({"choice", "pop", "popleft", "next"})
"""Functions and methods that give back one of several things, whatever it is."""

COMPUTING = frozenset({"abs", "round", "min", "max"})
"""Builtin functions that only work a number out of others."""

HOOKS = frozenset({"key", "file", "default"})
"""Keywords by which a function of the library is given something to call."""

ONLY_READING_METHODS = frozenset(
    "capitalize casefold center count encode decode endswith expandtabs find format format_map index isalnum "
    "isalpha isascii isdecimal isdigit isidentifier islower isnumeric isprintable isspace istitle isupper join "
    "ljust lower lstrip partition removeprefix removesuffix replace rfind rindex rjust rpartition rsplit rstrip "
    "split splitlines startswith strip swapcase title translate upper zfill get items keys values copy difference "
    "intersection isdisjoint issubset issuperset symmetric_difference union as_integer_ratio bit_length hex "
    "is_integer conjugate to_bytes total_seconds isoformat strftime date time weekday".split()
)
"""Methods of the builtin types that leave their object as it is."""

DYNAMIC_FUNCTIONS = {
    "globals": "reaches the module's variables by `globals()`",
    "vars": "reaches variables by `vars()`",
    "locals": "reaches variables by `locals()`",
    "dir": "lists the module's variables by `dir()`",
    "exec": "runs text as code by `exec()`",
    "eval": "evaluates text as code by `eval()`",
}
"""Builtins through which names can be reached that no text shows, with what each does."""

MEMBER_LOOKUPS = frozenset(
    "getattr setattr hasattr delattr vars attrgetter methodcaller __dict__ __slots__ __match_args__ __getattribute__ "
    "getmembers asdict".split()
)
"""Functions and attributes that reach the members of an object by their text."""

TEXT_RUNNERS = frozenset({"cProfile", "profile", "timeit", "doctest", "code", "runpy"})
"""Modules that run text as code, in which the script's own names may stand."""

FUNCTION_EXAMINERS = frozenset("weakref types inspect marshal multiprocessing dis".split())
"""Modules that tell a bound method from a function, or send it elsewhere."""

STORING = frozenset("pickle shelve marshal copyreg multiprocessing dill joblib".split())
"""Modules that write objects down together with the names of their class and of its file."""

OPENERS = frozenset(
    "open fdopen popen Popen socket create_connection connect urlopen NamedTemporaryFile TemporaryFile "
    "TemporaryDirectory ZipFile TarFile GzipFile BZ2File LZMAFile makefile".split()
)
"""Functions that give back what is closed, written out or removed when nobody holds it any more."""

CLOSERS = frozenset("close cleanup communicate shutdown terminate wait".split())
"""Methods that end the use of what they are called on."""

CLASS_MAKERS = frozenset(
    "namedtuple NamedTuple TypedDict make_dataclass new_class type Enum IntEnum StrEnum Flag IntFlag".split()
)
"""Functions that give back a new class."""

PARAMETERS = {
    **dict.fromkeys(("goto", "setpos", "setposition", "moveto", "place", "move"), ("x", "y")),
    **dict.fromkeys(("Rect", "create_rectangle", "create_oval"), ("x", "y", "width", "height")),
    **dict.fromkeys(("addstr", "addch"), ("row", "column", "text")),
    **dict.fromkeys(("forward", "fd", "backward", "back", "bk"), ("distance",)),
    **dict.fromkeys(("left", "lt", "right", "rt"), ("angle",)),
    **dict.fromkeys(("write", "print", "render", "say", "log", "Label"), ("text",)),
    **dict.fromkeys(("bgcolor", "fill"), ("color",)),
    "circle": ("radius",),
    "color_pair": ("color",),
    "dot": ("size", "color"),
    "sleep": ("seconds",),
    "create_text": ("x", "y"),
    "execute": ("query",),
    "setx": ("x",),
    "sety": ("y",),
    "setheading": ("heading",),
    "onkey": ("handler", "key"),
    "onkeypress": ("handler", "key"),
}
"""What well-known functions take, place by place."""

NAMED_BY_FUNCTION = frozenset(
    "color shape speed width pensize pencolor fillcolor title text name size shapesize font image heading".split()
)
"""Functions that are named after what they take."""

DEEDS = {
    **dict.fromkeys(("blit", "circle", "dot", "stamp"), "draw"),
    **dict.fromkeys(("goto", "setpos", "setposition", "moveto"), "go to"),
    **dict.fromkeys(("addstr", "addch", "write"), "write"),
    **dict.fromkeys(("create_rectangle", "create_oval", "create_line", "create_polygon", "create_text"), "draw"),
    **dict.fromkeys(("grid", "pack", "place"), "add"),
    **dict.fromkeys(("forward", "fd"), "draw"),
}
"""What well-known functions do, in words that a name can begin with."""

DECORATING = frozenset("abc contextlib dataclasses enum functools typing typing_extensions".split())
"""Modules whose decorators do no more than to define."""

RECORD_MAKERS = frozenset({("dataclasses", "dataclass")})
"""Decorators that write the constructor of a class, by module and name."""

NAMED_ROW = ("typing", "NamedTuple")
"""The base of rows whose fields are declared."""

ROW_MAKER = ("collections", "namedtuple")
"""What makes a class of such rows."""

ROW_METHODS = frozenset({"count", "index"})
"""What rows can be told."""

TYPES_OF_NO_FIELD = ("ClassVar", "InitVar", "KW_ONLY")
"""What the types of names say that are no fields, or not given by their place."""

RECORD_OPTIONS = frozenset("frozen order eq repr slots unsafe_hash weakref_slot defaults".split())
"""Options of all these that leave the constructor as it is."""

GROWING_TYPES = frozenset("dict list set bytearray".split())
"""Builtin types whose objects are empty until their constructor fills them, whatever they are made with."""

ACCESS_NAMES = frozenset(
    "__getattr__ __getattribute__ __setattr__ __delattr__ __slots__ __new__ __dir__ __copy__ __deepcopy__ __reduce__ "
    "__reduce_ex__ __getstate__ __setstate__ __getnewargs__ __match_args__ __del__ super __class__".split()
)
"""Names that decide how the members of an object are reached, copied or stored, see it go, or lead to its class."""

PROCESS_MODULES = frozenset("sys os warnings locale site".split())
"""Modules with which scripts prepare the process before they import others."""

STREAMS = frozenset({"stdin", "stdout"})
"""The names of the standard streams."""

LIBRARY = KnownLibrary(
    quiet=words("random math cmath time statistics colorsys string calendar textwrap"),
    concurrent=words("_thread asyncio concurrent multiprocessing queue sched signal threading trio"),
    copying=words("copy copyreg pickle shelve"),
)
