"""Listeners that ask for their element by `this` ask the event for it, while that is under way."""

from __future__ import annotations

import shutil
from contextlib import suppress

import pytest

from aedifex.cli.reading import read_program_of
from aedifex.construction.build import build
from aedifex.construction.output import new_files
from aedifex.construction.propose import propose
from aedifex.languages.javascript import DIALECT
from aedifex.moves.ask_event import AskEvent
from aedifex.moves.kit.binding_check import perform
from aedifex.source.errors import RefusedError
from aedifex.verify.running.run import run
from aedifex.verify.scenarios.scenario import Scenario
from tests.support.javascript_programs import program_of

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

PAGE = """\
<!DOCTYPE html>
<html><body>
<button id="moor">Moor</button><p id="told">-</p>
<script src="quay.js"></script>
</body></html>
"""
TELLING = """\
function tell(what) {
  told.push(what);
  document.getElementById("told").textContent = told.length + what;
}

const button = document.getElementById("moor");
"""
PRESSING = "for (const after of [20, 50, 90]) setTimeout(() => button.click(), after);\n"
ASKING = {
    "plainly": "button.addEventListener('click', function () { moored++; this.textContent = 'x' + moored; tell(this.id); });",
    "with its event": "button.addEventListener('click', function (e) { moored++; e.preventDefault(); tell(this.id + e.type); });",
    "in a block": "button.addEventListener('click', function () { if (moored++ < 2) { const a = this; tell(a.id + this.id); } });",
    "of the page": "document.addEventListener('click', function () { moored++; tell(this === document ? 'page' : 'else'); });",
    "later": "button.addEventListener('click', function () { moored++; setTimeout(() => tell(this.id), 20); });",
    "under another name, for that is taken": "button.addEventListener('click', function () { const element = moored++; setTimeout(() => tell(this.id + element), 20); });",
    "in a function with a name": "function press() {\n  moored++;\n  tell(this.id);\n}\n\nbutton.addEventListener('click', press);",
    "in one that is let go": "function press() { moored++; tell(this.id); button.removeEventListener('click', press); }\nbutton.addEventListener('click', press);",
    "often": "function press() {\n  // often\n  moored++;\n  this.title = this.id;\n  tell(this.title);\n}\n\nbutton.addEventListener('click', press);",
    "of each element": "function press() { moored++; tell(this.id); }\ndocument.querySelectorAll('button').forEach((one) => one.addEventListener('click', press));",
    "of all elements in turn": "function press() { moored++; tell(this.id); }\nfor (const one of [...document.querySelectorAll('button')]) one.addEventListener('click', press);",
    "of elements by number": "const all = document.getElementsByTagName('button');\nfunction press() { moored++; tell(this.id); }\nfor (let i = 0; i < all.length; i++) all[i].addEventListener('click', press);",
    "of a new element": "function press() { moored++; tell(this.id); }\nfunction add() { const made = document.createElement('i'); made.id = 'made'; made.addEventListener('click', press); document.body.appendChild(made); setTimeout(() => made.click(), 30); }\nadd();",
    "under the name of an event": "button.onclick = function () { moored++; tell(this.id); };",
    "under that name of elements by number": "const all = document.querySelectorAll('button');\nfor (var i = 0; i < all.length; i++) {\n  all[i].onclick = function () { moored++; tell(this.id); };\n}",
    "in a function with a name, under that of an event": "function press() { moored++; tell(this.id); }\nbutton.onclick = press;",
    "in one that is taken away": "function press() { moored++; tell(this.id); button.onclick = null; }\nbutton.onclick = press;",
    "as a whole": "button.addEventListener('click', function () { moored++; tell([this].map((one) => one.id).join()); });",
}
STAYING = {
    "with all that it is given": "button.addEventListener('click', function () { moored += arguments.length; tell(this.id); });",
    "of another event": "button.addEventListener('click', function () { moored++; tell(this.id + event.type); });",
    "after a wait": "button.addEventListener('click', async function () { moored++; await null; tell(this.id); });",
    "under a name that is given another thing": "button.addEventListener('click', function (e) { e = moored++; tell(this.id + e); });",
    "where the script calls it, too": "function press() { moored++; tell(String(this && this.id)); }\nbutton.addEventListener('click', press);\npress();",
    "where it is handed to something else, too": "function press() { moored++; tell(String(this.id)); }\nbutton.addEventListener('click', press);\n[1].forEach(press, { id: 'list' });",
    "where the script calls it by the element": "button.onclick = function () { moored++; tell(this.id); };\nbutton.onclick();",
    "where the script calls it by a text": "button.onclick = function () { moored++; tell(this.id); };\nbutton['onclick']();",
    "where the script asks the element for it": "button.onclick = function () { moored++; tell(this.id); };\nconst pressed = button.onclick;\npressed.call({ id: 'deck' });",
    "of something that is no event": "button.onlanding = function () { moored++; tell(String(this.id)); };\nsetTimeout(() => button['onlanding'](), 30);",
    "of an object that is no element": "const bell = {};\nbell.onclick = function () { moored++; tell(String(this === bell)); };\nfor (const each of Object.values(bell)) each.call(bell);",
    "of a name that is an element at times only": "let one = button;\nif (moored) one = { addEventListener(n, f) { f.call({ id: n }, 3); } };\none.addEventListener('click', function () { moored++; tell(this.id); });",
    "of something that is no element": "const bell = { addEventListener(n, f) { f.call({ id: n }, 3); } };\nbell.addEventListener('click', function (e) { moored += e; tell(this.id); });",
}


ASKED_FOR = {
    "of one": "$('#moor').on('click', function () { moored++; tell(this.id); });",
    "of those inside": "$('#quay').on('click', 'li', function () { moored++; tell(this.id); });",
    "by a verb of its own": "$('.berth').click(function () { moored++; tell($(this).data('id')); });",
    "behind others": "$('#quay').addClass('wide').find('li').on('mouseenter', function (e) { moored++; tell(this.id + e.type); });",
    "of a name": "const quay = jQuery('#quay');\nquay.on('click', function () { moored++; tell(this.id); });",
    "of all of a sort": "$(document).ready(start);\n$('li').on('click', function () { moored++; tell(this.id); });",
    "of the page": "$(document).on('keydown', function () { moored++; tell(this.title); });",
}
ASKED_OTHERWISE = {
    "for each": "$('li.berth').each(function () { moored++; tell(this.id); });",
    "of what is made": "$('<li>').on('click', function () { moored++; tell(this.id); });",
    "of the script's own": "function $(name) { return { on(what, f) { f.call({ id: name }, 3); } }; }\n$('#moor').on('click', function (e) { moored += e; tell(this.id); });",
    "where nothing says which library": "$('moor').on('click', function () { moored++; tell(this.id); });",
    "of a name that gets itself": "var quay = quay.find('#moor');\nquay.on('click', function () { moored++; tell(this.id); });",
    "with a table of listeners": "$('#moor').on({ click: function () { moored++; tell(this.id); } });",
}
"""What the usual library for pages is told of: `this` is what its event has as `currentTarget`, inside of an element, too."""


def script(line: str) -> str:
    return f"let moored = 0;\nlet told = [];\n\n{TELLING}\n{line}\n{PRESSING}"


def entries(folder) -> list[str]:
    return [entry.text for entry in run(folder / "quay.html", Scenario(turns=12), DIALECT.runner).trace.entries]


@pytest.mark.parametrize("case", ASKING)
def test_the_event_tells_its_element(case):
    program = program_of(script(ASKING[case]))
    made = perform(program, AskEvent(program.main.path)).main.source.data.decode()
    assert "this.id" not in made and ".currentTarget" in made


@pytest.mark.parametrize("case", STAYING)
def test_what_is_not_sure_stays(case):
    """Careless: `event.currentTarget`, which is nothing once the event is over, or never was."""
    program = program_of(script(STAYING[case]))
    with pytest.raises(RefusedError, match="could ask its event"):
        perform(program, AskEvent(program.main.path))


@pytest.mark.parametrize("case", ASKED_FOR)
def test_who_is_asked_for_by_a_selector_tells_its_element_alike(case):
    program = program_of(script(ASKED_FOR[case]))
    made = perform(program, AskEvent(program.main.path)).main.source.data.decode()
    assert ".currentTarget" in made and "this" not in made


@pytest.mark.parametrize("case", ASKED_OTHERWISE)
def test_who_is_asked_for_otherwise_stays(case):
    program = program_of(script(ASKED_OTHERWISE[case]))
    with pytest.raises(RefusedError, match="could ask its event"):
        perform(program, AskEvent(program.main.path))


@needs_node
@pytest.mark.parametrize("case", ASKING | STAYING)
def test_listeners_do_what_they_did(tmp_path, case):
    (tmp_path / "quay.html").write_text(PAGE)
    (tmp_path / "quay.js").write_text(script((ASKING | STAYING)[case]))
    before = entries(tmp_path)
    program = read_program_of(tmp_path / "quay.js")
    with suppress(RefusedError):
        for path, data in new_files(program, build(program, propose(program))).items():
            (tmp_path / path).write_bytes(data)
    assert ("currentTarget" in (tmp_path / "quay.js").read_text()) is (case in ASKING)
    assert entries(tmp_path) == before
    assert len(before) > 1
