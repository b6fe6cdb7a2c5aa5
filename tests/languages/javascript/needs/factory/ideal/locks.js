// Locks of the canal and the barges that wait before them.
class Lock {
  constructor(name, capacity) {
    this.name = name;
    this.capacity = capacity;
    this.waiting = [];
    this.passed = 0;
  }

  arrive(barge) {
    this.waiting.push(barge);
    console.log(`${barge} waits at ${this.name}`);
  }

  open() {
    let through = 0;
    while (this.waiting.length > 0 && through < this.capacity) {
      const barge = this.waiting.shift();
      console.log(`  ${barge} goes through ${this.name}`);
      through++;
    }
    this.passed += through;
    return through;
  }

  report() {
    console.log(`${this.name}: ${this.passed} passed, ${this.waiting.length} waiting`);
  }
}

class Locks {
  constructor() {
    this.upper = new Lock("Upper Lock", 2);
    this.lower = new Lock("Lower Lock", 1);
    this.day = 0;
  }

  nextDay() {
    this.day++;
    console.log("Day " + this.day);
    const n = this.upper.open();
    for (let i = 0; i < n; i++) this.lower.arrive("barge " + this.day + "." + i);
    this.lower.open();
  }

  run() {
    for (const barge of ["Heron", "Otter", "Plover", "Teal", "Wren"]) this.upper.arrive(barge);
    for (let d = 0; d < 4; d++) this.nextDay();
    this.upper.report();
    this.lower.report();
  }
}

new Locks().run();
