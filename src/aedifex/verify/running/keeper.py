"""Stands between us and a program that runs: `python -I -S keeper.py CONTROL REPORT FOLDER NETWORK`.

It makes a temporary folder in FOLDER and tells its name; then it is told what to run, runs it behind walls, and tells
how it ended. Whatever the program has started is ended with it: an orphan comes to its keeper. CONTROL is a pipe whose
other end only we hold. When we are gone, in whatever way, it ends by itself: the keeper then ends the program and takes
the folder away.

The walls are the best that the system gives. *namespaces*: the program sees all files, but can write into the folder
only, has no network but its own, and cannot see other processes (`man 7 user_namespaces`, `man 2 mount_setattr`).
*landlock*: it cannot write elsewhere (`man 7 landlock`). *thin*: none but those that the stage puts up.

It starts for every run, so it imports only what starts at once.
"""

from __future__ import annotations

import _signal as signal  # type: ignore[import-not-found]
import ctypes
import marshal
import os
import select
import struct
import sys

TYPE_CHECKING = False
if TYPE_CHECKING:
    from collections.abc import Callable
    from typing import Any

_PREFIX = "aedifex-"
_LOOK_EVERY = 0.02
_NOT_FOR_US = (signal.SIGINT, signal.SIGTERM, signal.SIGHUP)
_DIES_WITH_PARENT, _NO_NEW_PRIVILEGES, _TAKES_ORPHANS = 1, 38, 36
_NEW_NETWORK = 0x40000000
_NEW_SPACES = 0x10000000 | 0x00020000 | 0x20000000 | 0x08000000  # users, mounts, processes, messages
_BIND, _RECURSIVE, _PRIVATE = 4096, 16384, 1 << 18
_SET_MOUNT, _ALL_BELOW, _READ_ONLY = 442, 0x8000, 1
_MAKE_RULES, _ADD_RULE, _RESTRICT = 444, 445, 446
_WRITES = {1: 0b1111111110010, 2: 1 << 13, 3: 1 << 14}  # what each version of Landlock can forbid
_CAPABILITIES_3 = 0x20080522


def main() -> None:
    """Make the folder, wait for orders, run, tell, clean up."""
    sys.setrecursionlimit(20_000)  # a program may nest its folders deeply
    control, report, parent, network = int(sys.argv[1]), int(sys.argv[2]), sys.argv[3], sys.argv[4] == "network"
    for handle in (control, report):
        os.set_inheritable(handle, False)
    for number in _NOT_FOR_US:
        signal.signal(number, signal.SIG_IGN)
    folder = os.path.join(os.path.realpath(parent), _PREFIX + os.urandom(8).hex())
    os.mkdir(folder, 0o700)
    _quietly(lambda: _system().prctl(_TAKES_ORPHANS, 1, 0, 0, 0))
    try:
        _tell(report, {"folder": folder})
        order = _read_line(control)
        if order:
            _keep(marshal.loads(bytes.fromhex(order.decode())), folder, control, report, network)
            _read_line(control)  # we look at what the program left, and then let go
    finally:
        _remove(folder)
        os._exit(0)


def _keep(order: dict[str, Any], folder: str, control: int, report: int, network: bool) -> None:
    child = os.fork()
    if child == 0:
        try:
            os.close(control)
            _start(order, folder, report, network)
        finally:
            os._exit(70)
    status = _wait(child, control)
    _end_all(child)
    if status is not None:
        _tell(report, {"status": _same_end(status)})


def _wait(child: int, control: int) -> int | None:
    """The status with which a child ended; None where we are gone before."""
    handle = _quietly(lambda: os.pidfd_open(child))
    if handle is not None:
        ready, _, _ = select.select([handle, control], [], [])
        os.close(handle)
        return None if handle not in ready else os.waitpid(child, 0)[1]
    while not select.select([control], [], [], _LOOK_EVERY)[0]:
        found, status = os.waitpid(child, os.WNOHANG)
        if found:
            return status
    return None


def _end_all(child: int) -> None:
    """End the group of a child, and whatever has come to us from it, until nothing is left."""
    _quietly(os.killpg, child, signal.SIGKILL)
    while True:
        for number in _children():
            _quietly(os.kill, number, signal.SIGKILL)
        try:
            os.waitpid(-1, 0)
            while os.waitpid(-1, os.WNOHANG)[0]:  # all that are dead, before all processes are looked at once more
                pass
        except ChildProcessError:
            return


def _children() -> list[int]:
    """The processes whose parent we are, as far as the system shows them."""
    names = _quietly(os.listdir, "/proc") or []
    return [int(name) for name in names if name.isdigit() and _quietly(_parent, name) == os.getpid()]


def _parent(number: str) -> int:
    with open(f"/proc/{number}/stat", encoding="utf-8", errors="replace") as file:
        return int(file.read().rpartition(")")[2].split()[1])


# -- in the child


def _start(order: dict[str, Any], folder: str, report: int, network: bool) -> None:
    """Put up walls and become the program, or its first process's parent where there is a world of its own for it."""
    os.setsid()
    try:
        _enter_spaces(network)
    except (AttributeError, OSError):
        _tell(report, {"walls": _behind_landlock(folder)})
        _become(order)
    first = os.fork()
    if first == 0:
        _be_first(order, folder, report)
    os._exit(_same_end(os.waitpid(first, 0)[1]))


def _be_first(order: dict[str, Any], folder: str, report: int) -> None:
    """The first process of the new world: when it ends, all others do."""
    _system().prctl(_DIES_WITH_PARENT, signal.SIGKILL, 0, 0, 0)
    try:
        _close_folders(folder)
    except OSError as error:
        _tell(report, {"walls": "thin", "reason": str(error)})
    else:
        _tell(report, {"walls": "namespaces"})
    program = os.fork()
    if program == 0:
        _drop_capabilities()
        _become(order)
    while True:
        found, status = os.wait()
        if found == program:
            os._exit(_same_end(status))


def _same_end(status: int) -> int:
    """An exit code that tells how a process ended to the next one up: a signal is 128 and its number."""
    return 128 + os.WTERMSIG(status) if os.WIFSIGNALED(status) else os.WEXITSTATUS(status)


def _become(order: dict[str, Any]) -> None:
    for number in _NOT_FOR_US:
        signal.signal(number, signal.SIG_DFL)
    os.chdir(order["folder"])
    os.umask(0o022)
    for target, number in enumerate(order["streams"]):
        os.dup2(number, target)
    os.execvpe(order["command"][0], order["command"], order["environment"])


def _enter_spaces(network: bool) -> None:
    system, user, group = _system(), os.geteuid(), os.getegid()
    _check(system.unshare(_NEW_SPACES | (0 if network else _NEW_NETWORK)))
    for name, text in (("setgroups", "deny"), ("uid_map", f"{user} {user} 1"), ("gid_map", f"{group} {group} 1")):
        with open(f"/proc/self/{name}", "w") as file:
            file.write(text)
    system.prctl(_DIES_WITH_PARENT, signal.SIGKILL, 0, 0, 0)
    if not network:
        _quietly(_open_loopback)


def _open_loopback() -> None:
    """Let the program talk to itself."""
    import _socket
    import fcntl

    any_socket = _socket.socket(_socket.AF_INET, _socket.SOCK_DGRAM)
    fcntl.ioctl(any_socket.fileno(), 0x8914, struct.pack("16sh22x", b"lo", 0x41))
    any_socket.close()


def _close_folders(folder: str) -> None:
    """Make everything read-only but one folder, and give the program its own view of processes."""
    own = os.fsencode(folder)
    _mount(None, b"/", None, _RECURSIVE | _PRIVATE)
    _mount(own, own, None, _BIND)
    for path, flags, now, no_longer in ((b"/", _ALL_BELOW, _READ_ONLY, 0), (own, 0, 0, _READ_ONLY)):
        wanted = struct.pack("QQQQ", now, no_longer, 0, 0)
        _check(_system().syscall(_SET_MOUNT, -100, path, flags, wanted, len(wanted)))
    _quietly(_mount, b"tmpfs", b"/dev/shm", b"tmpfs", 0)
    _quietly(_mount, b"proc", b"/proc", b"proc", 0)


def _mount(source: bytes | None, target: bytes, kind: bytes | None, flags: int) -> None:
    _check(_system().mount(source, target, kind, ctypes.c_ulong(flags), None))


def _drop_capabilities() -> None:
    """What made the walls must not be able to take them down."""
    system = _system()
    system.prctl(_NO_NEW_PRIVILEGES, 1, 0, 0, 0)
    _check(system.capset(struct.pack("Ii", _CAPABILITIES_3, 0), struct.pack("6I", *[0] * 6)))


def _behind_landlock(folder: str) -> str:
    try:
        system = _system()
        version = _check(system.syscall(_MAKE_RULES, None, 0, 1))
        forbidden = sum(bits for since, bits in _WRITES.items() if since <= version)
        wanted = struct.pack("Q", forbidden)
        rules = _check(system.syscall(_MAKE_RULES, wanted, len(wanted), 0))
        for path, allowed in ((folder, forbidden), ("/dev", 1 << 1), ("/dev/shm", forbidden)):
            handle = os.open(path, os.O_PATH | os.O_CLOEXEC)
            _check(system.syscall(_ADD_RULE, rules, 1, struct.pack("=Qi", allowed, handle), 0))
        _check(system.prctl(_NO_NEW_PRIVILEGES, 1, 0, 0, 0))
        _check(system.syscall(_RESTRICT, rules, 0))
    except (AttributeError, OSError):
        return "thin"
    return "landlock"


# -- small things


def _system() -> ctypes.CDLL:
    return ctypes.CDLL(None, use_errno=True)


def _check(result: int) -> int:
    if result < 0:
        number = ctypes.get_errno()
        raise OSError(number, os.strerror(number))
    return result


def _tell(report: int, words: dict[str, object]) -> None:
    _quietly(lambda: os.write(report, marshal.dumps(words).hex().encode() + b"\n"))


def _read_line(control: int) -> bytes:
    """A line from us; nothing where we are gone."""
    line = b""
    while not line.endswith(b"\n"):
        found = os.read(control, 65536)
        if not found:
            return b""
        line += found
    return line


def _quietly(do: Callable[..., Any], *given: Any) -> Any:
    """What comes of something that may fail, as it does on other systems or for what is gone; None then."""
    try:
        return do(*given)
    except (AttributeError, OSError, ValueError, IndexError):
        return None


def _remove(folder: str) -> None:
    """Take a folder away, whatever the program made of its permissions."""
    os.chmod(folder, 0o700)
    with os.scandir(folder) as found:
        entries = list(found)
    for entry in entries:
        if entry.is_dir(follow_symlinks=False):
            _quietly(_remove, entry.path)
        else:
            _quietly(os.unlink, entry.path)
    os.rmdir(folder)


if __name__ == "__main__":
    main()
