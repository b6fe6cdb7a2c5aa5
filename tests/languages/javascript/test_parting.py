"""Members of a class that get a class of their own: beside each case stands what a careless move makes."""

from __future__ import annotations

import random
import shutil
import subprocess
from pathlib import Path

import pytest

from aedifex.moves.kit.binding_check import perform
from aedifex.moves.kit.parting import Part, PartMember
from aedifex.source.errors import RefusedError
from tests.support.javascript_programs import built, program_of
from tests.support.javascript_scripts import parted as parted_at_random
from tests.support.javascript_scripts import write_javascript

needs_node = pytest.mark.skipif(shutil.which("node") is None, reason="there is no Node")

QUAY = """\
class Quay {{
  constructor() {{
    this.money = 5;
    this.level = 2;
    this.speed = 1;
{more}  }}

  turnTide() {{
    this.level += this.speed;
    return this.level;
  }}
{methods}
  run() {{
    this.turnTide();
    console.log(this.money, this.level);
{body}  }}
}}

const quay = new Quay();
quay.run();
{after}"""
TIDE = ("level", "speed", "turnTide")


def quay(more: str = "", methods: str = "", body: str = "", after: str = "") -> str:
    return QUAY.format(more=more, methods=methods, body=body, after=after)


def parted(text: str, *more: str) -> str:
    """What comes of giving the tide a class of its own, with new names for all that goes."""
    members = tuple(PartMember(name, f"own{name.capitalize()}") for name in (*TIDE, *more))
    made = perform(program_of(text), Part(Path("harbour.js"), "Quay", "Tide", "tide", members))
    return made.main.source.encode().decode()


def refused(text: str, *more: str) -> str:
    with pytest.raises(RefusedError) as caught:
        parted(text, *more)
    return caught.value.reason


def said(text: str) -> str:
    return subprocess.run(["node", "-e", text], capture_output=True, text=True, check=True).stdout


def test_the_first_class_keeps_one_object_of_the_other():
    made = parted(quay())
    assert "this.tide = new Tide();" in made and "this.tide.ownTurntide();" in made
    assert "console.log(this.money, this.tide.ownLevel);" in made


@needs_node
@pytest.mark.parametrize(
    ("parts", "going"),
    [
        ({"after": "console.log(quay.turnTide(), quay.level);"}, ()),
        ({"body": "    [1, 2].forEach(() => { this.level += 1; });\n"}, ()),
        ({"body": "    [this.speed] = [9];\n    console.log(this.speed++, this.speed ??= 3);\n"}, ()),
        (
            {
                "methods": "\n  get twice() {\n    return this.level * 2;\n  }\n",
                "body": "    console.log(this.twice);\n",
            },
            (),
        ),
        (
            {"methods": "\n  *both() {\n    yield this.level;\n  }\n", "body": "    console.log([...this.both()]);\n"},
            ("both",),
        ),
        (
            {
                "methods": "\n  raise(by, to = 3) {\n    this.level += by * this.money + to;\n    return by;\n  }\n",
                "after": "console.log(quay.raise(4), quay.raise(1, undefined), quay.level);",
            },
            ("raise",),
        ),
        (
            {
                "methods": "\n  raise(...more) {\n    this.level += more.length;\n    return more.length;\n  }\n",
                "after": "console.log(quay.raise(1, 2));",
            },
            ("raise",),
        ),
        ({"more": "    setTimeout(() => console.log(this.turnTide()), 5);\n"}, ()),
    ],
)
def test_what_it_says_stays(parts, going):
    text = quay(**parts)
    assert said(parted(text, *going)) == said(text)


@pytest.mark.parametrize(
    ("parts", "going", "reason"),
    [
        # careless: the method is called for the quay, which has no level any more
        ({"more": "    this.again = this.turnTide.bind(this);\n"}, (), "handed on as a value"),
        ({"body": "    const turn = this.turnTide;\n    turn.call(this);\n"}, (), "by their text"),
        ({"more": "    this.turnTide = this.turnTide.bind(this);\n"}, (), "another value"),
        # careless: the quay calls the tide's, which nobody replaced
        ({"after": "quay.turnTide = () => 3;\nquay.run();"}, (), "another value"),
        # careless: the fields of the tide are not among those of the quay
        ({"body": "    console.log(JSON.stringify(this));\n"}, (), "by their text"),
        ({"body": "    console.log({ ...this });\n"}, (), "by their text"),
        ({"body": "    for (const key in this) console.log(key);\n"}, (), "by their text"),
        ({"body": "    const key = 'level';\n    console.log(this[key]);\n"}, (), "by their text"),
        ({"body": "    eval('console.log(this.level)');\n"}, (), "by their text"),
        ({"after": "console.log(quay);"}, (), "by their text"),
        ({"body": "    const { level } = this;\n    console.log(level);\n"}, (), ""),
        ({"after": "class Mole extends Quay {}\nnew Mole().run();"}, (), "inherited"),
        # careless: one argument more is counted
        (
            {
                "methods": "\n  sum() {\n    return arguments.length + this.level * this.money;\n  }\n",
                "body": "    this.sum(1);\n",
            },
            ("sum",),
            "cannot gain a parameter",
        ),
        # careless: a parameter stands behind the rest
        (
            {
                "methods": "\n  all(...more) {\n    this.level += more.length * this.money;\n  }\n",
                "body": "    this.all(1);\n",
            },
            ("all",),
            "cannot gain a parameter",
        ),
        # careless: what hands on hands on the first part of what it got
        (
            {
                "methods": "\n  by({ step, to }) {\n    this.level += step + to;\n  }\n",
                "after": "quay.by({ step: 1 });",
            },
            ("by",),
            "takes apart",
        ),
    ],
)
def test_what_would_change_is_refused(parts, going, reason):
    assert reason in refused(quay(**parts), *going)


def test_a_big_class_is_divided_by_what_is_used_together():
    fields = "".join(f"    this.{noun}{part} = 1;\n" for noun in ("rain", "ferry") for part in ("Level", "Most"))
    methods = "".join(
        f"\n  {verb}{noun.capitalize()}() {{\n    this.{noun}Level += this.{noun}Most;\n  }}\n"
        for noun in ("rain", "ferry")
        for verb in ("turn", "fill", "empty", "raise")
    )
    calls = "".join(f"    this.{verb}{noun}();\n" for noun in ("Rain", "Ferry") for verb in ("turn", "fill", "empty"))
    made = built(quay(fields, methods, calls))
    assert "class Tide {" in made and "class Ferry {" in made and "this.ferry.turn();" in made


@needs_node
@pytest.mark.parametrize("seed", range(4))
def test_random_members_of_random_scripts(seed):
    end = parted_at_random(write_javascript(seed), random.Random(seed))
    assert end.startswith(("same", "refused", "broken")), end
