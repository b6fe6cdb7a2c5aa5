"""Functions as values, and functions of every kind."""

SCRIPTS = {
    "handlers in a queue": """
        queue = []
        clicks = 0
        def after(turns, what):
            queue.append((turns, what))
        def click():
            global clicks
            clicks += 1
            if clicks < 3:
                after(clicks, click)
        after(0, click)
        while queue:
            queue.pop(0)[1]()
        print(clicks)
        """,
    "a sort key and a map": """
        weights = {"oat": 3, "rye": 1}
        asked = 0
        def weight(name):
            global asked
            asked += 1
            return weights[name]
        print(sorted(weights, key=weight), list(map(weight, weights)), asked)
        """,
    "a dispatch table": """
        x = 0
        def left():
            global x
            x -= 1
        def right():
            global x
            x += 1
        ways = {"l": left, "r": right}
        for letter in "rrlr":
            ways[letter]()
        print(x)
        """,
    "handlers made in a loop": """
        pressed = []
        def press(key):
            pressed.append(key)
        late = [lambda: press(key) for key in "abc"]
        early = [lambda key=key: press(key) for key in "abc"]
        for handler in late + early:
            handler()
        print(pressed)
        """,
    "a thread": """
        import threading
        total = 0
        def work(amount):
            global total
            total += amount
        worker = threading.Thread(target=work, args=(4,))
        worker.start()
        worker.join()
        print(total)
        """,
    "partial application": """
        from functools import partial
        total = 0
        def work(amount, times=1):
            global total
            total += amount * times
        twice = partial(work, times=2)
        twice(4)
        print(total)
        """,
    "recursion": """
        calls = 0
        def fib(n):
            global calls
            calls += 1
            return n if n < 2 else fib(n - 1) + fib(n - 2)
        print(fib(7), calls)
        """,
    "a decorated function": """
        import functools
        calls = []
        def noted(function):
            @functools.wraps(function)
            def inner(*given):
                calls.append(function.__name__)
                return function(*given)
            return inner
        level = 1
        @noted
        def rise(by):
            global level
            level += by
        rise(3)
        print(level, calls)
        """,
    "a cached function": """
        import functools
        asked = 0
        @functools.lru_cache(maxsize=None)
        def square(n):
            global asked
            asked += 1
            return n * n
        print(square(3), square(3), asked)
        """,
    "a generator": """
        given = 0
        def packets(count):
            global given
            for number in range(count):
                given += 1
                yield number, given
        print(list(packets(3)), given)
        """,
    "an async function": """
        import asyncio
        rings = 0
        async def ring(times):
            global rings
            for _ in range(times):
                await asyncio.sleep(0)
                rings += 1
        async def both():
            await asyncio.gather(ring(2), ring(3))
        asyncio.run(both())
        print(rings)
        """,
    "an inner function that keeps state": """
        total = 0
        def counter(step):
            def count():
                global total
                total += step
                return total
            return count
        two, five = counter(2), counter(5)
        print(two(), five(), two(), total)
        """,
    "any arguments": """
        seen = []
        def note(first, /, *more, sep="-", **named):
            seen.append((first, more, sep, named))
        note(1, 2, 3, sep="+", x=4)
        note(*[5, 6], **{"first": 7})
        print(seen)
        """,
    "a function set anew": """
        mood = 0
        def greet():
            global mood
            mood += 1
            return "good day"
        def loud():
            global greet
            old = greet
            greet = lambda: old().upper()
        print(greet())
        loud()
        print(greet(), mood)
        """,
    "something hung on a function": """
        calls = 0
        def mark(handler):
            handler.is_marked = True
            return handler
        def click():
            global calls
            calls += 1
        mark(click)()
        print(calls)
        """,
    "called where its object is made": """
        def measure(name):
            print("measure", name)
            return len(name)
        ferry_load = measure("ferry")
        ferry_rows = measure("rows") + ferry_load
        def load():
            global ferry_load, ferry_rows
            ferry_load, ferry_rows = ferry_rows, ferry_load
        load()
        print(ferry_load, ferry_rows)
        """,
    "compared with itself": """
        current = None
        def day():
            global current
            current = night
        def night():
            global current
            current = day
        day()
        print(current is night, current == night)
        current()
        print(current == day, current == night)
        """,
    "a copy of a function": """
        import copy
        score = 0
        def gain():
            global score
            score += 10
        table = copy.deepcopy({"gain": gain})
        table["gain"]()
        print(score)
        """,
    "a weak reference to a function": """
        import weakref
        score = 0
        def gain():
            global score
            score += 10
        kept = weakref.ref(gain)
        if kept():
            kept()()
        print(score)
        """,
    "a function as a class's member": """
        calls = 0
        class Gull:
            name = "grey"
        def cry(gull):
            global calls
            calls += 1
            return gull.name, calls
        Gull.cry = cry
        print(Gull().cry())
        """,
    "the type of a function": """
        import types
        calls = 0
        def act():
            global calls
            calls += 1
        for each in [act]:
            print(isinstance(each, types.FunctionType))
        act()
        """,
}
