"""The virtual clock: time passes only when the program sleeps or asks, and always in the same way."""

from __future__ import annotations

import datetime
import queue  # noqa: F401
import selectors
import subprocess
import threading  # noqa: F401
import time
import types

# What is imported here keeps the real clock: it waits for other processes and threads, which know no other.

_START = 1_767_268_800.0
_TICK = 0.001


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


def install(world: object) -> None:
    """Put the virtual clock in place of `time` and of `now` and `today` in `datetime`."""
    real = {name: getattr(time, name) for name in ("localtime", "gmtime", "strftime", "ctime", "asctime")}
    # It sleeps by `time.sleep` while it waits for a child, and how often depends on the machine.
    subprocess.time = types.SimpleNamespace(**vars(time))

    def sleep(seconds: float) -> None:
        if seconds < 0:
            raise ValueError("sleep length must be non-negative")
        clock.wait(seconds)
        world.slept()

    def now() -> float:
        return _START + clock.ask()

    time.sleep = sleep
    time.time = now
    time.time_ns = lambda: int(now() * 1e9)
    for name in ("monotonic", "perf_counter", "process_time", "thread_time"):
        setattr(time, name, clock.ask)
        setattr(time, f"{name}_ns", lambda: int(clock.ask() * 1e9))
    time.localtime = lambda seconds=None: real["localtime"](now() if seconds is None else seconds)
    time.gmtime = lambda seconds=None: real["gmtime"](now() if seconds is None else seconds)
    time.ctime = lambda seconds=None: real["ctime"](now() if seconds is None else seconds)
    time.asctime = lambda parts=None: real["asctime"](real["localtime"](now()) if parts is None else parts)
    time.strftime = lambda text, parts=None: real["strftime"](
        text, real["localtime"](now()) if parts is None else parts
    )
    _install_dates(now)


def _install_dates(now: object) -> None:
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
            return plain_datetime.fromtimestamp(now(), datetime.UTC).replace(tzinfo=None)

    for kind, name in ((Date, "date"), (DateTime, "datetime")):
        kind.__name__ = kind.__qualname__ = name
        kind.__module__ = "datetime"
        setattr(datetime, name, kind)


def hurry_event_loop(module: object) -> None:
    """An event loop with nothing to do lets virtual time pass instead of waiting."""
    kind = selectors.DefaultSelector
    real = kind.select

    def select(self: object, timeout: float | None = None) -> list:
        ready = real(self, 0)
        if ready or timeout is None:
            return ready or real(self, timeout)
        clock.wait(timeout)
        return ready

    kind.select = select
