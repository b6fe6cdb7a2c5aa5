"""The common widgets of the tkinter stand-in, its canvas and its variables."""

from __future__ import annotations

import itertools

from _aedifex_stage.tk_core import App, Event, Misc, TclError, Widget, shown_option


class Canvas(Widget):
    """A canvas: items with coordinates, options and tags."""

    def __init__(self, master: Misc | None = None, cnf: dict | None = None, **options: object) -> None:
        self.items: dict[int, dict] = {}
        self.order: dict[int, None] = {}
        self.item_numbers = itertools.count(1)
        super().__init__(master, cnf, **options)

    def _create(self, kind: str, args: tuple, options: dict) -> int:
        if args and isinstance(args[-1], dict):
            options = {**args[-1], **options}
            args = args[:-1]
        number = next(self.item_numbers)
        tags = options.get("tags", ())
        tags = (tags,) if isinstance(tags, str) else tuple(tags)
        self.items[number] = {"kind": kind, "coords": _flat(args), "options": dict(options), "tags": tags, "on": {}}
        self.order[number] = None
        self.did(f"create_{kind}", *_flat(args), **options)
        return number

    def create_line(self, *args: object, **options: object) -> int:
        return self._create("line", args, options)

    def create_polygon(self, *args: object, **options: object) -> int:
        return self._create("polygon", args, options)

    def create_rectangle(self, *args: object, **options: object) -> int:
        return self._create("rectangle", args, options)

    def create_oval(self, *args: object, **options: object) -> int:
        return self._create("oval", args, options)

    def create_arc(self, *args: object, **options: object) -> int:
        return self._create("arc", args, options)

    def create_text(self, *args: object, **options: object) -> int:
        return self._create("text", args, options)

    def create_image(self, *args: object, **options: object) -> int:
        return self._create("image", args, options)

    def create_bitmap(self, *args: object, **options: object) -> int:
        return self._create("bitmap", args, options)

    def create_window(self, *args: object, **options: object) -> int:
        return self._create("window", args, options)

    def _find(self, tag: object) -> list[int]:
        if isinstance(tag, int) or (isinstance(tag, str) and tag.isdigit()):
            return [int(tag)] if int(tag) in self.items else []
        if tag == "all":
            return list(self.order)
        if tag == "current":
            return []
        return [number for number in self.order if tag in self.items[number]["tags"]]

    def coords(self, *args: object) -> list:
        tag, *new = args
        found = self._find(tag)
        if not new:
            return list(self.items[found[0]]["coords"]) if found else []
        for number in found[:1]:
            self.items[number]["coords"] = _flat(new)
            self.did("coords", number, *_flat(new))
        return []

    def move(self, *args: object) -> None:
        tag, dx, dy = args
        for number in self._find(tag):
            item = self.items[number]
            item["coords"] = [c + (float(dy) if n % 2 else float(dx)) for n, c in enumerate(item["coords"])]
        self.did("move", tag, dx, dy)

    def moveto(self, tag: object, x: object = "", y: object = "") -> None:
        box = self.bbox(tag)
        if box:
            self.move(tag, float(x) - box[0] if x != "" else 0, float(y) - box[1] if y != "" else 0)

    def scale(self, *args: object) -> None:
        tag, ox, oy, sx, sy = args
        for number in self._find(tag):
            item = self.items[number]
            item["coords"] = [
                (oy + (c - oy) * sy) if n % 2 else (ox + (c - ox) * sx) for n, c in enumerate(item["coords"])
            ]
        self.did("scale", *args)

    def itemconfigure(self, tagOrId: object, cnf: dict | None = None, **options: object) -> None:
        changes = {**(cnf or {}), **options}
        for number in self._find(tagOrId):
            self.items[number]["options"].update(changes)
            if "tags" in changes:
                tags = changes["tags"]
                self.items[number]["tags"] = (tags,) if isinstance(tags, str) else tuple(tags)
        self.did("itemconfigure", tagOrId, **changes)

    itemconfig = itemconfigure

    def itemcget(self, tagOrId: object, option: str) -> object:
        found = self._find(tagOrId)
        return self.items[found[0]]["options"].get(option, "") if found else ""

    def delete(self, *args: object) -> None:
        for tag in args:
            for number in self._find(tag):
                del self.items[number], self.order[number]
        self.did("delete", *args)

    def find_all(self) -> tuple:
        return tuple(self.order)

    def find_withtag(self, tagOrId: object) -> tuple:
        return tuple(self._find(tagOrId))

    def find_overlapping(self, x1: float, y1: float, x2: float, y2: float) -> tuple:
        return tuple(
            n for n in self.order if (b := self.bbox(n)) and b[0] <= x2 and b[2] >= x1 and b[1] <= y2 and b[3] >= y1
        )

    def find_enclosed(self, x1: float, y1: float, x2: float, y2: float) -> tuple:
        return tuple(
            n for n in self.order if (b := self.bbox(n)) and b[0] >= x1 and b[2] <= x2 and b[1] >= y1 and b[3] <= y2
        )

    def find_closest(self, x: float, y: float, halo: object = None, start: object = None) -> tuple:
        def distance(number: int) -> float:
            box = self.bbox(number) or (0, 0, 0, 0)
            dx = max(box[0] - x, 0, x - box[2])
            dy = max(box[1] - y, 0, y - box[3])
            return dx * dx + dy * dy

        return (min(reversed(self.order), key=distance),) if self.order else ()

    def bbox(self, *tags: object) -> tuple | None:
        xs: list[float] = []
        ys: list[float] = []
        for tag in tags:
            for number in self._find(tag):
                item = self.items[number]
                x, y = item["coords"][::2], item["coords"][1::2]
                if item["kind"] == "text":
                    width, height = _text_size(item["options"])
                    x, y = [x[0] - width / 2, x[0] + width / 2], [y[0] - height / 2, y[0] + height / 2]
                    if "w" in str(item["options"].get("anchor", "")):
                        x = [c + width / 2 for c in x]
                    elif "e" in str(item["options"].get("anchor", "")):
                        x = [c - width / 2 for c in x]
                xs += x
                ys += y
        return (int(min(xs)), int(min(ys)), int(max(xs)), int(max(ys))) if xs else None

    def type(self, tagOrId: object) -> str:
        found = self._find(tagOrId)
        return self.items[found[0]]["kind"] if found else ""

    def gettags(self, tagOrId: object) -> tuple:
        found = self._find(tagOrId)
        return self.items[found[0]]["tags"] if found else ()

    def addtag_withtag(self, newtag: str, tagOrId: object) -> None:
        for number in self._find(tagOrId):
            self.items[number]["tags"] += (newtag,)

    def dtag(self, tagOrId: object, tagToDelete: str) -> None:
        for number in self._find(tagOrId):
            self.items[number]["tags"] = tuple(t for t in self.items[number]["tags"] if t != tagToDelete)

    def tag_bind(self, tagOrId: object, sequence: str, func: object = None, add: object = None) -> None:
        for number in self._find(tagOrId):
            calls = self.items[number]["on"]
            key = sequence.strip("<>")
            calls[key] = [*(calls.get(key, []) if add else []), func]

    def tag_unbind(self, tagOrId: object, sequence: str, funcid: object = None) -> None:
        for number in self._find(tagOrId):
            self.items[number]["on"].pop(sequence.strip("<>"), None)

    def tag_raise(self, *args: object) -> None:
        for number in self._find(args[0]):
            del self.order[number]
            self.order[number] = None
        self.did("tag_raise", *args)

    def tag_lower(self, *args: object) -> None:
        for number in reversed(self._find(args[0])):
            del self.order[number]
            self.order = {number: None, **self.order}
        self.did("tag_lower", *args)

    def canvasx(self, screenx: float, gridspacing: object = None) -> float:
        return float(screenx)

    def canvasy(self, screeny: float, gridspacing: object = None) -> float:
        return float(screeny)

    def xview(self, *args: object) -> tuple:
        return (0.0, 1.0)

    def yview(self, *args: object) -> tuple:
        return (0.0, 1.0)

    def xview_moveto(self, fraction: float) -> None:
        """Scrolling is not seen."""

    yview_moveto = xview_moveto

    def xview_scroll(self, number: object, what: object) -> None:
        """Scrolling is not seen."""

    yview_scroll = xview_scroll

    def postscript(self, *args: object, **options: object) -> str:
        self.did("postscript")
        return ""

    def focus_force(self) -> None:
        self.app.focus = self

    def pointed(self, names: list, event: Event, kind: str) -> None:
        """Items under the pointer come first, then the canvas."""
        for number in reversed(self.order):
            item = self.items.get(number)
            if item is None or not item["on"] or not self._hits(number, event):
                continue
            for name in names:
                for call in item["on"].get(name, []):
                    if call:
                        self.app.run(call, event)
            break
        self.dispatch(names, event)

    def _hits(self, number: int, event: Event) -> bool:
        box = self.bbox(number)
        return box is not None and box[0] - 1 <= event.x <= box[2] + 1 and box[1] - 1 <= event.y <= box[3] + 1


class _Clicked(Widget):
    """A widget that runs its command when it is clicked."""

    def invoke(self) -> object:
        command = self.options.get("command")
        return command() if callable(command) else None

    def flash(self) -> None:
        self.did("flash")

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
    """A menu."""

    def add_command(self, cnf: dict | None = None, **options: object) -> None:
        self.did("add_command", **{**(cnf or {}), **options})

    def add_cascade(self, cnf: dict | None = None, **options: object) -> None:
        self.did("add_cascade", **{**(cnf or {}), **options})

    def add_checkbutton(self, cnf: dict | None = None, **options: object) -> None:
        self.did("add_checkbutton", **{**(cnf or {}), **options})

    def add_radiobutton(self, cnf: dict | None = None, **options: object) -> None:
        self.did("add_radiobutton", **{**(cnf or {}), **options})

    def add_separator(self, cnf: dict | None = None, **options: object) -> None:
        self.did("add_separator")

    def entryconfigure(self, index: object, cnf: dict | None = None, **options: object) -> None:
        self.did("entryconfigure", index, **options)

    entryconfig = entryconfigure

    def delete(self, index1: object, index2: object = None) -> None:
        self.did("delete", index1, index2)

    def post(self, x: object, y: object) -> None:
        self.did("post", x, y)


class Variable:
    """A value that widgets share."""

    app: App
    _start: object = ""

    def __init__(self, master: object = None, value: object = None, name: object = None) -> None:
        self._value = self._start if value is None else value
        self._traces: list = []
        self._name = name or f"PY_VAR{next(self.app.names)}"

    def get(self) -> object:
        return self._value

    def set(self, value: object) -> None:
        self._value = value
        self.app.record(f"{type(self).__name__}.set({shown_option(value)})")
        for call in self._traces:
            call(self._name, "", "write")

    def trace_add(self, mode: object, callback: object) -> str:
        self._traces.append(callback)
        return f"trace{len(self._traces)}"

    def trace(self, mode: object, callback: object) -> str:
        return self.trace_add(mode, callback)

    trace_variable = trace

    def trace_remove(self, mode: object, name: object) -> None:
        """Traces stay."""

    def tk_value(self) -> str:
        """What the trace shows for it."""
        return f"<{type(self).__name__}>"

    def __str__(self) -> str:
        return self._name


class StringVar(Variable):
    """A text."""

    def get(self) -> str:
        return str(self._value)


class IntVar(Variable):
    """A whole number."""

    _start = 0

    def get(self) -> int:
        return int(float(str(self._value)))


class DoubleVar(Variable):
    """A number."""

    _start = 0.0

    def get(self) -> float:
        return float(str(self._value))


class BooleanVar(Variable):
    """True or false."""

    _start = False

    def get(self) -> bool:
        return str(self._value).lower() in ("1", "true", "yes", "on")


class Image:
    """A picture; its size comes from the options."""

    app: App

    def __init__(self, name: object = None, cnf: dict | None = None, master: object = None, **options: object) -> None:
        self.options = {**(cnf or {}), **options}
        file = self.options.get("file")
        if file is not None:
            try:
                open(str(file), "rb").close()
            except OSError:
                raise TclError(f'couldn\'t open "{file}": no such file or directory') from None
        self.app.record(f"{type(self).__name__}({Misc.listed(self.options)})")

    def width(self) -> int:
        return int(self.options.get("width", 1))

    def height(self) -> int:
        return int(self.options.get("height", 1))

    def blank(self) -> None:
        """Nothing is painted."""

    def put(self, data: object, to: object = None) -> None:
        self.app.record(f"{type(self).__name__}.put({shown_option(data)}, {shown_option(to)})")

    def configure(self, **options: object) -> None:
        self.options.update(options)

    config = configure

    def subsample(self, x: int, y: object = "") -> Image:
        return self

    zoom = subsample

    def tk_value(self) -> str:
        """What the trace shows for it."""
        return f"<{type(self).__name__} {self.options.get('file', '')}>"


class PhotoImage(Image):
    """A picture with colours."""


class BitmapImage(Image):
    """A picture in two colours."""


def _flat(args: object) -> list[float]:
    flat: list[float] = []
    for arg in args:
        if isinstance(arg, list | tuple):
            flat += _flat(arg)
        else:
            flat.append(float(arg))
    return flat


def _text_size(options: dict) -> tuple[float, float]:
    """A size for a text that depends on nothing but the text and its font's size."""
    font = options.get("font", ())
    size = next((abs(int(part)) for part in font if isinstance(part, int)), 8) if isinstance(font, tuple | list) else 8
    lines = str(options.get("text", "")).split("\n")
    return max(len(line) for line in lines) * size * 0.8, len(lines) * size * 1.6
