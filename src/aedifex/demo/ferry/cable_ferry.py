# cable ferry -- carry the carts over the river before the tide runs out
# type: left, right, stop, load, drop, status, wait 3, quit
import random
import sys

RIVER = 12  # planks from bank to bank
MAX_LOAD = 3
START_MONEY = 20
SIGNS = ["fair", "windy", "foggy"]

# ---------- the ferry
ferry_x = 0
ferry_speed = 0
ferry_load = []
ferry_trips, ferry_wear = 0, 0.0

# ---------- tide
tide = 2.0
tide_rising = True
tide_turns = 0

# ---------- queue on the quay
queue = ["hay cart", "milk cart"]
queue_lost = 0
next_cart = 3  # a new cart rolls up every few turns

money = START_MONEY
weather = "fair"
turn = 0
log = []


def plural(n, word):
    if n == 1:
        return "1 " + word
    return f"{n} {word}s"


def bar(x, width):
    # a little picture of the river, works for any position
    cells = ["~"] * (width + 1)
    cells[min(max(x, 0), width)] = "#"
    return "".join(cells)


def note(text):
    global log
    log = log[-4:] + [text]


def move_tide():
    global tide, tide_rising, tide_turns
    step = 0.3 if weather != "windy" else 0.5
    if tide_rising:
        tide += step
    else:
        tide -= step
    if tide > 4 or tide < 0.5:
        tide_rising = not tide_rising
        tide_turns += 1


def move_ferry():
    global ferry_x, ferry_speed, ferry_wear, ferry_trips
    if ferry_speed == 0:
        return
    x = ferry_x + ferry_speed
    if x <= 0 or x >= RIVER:
        x = 0 if x <= 0 else RIVER
        ferry_speed = 0
        ferry_trips += 1
    ferry_x = x
    ferry_wear += 0.1 * (1 + len(ferry_load))


def load_ferry():
    global money
    if ferry_x != 0:
        note("the carts wait on the other bank")
    elif not queue:
        note("nobody is waiting")
    elif len(ferry_load) >= MAX_LOAD:
        note("the deck is full")
    else:
        cart = queue.pop(0)
        ferry_load.append(cart)
        money += 2
        note(f"{cart} rolls aboard")


def drop_ferry():
    global money
    if ferry_x == RIVER and ferry_load:
        money += 5 * len(ferry_load)
        note(f"{plural(len(ferry_load), 'cart')} landed")
        ferry_load.clear()
    else:
        note("nothing to land here")


def ferry_stuck():
    return tide < 0.8 and 0 < ferry_x < RIVER


def grow_queue():
    global next_cart, queue_lost
    next_cart -= 1
    if next_cart <= 0:
        next_cart = random.randint(2, 5)
        queue.append(random.choice(["hay", "milk", "seed", "wool"]) + " cart")
    while len(queue) > 6:
        lost = queue.pop()
        queue_lost += 1
        note(f"the {lost} turns back")


def print_frame():
    print(f"turn {turn:>3}  [{bar(ferry_x, RIVER)}]  {weather}, water {tide:.1f}")
    print(f"   deck {ferry_load}  quay {queue}  {money=}")
    for line in log:
        print("   .", line)


# ---------- main loop
print("The cable ferry is open. Type quit to leave.")
while True:
    try:
        words = input("> ").split()
    except EOFError:
        break
    if not words:
        continue
    command = words[0].lower()
    amount = 1
    if len(words) > 1 and words[1].isdigit():
        amount = int(words[1])
    log = []
    # --- what the skipper wants
    if command == "quit":
        break
    elif command == "left":
        ferry_speed = -amount
    elif command == "right":
        ferry_speed = amount
    elif command == "stop":
        ferry_speed = 0
    elif command == "load":
        load_ferry()
    elif command == "drop":
        drop_ferry()
    elif command == "status":
        print(f"{plural(ferry_trips, 'trip')}, wear {ferry_wear:.1f}, tide turned {plural(tide_turns, 'time')}")
        continue
    elif command != "wait":
        print("unknown command", command)
        continue
    # --- the world goes on
    for i in range(amount if command == "wait" else 1):
        turn += 1
        move_tide()
        if ferry_stuck():
            note("the ferry sits on the mud")
        else:
            move_ferry()
        grow_queue()
        if random.random() < 0.15:
            weather = random.choice(SIGNS)
    if ferry_wear > 9:
        money -= 4
        ferry_wear = 0
        note("the rope had to be spliced")
    print_frame()
    if money < 0:
        print("The ferry is sold to pay the rope maker.")
        sys.exit(1)

score = money + 3 * ferry_trips - 2 * queue_lost
print(f"You leave after {plural(turn, 'turn')} with {money} coins, score {score}.")
