# kites over the quay
# Left and Right pull the red kite's strings, a and d the blue one's,
# w changes the wind, space lets the red kite loop
import random
from turtle import *

WIDTH, HEIGHT = 600, 400
GROUND = -150
PULL = 14

# --- wind
wind_speed = 2
wind_angle = 0
wind_gusts = 0

# --- red kite
red = Turtle()
red_x, red_y = -120, 40
red_pull = 0
red_loops = 0

# --- blue kite
blue = Turtle()
blue_x, blue_y = 120, 60
blue_pull = 0

pen_text = Turtle()
frame = 0
tangled = False
best = 0
message = "pull the strings"


def clamp(value, low, high):
    return max(low, min(high, value))


def set_up():
    setup(WIDTH, HEIGHT)
    title("kites")
    bgcolor("lightblue")
    tracer(0)
    for kite, color in ((red, "red"), (blue, "blue")):
        kite.shape("triangle")
        kite.color(color)
        kite.penup()
    pen_text.hideturtle()
    pen_text.penup()
    red.goto(red_x, red_y)
    blue.goto(blue_x, blue_y)
    draw_quay()


def draw_quay():
    quay = Turtle(visible=False)
    quay.penup()
    quay.goto(-WIDTH / 2, GROUND)
    quay.pendown()
    quay.width(4)
    for _ in range(12):
        quay.forward(WIDTH / 12)
        quay.dot(6, "brown")


def blow():
    global wind_speed, wind_angle, wind_gusts
    wind_angle = (wind_angle + random.choice([-10, 0, 10])) % 360
    if random.random() < 0.2:
        wind_speed = random.randint(1, 5)
        wind_gusts += 1
    ontimer(blow, 400)


def change_wind():
    global wind_speed
    wind_speed = wind_speed % 5 + 1


def pull_red_left():
    global red_pull
    red_pull = -PULL


def pull_red_right():
    global red_pull
    red_pull = PULL


def loop_red():
    global red_loops, message
    red_loops += 1
    message = f"{red_loops} loops"
    for _ in range(6):
        red.left(60)
        red.forward(5)


def move_red():
    global red_x, red_y, red_pull
    red_x = clamp(red_x + wind_speed + red_pull, -WIDTH / 2, WIDTH / 2)
    red_y = clamp(red_y + random.randint(-3, 3), GROUND + 30, HEIGHT / 2)
    red_pull = 0
    red.setheading(wind_angle + 90)
    red.goto(red_x, red_y)


def move_blue():
    global blue_x, blue_y, blue_pull
    blue_x = clamp(blue_x - wind_speed + blue_pull, -WIDTH / 2, WIDTH / 2)
    blue_y = clamp(blue_y + random.randint(-2, 4), GROUND + 30, HEIGHT / 2)
    blue_pull = 0
    blue.setheading(wind_angle + 90)
    blue.goto(blue_x, blue_y)


def pull_blue(way):
    global blue_pull
    blue_pull = way * PULL


def write_text():
    pen_text.clear()
    pen_text.goto(-WIDTH / 2 + 20, HEIGHT / 2 - 40)
    pen_text.write(f"wind {wind_speed} {message} best {best}", font=("Arial", 14, "normal"))


def tick():
    global frame, tangled, best, message
    frame += 1
    move_red()
    move_blue()
    tangled = red.distance(blue) < 25
    if tangled:
        message = "tangled!"
        red.dot(10, "yellow")
    elif frame % 10 == 0:
        best = max(best, int(red.distance(blue)))
        message = "fly on"
    write_text()
    update()
    ontimer(tick, 50)


set_up()
onkey(pull_red_left, "Left")
onkey(pull_red_right, "Right")
onkey(lambda: pull_blue(-1), "a")
onkey(lambda: pull_blue(1), "d")
onkey(change_wind, "w")
onkey(loop_red, "space")
listen()
blow()
tick()
mainloop()
print("best distance", best, "after", frame, "frames and", wind_gusts, "gusts")
