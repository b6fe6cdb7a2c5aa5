"""Recorded calls, and playing them again."""

from __future__ import annotations

from textwrap import dedent

import pytest

from aedifex.languages.python import DIALECT
from aedifex.verify.calls import record
from aedifex.verify.replay import replay
from aedifex.verify.scenarios.scenario import Event, Scenario

TIDE = """
    import random


    class Tide:
        def __init__(self, level):
            self.level = level
            self.log = []
            self.hook = print

        def rise(self, by, *, times=1):
            self.level += by * times
            return self.level

        def note(self):
            self.log.append(self.level)

        def ripple(self):
            self.level = random.randint(0, 1_000_000)

        def levels(self):
            yield self.level

        def tell(self):
            print("level", self.level)
    """
SCRIPT = """
    import threading

    from tide import Tide

    tide = Tide(3)
    tide.hook = 0
    for n in range(4):
        tide.rise(n % 2, times=2)
    tide.note()
    tide.ripple()
    tide.lock = threading.Lock()
    list(tide.levels())
    tide.tell()
    """


@pytest.fixture
def folder(tmp_path):
    (tmp_path / "tide.py").write_text(dedent(TIDE).lstrip())
    (tmp_path / "harbour.py").write_text(dedent(SCRIPT).lstrip())
    return tmp_path


def test_calls_are_recorded_with_what_they_were_given_and_did(folder):
    calls = record(folder / "harbour.py", folder, ["Tide"], [Scenario()], DIALECT.runner)
    rises = [call for call in calls if call.method == "rise"]
    assert rises[1].given == (("by", "1"), ("times", "2"))
    assert (rises[1].before["level"], rises[1].after["level"], rises[1].result) == ("3", "5", "5")
    assert rises[1].changed == {"level"}
    assert rises[1].is_plain
    (note,) = [call for call in calls if call.method == "note"]
    assert (note.before["log"], note.after["log"]) == ("[]", "[7]")


def test_what_no_text_can_hold_and_what_runs_on_is_told(folder):
    calls = record(folder / "harbour.py", folder, ["Tide"], [Scenario()], DIALECT.runner)
    (made,) = [call for call in calls if call.method == "__init__"]
    assert made.after["hook"] == "outside.hook"
    (told,) = [call for call in calls if call.method == "tell"]
    assert told.before["lock"] is None
    assert not told.is_plain
    assert "levels" not in {call.method for call in calls}
    assert record(folder / "harbour.py", folder, ["Ferry"], [Scenario()], DIALECT.runner) == []


def case(method, fields, given):
    return {
        "class": "Tide",
        "method": method,
        "fields": fields,
        "given": given,
        "altered": {},
        "returned": {},
        "seed": 1,
    }


CLASSES = {"Tide": {"module": "tide", "start": {"level": "3"}}}


def test_cases_are_played_again_each_on_its_own_object(folder):
    answers = replay(
        folder,
        DIALECT.runner,
        ["tide"],
        CLASSES,
        [
            case("rise", {"hook": "0", "level": "10"}, {"by": "2", "times": "3"}),
            case("rise", {"hook": "0"}, {"by": "1"}),
            case("tell", {"hook": "0"}, {}),
            case("ripple", {"hook": "0"}, {}),
            case("sink", {}, {}),
        ],
    ).answers
    assert (answers[0]["result"], answers[0]["after"]["level"]) == ("16", "16")
    assert (answers[1]["result"], answers[1]["by_chance"]) == ("4", False)
    assert answers[2]["said"] == "level 3\n"
    assert answers[3]["by_chance"] is True
    assert answers[4] == {"failed": "AttributeError", "asks": False}


@pytest.mark.parametrize("streams", [True, False])
def test_a_conversation_is_played_from_a_text(folder, streams):
    taken = "reader, writer" if streams else "reader=sys.stdin, writer=sys.stdout"
    (folder / "talk.py").write_text(
        f"import sys\n\n\ndef main({taken}):\n"
        "    for line in reader:\n        print('you said', line.strip(), file=writer)\n    raise EOFError\n\n\n"
        "if __name__ == '__main__':\n    main()\n"
    )
    talk = {"module": "talk", "lines": ["hay", "milk"], "seed": 1, "streams": streams}
    [answer] = replay(folder, DIALECT.runner, ["talk"], {}, [talk]).answers
    assert answer == {"said": "you said hay\nyou said milk\n", "ended": "EOFError"}


def test_nothing_to_play_is_nothing(tmp_path):
    assert replay(tmp_path, DIALECT.runner, [], {}, []).answers == ()


def test_objects_of_the_program_are_told_with_their_fields(tmp_path):
    (tmp_path / "quay.py").write_text(
        dedent("""
            class Kite:
                def __init__(self, x):
                    self.x = x
                    self.quay = None

            class Quay:
                def __init__(self):
                    self.kites = [Kite(1), Kite(2)]
                    self.best = {"red": self.kites[0]}
                    for kite in self.kites:
                        kite.quay = self

                def look(self, screen, kite):
                    pass

            quay = Quay()
            quay.look(open, quay.kites[1])
            """)
    )
    calls = record(tmp_path / "quay.py", tmp_path, ["Kite", "Quay"], [Scenario()], DIALECT.runner)
    (look,) = [call for call in calls if call.method == "look"]
    assert look.is_plain
    assert dict(look.given)["screen"] == "outside.screen"
    assert look.before["best"] == "{'red': a_new_Kite(x=1, quay=outside.quay)}"


def test_what_windows_and_keys_answer_is_told(tmp_path):
    (tmp_path / "quay.py").write_text(
        dedent("""
            import tkinter as tk

            import pygame

            class Quay:
                def __init__(self):
                    self.place = pygame.Rect(1, 2, 3, 4)

                def take(self):
                    for event in pygame.event.get():
                        print(event.type)
                    return pygame.key.get_pressed()[pygame.K_a]

                def read(self, entry):
                    return entry.get()

            pygame.init()
            pygame.display.set_mode((50, 50))
            quay = Quay()
            pygame.display.flip()
            quay.take()
            entry = tk.Entry(tk.Tk())
            entry.insert(0, "12")
            quay.read(entry)
            """)
    )
    scenario = Scenario(events=(Event(1, "press", "a"),))
    calls = record(tmp_path / "quay.py", tmp_path, ["Quay"], [scenario], DIALECT.runner)
    took, read = (next(call for call in calls if call.method == name) for name in ("take", "read"))
    assert took.before["place"] == "pygame.Rect(1, 2, 3, 4)"
    assert "Event(pygame.KEYDOWN, key=pygame.K_a" in took.returned["event.get"]
    assert took.returned["key.get_pressed"] == "defaultdict(bool, {pygame.K_a: True})"
    assert read.returned == {"Entry.return_value.get": "'12'"}
    assert dict(read.given) == {"entry": "outside.entry"}


def test_a_constructor_that_calls_its_base_s_is_noted_and_not_that(tmp_path):
    text = """\
class Water:
    def __init__(self, depth):
        self.depth = depth
        self.rows = [[0] * 40 for _ in range(9)]


class River(Water):
    def __init__(self, name, depth):
        super().__init__(depth)
        self.name = name


River("Elve", 4)
"""
    (tmp_path / "river.py").write_text(text)
    (made,) = record(tmp_path / "river.py", tmp_path, ["Water", "River"], [Scenario()], DIALECT.runner)
    assert made.given == (("name", "'Elve'"), ("depth", "4"))
    assert made.after["rows"] == "[[0] * 40 for _ in range(9)]"
