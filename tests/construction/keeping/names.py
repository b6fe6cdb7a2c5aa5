"""Names of the same spelling that are not the state. Read by spelling, each of these scripts comes out wrong."""

SCRIPTS = {
    "a parameter": """
        tide = 1
        def show(tide):
            return tide * 2
        def rise():
            global tide
            tide += 1
        rise()
        print(show(tide=5), tide)
        """,
    "a local": """
        tide = 1
        def guess():
            tide = 40
            tide += 2
            return tide
        def rise():
            global tide
            tide += 1
        rise()
        print(guess(), tide)
        """,
    "a comprehension's variable": """
        load = 3
        def fill():
            global load
            load += sum(load * 2 for load in range(4))
        def names():
            return [load for load in range(3)], {load: load for load in "ab"}
        fill()
        print(names(), load)
        """,
    "a lambda's parameter": """
        load = 3
        def fill():
            global load
            double = lambda load: load * 2
            load += double(load=4)
        fill()
        print(load)
        """,
    "a class's own name": """
        rings = 2
        class Bell:
            rings = 7
            def count(self):
                return self.rings
        def ring():
            global rings
            rings += Bell().count()
        ring()
        print(rings, Bell.rings)
        """,
    "an error's name": """
        trouble = 0
        def try_it(text):
            global trouble
            try:
                return int(text)
            except ValueError:
                trouble += 1
        def describe(text):
            try:
                return int(text)
            except ValueError as trouble:
                return str(trouble)
        try_it("no")
        print(describe("never"), trouble)
        """,
    "a file's name in `with`": """
        import io
        log = ["start"]
        def add(text):
            log.append(text)
        def read(text):
            with io.StringIO(text) as log:
                return log.read()
        add("more")
        print(read("tide"), log)
        """,
    "a loop's own variable": """
        kite = "red"
        def change(to):
            global kite
            kite = to
        def all_kites():
            out = []
            for kite in ("a", "b"):
                out.append(kite)
            return out
        change("blue")
        print(all_kites(), kite)
        """,
    "an inner function's local": """
        gauge = 4
        def outer():
            gauge = 10
            def inner():
                nonlocal gauge
                gauge += 1
                return gauge
            return inner() + inner()
        def rain():
            global gauge
            gauge += 2
        rain()
        print(outer(), gauge)
        """,
    "a keyword in a call": """
        seeds = 5
        def packet(name, seeds=1):
            return f"{name}:{seeds}"
        def take():
            global seeds
            seeds -= 1
        take()
        print(packet("oat", seeds=seeds), packet(seeds=2, name="rye"))
        """,
    "a name that a class makes for itself": """
        class Packet:
            seeds = 9
            all_seeds = [seeds, seeds + 1]
        seeds = 5
        def take():
            global seeds
            seeds -= Packet.seeds
        take()
        print(seeds, Packet.all_seeds)
        """,
    "a word in a text": """
        tide = 3
        def turn():
            global tide
            tide = -tide
            return "the tide turns"
        print(turn(), tide, "tide")
        """,
    "a self-showing template": """
        tide = 3
        def turn():
            global tide
            tide = -tide
        turn()
        print(f"{tide=} {tide = :>4}")
        """,
    "a pattern's name": """
        depth = 2
        def sink():
            global depth
            depth += 1
        def read(order):
            match order:
                case ["dive", depth]:
                    return depth * 10
                case {"depth": depth, **rest}:
                    return depth, rest
                case _:
                    return None
        sink()
        print(read(["dive", 4]), read({"depth": 1, "a": 2}), depth)
        """,
}
