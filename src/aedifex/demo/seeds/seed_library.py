"""The seed library in the harbour shed: packets to borrow, three drawers to keep them dry.

Commands: list, borrow NAME WHO, bring WHO, air DRAWER, day, quit
"""

import random

random.seed(11)

# the packets
packets = []

# --- the drawers, top to bottom
drawer1_label = "beans"
drawer1_damp = 2
drawer1_open = False

drawer2_label = "herbs"
drawer2_damp = 5
drawer2_open = False

drawer3_label = "flowers"
drawer3_damp = 9
drawer3_open = False

# the loans: who has what, and since which day. same place, same loan!
borrowers = []
borrowed = []
days_out = []

day = 1
lost = 0


def make_packet(name, drawer, seeds):
    packet = {}
    packet["name"] = name
    packet["drawer"] = drawer
    packet["seeds"] = seeds
    packet["good"] = True
    return packet


def describe(packet):
    state = "good"
    if not packet["good"]:
        state = "mouldy"
    print(f"  {packet['name']:<10} {packet['seeds']:>3} seeds, drawer {packet['drawer']}, {state}")


def get_damp(packet, damp):
    # damp seeds go mouldy, the more of them the faster
    if damp > 10 and random.random() < 0.5:
        packet["good"] = False
    if not packet["good"]:
        packet["seeds"] -= 1


def find_packet(name):
    for packet in packets:
        if packet["name"] == name:
            return packet
    return None


def weather_drawer1():
    global drawer1_damp, drawer1_open
    if drawer1_open:
        drawer1_damp = max(0, drawer1_damp - 4)
        drawer1_open = False
    else:
        drawer1_damp += random.randint(0, 2)


def weather_drawer2():
    global drawer2_damp, drawer2_open
    if drawer2_open:
        drawer2_damp = max(0, drawer2_damp - 4)
        drawer2_open = False
    else:
        drawer2_damp += random.randint(0, 2)


def weather_drawer3():
    global drawer3_damp, drawer3_open
    if drawer3_open:
        drawer3_damp = max(0, drawer3_damp - 4)
        drawer3_open = False
    else:
        drawer3_damp += random.randint(0, 2)


def borrow(name, who):
    packet = find_packet(name)
    if packet is None:
        print("there is no", name)
        return
    if packet["seeds"] < 5:
        print("too few", name)
        return
    packet["seeds"] -= 5
    borrowers.append(who)
    borrowed.append(name)
    days_out.append(0)
    print(who, "takes five", name)


def bring(who):
    for i in range(len(borrowers)):
        if borrowers[i] == who:
            packet = find_packet(borrowed[i])
            packet["seeds"] += 5 + days_out[i]
            print(who, "brings", borrowed[i], "after", days_out[i], "days")
            del borrowers[i]
            del borrowed[i]
            del days_out[i]
            return
    print(who, "has nothing")


def pass_day():
    global day, lost
    day += 1
    weather_drawer1()
    weather_drawer2()
    weather_drawer3()
    for packet in packets:
        if packet["drawer"] == 1:
            get_damp(packet, drawer1_damp)
        elif packet["drawer"] == 2:
            get_damp(packet, drawer2_damp)
        else:
            get_damp(packet, drawer3_damp)
        if packet["seeds"] < 1:
            lost += 1
            packet["seeds"] = 1
    for i in range(len(borrowers)):
        days_out[i] += 1
        if days_out[i] > 6:
            print("a letter to", borrowers[i], "about the", borrowed[i])


def show():
    print("day", day)
    for packet in packets:
        describe(packet)
    print("drawer", drawer1_label, "damp", drawer1_damp)
    print("drawer", drawer2_label, "damp", drawer2_damp)
    print("drawer", drawer3_label, "damp", drawer3_damp)


packets.append(make_packet("peas", 1, 40))
packets.append(make_packet("thyme", 2, 15))
packets.append(make_packet("cress", 2, 25))
packets.append(make_packet("poppy", 3, 60))

while True:
    words = input("seeds> ").split()
    if not words:
        continue
    if words[0] == "quit":
        break
    if words[0] == "list":
        show()
    elif words[0] == "borrow" and len(words) == 3:
        borrow(words[1], words[2])
    elif words[0] == "bring" and len(words) == 2:
        bring(words[1])
    elif words[0] == "air" and len(words) == 2:
        if words[1] == "1":
            drawer1_open = True
        elif words[1] == "2":
            drawer2_open = True
        else:
            drawer3_open = True
    elif words[0] == "day":
        pass_day()
    else:
        print("what is", words[0])

print("days:", day, "lost:", lost)
