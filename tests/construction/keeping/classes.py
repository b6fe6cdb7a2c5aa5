"""Classes that the script has already: how their objects are made, who calls their methods, where they belong."""

SCRIPTS = {
    "an object made by its own class": """
        tides = 0

        def turn():
            global tides
            tides += 1

        class Buoy:
            def __init__(self, mark):
                self.mark = mark

            def next(self):
                turn()
                return type(self)(self.mark + 1)

            @classmethod
            def first(cls):
                turn()
                return cls(1)

        print(Buoy(4).next().mark, Buoy.first().mark)
        print(tides)
    """,
    "an object set up anew": """
        tides = 0

        def turn():
            global tides
            tides += 1

        class Buoy:
            def __init__(self, mark):
                self.mark = mark

            def reset(self):
                turn()
                self.__init__(0)

        buoy = Buoy(3)
        buoy.reset()
        print(buoy.mark, tides)
    """,
    "a class of numbers": """
        coins = 0

        def count():
            global coins
            coins += 1

        class Fare(int):
            def __init__(self, amount):
                count()

        print(Fare(5) + 1, coins)
    """,
    "a class of errors": """
        tolls = 0

        def count():
            global tolls
            tolls += 1

        class Closed(Exception):
            def __init__(self, why):
                count()

        try:
            raise Closed("fog")
        except Closed as closed:
            print(closed.args, str(closed), tolls)
    """,
    "a method reached by its name": """
        class Helm:
            def left(self):
                steer()

        speed = 1
        ferry_way = 0
        ferry_log = []

        def steer():
            global speed
            speed += 1

        helm = Helm()

        def ferry_go(name):
            global ferry_way
            ferry_way += 1
            getattr(helm, name)()
            ferry_log.append(speed)

        def ferry_show():
            print(ferry_way, ferry_log)

        ferry_go("left")
        ferry_show()
        print(speed)
    """,
    "a method kept as a value": """
        class Helm:
            def left(self):
                steer()

        speed = 1
        ferry_way = 0
        ferry_log = []

        def steer():
            global speed
            speed += 1

        order = Helm().left

        def ferry_go():
            global ferry_way
            ferry_way += 1
            order()
            ferry_log.append(speed)

        def ferry_show():
            print(ferry_way, ferry_log)

        ferry_go()
        ferry_show()
        print(speed)
    """,
    "an error that nobody catches": """
        class Dry(Exception):
            pass

        tank_level = 1
        tank_used = 0

        def tank_use():
            global tank_level, tank_used
            tank_used += 1
            tank_level -= 1
            if tank_level < 0:
                raise Dry(tank_used)

        def tank_show():
            print(tank_level, tank_used)

        tank_use()
        tank_show()
        try:
            tank_use()
        except Dry as dry:
            print(type(dry).__module__)
    """,
    "objects that are stored": """
        import pickle

        class Crate:
            pass

        ferry_load = []
        ferry_trips = 0

        def ferry_take():
            global ferry_trips
            ferry_trips += 1
            ferry_load.append(Crate())

        def ferry_save():
            global ferry_trips
            ferry_trips = 0
            return pickle.dumps(ferry_load)

        ferry_take()
        print(b"__main__" in ferry_save())
    """,
}
