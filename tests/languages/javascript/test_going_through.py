"""Calls that do something with each thing of a list become loops: beside each case stands what a careless move makes."""

from __future__ import annotations

import shutil

import pytest

from tests.support.javascript_programs import built
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

LOGS = """\
let logs = [];
let spare = [];
let count = 0;

function add(n) {{
  logs.push({{ x: n, y: 2, size: n + 1 }});
}}

function grow(log) {{
  if (logs.length < 6) add(log.x + 10);
}}

function show() {{
  logs.forEach({body});
}}

add(1);
add(2);
add(3);
{more}
show();
show();
console.log(count, logs.length, spare.length);
"""


def with_body(body: str, more: str = "") -> str:
    return LOGS.format(body=body, more=more)


@pytest.mark.parametrize(
    "body",
    [
        "(log) => {\n    log.x += log.y;\n    log.y += 1;\n  }",
        "log => {\n    count += log.size;\n    spare.push(log);\n  }",
        "function (log) {\n    const far = log.x + log.y;\n    count += far;\n    console.log(far);\n  }",
        "(log) => {\n    let held = log.x;\n    setTimeout(() => console.log(held, log.y), 0);\n    held += 1;\n  }",
        "(log) => {\n    for (const n of [1, 2]) {\n      if (n > log.x) break;\n      count += n;\n    }\n  }",
        "(log) => {\n    spare.forEach((other) => { count += other.x; });\n    if (log.x === logs.length) count += 1;\n  }",
    ],
)
@needs_node
def test_a_call_for_each_thing_becomes_a_loop(body):
    assert "for (const log of this.logs) {" in built(with_body(body)) and "logs.forEach" not in built(with_body(body))
    assert outcome(with_body(body)) == "same"


MORE = """\
function tell(log) {
  console.log(log.x, log.size);
}

function first(log, at) {
  if (at === 0) count += log.x;
}

function counted(log) {
  count += arguments.length;
}

function none(...logs) {
  count += logs.length;
}

function sized({ size }) {
  count += size;
}

function gone(logs) {
  count += logs.size;
}

function less(log) {
  if (logs.length > 2) logs.splice(0, 1);
  count += log.size;
}
"""


@pytest.mark.parametrize(
    ("body", "loop"),
    [
        ("tell", "for (const log of this.logs) log.tell();"),
        ("(log) => tell(log)", "for (const log of this.logs) log.tell();"),
        ("log => spare.push(log)", "for (const log of this.logs) this.spare.push(log);"),
        ("function (log) { tell(log); }", "for (const log of this.logs) { log.tell(); }"),
        ("log => setTimeout(() => tell(log), 1)", "for (const log of this.logs) setTimeout(() => log.tell(), 1);"),
    ],
)
@needs_node
def test_what_is_done_by_a_function_or_a_call_becomes_a_loop(body, loop):
    text = with_body(body, MORE)
    assert loop in built(text)
    assert outcome(text) == "same"


@pytest.mark.parametrize(
    "body",
    [
        *("first", "counted", "none", "sized", "gone", "less", "grow"),
        *("(log, at) => first(log, at)", "log => less(log)", "log => count += log.x", "log => ({ log })"),
        *("async log => tell(log)", "async log => await tell(log)", "log => function () { tell(log); }"),
    ],
)
@needs_node
def test_a_function_that_asks_for_more_stays(body):
    text = with_body(body, MORE)
    assert "logs.forEach(" in built(text) and outcome(text) == "same"


@pytest.mark.parametrize(
    ("body", "more"),
    [
        ("(log) => {\n    if (log.x > 1) return;\n    count += log.size;\n  }", ""),
        ("(log, at) => {\n    count += log.size * at;\n  }", ""),
        ("(log) => {\n    if (logs.length < 6) logs.push({ x: 7, y: 2, size: 8 });\n    count += log.size;\n  }", ""),
        ("(log) => {\n    grow(log);\n    count += log.x;\n  }", ""),
        ("(log) => {\n    if (log.x > 1) logs.pop();\n    count += log.size;\n  }", ""),
        ("(log) => {\n    log = { x: 9, y: 9, size: 9 };\n    count += log.x;\n  }", ""),
        ("(log) => {\n    var seen = log.x;\n    setTimeout(() => console.log(seen), 0);\n  }", ""),
        ("function (log) {\n    count += arguments.length + log.x;\n  }", ""),
        ("({ x, size }) => {\n    count += size + x;\n  }", ""),
        ("(...given) => {\n    count += given.length;\n  }", ""),
        ("(log = {}) => {\n    count += log.size;\n  }", ""),
        ("(logs) => {\n    count += logs.size;\n  }", ""),
        ("function (log) {\n    'use strict';\n    count += log.size;\n  }", ""),
        ("async (log) => {\n    count += log.x;\n  }", ""),
        ("(log) => {\n    count += log.size;\n  }", "logs[5] = { x: 5, y: 2, size: 6 };"),
        ("(log) => {\n    count += log.size;\n  }", "delete logs[1];"),
        ("(log) => {\n    count += log.size;\n  }", "logs.length = 5;"),
    ],
)
@needs_node
def test_a_call_that_is_more_than_a_loop_stays(body, more):
    """Careless: what comes in meanwhile has its turn, gaps have one, and leaving once is leaving for good."""
    text = with_body(body, more)
    assert "logs.forEach(" in built(text) and outcome(text) == "same"


GULLS = """\
let gulls = [];
let wind = 1;

function add(x) {{
  gulls.push({{ x: x, speed: 2 }});
}}

function move() {{
  {loop}
}}

add(3);
add(8);
move();
add(5);
move();
wind = 2;
move();
console.log(gulls.length, wind, gulls.map((gull) => gull.x).join());
"""
DOWN = "for (let i = gulls.length - 1; i >= 0; i--) {{\n    {0}\n    if (gulls[i].x > 9) {{\n      gulls.splice(i, 1);\n    }}\n    {1}\n  }}"


def gulls(first: str = "gulls[i].x += gulls[i].speed;", last: str = "wind += 1;") -> str:
    return GULLS.format(loop=DOWN.format(first, last))


@needs_node
def test_what_is_taken_out_by_its_number_has_a_name_before():
    made = built(gulls())
    assert (
        "const gull = this.gulls[i];\n      gull.move();\n      if (gull.x > 9) {\n        this.gulls.splice(i, 1);"
        in made
    )
    assert outcome(gulls()) == "same"


@needs_node
@pytest.mark.parametrize(
    "loop",
    [
        DOWN.format("gulls[i].x += 1;", "if (gulls[i]) gulls[i].x += wind;"),  # another gull by then
        DOWN.format("gulls[i].x += 1;", "if (wind > 3) {\n      const gull = 2;\n      gulls[i].x += gull;\n    }"),
        DOWN.format("add(i);", "gulls[i] && gulls[i].x;"),
        "for (let i = gulls.length - 1; i >= 0; i--)\n    gulls[i].x += gulls[i].speed;",  # there is no place for a name
        "for (let i = 0; i < gulls.length; i++) {\n    gulls[i].x += gulls[i].speed; i += 1; gulls[i] && gulls[i].x++;\n  }",
    ],
)
def test_what_may_be_another_by_then_has_no_name(loop):
    text = GULLS.format(loop=loop)
    assert "const gull = this.gulls[i]" not in built(text)
    assert outcome(text) == "same"
