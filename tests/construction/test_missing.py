"""A design may ask that a request for what is not there is answered, where it failed before."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.design.document.reading import parse
from aedifex.design.document.writing import write
from aedifex.source.errors import DesignError, RefusedError
from aedifex.verify.answers import AnswersMeant
from aedifex.verify.running.trace import Entry, Trace
from tests.support.helpers import program_of
from tests.support.route_files import outcome_with_status

FARES = """\
from flask import Flask

app = Flask(__name__)
FARES = {"north": {"price": 3}, "south": {"price": 4}}
asked = 0


@app.route("/price/<place>")
def price(place):
    global asked
    asked += 1
    return str(FARES[place]["price"])


@app.route("/free/<place>")
def is_free(place):
    return "yes" if place not in FARES else str(FARES[place])


@app.route("/asked")
def how_often():
    return str(asked)


if __name__ == "__main__":
    app.run()
"""


def with_status(text: str, status: str = "404") -> str:
    return text.replace('from = "FARES"\n', f'from = "FARES"\nmissing = "{status}"\n')


def test_a_draft_names_the_handlers_that_fail():
    design = propose(program_of(FARES))
    assert [plan.spots for plan in design.data] == [[("price", 12)]]
    assert "fails in price (line 12)" in design.doubts[0] and design.data[0].missing == ""


def test_they_require_what_they_took_for_granted(tmp_path):
    program = program_of(FARES)
    design = parse(Path("x.design.toml"), with_status(write(propose(program))))
    files = {path.name: data.decode() for path, data in new_files(program, build(program, design)).items()}
    assert 'str(self.fares.require(place)["price"])' in files["script.py"]
    assert "else str(self.fares.find(place))" in files["script.py"]
    assert files["fares.py"].startswith("from flask import abort\n") and "            abort(404)\n" in files["fares.py"]


def test_only_one_status_can_be_asked_for_and_only_where_something_fails():
    text = write(propose(program_of(FARES)))
    with pytest.raises(DesignError, match='answered with "404" only'):
        parse(Path("x.design.toml"), with_status(text, "500"))
    careful = FARES.replace(
        '    return str(FARES[place]["price"])', '    return str(FARES.get(place) or FARES["north"])'
    )
    program = program_of(careful.replace("FARES[place])", 'FARES["north"])'))
    wanted = parse(Path("x.design.toml"), with_status(write(propose(program))))
    if wanted.data:
        with pytest.raises(RefusedError, match="no handler of requests fails"):
            build(program, wanted)


def test_verify_says_which_requests_are_answered_now(cli, tmp_path):
    script = tmp_path / "fares.py"
    script.write_text(FARES)
    assert cli("draft", "fares.py").returncode == 0
    design = tmp_path / "fares.design.toml"
    plain, asking = design.read_text(), with_status(design.read_text())
    design.write_text(asking)
    built = cli("build", "fares.design.toml", "--into", "built")
    assert "Changed: a request for what Fares does not have is answered with 404 in price" in " ".join(
        built.stdout.split()
    )
    found = cli("verify", "fares.py", "built")
    assert found.returncode == 0 and "are answered with 404 now: the design asks for that" in " ".join(
        found.stdout.split()
    )
    design.write_text(plain)
    assert cli("verify", "fares.py", "built").returncode == 1


def test_only_failures_that_are_answered_are_left_out():
    def run(*answers: str) -> Trace:
        entries = [Entry(kind, text) for text in answers for kind, text in (("request", "GET /"), ("answer", text))]
        return Trace((*entries, Entry("err", "12:00:00,003 late"), Entry("exit", "0")))

    before, after = run("200 OK", "500 Oh", "500 Oh", "404 No"), run("200 OK", "404 No", "500 Oh", "200 OK")
    meant = AnswersMeant.between(before, after)
    assert meant.numbers == {1}
    assert meant.left_out_of(before).first_difference(meant.left_out_of(after)) == 6
    assert AnswersMeant().left_out_of(before) == before


@pytest.mark.parametrize("seed", range(6))
def test_random_route_files_change_in_nothing_else(seed):
    assert outcome_with_status(seed).partition(":")[0] in ("same", "answered", "refused")
