"""What the reader says of JavaScript that other languages do not have."""

from __future__ import annotations

from pathlib import Path

import pytest

from aedifex.languages.javascript import DIALECT
from aedifex.program.model.module import Module
from aedifex.program.model.names import Mode, ScopeKind
from aedifex.program.model.statements import Kind, Leave, Role
from aedifex.program.reading import read_program
from aedifex.program.structure.state import state
from aedifex.source.errors import UnreadableError
from aedifex.source.text import SourceText
from aedifex.survey.facts import survey


def read(text: str, name: str = "quay.js") -> Module:
    return DIALECT.files.read(SourceText(Path(name), text.encode()))


def test_a_variable_that_nothing_declares_is_the_module_s():
    module = read("function rise() {\n  level = 3;\n  { let level = 4; level++; }\n  print(level);\n}\n")
    assert [symbol.name for symbol in state(module)] == ["level"]
    assert len(module.scope.symbols["level"].references) == 2


def test_a_name_used_bare_and_through_the_page_is_one_variable():
    module = read("window.tide = 3;\nfunction show() {\n  print(tide);\n}\n")
    assert "tide" in module.scope.symbols
    assert [(h.line, h.touches) for h in module.hindrances] == [(1, frozenset({"tide"}))]


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("eval('a = 1');\n", "evaluates a text"),
        ("const f = new Function('return 1');\n", "makes a function of a text"),
        ("window[name]();\n", "by a text, through `window`"),
        ("with (boat) { sail(); }\n", "looks for names in an object first"),
    ],
)
def test_what_hinders(text, reason):
    assert [reason in hindrance.reason for hindrance in read(text).hindrances] == [True]


def test_own_names_hide_what_would_hinder():
    assert not read("function eval(text) {}\neval('a');\nconst window = [];\nwindow[0]();\n").hindrances


def test_var_lives_in_the_function_and_let_in_the_block():
    module = read("function f() {\n  if (f) {\n    var a = 1;\n    let b = 2;\n  }\n  return a;\n}\n")
    scope = module.function("f").scope
    assert "a" in scope.symbols and "b" not in scope.symbols
    assert [child.kind for child in scope.children] == [ScopeKind.BLOCK]


def test_a_default_value_does_not_see_what_the_body_declares():
    module = read("let a = 1;\nfunction f(p = () => a) {\n  var a = 2;\n}\n")
    assert [r.mode for r in module.scope.symbols["a"].references] == [Mode.WRITE, Mode.READ]


def test_a_function_that_a_constant_holds_is_a_routine_with_a_name():
    module = read("const rise = (by) => {\n  level += by;\n};\nconst plain = () => 1;\nvar fall = function () {};\n")
    assert [function.name for function in module.functions] == ["rise", "plain", "fall"]
    assert module.block.statements[0].kind is Kind.ROUTINE


def test_the_body_of_a_nameless_function_belongs_to_its_statement():
    module = read("boats.forEach(function (boat) {\n  if (boat) sail(boat);\n});\n")
    statement = module.block.statements[0]
    assert not statement.blocks and [block.role for block in statement.bodies] == [Role.BODY]
    assert [s.kind for s in module.walk()] == [Kind.EXPRESSION, Kind.BRANCH, Kind.EXPRESSION]


def test_one_case_falls_through_into_the_next():
    choice = read("switch (a) {\n  case 1: f();\n  case 2: g(); break;\n  default: h();\n}\n").block.statements[0]
    assert choice.ends_at_break and all(block.falls_through for block in choice.blocks)
    assert [block.role for block in choice.blocks] == [Role.CASE, Role.CASE, Role.OTHERWISE]


def test_labels_and_loops_that_test_last():
    outer = read("outer: do {\n  for (;;) continue outer;\n} while (a);\n").block.statements[0]
    assert outer.label == "outer" and outer.tests_last
    inner = outer.blocks[0].statements[0].blocks[0].statements[0]
    assert inner.leaves == {Leave.CONTINUE} and inner.leaves_label == "outer"


def test_await_with_parentheses_is_no_call():
    module = read("async function f() {\n  const a = await (await fetch(b)).json();\n}\n")
    assert "await" not in module.outside.symbols and module.function("f").is_async


PAGE = """\
<!DOCTYPE html>
<script src="tide.js"></script>
<script>
  let level = 3
  function rise() { level++; show(); }
</script>
<button onclick="rise()">Rise é</button>
<script>
  (function () { show(); })()
</script>
<script type="text/template">not = code</script>
"""


def test_the_scripts_of_a_page_are_one_and_stand_where_they_stood():
    module = read(PAGE, "quay.html")
    assert list(module.scope.symbols) == ["level", "rise"]
    assert module.source.slice(module.scope.symbols["level"].references[0].span) == "level"
    assert module.found_by_name == {"rise": "the page"}
    assert module.function("rise").is_called_from_outside


def test_a_page_loads_its_files_and_scripts_share_their_variables(tmp_path):
    (tmp_path / "quay.html").write_text(PAGE)
    (tmp_path / "tide.js").write_text("function show() { print(level); }\n")
    sources = [SourceText.read(tmp_path / name) for name in ("quay.html", "tide.js")]
    program = read_program(sources, DIALECT)
    assert DIALECT.files.neighbours(program.main) == [tmp_path / "tide.js"]
    assert list(DIALECT.files.users(tmp_path / "tide.js")) == [tmp_path / "quay.html"]
    assert set(program.main.used_elsewhere) == {"level"}


def test_modules_import_one_another(tmp_path):
    (tmp_path / "tide.mjs").write_text("export let level = 3;\nexport function rise() { level++; }\n")
    (tmp_path / "quay.mjs").write_text('import { level, rise as up } from "./tide.mjs";\nup();\nprint(level);\n')
    program = read_program([SourceText.read(tmp_path / name) for name in ("quay.mjs", "tide.mjs")], DIALECT)
    tide = program.modules[tmp_path / "tide.mjs"]
    assert program.main.scope.symbols["up"].final is tide.scope.symbols["rise"]
    assert "level" in tide.used_elsewhere and "rise" in tide.found_by_name


def test_what_is_required_is_imported():
    module = read(
        'const fs = require("node:fs");\nvar { join, sep: mark } = require("path");\nlet n = require(name);\n'
    )
    found = {name: symbol.imported for name, symbol in module.scope.symbols.items()}
    assert found == {"fs": ("node:fs", None), "join": ("path", "join"), "mark": ("path", "sep"), "n": None}
    assert [symbol.name for symbol in state(module)] == ["n"]


SKETCH = """\
let x = 10, y = 20;
let speed = 2;
const kites = [];

function setup() {
  createCanvas(400, 300);
  for (let i = 0; i < 3; i++) kites.push({ x: i, y: 0 });
}

function draw() {
  x += speed;
  if (x > 400) x = y;
  kites.forEach((kite) => { kite.y += 1; });
}
"""


def test_the_survey_of_a_sketch():
    facts = survey(read_program([SourceText(Path("quay.js"), SKETCH.encode())], DIALECT))[0]
    assert {fact.name: fact.constant for fact in facts.state} == {"x": False, "y": True, "speed": True, "kites": False}
    assert [routine.name for routine in facts.routines] == ["setup", "draw"] and facts.language == "javascript"
    module = read(SKETCH)
    assert set(module.found_by_name) == {"setup", "draw"}


@pytest.mark.parametrize("text", ["let a = ;\n", "function (\n", "if (a {\n"])
def test_what_is_no_javascript_is_refused_with_its_line(text):
    with pytest.raises(UnreadableError) as raised:
        read(f"let b = 1;\n{text}")
    assert raised.value.place.line == 2


def test_what_is_nested_too_deeply_is_refused():
    with pytest.raises(UnreadableError, match="nested deeper"):
        read("if (a) {" * 200 + "}" * 200)
    deep = "a(" * 3000 + ")" * 3000
    assert len(read(deep).references) == 3000
