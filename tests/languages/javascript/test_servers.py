"""Servers answer the requests of a scenario in their process: nothing listens on a port."""

from __future__ import annotations

import re
import shutil

import pytest

from aedifex.languages.javascript import DIALECT
from aedifex.languages.javascript.library.inputs import inputs_of
from aedifex.languages.javascript.library.requests import requests_of
from aedifex.program.analysis.expected_values import values_of
from aedifex.source.text import SourceText
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Event, Scenario
from tests.support.javascript_names import TOOLS, has_tools
from tests.support.javascript_programs import built, program_of

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")
needs_library = pytest.mark.skipif(not has_tools(), reason="npm has not installed the library")


def answers(folder, text: str, *requests: str | tuple[str, dict]) -> list[str]:
    script = folder / "quay.js"
    script.write_text(text)
    asked = [request if isinstance(request, tuple) else (request, {}) for request in requests]
    events = tuple(Event(turn, "request", line, sent=sent) for turn, (line, sent) in enumerate(asked, 1))
    found = run(script, Scenario(events=events), DIALECT.runner)
    return [entry.text for entry in found.trace.entries if entry.kind == "answer"]


PLAIN = """\
const http = require("node:http");
const boats = ["Alma"];
const server = http.createServer((request, response) => {
  if (request.url === "/boats" && request.method === "POST") {
    let body = "";
    request.on("data", (part) => (body += part));
    request.on("end", () => setTimeout(() => response.end(`${boats.push(body)}\\n${body}`), 3000));
  } else if (request.url.startsWith("/boats/")) {
    const boat = boats[Number(request.url.slice(7))];
    response.writeHead(boat ? 200 : 404, { "Content-Type": "text/plain" });
    response.write(boat ?? "none");
    response.end();
  } else if (request.url === "/never") {
    return;
  } else {
    response.setHeader("Set-Cookie", "seen=1");
    response.end(request.headers.cookie ?? "first time");
  }
});
server.listen(80, () => console.log("listens"));
"""


@needs_node
def test_a_server_of_node_s_own(tmp_path):
    requests = ["GET /boats/0", "GET /boats/7", ("POST /boats", {"body": "Birk"}), "GET /", "GET /", "GET /never"]
    found = answers(tmp_path, PLAIN, *requests)
    assert found[:4] == ["200 OK\nContent-Type: text/plain", "Alma", "404 Not Found\nContent-Type: text/plain", "none"]
    assert found[5:7] == ["2\n", "Birk"] and found[8] == "first time" and found[10] == "seen=1"
    assert found[-1] == "no answer"


EXPRESS = """\
const express = require("express");
const app = express();
const router = express.Router();
const moorings = [{ id: 1, name: "north" }];
app.use(express.json(), express.urlencoded({ extended: false }));
router.get("/:id", (request, response) => {
  const found = moorings.find((one) => one.id === Number(request.params.id));
  if (!found) return response.status(404).json({ error: "none" });
  response.json(found);
});
router.post("/", async (request, response) => {
  const { name } = request.body;
  await new Promise((done) => setTimeout(done, 100));
  moorings.push({ id: moorings.length + 1, name });
  response.redirect("/moorings/" + moorings.length);
});
app.use("/moorings", router);
app.get("/broken", () => { throw new Error("the rope is gone"); });
app.use((error, request, response, next) => response.status(500).send(error.message));
app.listen(3000);
"""


@needs_library
def test_an_application_with_a_router(tmp_path):
    (tmp_path / "node_modules").symlink_to(TOOLS / "node_modules")
    requests = ["GET /moorings/1", "GET /moorings/9", ("POST /moorings", {"json": {"name": "lock"}})]
    found = answers(
        tmp_path, EXPRESS, *requests, "GET /moorings/2", "GET /broken", ("POST /moorings", {"form": {"name": "a b"}})
    )
    assert found[1] == '{"id":1,"name":"north"}' and found[3] == '{"error":"none"}'
    assert found[4].startswith("302 Found") and "Location: /moorings/2" in found[4]
    assert found[7] == '{"id":2,"name":"lock"}' and found[9] == "the rope is gone"


FAILING = """\
const express = require("express");
const app = express();
const kites = [];
app.get("/page", () => kites.find((kite) => kite.id).name);
app.get("/text", (request, response) => {
  try { [1].map((n) => n.wind.force); } catch (error) { response.send(error.stack); }
});
app.get("/json", (request, response) => {
  try { kites.wind.force; } catch (error) { response.json({ stack: error.stack }); }
});
app.listen(3000);
"""


@needs_library
def test_by_which_lines_an_error_came_is_no_part_of_an_answer(tmp_path):
    (tmp_path / "node_modules").symlink_to(TOOLS / "node_modules")
    found = "\n".join(answers(tmp_path, FAILING, "GET /page", "GET /text", "GET /json"))
    assert "TypeError: Cannot read properties of undefined (reading &#39;name&#39;)</pre>" in found
    assert "TypeError: Cannot read properties of undefined (reading 'force')" in found
    assert not re.search(r"quay\.js|\bat |anonymous|Content-Length", found)


ROUTER = """\
const express = require("express");
const router = express.Router();
let kites = [{ code: "K7", height: 0 }];
router.post("/:code/pull", (request, response) => {
  const kite = kites.find((one) => one.code === request.params.code);
  if (!kite) return response.sendStatus(404);
  kite.height += Number(request.body.by);
  response.json(kite);
});
module.exports = router;
"""


@pytest.mark.parametrize(
    "mounting",
    [
        'const kites = require("./kites");\napp.use("/kites", kites);',
        'app.use("/kites", require("./kites.js"));',
        'import kites from "./kites.js";\napp.use("/kites", kites);',
    ],
)
def test_routers_of_other_files_are_asked_under_their_paths(tmp_path, mounting):
    """Careless: nothing of what the other file answers is asked for, and all is called the same."""
    (tmp_path / "kites.js").write_text(ROUTER)
    (tmp_path / "app.js").write_text(f'const app = require("express")();\n{mounting}\napp.listen(3000);\n')
    heard = inputs_of(DIALECT.files.read(SourceText.read(tmp_path / "app.js")))
    assert [(r.methods, r.path, r.json) for r in heard.requests] == [(("POST",), "/kites/{code}/pull", ("by",))]
    assert heard.values["code"] == ("K7",)


@needs_library
def test_who_uses_a_file_that_does_nothing_alone_is_said(tmp_path, cli):
    (tmp_path / "node_modules").symlink_to(TOOLS / "node_modules")
    (tmp_path / "kites.js").write_text(ROUTER)
    (tmp_path / "app.js").write_text('const kites = require("./kites");\nrequire("express")().use("/kites", kites);\n')
    (tmp_path / "built").mkdir()
    (tmp_path / "built" / "kites.js").write_text(ROUTER)
    said = cli("verify", "kites.js", "built")
    assert said.returncode == 5 and "app.js uses it: compare that" in said.stderr


def test_which_requests_a_script_answers():
    requests = [(request.methods, request.path, request.numbers) for request in requests_of(EXPRESS)]
    assert requests == [(("GET",), "/moorings/{id}", (0,)), (("POST",), "/moorings", ()), (("GET",), "/broken", ())]
    assert requests_of(EXPRESS)[1].form == ("name",)
    plain = {(request.methods[0], request.path) for request in requests_of(PLAIN)}
    assert plain == {(m, p) for m in ("GET", "POST") for p in ("/boats", "/boats/{rest}", "/never")}
    assert requests_of("const map = new Map();\nmap.get('/kites');\n") == ()


CHAINED = """\
const express = require("express");
const router = express.Router();
const seeds = [{ id: 1, name: "kale (green)" }];
let loans = 0;

router
  .route("/")
  .get((request, response) => {
    response.json(seeds.filter((seed) => seed.name.includes(request.query.q || "")));
  })
  .post((request, response) => {
    const seed = { id: seeds.length + 1, name: request.body.name || "?)" };
    seeds.push(seed);
    response.status(201).json(seed);
  });

router.get("/stats", (request, response) => response.json({ seeds: seeds.length, loans }));

router.get("/:id", (request, response, next) => {
  const seed = seeds.find((one) => one.id === Number(request.params.id));
  if (!seed) return next();
  loans += 1;
  response.json(seed);
});

router.use((request, response) => response.status(404).json({ error: "none of " + seeds.length }));

module.exports = router;
"""


def test_what_is_chained_to_a_path_is_asked_for_under_it():
    """Careless: a bracket in a text ends the handler, and the verb behind it is none of this path."""
    requests = [(request.methods[0], request.path) for request in requests_of(CHAINED, {"router": "/seeds"})]
    assert requests == [("GET", "/seeds"), ("POST", "/seeds"), ("GET", "/seeds/stats"), ("GET", "/seeds/{id}")]


def test_handlers_that_are_chained_have_names_and_the_class_that_of_its_things():
    """Careless: `setUpRouter` with two handlers without names, `showHome` for a seed, and `class Routes`."""
    made = built(CHAINED, "router.js")
    telling = made.split("addTo(router) {")[1].split("\n  }\n")[0]
    assert ".get(this.listSeeds)" in telling and ".post(this.addSeed);" in telling
    assert 'router.get("/:id", this.showSeed);' in telling and "this.showStats" in telling
    assert "router.use(this.handleNotFound);" in telling and "class SeedsRoutes {" in made


@needs_library
def test_handlers_that_are_chained_answer_as_before(cli, tmp_path):
    (tmp_path / "node_modules").symlink_to(TOOLS / "node_modules")
    (tmp_path / "router.js").write_text(CHAINED)
    (tmp_path / "app.js").write_text(
        'const app = require("express")();\napp.use(require("express").json());\n'
        'app.use("/seeds", require("./router"));\napp.listen(3000);\n'
    )
    assert cli("draft", "router.js").returncode == 0
    assert cli("build", "router.design.toml", "--into", "built").returncode == 0
    done = cli("verify", "app.js", "built")
    assert done.returncode == 0, done.stdout + done.stderr
    assert "100% of the lines of router.js ran" in done.stdout


@needs_library
def test_a_difference_in_what_is_kept_is_found(cli, tmp_path):
    (tmp_path / "node_modules").symlink_to(TOOLS / "node_modules")
    (tmp_path / "quay.js").write_text(EXPRESS)
    (tmp_path / "other.js").write_text(EXPRESS.replace("moorings.length + 1", "moorings.length + 2"))
    found = cli("verify", "quay.js", "other.js", "--budget", 2)
    assert found.returncode == 1 and found.stdout.startswith("Different: ")


def test_texts_are_sent_that_the_script_expects_under_a_name():
    text = (
        "const places = { morning: 6, noon: 4 };\nconst sorts = ['red', 'blue'];\n"
        "function add({ trip, sort }) {\n  if (!(trip in places) || !sorts.includes(sort)) return null;\n"
        "  return places[trip];\n}\nfunction is(kite) {\n  return kite.state === 'up' || kite.state !== 'down';\n}\n"
        "add({ trip: 'noon', sort: 'red' });\n"
    )
    assert values_of(program_of(text).main) == {
        "trip": ("morning", "noon"),
        "sort": ("red", "blue"),
        "state": ("up", "down"),
        "": ("morning", "noon", "red", "blue"),
    }
