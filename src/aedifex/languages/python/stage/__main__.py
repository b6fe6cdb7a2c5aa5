"""Plays one program in one scenario: `python stage/__main__.py PLAN`, where PLAN is the number of an open JSON file.

The plan has the script's path, the folder it stands in, the scenario, limits, and the files that the trace goes to.
"""

from __future__ import annotations

import atexit
import gc
import os
import sys
import threading
import types

_PACKAGE = "_aedifex_stage"


def main() -> None:
    """Set the stage, play the program, write down how it ended, and leave as the interpreter would."""
    here = os.path.dirname(os.path.abspath(__file__))
    # A private name: the program must neither see this package nor have a module of its own hidden by it.
    sys.path[:] = [folder for folder in sys.path if os.path.abspath(folder) != here]
    package = sys.modules[_PACKAGE] = types.ModuleType(_PACKAGE)
    package.__path__ = [here]
    from _aedifex_stage import abroad, chance, clock, console, coverage_lines, imports, limits, walls
    from _aedifex_stage.plan import read_plan
    from _aedifex_stage.world import World, leave_at_once

    plan = read_plan(int(sys.argv[1]))
    limits.set_limits(plan)
    world = World(plan)
    clock.install(world)
    imports.install(world)
    watch = coverage_lines.start(plan)
    walls.install(world, [plan.folder, plan.home])
    console.install(world)
    if plan.improvised:
        from _aedifex_stage.improviser import Improviser

        world.improviser = Improviser(plan.improvised, plan.folder)
        world.improviser.install()
    chance.install(plan.seed)
    abroad.install(world)
    world.listen()
    gc.freeze()  # nothing of ours is looked at again when garbage is collected
    clock.start_anew()
    stop_calls = lambda: None  # noqa: E731
    if plan.calls_file:
        from _aedifex_stage import call_watch

        stop_calls = call_watch.start(world)

    process = os.getpid()

    def close(ending: dict) -> None:
        """Write down all that there is to tell; of a process that the program forked nothing is left to tell."""
        if os.getpid() != process:
            return
        if world.outside:
            ending["outside"] = world.outside
        ending["seconds"] = round(clock.clock.waited, 3)
        stop_calls()
        watch()
        if world.improviser is not None:
            world.improviser.close({"ran_out": world.asked_for_more, **ending}, plan.heard_file)
        world.trace.close(ending)

    def finish(ending: dict) -> None:
        """End at once, from wherever we are."""
        close(ending)
        leave_at_once(ending["code"])

    world.finish, world.become = finish, lambda: close({"code": 0, "became": True})
    os._exit = lambda code: finish({"code": code & 0xFF, "at_once": True})
    ending = play(plan, world)
    leave(world, ending)
    close(ending)
    if world.ended and threading.active_count() > 1:
        leave_at_once(ending["code"])
    sys.exit(ending["code"])


def play(plan: object, world: object) -> dict:
    """Run the script as `__main__` and say how it ended: exit code, and uncaught error."""
    from _aedifex_stage import hooked, web
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
            source = file.read()
        code = compile(source, script, "exec", dont_inherit=True)
        if hooked.waits_for_runner(source):
            hooked.play(code, module)
        else:
            exec(code, module.__dict__)
            web.serve_waiting(module, world)
    except ScenarioEnd as end:
        return {"code": 0, "stopped": str(end)}
    except SystemExit as leaving:
        return of_exit(leaving)
    except BaseException as error:
        if world.ended:
            return {"code": 0, "stopped": world.ended}
        if type(error).__name__ == "NotCoveredError":
            return {"code": 1, "uncovered": str(error)}
        if sys.excepthook is not sys.__excepthook__:
            sys.excepthook(type(error), error, error.__traceback__.tb_next)  # what the program does with it
        return of_error(error, world)
    return {"code": 0, "stopped": world.ended} if world.ended else {"code": 0}


def of_error(error: BaseException, world: object) -> dict:
    """How an uncaught error ends a program, which library it misses, and whether it only ran out of typed lines."""
    return {
        "code": 1,
        "error": type(error).__name__,
        "message": str(error),
        "missing": getattr(error, "name", None) or "" if isinstance(error, ModuleNotFoundError) else "",
        "ran_out": isinstance(error, EOFError) and world.asked_for_more,
        "where": world.trace.where_of(error),
    }


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
        if not world.ended:
            threading._shutdown()
        atexit._run_exitfuncs()
    except ScenarioEnd:
        pass
    if world.ended:
        ending.setdefault("stopped", world.ended)
    for stream in (sys.stdout, sys.stderr):
        try:
            stream.flush()
        except (AttributeError, ValueError, OSError):
            pass


if __name__ == "__main__":
    main()
