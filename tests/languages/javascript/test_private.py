"""Private members: by `#` where the file is for engines that know it, by an underscore elsewhere."""

from __future__ import annotations

import shutil
import subprocess

import pytest

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.seal import Seal
from tests.support.javascript_programs import built, program_of

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

GAUGE = "class Gauge {\n  days = [];\n\n  add(mm) {\n    this.days.push(mm);\n  }\n}\n\nconst gauge = new Gauge();\n"
BOAT = """\
let boatX = 3;
let boatLoad = 0;

function moveBoat(by) {
  boatX += by;
  boatLoad += 1;
}

function tellBoat() {
  console.log(`boat ${boatX} ${boatLoad}`);
}

for (let day = 0; day < 4; day++) {
  gauge.add(day);
  moveBoat(day);
  tellBoat();
}
"""
TRAPS = {
    "it is taken apart": "function lastBoat() {\n  const kept = [boatX, boatLoad];\n  delete kept[0];\n  return kept.length + boatX;\n}\nconsole.log(lastBoat());\n",
    "a function inside asks for it": "const asks = [() => boatX, function () { return boatLoad; }];\nconsole.log(asks.map((ask) => ask()).join());\n",
    "it is looked for": "console.log(typeof boatX, boatLoad in [1, 2, 3, 4, 5]);\n",
    "it is put into an object": "const told = { boatX, load: boatLoad };\nconsole.log(JSON.stringify(told));\n",
}
ASKED = """\
class Boat {
  name = 'boat';

  constructor() {
    this.x = 3;
    this.load = 1;
  }

  move() {
    this.x += 1;
    %s
    this.load = (this.load ?? 0) + 2;
    return [this.x, this.load].join();
  }
}

const boat = new Boat();
console.log(boat.move(), boat.move());
"""


def said(folder, text: str) -> str:
    (folder / "quay.mjs").write_text(text)
    return subprocess.run(["node", folder / "quay.mjs"], capture_output=True, text=True, check=False).stdout


def whole(text: str) -> str:
    """What a module becomes, in one file."""
    return "".join(line for line in built(text, "quay.mjs").splitlines(keepends=True) if "import" not in line)


def test_a_file_whose_classes_declare_fields_has_private_ones():
    made = built(GAUGE + BOAT, "quay.mjs")
    assert "class Boat {\n  #x;\n  #load;\n\n  constructor(x) {\n    this.#x = x;\n    this.#load = 0;\n  }\n" in made


def test_other_files_say_so_by_an_underscore():
    """Careless: a file for older engines, which do not read `#` at all."""
    made = built(
        GAUGE.replace("  days = [];\n\n", "  constructor() {\n    this.days = [];\n  }\n\n") + BOAT, "quay.mjs"
    )
    assert "this._x = x;" in made and "#" not in made


@needs_node
@pytest.mark.parametrize("case", TRAPS)
def test_a_private_member_is_what_it_was(tmp_path, case):
    text = GAUGE + BOAT + TRAPS[case]
    before = said(tmp_path, text)
    assert said(tmp_path, whole(text)) == before != ""


@needs_node
@pytest.mark.parametrize(
    "line", ["", "const { load } = this;", "delete this.load;", "const own = this;", "Object.keys(this);"]
)
def test_what_is_not_asked_for_by_a_plain_access_stays_public(tmp_path, line):
    """Careless: `const { #load } = this` and `delete this.#load`, which are errors, or a key less among all."""
    program = program_of(ASKED % line, "quay.mjs")
    made = perform(program, Seal(program.main.path, ("Boat",))).main.source.data.decode()
    assert ("  #x;\n  #load;\n  name = 'boat';\n" in made) is (line in ("", "const own = this;"))
    assert said(tmp_path, made) == said(tmp_path, ASKED % line) != ""


GULLS = """\
class Gull {
  constructor() { this.spare = 3; this.far = 1; }
  look() { this.far += this.spare; return this.far; }
}

for (const name of ['spare', 'far']) {
  %s;
}
"""


@pytest.mark.parametrize(
    "asked",
    [
        "console.log(new Gull()[name])",
        "console.log(new Gull()['spare'])",
        "const gulls = [new Gull()];\n  console.log(gulls[0][name])",
        "const { [name]: known } = new Gull();\n  console.log(known)",
        "const { ...all } = new Gull();\n  console.log(all.spare)",
        "let all;\n  ({ ...all } = new Gull());\n  console.log(all)",
        "(({ [name]: known }) => console.log(known))(new Gull())",
        "const flock = { a: new Gull() };\n  for (const gull of Object.values(flock)) console.log(gull[name])",
        "const flock = { a: new Gull() };\n  Object.values(flock).forEach(({ ...all }) => console.log(all))",
        "const flock = new Map([['a', new Gull()]]);\n  for (const [at, { [name]: known }] of flock) console.log(at, known)",
        "(async () => {\n    const gull = await new Gull();\n    console.log(gull[name]);\n  })()",
    ],
)
@needs_node
def test_what_is_asked_for_by_a_key_keeps_its_name(asked, tmp_path):
    """Careless: the field has another name, and under the old one there is nothing."""
    said = []
    program = program_of(GULLS % asked)
    for number, made in enumerate((program, perform(program, Seal(program.main.path, ("Gull",))))):
        script = tmp_path / f"gulls{number}.js"
        script.write_bytes(made.main.source.encode())
        said.append(subprocess.run(["node", script], capture_output=True, text=True, check=True).stdout)
    assert said[0] == said[1] and "undefined" not in said[1]


@needs_node
def test_what_is_only_asked_for_by_the_class_itself_is_private():
    program = program_of(GULLS % "console.log(name, new Gull().look())")
    assert "this._spare" in perform(program, Seal(program.main.path, ("Gull",))).main.source.encode().decode()
