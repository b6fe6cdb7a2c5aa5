"""The widgets of the tkinter stand-in that let one choose: menus that open, tables, and pages with tabs."""

from __future__ import annotations

from _aedifex_stage.tk_core import Event, Misc, Widget
from _aedifex_stage.tk_names import TclError
from _aedifex_stage.tk_widgets import Entry


class Combobox(Entry):
    """A line to edit or to choose."""

    def current(self, newindex: object = None) -> int:
        values = self._values()
        if newindex is not None:
            self._put(values[int(newindex)])
        return values.index(self.get()) if self.get() in values else -1

    def set(self, value: object) -> None:
        self._put(str(value))

    def chosen_by(self, text: str) -> object:
        """One of the values is chosen by what it says."""
        return (lambda: self.choose(text)) if text in self._values() else None

    def choose(self, text: str) -> None:
        """A value is clicked."""
        self._put(text)
        self.dispatch(["ComboboxSelected"], Event(widget=self))

    def _values(self) -> list[str]:
        return [str(value) for value in self.options.get("values", ())]


class Menubutton(Widget):
    """A button that opens a menu."""


class OptionMenu(Menubutton):
    """A button that shows one of several values, and lets one choose another."""

    def __init__(self, master: Misc, variable: object, value: object, *values: object, **options: object) -> None:
        self.command = options.pop("command", None)
        if options:
            raise TclError(f"unknown option -{next(iter(options))}")
        self._begin(master, variable, (value, *values))

    def _begin(self, master: Misc, variable: object, values: tuple, **options: object) -> None:
        self.variable, self.values = variable, list(values)
        Widget.__init__(self, master, values=tuple(values), **options)

    def chosen_by(self, text: str) -> object:
        """One of the values is chosen by what it says."""
        found = [value for value in self.values if str(value) == text]
        return (lambda: self.choose(found[0])) if found else None

    def choose(self, value: object) -> None:
        """A value is clicked."""
        self.variable.set(value)
        if callable(self.command):
            self.command(value)


class ThemedOptionMenu(OptionMenu):
    """The same with a value to begin with, which need not be one of the others."""

    def __init__(
        self, master: Misc, variable: object, default: object = None, *values: object, **options: object
    ) -> None:
        self.command = options.pop("command", None)
        self._begin(master, variable, values, **options)
        if default is not None:
            variable.set(default)

    def set_menu(self, default: object = None, *values: object) -> None:
        self.values = list(values)
        self.did("set_menu", default, *values)
        if default is not None:
            self.variable.set(default)


class PanedWindow(Widget):
    """Parts of a window side by side."""

    def add(self, child: object, **options: object) -> None:
        self.did("add", child, **options)


class Notebook(Widget):
    """Pages with tabs, of which one is seen."""

    def __init__(self, master: Misc | None = None, **options: object) -> None:
        self.pages: list[Misc] = []
        self.texts: dict[Misc, str] = {}
        self.seen = 0
        super().__init__(master, **options)

    def add(self, child: Misc, **options: object) -> None:
        self.pages.append(child)
        self.texts[child] = str(options.get("text", ""))
        self.did("add", child, **options)

    def tabs(self) -> tuple:
        return tuple(str(page) for page in self.pages)

    def index(self, tab_id: object) -> int:
        if tab_id == "end":
            return len(self.pages)
        if tab_id == "current":
            return self.seen
        if isinstance(tab_id, int):
            return tab_id
        return self.tabs().index(str(tab_id))

    def select(self, tab_id: object = None) -> str:
        if tab_id is None:
            return self.tabs()[self.seen] if self.pages else ""
        self.turn_to(self.index(tab_id))
        return ""

    def tab(self, tab_id: object, option: str | None = None, **options: object) -> object:
        page = self.pages[self.index(tab_id)]
        if "text" in options:
            self.texts[page] = str(options["text"])
        if options:
            self.did("tab", tab_id, **options)
        return self.texts[page] if option == "text" else {"text": self.texts[page]}

    def chosen_by(self, text: str) -> object:
        """A page is chosen by its tab."""
        found = [number for number, page in enumerate(self.pages) if self.texts[page] == text]
        return (lambda: self.turn_to(found[0])) if found else None

    def turn_to(self, number: int) -> None:
        """A tab is clicked."""
        if number != self.seen:
            self.seen = number
            self.did("select", number)
            self.dispatch(["NotebookTabChanged"], Event(widget=self))


class Treeview(Widget):
    """A table, or a tree, of rows."""

    def __init__(self, master: Misc | None = None, **options: object) -> None:
        self.rows: dict[str, dict] = {}
        self.inside: dict[str, list[str]] = {"": []}
        self.chosen: tuple = ()
        self.made_rows = 0
        super().__init__(master, **options)

    def insert(self, parent: str, index: object, iid: object = None, **options: object) -> str:
        self.made_rows += 1
        row = str(iid) if iid is not None else f"I{self.made_rows:03X}"
        if row in self.rows:
            raise TclError(f"Item {row} already exists")
        beside = self.inside[self._known(parent)]
        beside.insert(len(beside) if index == "end" else int(index), row)
        self.rows[row] = {"text": "", "image": "", "values": "", "open": 0, "tags": "", **self._told(options)}
        self.inside[row] = []
        self.did("insert", parent, index, **options)
        return row

    def delete(self, *items: object) -> None:
        for row in [str(item) for item in items]:
            self._known(row)
            self.delete(*self.inside.pop(row))
            del self.rows[row]
            for beside in self.inside.values():
                beside[:] = [other for other in beside if other != row]
            self.chosen = tuple(other for other in self.chosen if other != row)
            self.did("delete", row)

    def get_children(self, item: str | None = None) -> tuple:
        return tuple(self.inside[self._known(item or "")])

    def exists(self, item: object) -> bool:
        return str(item) in self.rows

    def parent(self, item: str) -> str:
        return next(above for above, rows in self.inside.items() if self._known(item) in rows)

    def index(self, item: str) -> int:
        return self.inside[self.parent(item)].index(item)

    def item(self, item: str, option: str | None = None, **options: object) -> object:
        row = self.rows[self._known(item)]
        if options:
            row.update(self._told(options))
            self.did("item", item, **options)
            return None
        return row[option.lstrip("-")] if option is not None else dict(row)

    def set(self, item: str, column: object = None, value: object = None) -> object:
        row, columns = self.rows[self._known(item)], [str(name) for name in self.options.get("columns", ())]
        values = [*row["values"], *([""] * (len(columns) - len(row["values"])))]
        if column is None:
            return dict(zip(columns, values, strict=False))
        place = columns.index(str(column)) if str(column) in columns else int(str(column).lstrip("#")) - 1
        if value is None:
            return values[place]
        values[place] = value
        row["values"] = values
        self.did("set", item, column, value)
        return ""

    def heading(self, column: object, option: str | None = None, **options: object) -> None:
        self.did("heading", column, **options)

    def column(self, column: object, option: str | None = None, **options: object) -> None:
        self.did("column", column, **options)

    def tag_configure(self, tagname: str, option: str | None = None, **options: object) -> None:
        self.did("tag_configure", tagname, **options)

    def selection(self) -> tuple:
        return self.chosen

    def selection_set(self, *items: object) -> None:
        rows = [str(row) for item in items for row in (item if isinstance(item, (list, tuple)) else [item])]
        self.chosen = tuple(self._known(row) for row in rows)
        self.dispatch(["TreeviewSelect"], Event(widget=self))

    def focus(self, item: object = None) -> str:
        if item is not None:
            return ""
        return self.chosen[0] if self.chosen else ""

    def see(self, item: object) -> None:
        """Scrolling is not seen."""

    def yview(self, *args: object) -> tuple:
        return (0.0, 1.0)

    def chosen_by(self, text: str) -> object:
        """A row is chosen by its text, or by its first value."""
        for name, row in self.rows.items():
            if text in (str(row["text"]), str(row["values"][0]) if row["values"] else ""):
                return lambda: self.selection_set(name)
        return None

    def _known(self, item: str) -> str:
        if item and str(item) not in self.rows:
            raise TclError(f"Item {item} not found")
        return str(item)

    @staticmethod
    def _told(options: dict) -> dict:
        return {**options, "values": list(options["values"])} if "values" in options else dict(options)
