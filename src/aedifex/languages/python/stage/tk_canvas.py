"""The canvas of the tkinter stand-in: items with coordinates, options, tags and handlers."""

from __future__ import annotations

import itertools

from _aedifex_stage.tk_core import Event, Misc, Widget


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

    def touchable(self) -> list:
        """The middle of each item that listens."""
        boxes = [self.bbox(number) for number in sorted(self.items) if self.items[number]["on"]]
        return [((box[0] + box[2]) / 2, (box[1] + box[3]) / 2) for box in boxes if box is not None]

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
