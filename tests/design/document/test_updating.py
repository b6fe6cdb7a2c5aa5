from __future__ import annotations

from textwrap import dedent

from aedifex.construction.build import build
from aedifex.construction.propose import propose
from aedifex.design.document.check import check_design
from aedifex.design.document.reading import read
from aedifex.design.document.updating import update
from aedifex.design.document.writing import write
from aedifex.design.drafting.draft import draft
from tests.moves.test_part import HUT
from tests.support.helpers import printed, program_of

TEXT = """
    ferry_x, ferry_speed = 0, 1
    tide_x = 0
    tide_turns = 0

    def move_ferry():
        global ferry_x, ferry_speed
        ferry_x += ferry_speed
        ferry_speed = 2

    def turn_tide():
        global tide_x, tide_turns
        tide_x += 1
        tide_turns += tide_x

    while tide_x < 9:
        move_ferry()
        turn_tide()
    print(ferry_x, tide_turns)
    """
EDITED = ('name = "Ferry"', 'name = "Boat"  # it is a boat'), ('name = "speed"', 'name = "pace"')


def renewed(tmp_path, change):
    """Draft, edit, change the script, draft again: what was done, and the design that came of it."""
    text = write(draft(program_of(TEXT)))
    for old, new in EDITED:
        assert old in text
        text = text.replace(old, new)
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    program = program_of(change(dedent(TEXT)))
    done = update(text, read(path), draft(program))
    path.write_text(done.text)
    design = read(path)
    check_design(design, program.main)
    return done, design


def test_nothing_changes_while_the_script_is_the_same(tmp_path):
    text = write(draft(program_of(TEXT))).replace("Ferry", "Boat")
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    assert update(text, read(path), draft(program_of(TEXT))).text == text


def test_names_and_remarks_of_the_user_stay(tmp_path):
    done, design = renewed(tmp_path, lambda text: text.replace("tide_x < 9", "tide_x < 7"))
    assert (done.added, done.gone) == ([], [])
    assert "# it is a boat" in done.text
    assert [plan.name for plan in design.classes] == ["Boat", "Tide"]
    assert [field.name for field in design.classes[0].fields] == ["x", "pace"]


def test_what_is_gone_goes_and_what_is_new_comes(tmp_path):
    def change(text):
        text = text.replace("tide_turns", "tide_count").replace("def turn_tide", "def rise_tide")
        return text.replace("    turn_tide()", "    rise_tide()")

    done, design = renewed(tmp_path, change)
    assert set(done.gone) == {"tide_turns", "turn_tide"}
    tide = design.classes[1]
    assert [field.variable for field in tide.fields] == ["tide_x", "tide_count"]
    assert [method.routine for method in tide.methods] == ["rise_tide"]


def test_a_class_of_new_things_is_added_and_one_of_gone_things_goes(tmp_path):
    done, design = renewed(tmp_path, lambda text: text.replace("tide", "kite"))
    assert "class Tide" in done.gone
    assert "class Kite" in done.added
    assert [plan.name for plan in design.classes] == ["Boat", "Kite"]


def test_what_the_user_gave_to_the_owner_stays_there(tmp_path):
    text = write(draft(program_of(TEXT)))
    line = next(line for line in text.splitlines() if 'from = "tide_turns"' in line)
    text = text.replace(line + "\n", "").replace('name = "Script"', 'name = "Script"\nkeeps = ["tide_turns"]')
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    assert update(text, read(path), draft(program_of(TEXT.replace("< 9", "< 7")))).added == []


def second_draft(tmp_path, edit, change):
    """A draft of the hut, edited, and brought up to the hut as it is after a change."""
    path = tmp_path / "x.design.toml"
    path.write_text(edit(write(propose(program_of(HUT)))))
    program = program_of(change(HUT))
    done = update(path.read_text(), read(path), propose(program))
    path.write_text(done.text)
    return done, read(path), program


def test_parts_stay_as_the_user_has_them(tmp_path):
    def edit(text):
        return text.replace('name = "Bell"', 'name = "Gong"')

    def change(text):
        return "# the hut\n# on the roof\n" + text.replace("    def mean", "    def mean_rain").replace(
            ".mean()", ".mean_rain()"
        )

    done, design, program = second_draft(tmp_path, edit, change)
    assert [part.name for part in design.parts] == ["Gauge", "Days", "Gong"] and "mean" in done.gone
    assert next(m.lines for m in design.parts[0].methods if m.lines) == (20, 21)
    text = build(program, design).program.main.source.data.decode()
    assert "class Gong:" in text and printed(text) == printed(change(HUT))


def test_parts_of_a_class_that_is_no_more_go(tmp_path):
    done, design, _ = second_draft(tmp_path, lambda text: text, lambda text: text.replace("Hut", "House"))
    assert design.parts == [] and {"class Gauge", "class Days", "class Bell"} <= set(done.gone)


def test_a_base_of_classes_that_the_script_has_stays_and_goes_with_them(tmp_path):
    text = write(draft(program_of(TEXT))) + '\n[[base]]\nname = "Boat"\nfile = "boat.py"\nof = ["Hull", "Tug"]\n'
    path = tmp_path / "x.design.toml"
    path.write_text(text)
    changed = draft(program_of(TEXT.replace("< 9", "< 7")))
    assert _bases(path, text, changed, ["Hull", "Tug"]) == ["Boat"]
    assert _bases(path, text, changed, ["Hull"]) == []


def _bases(path, text, new, classes):
    done = update(text, read(path), new, classes)
    path.with_name("renewed.design.toml").write_text(done.text)
    return [base.name for base in read(path.with_name("renewed.design.toml")).bases]


LIFTS = """\
carried = 0
lifts = [{"floor": 0, "goal": 2, "people": 1}, {"floor": 4, "goal": 1, "people": 3}]


def move(lift):
    global carried
    if lift["floor"] != lift["goal"]:
        lift["floor"] += 1 if lift["floor"] < lift["goal"] else -1
        lift["people"] += 1
    else:
        carried += lift["people"]
        print("out", lift["people"])
        lift["people"] = 0


for minute in range(4):
    for lift in lifts:
        move(lift)
    print(minute, carried, [lift["floor"] for lift in lifts])
"""


def test_lines_about_one_object_are_found_again_under_the_users_names(tmp_path):
    path = tmp_path / "x.design.toml"
    text = write(propose(program_of(LIFTS)))
    (moving, emptied) = [m for m in propose(program_of(LIFTS)).kinds[0].methods if m.lines]
    assert moving.answers and not emptied.answers
    path.write_text(text.replace(f'name = "{emptied.name}"', 'name = "let_out"'))
    changed = "# by hand\n" + LIFTS
    done = update(path.read_text(), read(path), propose(program_of(changed)))
    path.write_text(done.text)
    assert [m.lines for m in read(path).kinds[0].methods] == [(8, 11), (13, 14)]
    built = build(program_of(changed), read(path)).program
    code = "\n".join(module.source.data.decode() for module in built.modules.values())
    assert "if lift.move():\n" in code and "lift.let_out()" in code
