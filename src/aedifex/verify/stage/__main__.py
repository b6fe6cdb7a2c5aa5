"""Plays one program in one scenario: `python stage PLAN`, where PLAN is a JSON file.

The plan has the script's path, the folder it stands in, the scenario, limits, and the file that the trace goes to.
"""

from __future__ import annotations

import atexit
import json
import os
import sys
import threading
import types


def main() -> None:
    """Set the stage, play the program, write down how it ended."""
    import console
    import limits
    import scripted
    from trace_file import TraceFile

    # The program must neither see these modules nor have its own of the same names hidden by them.
    sys.path.pop(0)
    for name in ("console", "limits", "scripted", "trace_file"):
        del sys.modules[name]
    with open(sys.argv[1], encoding="utf-8") as file:
        plan = json.load(file)
    limits.set_limits(plan["limits"])
    trace = TraceFile(plan["trace"], plan["folder"], plan["limits"]["entries"])
    scripted.seed(plan["seed"])
    console.install(trace, plan["lines"])
    ending = play(plan, trace)
    threading._shutdown()
    atexit._run_exitfuncs()
    trace.close(ending)
    for stream in (sys.__stdout__, sys.__stderr__):
        if stream is not None:
            stream.flush()
    os._exit(0)


def play(plan: dict, trace: object) -> dict:
    """Run the script as `__main__` and say how it ended: exit code, and uncaught error."""
    script = plan["script"]
    sys.argv = [script, *plan["arguments"]]
    sys.path.insert(0, os.path.dirname(script))
    module = types.ModuleType("__main__")
    module.__file__ = script
    module.__builtins__ = __builtins__
    sys.modules["__main__"] = module
    try:
        with open(script, "rb") as file:
            code = compile(file.read(), script, "exec", dont_inherit=True)
        exec(code, module.__dict__)
    except SystemExit as leaving:
        return of_exit(leaving)
    except BaseException as error:
        return {"code": 1, "error": type(error).__name__, "message": str(error), "where": trace.where_of(error)}
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


if __name__ == "__main__":
    main()
