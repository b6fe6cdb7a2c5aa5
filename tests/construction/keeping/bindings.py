"""Every way in which state is bound, and every place in which it is read."""

SCRIPTS = {
    "walrus": """
        last = None
        def read(lines):
            global last
            total = 0
            while (last := lines.pop(0)) != "quit":
                total += len(last)
            return total
        print(read(["ab", "c", "quit", "x"]), last)
        """,
    "for target": """
        turn = 0
        def spin():
            global turn
            for turn in range(5):
                if turn == 3:
                    break
        spin()
        print(turn)
        for turn in range(2):
            print(turn)
        """,
    "with target": """
        import io
        page = None
        def open_page():
            global page
            with io.StringIO("rain") as page:
                return page.read()
        print(open_page(), page.closed)
        """,
    "unpacking and star targets": """
        first, *others = 1, 2, 3
        def shift():
            global first, others
            first, *others = [*others, first]
            (first, (*others,)) = first, others
        shift()
        print(first, others)
        """,
    "chained and annotated": """
        low = high = 0
        mark: int = 4
        def flood():
            global low, high, mark
            low = high = mark
            mark: int
            mark -= 1
        """.replace("            mark: int\n", "")
    + """
        flood()
        print(low, high, mark)
        """,
    "every augmented sign": """
        water = 64
        def drain():
            global water
            water -= 1
            water *= 2
            water //= 3
            water |= 1
            water <<= 2
            water **= 2
            water %= 1000
        drain()
        print(water)
        """,
    "deleted and set anew": """
        rope = "new"
        def cut():
            global rope
            del rope
        def tie():
            global rope
            rope = "tied"
        cut()
        try:
            print(rope)
        except (NameError, AttributeError):
            print("no rope")
        tie()
        print(rope)
        """,
    "nested templates": """
        tide, width = 3.14159, 8
        def turn():
            global tide, width
            tide, width = -tide, width + 1
        turn()
        print(f"{tide:{width}.{2}f}|{f'{tide!r:>{width}}'}|{{tide}}")
        """,
    "subscripts, slices and calls": """
        lines = ["a", "b", "c"]
        at = 1
        def edit():
            global at
            lines[at] = lines[at - 1] + lines[at:][0]
            lines[at:at + 1] = ["x", "y"]
            at += len(lines)
        edit()
        print(lines, at, *lines, sep="-")
        """,
    "conditions and lambdas": """
        wind = 2
        def gust():
            global wind
            wind = wind * 2 if wind < 5 else (lambda more: more + wind)(1)
        gust()
        gust()
        gust()
        print(wind, not wind, 1 < wind < 20)
        """,
    "a generator that reads while it runs": """
        level = 1
        def levels():
            while level < 5:
                yield level
        def rise():
            global level
            level += 2
        for seen in levels():
            print(seen)
            rise()
        """,
    "default values are evaluated once": """
        step = 1
        def faster():
            global step
            step += 1
        def move(by=step):
            return by
        faster()
        print(move(), move(by=step))
        """,
    "a default that is kept between calls": """
        count = 0
        def note(text, seen=[]):
            global count
            seen.append(text)
            count += len(seen)
            return seen
        note("a")
        print(note("b"), count)
        """,
    "annotations in texts": """
        depth: "int" = 2
        def sink(by: "int" = 1) -> "int":
            global depth
            depth += by
            return depth
        print(sink(), depth, sink.__annotations__)
        """,
}
