"""The tests that are written: which calls are chosen, and what the text looks like."""

from __future__ import annotations

import subprocess
import sys

import pytest

from aedifex.languages.python import DIALECT
from aedifex.languages.python.mistakes import mutants_of
from aedifex.program.dialect.testing import Standing
from aedifex.report.class_tests import Talk, at_borders, cases_of, chosen_of, class_tests, with_seeds
from aedifex.verify.calls import Call
from aedifex.verify.replay import Mistake, Replayed, replay


def call(method, before, after, given=(), result="None"):
    return Call("RedKite", method, given, result, before, after)


HERE = Standing()
CALLS = [
    call("__init__", {}, {"x": "0", "name": "'red'"}, (("x", "0"),)),
    call("pull", {"x": "0", "name": "'red'"}, {"x": "2", "name": "'red'"}, (("by", "2"),)),
    call("pull", {"x": "2", "name": "'red'"}, {"x": "2", "name": "'red'"}, (("by", "0"),)),
    call("is_high", {"x": "2", "name": "'red'"}, {"x": "2", "name": "'red'"}, (), "True"),
    call("hang", {"x": "2", "name": None}, {"x": "2", "name": None}),
]


def holds(text):
    compile(text, "test_kites.py", "exec")
    return {}


def answer(after, result="None", said="", by_chance=False, changed=(), calls=(), count=0, inner=None):
    return {
        "after": after,
        "result": result,
        "said": said,
        "by_chance": by_chance,
        "changed": list(changed),
        "calls": list(calls),
        "call_count": count or len(calls),
        "inner": inner or {},
        "greets": False,
    }


def chosen_cases():
    return cases_of(CALLS, {"RedKite": "red_kite"}, "__init__")


def test_calls_become_cases_with_what_differs_from_the_start():
    cases = chosen_cases()
    assert [(case.call.method, dict(case.fields)) for case in cases] == [
        ("__init__", {}),
        ("pull", {}),
        ("pull", {}),
        ("is_high", {}),
        ("pull", {"x": "2"}),
        ("is_high", {"x": "2"}),
    ]
    assert cases[-1].start == {"x": "0"}
    assert cases_of(CALLS, {}, "__init__") == []


def test_where_chance_decides_it_begins_in_several_ways():
    cases = chosen_cases()[:2]
    more = with_seeds(cases, [{"by_chance": False}, {"by_chance": True}])
    assert [case.seed for case in more] == [1, 1, 2, 3, 4, 5]
    assert {case.call.method for case in more[2:]} == {"pull"}


def test_cases_that_see_mistakes_are_chosen_and_one_of_each_method():
    tested = [*chosen_cases(), Talk("kites", ("go",), 7)]
    answers = [answer({})] * 5 + [{"failed": "TypeError"}, {"said": "ok\n", "ended": ""}]
    chosen = chosen_of(tested, Replayed(answers, (4, 5)), "__init__")
    assert [tested[number].name for number in chosen] == [
        "RedKite.__init__",
        "RedKite.is_high",
        "RedKite.pull",
        "",
    ]
    assert 4 in chosen
    assert 5 not in chosen


def text_of(answers, cases=None, talk=None, fails=holds, standing=HERE, stand_ins=()):
    tested = [*(cases or chosen_cases()[: len(answers)]), *([talk[0]] if talk else [])]
    answers = [*answers, *([talk[1]] if talk else [])]
    return class_tests("kites.py", tested, answers, DIALECT.testing, standing, fails, stand_ins)


START, PULLED = answer({"x": "0", "name": "'red'"}), answer({"x": "2", "name": "'red'"})


def test_the_text_reads_like_tests():
    cases = [chosen_cases()[number] for number in (0, 1, 5)]
    answers = [
        START,
        answer({"x": "2", "name": "'red'"}, said="up\n"),
        answer({"x": "2", "name": "'red'"}, "True", by_chance=True),
    ]
    talk = Talk("kites", ("go", 'say "hi"'), 7, streams=True), {"said": "ok\n", "ended": ""}
    made = text_of(answers, cases, talk)
    assert made.count == 4
    assert "from kites import main\nfrom red_kite import RedKite\n" in made.text
    assert "    red_kite = RedKite(x=0)\n    vars(red_kite).update(fields)\n    return red_kite\n" in made.text
    assert '    red_kite = RedKite(x=0)\n    assert vars(red_kite) == {"x": 0, "name": "red"}\n' in made.text
    assert '    assert capsys.readouterr().out == "up\\n"\n' in made.text
    assert "    random.seed(1)\n    assert red_kite.is_high() is True\n" in made.text
    assert '"go", \'say "hi"\'' in made.text
    assert "outside" not in made.text


def test_what_is_said_while_an_object_is_made_is_not_taken_for_what_a_method_says():
    cases = [chosen_cases()[number] for number in (0, 4)]
    greeting = {**START, "said": "Good morning.\n", "changed": ["x", "name"]}
    pulled = {**answer({"x": "2", "name": "'red'"}, said="up\n" * 30), "greets": True}
    text = text_of([greeting, pulled], cases).text
    assert '    assert capsys.readouterr().out == "Good morning.\\n"\n' in text
    assert "    capsys.readouterr()  # what is said while it is made\n    red_kite.pull(by=0)\n" in text
    assert '    assert capsys.readouterr().out == (\n        "up\\n"\n' in text


def test_values_at_the_borders_of_conditions_are_tried_too():
    tried = [{"by": "7"}, {".x": "3", ".tail.length": "2"}]
    cases = at_borders(chosen_cases(), {"RedKite.pull": tried})
    assert [dict(case.altered) for case in cases] == tried * 3
    text = text_of([START, PULLED, PULLED], [chosen_cases()[0], *cases[:2]]).text
    assert "    red_kite.pull(by=7)\n" in text
    assert "    red_kite = a_red_kite(x=3)\n    red_kite.tail.length = 2\n    red_kite.pull(by=2)\n" in text


def test_what_stands_in_for_libraries_is_asked_what_was_asked_of_it():
    drawn = answer(
        {"x": "2", "pen": "ANY"},
        "ANY",
        changed=["x", "pen"],
        calls=["call.draw.line(outside.screen, (1, 2))", "call.later({}.pull, 50)"],
        count=9,
        inner={"vars({}.wind)": "{'speed': 2}"},
    )
    made = text_of([START, drawn], stand_ins=[("pygame.draw", "draw"), ("red_kite.later", "later")])
    assert '    patch("pygame.draw", outside.draw),\n    patch("red_kite.later", outside.later),\n' in made.text
    assert "    assert len(asked()) == 9\n" in made.text
    assert "call.later(red_kite.pull, 50)" in made.text
    assert '    assert vars(red_kite.wind) == {"speed": 2}\n    assert red_kite.x == 2\n' in made.text
    assert "red_kite.pen ==" not in made.text
    assert "    outside.reset_mock()\n    return red_kite\n" in made.text


def test_a_conversation_is_held_with_a_program_that_takes_no_streams():
    made = text_of([], [], (Talk("kites", ("go",), 7), {"said": "ok\n", "ended": "EOFError"}))
    assert "def test_a_conversation(capsys):\n    random.seed(7)\n" in made.text
    assert 'runpy.run_module("kites", run_name="__main__")' in made.text
    assert "contextlib.suppress(EOFError):  # nothing more is typed" in made.text


def test_a_test_that_does_not_hold_elsewhere_is_left_out_and_said():
    made = text_of(
        [START, PULLED], fails=lambda text: {"test_red_kite_pull": "AssertionError"} if "pull(by" in text else {}
    )
    assert made.count == 1
    assert made.left_out == {"RedKite.pull": "its test does not hold (AssertionError)"}


def test_a_file_that_cannot_be_read_is_not_written():
    made = text_of([START, PULLED], fails=lambda text: {"": "ImportError: no kites"})
    assert (made.count, made.text) == (0, "")
    assert "no kites" in made.left_out["kites.py"]


def test_a_conversation_that_does_not_hold_is_left_out():
    talk = Talk("kites", ("go",), 7), {"said": "ok\n", "ended": "EOFError"}
    fails = lambda text: {"test_a_conversation": "x"} if "conversation" in text else {}  # noqa: E731
    made = text_of([START, PULLED], talk=talk, fails=fails)
    assert made.count == 2
    assert "the conversation" in made.left_out


def test_in_a_package_the_modules_are_found():
    bare = text_of([START, PULLED], standing=Standing("harbour.quay")).text
    assert "sys.path.insert(0, str(Path(__file__).parent))" in bare
    assert "from red_kite import RedKite  # noqa: E402\n" in bare
    part = text_of([START, PULLED], standing=Standing("harbour.quay", is_bare=False)).text
    assert "from harbour.quay.red_kite import RedKite\n" in part
    assert "import sys" not in part


def test_of_many_fields_those_are_asserted_that_move():
    fields = {f"f{number}": str(number) for number in range(9)}
    calls = [call("__init__", {}, fields), call("rest", fields, fields), call("lift", fields, fields)]
    cases = cases_of(calls, {"RedKite": "red_kite"}, "__init__")
    text = text_of([answer(fields, said="so\n"), answer(fields), answer(fields, changed=["f3"])], cases).text
    assert text.count("f3 == 3") == 2
    assert "f4" not in text


WIND = """
from turtle import ontimer
import random
from helpers import doubled


class Gust:
    def __init__(self, name="breeze"):
        self.name = name
        self.force = 1


class Wind:
    def __init__(self, speed):
        self.speed = doubled(speed) // 2
        self.gust = Gust()

    def blow(self):
        self.gust.force += 2
        ontimer(self.blow, 400)
        return self.speed * 3

    def turn(self):
        self.speed = random.randint(1, 100)

    def wait(self):
        while True:
            self.speed += 1
"""


HELPERS = "def doubled(n):\n    return n * 2\n"


@pytest.fixture(scope="module")
def played(tmp_path_factory):
    folder = tmp_path_factory.mktemp("built")
    (folder / "wind.py").write_text(WIND)
    (folder / "helpers.py").write_text(HELPERS)
    names = {"blow": {"gust": "a_new_Gust(name='gale', force=7)"}, "turn": {}, "wait": {}, "__init__": {}}
    cases = [
        {"class": "Wind", "method": method, "fields": fields, "given": {}, "altered": {}, "returned": {}, "seed": 1}
        for method, fields in names.items()
    ]
    classes = {"Wind": {"module": "wind", "start": {"speed": "2"}}, "Gust": {"module": "wind", "start": {}}}
    mistakes = [Mistake("wind", mutant.routine, mutant.text) for mutant in mutants_of(WIND, 50)]
    return replay(folder, DIALECT.runner, ["wind"], classes, cases, mistakes), mistakes


def test_calls_are_played_again_with_what_stands_in(played):
    blow, turn, wait, start = played[0].answers
    assert (blow["result"], blow["calls"]) == ("6", ["call.ontimer({}.blow, 400)"])
    assert blow["inner"] == {"vars({}.gust)": "{'name': 'gale', 'force': 9}"}
    assert (turn["by_chance"], turn["changed"]) == (True, ["speed"])
    assert wait == {"failed": "TooLongError", "asks": False}
    assert start["after"] == {"speed": "2", "gust": "ANY"}
    assert played[0].stand_ins == [("wind.ontimer", "ontimer")]


def test_mistakes_are_seen_by_the_cases_of_their_routine(played):
    done, mistakes = played
    assert {mistake.routine for mistake in mistakes} == {"__init__", "blow", "turn", "wait"}
    assert {0, 1} <= set(done.seen) <= {0, 1, 3}


def test_written_tests_pass_where_there_is_no_display(played, tmp_path):
    done = played[0]
    (tmp_path / "wind.py").write_text(WIND)
    (tmp_path / "helpers.py").write_text(HELPERS)
    calls = [
        Call("Wind", "__init__", (("speed", "2"),), None, {}, {"speed": "2", "gust": None}),
        Call("Wind", "blow", (), None, {"speed": "2", "gust": "a_new_Gust(name='gale', force=7)"}, {}),
        Call("Gust", "__init__", (), None, {}, {"name": "'breeze'", "force": "1"}),
    ]
    cases = cases_of(calls, {"Wind": "wind", "Gust": "wind"}, "__init__")
    cases = [case for case in cases if case.fields or case.call.method == "__init__"]
    gust = answer({"name": "'breeze'", "force": "1"}, changed=["name", "force"])
    answers = {"Wind.blow": done.answers[0], "Wind.__init__": done.answers[3], "Gust.__init__": gust}
    made = text_of([answers[case.name] for case in cases], cases, stand_ins=done.stand_ins)
    (tmp_path / "test_wind.py").write_text(made.text)
    command = [sys.executable, "-B", "-m", "pytest", "-q", "-p", "no:cacheprovider", str(tmp_path)]
    ran = subprocess.run(command, capture_output=True, text=True, check=False, cwd=tmp_path)
    assert ran.returncode == 0, ran.stdout
    (tmp_path / "wind.py").write_text(WIND.replace("force += 2", "force += 3"))
    assert subprocess.run(command, capture_output=True, check=False, cwd=tmp_path).returncode == 1


def test_databases_are_stood_in_for(tmp_path):
    text = "import sqlite3\n\n\nclass Log:\n    def add(self, boat):\n        con = sqlite3.connect('log.db')\n"
    (tmp_path / "log.py").write_text(f"{text}        con.execute('insert into log values (?)', (boat,))\n")
    case = {"class": "Log", "method": "add", "fields": {}, "given": {"boat": "'Heron'"}, "seed": 1}
    classes = {"Log": {"module": "log", "start": {}}}
    done = replay(tmp_path, DIALECT.runner, ["log"], classes, [{**case, "altered": {}, "returned": {}}])
    assert done.stand_ins == [("sqlite3.connect", "connect")]
    assert done.answers[0]["calls"] == [
        "call.connect('log.db')",
        "call.connect().execute('insert into log values (?)', ('Heron',))",
    ]
