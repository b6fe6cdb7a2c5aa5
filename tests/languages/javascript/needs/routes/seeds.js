const express = require("express");
const app = express();
app.use(express.json());

const seeds = [
  { id: 1, name: "Marsh bean", packets: 4 },
  { id: 2, name: "Quay pea", packets: 0 },
];
let nextId = 3;

app.get("/api/seeds", (req, res) => {
  res.json(seeds);
});

app.get("/api/seeds/:id", (req, res) => {
  const seed = seeds.find((s) => s.id === Number(req.params.id));
  if (!seed) {
    return res.status(404).json({ error: "not found" });
  }
  res.json(seed);
});

app.post("/api/seeds", (req, res) => {
  const seed = { id: nextId++, name: req.body.name, packets: req.body.packets || 0 };
  seeds.push(seed);
  res.status(201).json(seed);
});

app.post("/api/seeds/:id/take", (req, res) => {
  const seed = seeds.find((s) => s.id === Number(req.params.id));
  if (!seed) {
    return res.status(404).json({ error: "not found" });
  }
  if (seed.packets === 0) {
    return res.status(409).json({ error: "none left" });
  }
  seed.packets -= 1;
  res.json(seed);
});

app.listen(3000);
