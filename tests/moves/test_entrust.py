"""entrust: what only the methods of a class know is the class's own; what anything else uses stays."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from aedifex.moves.entrust import Entrust
from aedifex.source.errors import RefusedError
from tests.support.answering import outcome_of_server, write_server
from tests.support.helpers import SCRIPT, moved, program_of

LOG = """\
import logging

lines = 0
seen = ["first"]
LEVELS = {"low": 1}


class Log(logging.Handler):
    \"\"\"Keeps what is told.\"\"\"

    def emit(self, record):
        global lines
        lines += 1
        seen.append(record.getMessage())
        print(lines, [line for line in seen], @)


logging.getLogger("quay").addHandler(Log)
"""


def entrusted(mentioned: str = "lines", behind: str = "") -> str:
    text = LOG.replace("@", mentioned) + behind
    return moved(text, Entrust(SCRIPT, "Log", ("lines", "seen")))["script.py"]


def test_the_class_has_them_with_their_first_values():
    after = entrusted("lambda: lines")
    body = '    """Keeps what is told."""\n\n    lines = 0\n    seen = ["first"]\n\n    def emit(self, record):\n'
    assert body in after
    assert "        Log.lines += 1\n        Log.seen.append(record.getMessage())\n" in after
    assert "[line for line in Log.seen], lambda: Log.lines)" in after
    assert "global" not in after


@pytest.mark.parametrize(
    ("mentioned", "behind"),
    [
        ("lines", "print(lines)\n"),
        ("lines", "def show():\n    print(seen)\n"),
        ("lines", "log = Log()\n"),
        ("lines", "Log.level = 3\n"),
        ("lines", "Log = 3\n"),
        ("lines", "lines = 4\n"),
        ("lines", "exec('lines = 2')\n"),
        ("[Log for Log in seen if lines]", ""),
    ],
)
def test_what_more_than_its_methods_know_stays(mentioned, behind):
    with pytest.raises(RefusedError):
        entrusted(mentioned, behind)


@pytest.mark.parametrize("text", [LOG.replace("(logging.Handler)", ""), LOG.replace("lines = 0", "lines = len('')")])
def test_a_class_of_the_script_s_own_and_a_value_that_is_worked_out(text):
    with pytest.raises(RefusedError):
        moved(text.replace("@", "lines"), Entrust(SCRIPT, "Log", ("lines",)))


def test_a_name_that_the_library_s_class_may_have_is_left():
    text = LOG.replace("lines", "level").replace("@", "level")
    with pytest.raises(RefusedError):
        moved(text, Entrust(SCRIPT, "Log", ("level",)))


def test_a_handler_s_long_chain_has_a_method_for_each_branch_and_keeps_its_state():
    text, _ = write_server(5)
    plan = next(plan for plan in propose(program_of(text)).kinds if plan.name == "Handler")
    assert {field.name for field in plan.fields} >= {"visits"}
    assert all(method.lines and method.name.startswith(("get_", "post_")) for method in plan.methods)
    assert plan.methods


@pytest.mark.parametrize("seed", range(9000, 9004))
def test_servers_answer_what_they_did(seed):
    assert not outcome_of_server(seed).startswith("different")
