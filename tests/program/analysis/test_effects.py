from __future__ import annotations

from aedifex.program.analysis.effects import Effects
from aedifex.program.analysis.parameter_passing import run_before
from aedifex.program.structure.state import Constants, state
from tests.support.helpers import module_of, program_of

TEXT = """
    import turtle
    LIMIT = 3
    TABLE = {"a": 1}
    score = 0
    queue = []
    pen = turtle.Turtle()
    name = "x"

    def add(n):
        global score
        score += n
        queue.append(n)

    def twice(n):
        add(n)
        add(n)

    def even(n):
        return n == 0 or odd(n - 1)

    def odd(n):
        global score
        score = n
        return n != 0 and even(n - 1)

    def draw():
        pen.forward(score)
        print(name.upper(), LIMIT, TABLE["a"], len(TABLE))

    def shadow(score, queue):
        score += 1
        queue.append(score)
        return [pen for pen in queue]

    turtle.onkey(lambda: twice(2), "a")
    turtle.onkey(draw, "d")
"""


def names(symbols):
    return {s.name for s in symbols if s.is_module_level and s.imported is None and not s.forms & {"routine"}}


def effect(routine, text=TEXT):
    module = module_of(text)
    closed = Effects(module).transitive[module.function(routine)]
    known = {s.name for s in state(module)}
    return names(closed.reads) & known, names(closed.rebinds) & known, names(closed.changes) & known


def test_direct_effects():
    assert effect("add") == ({"score", "queue"}, {"score"}, {"queue"})


def test_effects_of_calls_and_of_recursion():
    assert effect("twice") == ({"score", "queue"}, {"score"}, {"queue"})
    assert effect("even")[1] == effect("odd")[1] == {"score"}


def test_a_method_of_an_unknown_object_may_change_it_and_of_text_may_not():
    assert effect("draw") == ({"pen", "score", "name", "LIMIT", "TABLE"}, set(), {"pen"})


def test_shadowing_names_are_not_state():
    assert effect("shadow") == (set(), set(), set())


def test_handlers_count_as_called_by_the_outside():
    module = module_of(TEXT)
    effects = Effects(module)
    assert {r.name for r in effects.escaping} == {"lambda", "draw"}
    late = [s for r in effects.escaping for s in effects.transitive[r].rebinds if s.is_module_level]
    assert {s.name for s in late} == {"score"}


def test_what_runs_before_a_read_is_told_by_the_order():
    module = module_of(
        """
        import random
        import screen
        wind = 1
        def gust():
            global wind
            wind += 1
        screen.onkey(gust)
        def early():
            return wind + random.random()
        def late():
            screen.update()
            return wind
        def again():
            for _ in range(3):
                print(wind)
                screen.update()
        """
    )
    effects, wind = Effects(module), module.scope.symbols["wind"]

    def before(name):
        routine = module.function(name)
        reads = [r for r in wind.references if r.scope.within(routine.scope)]
        return {r.name for r in run_before(effects, routine, reads)}

    assert (before("early"), before("late"), before("again")) == (set(), {"gust"}, {"gust"})


def test_generators_run_wherever_a_value_is_asked_for():
    module = module_of(
        """
        tide = 1
        def levels():
            global tide
            tide += 1
            yield tide
        water = levels()
        for level in water:
            pass
        """
    )
    effects = Effects(module)
    loop = module.block.statements[-1]
    assert module.scope.symbols["tide"] in effects.of_statement(loop).rebinds


def test_constants():
    module = module_of(
        "A = 1\nB = A * 2, -3\nC = ['x']\nD = ['y']\nE = {}\nF = 4\nG = H = 5\nI = [J]\nJ = 6\nK, L = 7, []\n"
        "D.append(1)\nE['k'] = 1\nfor x in C: print(C[0], len(C))\nL.pop()\n"
        "def f():\n    global F\n    F += 1\n"
    )
    constants = Constants(module)
    assert {s.name for s in state(module) if s in constants} == {"A", "B", "C", "G", "H", "I", "J", "K"}
    assert not constants.settles(module.scope.symbols["K"])


def test_constants_that_share_one_value():
    module = module_of(
        "LOW, HIGH = range(2)\nSIZE = W, H = 10, 20\n(N, S), E = (1, 2), 3\nA, B = range(3)\nC = D = []\nX, *Y = range(2)\n"
        "I, J = range(len('ab'))\nK, L = range(1, 3)\nM, O = quay(2)\nP = Q = 7\nQ = 8\n"
    )
    constants = Constants(module)
    assert {s.name for s in state(module) if s in constants} == {"LOW", "HIGH", "SIZE", "W", "H", "K", "L", "P"}
    assert {s.name for s in state(module) if constants.settles(s)} == {"LOW", "HIGH", "SIZE", "W", "H", "K", "L"}


def test_a_counter_of_the_script_gives_no_constants():
    module = module_of("def range(n): return [[], []]\nLOW, HIGH = range(2)\n")
    assert not any(s in Constants(module) for s in state(module))


def test_names_lead_from_one_file_to_another():
    program = program_of(
        "import tide\nfrom tide import level as height, move\nprint(tide.level, height)\nmove()\ntide.level = 3\n",
        tide="level = 1\ndef move():\n    global level\n    level += 1\n",
    )
    script, tide = program.modules.values()
    level = tide.scope.symbols["level"]
    found = [r for r in script.references if r.final is level]
    assert [script.source.slice(r.span) for r in found] == ["height", "tide", "height", "tide"]
    assert tide.used_elsewhere["level"].line == 2
    assert set(tide.used_elsewhere) == {"level", "move"}


def test_packages_and_circles(tmp_path):
    from aedifex.languages.python import DIALECT
    from aedifex.program.reading import read_program
    from aedifex.source.text import SourceText

    files = {
        "main.py": "import pkg.a\nfrom pkg import b\nprint(pkg.a.x, b.y)\n",
        "pkg/__init__.py": "",
        "pkg/a.py": "from . import b\nfrom .b import y as z\nx = b.y\n",
        "pkg/b.py": "from pkg.a import x\ny = 1\n",
    }
    for name, text in files.items():
        path = tmp_path / name
        path.parent.mkdir(exist_ok=True)
        path.write_text(text)
    program = read_program([SourceText.read(tmp_path / name) for name in files], DIALECT)
    main, _, a, b = program.modules.values()
    y = b.scope.symbols["y"]
    assert [r.final for r in a.references if a.source.slice(r.span) == "z"] == [y]
    assert next(r for r in a.references if r.path).final is y
    assert next(r for r in main.references if r.name == "b" and r.path).final is y
    assert next(r for r in b.references if r.name == "x").final is a.scope.symbols["x"]


FAMILY = """
    score = 0

    class Boat:
        def __init__(self):
            global score
            score += 1

        def sink(self):
            global depth
            depth = 3

    depth = 0

    class Tug(Boat):
        pass

    class Punt(Boat):
        def __init__(self):
            super().__init__()

    def make():
        return Tug()

    def ask(boat):
        return isinstance(boat, (Tug, Punt))
"""


def test_an_object_is_set_up_by_what_its_class_comes_from():
    assert "score" in effect("make", FAMILY)[1]
    module = module_of(FAMILY)
    punt = next(f for f in module.all_functions if f.qualified_name == "Punt.__init__")
    assert "score" in names(Effects(module).transitive[punt].rebinds)


def test_neither_a_heading_nor_a_question_runs_methods():
    assert effect("ask", FAMILY) == (set(), set(), set())
    module = module_of(FAMILY)
    tug = next(s for s in module.block.statements if s.defines is not None and s.defines.name == "Tug")
    assert Effects(module).may_run_during(tug) == set()


def test_what_a_heading_hands_to_a_function_may_run():
    text = (
        FAMILY
        + """
    def dressed(base):
        base()
        return base

    class Ketch(dressed(Boat)):
        pass
"""
    )
    module = module_of(text)
    ketch = next(s for s in module.block.statements if s.defines is not None and s.defines.name == "Ketch")
    assert "score" in names(Effects(module).of_any(ketch).rebinds)
    assert any(routine.qualified_name == "Boat.__init__" for routine in Effects(module).may_run_during(ketch))
