"""What a program is kept from doing, and what becomes of it when we are gone."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import pytest

from aedifex.languages.python import DIALECT
from aedifex.source.errors import StoppedError
from aedifex.verify.running.child import Walls
from aedifex.verify.running.run import Limits, run
from aedifex.verify.scenarios.scenario import Scenario

OUTSIDE = Path(os.path.realpath("/var/tmp" if os.path.isdir("/var/tmp") else "/tmp"))


@pytest.fixture
def outside():
    path = OUTSIDE / f"harbour-{os.getpid()}"
    yield path
    assert not path.exists()
    assert not os.path.lexists(path)


def play(tmp_path, text: str, seconds: int = 10):
    (tmp_path / "tide.py").write_text(text + "\n")
    return run(tmp_path / "tide.py", Scenario(turns=20), DIALECT.runner, Limits(seconds=seconds))


PYTHON = {
    "open": "open({0!r}, 'w')",
    "append": "try: open({0!r}, 'a')\nexcept BaseException: pass",
    "mkdir": "import os; os.mkdir({0!r})",
    "symlink": "import os; os.symlink('a', {0!r})",
    "rename": "import os; open('a', 'w'); os.rename('a', {0!r})",
    "sqlite": "import sqlite3; sqlite3.connect({0!r}).execute('create table t (n)')",
    "copy": "import shutil; shutil.copy('tide.py', {0!r})",
    "dir_fd": "import os; d = os.open({1!r}, os.O_RDONLY); os.mkdir({2!r}, dir_fd=d)",
    "through a link": "import os; os.symlink({1!r}, 'x'); open('x/' + {2!r}, 'w')",
}
BEYOND_PYTHON = {
    "a child": "import subprocess; subprocess.run(['touch', {0!r}])",
    "a child's child": "import os; os.system('(sh -c \"echo > {0}\") &')",
    "a child in a session of its own": "import subprocess; subprocess.run(['touch', {0!r}], start_new_session=True, env={{}})",
    "native code": "import ctypes; ctypes.CDLL(None).creat({0!r}.encode(), 0o644)",
    "a pipe": "import os\ntry: os.mkfifo({0!r})\nexcept OSError: pass",
    "a database in native code": "import sqlite3\ntry: sqlite3.connect('file:' + {0!r}, uri=True).execute('create table t (n)')\nexcept sqlite3.Error: pass",
}


def written(text: str, path: Path) -> str:
    return text.format(str(path), str(path.parent), path.name)


@pytest.mark.parametrize("way", PYTHON)
def test_what_python_is_asked_to_write_elsewhere_is_stopped_and_told(tmp_path, outside, way):
    with pytest.raises(StoppedError, match=r"write outside its folder, to .*harbour"):
        play(tmp_path, written(PYTHON[way], outside))


@pytest.mark.parametrize("way", BEYOND_PYTHON)
def test_what_others_write_elsewhere_is_stopped(tmp_path, outside, way):
    done = play(tmp_path, written(BEYOND_PYTHON[way], outside) + "\nprint('x')")
    if done.walls is Walls.THIN:
        outside.unlink(missing_ok=True)
        pytest.skip("the walls are thin here")
    time.sleep(0.1)


def test_what_is_there_elsewhere_stays(tmp_path):
    kept = OUTSIDE / f"harbour-kept-{os.getpid()}"
    kept.write_text("kept")
    try:
        done = play(tmp_path, f"import os; os.system('rm -f {kept}; echo x > {kept}; mv {kept} {kept}.x')\nprint('x')")
        if done.walls is not Walls.THIN:
            assert kept.read_text() == "kept"
    finally:
        kept.unlink(missing_ok=True)


@pytest.mark.parametrize(
    "text",
    [
        "import os, shutil; shutil.rmtree(os.getcwd()); print('x')",
        "import os; os.system('rm -rf ' + os.getcwd()); print('x')",
        "import os; os.system('rm -rf ' + os.path.dirname(os.getcwd())); print('x')",
        "import os; os.chmod(os.getcwd(), 0); print('x')",
        "import os\nfor n in range(300): os.mkdir('d'); os.chdir('d')\nprint('x')",
    ],
)
def test_a_program_may_take_its_own_folder_away(tmp_path, text):
    assert play(tmp_path, text).trace.ending.code == 0
    assert (tmp_path / "tide.py").exists()


def test_no_other_machine_is_reached_unless_asked(tmp_path):
    text = "import socket\ntry: socket.create_connection(('192.0.2.1', 9), 3)\nexcept OSError as e: print(type(e).__name__)"
    told = [str(entry) for entry in play(tmp_path, text).trace.entries]
    assert told[:2] == ["asks for the address of 192.0.2.1, port 9", "prints 'gaierror\\n'"]


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("while True: pass", "within 1 second"),
        ("import threading; threading.Lock().acquire(); threading.Event().wait()", "within 1 second"),
        ("import os, signal; os.kill(os.getpid(), signal.SIGSEGV)", "SIGSEGV"),
        ("import os\nwhile True: os.write(1, b'x' * 10**6)", ""),
        ("x = 'x' * 10**6\nwhile True: print(x)", ""),
        ("f = open('x', 'wb')\nwhile True: f.write(b'x' * 10**6)", ""),
        ("import os\nwhile True: os.fork()", ""),
    ],
)
def test_what_cannot_go_on_is_stopped(tmp_path, text, words):
    began = time.monotonic()
    assert words in how_it_ends(tmp_path, text, seconds=1)
    assert time.monotonic() - began < 40


def how_it_ends(tmp_path, text: str, seconds: int) -> str:
    """The words on how a program was stopped, or came to its end."""
    try:
        return str(play(tmp_path, text, seconds).trace.ending)
    except StoppedError as error:
        return str(error)


def test_the_process_that_starts_it_cannot_be_harmed(tmp_path):
    text = "import os, signal\nfor n in (os.getppid(), 0):\n    try: os.kill(n, signal.SIGTERM) if n else None\n    except OSError: pass\nprint('x')"
    assert how_it_ends(tmp_path, text, 10) in ("exit code 0", "was stopped: it ended the process that watched it")


DRIVER = """
import signal, sys
signal.signal(signal.SIGINT, signal.default_int_handler)
signal.signal(signal.SIGHUP, signal.SIG_DFL)
print("may be stopped", flush=True)
from pathlib import Path
from aedifex.languages.python import DIALECT
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario
run(Path(sys.argv[1]), Scenario(), DIALECT.runner)
"""


@pytest.mark.parametrize(
    ("number", "after"),
    [
        *((signal.SIGKILL, after) for after in (0.0, 0.2)),
        (signal.SIGTERM, 0.05),
        (signal.SIGHUP, 0.2),
        *((signal.SIGINT, after) for after in (0.05, 1.0)),
    ],
)
def test_when_we_are_gone_no_child_and_no_folder_stays(tmp_path, monkeypatch, number, after):
    monkeypatch.setenv("TMPDIR", str(tmp_path / "tmp"))
    (tmp_path / "tmp").mkdir()
    (tmp_path / "game").mkdir()
    script = tmp_path / "game" / "tide.py"
    stamp = f"98{os.getpid()}.{number}{int(after * 100)}"
    script.write_text(
        f"import subprocess\nsubprocess.Popen(['sleep', '{stamp}'], start_new_session=True, env={{}}, cwd='/')\n"
        "while True: pass\n"
    )
    command = [sys.executable, "-c", DRIVER, str(script)]
    with subprocess.Popen(command, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL) as process:
        process.stdout.readline()
        time.sleep(0.3 + after)
        process.send_signal(number)
    until = time.monotonic() + 20
    while time.monotonic() < until and (os.listdir(tmp_path / "tmp") or stamp in _processes()):
        time.sleep(0.1)
    assert os.listdir(tmp_path / "tmp") == []
    assert stamp not in _processes()


def _processes() -> str:
    return subprocess.run(["ps", "-eo", "args"], capture_output=True, text=True, check=False).stdout
