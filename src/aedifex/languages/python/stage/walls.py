"""Walls around the program: it may write into its folder and its temporary home, and nowhere else."""

from __future__ import annotations

import os
import sys

_WRITING = os.O_WRONLY | os.O_RDWR | os.O_CREAT | os.O_TRUNC | os.O_APPEND
_CHANGES = {
    "os.remove": (0,),
    "os.rename": (0, 1),
    "os.rmdir": (0,),
    "os.mkdir": (0,),
    "os.chmod": (0,),
    "os.chown": (0,),
    "os.link": (1,),
    "os.symlink": (1,),
    "os.truncate": (0,),
    "os.utime": (0,),
    "shutil.rmtree": (0,),
    "shutil.move": (0, 1),
    "shutil.copytree": (1,),
}


class OutsideError(BaseException):
    """The program tried to write outside its folder."""


def install(world: object, folders: list[str]) -> None:
    """Watch what the interpreter is asked to write; what lies outside is stopped and noted."""
    inside = tuple(os.path.join(os.path.realpath(folder), "") for folder in folders)
    devices = ("/dev/null", "/dev/tty", "/dev/full", "/dev/zero")

    def check(path: object) -> None:
        if isinstance(path, int) or path is None:
            return
        real = os.path.realpath(os.fspath(path))
        real = os.fsdecode(real)
        if not os.path.join(real, "").startswith(inside) and real not in devices:
            world.outside = world.outside or real
            raise OutsideError(real)

    def watch(event: str, args: tuple) -> None:
        if event == "open":
            path, _, flags = args
            if isinstance(flags, int) and flags & _WRITING:
                check(path)
        elif event in _CHANGES:
            for at in _CHANGES[event]:
                check(args[at])

    sys.addaudithook(watch)
