"""What happens when: starting values, effects, and objects that go by two names."""

SCRIPTS = {
    "random draws keep their order": """
        import random
        wind = random.random()
        print("first", wind)
        rain = random.random()
        drops = [random.random() for _ in range(2)]
        def blow():
            global wind
            wind += random.random()
        def pour():
            global rain
            rain += drops.pop()
        blow()
        pour()
        print(wind, rain, drops)
        """,
    "a start that prints": """
        def measure(name):
            print("measure", name)
            return len(name)
        ferry_load = measure("ferry")
        print("between")
        ferry_rows = measure("rows") + ferry_load
        def load():
            global ferry_load, ferry_rows
            ferry_load += 1
            ferry_rows += ferry_load
        load()
        print(ferry_load, ferry_rows)
        """,
    "a conditional start": """
        import sys
        if len(sys.argv) > 40:
            speed = "fast"
        else:
            speed = "slow"
        def change():
            global speed
            speed = speed.upper()
        change()
        print(speed)
        """,
    "a start that may not happen": """
        flag = False
        if flag:
            rope = 1
        def use():
            global flag
            flag = True
            try:
                return rope
            except (NameError, AttributeError):
                return "none"
        print(use(), flag)
        """,
    "set by a function first": """
        def begin():
            global kites, wind
            kites, wind = ["red"], 4
        def gust():
            global wind
            wind += len(kites)
        begin()
        gust()
        print(kites, wind)
        """,
    "a start from another that has changed": """
        tide = 1
        def rise():
            global tide
            tide += 1
        rise()
        mark = tide
        def compare():
            global mark
            mark = mark * 10 + tide
        rise()
        compare()
        print(mark)
        """,
    "a list that grows before it is copied": """
        marks = [1]
        marks.append(2)
        copy = marks + [9]
        def add():
            global copy
            marks.append(3)
            copy = copy + marks
        add()
        print(marks, copy)
        """,
    "a division that may fail": """
        drops = len("")
        print("start")
        share = 10 / drops
        def use():
            global share, drops
            share, drops = drops, share
        use()
        """,
    "two names for one object": """
        log = []
        page = log
        def write(text):
            page.append(text)
        def clear():
            global page
            page = page + ["new"]
        write("a")
        clear()
        write("b")
        print(log, page, log is page)
        """,
    "objects changed through methods and keys": """
        seeds = {"oat": 1}
        shelf = [seeds]
        def add(name):
            seeds[name] = seeds.get(name, 0) + 1
            shelf[0]["all"] = len(seeds)
        add("rye")
        add("oat")
        print(seeds, shelf, shelf[0] is seeds)
        """,
    "evaluated once in a chain": """
        calls = 0
        def one():
            global calls
            calls += 1
            return [calls]
        left = right = one()
        def both():
            global left
            left.append(0)
            left = [9]
        both()
        print(left, right, calls)
        """,
    "left to right": """
        mark = 0
        def next_mark():
            global mark
            mark += 1
            return mark
        print(next_mark() - mark * next_mark(), [mark, next_mark(), mark], {next_mark(): mark})
        """,
    "an error in the middle": """
        done = []
        fuel = 2
        def burn():
            global fuel
            done.append(fuel)
            fuel -= 1
            return 6 // fuel
        try:
            while True:
                print(burn())
        except ZeroDivisionError as error:
            print("stopped", error)
        finally:
            print(done, fuel)
        """,
    "an error that nobody catches": """
        fuel = 1
        def burn():
            global fuel
            fuel -= 1
            return 6 // fuel
        print("go")
        burn()
        print("never")
        """,
    "a file that its function closes": """
        import os
        def main():
            out = open(name, "w")
            n = 0
            def note():
                nonlocal n
                n += 1
                out.write("x")
            note()
            note()
        name = "tide.log"
        main()
        print(open(name).read())
        os.remove(name)
        """,
    "an object that says when it goes": """
        class Door:
            def __del__(self):
                print("shut")
        door = Door()
        count = 0
        def knock():
            global count
            count += 1
            return door
        while count < 2:
            knock()
        print(count)
        """,
    "a decorator that registers": """
        ends = []
        count = 0
        def up():
            global count
            count += 1
        ends.append(lambda: print("first"))
        @ends.append
        def bye():
            print("second", count)
        up()
        print(count)
        for end in ends:
            end()
        """,
}
