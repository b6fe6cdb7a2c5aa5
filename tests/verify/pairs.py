"""Pairs of programs for `verify`: those that differ in something outward, and those that differ in nothing of the kind.

Each has a name, the first program, and how the second differs: a text in it and what stands there instead.
"""

from __future__ import annotations

from typing import NamedTuple


class Pair(NamedTuple):
    """Two programs; the second is the first with one text replaced, or the same where that is empty."""

    name: str
    text: str
    old: str = ""
    new: str = ""

    @property
    def other(self) -> str:
        """The second program."""
        assert self.old in self.text
        return self.text.replace(self.old, self.new) if self.old else self.text


APART = [
    Pair("print", "print('high')", "high", "low"),
    Pair("print without a newline", "print('high', end='')", ", end=''", ", end=' '"),
    Pair("standard error", "import sys; print('high', file=sys.stderr)", "stderr", "stdout"),
    Pair("write", "import sys; sys.stdout.write('high')", "high", "low"),
    Pair("buffer", "import sys; sys.stdout.buffer.write(b'high')", "high", "low"),
    Pair("buffer, not flushed", "import sys; b = sys.stdout.buffer; b.write(b'high')\nprint('tide')", "high", "low"),
    Pair("detached", "import sys; b = sys.stdout.detach(); b.write(b'high')", "high", "low"),
    Pair("reconfigured", "import sys; sys.stdout.reconfigure(encoding='latin-1'); print('é')", "é", "è"),
    Pair("another encoding", "import sys; sys.stdout.reconfigure(encoding='utf-8'); print('é')", "utf-8", "latin-1"),
    Pair("a new wrapper", "import io, sys; w = io.TextIOWrapper(sys.stdout.buffer); w.write('high')", "high", "low"),
    Pair(
        "a wrapper that is kept",
        "import io, sys\nsys.stdout = io.TextIOWrapper(sys.stdout.buffer)\nprint('high')",
        "high",
        "low",
    ),
    Pair("descriptor 1", "import os; os.write(1, b'high')", "high", "low"),
    Pair("descriptor 2", "import os; os.write(2, b'high')", "high", "low"),
    Pair("a file on descriptor 1", "f = open(1, 'w', closefd=False); f.write('high')", "high", "low"),
    Pair("the first stream", "import sys; sys.__stdout__.write('high')", "high", "low"),
    Pair("a copied descriptor", "import os; os.write(os.dup(1), b'high')", "high", "low"),
    Pair("stdin's bytes", "import sys; n = len(sys.stdin.buffer.readline()); print('read')", "readline", "read"),
    Pair("stdin by descriptor", "import os; print(os.read(0, 3))", "3", "2"),
    Pair(
        "how much is read",
        "import sys; a = sys.stdin.readline(); print('x')",
        "a = sys.stdin.readline()",
        "a = sys.stdin.read()",
    ),
    Pair("a file", "open('log.txt', 'w').write('high')", "high", "low"),
    Pair("a file never closed", "f = open('log.txt', 'w'); f.write('high')", "high", "low"),
    Pair(
        "a file in a reference circle", "f = open('log.txt', 'w'); x = [f]; x.append(x); f.write('high')", "high", "low"
    ),
    Pair("a file's name", "open('log.txt', 'w').write('high')", "log", "lag"),
    Pair("bytes", "open('log.bin', 'wb').write(bytes(9000))", "9000", "9001"),
    Pair("newlines", "open('log.txt', 'w', newline='').write('a\\n')", "a\\n", "a\\r\\n"),
    Pair("an empty file", "open('log.txt', 'w')\nprint('x')", "open('log.txt', 'w')", "pass"),
    Pair("an empty folder", "import os; os.mkdir('logs')", "logs", "lags"),
    Pair("a folder or a file", "import os; os.mkdir('logs')", "os.mkdir('logs')", "open('logs', 'w')"),
    Pair("a link", "import os; os.symlink('a', 'b')", "'a'", "'c'"),
    Pair("a mode", "import os; open('go', 'w'); os.chmod('go', 0o700)", "0o700", "0o755"),
    Pair("a mode of what was there", "import os; os.chmod('data.txt', 0o600); print('x')", "0o600", "0o640"),
    Pair("a deletion", "import os; print('x'); os.remove('data.txt')", "os.remove('data.txt')", ""),
    Pair("a rename", "import os; os.rename('data.txt', 'old.txt')", "old.txt", "was.txt"),
    Pair("a change in place", "f = open('data.txt', 'r+'); f.write('high')", "high", "HIGH"),
    Pair("a pipe", "import os; print('x'); os.mkfifo('p')", "os.mkfifo('p')", ""),
    Pair("a file at home", "import os; open(os.path.expanduser('~/log.txt'), 'w').write('high')", "high", "low"),
    Pair(
        "a temporary file",
        "import tempfile; f = tempfile.NamedTemporaryFile('w', delete=False); f.write('high')",
        "high",
        "low",
    ),
    Pair(
        "a temporary file that stays",
        "import tempfile; f = tempfile.NamedTemporaryFile(delete=True); print(f.name[-3:])",
        "True",
        "False",
    ),
    Pair(
        "a database",
        "import sqlite3; c = sqlite3.connect('t.db'); c.execute('create table t (n)'); c.execute('insert into t values (1)'); c.commit()",
        "(1)",
        "(2)",
    ),
    Pair(
        "a commit",
        "import sqlite3; c = sqlite3.connect('t.db'); c.execute('create table t (n)'); c.execute('insert into t values (1)'); c.commit()",
        "; c.commit()",
        "",
    ),
    Pair("a shelf", "import shelve; s = shelve.open('s'); s['tide'] = 3; s.close()", "3", "4"),
    Pair("a child's words", "import os; os.system('echo high')", "high", "low"),
    Pair("a silent child", "import subprocess; subprocess.run(['true', 'high'])", "high", "low"),
    Pair("a child that writes", "import subprocess; subprocess.run(['touch', 'high'])", "high", "low"),
    Pair(
        "a forked child",
        "import os\nif os.fork() == 0:\n    print('high')\n    os._exit(0)\nos.wait()\n",
        "high",
        "low",
    ),
    Pair(
        "a pool",
        "from multiprocessing import Pool\ndef f(x): print('high', x)\nif __name__ == '__main__':\n    with Pool(1) as p: p.map(f, [1])",
        "high",
        "low",
    ),
    Pair("a page", "import webbrowser; webbrowser.open('http://tide.example/')", "tide", "ferry"),
    Pair(
        "a connection",
        "import socket\ntry: socket.create_connection(('10.0.0.1', 80), 1)\nexcept OSError: pass",
        "80",
        "81",
    ),
    Pair(
        "a name",
        "import urllib.request\ntry: urllib.request.urlopen('http://tide.example/')\nexcept OSError as e: pass",
        "tide",
        "ferry",
    ),
    Pair(
        "a thread's words",
        "import threading; t = threading.Thread(target=print, args=('high',)); t.start(); t.join()",
        "high",
        "low",
    ),
    Pair(
        "a thread's error",
        "import threading; t = threading.Thread(target=lambda: 1 / 0); t.start(); t.join()",
        "1 / 0",
        "[][0]",
    ),
    Pair(
        "the order in a thread",
        "import threading\ndef f(): print('a'); print('b')\nthreading.Thread(target=f).start()",
        "print('a'); print('b')",
        "print('b'); print('a')",
    ),
    Pair("a goodbye", "import atexit; atexit.register(print, 'high')", "high", "low"),
    Pair("a finaliser at the end", "class T:\n    def __del__(self): print('high')\nt = T()", "high", "low"),
    Pair("the exit code", "import sys; print('x'); sys.exit(3)", "3", "4"),
    Pair("an exit at once", "import os, sys; sys.stdout.flush(); print('x'); os._exit(3)", "3", "4"),
    Pair("an error's type", "print('x'); int('y')", "int('y')", "[][1]"),
    Pair("an error's words", "print('x'); raise ValueError('high')", "high", "low"),
    Pair(
        "a printed traceback",
        "import traceback\ntry: raise ValueError('high')\nexcept ValueError: traceback.print_exc()",
        "high",
        "low",
    ),
    Pair("a warning", "import warnings; warnings.warn('high')", "high", "low"),
    Pair(
        "what is done with an error",
        "import sys; sys.excepthook = lambda *a: print('high')\nprint('x'); 1 / 0",
        "high",
        "low",
    ),
    Pair("another program", "import os; os.execlp('echo', 'echo', 'high')", "high", "low"),
    Pair("another program's end", "import os; print('x'); os.execlp('sh', 'sh', '-c', 'exit 3')", "3", "4"),
    Pair(
        "a log",
        "import logging; logging.basicConfig(format='%(asctime)s %(message)s'); logging.warning('high')",
        "high",
        "low",
    ),
    Pair("how long it waits", "import time; print('x'); time.sleep(2)", "2", "3"),
    Pair("a random draw", "import random; random.random(); print(random.random())", "random.random(); ", ""),
    Pair("an input's prompt", "x = input('high? ')", "high", "low"),
    Pair(
        "the order of streams",
        "import sys; print('a'); print('b', file=sys.stderr)",
        "print('a'); print('b', file=sys.stderr)",
        "print('b', file=sys.stderr); print('a')",
    ),
]

ALIKE = [
    Pair("nothing changed", "print('high')"),
    Pair(
        "a line further down",
        "def f():\n    return 1 / 0\nimport traceback\ntry: f()\nexcept ZeroDivisionError: traceback.print_exc()",
        "import traceback",
        "\n\nimport traceback",
    ),
    Pair(
        "another frame",
        "import traceback\ndef f(): return 1 / 0\ntry: f()\nexcept ZeroDivisionError: traceback.print_exc()",
        "def f(): return 1 / 0",
        "def g(): return 1 / 0\ndef f(): return g()",
    ),
    Pair(
        "a formatted traceback",
        "import traceback\ntry: 1 / 0\nexcept ZeroDivisionError: print(traceback.format_exc())",
        "import traceback",
        "import traceback\n",
    ),
    Pair(
        "a logged traceback",
        "import logging\ntry: 1 / 0\nexcept ZeroDivisionError: logging.exception('oh')",
        "import logging",
        "import logging\n",
    ),
    Pair(
        "chained errors",
        "import traceback\ntry:\n    try: 1 / 0\n    except ZeroDivisionError as e: raise ValueError('x') from e\nexcept ValueError: traceback.print_exc()",
        "import traceback",
        "import traceback\n",
    ),
    Pair(
        "a group of errors",
        "import traceback\ntry: raise ExceptionGroup('g', [ValueError(1), KeyError(2)])\nexcept ExceptionGroup: traceback.print_exc()",
        "import traceback",
        "import traceback\n",
    ),
    Pair(
        "a thread's traceback",
        "import threading\nt = threading.Thread(target=lambda: 1 / 0); t.start(); t.join()",
        "import threading",
        "import threading\n\n",
    ),
    Pair("a warning's place", "import warnings\nwarnings.warn('high')", "import warnings\n", "import warnings\n\n\n"),
    Pair(
        "a warning's code",
        "import warnings\nn = 'high'\nwarnings.warn(n)",
        "n = 'high'\nwarnings.warn(n)",
        "m = 'high'\nwarnings.warn(m)",
    ),
    Pair(
        "a deprecation",
        "import warnings\nwarnings.simplefilter('always')\nwarnings.warn('old', DeprecationWarning)",
        "'always')\n",
        "'always')\n\n",
    ),
    Pair(
        "a log with times",
        "import logging, time\nlogging.basicConfig(format='%(asctime)s %(relativeCreated)d %(message)s')\nlogging.warning('x'); time.sleep(3); logging.warning('y')",
    ),
    Pair(
        "a log in UTC",
        "import logging, time\nlogging.Formatter.converter = time.gmtime\nlogging.basicConfig(format='%(asctime)s %(message)s'); logging.warning('x')",
    ),
    Pair("localtime", "import time; print(time.localtime(), time.strftime('%c'), time.ctime(), time.asctime())"),
    Pair(
        "localtime by its name",
        "from time import localtime, strftime, time; print(localtime(time())[:6], strftime('%H:%M', localtime()))",
    ),
    Pair(
        "dates",
        "import datetime as d; print(d.datetime.now(), d.date.today(), d.datetime.utcnow(), d.datetime.now(d.timezone.utc), d.datetime.now().astimezone())",
    ),
    Pair("a date from a stamp", "import datetime, time; print(datetime.datetime.fromtimestamp(time.time()))"),
    Pair(
        "a stored date",
        "import datetime, pickle; d = datetime.datetime.now(); print(pickle.loads(pickle.dumps(d)) == d)",
    ),
    Pair(
        "a copied date",
        "import copy, datetime; d = datetime.datetime.now(); print(copy.deepcopy(d) == d, isinstance(d, datetime.datetime))",
    ),
    Pair(
        "a measured time",
        "import time; a = time.perf_counter(); time.sleep(1); print(round(time.perf_counter() - a, 2))",
    ),
    Pair("email's time", "import email.utils; print(email.utils.formatdate(), email.utils.localtime())"),
    Pair(
        "a daemon",
        "import threading, time\ndef f():\n    while True: time.sleep(1)\nthreading.Thread(target=f, daemon=True).start()\nprint('x')",
    ),
    Pair(
        "a daemon that prints",
        "import threading, time\ndef f():\n    while True:\n        print('tick'); time.sleep(1)\nthreading.Thread(target=f, daemon=True).start()\nfor i in range(5): print(i)",
    ),
    Pair(
        "two threads",
        "import threading\ndef f(n):\n    for i in range(200): print(n, i)\nts = [threading.Thread(target=f, args=(n,)) for n in 'ab']\nfor t in ts: t.start()\nfor t in ts: t.join()",
    ),
    Pair(
        "a pool of threads",
        "from concurrent.futures import ThreadPoolExecutor\nwith ThreadPoolExecutor(3) as p: print(list(p.map(str, range(9))))",
    ),
    Pair(
        "a waiting thread",
        "import threading, time\ndone = []\ndef f(): sum(range(10**6)); done.append(1)\nthreading.Thread(target=f).start()\nwhile not done: time.sleep(0.1)\nprint('done')",
    ),
    Pair(
        "a thread's function",
        "import threading\ndef f(): print('x')\nthreading.Thread(target=f).start()",
        "f(): print('x')\nthreading.Thread(target=f)",
        "tick(): print('x')\nthreading.Thread(target=tick)",
    ),
    Pair("a timer", "import threading; t = threading.Timer(0.01, print, ['x']); t.start(); t.join()"),
    Pair(
        "a queue",
        "import queue, threading\nq = queue.Queue()\nthreading.Thread(target=lambda: q.put(3)).start()\nprint(q.get(timeout=5))",
    ),
    Pair(
        "a child",
        "import subprocess, sys; print(subprocess.run([sys.executable, '-c', 'print(5)'], capture_output=True).stdout)",
    ),
    Pair(
        "children",
        "from multiprocessing import Pool\ndef f(x): return x * x\nif __name__ == '__main__':\n    with Pool(2) as p: print(p.map(f, [1, 2, 3]))",
    ),
    Pair("a process", "import os; print(os.getpid() == os.getpid(), os.getcwd())"),
    Pair("its own number", "import os; print(os.getpid())"),
    Pair("its own place", "import os, sys; print(__file__, sys.argv[0], os.path.abspath('.'))", "print(", "print( "),
    Pair("its parts", "import sys; print(sorted(p for p in sys.path if 'stage' in p), sys.gettrace())"),
    Pair("a temporary name", "import tempfile; print(tempfile.mkdtemp(), tempfile.gettempdir())"),
    Pair(
        "a file written again",
        "t = open('data.txt').read(); open('data.txt', 'w').write(t); print('x')",
        "open('data.txt', 'w').write(t); ",
        "",
    ),
    Pair(
        "a file written in pieces",
        "f = open('log.txt', 'w'); f.write('a'); f.write('b')",
        "f.write('a'); f.write('b')",
        "f.write('ab')",
    ),
    Pair(
        "a file made and deleted",
        "import os; open('t', 'w').close(); os.remove('t'); print('x')",
        "open('t', 'w').close(); os.remove('t'); ",
        "",
    ),
    Pair("printing in pieces", "print('a', end=''); print('b')", "print('a', end=''); print('b')", "print('ab')"),
    Pair("print or write", "import sys; print('a')", "print('a')", "sys.stdout.write('a\\n')"),
    Pair("flushed or not", "import sys; print('a'); sys.stdout.flush()", "; sys.stdout.flush()", ""),
    Pair("sets", "print({'a', 'b', 'c'}, hash('a'))"),
    Pair("addresses", "class T: pass\nprint(T(), 'x')"),
    Pair(
        "chance of the system",
        "import os, random, secrets, uuid; print(os.urandom(3), random.SystemRandom().random(), secrets.token_hex(3), uuid.uuid4())",
    ),
    Pair("its own tracing", "import sys; sys.settrace(lambda *a: None); print('x'); sys.settrace(None)"),
    Pair("its depth", "def f(n): return f(n + 1)\ntry: f(0)\nexcept RecursionError: print('deep')"),
    Pair("its memory", "import gc; gc.collect(); print('x')"),
    Pair("a module it measures", "import sys; print('coverage' in dir(), 'x')"),
    Pair("the end of input", "n = 0\ntry:\n    while True: input(); n += 1\nexcept EOFError: print(n)"),
    Pair("reading all", "import sys; print(sys.stdin.read(), sys.stdin.readlines())"),
    Pair("an endless loop", "import time\nn = 0\nwhile True:\n    n += 1; time.sleep(1); print(n)"),
    Pair(
        "an endless loop that catches all",
        "import time\nwhile True:\n    try: time.sleep(1); print('x')\n    except: pass",
    ),
    Pair("asking without end", "while True:\n    try: print(input())\n    except: pass"),
    Pair("a child in the background", "import subprocess; subprocess.Popen(['sleep', '600']); print('x')"),
    Pair(
        "a session of its own",
        "import subprocess; subprocess.Popen(['sleep', '600'], start_new_session=True, env={}); print('x')",
    ),
    Pair("a relative link", "print(open('link.txt').read())"),
    Pair("a link out of the folder", "print(open('out.txt').read())"),
    Pair("a file that is read-only", "import os; print(os.access('locked.txt', os.W_OK), open('locked.txt').read())"),
    Pair(
        "odd names",
        "import os; print(len(os.listdir('odd')), [open(os.path.join('odd', n), 'w').write('x') for n in sorted(os.listdir('odd'))])",
    ),
    Pair("its folder gone", "import os, shutil; shutil.rmtree(os.getcwd()); print('x')"),
    Pair(
        "a local server",
        "import socket\ns = socket.socket(); s.bind(('127.0.0.1', 0)); s.listen()\nc = socket.create_connection(s.getsockname()); a, _ = s.accept(); c.send(b'hi'); print(a.recv(9))",
    ),
    Pair("a nap", "import time; time.sleep(3600); print('x')"),
    Pair(
        "asyncio",
        "import asyncio\nasync def f():\n    await asyncio.gather(*(asyncio.sleep(n) for n in range(50))); print('x')\nasyncio.run(f())",
    ),
    Pair(
        "a signal's handler",
        "import os, signal; signal.signal(signal.SIGUSR1, lambda *a: print('got')); os.kill(os.getpid(), signal.SIGUSR1); print('x')",
    ),
    Pair(
        "an endless event loop",
        "import asyncio\nasync def f():\n    n = 0\n    while True:\n        n += 1\n        await asyncio.sleep(1)\nprint('x')\nasyncio.run(f())",
    ),
    Pair(
        "an endless wait for an event", "import threading\ne = threading.Event()\nprint('x')\nwhile not e.wait(1): pass"
    ),
    Pair("an endless wait for nothing", "import select\nprint('x')\nwhile True: select.select([], [], [], 1)"),
    Pair(
        "a wait for another thread",
        "import threading\ne = threading.Event()\nthreading.Timer(0.05, e.set).start()\nprint(e.wait(9))",
    ),
]
