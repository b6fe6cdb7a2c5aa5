"""What a program does beyond its own process: children that it starts, connections that it opens, pages that it shows.

Connections to anywhere but this machine fail as without a network, unless the plan allows them.
"""

from __future__ import annotations

import errno
import functools
import os

_HERE = ("127.", "localhost", "::1", "0.0.0.0")
_LONGEST = 300


def install(world: object) -> None:
    """Watch what the interpreter is asked for; only what the program's own code brings about is noted."""
    abroad = Abroad(world)
    for event in ("os.system", "os.posix_spawn", "subprocess.Popen"):
        world.hears[event] = abroad.start
    world.hears["os.exec"] = abroad.become
    world.hears["os.fork"] = lambda args: abroad.note("starts", "forks")
    world.hears["socket.getaddrinfo"] = abroad.ask
    for event, doing in (("connect", "connects to"), ("bind", "listens at"), ("sendto", "sends to")):
        world.hears[f"socket.{event}"] = functools.partial(abroad.connect, doing)


def show_page(module: object, world: object) -> None:
    """The browser stays closed; its pages are noted."""

    def show(url: str, new: int = 0, autoraise: bool = True) -> bool:
        world.trace.add("starts", f"shows {url} in the browser")
        return True

    module.open = show
    module.open_new = module.open_new_tab = show


class Abroad:
    """Notes what leaves the process."""

    def __init__(self, world: object) -> None:
        self.world = world
        self.is_noting = False

    def start(self, args: tuple) -> None:
        """A program is started."""
        self.note("starts", f"starts {self.command(args[1] if len(args) > 1 else args[0])}")

    def become(self, args: tuple) -> None:
        """The process goes on as another program, of which we hear no more than it writes."""
        self.start(args)
        self.world.become()

    def ask(self, args: tuple) -> None:
        """The address of a host is asked for."""
        if args[0] and not self.is_here(args[0]):
            self.note("connects", f"asks for the address of {os.fsdecode(args[0])}, port {args[1]}")
            if not self.world.plan.network:
                import socket

                raise socket.gaierror(socket.EAI_AGAIN, "Temporary failure in name resolution")

    def command(self, given: object) -> str:
        """A command as a text."""
        words = given if isinstance(given, (list, tuple)) else [given]
        text = " ".join(
            os.fsdecode(word) if isinstance(word, (str, bytes, os.PathLike)) else str(word) for word in words
        )
        return text[:_LONGEST]

    def connect(self, doing: str, args: tuple) -> None:
        """A socket is given an address."""
        address = args[1]
        shown, is_here = repr(address), True
        if isinstance(address, tuple) and len(address) > 1 and isinstance(address[0], (str, bytes)):
            host = os.fsdecode(address[0])
            shown, is_here = f"{host}:{address[1]}", not host or self.is_here(host)
        self.note("connects", f"{doing} {shown}")
        if doing != "listens at" and not is_here and not self.world.plan.network:
            raise OSError(errno.ENETUNREACH, os.strerror(errno.ENETUNREACH))

    def is_here(self, host: object) -> bool:
        """Whether a host is this machine."""
        return os.fsdecode(host).startswith(_HERE)

    def note(self, kind: str, text: str) -> None:
        """Note something if a line of the program is the cause."""
        trace = self.world.trace
        if not self.is_noting and trace.where():
            self.is_noting = True
            try:
                trace.add(kind, text)
            finally:
                self.is_noting = False
