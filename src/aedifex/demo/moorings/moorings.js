// Who is moored where in the river harbour: a small service.
const express = require("express");

const app = express();
app.use(express.json());

let moorings = [
  { id: 1, boat: "Heron", length: 7, nights: 2 },
  { id: 2, boat: "Teal", length: 5, nights: 1 },
];
let nextId = 3;
let requests = 0;
let freeMetres = 40;
const FEE = 4;

function find(id) {
  return moorings.find((mooring) => mooring.id === Number(id));
}

function feeOf(mooring) {
  return mooring.length * mooring.nights * FEE;
}

function metresTaken() {
  return moorings.reduce((sum, mooring) => sum + mooring.length, 0);
}

app.use((request, response, next) => {
  requests += 1;
  next();
});

app.get("/", (request, response) => {
  response.send(`${moorings.length} boats, ${freeMetres - metresTaken()} metres free`);
});

app.get("/moorings", (request, response) => {
  const { longest } = request.query;
  const shown = longest ? moorings.filter((mooring) => mooring.length <= Number(longest)) : moorings;
  response.json(shown);
});

app.get("/moorings/:id", (request, response) => {
  const mooring = find(request.params.id);
  if (!mooring) {
    return response.status(404).json({ error: "nobody is moored there" });
  }
  response.json(mooring);
});

app.get("/moorings/:id/fee", (request, response) => {
  const mooring = find(request.params.id);
  if (!mooring) {
    return response.status(404).json({ error: "nobody is moored there" });
  }
  response.json({ fee: feeOf(mooring) });
});

app.post("/moorings", (request, response) => {
  const { boat, length } = request.body;
  if (!boat || !(length > 0)) {
    return response.status(400).json({ error: "say which boat, and how long it is" });
  }
  if (metresTaken() + length > freeMetres) {
    return response.status(409).json({ error: "the quay is full" });
  }
  const mooring = { id: nextId++, boat, length, nights: 1 };
  moorings.push(mooring);
  response.status(201).json(mooring);
});

app.patch("/moorings/:id", (request, response) => {
  const mooring = find(request.params.id);
  if (!mooring) {
    return response.status(404).json({ error: "nobody is moored there" });
  }
  mooring.nights += 1;
  response.json(mooring);
});

app.delete("/moorings/:id", (request, response) => {
  moorings = moorings.filter((mooring) => mooring.id !== Number(request.params.id));
  response.sendStatus(204);
});

app.get("/requests", (request, response) => response.json({ requests }));

app.use((error, request, response, next) => {
  response.status(400).json({ error: error.message });
});

app.listen(8000, () => console.log("the harbour master is in"));
