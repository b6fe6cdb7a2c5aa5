"""Walls around the program: it may write into its folder and its temporary home, and nowhere else."""

from __future__ import annotations

import os

_WRITING = os.O_WRONLY | os.O_RDWR | os.O_CREAT | os.O_TRUNC | os.O_APPEND
_CHANGES = {
    "os.remove": ((0, 1),),
    "os.rename": ((0, 2), (1, 3)),
    "os.rmdir": ((0, 1),),
    "os.mkdir": ((0, 2),),
    "os.chmod": ((0, 2),),
    "os.chown": ((0, 3),),
    "os.link": ((1, 3),),
    "os.symlink": ((1, 2),),
    "os.truncate": ((0, None),),
    "os.utime": ((0, 3),),
    "shutil.rmtree": ((0, None),),
    "shutil.move": ((0, None), (1, None)),
    "shutil.copytree": ((1, None),),
}
"""Which arguments of an event are paths, and which the folder that such a path goes from."""

_OF_THE_NAME = frozenset("os.remove os.rename os.rmdir os.mkdir os.link os.symlink shutil.move".split())
"""The events that are about a name in a folder, not about what it leads to."""


class OutsideError(BaseException):
    """The program tried to write outside its folder."""


def install(world: object, folders: list[str]) -> None:
    """Watch what the interpreter is asked to write; what lies outside is stopped and noted.

    This is what can say where the program went wrong; what keeps native code and children in stands around the process.
    """
    inside = tuple(os.path.join(os.path.realpath(folder), "") for folder in folders)
    devices = ("/dev/null", "/dev/tty", "/dev/full", "/dev/zero")

    def check(path: object, is_name: bool = False, start: object = None) -> None:
        if isinstance(path, int) or path is None:
            return
        text = os.fsdecode(os.fspath(path))
        if isinstance(start, int) and start >= 0:
            text = os.path.join(os.path.realpath(f"/proc/self/fd/{start}"), text)
        head, name = os.path.split(text.rstrip("/") or "/")
        real = (
            os.path.join(os.path.realpath(head), name)
            if is_name and name not in ("", ".", "..")
            else os.path.realpath(text)
        )
        if not os.path.join(real, "").startswith(inside) and real not in devices:
            world.outside = world.outside or real
            raise OutsideError(real)

    def opened(args: tuple) -> None:
        path, _, flags = args
        if isinstance(flags, int) and flags & _WRITING:
            check(path)

    def database(args: tuple) -> None:
        name = args[0]
        if isinstance(name, (str, bytes, os.PathLike)) and not os.fsdecode(name).startswith((":memory:", "file:")):
            if not os.path.exists(name):  # what is there may be meant to be read
                check(name)

    def changer(event: str) -> object:
        def changed(args: tuple) -> None:
            for at, start in _CHANGES[event]:
                check(args[at], event in _OF_THE_NAME, args[start] if start is not None and start < len(args) else None)

        return changed

    world.hears["open"] = opened
    world.hears["sqlite3.connect"] = database
    for event in _CHANGES:
        world.hears[event] = changer(event)
