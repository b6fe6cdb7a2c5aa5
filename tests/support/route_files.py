"""Random route files for Flask and Bottle, and what they answer when a server is not there to ask."""

from __future__ import annotations

import random
import subprocess
import sys
import tempfile
from pathlib import Path

from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.source.errors import RefusedError
from aedifex.source.files import write_folder
from aedifex.survey.missing_records import NOT_FOUND
from tests.support.helpers import program_of

_PLACES = ("north", "south", "quay", "lock")
_REQUESTS = (
    *(("GET", f"{{prefix}}/{name}/{value}") for name in _PLACES for value in ("1", "2", "x")),
    *(("GET", f"{{prefix}}/{name}") for name in _PLACES),
    *(("POST", f"{{prefix}}/{name}") for name in _PLACES),
    ("GET", "/"),
    ("GET", "{prefix}/"),
    ("GET", "/nowhere"),
)
_ASK = """
import io, sys
sys.path.insert(0, ".")
import {module} as script
app = getattr(script, "app", None)
if app is None:
    import bottle
    app = bottle.default_app()
for method, path in {requests!r} * 2:
    body = b"note=3"
    begun = []
    environ = dict(REQUEST_METHOD=method, PATH_INFO=path, QUERY_STRING="", SERVER_NAME="localhost", SERVER_PORT="80",
        SERVER_PROTOCOL="HTTP/1.1", CONTENT_TYPE="application/x-www-form-urlencoded", CONTENT_LENGTH=str(len(body)))
    environ.update({{"wsgi.input": io.BytesIO(body), "wsgi.errors": io.StringIO(), "wsgi.url_scheme": "http",
        "wsgi.version": (1, 0), "wsgi.multithread": False, "wsgi.multiprocess": False, "wsgi.run_once": False}})
    parts = app(environ, lambda status, headers, error=None: begun.append(status))
    print(method, path, *begun, repr(b"".join(parts).decode()))
"""


_DATA = """
BOATS = [{"id": 1, "place": "north"}, {"id": 2, "place": "x"}, {"id": 3, "place": "north"}]
FARES = {1: {"price": 3}, "x": {"price": 4}, "south": {"price": 9}}
"""
_LOOKING = (
    ["boat = next((b for b in BOATS if b['id'] == value), None)", "return 'none' if boat is None else boat['place']"],
    ["for boat in BOATS:", "    if boat['id'] == value:", "        return boat['place']", "return 'none'"],
    ["return [b for b in BOATS if b['id'] == value][0]['place']"],
    ["boat = [b for b in BOATS if b['place'] == value][0]", "return str(boat['id'] + counted())"],
    ["return str([b for b in BOATS if b['place'] == value])"],
    ["counted()", "return str(FARES[value]['price'])"],
    ["if value not in FARES:", "    return 'free'", "return str(FARES[value]['price'])"],
    ["try:", "    return str(FARES[value])", "except KeyError:", "    return 'none'"],
    ["return str(FARES.get(value)) + str(BOATS[0]['place'])"],
    ["boat = next((b for b in BOATS if b['id'] == value), None)", "return boat['place']"],
    ["boat = next((b for b in BOATS if b['id'] == value), None)", "notes.append(boat)", "return boat['place']"],
    ["boat = next((b for b in BOATS if b['id'] == value), None)", "return str(counted()) + boat['place']"],
    ["boat = None", "for b in BOATS:", "    if b['id'] == value:", "        boat = b", "return boat['place']"],
    [
        "boat = None",
        "for b in BOATS:",
        "    if b['id'] == value:",
        "        boat = b",
        "        break",
        "boat['n'] = 1",
        "return boat['place']",
    ],
    ["boat = next((b for b in BOATS if b['id'] == value), None)", "return 'no' if visits else boat['place']"],
)


class _Writer:
    def __init__(self, seed: int) -> None:
        self.chance = random.Random(seed)
        self.is_flask = seed % 2 == 0
        self.prefix = "/harbour" if self.chance.random() < 0.4 else ""
        self.lines: list[str] = []

    def text(self) -> str:
        chance = self.chance
        if self.is_flask:
            self.add(
                "from functools import wraps", "from flask import Flask, request, url_for", "", "app = Flask(__name__)"
            )
        else:
            self.add("from functools import wraps", "from bottle import route, get, post, error, hook, request", "")
        self.add("LIMIT = 5", "visits = 0", "notes = [1]", "level = {'now': 3}", "", "")
        self.add(*(_DATA if chance.random() < 0.5 else "").splitlines())
        self.has_data = "FARES" in self.lines[-1]
        self.add("", "", "def counted():", "    global visits", "    visits += 1", "    return visits", "", "")
        self.add("def shouted(view):", "    @wraps(view)", "    def shout(*given, **named):")
        self.add("        return view(*given, **named).upper()", "    return shout", "", "")
        for number, place in enumerate(chance.sample(_PLACES, chance.randint(2, 4))):
            if chance.random() < 0.3:
                self.between(number)
            self.handler(place)
        if chance.random() < 0.5:
            self.hooks()
        if chance.random() < 0.5:
            last = ["notes.append(counted())", "level['now'] += 1", "print('ready', LIMIT)"]
            last += ["app.config['LAST'] = counted()", "print(app.name, notes)"] if self.is_flask else []
            self.add(*chance.sample(last, chance.randint(1, 2)))
        if chance.random() < 0.5:
            self.add("", "if __name__ == '__main__':", "    print('starting')")
        return "\n".join(self.lines) + "\n"

    def add(self, *lines: str) -> None:
        self.lines += lines

    def between(self, number: int) -> None:
        choices = [
            f"total_{number} = [LIMIT]",
            "notes.append(2)",
            "print('so far', len(notes))",
            "level['high'] = LIMIT",
        ]
        if self.is_flask:
            choices += ["app.config['TIDE'] = LIMIT", "app.secret_key = 'kite'"]
        self.add(self.chance.choice(choices), "", "")

    def handler(self, place: str) -> None:
        chance = self.chance
        for kind in chance.sample(["one", "all", "add"], chance.randint(1, 3)):
            path = f"{self.prefix}/{place}" + (self.parameter() if kind == "one" else "")
            self.add(*self.decorators(path, kind))
            name = f"{kind}_{place}"
            if chance.random() < 0.2:
                self.add("@shouted", f"def {name}({'value' if kind == 'one' else ''}):", f"    return '{name}'", "", "")
                continue
            self.add(
                f"def {name}({'value' if kind == 'one' else ''}):", *(f"    {line}" for line in self.body(kind, name))
            )
            self.add("", "")

    def parameter(self) -> str:
        flask, bottle = self.chance.choice([("<int:value>", "<value:int>"), ("<value>", "<value>")])
        return f"/{flask if self.is_flask else bottle}"

    def decorators(self, path: str, kind: str) -> list[str]:
        method = "POST" if kind == "add" else "GET"
        verbs = [f'@{"app." * self.is_flask}{method.lower()}("{path}")']
        if self.is_flask:
            verbs.append(f'@app.route("{path}", methods=["{method}"])')
            verbs.append(f'@app.route(\n    "{path}",\n    methods=["{method}"],  # as it is\n)')
        else:
            verbs.append(f'@route("{path}", method="{method}")')
        found = [self.chance.choice(verbs)]
        if kind == "all" and not self.prefix and self.chance.random() < 0.3:
            found.append(f'@{"app." * self.is_flask}{"route"}("{path}/too")')
        return found

    def body(self, kind: str, name: str) -> list[str]:
        chance = self.chance
        if kind == "one":
            return chance.choice(
                [
                    *(_LOOKING if self.has_data else ()),
                    [
                        "for note in notes:",
                        "    if note == value:",
                        "        return 'found %s' % note",
                        "return 'none'",
                    ],
                    ["return '%s of %s at %s' % (value, LIMIT, counted())"],
                    ["level['now'] = value", "return str(level)"],
                ]
            )
        if kind == "add":
            form = "request.form['note']" if self.is_flask else "request.forms.get('note')"
            return [f"notes.append({form})", "if len(notes) > LIMIT:", "    del notes[0]", "return str(len(notes))"]
        plain = [["return 'all %s' % len(notes)"], ["counted()", "return '%s' % visits"], ["return 'quiet'"]]
        if self.is_flask and chance.random() < 0.2:
            return [f"return url_for('{name}')"]
        return chance.choice(plain)

    def hooks(self) -> None:
        if self.is_flask:
            self.add("@app.before_request", "def before():", "    counted()", "", "")
            self.add(
                "@app.errorhandler(404)", "def missing(problem):", "    return 'nothing, %s' % visits, 404", "", ""
            )
        else:
            self.add("@hook('before_request')", "def before():", "    counted()", "", "")
            self.add("@error(404)", "def missing(problem):", "    return 'nothing, %s' % visits", "", "")


def write_routes(seed: int) -> str:
    """A route file: for Flask where the seed is even, else for Bottle."""
    return _Writer(seed).text()


def write_factory(seed: int) -> str:
    """A route file for Flask whose application a function makes, with its handlers inside; some are given arguments."""
    lines = write_routes(2 * seed).replace("global ", "nonlocal ").splitlines()
    end = next((n for n, line in enumerate(lines) if line.startswith("if __name__")), len(lines))
    begin = next(n for n, line in enumerate(lines) if line.startswith("app = "))
    chance = random.Random(seed)
    parameters, arguments, own = _given(chance)
    body = [line for text in lines[begin + 1 : end] for line in _using(chance, text, parameters)]
    inside = [f"    {line}" if line else "" for line in [*own, *body]]
    made = f"app = create_app({arguments})"
    after = chance.choice([[made], [made, "print('made', app.name)"]])
    heading = f"def create_app({', '.join(parameters)}):"
    return "\n".join([*lines[:begin], heading, *inside, "    return app", "", "", *after, *lines[end:]]) + "\n"


def _given(chance: random.Random) -> tuple[list[str], str, list[str]]:
    """The parameters of a function that makes an application, what it is given, and how it begins."""
    if chance.random() < 0.4:
        return [], "", ["app = Flask(__name__)"]
    choices = [
        ("seats", "40", ["app.config['SEATS'] = seats"]),
        ("title='quay'", "title='lock'", ["app.config['TITLE'] = title"]),
        ("options=None", "", ["if options is None:", "    options = {'A': 1}", "app.config.update(options)"]),
        ("more=()", "more=[7]", ["kept = list(more)", "app.config['MORE'] = kept"]),
    ]
    chosen = [choices[n] for n in sorted(chance.sample(range(4), chance.randint(1, 3)))]
    lines = [line for _, _, own in chosen if chance.random() < 0.8 for line in own]
    arguments = ", ".join(filter(None, (given for _, given, _ in chosen)))
    return [parameter for parameter, _, _ in chosen], arguments, ["app = Flask(__name__)", *lines]


def _using(chance: random.Random, line: str, parameters: list[str]) -> list[str]:
    """A line of a handler, and sometimes one above it that uses what the function around it knows."""
    names = [parameter.partition("=")[0] for parameter in parameters]
    known = [f"len(str({name}))" for name in names] + ["len(app.name)", "app.config.get('SEATS', 0)"]
    if not line.startswith("    return ") or "view" in line or "shout" in line or chance.random() < 0.8:
        return [line]
    return [f"    print({chance.choice(known)})", line]


def outcome_with_status(seed: int) -> str:
    """Build a route file whose design answers what is missing: `same`, `refused`, or `different: …`.

    What failed before may be answered with 404 now, and nothing else may change.
    """
    text = write_routes(seed)
    program = program_of(text)
    with tempfile.TemporaryDirectory() as work:
        before, after = Path(work) / "before", Path(work) / "after"
        before.mkdir()
        (before / "script.py").write_text(text)
        try:
            design = propose(program)
            for plan in design.data:
                plan.missing = NOT_FOUND if plan.spots else ""
            write_folder(after, new_files(program, build(program, design)), before / "script.py")
        except RefusedError as error:
            return f"refused: {error.reason}"
        pairs = zip(*(answers(folder, "script.py").splitlines() for folder in (before, after)), strict=True)
        changed = [(one, two) for one, two in pairs if one != two]
    if all(" 500 " in one and " 404 " in two for one, two in changed):
        return "answered" if changed else "same"
    return f"different: {changed}\n{text}"


def answers(folder: Path, name: str) -> str:
    """What a route file of a folder answers to requests, and prints."""
    asked = [(m, p.format(prefix=prefix)) for prefix in ("", "/harbour") for m, p in _REQUESTS]
    code = _ASK.format(module=name.removesuffix(".py"), requests=asked)
    run = subprocess.run([sys.executable, "-c", code], cwd=folder, capture_output=True, text=True, timeout=60)
    return run.stdout + (run.stderr.strip().splitlines() or [""])[-1]
