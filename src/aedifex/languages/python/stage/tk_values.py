"""Variables and pictures of the tkinter stand-in."""

from __future__ import annotations

from _aedifex_stage.tk_core import App, Misc, TclError, shown_option


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
