# the landing stage: tickets, tides and the timetable of the cable ferry
import sqlite3

from flask import Flask, abort, jsonify, redirect, request, url_for

app = Flask(__name__)
DB = "landing.db"
LATE = 20

visits = 0

tides = [
    {"id": 1, "time": "04:10", "level": 3.1, "kind": "high"},
    {"id": 2, "time": "10:25", "level": 0.6, "kind": "low"},
    {"id": 3, "time": "16:40", "level": 3.3, "kind": "high"},
    {"id": 4, "time": "22:50", "level": 0.4, "kind": "low"},
]


def prepare():
    con = sqlite3.connect(DB)
    cur = con.cursor()
    cur.execute("create table if not exists tickets (id integer primary key, name text, trip text, used integer)")
    con.commit()
    con.close()


@app.before_request
def count():
    global visits
    visits += 1


@app.route("/")
def home():
    return f"<h1>Landing stage</h1><p>visit {visits}</p>"


@app.route("/timetable")
def timetable():
    trips = {
        "early": {"hour": 7, "price": 2.5},
        "noon": {"hour": 12, "price": 2.0},
        "late": {"hour": 20, "price": 3.5},
    }
    lines = []
    for name, trip in trips.items():
        lines.append(f"{name} at {trip['hour']}: {trip['price']:.2f}")
    return "<br>".join(lines)


@app.route("/timetable/<name>")
def one_trip(name):
    trips = {
        "early": {"hour": 7, "price": 2.5},
        "noon": {"hour": 12, "price": 2.0},
        "late": {"hour": 20, "price": 3.5},
    }
    if name not in trips:
        abort(404)
    trip = trips[name]
    hint = "bring a lamp" if trip["hour"] >= LATE else ""
    return jsonify(hour=trip["hour"], price=trip["price"], hint=hint)


@app.route("/tides")
def all_tides():
    kind = request.args.get("kind")
    return jsonify([tide for tide in tides if kind is None or tide["kind"] == kind])


@app.route("/tides/<int:number>")
def one_tide(number):
    for tide in tides:
        if tide["id"] == number:
            return jsonify(tide)
    return "no such tide", 404


@app.route("/tickets")
def tickets():
    con = sqlite3.connect(DB)
    cur = con.cursor()
    cur.execute("select id, name, trip, used from tickets order by id")
    rows = cur.fetchall()
    con.close()
    return jsonify([{"id": row[0], "name": row[1], "trip": row[2], "used": bool(row[3])} for row in rows])


@app.route("/tickets", methods=["POST"])
def sell():
    name = request.form.get("name", "")
    wanted = request.form.get("trip", "noon")
    if not name:
        return "a name, please", 400
    con = sqlite3.connect(DB)
    cur = con.cursor()
    cur.execute("insert into tickets (name, trip, used) values (?, ?, 0)", (name, wanted))
    con.commit()
    ticket = cur.lastrowid
    con.close()
    return jsonify(id=ticket, name=name), 201


@app.route("/tickets/<int:number>/use", methods=["POST"])
def use(number):
    con = sqlite3.connect(DB)
    cur = con.cursor()
    cur.execute("update tickets set used = 1 where id = ?", (number,))
    con.commit()
    con.close()
    return redirect(url_for("tickets"))


@app.errorhandler(404)
def missing(problem):
    return jsonify(error="nothing here", visit=visits), 404


prepare()

if __name__ == "__main__":
    app.run()
