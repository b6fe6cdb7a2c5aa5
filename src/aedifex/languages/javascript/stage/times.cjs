// Puts the virtual clock in place of all by which a program of Node waits, and asks for the time.
"use strict";

const process = require("node:process");
const { promisify } = require("node:util");

const { datesOf } = require("./clock.cjs");

function installTimes(clock) {
  installTimers(clock);
  globalThis.Date = datesOf(clock);
  performance.now = () => clock.ask();
  const nanoseconds = () => BigInt(Math.round(clock.ask() * 1e6));
  process.hrtime = (before = [0, 0]) => {
    const passed = nanoseconds() - (BigInt(before[0]) * 1_000_000_000n + BigInt(before[1]));
    return [Number(passed / 1_000_000_000n), Number(passed % 1_000_000_000n)];
  };
  process.hrtime.bigint = nanoseconds;
  process.uptime = () => clock.ask() / 1000;
  installConsoleTimes(clock);
}

function installTimers(clock) {
  const setTimeout = (call, wait, ...given) => clock.add(call, wait, given, false);
  const setInterval = (call, wait, ...given) => clock.add(call, wait, given, true);
  const setImmediate = (call, ...given) => clock.addImmediate(call, given);
  const drop = (timer) => clock.drop(timer);
  const after = (wait, value) => new Promise((done) => setTimeout(done, wait, value));
  const soon = (value) => new Promise((done) => setImmediate(done, value));
  Object.defineProperty(setTimeout, promisify.custom, { value: after });
  Object.defineProperty(setImmediate, promisify.custom, { value: soon });
  const timers = {
    setTimeout,
    setInterval,
    setImmediate,
    clearTimeout: drop,
    clearInterval: drop,
    clearImmediate: drop,
  };
  Object.assign(globalThis, timers);
  Object.assign(require("node:timers"), timers);
  const promises = require("node:timers/promises");
  Object.assign(promises, { setTimeout: after, setImmediate: soon, setInterval: again(after) });
  if (promises.scheduler) Object.assign(promises.scheduler, { wait: after, yield: soon });
}

function installConsoleTimes(clock) {
  const begun = new Map();
  const tell = (label, ...more) => {
    if (begun.has(label)) console.log(`${label}: ${Math.round(clock.now - begun.get(label))}ms`, ...more);
  };
  console.time = (label = "default") => begun.set(`${label}`, clock.now);
  console.timeLog = (label = "default", ...more) => tell(`${label}`, ...more);
  console.timeEnd = (label = "default") => {
    tell(`${label}`);
    begun.delete(`${label}`);
  };
}

function again(after) {
  return async function* (wait, value) {
    for (;;) {
      await after(wait);
      yield value;
    }
  };
}

module.exports = { installTimes };
