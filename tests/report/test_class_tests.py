"""The text of the tests that are written."""

from __future__ import annotations

from aedifex.languages.python import DIALECT
from aedifex.report.class_tests import Talk, cases_of, class_tests
from aedifex.verify.calls import Call


def call(method, before, after, given=(), result="None"):
    return Call("RedKite", method, given, result, before, after)


CALLS = [
    call("__init__", {}, {"x": "0", "name": "'red'"}, (("x", "0"),)),
    call("pull", {"x": "0", "name": "'red'"}, {"x": "2", "name": "'red'"}, (("by", "2"),)),
    call("pull", {"x": "2", "name": "'red'"}, {"x": "2", "name": "'red'"}, (("by", "0"),)),
    call("is_high", {"x": "2", "name": "'red'"}, {"x": "2", "name": "'red'"}, (), "True"),
    call("hang", {"x": "2", "name": None}, {"x": "2", "name": None}),
]


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
        "kites.py", cases, answers, Talk("kites", ("go", 'say "hi"'), 7), {"said": "ok\n", "ended": ""}, DIALECT.testing
    )
    compile(made.text, "test_kites.py", "exec")
    assert made.count == 4
    assert "from kites import main\nfrom red_kite import RedKite\n" in made.text
    assert "    made = RedKite(x=0)\n    vars(made).update(fields)\n" in made.text
    assert '    assert vars(a_red_kite()) == {"x": 0, "name": "red"}\n' in made.text
    assert '    assert capsys.readouterr().out == "up\\n"\n' in made.text
    assert "    random.seed(1)\n    assert made.is_high() is True\n" in made.text
    assert '"go", \'say "hi"\'' in made.text


def test_a_method_that_does_otherwise_is_left_out_and_said():
    cases = cases_of(CALLS[:2], {"RedKite": "red_kite"}, "__init__")
    made = class_tests(
        "kites.py", cases, [answer({"x": "0", "name": "'red'"}), {"failed": "TypeError"}], None, {}, DIALECT.testing
    )
    assert made.left_out == ["RedKite.pull"]
    assert "import random" not in made.text
