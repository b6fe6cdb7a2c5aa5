"""join: files that share their state come together; what only a module can do leaves them apart."""

from __future__ import annotations

import pytest

from aedifex.moves.join import Join
from aedifex.moves.kit.binding_check import perform
from aedifex.source.errors import RefusedError
from tests.support.helpers import SCRIPT, program_of
from tests.support.several_files import outcome_of_files, write_files

CONFIG = """
    LIMIT = 3
    minute = 0
    waiting = []
"""


def joined(script: str, **others: str) -> str:
    program = program_of(script, **{"config": CONFIG, **others})
    after = perform(program, Join(SCRIPT))
    assert [path.stem for path in after.gone] == [name for name in ("config", *others) if name != "helpers"]
    return after.main.source.data.decode()


def test_what_is_set_in_a_function_is_declared_there():
    text = joined("""
        import config as cfg


        def tick(by):
            \"\"\"Let time pass.\"\"\"
            cfg.minute += by
            cfg.waiting.append(cfg.minute)


        tick(2)
        print(cfg.minute, cfg.LIMIT)
        """)
    assert '    """Let time pass."""\n    global minute\n    minute += by\n    waiting.append(minute)\n' in text
    assert text.startswith("\nLIMIT = 3") and text.endswith("print(minute, LIMIT)\n")


def test_what_means_something_else_gets_the_name_of_its_file():
    text = joined(
        """
        import config
        import clock

        minute = 7
        config.minute += minute
        print(config.minute, clock.tick(1), clock.open)
        """,
        clock="""
        import config
        open = True


        def tick(waiting):
            config.minute += waiting
            return config.waiting, open
        """,
    )
    assert "minute_config = 0\n" in text and "minute_config += minute\n" in text
    assert "    global minute_config\n    minute_config += waiting\n    return waiting_config, open\n" in text


def test_imports_come_to_the_script_once_and_docs_become_comments():
    text = joined(
        """
        import random
        import config
        import clock

        random.seed(1)
        clock.tick()
        print(config.minute)
        """,
        clock="""
        '''All about time.'''
        import math
        import random
        import config


        def tick():
            config.minute = math.floor(random.random() * 10)


        if __name__ == "__main__":
            tick()
        """,
    )
    assert text.startswith("\nimport random\nimport math\n") and text.count("import random") == 1
    assert "# All about time.\n" in text and "__main__" not in text


def test_files_without_state_stay_what_they_are():
    text = joined(
        """
        import config
        import helpers

        config.minute = helpers.half(8)
        print(config.minute)
        """,
        helpers="""
        def half(n):
            return n / 2
        """,
    )
    assert "import helpers\n" in text and "minute = helpers.half(8)\n" in text


@pytest.mark.parametrize(
    "lines",
    [
        ["setattr(config, 'minute', 3)"],
        ["print(vars(config))"],
        ["kept = config", "kept.minute += 1"],
        ["config.fresh = 1"],
        ["from config import minute", "print(minute)"],
        ["config = 3"],
        ["class Clock:", "    config.minute = 2"],
        ["print(config.__name__)"],
        ["def again():", "    import config", "    config.minute += 1"],
        ["print(config.minute)", "import config"],
    ],
)
def test_what_only_a_module_can_do_is_refused(lines):
    with pytest.raises(RefusedError):
        joined("\n".join(["import config", "config.minute += 1", *lines]) + "\n")


@pytest.mark.parametrize(
    "clock",
    [
        "import config\nprint('read')\nfrom elsewhere import something\n",
        "import config\nNAME = __name__\n",
        "import config\nexec('config.minute = 4')\n",
        "from __future__ import annotations\nimport config\n",
    ],
)
def test_files_that_cannot_stand_elsewhere_are_refused(clock):
    with pytest.raises(RefusedError):
        joined("import config\nimport clock\n\nconfig.minute += 1\n", clock=clock)


def test_nothing_to_join_is_said():
    with pytest.raises(RefusedError, match=r"no file beside script\.py has state that others change"):
        perform(program_of("import config\nprint(config.LIMIT)\n", config=CONFIG), Join(SCRIPT))


STARRED = {
    "lift.py": """\
from config import *
import config
from clock import *


def show():
    print(config.minute, waiting)


tick(2)
show()
""",
    "config.py": "LIMIT = 3\nminute = 0\nwaiting = []\n",
    "clock.py": "import config\n\n\ndef tick(by):\n    config.minute += by\n    config.waiting.append(by)\n",
}


def test_a_star_import_may_bring_the_same_module_once_more():
    assert outcome_of_files(STARRED) == "same"


def test_a_star_import_may_not_bring_something_else_by_that_name():
    other = "import config as own\n\n\nclass config:\n    minute = 4\n\n\ndef tick(by):\n    own.minute += by\n"
    assert outcome_of_files({**STARRED, "clock.py": other}).startswith("refused")


@pytest.mark.parametrize("seed", range(5))
def test_programs_of_several_files_do_the_same(seed):
    assert outcome_of_files(write_files(seed)) in ("same", "same, apart")


def test_most_of_them_are_joined():
    assert [outcome_of_files(write_files(seed)) for seed in range(20, 28)].count("same") >= 4
