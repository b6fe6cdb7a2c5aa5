"""The text of the tests that are written."""

from __future__ import annotations

from aedifex.languages.python import DIALECT
from aedifex.program.dialect.testing import Standing
from aedifex.report.class_tests import Talk, cases_of, class_tests
from aedifex.verify.calls import Call


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


def answer(after, result="None", said="", by_chance=False):
    return {"after": after, "result": result, "said": said, "by_chance": by_chance}


def test_calls_become_cases_with_what_differs_from_the_start():
    cases = cases_of(CALLS, {"RedKite": "red_kite"}, "__init__")
    assert [case.call.method for case in cases] == ["__init__", "pull", "pull", "is_high"]
    assert cases[2].fields == {"x": "2"}
    assert cases[2].as_json("__init__")["start"] == {"x": "0"}
    assert cases_of(CALLS, {}, "__init__") == []


def test_the_text_reads_like_tests():
    cases = cases_of(CALLS, {"RedKite": "red_kite"}, "__init__")
    answers = [
        answer({"x": "0", "name": "'red'"}),
        answer({"x": "2", "name": "'red'"}, said="up\n"),
        {"failed": "TypeError"},
        answer({"x": "2", "name": "'red'"}, "True", by_chance=True),
    ]
    made = class_tests(
        "kites.py",
        cases,
        answers,
        Talk("kites", ("go", 'say "hi"'), 7),
        {"said": "ok\n", "ended": ""},
        DIALECT.testing,
        Standing(),
        holds,
    )
    compile(made.text, "test_kites.py", "exec")
    assert made.count == 4
    assert "from kites import main\nfrom red_kite import RedKite\n" in made.text
    assert "    red_kite = RedKite(x=0)\n    vars(red_kite).update(fields)\n" in made.text
    assert '    assert vars(a_red_kite()) == {"x": 0, "name": "red"}\n' in made.text
    assert '    assert capsys.readouterr().out == "up\\n"\n' in made.text
    assert "    random.seed(1)\n    assert red_kite.is_high() is True\n" in made.text
    assert '"go", \'say "hi"\'' in made.text


def made_of(answers, fails, talk=None, said=None, standing=HERE):
    cases = cases_of(CALLS[:2], {"RedKite": "red_kite"}, "__init__")
    return class_tests("kites.py", cases, answers, talk, said or {}, DIALECT.testing, standing, fails)


START, PULLED = answer({"x": "0", "name": "'red'"}), answer({"x": "2", "name": "'red'"})


def test_a_method_that_does_otherwise_is_left_out_and_said():
    made = made_of([START, {"failed": "TypeError"}], holds)
    assert set(made.left_out) == {"RedKite.pull"}
    assert "import random" not in made.text
    assert "**fields" not in made.text


def test_a_test_that_does_not_hold_elsewhere_is_left_out_and_said():
    made = made_of([START, PULLED], lambda text: {"test_red_kite_pull": "AssertionError"} if "pull(by" in text else {})
    assert made.count == 1
    assert made.left_out == {"RedKite.pull": "its test does not hold (AssertionError)"}


def test_a_file_that_cannot_be_read_is_not_written():
    made = made_of([START, PULLED], lambda text: {"": "ImportError: no kites"})
    assert (made.count, made.text) == (0, "")
    assert "no kites" in made.left_out["kites.py"]


def test_a_conversation_that_does_not_hold_is_left_out():
    talk, said = Talk("kites", ("go",), 7), {"said": "ok\n", "ended": "EOFError"}
    made = made_of(
        [START, PULLED], lambda text: {"test_a_conversation": "x"} if "conversation" in text else {}, talk, said
    )
    assert made.count == 2
    assert "the conversation" in made.left_out


def test_in_a_package_the_modules_are_found():
    bare = made_of([START, PULLED], holds, standing=Standing("harbour.quay")).text
    assert "sys.path.insert(0, str(Path(__file__).parent))" in bare
    assert "from red_kite import RedKite  # noqa: E402\n" in bare
    part = made_of([START, PULLED], holds, standing=Standing("harbour.quay", is_bare=False)).text
    assert "from harbour.quay.red_kite import RedKite\n" in part
    assert "import sys" not in part
