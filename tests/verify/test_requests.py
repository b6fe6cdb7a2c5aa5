"""Requests in scenarios reach the application in process; a change of what it answers is seen."""

from __future__ import annotations

import json

import pytest

from aedifex.languages.python import DIALECT
from aedifex.source.text import SourceText

TICKETS = """
from flask import Flask, jsonify, request, session
app = Flask(__name__)
app.secret_key = "quay"
seats = 3

@app.route("/")
def home():
    session["seen"] = session.get("seen", 0) + 1
    return "seen %d" % session["seen"]

@app.route("/tickets", methods=["POST"])
def sell():
    global seats
    seats -= int(request.form["count"])
    return jsonify(left=seats), 201

@app.route("/echo", methods=["PUT"])
def echo():
    return request.get_json()["tide"], {"X-Tide": request.headers["X-Ask"]}

app.run()
print("closed")
"""
KITES = """
import sqlite3
from bottle import get, post, request, run
store = sqlite3.connect(":memory:")
store.execute("create table kites (colour text)")

@get("/kites")
def kites():
    return " ".join(row[0] for row in store.execute("select colour from kites"))

@post("/kites")
def add():
    store.execute("insert into kites values (?)", (request.forms.get("colour"),))
    return "flies"

run(port=8080)
"""
LIBRARY = """
class FastAPI:
    async def __call__(self, scope, receive, send):
        if scope["type"] == "lifespan":
            print(await receive())
            await send({"type": "lifespan.startup.complete"})
            print(await receive())
            return
        body = (await receive())["body"]
        await send({"type": "http.response.start", "status": 200, "headers": [(b"x-way", scope["path"].encode())]})
        await send({"type": "http.response.body", "body": body + self.tide})
"""
SCENARIO = """
format = 1
[[event]]
turn = 1
request = "GET /"
[[event]]
turn = 2
request = "GET /"
[[event]]
turn = 3
request = "POST /tickets"
form = { count = "2" }
[[event]]
turn = 4
request = "PUT /echo"
json = { tide = "high" }
headers = { X-Ask = "now" }
"""


def built(folder, text):
    """Another version under the same name, which some libraries print."""
    (folder / "built").mkdir()
    (folder / "built" / "a.py").write_text(text)


def entries(folder, scenario):
    from aedifex.languages.python import DIALECT
    from aedifex.verify.running.run import run
    from aedifex.verify.scenarios.scenario import read

    path = folder / "s.scenario.toml"
    path.write_text(scenario)
    return [str(entry) for entry in run(folder / "a.py", read(path), DIALECT.runner).trace.entries]


def test_answers_headers_forms_data_and_cookies(tmp_path):
    (tmp_path / "a.py").write_text(TICKETS)
    found = entries(tmp_path, SCENARIO)
    assert "GET /" in found and "seen 1" in found and "seen 2" in found
    assert any(entry.startswith("201 CREATED") for entry in found) and '{"left":1}' in "".join(found)
    assert any("X-Tide: now" in entry for entry in found) and "high" in found
    assert found[-2] == "prints 'closed\\n'"


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ('"X-Tide"', '"X-Wind"'),
        ('session["seen"] = ', "count = "),
        ('methods=["POST"]', 'methods=["PUT"]'),
    ],
)
def test_a_change_of_an_answer_is_seen(cli, tmp_path, old, new):
    (tmp_path / "a.py").write_text(TICKETS)
    built(tmp_path, TICKETS.replace(old, new))
    (tmp_path / "s.scenario.toml").write_text(SCENARIO)
    done = cli("verify", "a.py", "built", "--scenario", "s.scenario.toml", "--budget", "1")
    assert done.returncode == 1, done.stdout + done.stderr


PLANS = """
from flask import Flask, jsonify, request

app = Flask(__name__)
SORTS = {"png", "jpg"}
plans = {}


def is_of_a_sort(name):
    return name.rsplit(".", 1)[-1] in SORTS


@app.route("/plans", methods=["GET", "POST"])
def show_plans():
    if request.method == "POST":
        if "plan" not in request.files:
            return "no plan", 400
        plan = request.files["plan"]
        if not is_of_a_sort(plan.filename):
            return "no picture", 415
        plans[plan.filename] = [request.form.get("quay"), plan.read().decode()]
    return jsonify(plans)


app.run()
"""
SENT = """
format = 1
[[event]]
turn = 1
request = "POST /plans"
form = { quay = "north" }
files = { plan = { name = "a.png", text = "half a kite" } }
[[event]]
turn = 2
request = "POST /plans"
files = { plan = { name = "a.txt", text = "" } }
"""


def test_files_are_sent_along_with_the_form(tmp_path):
    (tmp_path / "a.py").write_text(PLANS)
    found = "".join(entries(tmp_path, SENT))
    assert '"a.png":["north","half a kite"]' in found
    assert "no picture" in found


def test_files_are_sent_of_which_the_script_looks_for_some(cli, tmp_path):
    (tmp_path / "a.py").write_text(PLANS)
    done = cli("verify", "a.py", "a.py", "--budget", "5", "--json", "-")
    told = json.loads(done.stdout)
    assert told["same"] and told["share"] == 1.0


LOCKS = """
from flask import Flask

app = Flask(__name__)
locks = {"north": 3, "south": 4}


def keeper(name):
    def show():
        return str(locks[name])

    return show


for name in locks:
    app.add_url_rule("/lock/" + name, name, keeper(name))
for name, level in locks.items():
    app.add_url_rule(f"/level/{name}", f"level {name}", keeper(name))

app.run()
"""


@pytest.mark.parametrize("old", ['"north": 3', '"south": 4'])
def test_routes_that_a_loop_adds_are_asked(cli, tmp_path, old):
    (tmp_path / "a.py").write_text(LOCKS)
    built(tmp_path, LOCKS.replace(old, f"{old}5"))
    done = cli("verify", "a.py", "built", "--budget", "2")
    assert done.returncode == 1, done.stdout + done.stderr
    assert "/lock/" in done.stdout or "/level/" in done.stdout


def test_a_route_that_the_library_refuses_is_said_once(cli, tmp_path):
    (tmp_path / "a.py").write_text(PLANS.replace('"/plans"', '"plans"'))
    done = cli("verify", "a.py", "a.py", "--budget", "1")
    assert done.returncode == 5
    assert "must start with a slash" in done.stderr
    assert "Traceback" not in done.stdout + done.stderr


def test_a_library_that_is_not_there_is_named(cli, tmp_path):
    (tmp_path / "a.py").write_text(PLANS.replace("from flask", "from harbour_pages"))
    done = cli("verify", "a.py", "a.py", "--budget", "1")
    assert done.returncode == 5
    assert "Install harbour_pages beside aedifex" in done.stderr


def test_a_route_added_while_requests_come_is_asked_before_and_after(tmp_path):
    text = (
        TICKETS.replace("app.run()", "", 1)
        + """

def more():
    return "more tides"


@app.before_request
def add_more():
    if "more" not in app.view_functions:
        app.view_functions["home"] = more


app.run()
"""
    )
    (tmp_path / "a.py").write_text(text)
    assert "more tides" in entries(tmp_path, SCENARIO)


def test_scenarios_are_made_from_the_routes(cli, tmp_path):
    (tmp_path / "a.py").write_text(KITES)
    built(tmp_path, KITES.replace('return "flies"', 'store.rollback()\n    return "flies"'))
    done = cli("verify", "a.py", "a.py", "--budget", "5", "--json", "-")
    told = json.loads(done.stdout)
    assert told["same"] and told["share"] == 1.0
    assert cli("verify", "a.py", "built", "--budget", "5").returncode == 1


def test_an_application_that_another_program_would_serve(tmp_path):
    (tmp_path / "a.py").write_text(TICKETS.replace("app.run()\n", ""))
    assert "seen 1" in entries(tmp_path, SCENARIO)


def test_an_asynchronous_application_lives_around_its_requests(tmp_path):
    (tmp_path / "fastapi.py").write_text(LIBRARY)
    (tmp_path / "a.py").write_text("from fastapi import FastAPI\napp = FastAPI()\napp.tide = b' rising'\n")
    scenario = 'format = 1\n[[event]]\nturn = 1\nrequest = "POST /tide%20now"\nbody = "it is"\n'
    found = entries(tmp_path, scenario)
    assert found[0].startswith("prints") and "startup" in found[0] and "shutdown" in found[-2]
    assert "POST /tide%20now" in found and "200\nx-way: /tide now" in found and "it is rising" in found


@pytest.mark.parametrize(
    ("event", "words"),
    [
        ('request = "/tide"', "a method and a path"),
        ('request = "GET /tide"\nform = { day = 2 }', "names and texts"),
        ('request = "GET /tide"\nbody = 3', "needs a text"),
        ('request = "POST /tide"\nfiles = { plan = "quay.txt" }', "a name and a text for each file"),
    ],
)
def test_requests_that_cannot_be(cli, tmp_path, event, words):
    (tmp_path / "a.py").write_text(TICKETS)
    (tmp_path / "s.scenario.toml").write_text(f"format = 1\n[[event]]\nturn = 1\n{event}\n")
    done = cli("verify", "a.py", "a.py", "--scenario", "s.scenario.toml")
    assert done.returncode == 4 or done.returncode == 2, done
    assert words in done.stderr


def test_a_log_has_its_times_and_the_library_its_functions(tmp_path):
    (tmp_path / "a.py").write_text(
        "import logging, time\nclass Watch:\n    clock = time.time\nprint(Watch().clock() > 1)\n"
        "logging.Formatter.converter = time.gmtime\n"
        "logging.basicConfig(format='%(asctime)s %(message)s')\nlogging.warning('high')\n"
    )
    found = entries(tmp_path, "format = 1\n")
    assert found[0] == "prints 'True\\n'" and "12:00:00,0" in found[1] and "high" in found[1]


def test_an_error_in_a_handler_is_compared_without_its_lines(cli, tmp_path):
    (tmp_path / "a.py").write_text(TICKETS)
    built(tmp_path, "\n\n" + TICKETS)
    scenario = 'format = 1\n[[event]]\nturn = 1\nrequest = "POST /tickets"\nform = { count = "many" }\n'
    (tmp_path / "s.scenario.toml").write_text(scenario)
    done = cli("verify", "a.py", "built", "--scenario", "s.scenario.toml")
    assert done.returncode == 0 and any("ValueError" in entry for entry in entries(tmp_path, scenario))


BOATS = """
import http.server
import json
import socketserver
boats = {"1": "Ida", "2": "Ole"}

class Boats(http.server.BaseHTTPRequestHandler):
    def do_GET(self):
        if self.path == "/boats":
            self.answer(200, boats)
        elif self.path.startswith("/boats/"):
            number = self.path[len("/boats/"):]
            self.answer(200 if number in boats else 404, boats.get(number))
        elif self.path == "/odd":
            raise ValueError("odd")
        else:
            self.answer(404, "nothing")

    def do_POST(self):
        sent = self.rfile.read(int(self.headers.get("Content-Length", 0))).decode()
        boats[str(len(boats) + 1)] = sent
        self.answer(201, len(boats))

    def answer(self, status, data):
        self.send_response(status)
        self.send_header("X-Boats", str(len(boats)))
        self.end_headers()
        self.wfile.write(json.dumps(data).encode())

with @ as server:
    print("open", server.server_address)
    server.serve_forever()
print("closed")
"""
SERVERS = [
    'http.server.HTTPServer(("", 8000), Boats)',
    'http.server.ThreadingHTTPServer(("localhost", 8000), Boats)',
    'socketserver.TCPServer(("", 8000), Boats)',
]
VISITS = """
format = 1
[[event]]
turn = 1
request = "POST /boats"
body = "Mia"
[[event]]
turn = 2
request = "GET /boats/3"
[[event]]
turn = 3
request = "GET /odd"
[[event]]
turn = 4
request = "GET /boats/9"
"""


@pytest.mark.parametrize("server", SERVERS)
def test_handlers_of_the_standard_library_answer_without_a_socket(tmp_path, server):
    (tmp_path / "a.py").write_text(BOATS.replace("@", server))
    found = "\n".join(entries(tmp_path, VISITS))
    assert "201 Created\nX-Boats: 3" in found and '"Mia"' in found
    assert "fails with ValueError: odd" in found
    assert "404 Not Found" in found
    assert "prints 'closed\\n'" in found


@pytest.mark.parametrize(("old", "new"), [('"X-Boats"', '"X-Rafts"'), ("boats[str", "kept = {}; kept[str")])
def test_a_change_of_what_a_handler_answers_is_seen_by_scenarios_of_its_own(cli, tmp_path, old, new):
    text = BOATS.replace("@", SERVERS[0])
    (tmp_path / "a.py").write_text(text)
    built(tmp_path, text.replace(old, new))
    assert cli("verify", "a.py", "built", "--budget", "1").returncode == 1


PART = """
from {library} import {maker}
bp = {maker}({made})
kites = {{"K7": 0, "K9": 0}}

@bp.{rule}
def pull(code):
    return {{"code": code, "known": code in kites}}
"""


@pytest.mark.parametrize(
    ("part", "joining", "path"),
    [
        (
            ("flask", "Blueprint", '"kites", __name__', 'route("/<code>/pull", methods=["POST"])'),
            'from kites import bp\napp.register_blueprint(bp, url_prefix="/kites")',
            "/kites/{code}/pull",
        ),
        (
            ("flask", "Blueprint", '"kites", __name__, url_prefix="/own"', 'route("/<code>", methods=["POST"])'),
            "import kites\napp.register_blueprint(kites.bp)",
            "/own/{code}",
        ),
        (
            ("flask", "Blueprint", '"kites", __name__, url_prefix="/own"', 'route("/<code>", methods=["POST"])'),
            'from kites import bp as quay\napp.register_blueprint(quay, url_prefix="/other")',
            "/other/{code}",
        ),
        (
            ("fastapi", "APIRouter", 'prefix="/own"', 'post("/{code}")'),
            'import kites as quay\napp.include_router(quay.bp, prefix="/all")',
            "/all/own/{code}",
        ),
    ],
)
def test_parts_of_other_files_are_asked_under_their_paths(tmp_path, part, joining, path):
    """Careless: nothing of what the other file answers is asked for, and all is called the same."""
    library, maker, made, rule = part
    text = PART.format(library=library, maker=maker, made=made, rule=rule)
    (tmp_path / "kites.py").write_text(text)
    script = tmp_path / "app.py"
    script.write_text(f"import {library}\napp = {library}.Flask(__name__)\n{joining}\n")
    heard = DIALECT.library.inputs_of(DIALECT.files.read(SourceText.read(script)))
    assert [(request.methods, request.path) for request in heard.requests] == [(("POST",), path)]
    assert heard.values[""] == ("K7", "K9")
