"""What a design says: which classes there will be, and what goes into each."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Literal, get_args

StartKind = Literal["argument", "fixed"]
Store = Literal[
    "twins",
    "single",
    "equipped",
    "records",
    "columns",
    "rows",
    "held",
    "lists",
    "objects",
    "resources",
    "sessions",
    "bundles",
]
STORES: tuple[Store, ...] = get_args(Store)

FORMAT = 1
GRAINS = {"one": None, "coarse": 0.4, "usual": 0.6, "fine": 1.2}
"""How finely a draft divides, by name: the resolution of its search, or None for the owner alone."""


@dataclass(slots=True)
class FieldPlan:
    """A variable that becomes a field.

    `start` says whether its first value is an argument of the constructor or fixed there. `line` is the line of the
    design file that says so, 0 for a design not read from one. `why` and `sure` (0 to 1) are a draft's. `copies` are
    the variables of the other things of its kind, where each has its own.
    """

    variable: str
    name: str
    start: StartKind = "fixed"
    line: int = 0
    why: str = ""
    sure: float | None = None
    copies: tuple[str, ...] = ()

    @property
    def sources(self) -> tuple[str, ...]:
        """All variables that become this field."""
        return (self.variable, *self.copies)


@dataclass(slots=True)
class MethodPlan:
    """A routine that becomes a method; or some of its `lines`, or of the main code's, by first and last line.

    `copies` are the routines about the other things of its kind, where each has its own. What is written like these
    lines elsewhere becomes the same call; where that differs in plain values, `values` are the parameters for them.

    Where it `answers`, the routine goes on behind these lines in one case: the method says whether that is so.
    """

    routine: str
    name: str
    line: int = 0
    lines: tuple[int, int] | None = None
    values: tuple[str, ...] = ()
    why: str = ""
    sure: float | None = None
    copies: tuple[str, ...] = ()
    answers: bool = False

    @property
    def sources(self) -> tuple[str, ...]:
        """All routines that become this method."""
        return (self.routine, *self.copies)


@dataclass(slots=True)
class QuestionPlan:
    """A decision that the objects of a class take themselves: the method `name` answers what `asks` asks.

    `asks` is a condition as it stands in a method of the class.
    """

    asks: str
    name: str
    line: int = 0
    why: str = ""
    sure: float | None = None


@dataclass(slots=True)
class ConstantPlan:
    """A number that gets a name, on these lines of the script.

    `value` is how it is written there, `computed` a product that gives the same, as `24 * MINUTES_PER_HOUR`. Where
    `passed` is a name, the methods of classes are given it as a parameter of that name.
    """

    name: str
    value: str
    lines: tuple[int, ...]
    computed: str = ""
    passed: str = ""
    line: int = 0
    why: str = ""
    sure: float | None = None


@dataclass(slots=True)
class TextPlan:
    """A long text that moves into a file, and the line of the script on which it begins.

    `name` is the constant that it is read into, where it has no name of its own.
    """

    file: str
    begins: int
    name: str = ""
    line: int = 0


@dataclass(slots=True)
class PartPlan:
    """Members of the class `whole` of the script that become a class of their own, beside it.

    `instance` is the field by which `whole` keeps an object of it. How a field starts follows from what `whole` does.
    """

    name: str
    whole: str
    instance: str
    fields: list[FieldPlan] = field(default_factory=list)
    methods: list[MethodPlan] = field(default_factory=list)
    why: str = ""
    line: int = 0


@dataclass(slots=True)
class BasePlan:
    """A class from which others come: it gets the fields and methods that all of its `children` share."""

    name: str
    file: str
    children: list[str]
    why: str = ""
    line: int = 0


@dataclass(slots=True)
class DataPlan:
    """A class of a list of records, which `variable` has now: it has them all, and finds one by its key.

    Where `missing` is "404", handlers that would fail without a record answer with that status: the only change of
    what a program does that a design can ask for. `methods` are the names of those that the class then has, and `spots`
    says of each such handler on which line it would fail.
    """

    name: str
    file: str
    variable: str
    line: int = 0
    missing: str = ""
    methods: Sequence[str] = ()
    spots: Sequence[tuple[str, int]] = ()


@dataclass(slots=True)
class ClassPlan:
    """One class: its file, the variable that will hold its instance, the reason for it, and its members.

    `second` are other names that would do.
    """

    name: str
    file: str
    instance: str
    why: str = ""
    fields: list[FieldPlan] = field(default_factory=list)
    methods: list[MethodPlan] = field(default_factory=list)
    line: int = 0
    second: list[str] = field(default_factory=list)
    questions: list[QuestionPlan] = field(default_factory=list)

    @property
    def method_names(self) -> list[str]:
        """The names of its methods, those that answer questions last."""
        return [*(method.name for method in self.methods), *(question.name for question in self.questions)]


@dataclass(slots=True)
class KindPlan:
    """One class with several objects: its file, how its things are stored now, where they are held, and its members.

    Where they are `twins`, each in variables of its own, `instances` are the variables of the objects, and `held` the
    list of them, if there is to be one; a `single` one has the name that it had. What is
    `equipped` where it is made is named by the one instance, the first that is. Where they are stored as `records`, a
    field's `variable` is the key under which a record has it, and `instances` are variables, parameters or containers
    that hold such things: any of them will do. Of `columns`, it is one of the lists side by side, and the one instance
    the list of objects that comes of them.
    The objects of a class that the script has already are stored as `objects`. Of `resources`, the one field holds
    what its variable holds of a library; `held` is what the object is called where that is handed over, and methods
    made of `field.method` give calls of it names. What is opened, asked and closed in `sessions` is opened by the one
    instance, which has a method for each sort of them, named by the lines of one. Of `bundles`, the fields are what
    functions hand to one another, and the one instance is the object that keeps it.
    """

    name: str
    file: str
    store: Store
    instances: list[str]
    why: str = ""
    fields: list[FieldPlan] = field(default_factory=list)
    methods: list[MethodPlan] = field(default_factory=list)
    line: int = 0
    second: list[str] = field(default_factory=list)
    questions: list[QuestionPlan] = field(default_factory=list)
    held: str = ""

    @property
    def method_names(self) -> list[str]:
        """The names of its methods, those that answer questions last."""
        return [*(method.name for method in self.methods), *(question.name for question in self.questions)]

    @property
    def is_of_many(self) -> bool:
        """Whether there may be several objects of it; what always begins alike is taken for one."""
        is_alone = self.store == "records" and all(field.start == "fixed" for field in self.fields)
        return self.store not in ("single", "resources", "sessions", "bundles") and not is_alone


@dataclass(slots=True)
class SourcePlan:
    """A script that the design is for, as the design names it, and the digest that it had then."""

    path: str
    digest: str
    line: int = 0


@dataclass(slots=True)
class Design:
    """A whole design. `doubts` are the decisions that its draft was least sure of, in words.

    `parts` are made first, then `kinds`, then `data`, and the rest is said of the script as it is then.

    `methods` are the lines of main code or of functions that become methods of the owner; `keeps` are the variables and
    functions that no class takes, so that a later draft knows what is new. `streams` tells whether the owner takes a
    reader and a writer, `prefix` is what the paths of all its routes begin with, if a part of the application is to
    have that, `is_lifted` whether there is to be an owner: else the main code stays where it is. Where it `has_fronts`,
    functions that a library finds by their names hand on to others.
    """

    sources: list[SourcePlan]
    owner: str
    classes: list[ClassPlan] = field(default_factory=list)
    kinds: list[KindPlan] = field(default_factory=list, kw_only=True)
    owner_why: str = ""
    doubts: list[str] = field(default_factory=list)
    path: Path | None = None
    owner_line: int = 0
    owner_file: str = ""
    has_fronts: bool = False
    methods: list[MethodPlan] = field(default_factory=list)
    keeps: list[str] = field(default_factory=list)
    streams: bool = False
    prefix: str = ""
    is_lifted: bool = True
    constants: list[ConstantPlan] = field(default_factory=list)
    texts: list[TextPlan] = field(default_factory=list)
    parts: list[PartPlan] = field(default_factory=list)
    bases: list[BasePlan] = field(default_factory=list)
    data: list[DataPlan] = field(default_factory=list)

    @property
    def answers_missing(self) -> bool:
        """Whether handlers that failed without a record are to answer with a status."""
        return any(plan.missing for plan in self.data)

    @property
    def all_classes(self) -> list[ClassPlan | KindPlan]:
        """The classes of several objects and those of one."""
        return [*self.kinds, *self.classes]
