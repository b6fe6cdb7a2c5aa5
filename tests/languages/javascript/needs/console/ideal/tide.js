const readline = require("readline");

class Tide {
  constructor(rl) {
    this.rl = rl;
    this.level = 2.0;
    this.rising = true;
    this.gates = 0;
    this.log = [];
  }

  showStatus() {
    console.log(`Level ${this.level.toFixed(1)} m, ${this.rising ? "rising" : "falling"}, ${this.gates} gates open`);
  }

  step(hours) {
    for (let i = 0; i < hours; i++) {
      this.level += this.rising ? 0.3 : -0.3;
      if (this.level > 4) this.rising = false;
      if (this.level < 1) this.rising = true;
    }
    this.log.push(this.level.toFixed(1));
  }

  openGate() {
    if (this.gates < 4) {
      this.gates++;
      console.log("A gate opens.");
    } else {
      console.log("All gates are open.");
    }
  }

  closeGate() {
    if (this.gates > 0) this.gates--;
    this.showStatus();
  }

  handle(line) {
    const [command, value] = line.trim().split(" ");
    switch (command) {
      case "wait":
        this.step(Number(value) || 1);
        this.showStatus();
        break;
      case "open":
        this.openGate();
        break;
      case "close":
        this.closeGate();
        break;
      case "log":
        console.log(this.log.join(", "));
        break;
      case "quit":
        this.rl.close();
        return;
      default:
        console.log("wait N, open, close, log, quit");
    }
    this.rl.prompt();
  }

  run() {
    console.log("The tide table");
    this.showStatus();
    this.rl.prompt();
    this.rl.on("line", (line) => this.handle(line));
    this.rl.on("close", () => console.log(`Goodbye after ${this.log.length} steps.`));
  }
}

new Tide(readline.createInterface({ input: process.stdin, output: process.stdout })).run();
