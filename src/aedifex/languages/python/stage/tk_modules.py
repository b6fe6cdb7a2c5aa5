"""The modules of the tkinter stand-in, made when the program imports them."""

from __future__ import annotations

import importlib
import sys
import types

from _aedifex_stage import tk_app, tk_canvas, tk_choices, tk_core, tk_values, tk_widgets
from _aedifex_stage.double import shown

_CONSTANTS = {
    "NO": 0, "FALSE": 0, "OFF": 0, "YES": 1, "TRUE": 1, "ON": 1, "N": "n", "S": "s", "W": "w", "E": "e", "NW": "nw",
    "SW": "sw", "NE": "ne", "SE": "se", "NS": "ns", "EW": "ew", "NSEW": "nsew", "CENTER": "center", "NONE": "none",
    "X": "x", "Y": "y", "BOTH": "both", "LEFT": "left", "TOP": "top", "RIGHT": "right", "BOTTOM": "bottom",
    "RAISED": "raised", "SUNKEN": "sunken", "FLAT": "flat", "RIDGE": "ridge", "GROOVE": "groove", "SOLID": "solid",
    "HORIZONTAL": "horizontal", "VERTICAL": "vertical", "NUMERIC": "numeric", "CHAR": "char", "WORD": "word",
    "BASELINE": "baseline", "INSIDE": "inside", "OUTSIDE": "outside", "SEL": "sel", "END": "end", "INSERT": "insert",
    "CURRENT": "current", "ANCHOR": "anchor", "ALL": "all", "NORMAL": "normal", "DISABLED": "disabled",
    "ACTIVE": "active", "HIDDEN": "hidden", "CASCADE": "cascade", "CHECKBUTTON": "checkbutton", "COMMAND": "command",
    "RADIOBUTTON": "radiobutton", "SEPARATOR": "separator", "SINGLE": "single", "BROWSE": "browse",
    "MULTIPLE": "multiple", "EXTENDED": "extended", "DOTBOX": "dotbox", "UNDERLINE": "underline",
    "PIESLICE": "pieslice", "CHORD": "chord", "ARC": "arc", "FIRST": "first", "LAST": "last", "BUTT": "butt",
    "PROJECTING": "projecting", "ROUND": "round", "BEVEL": "bevel", "MITER": "miter", "MOVETO": "moveto",
    "SCROLL": "scroll", "UNITS": "units", "PAGES": "pages", "TkVersion": 8.6, "TclVersion": 8.6,
}  # fmt: skip


_THEMED = frozenset({"Combobox", "Notebook", "ThemedOptionMenu", "Treeview"})
_PARTS = frozenset(
    {"constants", "messagebox", "simpledialog", "filedialog", "colorchooser", "font", "ttk", "scrolledtext"}
)


def make(name: str, world: object) -> types.ModuleType:
    """The stand-in for `tkinter` or one of its modules."""
    module = types.ModuleType(name)
    module.__path__ = []
    maker = {
        "tkinter": _main,
        "tkinter.constants": lambda module, world: module.__dict__.update(_CONSTANTS),
        "tkinter.messagebox": _messagebox,
        "tkinter.simpledialog": _simpledialog,
        "tkinter.filedialog": _filedialog,
        "tkinter.colorchooser": _filedialog,
        "tkinter.font": _font,
        "tkinter.ttk": _ttk,
        "tkinter.scrolledtext": lambda module, world: setattr(module, "ScrolledText", tk_widgets.Text),
    }.get(name, lambda module, world: None)
    maker(module, world)
    module.__getattr__ = _missing(name)
    return module


def _missing(module: str) -> object:
    def missing(name: str) -> object:
        if name.startswith("__"):
            raise AttributeError(name)
        if module == "tkinter" and name in _PARTS:
            return importlib.import_module(f"{module}.{name}")
        raise tk_core.NotCoveredError(f"{module}.{name}")

    return missing


def _main(module: types.ModuleType, world: object) -> None:
    app = tk_app.App(world)
    tk_core.Misc.app = tk_values.Variable.app = tk_values.Image.app = app
    module.__dict__.update(_CONSTANTS)
    for source in (tk_app, tk_core, tk_canvas, tk_widgets, tk_values, tk_choices):
        for name, value in vars(source).items():
            if (
                name not in _THEMED
                and isinstance(value, type)
                and value.__module__ == source.__name__
                and not name.startswith("_")
            ):
                module.__dict__[name] = value
    del module.__dict__["App"]
    module.mainloop = lambda n=0: app.loop()
    module.getint, module.getdouble = int, float
    module.NoDefaultRoot = lambda: None
    module.Wm, module.TclError = tk_core._Window, tk_core.TclError
    module.constants = make("tkinter.constants", world)
    module.__all__ = [name for name in module.__dict__ if not name.startswith("_") and name != "constants"]
    sys.modules["tkinter.constants"] = module.constants


def _asking(module: types.ModuleType, world: object, answers: dict[str, object]) -> None:
    """Dialogs: the question is written down, the answer is always the same."""

    def make_dialog(name: str, answer: object) -> object:
        def ask(*args: object, **options: object) -> object:
            given = [shown(a) for a in args] + [
                f"{k}={shown(v)}" for k, v in options.items() if k not in ("parent", "master")
            ]
            world.trace.add("draw", f"{name}({', '.join(given)})")
            return answer

        return ask

    for name, answer in answers.items():
        setattr(module, name, make_dialog(name, answer))


def _messagebox(module: types.ModuleType, world: object) -> None:
    yes = dict.fromkeys(("askyesno", "askokcancel", "askretrycancel", "askyesnocancel"), True)
    ok = dict.fromkeys(("showinfo", "showwarning", "showerror"), "ok")
    _asking(module, world, {**ok, **yes, "askquestion": "yes"})


def _simpledialog(module: types.ModuleType, world: object) -> None:
    """Dialogs take their answers from the typed lines."""
    for name, kind in (("askstring", str), ("askinteger", int), ("askfloat", float)):
        setattr(module, name, _typed_dialog(name, kind, world))


def _typed_dialog(name: str, kind: type, world: object) -> object:
    def ask(title: object = "", prompt: object = "", **options: object) -> object:
        world.trace.add("draw", f"{name}({shown(title)}, {shown(prompt)})")
        line = sys.stdin.readline().rstrip("\n")
        try:
            return kind(line) if line else None
        except ValueError:
            return None

    return ask


def _filedialog(module: types.ModuleType, world: object) -> None:
    none = ("askopenfilename", "asksaveasfilename", "askdirectory")
    _asking(module, world, {**dict.fromkeys(none, ""), "askopenfile": None, "asksaveasfile": None})
    module.askcolor = lambda *args, **options: (None, None)


def _font(module: types.ModuleType, world: object) -> None:
    class Font:
        """A font; a text's width follows from its length."""

        def __init__(self, root: object = None, font: object = None, **options: object) -> None:
            self.options = {"family": "fixed", "size": 10, "weight": "normal", **options}

        def measure(self, text: str) -> int:
            return int(len(text) * abs(int(self.options["size"])) * 0.8)

        def metrics(self, *which: str) -> object:
            size = abs(int(self.options["size"]))
            found = {"ascent": size, "descent": size // 4, "linespace": size * 5 // 4, "fixed": 1}
            return found[which[0]] if which else found

        def actual(self, option: object = None) -> object:
            return self.options.get(option) if option else dict(self.options)

        def configure(self, **options: object) -> None:
            self.options.update(options)

        config = configure

        def __getitem__(self, key: str) -> object:
            return self.options[key]

    module.Font = Font
    module.BOLD, module.NORMAL, module.ITALIC, module.ROMAN = "bold", "normal", "italic", "roman"
    module.families = lambda *args: ("fixed",)
    module.nametofont = lambda name, root=None: Font()


def _ttk(module: types.ModuleType, world: object) -> None:
    shared = ("Frame", "Label", "Button", "Checkbutton", "Radiobutton", "Entry", "Scale", "Scrollbar", "LabelFrame")
    for name in shared:
        module.__dict__[name] = getattr(tk_widgets, name)
    module.Labelframe = tk_widgets.LabelFrame
    module.Spinbox = tk_widgets.Spinbox

    class Progressbar(tk_core.Widget):
        """How far something has come."""

        def start(self, interval: object = None) -> None:
            self.did("start")

        def stop(self) -> None:
            self.did("stop")

        def step(self, amount: object = 1) -> None:
            self.did("step", amount)

    class Separator(tk_core.Widget):
        """A line between."""

    class Style:
        """How things look."""

        def __init__(self, master: object = None) -> None:
            """Nothing to set."""

        def configure(self, style: str, **options: object) -> None:
            world.trace.add("draw", f"Style.configure({style}, {shown(options)})")

        map = configure

        def theme_use(self, name: object = None) -> str:
            return "default"

    for kind in (tk_choices.Combobox, tk_choices.Notebook, tk_choices.Treeview):
        module.__dict__[kind.__name__] = kind
    module.Menubutton, module.OptionMenu = tk_choices.Menubutton, tk_choices.ThemedOptionMenu
    module.PanedWindow = module.Panedwindow = tk_choices.PanedWindow
    for kind in (Progressbar, Separator, Style):
        kind.__module__ = "tkinter.ttk"
        module.__dict__[kind.__name__] = kind
