from __future__ import annotations

import os
import time

import pytest

from aedifex.languages.python import DIALECT
from aedifex.verify.compare import Comparison
from aedifex.verify.scenarios.scenario import read

SCENARIO = 'format = 1\nseed = 3\nlines = ["one", "two"]\narguments = ["--slow"]\n'
ECHO = "import sys, random\nprint(sys.argv[1:], random.random())\nwhile True:\n    print(input('? ').upper())\n"


@pytest.fixture
def echo(tmp_path):
    (tmp_path / "s.scenario.toml").write_text(SCENARIO)
    (tmp_path / "a.py").write_text(ECHO)
    return tmp_path


def verify(cli, before, after, *options):
    return cli("verify", before, after, "--budget", "1", *options)


def test_the_same_program_does_the_same(cli, echo):
    done = verify(cli, "a.py", "a.py", "--scenario", "s.scenario.toml")
    assert done.returncode == 0
    assert done.stdout.startswith("Same: 1 scenario")


@pytest.mark.parametrize(
    ("old", "new", "shown"),
    [
        ("upper", "lower", "prints"),
        ("'? '", "'! '", "! "),
        ("random.random()", "random.randint(0, 3)", "prints"),
        ("while True", "for _ in range(2)", "exit code 0"),
        ("input('? ').upper()", "input('? ').upper(), file=sys.stderr", "standard error"),
        ("while True:\n", "sys.exit(3)\nwhile True:\n", "exit code 3"),
    ],
)
def test_differences_are_told_apart_and_shown_side_by_side(cli, echo, old, new, shown):
    (echo / "b.py").write_text(ECHO.replace(old, new))
    done = verify(cli, "a.py", "b.py", "--scenario", "s.scenario.toml")
    assert done.returncode == 1
    assert "Different" in done.stdout
    assert shown in done.stdout
    assert "a.py:" in done.stdout or "b.py:" in done.stdout


@pytest.mark.parametrize(
    "code",
    [
        "import os; os.write(1, b'raw')",
        "print(end='no newline')",
        "import sys; sys.exit('sorry')",
        "raise SystemExit(7)",
        "raise ValueError('x')",
        "import os; print(sorted(os.listdir('.')))",
        "import atexit; atexit.register(print, 'bye')",
        "import threading; threading.Thread(target=print, args=('in a thread',)).start()",
        "import sys; print(sys.stdin.read(3), list(sys.stdin))",
        "import console; print(console.x)",
        "import time\nwhile True: time.sleep(1)",
        "import time, datetime; print(time.time(), datetime.datetime.now(), time.ctime(), datetime.date.today())",
        "import asyncio\nasync def f():\n    await asyncio.sleep(500)\n    print('slept')\nasyncio.run(f())",
        "import subprocess, sys; print(subprocess.run([sys.executable, '-c', 'print(5)'], capture_output=True, timeout=9).stdout)",
        "import os, random, uuid; print(os.urandom(3), random.SystemRandom().random(), uuid.uuid4())",
        "open('note.txt', 'w').write('x')",
        "import turtle; turtle.forward(20); print(turtle.pos(), turtle.heading()); turtle.done()",
        "import tkinter; tkinter.Label(text='x').pack(); tkinter.mainloop()",
        "print(hash('a'), {'x', 'y', 'z'})",
        "def f(): return f()\ntry: f()\nexcept RecursionError: print('deep')",
    ],
)
def test_what_programs_do_is_seen_and_repeats(cli, tmp_path, code):
    (tmp_path / "a.py").write_text(code + "\n")
    (tmp_path / "console.py").write_text("x = 'their own module'\n")
    (tmp_path / "s.scenario.toml").write_text(SCENARIO)
    scenario = read(tmp_path / "s.scenario.toml")
    same = Comparison(tmp_path / "a.py", tmp_path / "a.py", DIALECT.runner).compare([scenario])
    assert same.same and same.entries > 0
    (tmp_path / "a.py").rename(tmp_path / "b.py")
    (tmp_path / "a.py").write_text("print('something else')\n")
    other = Comparison(tmp_path / "b.py", tmp_path / "a.py", DIALECT.runner).compare([scenario])
    assert not other.same


@pytest.mark.parametrize(
    ("code", "words"),
    [
        ("while True: pass", "within 2 seconds"),
        ("import os, signal; os.kill(os.getpid(), signal.SIGSEGV)", "SIGSEGV"),
        ("import os, signal; os.killpg(0, signal.SIGKILL)", "SIGKILL"),
        ("import os; os._exit(0)", "without having done anything"),
        ("import os; os.abort()", "SIGABRT"),
        ("while True: print('x' * 1000)", ""),
        ("open('/tmp/aedifex-outside.txt', 'w')", "outside its folder"),
        ("try:\n    open('../../../outside.txt', 'a')\nexcept BaseException: pass", "outside its folder"),
        ("import os\nos.mkdir(os.path.expanduser('/var/tmp/aedifex-outside'))", "outside its folder"),
        (
            "import subprocess, sys\nfor n in range(12): subprocess.Popen([sys.executable, '-c', 'while True: pass'])\n"
            "while True: pass",
            "within 2 seconds",
        ),
    ],
)
def test_programs_that_cannot_be_run_to_an_end(cli, tmp_path, code, words):
    (tmp_path / "a.py").write_text(code + "\n")
    start = time.monotonic()
    done = verify(cli, "a.py", "a.py", "--seconds", "2")
    assert done.returncode == 5
    assert words in done.stderr
    assert time.monotonic() - start < 30
    assert os.listdir(tmp_path) == ["a.py"]


def test_nothing_is_written_beside_the_script(cli, tmp_path):
    (tmp_path / "a.py").write_text("open('note.txt', 'w').write('x')\nprint(open('note.txt').read())\n")
    assert verify(cli, "a.py", "a.py").returncode == 0
    assert os.listdir(tmp_path) == ["a.py"]


def test_a_script_in_the_folder_for_temporary_files(cli, tmp_path, monkeypatch):
    """The copy that a run is made in lies in the folder that is copied then."""
    monkeypatch.setenv("TMPDIR", str(tmp_path))
    script = tmp_path / "bell.py"
    script.write_text("print('ding')\n")
    os.mkfifo(tmp_path / "pipe")
    assert verify(cli, script, script).returncode == 0


def test_a_child_in_a_session_of_its_own_is_ended_too(cli, tmp_path):
    (tmp_path / "a.py").write_text(
        "import subprocess, sys\n"
        "subprocess.Popen([sys.executable, '-c', 'import time; time.sleep(986.125)'], start_new_session=True)\n"
    )
    assert verify(cli, "a.py", "a.py").returncode == 0
    import subprocess

    found = subprocess.run(["ps", "-eo", "args"], capture_output=True, text=True, check=False).stdout
    assert "986.125" not in found


def test_children_that_are_left_behind_are_ended(cli, tmp_path):
    (tmp_path / "a.py").write_text(
        "import subprocess, sys\nsubprocess.Popen([sys.executable, '-c', 'import time; time.sleep(987.125)'])\nprint('left')\n"
    )
    assert verify(cli, "a.py", "a.py").returncode == 0
    import subprocess

    found = subprocess.run(["ps", "-eo", "args"], capture_output=True, text=True, check=False).stdout
    assert "987.125" not in found


@pytest.mark.parametrize(
    ("text", "code"),
    [("lines = 3", 2), ("format = 1\nlines = 3", 2), ("format = 1\nlinse = []", 2), ("format = ", 4)],
)
def test_mistakes_in_a_scenario(cli, echo, text, code):
    (echo / "bad.toml").write_text(text)
    assert verify(cli, "a.py", "a.py", "--scenario", "bad.toml").returncode == code
