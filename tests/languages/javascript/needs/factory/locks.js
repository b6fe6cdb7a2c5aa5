// Locks of the canal and the barges that wait before them.
function makeLock(name, capacity) {
  return { name: name, capacity: capacity, waiting: [], passed: 0 };
}

function arrive(lock, barge) {
  lock.waiting.push(barge);
  console.log(`${barge} waits at ${lock.name}`);
}

function open(lock) {
  let through = 0;
  while (lock.waiting.length > 0 && through < lock.capacity) {
    const barge = lock.waiting.shift();
    console.log(`  ${barge} goes through ${lock.name}`);
    through++;
  }
  lock.passed += through;
  return through;
}

function report(lock) {
  console.log(`${lock.name}: ${lock.passed} passed, ${lock.waiting.length} waiting`);
}

const upper = makeLock("Upper Lock", 2);
const lower = makeLock("Lower Lock", 1);
let day = 0;

function nextDay() {
  day++;
  console.log("Day " + day);
  const n = open(upper);
  for (let i = 0; i < n; i++) {
    arrive(lower, "barge " + day + "." + i);
  }
  open(lower);
}

["Heron", "Otter", "Plover", "Teal", "Wren"].forEach((b) => arrive(upper, b));
for (let d = 0; d < 4; d++) nextDay();
report(upper);
report(lower);
