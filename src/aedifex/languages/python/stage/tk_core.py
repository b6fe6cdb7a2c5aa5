"""What every widget of the tkinter stand-in can do, and what is written down of it."""

from __future__ import annotations

import sys

from _aedifex_stage.clock import clock
from _aedifex_stage.double import shown
from _aedifex_stage.tk_app import App, Event
from _aedifex_stage.tk_names import NotCoveredError, TclError, real_names


class Misc:
    """What all widgets can do."""

    app: App
    _word = "widget"

    def __init__(self, master: Misc | None = None, cnf: dict | None = None, **options: object) -> None:
        if master is None and self.app.root is None and not isinstance(self, _Window):
            Tk()
        self.master = master if master is not None else self.app.root
        self.children: dict[str, Misc] = {}
        self.options = {**(cnf or {}), **options}
        self.handlers: dict[str, list] = {}
        self.is_gone = False
        name = self.options.pop("name", None) or f"!{type(self).__name__.lower()}{next(self.app.names)}"
        self._name = str(name)
        if self.master is not None and self.master is not self:
            self.master.children[self._name] = self
        self.app.widgets.append(self)
        self.tk = self
        self.made()

    def made(self) -> None:
        """Write down that the widget was made."""
        self.app.record(f"{self.label}({self.listed(self.options)})")

    @property
    def label(self) -> str:
        """What the trace calls the widget."""
        kind = next(c.__name__ for c in type(self).__mro__ if c.__module__.startswith(("_aedifex_stage", "tkinter")))
        return f"{kind} {self._name.lstrip('!')}" if not self._name.startswith("!") else kind

    @staticmethod
    def listed(options: dict) -> str:
        """Options in words."""
        return ", ".join(f"{key}={shown_option(value)}" for key, value in options.items())

    def did(self, what: str, *args: object, **options: object) -> None:
        """Write down a call."""
        given = [shown_option(arg) for arg in args] + ([self.listed(options)] if options else [])
        self.app.record(f"{self.label}.{what}({', '.join(given)})")

    # -- options

    def configure(self, cnf: dict | None = None, **options: object) -> object:
        changes = {**(cnf or {}), **options} if not isinstance(cnf, str) else {}
        if not changes:
            return {key: (key, "", "", "", value) for key, value in self.options.items()}
        self.options.update(changes)
        self.did("configure", **changes)
        return None

    def config(self, cnf: dict | None = None, **options: object) -> object:
        return self.configure(cnf, **options)

    def cget(self, key: str) -> object:
        return self.options.get(_SAME_OPTION.get(key, key), self.options.get(key, ""))

    def __getitem__(self, key: str) -> object:
        return self.cget(key)

    def __setitem__(self, key: str, value: object) -> None:
        self.configure({key: value})

    def keys(self) -> list:
        return list(self.options)

    # -- timers and loops

    def after(self, ms: object, func: object = None, *args: object) -> object:
        if func is None:
            clock.wait(float(ms) / 1000)
            return None
        return self.app.after(ms, func, args)

    def after_idle(self, func: object, *args: object) -> str:
        return self.app.after(0, func, args)

    def after_cancel(self, id: object) -> None:
        self.app.cancel(id)

    def mainloop(self, n: int = 0) -> None:
        self.app.loop()

    def quit(self) -> None:
        self.app.has_quit = True

    def update(self) -> None:
        frame = sys._getframe(1)
        names = []
        while frame is not None and len(names) < 4:
            names.append((frame.f_globals.get("__name__"), frame.f_code.co_name))
            frame = frame.f_back
        inside_turtle = [name for module, name in names if module == "turtle"]
        is_turn = not inside_turtle or "update" in inside_turtle
        if is_turn:
            self.app.record("update")
        self.app.update(is_turn)

    def update_idletasks(self) -> None:
        """Nothing waits."""

    def wait_window(self, window: object = None) -> None:
        self.app.loop()

    def report_callback_exception(self, kind: type, error: BaseException, trace: object) -> None:
        self.app.world.trace.add("err", f"Exception in a handler: {kind.__name__}: {error}\n")

    # -- handlers

    def bind(self, sequence: str | None = None, func: object = None, add: object = None) -> object:
        if sequence is None:
            return tuple(self.handlers)
        if func is None:
            return self.handlers.get(sequence.strip("<>"), [""])[-1]
        key = sequence.strip("<>")
        before = self.handlers.get(key, []) if add else []
        self.handlers[key] = [*before, func]
        return f"bound{next(self.app.serial)}"

    def bind_all(self, sequence: str | None = None, func: object = None, add: object = None) -> object:
        return (self.app.root or self).bind(sequence, func, add)

    def unbind(self, sequence: str, funcid: object = None) -> None:
        self.handlers.pop(sequence.strip("<>"), None)

    def unbind_all(self, sequence: str) -> None:
        (self.app.root or self).unbind(sequence)

    def dispatch(self, names: list, event: Event) -> bool:
        """Run the handlers bound to the first of some names that has any."""
        for name in names:
            calls = [call for call in self.handlers.get(name, []) if call]
            if calls:
                event.widget = self
                for call in calls:
                    self.app.run(call, event)
                return True
        return False

    def pointed(self, names: list, event: Event, kind: str) -> None:
        """A mouse event happened."""
        self.dispatch(names, event)

    def touchable(self) -> list:
        """The places of drawn things that listen to clicks."""
        return []

    def chosen_by(self, text: str) -> object:
        """What happens when that which shows a text is pressed; None where nothing here does."""
        return None

    def typed(self, char: str, keysym: str) -> None:
        """A key was pressed while the widget had the focus."""

    def event_generate(self, sequence: str, **values: object) -> None:
        self.dispatch([sequence.strip("<>")], Event(**values))

    def register(self, func: object, *rest: object) -> object:
        return func

    # -- focus, life, layout

    def focus_set(self) -> None:
        self.app.focus = self

    focus = focus_force = focus_set

    def focus_get(self) -> object:
        return self.app.focus

    def destroy(self) -> None:
        if self.is_gone:
            return
        self.is_gone = True
        for child in list(self.children.values()):
            child.destroy()
        self.did("destroy")
        if self is self.app.root:
            self.app.has_quit = True
            self.app.timers.clear()
            self.app.root = None

    def _place(self, how: str, cnf: dict | None, options: dict) -> None:
        self.did(how, **{**(cnf or {}), **options})

    def pack(self, cnf: dict | None = None, **options: object) -> None:
        self._place("pack", cnf, options)

    def grid(self, cnf: dict | None = None, **options: object) -> None:
        self._place("grid", cnf, options)

    def place(self, cnf: dict | None = None, **options: object) -> None:
        self._place("place", cnf, options)

    pack_configure, grid_configure, place_configure = pack, grid, place

    def pack_forget(self) -> None:
        self.did("pack_forget")

    def grid_forget(self) -> None:
        self.did("grid_forget")

    def place_forget(self) -> None:
        self.did("place_forget")

    grid_remove = grid_forget

    def grid_rowconfigure(self, index: object, cnf: dict | None = None, **options: object) -> None:
        """Layout in numbers is not seen."""

    grid_columnconfigure = rowconfigure = columnconfigure = grid_rowconfigure

    def propagate(self, flag: object = None) -> None:
        """Layout in numbers is not seen."""

    grid_propagate = pack_propagate = propagate

    def lift(self, above: object = None) -> None:
        self.did("lift")

    def lower(self, below: object = None) -> None:
        self.did("lower")

    tkraise = lift

    # -- questions

    def winfo_children(self) -> list:
        return [child for child in self.children.values() if not child.is_gone]

    def winfo_toplevel(self) -> object:
        widget: Misc = self
        while not isinstance(widget, _Window) and widget.master is not None:
            widget = widget.master
        return widget

    def winfo_exists(self) -> int:
        return int(not self.is_gone)

    def winfo_width(self) -> int:
        return _whole(self.options.get("width"), 400)

    def winfo_height(self) -> int:
        return _whole(self.options.get("height"), 300)

    winfo_reqwidth, winfo_reqheight = winfo_width, winfo_height

    def winfo_screenwidth(self) -> int:
        return 1280

    def winfo_screenheight(self) -> int:
        return 800

    def winfo_x(self) -> int:
        return 0

    winfo_y = winfo_rootx = winfo_rooty = winfo_pointerx = winfo_pointery = winfo_x

    def winfo_ismapped(self) -> int:
        return 1

    winfo_viewable = winfo_ismapped

    def winfo_rgb(self, color: str) -> tuple:
        from _aedifex_stage.tk_colors import rgb

        found = rgb(str(color))
        if found is None:
            raise TclError(f'unknown color name "{color}"')
        return found

    def bell(self, displayof: object = 0) -> None:
        self.did("bell")

    def clipboard_clear(self) -> None:
        self.did("clipboard_clear")

    def clipboard_append(self, text: str) -> None:
        self.did("clipboard_append", text)

    def option_add(self, pattern: str, value: object, priority: object = None) -> None:
        self.did("option_add", pattern, value)

    def nametowidget(self, name: object) -> object:
        return name

    def __str__(self) -> str:
        above = str(self.master) if self.master is not None and self.master is not self else ""
        return f"{above.rstrip('.')}.{self._name}" if not isinstance(self, Tk) else "."

    def __getattr__(self, name: str) -> object:
        if name in real_names():
            raise NotCoveredError(f"{type(self).__name__}.{name}")
        raise AttributeError(f"'{type(self).__name__}' object has no attribute '{name}'")


class _Window(Misc):
    """What top-level windows can do besides."""

    def title(self, string: object = None) -> object:
        if string is None:
            return self.options.get("title", "tk")
        self.options["title"] = string
        self.did("title", string)
        return None

    def geometry(self, newGeometry: object = None) -> object:
        if newGeometry is None:
            return f"{self.winfo_width()}x{self.winfo_height()}+0+0"
        size = str(newGeometry).partition("+")[0].split("x")
        if len(size) == 2 and all(part.strip().isdigit() for part in size):
            self.options["width"], self.options["height"] = int(size[0]), int(size[1])
        self.did("geometry", newGeometry)
        return None

    def protocol(self, name: object = None, func: object = None) -> None:
        self.handlers[f"protocol {name}"] = [func]

    def resizable(self, width: object = None, height: object = None) -> tuple:
        return (1, 1)

    def attributes(self, *args: object, **kwargs: object) -> None:
        self.did("attributes", *args)

    def minsize(self, width: object = None, height: object = None) -> None:
        self.did("minsize", width, height)

    def state(self, newstate: object = None) -> str:
        return "normal"

    def withdraw(self) -> None:
        self.did("withdraw")

    def deiconify(self) -> None:
        self.did("deiconify")

    def iconphoto(self, *args: object) -> None:
        self.did("iconphoto")

    def transient(self, master: object = None) -> None:
        self.did("transient")

    def grab_set(self) -> None:
        self.did("grab_set")

    def overrideredirect(self, boolean: object = None) -> None:
        self.did("overrideredirect", boolean)

    maxsize = minsize
    iconbitmap = iconphoto
    wm_title, wm_geometry, wm_protocol, wm_resizable = title, geometry, protocol, resizable
    wm_attributes, wm_withdraw, wm_deiconify, wm_minsize, wm_maxsize = attributes, withdraw, deiconify, minsize, minsize
    wm_iconphoto, wm_state, wm_overrideredirect = iconphoto, state, overrideredirect


class Tk(_Window):
    """The main window."""

    def __init__(self, *args: object, **options: object) -> None:
        if self.app.root is None:
            self.app.root = self
            self.app.has_quit = False
        super().__init__(None)
        self.master = None


class Toplevel(_Window):
    """Another window."""


class Widget(Misc):
    """A part of a window."""


_SAME_OPTION = {"background": "bg", "foreground": "fg", "borderwidth": "bd"}


def shown_option(value: object) -> str:
    """An option's value in words: widgets by their kind."""
    if isinstance(value, Misc):
        return f"<{value.label}>"
    if isinstance(value, float) and value == int(value) and abs(value) < 1e15:
        return repr(value)
    return shown(value) if not hasattr(value, "tk_value") else value.tk_value()


def _whole(value: object, otherwise: int) -> int:
    try:
        return int(float(str(value)))
    except ValueError:
        return otherwise
