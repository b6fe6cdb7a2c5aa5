"""The recorders for windows: what is drawn is seen, what the scenario brings arrives."""

from __future__ import annotations

import json
from pathlib import Path

import pytest

from aedifex.languages.python import DIALECT
from aedifex.verify.compare import Comparison, Verdict
from aedifex.verify.scenarios.scenario import read

TURTLE = """
import turtle
angle = 30
boat = turtle.Turtle()
wind = turtle.Turtle()
def left():
    boat.left(angle)
    print("left", boat.heading())
def go(x, y):
    boat.goto(x, y)
    print("go", boat.pos(), round(boat.distance(wind), 3))
def beat():
    boat.forward(5)
    turtle.ontimer(beat, 100)
turtle.onkey(left, "Left")
turtle.onkeypress(lambda: boat.stamp(), "s")
turtle.onscreenclick(go)
boat.onclick(lambda x, y: print("boat", x, y))
turtle.listen()
beat()
boat.dot(8); boat.undo()
turtle.mainloop()
print("closed", boat.pos())
"""
EVENTS = """
format = 1
turns = 12
[[event]]
turn = 3
key = "Left"
[[event]]
turn = 4
press = "s"
[[event]]
turn = 6
click = [40, -12]
"""


@pytest.fixture
def harbour(tmp_path):
    (tmp_path / "s.scenario.toml").write_text(EVENTS)
    return tmp_path


def trace(tmp_path, name="a.py", scenario="s.scenario.toml"):
    from aedifex.languages.python import DIALECT
    from aedifex.verify.running.run import run
    from aedifex.verify.scenarios.scenario import Scenario, read

    chosen = read(tmp_path / scenario) if scenario else Scenario()
    return [str(entry) for entry in run(tmp_path / name, chosen, DIALECT.runner).trace.entries]


def test_turtle_geometry_keys_clicks_and_timers(harbour):
    (harbour / "a.py").write_text(TURTLE)
    printed = [line for line in trace(harbour) if line.startswith("prints")]
    assert printed[0] == "prints 'left 30.0\\n'"
    assert printed[1] == "prints 'go (40.00,-12.00) 41.761\\n'"
    assert printed[-1].startswith("prints 'closed")


@pytest.mark.parametrize(
    ("old", "new"),
    [
        ("angle = 30", "angle = 31"),
        ("forward(5)", "forward(6)"),
        ("boat.stamp()", "None"),
        ("ontimer(beat, 100)", "ontimer(beat, 200)"),
        ("boat.dot(8); ", "boat.dot(9); "),
        ('"Left"', '"Right"'),
        ("boat.undo()", "None"),
    ],
)
def test_a_change_of_a_sketch_is_seen(harbour, old, new):
    (harbour / "a.py").write_text(TURTLE)
    (harbour / "b.py").write_text(TURTLE.replace(old, new))
    assert not compared(harbour).same


def compared(folder: Path) -> Verdict:
    comparison = Comparison(folder / "a.py", folder / "b.py", DIALECT.runner)
    return comparison.compare([read(folder / "s.scenario.toml")])


TK = """
import tkinter as tk
from tkinter import messagebox, ttk
class App(tk.Frame):
    def __init__(self, master):
        super().__init__(master)
        self.count = tk.IntVar(value=3)
        self.count.trace_add("write", lambda *args: print("count", self.count.get()))
        self.entry = tk.Entry(self)
        self.entry.pack(side="left")
        self.entry.focus_set()
        self.button = ttk.Button(self, text="more", command=self.more)
        self.button.pack()
        self.canvas = tk.Canvas(self, width=200, height=100)
        self.box = self.canvas.create_rectangle(10, 10, 20, 20, fill="red")
        self.canvas.tag_bind(self.box, "<Button-1>", lambda event: print("box", event.x))
        master.bind("<space>", lambda event: self.button.invoke())
        self.after(50, self.tick)
    def more(self):
        self.count.set(self.count.get() + 1)
        messagebox.showinfo("more", self.entry.get())
    def tick(self):
        self.canvas.move(self.box, 1, 0)
        self.after(50, self.tick)
root = tk.Tk()
root.title("gauge")
app = App(root)
app.pack()
root.mainloop()
print(app.canvas.coords(app.box), repr(app.entry.get()))
"""
TK_EVENTS = """
format = 1
turns = 10
[[event]]
turn = 2
type = "hi"
[[event]]
turn = 3
key = "space"
[[event]]
turn = 4
click = [15, 15]
"""


def test_a_desktop_script_on_the_stand_in(tmp_path):
    (tmp_path / "a.py").write_text(TK)
    (tmp_path / "s.scenario.toml").write_text(TK_EVENTS)
    seen = trace(tmp_path)
    assert "prints 'count 4\\n'" in seen
    assert "prints 'box 15\\n'" in seen
    assert any("showinfo('more', 'hi')" in line for line in seen)
    assert "prints \"[20.0, 10.0, 30.0, 20.0] 'hi '\\n\"" in seen


CHOICES = """
import tkinter as tk
from tkinter import ttk
root = tk.Tk()
plant = tk.StringVar(value="beans")
tk.OptionMenu(root, plant, "beans", "kale", command=lambda chosen: print("menu", chosen, plant.get()))
bed = ttk.Combobox(root, values=["north", "south"])
bed.bind("<<ComboboxSelected>>", lambda event: print("bed", bed.get(), bed.current()))
pages = ttk.Notebook(root)
for name in ("seeds", "tools"):
    pages.add(ttk.Frame(pages), text=name)
pages.bind("<<NotebookTabChanged>>", lambda event: print("page", pages.tab(pages.select(), "text")))
table = ttk.Treeview(root, columns=("plant", "rows"))
first = table.insert("", "end", values=("leek", 4))
inner = table.insert(first, "end", text="early")
table.set(first, "rows", 5)
table.bind("<<TreeviewSelect>>", lambda event: print("row", table.item(table.selection()[0])["values"]))
root.mainloop()
print(table.get_children(), table.get_children(first), table.set(first), table.exists(inner))
table.delete(first)
print(table.exists(inner), table.selection())
"""


def test_what_lets_one_choose_on_the_stand_in(tmp_path):
    chosen = "".join(
        f'[[event]]\nturn = {turn}\nchoose = "{text}"\n'
        for turn, text in enumerate(("kale", "south", "tools", "leek"), start=1)
    )
    (tmp_path / "a.py").write_text(CHOICES)
    (tmp_path / "s.scenario.toml").write_text(f"format = 1\nturns = 8\n{chosen}")
    seen = "\n".join(trace(tmp_path))
    for said in ("menu kale kale", "bed south 1", "page tools", "row ['leek', 5]", "('I001',) ('I002',)", "False ()"):
        assert said in seen


def test_what_the_stand_in_does_not_cover_is_said(cli, tmp_path):
    pytest.importorskip("tkinter")
    (tmp_path / "a.py").write_text("import tkinter as tk\nroot = tk.Tk()\nroot.tk_setPalette('red')\n")
    done = cli("verify", "a.py", "a.py")
    assert done.returncode == 5
    assert "tk_setPalette" in done.stderr


GAME = """
import pygame
pygame.init()
screen = pygame.display.set_mode((80, 60))
clock = pygame.time.Clock()
x, running = 10, True
while running:
    for event in pygame.event.get():
        if event.type == pygame.QUIT:
            running = False
        elif event.type == pygame.KEYDOWN:
            print(pygame.key.name(event.key))
        elif event.type == pygame.MOUSEBUTTONDOWN:
            print(event.pos, pygame.mouse.get_pos())
    if pygame.key.get_pressed()[pygame.K_RIGHT]:
        x += 3
    screen.fill((0, 0, 90))
    pygame.draw.circle(screen, (200, 200, 0), (x, 30), 5)
    pygame.display.flip()
    clock.tick(30)
print(pygame.time.get_ticks(), x)
pygame.quit()
"""
GAME_EVENTS = """
format = 1
turns = 20
[[event]]
turn = 3
press = "RIGHT"
[[event]]
turn = 8
let_go = "RIGHT"
[[event]]
turn = 9
click = [40, 12]
"""


@pytest.fixture
def game(tmp_path):
    pytest.importorskip("pygame")
    (tmp_path / "a.py").write_text(GAME)
    (tmp_path / "s.scenario.toml").write_text(GAME_EVENTS)
    return tmp_path


def test_a_game_gets_its_keys_its_clicks_and_its_end(game):
    seen = trace(game)
    assert "prints 'right\\n'" in seen
    assert "prints '(40, 12) (40, 12)\\n'" in seen
    assert [line for line in seen if line.startswith("prints")][-1] == "prints '700 25\\n'"
    assert sum(line.startswith("shows 80x60") for line in seen) == 21


@pytest.mark.parametrize(
    ("old", "new"), [("x += 3", "x += 4"), ("0, 0, 90", "0, 0, 91"), ("tick(30)", "tick(31)"), ("K_RIGHT", "K_LEFT")]
)
def test_a_change_of_a_game_is_seen(game, old, new):
    (game / "b.py").write_text(GAME.replace(old, new))
    assert not compared(game).same


def test_a_game_that_never_looks_for_its_end_is_stopped(game):
    (game / "a.py").write_text(GAME.replace("running = False", "pass"))
    assert any("scenario ends after 20 turns" in line for line in trace(game))


def test_a_double_records_every_call(cli, tmp_path):
    text = "import lamp\nlight = lamp.Light(3, colour='red')\nlight.on()\nlight.level = 2\nwith lamp.all() as a: a.off(print)\n"
    (tmp_path / "a.py").write_text(text)
    (tmp_path / "b.py").write_text(text.replace("level = 2", "level = 3"))
    assert cli("verify", "a.py", "a.py", "--stand-in", "lamp").returncode == 0
    done = cli("verify", "a.py", "b.py", "--stand-in", "lamp", "--budget", "1")
    assert done.returncode == 1
    assert "lamp.Light().level = 2" in done.stdout


CONSOLE = """
import sys
level = 0
while True:
    words = input("> ").split()
    if not words: continue
    if words[0] == "rise":
        level += 1
    elif words[0] == "drain" and len(words) > 1:
        level -= int(words[1]) if words[1].isdigit() else 0
    elif words[0] == "stop":
        break
    print(level)
print("over", level)
"""


def test_scenarios_are_made_saved_and_used_again(cli, tmp_path):
    (tmp_path / "a.py").write_text(CONSOLE)
    done = cli("verify", "a.py", "a.py", "--budget", "6", "--save", "walk.scenario.toml", "--json", "-")
    found = json.loads(done.stdout)
    assert done.returncode == 0
    assert found["lines"]["a.py"]["share"] == 1.0
    saved = sorted(tmp_path.glob("walk*.scenario.toml"))
    assert len(saved) == len(found["scenarios"])
    again = cli("verify", "a.py", "a.py", "--json", "-", *(f"--scenario={path.name}" for path in saved))
    assert json.loads(again.stdout)["entries"] == found["entries"]


def test_a_difference_is_found_and_its_scenario_made_short(cli, tmp_path):
    (tmp_path / "a.py").write_text(CONSOLE)
    (tmp_path / "b.py").write_text(CONSOLE.replace("level -= int", "level += int"))
    done = cli("verify", "a.py", "b.py", "--budget", "6", "--json", "-")
    assert done.returncode == 1
    found = json.loads(done.stdout)
    assert "drain" in found["divergence"]["scenario"]
    assert found["divergence"]["scenario"].count('"') <= 10
    assert found["divergence"]["before"]["where"].startswith("a.py:")


def test_what_is_not_stable_is_said_and_not_compared(cli, tmp_path):
    text = "import time\nprint(open('/proc/uptime').read())\nprint('steady')\n"
    (tmp_path / "a.py").write_text(text)
    (tmp_path / "b.py").write_text(text.replace("steady", "other"))
    done = cli("verify", "a.py", "a.py")
    assert done.returncode == 0
    assert "Not stable" in done.stdout
    assert cli("verify", "a.py", "b.py", "--budget", "1").returncode == 1


def test_a_scenario_survives_writing_and_reading(tmp_path):
    from aedifex.verify.scenarios.scenario import Event, Scenario, read, write

    events = (
        Event(1, "key", "Left"),
        Event(2, "click", (3, -4), 3),
        Event(2, "type", 'a "b"\n'),
        Event(9, "drag", (1, 2)),
    )
    scenario = Scenario("walk", 7, ("--slow", "é"), ("3 apples", "", 'say "hi"'), 50, events)
    path = tmp_path / "walk.scenario.toml"
    path.write_text(write(scenario))
    assert read(path) == scenario


@pytest.mark.parametrize(
    "text",
    [
        "[[event]]\nkey = 'a'",
        "[[event]]\nturn = 1",
        "[[event]]\nturn = 1\nkey = 'a'\nclick = [1, 2]",
        "[[event]]\nturn = 1\nclick = 3",
        "[[event]]\nturn = 1\nkey = 3",
        "[[event]]\nturn = 1\nkeys = 'a'",
        "turns = -1",
        "[event]\nturn = 1",
    ],
)
def test_mistakes_in_events(cli, tmp_path, text):
    (tmp_path / "a.py").write_text("print(1)\n")
    (tmp_path / "bad.toml").write_text(f"format = 1\n{text}\n")
    assert cli("verify", "a.py", "a.py", "--scenario", "bad.toml").returncode == 2


WHEEL = """
import pygame
pygame.init()
screen = pygame.display.set_mode((80, 60))
pygame.mouse.set_cursor(pygame.cursors.Cursor((1, 1), pygame.Surface((4, 4))))
for _ in range(9):
    for event in pygame.event.get():
        if event.type == pygame.MOUSEWHEEL:
            print("wheel", event.y)
    pygame.display.flip()
"""


def test_the_wheel_turns_and_a_pointer_is_told_by_its_picture(tmp_path):
    pytest.importorskip("pygame")
    (tmp_path / "a.py").write_text(WHEEL)
    (tmp_path / "s.scenario.toml").write_text(
        "format = 1\nturns = 20\n[[event]]\nturn = 2\nclick = [4, 4]\nbutton = 4\n[[event]]\nturn = 4\nclick = [4, 4]\nbutton = 5\n"
    )
    seen = trace(tmp_path)
    assert "prints 'wheel 1\\n'" in seen
    assert "prints 'wheel -1\\n'" in seen
    assert any("a pointer of" in line and "4x4 pixels" in line for line in seen)


def test_the_pace_of_a_sketch_is_told(tmp_path):
    (tmp_path / "a.py").write_text("from turtle import *\nspeed(3)\ntracer(2, 5)\nforward(10)\nprint(speed())\n")
    (tmp_path / "s.scenario.toml").write_text("format = 1\n")
    seen = trace(tmp_path)
    assert "speed(3)" in " ".join(seen)
    assert "tracer(2, 5)" in " ".join(seen)


def test_the_error_of_windows_can_be_caught(cli, tmp_path):
    pytest.importorskip("tkinter")
    (tmp_path / "a.py").write_text(
        "import tkinter as tk\nroot = tk.Tk()\ntry:\n    root.config(bg='no such colour')\n"
        "except tk.TclError as error:\n    print(type(error).__name__)\nroot.mainloop()\n"
    )
    done = cli("verify", "a.py", "a.py")
    assert done.returncode == 0, done.stderr
    assert done.stdout.startswith("Same")


KITES = """
kite_x = 50
score = 0


def draw():
    print(kite_x, score)
    screen.clear()


def update():
    global kite_x
    kite_x += 1
"""


def test_a_game_whose_functions_are_found_by_name_is_played_by_its_runner(cli, tmp_path):
    (tmp_path / "kites.py").write_text(KITES)
    missing = cli("verify", "kites.py", "kites.py")
    assert missing.returncode == 5
    assert "Install pgzero" in missing.stderr
    (tmp_path / "pgzero").mkdir()
    (tmp_path / "pgzero" / "__init__.py").touch()
    (tmp_path / "pgzero" / "runner.py").write_text(
        "import types\n\n\ndef prepare_mod(mod):\n    mod.screen = types.SimpleNamespace(clear=lambda: None)\n\n\n"
        "def run_mod(mod):\n    for _ in range(3):\n        mod.update()\n        mod.draw()\n"
    )
    done = cli("verify", "kites.py", "kites.py")
    assert done.returncode == 0
    assert "100% of the lines of kites.py ran" in done.stdout


@pytest.mark.parametrize(
    "text",
    [
        KITES + "import pgzrun\npgzrun.go()\n",
        KITES.replace("screen.clear()", "pass"),
        "screen = make()\n" + KITES,
        KITES.replace("def draw", "def show").replace("def update", "def go"),
    ],
)
def test_other_games_are_not(text):
    import importlib.util

    from aedifex.languages.python import runner

    path = Path(runner.__file__).parent / "stage" / "hooked.py"
    spec = importlib.util.spec_from_file_location("hooked", path)
    hooked = importlib.util.module_from_spec(spec)
    spec.loader.exec_module(hooked)
    assert hooked.waits_for_runner(KITES.encode())
    assert not hooked.waits_for_runner(text.encode())
