"""The common widgets of the tkinter stand-in."""

from __future__ import annotations

from _aedifex_stage.tk_core import Event, Misc, Widget


class _Clicked(Widget):
    """A widget that runs its command when it is clicked."""

    def invoke(self) -> object:
        command = self.options.get("command")
        return command() if callable(command) else None

    def flash(self) -> None:
        self.did("flash")

    def chosen_by(self, text: str) -> object:
        """A button is pressed by the text on it, unless it is off."""
        shown = self.options.get("textvariable")
        label = shown.get() if shown is not None else self.options.get("text", "")
        return self.invoke if str(label) == text and str(self.options.get("state")) != "disabled" else None

    def pointed(self, names: list, event: Event, kind: str) -> None:
        """A click on a button names it by its text, so plain places do not press it."""
        self.dispatch(names, event)


class Frame(Widget):
    """A frame."""


class LabelFrame(Widget):
    """A frame with a label."""


class Label(Widget):
    """A label."""


class Message(Widget):
    """A text of several lines."""


class Button(_Clicked):
    """A button."""


class Checkbutton(_Clicked):
    """A button that is on or off."""

    def invoke(self) -> object:
        variable = self.options.get("variable")
        if variable is not None:
            on, off = self.options.get("onvalue", 1), self.options.get("offvalue", 0)
            variable.set(off if variable.get() == on else on)
        return super().invoke()

    def select(self) -> None:
        if self.options.get("variable") is not None:
            self.options["variable"].set(self.options.get("onvalue", 1))

    def deselect(self) -> None:
        if self.options.get("variable") is not None:
            self.options["variable"].set(self.options.get("offvalue", 0))


class Radiobutton(_Clicked):
    """One button of several."""

    def invoke(self) -> object:
        if self.options.get("variable") is not None:
            self.options["variable"].set(self.options.get("value", ""))
        return super().invoke()

    def select(self) -> None:
        if self.options.get("variable") is not None:
            self.options["variable"].set(self.options.get("value", ""))


class Entry(Widget):
    """A line of text to edit."""

    def __init__(self, master: Misc | None = None, cnf: dict | None = None, **options: object) -> None:
        self.text = ""
        super().__init__(master, cnf, **options)

    def get(self) -> str:
        variable = self.options.get("textvariable")
        return str(variable.get()) if variable is not None else self.text

    def _put(self, text: str) -> None:
        self.text = text
        if self.options.get("textvariable") is not None:
            self.options["textvariable"].set(text)

    def insert(self, index: object, string: str) -> None:
        text = self.get()
        at = len(text) if index in ("end", "insert") else int(index)
        self._put(text[:at] + str(string) + text[at:])
        self.did("insert", index, string)

    def delete(self, first: object, last: object = None) -> None:
        text = self.get()
        start = len(text) if first == "end" else int(first)
        end = start + 1 if last is None else len(text) if last == "end" else int(last)
        self._put(text[:start] + text[end:])
        self.did("delete", first, last)

    def typed(self, char: str, keysym: str) -> None:
        """Typing changes the text."""
        if keysym == "BackSpace":
            self._put(self.get()[:-1])
        elif char and char.isprintable():
            self._put(self.get() + char)

    def filled(self, text: str) -> None:
        """All is typed anew, and left."""
        if str(self.options.get("state")) not in ("disabled", "readonly"):
            self._put(text)
            self.dispatch(["KeyRelease", "FocusOut"], Event(widget=self))

    def icursor(self, index: object) -> None:
        """The cursor is not seen."""

    def select_range(self, start: object, end: object) -> None:
        """A selection is not seen."""

    selection_range = select_range

    def selection_clear(self) -> None:
        """A selection is not seen."""


class Spinbox(Entry):
    """A line with a number."""


class Text(Widget):
    """Many lines of text."""

    def __init__(self, master: Misc | None = None, cnf: dict | None = None, **options: object) -> None:
        self.text = ""
        super().__init__(master, cnf, **options)

    def _offset(self, index: object) -> int:
        where = str(index)
        if where.startswith("end"):
            return len(self.text)
        line, _, column = where.partition(".")
        if not line.isdigit():
            return len(self.text)
        lines = self.text.split("\n")
        start = sum(len(part) + 1 for part in lines[: int(line) - 1])
        inside = lines[int(line) - 1] if int(line) <= len(lines) else ""
        return min(start + (len(inside) if column.startswith("end") else int(column or 0)), len(self.text))

    def insert(self, index: object, chars: str, *tags: object) -> None:
        at = self._offset(index)
        self.text = self.text[:at] + str(chars) + self.text[at:]
        self.did("insert", index, chars)

    def get(self, index1: object, index2: object = None) -> str:
        start = self._offset(index1)
        end = start + 1 if index2 is None else self._offset(index2)
        ends_all = str(index2) == "end"
        return self.text[start:end] + ("\n" if ends_all else "")

    def delete(self, index1: object, index2: object = None) -> None:
        start = self._offset(index1)
        end = start + 1 if index2 is None else self._offset(index2)
        self.text = self.text[:start] + self.text[end:]
        self.did("delete", index1, index2)

    def see(self, index: object) -> None:
        """Scrolling is not seen."""

    def yview(self, *args: object) -> tuple:
        return (0.0, 1.0)

    xview = yview

    def tag_configure(self, name: str, cnf: dict | None = None, **options: object) -> None:
        self.did("tag_configure", name, **options)

    tag_config = tag_configure

    def tag_add(self, name: str, *indices: object) -> None:
        self.did("tag_add", name, *indices)

    def tag_remove(self, name: str, *indices: object) -> None:
        self.did("tag_remove", name, *indices)

    def index(self, index: object) -> str:
        before = self.text[: self._offset(index)].split("\n")
        return f"{len(before)}.{len(before[-1])}"

    def typed(self, char: str, keysym: str) -> None:
        """Typing changes the text."""
        self.text += "\n" if keysym == "Return" else char if char.isprintable() else ""


class Listbox(Widget):
    """A list to choose from."""

    def __init__(self, master: Misc | None = None, cnf: dict | None = None, **options: object) -> None:
        self.lines: list[str] = []
        self.chosen: tuple = ()
        super().__init__(master, cnf, **options)

    def insert(self, index: object, *elements: object) -> None:
        at = len(self.lines) if index == "end" else int(index)
        self.lines[at:at] = [str(element) for element in elements]
        self.did("insert", index, *elements)

    def delete(self, first: object, last: object = None) -> None:
        start = len(self.lines) - 1 if first == "end" else int(first)
        end = start if last is None else len(self.lines) - 1 if last == "end" else int(last)
        del self.lines[start : end + 1]
        self.did("delete", first, last)

    def get(self, first: object, last: object = None) -> object:
        start = len(self.lines) - 1 if first == "end" else int(first)
        if last is None:
            return self.lines[start] if 0 <= start < len(self.lines) else ""
        end = len(self.lines) - 1 if last == "end" else int(last)
        return tuple(self.lines[start : end + 1])

    def size(self) -> int:
        return len(self.lines)

    def curselection(self) -> tuple:
        return self.chosen

    def selection_set(self, first: object, last: object = None) -> None:
        self.chosen = (int(first),) if first != "end" else (len(self.lines) - 1,)

    select_set = selection_set

    def selection_clear(self, first: object, last: object = None) -> None:
        self.chosen = ()

    select_clear = selection_clear

    def chosen_by(self, text: str) -> object:
        """A line is chosen by what it says."""
        return (lambda: self.select(self.lines.index(text))) if text in self.lines else None

    def select(self, number: int) -> None:
        """A line is clicked."""
        self.chosen = (number,)
        self.dispatch(["ListboxSelect"], Event(widget=self))

    def see(self, index: object) -> None:
        """Scrolling is not seen."""

    def activate(self, index: object) -> None:
        """The active line is not seen."""

    def yview(self, *args: object) -> tuple:
        return (0.0, 1.0)


class Scale(Widget):
    """A slider."""

    def __init__(self, master: Misc | None = None, cnf: dict | None = None, **options: object) -> None:
        super().__init__(master, cnf, **options)
        self.value: object = self.options.get("from_", self.options.get("from", 0))

    def get(self) -> object:
        variable = self.options.get("variable")
        return variable.get() if variable is not None else self.value

    def set(self, value: object) -> None:
        self.value = value
        if self.options.get("variable") is not None:
            self.options["variable"].set(value)
        self.did("set", value)
        command = self.options.get("command")
        if callable(command):
            self.app.after(0, command, (str(value),))


class Scrollbar(Widget):
    """A scroll bar."""

    def set(self, first: object, last: object) -> None:
        """Scrolling is not seen."""


class Menu(Widget):
    """A menu; its entries are chosen by their labels."""

    def __init__(self, master: Misc | None = None, cnf: dict | None = None, **options: object) -> None:
        self.entries: list[dict] = []
        super().__init__(master, cnf, **options)

    def chosen_by(self, text: str) -> object:
        """An entry is chosen by its label."""
        found = next((entry for entry in self.entries if str(entry.get("label", "")) == text), None)
        return (lambda: self.choose(found)) if found is not None else None

    def choose(self, entry: dict) -> None:
        """What an entry sets, and what it calls."""
        if entry.get("variable") is not None:
            entry["variable"].set(entry.get("value", entry.get("onvalue", 1)))
        if callable(entry.get("command")):
            entry["command"]()

    def _add(self, what: str, options: dict) -> None:
        self.entries.append(options)
        self.did(what, **options)

    def add_command(self, cnf: dict | None = None, **options: object) -> None:
        self._add("add_command", {**(cnf or {}), **options})

    def add_cascade(self, cnf: dict | None = None, **options: object) -> None:
        self.did("add_cascade", **{**(cnf or {}), **options})

    def add_checkbutton(self, cnf: dict | None = None, **options: object) -> None:
        self._add("add_checkbutton", {**(cnf or {}), **options})

    def add_radiobutton(self, cnf: dict | None = None, **options: object) -> None:
        self._add("add_radiobutton", {**(cnf or {}), **options})

    def add_separator(self, cnf: dict | None = None, **options: object) -> None:
        self.did("add_separator")

    def entryconfigure(self, index: object, cnf: dict | None = None, **options: object) -> None:
        self.did("entryconfigure", index, **options)

    entryconfig = entryconfigure

    def delete(self, index1: object, index2: object = None) -> None:
        self.did("delete", index1, index2)

    def post(self, x: object, y: object) -> None:
        self.did("post", x, y)
