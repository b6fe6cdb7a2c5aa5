"""What depends on where code stands, and state that is reached by other ways than its name."""

SCRIPTS = {
    "the guard": """
        calls = 0
        def go():
            global calls
            calls += 1
            print(__name__, calls)
        if __name__ == "__main__":
            go()
            go()
        """,
    "the file's own name": """
        import os
        asked = 0
        def here():
            global asked
            asked += 1
            return os.path.basename(__file__)
        print(here(), asked)
        """,
    "the script's own text and future": '''
        """A tide table."""
        from __future__ import annotations
        tide: Level = 1
        def rise(by: Level) -> Level:
            global tide
            tide += by
            return tide
        print(rise(2), __doc__)
        ''',
    "imports for the types only": """
        from typing import TYPE_CHECKING
        if TYPE_CHECKING:
            from collections.abc import Sequence
        marks: "Sequence[int]" = [1]
        def add(mark: int) -> "Sequence[int]":
            global marks
            marks = [*marks, mark]
            return marks
        print(add(4))
        """,
    "an import in a function": """
        total = 0
        def area(r):
            global total
            import math
            from math import floor as down
            total += down(math.pi * r)
        area(3)
        print(total)
        """,
    "globals()": """
        tide = 1
        def rise():
            globals()["tide"] += 1
        def show():
            return tide
        rise()
        print(show())
        """,
    "eval and exec": """
        tide = 1
        def rise(how):
            global tide
            tide = eval(how)
            exec("tide_seen = 5")
        rise("tide + 3")
        print(tide)
        """,
    "vars() of the script": """
        tide = 1
        def rise():
            global tide
            tide += 1
        rise()
        print(vars()["tide"], "tide" in dir())
        """,
    "the script as a module": """
        import sys
        tide = 1
        def rise():
            setattr(sys.modules[__name__], "tide", 9)
        def fall():
            global tide
            tide -= 1
        rise() if "tide" in dir(sys.modules[__name__]) else None
        fall()
        print(tide)
        """,
    "a builtin's name": """
        max = 3
        def widen():
            global max
            max += 1
        widen()
        print(max, min(max, 9))
        """,
    "a star import": """
        from math import *
        pi_seen = 0
        def see():
            global pi_seen
            pi_seen += floor(pi)
        see()
        print(pi_seen)
        """,
    "an exit in the middle": """
        import sys
        left = 2
        def leave():
            global left
            left -= 1
            if left == 0:
                print("bye")
                sys.exit(0)
        while True:
            print(left)
            leave()
        """,
}
