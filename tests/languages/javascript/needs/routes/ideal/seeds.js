const express = require("express");
const app = express();
app.use(express.json());

class Seed {
  constructor(id, name, packets) {
    this.id = id;
    this.name = name;
    this.packets = packets;
  }
}

class SeedsRoutes {
  constructor() {
    this.seeds = [new Seed(1, "Marsh bean", 4), new Seed(2, "Quay pea", 0)];
    this.nextId = 3;
  }

  addTo(app) {
    app.get("/api/seeds", (req, res) => this.listSeeds(req, res));
    app.get("/api/seeds/:id", (req, res) => this.showSeed(req, res));
    app.post("/api/seeds", (req, res) => this.addSeed(req, res));
    app.post("/api/seeds/:id/take", (req, res) => this.takeSeed(req, res));
  }

  find(req) {
    return this.seeds.find((seed) => seed.id === Number(req.params.id));
  }

  listSeeds(req, res) {
    res.json(this.seeds);
  }

  showSeed(req, res) {
    const seed = this.find(req);
    if (!seed) return res.status(404).json({ error: "not found" });
    res.json(seed);
  }

  addSeed(req, res) {
    const seed = new Seed(this.nextId++, req.body.name, req.body.packets || 0);
    this.seeds.push(seed);
    res.status(201).json(seed);
  }

  takeSeed(req, res) {
    const seed = this.find(req);
    if (!seed) return res.status(404).json({ error: "not found" });
    if (seed.packets === 0) return res.status(409).json({ error: "none left" });
    seed.packets -= 1;
    res.json(seed);
  }
}

new SeedsRoutes().addTo(app);
app.listen(3000);
