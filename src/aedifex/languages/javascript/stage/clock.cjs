// The virtual clock: time passes only when the program waits or asks, and always in the same way.
"use strict";

const process = require("node:process");
const { promisify } = require("node:util");

const START = 1_767_268_800_000;
const TICK = 0.01;
const SOON = 1000;
const LONGEST = 2 ** 31 - 1;

const RealDate = Date;

/** What a timer's function gives back: as Node has it, it may be given up, and keeps the program alive or not. */
class Timeout {
  constructor(clock, call, wait, given, repeats) {
    Object.assign(this, { clock, call, wait, given, repeats, keeps: true, isGone: false });
    this.number = ++clock.count;
    this.at = clock.now + wait;
    this.order = this.number;
  }

  ref() {
    this.keeps = true;
    return this;
  }

  unref() {
    this.keeps = false;
    return this;
  }

  hasRef() {
    return this.keeps;
  }

  refresh() {
    this.at = this.clock.now + this.wait;
    this.order = ++this.clock.count;
    return this;
  }

  close() {
    this.clock.drop(this);
    return this;
  }

  [Symbol.toPrimitive]() {
    return this.number;
  }

  [Symbol.dispose ?? "dispose"]() {
    this.close();
  }
}

/** Milliseconds since the program began, those that it has waited for, and all that it waits for. */
class Clock {
  constructor(world) {
    this.world = world;
    this.now = 0;
    this.waited = 0;
    this.count = 0;
    this.timers = new Map();
    this.immediates = [];
  }

  /** The time now; asking takes a moment, so that waiting in a loop comes to an end. */
  ask() {
    this.now += TICK;
    return this.now;
  }

  add(call, wait, given, repeats) {
    if (typeof call !== "function") throw new TypeError('The "callback" argument must be of type function.');
    const asked = Number(wait);
    const timer = new Timeout(this, call, asked >= 1 && asked <= LONGEST ? Math.trunc(asked) : 1, given, repeats);
    this.timers.set(timer.number, timer);
    return timer;
  }

  drop(timer) {
    const found = typeof timer === "object" ? timer : this.timers.get(Number(timer));
    if (!found) return;
    found.isGone = true;
    this.timers.delete(found.number);
    this.immediates = this.immediates.filter((one) => one !== found);
  }

  /** Whether there is something that keeps the program alive. */
  isBusy() {
    return this.immediates.length > 0 || [...this.timers.values()].some((timer) => timer.keeps);
  }

  /** Whether something that happens once is due so soon that nobody would have typed anything before. */
  isDueSoon() {
    return [...this.timers.values()].some((timer) => !timer.repeats && timer.keeps && timer.at - this.now <= SOON);
  }

  runImmediates(uncaught) {
    const due = this.immediates.splice(0);
    for (const one of due) if (!one.isGone) carryOut(one, uncaught);
    return due.length > 0;
  }

  /** Let time pass until the next thing is due, and carry that out; whether there was any. */
  runNext(uncaught) {
    if (!this.isBusy()) return false;
    const next = [...this.timers.values()].reduce((one, two) =>
      two.at < one.at || (two.at === one.at && two.order < one.order) ? two : one
    );
    if (next.at > this.now) {
      this.waited += next.at - this.now;
      this.now = next.at;
      const { turns } = this.world.plan;
      if (++this.world.turn > turns)
        this.world.finish({ code: 0, stopped: `the scenario ends after ${turns} turns` });
      this.world.page?.turns();
    }
    if (next.repeats) next.refresh();
    else this.timers.delete(next.number);
    carryOut(next, uncaught);
    return true;
  }

  install() {
    const setTimeout = (call, wait, ...given) => this.add(call, wait, given, false);
    const setInterval = (call, wait, ...given) => this.add(call, wait, given, true);
    const setImmediate = (call, ...given) => {
      const one = new Timeout(this, call, 0, given, false);
      this.immediates.push(one);
      return one;
    };
    const drop = (timer) => this.drop(timer);
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
    this.installDates();
  }

  installDates() {
    const day = () => Math.floor(START + this.ask());
    const VirtualDate = new Proxy(RealDate, {
      construct: (target, given, made) => Reflect.construct(target, given.length ? given : [day()], made),
      apply: () => new RealDate(day()).toString(),
      get: (target, name) => (name === "now" ? day : Reflect.get(target, name)),
    });
    RealDate.prototype.constructor = VirtualDate;
    globalThis.Date = VirtualDate;
    performance.now = () => this.ask();
    const nanoseconds = () => BigInt(Math.round(this.ask() * 1e6));
    process.hrtime = (before = [0, 0]) => {
      const passed = nanoseconds() - (BigInt(before[0]) * 1_000_000_000n + BigInt(before[1]));
      return [Number(passed / 1_000_000_000n), Number(passed % 1_000_000_000n)];
    };
    process.hrtime.bigint = nanoseconds;
    process.uptime = () => this.ask() / 1000;
    this.installConsoleTimes();
  }

  installConsoleTimes() {
    const begun = new Map();
    const tell = (label, ...more) => {
      if (begun.has(label)) console.log(`${label}: ${Math.round(this.now - begun.get(label))}ms`, ...more);
    };
    console.time = (label = "default") => begun.set(`${label}`, this.now);
    console.timeLog = (label = "default", ...more) => tell(`${label}`, ...more);
    console.timeEnd = (label = "default") => {
      tell(`${label}`);
      begun.delete(`${label}`);
    };
  }
}

function carryOut(timer, uncaught) {
  try {
    timer.call.apply(timer, timer.given);
  } catch (error) {
    uncaught(error);
  }
}

function again(after) {
  return async function* (wait, value) {
    for (;;) {
      await after(wait);
      yield value;
    }
  };
}

module.exports = { Clock };
