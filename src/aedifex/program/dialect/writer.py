"""How the code of a language is written: what moves put in where text goes or comes."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from typing import NamedTuple, Protocol

from aedifex.program.dialect.handling import Search
from aedifex.program.model.enclosed import Enclosed
from aedifex.program.model.module import Echo, Module
from aedifex.program.model.names import Imported
from aedifex.program.model.statements import Leave, Parameter
from aedifex.source.edits import Taken
from aedifex.source.text import Span

Piece = str | Taken
"""Text to put in: new, or carried over from somewhere."""


class Frame(NamedTuple):
    """What stands around a body: the lines before it, and those after it (empty where a language needs none)."""

    head: str
    tail: str


class RoutineSpans(NamedTuple):
    """Where in the text of a function its name, what stands between its parentheses, and its body are."""

    name: Span
    signature: Span
    body: Span

    def counted_from(self, at: int) -> RoutineSpans:
        """The same, counted from an offset."""
        return RoutineSpans(*(Span(place.start - at, place.end - at) for place in self))


class Replacement(NamedTuple):
    """Text to put in place of the bytes from `start` to `end` of another."""

    start: int
    end: int
    text: str


class Break(NamedTuple):
    """Text to put in place of the white space from `start` to `end`, byte offsets in the whole text."""

    start: int
    end: int
    text: str


class VaryingText(NamedTuple):
    """What stands before and behind an expression in a text that shows it, and the value that makes each of several."""

    before: str
    behind: str
    values: tuple[str, ...]
    are_numbers: bool


class Writer(Protocol):
    """Writes one language. `margin` is the white space that a line begins with, `unit` one step of indentation.

    `receiver` is what a new method calls its object, `declares` the word that declares a variable where one does,
    `waiting` the one by which code waits for what it calls, `making` what stands before the class where an object of it
    is made, `binder` what binds an argument to a function, `path_maker` what makes the path of a file, `copier` what
    makes another list of the same elements, `turner` what gives the elements of a list from the last to the first,
    `counter` what gives them with their numbers, `entries` and `contents` the methods of a table that give its
    elements, with their keys or without, `unit` the step of files that have none, `gap` the number of blank lines that
    people leave around a definition at the margin, `before_comment` what they leave before a comment behind a
    statement.
    """

    receiver: str
    declares: str
    waiting: str
    making: str
    binder: Imported
    path_maker: Imported
    copier: str
    turner: str
    counter: str
    entries: str
    contents: str
    unit: str
    gap: int
    before_comment: str

    # -- definitions

    def class_frame(self, name: str, doc: str, unit: str, base: str = "") -> Frame:
        """Around the members of a class at the margin; `doc` says what it is, `base` what it inherits from."""
        ...

    def no_more_fields(self) -> str:
        """What stands in a class whose objects have no other fields than its base gives them."""
        ...

    def inheriting(self, heading: str, base: str) -> tuple[int, str] | None:
        """How a class comes from another: how many bytes behind its name go, and what stands there instead.

        `heading` is the text between its name and its body; None where that says more than that the body comes.
        """
        ...

    def base_call(self, arguments: Sequence[str]) -> str:
        """The statement by which a constructor has the class do its part that it comes from."""
        ...

    def base_call_begun(self, member: str, *, hands_on: bool) -> str:
        """The begin of a call of the base, or of a `member` of its, up to what is given: all that the caller was."""
        ...

    def not_made(self) -> str:
        """The body of a method that only the classes make which come from its class."""
        ...

    def method_frame(
        self, name: str, parameters: Sequence[str], margin: str, unit: str, *, is_async: bool = False
    ) -> Frame:
        """Around the body of a method; its parameters without the receiver."""
        ...

    def constructor_frame(self, parameters: Sequence[str], margin: str, unit: str) -> Frame:
        """Around the body of a constructor; its parameters without the receiver."""
        ...

    def function_frame(self, name: str, signature: str, *, is_async: bool = False) -> Frame:
        """Around the body of a function at the margin; `signature` is the text between its parentheses."""
        ...

    def field_declared(self, name: str) -> str:
        """What says in a class that its objects have a field which has no value yet; empty where that goes unsaid."""
        ...

    def as_method(self, text: bytes, routine: RoutineSpans, unit: str) -> list[Replacement]:
        """How the text of a function becomes that of a method: what to put where in it."""
        ...

    def as_closure(self, text: bytes, routine: RoutineSpans, before: str, behind: str) -> list[Replacement]:
        """How a routine inside another loses a receiver of its own; nothing where it has none, or must have it.

        `before` and `behind` are what stands around its text.
        """
        ...

    def respelled(self, literal: str) -> str:
        """A text that is written out, in signs that are allowed in a class, too."""
        ...

    def binding(self, method: str) -> str:
        """The statement by which an object keeps a method so that it is a value; empty where each is one."""
        ...

    def receiver_parameter(self, has_others: bool) -> str:
        """What goes in front of the parameters of a function that becomes a method."""
        ...

    def optional_parameter(self, name: str, default: str = "") -> str:
        """A parameter that is nothing where no argument is given, or some value that is written out."""
        ...

    def parameter_behind(self, name: str, parameters: Sequence[Parameter]) -> str:
        """One more parameter, to stand behind others without changing what those are given."""
        ...

    def call_on_new(self, made: str, method: str, arguments: Sequence[str], variable: str = "") -> str:
        """What calls a method of an object that is `made`; the object is kept where a variable is named."""
        ...

    def entry(self, owner: str, run: str, unit: str, *, is_guarded: bool) -> str:
        """The last lines of a script: a routine of two lines, and what starts it."""
        ...

    def guard_frame(self) -> Frame:
        """Around lines that are carried out only where the file is started itself."""
        ...

    def enclosed_entry(self, around: Enclosed, owner: str, run: str, unit: str) -> str:
        """The last lines of a script whose routine has its name and heading back: it makes the owner and runs it."""
        ...

    # -- statements

    def assignment(self, target: str, value: Sequence[Piece], annotation: Piece | None = None) -> list[Piece]:
        """A statement that gives a place that is there already, or a field, a value."""
        ...

    def assignments(self, pairs: Sequence[tuple[Piece, Piece]], keyword: str = "") -> list[Piece]:
        """One statement that gives several names a value each, all values worked out first; `keyword` declares them."""
        ...

    def variable(self, name: str, value: Sequence[Piece]) -> list[Piece]:
        """A statement that makes a variable of the module."""
        ...

    def result(self, names: Sequence[str], call: str, keyword: str = "") -> str:
        """A statement that calls something and gives what it hands back to names, which `keyword` declares."""
        ...

    def returning(self, value: Sequence[Piece]) -> list[Piece]:
        """A statement that hands a value back; without one where there are no pieces."""
        ...

    def handing_back(self, names: Sequence[str]) -> str:
        """A statement that hands the values of some names back, as `result` takes them."""
        ...

    def beginning(self, statement: str) -> Frame:
        """What must stand around a statement that now begins as it does, so that it is one and stands alone."""
        ...

    def ended(self, statement: str) -> str:
        """A plain statement with what ends it."""
        ...

    def leave(self, leave: Leave) -> str:
        """A statement that leaves a loop or a routine without a value."""
        ...

    def nothing(self) -> str:
        """A statement that does nothing, where one must stand."""
        ...

    def unless(self, condition: str, action: str, margin: str, unit: str) -> str:
        """The lines that do something unless a condition holds."""
        ...

    def ensuring(self, lines: Sequence[str], last: str, margin: str, unit: str) -> str:
        """The lines that do something, and something last even where an error ends the others."""
        ...

    def asks_unless(self, head: str) -> str:
        """The condition that a statement's heading asks which does something unless it holds; else empty."""
        ...

    def condition_alone(self, between: str) -> tuple[int, int, str] | None:
        """How a chain of conditions begins anew behind a branch: what to put where in the text up to its next block.

        From where to where is counted in bytes; None where the text does not ask for another condition.
        """
        ...

    def sharing(self, names: Sequence[Piece], unit: str) -> list[Piece]:
        """The line by which a routine says that names which it sets are the module's; none where that goes unsaid."""
        ...

    def declaration(self, keyword: str, names: Sequence[Piece]) -> list[Piece]:
        """A declaration again, which begins with the same word, of fewer names."""
        ...

    def sharing_word(self) -> str:
        """The word that begins a declaration of names of the module."""
        ...

    # -- expressions

    def member(self, base: str, *names: str) -> str:
        """A member of an object, or a member of that one."""
        ...

    def plain_text(self, text: str) -> str:
        """A plain text that is a name, written out."""
        ...

    def table_frame(self) -> Frame:
        """What stands before and behind the entries of a table that is written out."""
        ...

    def list_frame(self) -> Frame:
        """What begins and ends a list that is written out."""
        ...

    def under_key(self, key: str) -> str:
        """What stands before a value in a table that is written out, under a key that is spelled out."""
        ...

    def values_of(self, table: str) -> str:
        """The values of a table, one by one."""
        ...

    def asks_within(self, container: str) -> str:
        """What stands behind a value to ask whether a container has it."""
        ...

    def element(self, base: str, key: str) -> str:
        """What a container holds under a key."""
        ...

    def bound_method(self, base: str, name: str) -> str:
        """A method as a value, which remembers its object."""
        ...

    def creation(self, class_name: str, arguments: Sequence[Piece], names: Sequence[str] = ()) -> list[Piece]:
        """An expression that makes an object."""
        ...

    def call(self, function: str, arguments: Sequence[str]) -> str:
        """A call."""
        ...

    def all_others(self, name: str) -> str:
        """A parameter that holds all arguments that are left; and the arguments again, from it."""
        ...

    def named_argument(self, name: str, value: str) -> str:
        """An argument for the parameter of that name."""
        ...

    def handed_on(self, parameters: Sequence[Parameter]) -> list[str]:
        """The arguments by which a routine with these parameters hands on what it is given."""
        ...

    def handler(self, signature: str, call: str) -> str:
        """A nameless routine that only makes a call."""
        ...

    def truth(self, value: bool) -> str:
        """How a truth value is written."""
        ...

    def no_value(self) -> str:
        """How it is written that there is no value."""
        ...

    def grouped(self, value: str) -> tuple[str, str]:
        """What goes before and after a value that becomes an argument, so that it stays one."""
        ...

    # -- members that moves write whole

    def handing_on(self, head: str, call: str, margin: str, unit: str, *, gives_value: bool) -> str:
        """A method with the heading of another, which makes a call and gives back what that does."""
        ...

    def asking_method(self, name: str, reader: str, writer: str, unit: str) -> str:
        """The method that reads a typed line from the reader that its object keeps, if that has one."""
        ...

    def with_argument(self, function: str, value: str) -> str:
        """A function that is given a value first, and then whatever its caller gives; made with the `binder`."""
        ...

    def loop_over(self, item: str, container: str, number: str = "") -> str:
        """The head of a loop over what is in a container, with the number of each where that has a name."""
        ...

    def so_many(self, value: Sequence[Piece], count: Piece, *, is_number: bool) -> list[Piece]:
        """What stands in a list of values made one by one: so many, or one for each that `count` goes through."""
        ...

    def number_and(self, item: str) -> str:
        """What goes behind the number in the head of a loop over what the `counter` gives."""
        ...

    def or_else(self, value: Sequence[Piece], other: str) -> list[Piece]:
        """A value, or another where that is nothing; it is an object else."""
        ...

    def searched(self, search: Search, item: str, container: str, condition: str) -> str:
        """What is found in a list by asking a condition about each element, called `item` in it."""
        ...

    def when_missing(self, name: str) -> str:
        """The head of a branch that is taken where nothing was found."""
        ...

    def looked_up(self, table: str, key: str) -> str:
        """What a table has under a key; no value where it has none."""
        ...

    def when_there(self, name: str) -> str:
        """The head of a branch that is taken where something was found."""
        ...

    def choice(self, condition: Piece, value: Piece, other: Sequence[Piece]) -> list[Piece]:
        """An expression that is one value where a condition holds, and another else."""
        ...

    def condition(self, question: str) -> str:
        """The head of a branch that is taken where something holds."""
        ...

    def taking_out(self, container: str, item: str) -> str:
        """The statement that takes the first element out of a list that is equal to an item."""
        ...

    def block_frame(self, head: str, margin: str) -> Frame:
        """A statement with a block, of which `head` is the beginning."""
        ...

    def all_of(self, value: str, item: str, container: str, within: str) -> str:
        """A list of a value of each item in a container; `within` is the builtin that is only given it, if one is."""
        ...

    def equality_method(self, class_name: str, fields: Sequence[str], unit: str) -> str:
        """A method by which objects of a class are equal when all their fields are."""
        ...

    def stream_argument(self, stream: str, given: Sequence[str | None]) -> str | None:
        """The argument by which what is said goes to a stream; None where the keywords given say so already."""
        ...

    def with_brackets(self, text: bytes, record: Span) -> Span:
        """A record that is written out, with the brackets around it that what makes an object of a class needs not."""
        ...

    # -- imports

    def file_heading(self, module: Module) -> str:
        """Lines that every file made from `module` must begin with to mean the same."""
        ...

    def import_names(self, module: str, names: Sequence[str]) -> str:
        """A line that imports names from a module."""
        ...

    def import_line(self, imported: Imported, name: str) -> str:
        """A line that imports what a name was imported as."""
        ...

    def handing_out(self, names: Sequence[str]) -> tuple[str, str]:
        """What stands before each definition of a file that others import by these names, and below all of them."""
        ...

    def takes_more_imports(self, text: str) -> bool:
        """Whether one more name can be put into the text of an import of names."""
        ...

    def one_more_import(self, text: str, imported: Imported) -> tuple[int, str]:
        """How far into such a text, and what is put there."""
        ...

    def in_groups(self, lines: Sequence[str]) -> list[list[str]]:
        """Import lines as people arrange them: in groups, each in order."""
        ...

    def fewer_imports(self, text: str, kept: Sequence[int]) -> str | None:
        """An import of fewer of its names, by their numbers; None where each would need a line of its own."""
        ...

    # -- long texts

    def remark(self, text: str) -> str:
        """The lines of a comment that says a text."""
        ...

    def text_value(self, literal: str) -> str | None:
        """What a plain text says that is written out; None where a file could not keep it."""
        ...

    @property
    def quotes(self) -> tuple[str, str]:
        """What stands before and behind a plain text."""
        ...

    def place_of_type(self, declared: str, depth: int) -> tuple[int, int] | None:
        """The bytes of a declared type that tell what stands some containers deep in it; None if that is unsaid."""
        ...

    def varying_text(self, literals: Sequence[str]) -> VaryingText | None:
        """How plain texts could be one that shows a value, where they differ in one number or word; None else."""
        ...

    def reading_text(self, file: str) -> str:
        """An expression that reads a text file, named from the folder of the code; made with the `path_maker`."""
        ...

    # -- long lines

    def line_breaks(self, text: str, lines: Collection[int], width: int, unit: str) -> list[Break]:
        """How the lines of a text with these numbers can be broken to fit a width in characters; the rest stays."""
        ...

    # -- templates that show their own text

    def spelled_out(self, shown: str) -> str:
        """The text that a template shows of an expression, as plain text of the template."""
        ...

    def shown_expression(self, echo: Echo, shown: str) -> tuple[int, str]:
        """How many bytes of what a template shows are the expression itself, and what stands for the rest."""
        ...

    def is_hard_to_spell(self, shown: str) -> bool:
        """Whether the text of an expression in a template cannot be written as plain text of it."""
        ...


def margin_of_first_line(inside: str) -> str | None:
    """The white space before what stands between parentheses, where that begins on a line of its own."""
    before = inside[: len(inside) - len(inside.lstrip())]
    return before.rpartition("\n")[2] if "\n" in before and inside.strip() else None
