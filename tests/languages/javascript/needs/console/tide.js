const readline = require("readline");
const rl = readline.createInterface({ input: process.stdin, output: process.stdout });

let level = 2.0;
let rising = true;
let gates = 0;
const log = [];

function showStatus() {
  console.log(`Level ${level.toFixed(1)} m, ${rising ? "rising" : "falling"}, ${gates} gates open`);
}

function step(hours) {
  for (let i = 0; i < hours; i++) {
    level += rising ? 0.3 : -0.3;
    if (level > 4) rising = false;
    if (level < 1) rising = true;
  }
  log.push(level.toFixed(1));
}

function handle(line) {
  const [command, value] = line.trim().split(" ");
  switch (command) {
    case "wait":
      step(Number(value) || 1);
      showStatus();
      break;
    case "open":
      if (gates < 4) {
        gates++;
        console.log("A gate opens.");
      } else {
        console.log("All gates are open.");
      }
      break;
    case "close":
      if (gates > 0) gates--;
      showStatus();
      break;
    case "log":
      console.log(log.join(", "));
      break;
    case "quit":
      rl.close();
      return;
    default:
      console.log("wait N, open, close, log, quit");
  }
  rl.prompt();
}

console.log("The tide table");
showStatus();
rl.prompt();
rl.on("line", handle);
rl.on("close", () => {
  console.log(`Goodbye after ${log.length} steps.`);
});
