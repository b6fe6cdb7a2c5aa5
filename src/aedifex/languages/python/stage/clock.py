"""The virtual clock: time passes only when the program sleeps or asks, and always in the same way."""

from __future__ import annotations

import builtins
import copyreg
import threading
import time
import types

_START = 1_767_268_800.0
_TICK = 0.001
_NAP = 0.002

WAITING = ("queue", "subprocess", "selectors")
"""Modules that wait for other processes and threads, which know only the real clock; `threading` is one, too."""

_REAL = types.SimpleNamespace(**vars(time))


class Clock:
    """Seconds since the program began, and how many of them it has waited for of its own will."""

    def __init__(self) -> None:
        self.seconds = 0.0
        self.waited = 0.0

    def wait(self, seconds: float) -> None:
        """Let time pass."""
        if seconds > 0:
            self.seconds += seconds
            self.waited += seconds

    def wait_until(self, seconds: float) -> None:
        """Let time pass up to a moment."""
        self.wait(seconds - self.seconds)

    def ask(self) -> float:
        """The time now; asking takes a moment, so that waiting in a loop comes to an end."""
        self.seconds += _TICK
        return self.seconds


clock = Clock()


class Unbound:
    """A function that does not become a method where a class has it, as those of the library do not."""

    def __init__(self, call: object) -> None:
        self.call = call
        self.__name__ = getattr(call, "__name__", "")

    def __call__(self, *given: object, **named: object) -> object:
        """Call it."""
        return self.call(*given, **named)


def install(world: object) -> None:
    """Put the virtual clock in place of `time` and of `now` and `today` in `datetime`."""

    def sleep(seconds: float) -> None:
        if seconds < 0:
            raise ValueError("sleep length must be non-negative")
        clock.wait(seconds)
        if threading.active_count() > 1:
            _REAL.sleep(min(seconds, _NAP))  # others are at work meanwhile
        world.slept()

    hurry_waits(world)
    time.sleep = sleep
    time.time = now
    time.time_ns = lambda: int(now() * 1e9)
    for name in ("monotonic", "perf_counter", "process_time", "thread_time"):
        setattr(time, name, clock.ask)
        setattr(time, f"{name}_ns", lambda: int(clock.ask() * 1e9))
    time.localtime = lambda seconds=None: _REAL.localtime(now() if seconds is None else seconds)
    time.gmtime = lambda seconds=None: _REAL.gmtime(now() if seconds is None else seconds)
    time.ctime = lambda seconds=None: _REAL.ctime(now() if seconds is None else seconds)
    time.asctime = lambda parts=None: _REAL.asctime(_REAL.localtime(now()) if parts is None else parts)
    time.strftime = lambda text, parts=None: _REAL.strftime(text, _REAL.localtime(now()) if parts is None else parts)
    for name, told in list(vars(time).items()):
        if isinstance(told, types.FunctionType | types.MethodType):
            setattr(time, name, Unbound(told))


def now() -> float:
    """The time of day, in seconds since 1970."""
    return _START + clock.ask()


def keep_real(module: object) -> None:
    """Let a module that waits follow the real clock."""
    for name, real in (("time", _REAL), ("_time", _REAL.monotonic), ("monotonic", _REAL.monotonic)):
        if name in vars(module):
            setattr(module, name, _REAL.monotonic if module.__name__ == "queue" else real)


def script_dates(datetime: object) -> None:
    """Put dates that follow the virtual clock in place of those of the module."""
    plain_date, plain_datetime = datetime.date, datetime.datetime

    class OfThisKind(type):
        def __instancecheck__(cls, instance: object) -> bool:
            return isinstance(instance, cls.plain)

    class Date(plain_date, metaclass=OfThisKind):
        plain = plain_date

        @classmethod
        def today(cls) -> datetime.date:
            return plain_date.fromtimestamp(now())

    class DateTime(plain_datetime, metaclass=OfThisKind):
        plain = plain_datetime

        @classmethod
        def now(cls, tz: object = None) -> datetime.datetime:
            return plain_datetime.fromtimestamp(now(), tz)

        @classmethod
        def today(cls) -> datetime.datetime:
            return plain_datetime.fromtimestamp(now())

        @classmethod
        def utcnow(cls) -> datetime.datetime:
            return plain_datetime.fromtimestamp(now(), datetime.timezone.utc).replace(tzinfo=None)

    _build_from_plain(OfThisKind)
    # What holds moments of the plain kind is stored and copied by the name that is theirs for everyone.
    copyreg.pickle(plain_datetime, lambda moment: (DateTime, moment.__reduce__()[1]))
    copyreg.pickle(plain_date, lambda day: (Date, day.__reduce__()[1]))
    for kind, name in ((Date, "date"), (DateTime, "datetime")):
        kind.__name__ = kind.__qualname__ = name
        kind.__module__ = "datetime"
        setattr(datetime, name, kind)


def _build_from_plain(kind: type) -> None:
    """A class of dates that has a metaclass of its own comes from the plain kind: two metaclasses would not agree."""
    real = builtins.__build_class__

    def build(body: object, name: str, *bases: object, **keywords: object) -> type:
        has_own = "metaclass" in keywords or any(type(base) not in (type, kind) for base in bases)
        if has_own and any(type(base) is kind for base in bases):
            bases = tuple(base.plain if type(base) is kind else base for base in bases)
        return real(body, name, *bases, **keywords)

    builtins.__build_class__ = build


def begin_log(logging: object) -> None:
    """A log begins as the program does, also where it was loaded before."""
    logging._startTime = _START
    logging.Formatter.converter = time.localtime


def start_anew() -> None:
    """The program begins now."""
    clock.seconds = clock.waited = 0.0


def hurry_waits(world: object) -> None:
    """Waiting for an event that no other thread is there to set is sleeping."""
    real = threading.Event.wait

    def wait(self: object, timeout: float | None = None) -> bool:
        if timeout is None or self.is_set() or threading.active_count() > 1:
            return real(self, timeout)
        clock.wait(timeout)
        world.slept()
        return self.is_set()

    threading.Event.wait = wait


def hurry_select(module: object, world: object) -> None:
    """Waiting for nothing at all is sleeping."""
    real = module.select

    def select(first: object, second: object, third: object, timeout: float | None = None) -> tuple:
        if timeout is None or first or second or third:
            return real(first, second, third, timeout)
        clock.wait(timeout)
        world.slept()
        return [], [], []

    module.select = select


def hurry_event_loop(module: object, world: object) -> None:
    """An event loop with nothing to do lets virtual time pass instead of waiting."""
    import selectors

    kind = selectors.DefaultSelector
    real = kind.select

    def select(self: object, timeout: float | None = None) -> list:
        ready = real(self, 0)
        if ready or timeout is None:
            return ready or real(self, timeout)
        clock.wait(timeout)
        world.slept()
        return ready

    kind.select = select
