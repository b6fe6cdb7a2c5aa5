"""Plays one program in one scenario: `python stage PLAN`, where PLAN is a JSON file.

The plan has the script's path, the folder it stands in, the scenario, limits, and the file that the trace goes to.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from _aedifex_stage.plan import Plan

import atexit
import importlib.util
import os
import sys
import threading
import types

_PACKAGE = "_aedifex_stage"


def main() -> None:
    """Set the stage, play the program, write down how it ended."""
    here = os.path.dirname(os.path.abspath(__file__))
    # A private name: the program must neither see this package nor have a module of its own hidden by it.
    sys.path[:] = [folder for folder in sys.path if os.path.abspath(folder) != here]
    spec = importlib.util.spec_from_file_location(
        _PACKAGE, os.path.join(here, "__init__.py"), submodule_search_locations=[here]
    )
    sys.modules[_PACKAGE] = importlib.util.module_from_spec(spec)
    from _aedifex_stage import call_watch, chance, clock, console, coverage_lines, imports, limits, walls
    from _aedifex_stage.plan import read_plan
    from _aedifex_stage.world import World

    plan = read_plan(sys.argv[1])
    limits.set_limits(plan)
    world = World(plan)
    clock.install(world)
    imports.install(world)
    console.install(world)
    walls.install(world, [os.path.dirname(plan.folder)])
    watch = coverage_lines.start(plan)
    chance.install(plan.seed)
    clock.clock.seconds = clock.clock.waited = 0.0
    stop_calls = call_watch.start(plan)
    ending = play(plan, world)
    leave(world, ending)
    stop_calls()
    if world.outside:
        ending["outside"] = world.outside
    ending["seconds"] = round(clock.clock.waited, 3)
    watch()
    world.trace.close(ending)
    for stream in (sys.__stdout__, sys.__stderr__):
        if stream is not None:
            stream.flush()
    os._exit(0)


def play(plan: Plan, world: object) -> dict:
    """Run the script as `__main__` and say how it ended: exit code, and uncaught error."""
    from _aedifex_stage.world import ScenarioEnd

    script = plan.script
    sys.argv = [script, *plan.arguments]
    sys.path.insert(0, os.path.dirname(script))
    module = types.ModuleType("__main__")
    module.__file__ = script
    module.__builtins__ = __builtins__
    sys.modules["__main__"] = module
    try:
        with open(script, "rb") as file:
            code = compile(file.read(), script, "exec", dont_inherit=True)
        exec(code, module.__dict__)
    except ScenarioEnd as end:
        return {"code": 0, "stopped": str(end)}
    except SystemExit as leaving:
        return of_exit(leaving)
    except BaseException as error:
        if type(error).__name__ == "NotCoveredError":
            return {"code": 1, "uncovered": str(error)}
        return {
            "code": 1,
            "error": type(error).__name__,
            "message": str(error),
            "where": world.trace.where_of(error),
        }
    return {"code": 0}


def of_exit(leaving: SystemExit) -> dict:
    """How `sys.exit` ends a program: a text is printed and counts as failure."""
    code = leaving.code
    if code is None:
        return {"code": 0}
    if isinstance(code, int):
        return {"code": code & 0xFF}
    print(code, file=sys.stderr)
    return {"code": 1}


def leave(world: object, ending: dict) -> None:
    """Wait for the program's threads and let it say goodbye, as the interpreter would."""
    from _aedifex_stage.world import ScenarioEnd

    try:
        if "stopped" not in ending:
            threading._shutdown()
        atexit._run_exitfuncs()
    except ScenarioEnd:
        pass


if __name__ == "__main__":
    main()
