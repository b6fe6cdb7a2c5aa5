"""Route files: their handlers become methods of one class, which tells the application of them."""

from __future__ import annotations

from pathlib import Path
from textwrap import dedent

import pytest

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.moves.kit.binding_check import perform
from aedifex.moves.register import Register
from aedifex.source.errors import RefusedError
from tests.support.helpers import program_of
from tests.support.registries import write_registry
from tests.support.route_files import answers, write_factory, write_routes
from tests.support.scripts import outcome

LANDING = """
from flask import Flask, request

app = Flask(__name__)
app.config["SEATS"] = 40
tickets = []


def sold():
    return sum(ticket["count"] for ticket in tickets)


@app.route("/landing/")
def home():
    return "%d sold" % sold()


@app.post("/landing/tickets")
def sell():
    tickets.append({"count": int(request.form["note"])})
    return str(sold())


@app.errorhandler(404)
def missing(problem):
    return "no such landing", 404


if __name__ == "__main__":
    app.run()
"""


def built_text(text: str) -> str:
    program = program_of(text)
    return build(program, propose(program)).program.main.source.data.decode()


@pytest.mark.parametrize("seed", range(7))
def test_route_files_answer_as_before(seed):
    assert outcome(write_routes(seed), play=answers) == "same"


def test_the_class_tells_a_part_of_the_application_of_its_routes():
    text = built_text(LANDING)
    assert "from flask import Blueprint, Flask, request\n" in text
    assert 'landing = Blueprint("landing", __name__, url_prefix="/landing")\n' in text
    assert "class LandingPages:" in text and text.count("/landing") == 1 and "@app" not in text
    assert "    def add_to(self, landing, app):\n" in text
    assert '        landing.add_url_rule("/tickets", view_func=self.sell, methods=["POST"])\n' in text
    assert "        app.register_error_handler(404, self.missing)\n" in text
    assert text.endswith(
        dedent("""\
        LandingPages().add_to(landing, app)
        app.register_blueprint(landing)


        if __name__ == "__main__":
            app.run()
        """)
    )


def test_without_a_prefix_in_the_design_the_application_is_told():
    program = program_of(LANDING)
    text = write(propose(program))
    assert 'prefix = "/landing"' in text
    design = parse(Path("landing.design.toml"), text.replace('prefix = "/landing"', 'prefix = ""'))
    made = build(program, design).program.main.source.data.decode()
    assert 'app.add_url_rule("/landing/", view_func=self.home)' in made and "Blueprint" not in made


def test_a_prefix_that_the_routes_do_not_have_is_refused():
    program = program_of(LANDING)
    design = parse(Path("x.design.toml"), write(propose(program)).replace('"/landing"', '"/quay"'))
    with pytest.raises(RefusedError, match="does not begin with `/quay`"):
        build(program, design)


def test_names_of_routes_that_are_asked_for_keep_them():
    text = LANDING.replace('return "%d sold" % sold()', 'return url_for("sell")').replace(
        "request", "request, url_for", 1
    )
    assert "Blueprint" not in built_text(text)


def test_pages_beside_the_script_may_ask_for_routes_too(tmp_path, cli):
    (tmp_path / "templates").mkdir()
    (tmp_path / "templates" / "list.html").write_text("{{ url_for('home') }}")
    (tmp_path / "landing.py").write_text(LANDING)
    assert cli("draft", "landing.py").returncode == 0
    assert "prefix" not in (tmp_path / "landing.design.toml").read_text()


def test_a_handler_that_something_else_decorates_stays_a_function():
    text = built_text(
        LANDING.replace("@app.errorhandler(404)", "@app.errorhandler(404)\n@noisy").replace("Flask(", "Flask(", 1)
    )
    assert "@noisy\ndef missing(problem):" in text and "app.register_error_handler(404, missing)" in text


def test_what_comes_last_asks_the_class():
    text = built_text(LANDING.replace("    app.run()", "    print(sold())\n    app.run()"))
    assert "landing_pages = LandingPages()\nlanding_pages.add_to(landing, app)\n" in text
    assert "    print(landing_pages.sold())\n    app.run()\n" in text


def test_two_handlers_of_one_path_stay_and_are_told_of():
    text = LANDING.replace("@app.errorhandler(404)\ndef missing(problem)", '@app.route("/landing/")\ndef again()')
    design = propose(program_of(text))
    assert any("/landing/ is told of more than once" in doubt and "home (line 14)" in doubt for doubt in design.doubts)
    assert built_text(text).index("view_func=self.home") < built_text(text).index("view_func=self.again")


def test_one_path_for_two_ways_of_asking_is_nothing_to_tell():
    text = LANDING.replace("@app.errorhandler(404)\ndef missing(problem)", '@app.post("/landing/")\ndef again()')
    assert not any("more than once" in doubt for doubt in propose(program_of(text)).doubts)


def test_two_handlers_of_one_name_are_refused_with_their_lines():
    text = LANDING.replace("def missing", "def home")
    with pytest.raises(RefusedError, match="`home` is bound more than once"):
        propose(
            program_of(
                text.replace("def sold", "def counted").replace("sold()", "len(tickets)").replace("tickets", "TICKETS")
            )
        )


def test_a_router_is_told_in_the_order_of_the_text():
    text = built_text("""
        from fastapi import APIRouter

        router = APIRouter()
        tides = [1]


        @router.get("/tides/last", status_code=200)
        def last():
            return tides[-1]


        @router.get("/tides/{number}")
        async def one(number: int):
            tides.append(number)
            return tides
        """)
    told = [line.strip() for line in text.splitlines() if "add_api_route" in line]
    assert told == [
        'router.add_api_route("/tides/last", self.last, methods=["GET"], status_code=200)',
        'router.add_api_route("/tides/{number}", self.one, methods=["GET"])',
    ]
    assert "    async def one(self, number: int):\n" in text and text.endswith("Pages().add_to(router)\n")


def test_a_decorator_with_more_than_the_call_takes_is_called_as_it_is():
    text = built_text("""
        from fastapi import FastAPI

        app = FastAPI()
        answers = []


        @app.post("/tides", callbacks=answers)
        def add(
            level: int,
            place: str = "quay",
        ):
            answers.append(level)


        @app.on_event("startup")
        def begin():
            answers.clear()
        """)
    assert '        app.post("/tides", callbacks=self.answers)(self.add)\n' in text
    assert '        app.on_event("startup")(self.begin)\n' in text
    assert "    def add(\n        self,\n        level: int,\n" in text


FACTORY = """\
from flask import Flask, request


def create_app():
    app = Flask(__name__)
    app.config["SEATS"] = 40
    tickets = []

    @app.route("/")
    def home():
        return "%d sold" % len(tickets)

    @app.post("/tickets")
    def sell():
        nonlocal tickets
        tickets = [*tickets, request.form["name"]]
        return str(len(tickets))

    return app


app = create_app()

if __name__ == "__main__":
    app.run()
"""


def test_a_function_that_makes_the_application_keeps_doing_that():
    text = built_text(FACTORY)
    made = """\
def create_app():
    app = Flask(__name__)
    app.config["SEATS"] = 40
    ScriptPages().add_to(app)
    return app


app = create_app()

if __name__ == "__main__":
    app.run()
"""
    assert made in text
    assert "        self.tickets = [*self.tickets, request.form" in text


def test_handlers_are_handed_the_application_that_they_use():
    text = built_text(FACTORY.replace('return "%d sold"', 'app.logger.info("home")\n        return "%d sold"'))
    assert "    def __init__(self, app):\n        self.app = app\n        self.tickets = []\n" in text
    assert '        self.app.logger.info("home")\n' in text and "    ScriptPages(app).add_to(app)\n" in text


ARGUMENTS = """\
def create_app(title, options=None, *, seats=3):
    \"\"\"The landing.\"\"\"
    if options is None:
        options = {}
    app = Flask(title)
    app.config.update(options)
"""


def given_arguments(handler: str = "title", own: str = "") -> str:
    text = FACTORY.replace(
        'def create_app():\n    app = Flask(__name__)\n    app.config["SEATS"] = 40\n', ARGUMENTS + own
    )
    return text.replace("create_app()\n", 'create_app("quay", {"A": 1})\n').replace(
        'return "%d sold"', f"print({handler}, seats)\n        return '%d sold'"
    )


def test_what_the_application_alone_is_given_stays_with_it_and_handlers_are_handed_the_rest():
    text = built_text(given_arguments(own='    app.config["TITLE"] = title\n'))
    made = ARGUMENTS + '    app.config["TITLE"] = title\n    ScriptPages(title, seats).add_to(app)\n    return app\n'
    assert made in text and "print(self.title, self.seats)" in text
    assert "    def __init__(self, title, seats):\n        self.title = title\n        self.seats = seats\n" in text


@pytest.mark.parametrize("handler", ["options", "sorted(options)"])
def test_what_is_given_something_else_is_not_kept_twice(handler):
    with pytest.raises(RefusedError):
        built_text(given_arguments(handler))


def test_a_decorator_of_the_functions_own_keeps_what_it_uses():
    own = "    def loud(view):\n        print(app.name)\n        return view\n\n"
    with pytest.raises(RefusedError, match="outside of the routine that makes it"):
        built_text(FACTORY.replace('    @app.route("/")', own + '    @app.route("/")\n    @loud'))


def test_what_lets_a_main_function_answer_is_guarded_as_before():
    text = FACTORY.replace("create_app", "main").replace("    return app\n", "    app.run()\n")
    text = text.replace("app = main()\n\n", "").replace('":\n    app.run()', '":\n    main()')
    assert '.add_to(app)\n\n\nif __name__ == "__main__":\n    app.run()\n' in built_text(text)


@pytest.mark.parametrize("seed", range(8))
def test_applications_that_a_function_makes_answer_as_before(seed):
    assert outcome(write_factory(seed), None, answers).partition(":")[0] in ("same", "refused")


def test_the_class_may_stand_in_a_folder_and_the_script_keeps_the_application(tmp_path, cli):
    (tmp_path / "app.py").write_text(FACTORY)
    assert cli("draft", "app.py").returncode == 0
    design = tmp_path / "app.design.toml"
    design.write_text(design.read_text().replace("[owner]\n", '[owner]\nfile = "tickets/pages.py"\n'))
    built = cli("build", "app.design.toml", "--into", "built")
    assert "tickets/pages.py" in built.stdout
    script = (tmp_path / "built" / "app.py").read_text()
    assert "from tickets.pages import " in script and "class" not in script
    assert (tmp_path / "built" / "tickets" / "pages.py").read_text().startswith("from flask import request\n")
    assert cli("verify", "app.py", "built").returncode == 0
    again = cli("draft", "app.py", "-o", "app.design.toml", "--update")
    assert again.returncode == 2 or 'file = "tickets/pages.py"' in design.read_text()
    design.write_text(design.read_text().replace("tickets/pages.py", "../pages.py"))
    refused = cli("build", "app.design.toml", "--into", "other")
    assert refused.returncode != 0 and "is not a file inside the target folder" in refused.stderr


NOTED = """\
commands = {}
seeds = {"oats": 3}


def command(function):
    commands[function.__name__] = function
    return function


@command
def add(name):
    seeds[name] = seeds.get(name, 0) + 1
    return seeds[name]


@command
def show():
    return sorted(seeds)


for line in ("add rye", "show", "add rye"):
    word, *rest = line.split()
    print(commands[word](*rest))
"""


def test_functions_that_a_decorator_only_notes_become_methods_and_are_noted_as_such():
    text = built_text(NOTED)
    assert "command(self.add)\n" in text and "command(self.show)\n" in text and "@command" not in text


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("    return function\n", "    return lambda *given: function(*given)\n"),
        ("    return function\n", "    function.is_known = True\n    return function\n"),
        ("= function\n", "= print(function) or function\n"),
    ],
)
def test_a_decorator_that_does_more_stays(old, new):
    text = built_text(NOTED.replace(old, new, 1))
    assert "@command" in text


def test_decorators_stay_where_no_function_that_they_note_uses_state():
    text = NOTED.replace("seeds[name] = seeds.get(name, 0) + 1\n    return seeds[name]", "return name")
    program = program_of(text.replace("sorted(seeds)", "1"))
    with pytest.raises(RefusedError, match=r"no decorator in .* only tells"):
        perform(program, Register(program.main.path))


@pytest.mark.parametrize("seed", range(8))
def test_random_scripts_that_note_functions_do_the_same(seed):
    assert outcome(write_registry(seed)).partition(":")[0] in ("same", "refused")


LATE = """\
from flask import Flask, request

app = Flask(__name__)
pages = {}


@app.put("/pages/<name>")
def put_page(name):
    pages[name] = request.form["text"]
    app.add_url_rule("/show/" + name, name, lambda: pages[name])
    return "ok"


@app.get("/pages")
def all_pages():
    return ",".join(pages)
"""


def test_a_draft_says_which_function_adds_routes_while_it_answers():
    doubts = propose(program_of(LATE)).doubts
    assert "put_page tells app of a route when it is called (line 10): it stays as it is" in doubts
