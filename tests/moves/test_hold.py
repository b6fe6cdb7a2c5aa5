"""hold: what a list has of a library comes into tables, wherever it is used, and nowhere else."""

from __future__ import annotations

import pytest

from aedifex.construction.propose import propose
from aedifex.moves.hold import Hold
from aedifex.source.errors import RefusedError
from tests.support.held_things import write_held
from tests.support.helpers import SCRIPT, moved, printed, program_of
from tests.support.meeting import write_meetings
from tests.support.scripts import outcome

LOGS = """\
from optparse import Values

logs = [Values(dict(x=1, y=1))]


def drift(by):
    for log in logs[:]:
        log.x += by
        if log.x > 6:
            logs.remove(log)


for turn in range(4):
    made = Values(dict(x=turn, y=0))
    made.y = 3
    logs.append(made)
    drift(2)
    print(len(logs), [log.x for log in logs])
@
"""


def held(line: str = "") -> str:
    text = LOGS.replace("@", line)
    result = moved(text, Hold(SCRIPT, "logs"))["script.py"]
    assert printed(result) == printed(text)
    return result


@pytest.mark.parametrize(
    ("line", "expected"),
    [
        ("", 'logs = [{"values": Values(dict(x=1, y=1))}]'),
        ("", '        log["values"].x += by\n        if log["values"].x > 6:\n            logs.remove(log)\n'),
        ("", 'logs.append({"values": made})'),
        ("", '[log["values"].x for log in logs]'),
        ("if logs and made or not logs:\n    print(len(logs))", "if logs and made or not logs:"),
        ("print(logs[0].x)", 'print(logs[0]["values"].x)'),
        ("last = logs[-1]\nprint(last.y)", 'last = logs[-1]["values"]\nprint(last.y)'),
        ("logs = [log for log in logs if log.x > 2]", 'logs = [log for log in logs if log["values"].x > 2]'),
        ("for n, log in enumerate(logs):\n    print(n, log.y)", 'print(n, log["values"].y)'),
        ("logs[0] = Values(dict(x=8, y=8))\nprint(logs[0].x)", 'logs[0] = {"values": Values(dict(x=8, y=8))}'),
        ("logs.insert(0, Values(dict(x=0, y=0)))\ndel logs[0]\nlogs.pop()", 'logs.insert(0, {"values": Values('),
        ("log = Values(dict(x=9, y=9))\nlogs.append(log)\nprint(log.y)", 'logs.append({"values": log})\nprint(log.y)'),
        ("log = logs[0]\nfor log in logs:\n    print(log.y)", 'for one_log in logs:\n    print(one_log["values"].y)'),
        ("for log in list(reversed(logs)):\n    print(log in logs, log.x)", 'print(log in logs, log["values"].x)'),
    ],
)
def test_what_is_held(line, expected):
    assert expected in held(line)


@pytest.mark.parametrize(
    "line",
    [
        "print(logs == [])",
        "others = logs",
        "others = logs or [1]\nprint(len(others))",
        "print((logs and made) is made)",
        "logs += [Values(dict(x=1, y=1))]",
        "logs.sort(key=str)",
        "logs.append(None)",
        "if made in logs:\n    logs.remove(made)",
        "for log in logs:\n    log = Values(dict(x=0, y=0))",
        "for log in logs:\n    pass\nprint(log.x)",
        "for log in logs[1:]:\n    del log",
        "print(f'{logs=}'[:3])",
        "last = logs.pop()\nprint(last.x)",
        "logs.extend(logs[:0])",
        "print(sorted(logs, key=id)[0].x)",
    ],
)
def test_where_more_is_done_with_the_list_it_stays(line):
    with pytest.raises(RefusedError):
        held(line)


def test_what_the_list_has_becomes_a_class_with_methods():
    text = LOGS.replace("@", "").replace("log.x += by", "log.x += 2")
    (plan,) = propose(program_of(text)).kinds
    assert (plan.name, plan.store, plan.instances) == ("Log", "held", ["logs[]"])
    assert plan.methods
    assert outcome(text) == "same"


@pytest.mark.parametrize("write", [write_held, write_meetings])
@pytest.mark.parametrize("seed", range(7))
def test_random_scripts(write, seed):
    assert outcome(write(seed)).partition(":")[0] in ("same", "refused")
