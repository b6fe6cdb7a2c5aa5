"""Lists and tables of records that answer who looks for one: beside each case stands what a careless move makes."""

from __future__ import annotations

import re
import shutil

import pytest

from tests.support.javascript_data import write_javascript_data
from tests.support.javascript_names import TOOLS, has_tools
from tests.support.javascript_programs import built
from tests.support.javascript_scripts import outcome

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
needs_library = pytest.mark.skipif(not has_tools(), reason="npm has not installed the library")

KITES = """\
const say = (...things) => console.log(JSON.stringify(things));
let kites = [
  { id: 1, name: "red", wind: 3 },
  { id: 2, name: "sled", wind: 5 },
];
let asked = 0;

function look(id) {
  %s
}

say(look(2), look("2"), look(9), asked);
say(kites, kites.length);
"""


@pytest.mark.parametrize(
    ("body", "call", "method"),
    [
        (
            "return kites.find((k) => k.id === id);",
            "return this.kites.find(id);",
            "find(id) {\n    return this._kites.find((kite) => kite.id === id);",
        ),
        (
            "return kites.find(function (k) { return k['id'] == Number(id); });",
            "return this.kites.find(Number(id));",
            "find(id) {\n    return this._kites.find((kite) => kite['id'] == id);",
        ),
        (
            "for (const kite of kites) {\n    if (kite.id === id) {\n      return kite;\n    }\n  }",
            "return this.kites.find(id);",
            "find(id) {\n    return this._kites.find((kite) => kite.id === id);",
        ),
        (
            "for (const k of kites) {\n    if (k.id === id) return k;\n  }\n  return null;",
            "return this.kites.find(id) || null;",
            "find(id) {\n    return this._kites.find((kite) => kite.id === id);",
        ),
        (
            "for (const k of kites) {\n    if (k.id === id) { asked += 1; break; }\n  }\n  return asked;",
            "const k = this.kites.find(id);\n    if (k !== undefined) {\n      this.asked += 1;\n    }\n    return this.asked;",
            "find(id) {",
        ),
        (
            "for (const k of kites) {\n    if (k.id === id) {\n      asked += 1;\n      return k.name;\n    }\n  }\n  return 0;",
            "const k = this.kites.find(id);\n    if (k !== undefined) {\n      this.asked += 1;\n"
            "      return k.name;\n    }\n    return 0;",
            "find(id) {",
        ),
        (
            "return kites.filter((k) => k.name === id).length;",
            "return this.kites.withName(id).length;",
            "withName(id) {\n    return this._kites.filter((kite) => kite.name === id);",
        ),
        (
            "return kites.some((k) => id === k.id);",
            "return this.kites.has(id);",
            "has(id) {\n    return this._kites.some((kite) => id === kite.id);",
        ),
        (
            "const at = kites.findIndex((k) => k.id === id);\n  return at < 0 ? null : kites.splice(at, 1)[0].name;",
            "const at = this.kites.indexOf(id);\n    return at < 0 ? null : this.kites.removeAt(at).name;",
            "removeAt(at) {\n    return this._kites.splice(at, 1)[0];",
        ),
        (
            "if (kites.find((k) => k.id === id)) kites = kites.filter((k) => k.id !== id);",
            "if (this.kites.find(id)) this.kites.remove(id);",
            "remove(id) {\n    this._kites = this._kites.filter((kite) => kite.id !== id);",
        ),
        (
            "if (kites.find((k) => k.id === id)) kites.push({ id: 7, name: id, wind: 1 });",
            "if (this.kites.find(id)) this.kites.add({ id: 7, name: id, wind: 1 });",
            "add(kite) {\n    this._kites.push(kite);",
        ),
    ],
)
@needs_node
def test_who_looks_for_a_record_asks_for_it(body, call, method):
    made = built(KITES % body)
    made = re.sub(r"new Kite\((\w+), (\w+), (\w+)\)", r"{ id: \1, name: \2, wind: \3 }", made)
    assert call in made and method in made
    assert outcome(KITES % body) == "same"


@pytest.mark.parametrize(
    "body",
    [
        "return kites.find((k) => k.id === ++asked);",  # counts once for each
        "return kites.find((k) => k.id === Math.floor(Math.random() * 0) + 2);",  # another one each time
        "return kites.find((k) => k.id === (id.length && 2));",  # may fail, and not where there are no kites
        "return kites.find((k) => k.id === k.wind);",  # is not known outside
        "return kites.find((k, at) => at === id);",
        "return kites.find(async (k) => k.id === id);",  # a promise is always something
        "return kites.find((k) => k.id !== id);",
        "return kites.find((k = kites[0]) => k.id === id);",
        "return kites.find(/* by hand */ (k) => k.id === id);",
        "const found = kites.filter((k) => k.id !== id);\n  return found;",
        "let kite = null;\n  for (const k of kites) {\n    if (k.id === id) kite = k;\n  }\n  return kite;",
        "for (const k of kites) {\n    if (k.id === id) continue;\n    asked += 1;\n  }\n  return asked;",
    ],
)
@needs_node
def test_what_asks_otherwise_stays_as_it_is(body):
    assert "find(id) {" not in built(KITES % body) and "class Kites" not in built(KITES % body)
    assert outcome(KITES % body) == "same"


@needs_node
def test_a_name_of_the_loop_that_is_in_use_behind_it_is_not_declared_twice():
    body = "for (const k of kites) {\n    if (k.id === id) {\n      asked += k.wind;\n      break;\n    }\n  }\n"
    again = "  for (const k of kites) asked += k.wind;\n  return kites.find((k) => k.id === id);"
    assert outcome(KITES % (body + again)) == "same"
    assert "const k = " not in built(KITES % (body + again))


@needs_node
def test_a_list_that_begins_empty_is_one_of_records_if_they_come_in():
    text = "const notes = [];\nlet next = 1;\nfunction add(text) {\n  notes.push({ id: next++, text });\n}\n"
    text += "function look(id) {\n  return notes.find((n) => n.id === id);\n}\nadd('a');\nadd('b');\n"
    text += "console.log(look(2), look(3), next);\n"
    assert "class Notes {\n  constructor() {\n    this._notes = [];" in built(text)
    assert outcome(text) == "same"
    assert "class Notes" not in built(text.replace("{ id: next++, text }", "text"))


@needs_node
def test_a_table_is_asked_by_its_keys():
    text = "const kites = {\n  red: { wind: 3 },\n  sled: { wind: 5 },\n};\nlet asked = 0;\nfunction look(name) {\n"
    text += "  const kite = kites[name];\n  asked += 1;\n  return kite ? kite.wind : 'none';\n}\n"
    text += "console.log(look('red'), look('box'), look('toString'), asked);\n"
    assert "find(name) {\n    return this._kites[name];" in built(text)
    assert outcome(text) == "same"
    changed = text.replace("asked += 1;", "asked += 1;\n  kites[name] = { wind: asked };")
    assert "class Kites" not in built(changed) and outcome(changed) == "same"


def test_a_private_field_is_declared():
    text = (
        KITES % "return kites.find((k) => k.id === id);"
        + "class Rope {\n  #length = 2;\n  get() { return this.#length; }\n}\n"
    )
    assert "class Kites {\n  #kites;\n\n  constructor() {\n    this.#kites = [" in built(text)


@pytest.mark.parametrize("seed", range(4))
@needs_node
def test_random_scripts_with_records_do_the_same(seed):
    assert outcome(write_javascript_data(seed)).split(":")[0] in ("same", "refused", "broken")


ROUTES = """\
const express = require('express');
const app = express();
app.use(express.json());

let kites = [
  { id: 1, name: 'red', wind: 3 },
  { id: 2, name: 'sled', wind: 5 },
];

app.get('/kites/:id', (req, res) => {
  const kite = kites.find((k) => k.id === parseInt(req.params.id));
  if (!kite) {
    return res.status(404).json({ error: 'none' });
  }
  res.json(kite);
});

app.post('/kites', (req, res) => {
  kites.push({ id: kites.length + 1, name: req.body.name, wind: 0 });
  res.sendStatus(201);
});

app.delete('/kites/:id', (req, res) => {
  kites = kites.filter((k) => k.id !== parseInt(req.params.id));
  res.sendStatus(204);
});

app.put('/kites/:id', (req, res) => {
  const kite = kites.find((k) => k.id === parseInt(req.params.id));
  kite.wind += 1;
  res.json(kite);
});

app.listen(3000);
"""


@needs_library
def test_handlers_ask_for_records_and_may_require_them(cli, tmp_path):
    (tmp_path / "node_modules").symlink_to(TOOLS / "node_modules")
    (tmp_path / "kites.js").write_text(ROUTES)
    said = cli("draft", "kites.js").stdout
    assert "a request for what Kites does not have fails in changeKite (line 29)" in said
    design = tmp_path / "kites.design.toml"
    design.write_text(design.read_text().replace('from = "kites"', 'from = "kites"\nmissing = "404"'))
    assert cli("build", "kites.design.toml", "--into", "built").returncode == 0
    written = (tmp_path / "built" / "kites.js").read_text()
    assert "const kite = this.kites.find(parseInt(req.params.id));" in written
    assert "const kite = this.kites.require(parseInt(req.params.id));" in written
    assert "this.kites.remove(parseInt(req.params.id));" in written
    found = cli("verify", "kites.js", "built", "--budget", 2)
    assert found.returncode == 0 and "are answered with 404 now" in found.stdout
