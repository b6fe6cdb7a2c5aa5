"""First values and constants that something else reaches: an alias, a function of a library, a class, an operator."""

SCRIPTS = {
    "a list changed by its other name": """
        rings = [1, 2]
        line = rings
        line.append(3)
        tide = len(rings)

        def rise():
            global tide
            tide += len(rings)
            print("tide", tide, rings)

        rise()
        print("end", tide)
    """,
    "a list shuffled by a library": """
        import random

        random.seed(4)
        kites = [1, 2, 3, 4, 5]
        random.shuffle(kites)
        first = kites[0]

        def fly():
            global first
            first += kites[-1]
            print(first, kites)

        fly()
        fly()
    """,
    "a list changed through a loop's name": """
        seeds = [3]
        beds = [1]
        for bed in (seeds, beds):
            bed.append(len(bed))
        count = len(seeds) + len(beds)

        def sow():
            global count
            count += 1
            seeds.append(count)
            print(seeds, beds, count)

        sow()
    """,
    "a list changed by a function that is given it": """
        depths = [4]

        def deepen(line):
            line.append(9)

        deepen(depths)
        deepest = max(depths)

        def sound():
            global deepest
            deepest += 1
            print(deepest, depths)

        sound()
    """,
    "an operator of its own class": """
        class Knot:
            made = 0

            def __add__(self, other):
                Knot.made += 1
                return Knot.made

        knot = Knot()
        print("before", Knot.made)
        speed = knot + 1

        def row():
            global speed
            speed += 1
            print(speed, Knot.made)

        row()
    """,
    "a setting of a library": """
        import sys

        sys.harbour = 3
        berths = sys.harbour
        sys.harbour = 5
        free = sys.harbour

        def moor():
            global free
            free -= 1
            print(berths, free)

        moor()
    """,
}
