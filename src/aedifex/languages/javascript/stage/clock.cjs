// The virtual clock: time passes only when the program waits or asks, and always in the same way.
"use strict";

const START = 1_767_268_800_000;
const TICK = 0.01;
const SOON = 1000;
const LONGEST = 2 ** 31 - 1;
const FRAME = 1000 / 60;

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

  /** Let something be done as soon as what runs now is over. */
  addImmediate(call, given) {
    const one = new Timeout(this, call, 0, given, false);
    this.immediates.push(one);
    return one;
  }

  /** Let something be done when the next picture is due, told of the time. */
  addFrame(call) {
    const timer = this.add(() => call(this.now), 1, [], false);
    timer.at = (Math.floor(this.now / FRAME + 1e-9) + 1) * FRAME;
    return timer;
  }

  /** Let the time of one picture pass. */
  passFrame() {
    this.now += FRAME;
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
}

function carryOut(timer, uncaught) {
  try {
    timer.call.apply(timer, timer.given);
  } catch (error) {
    uncaught(error);
  }
}

/** The class of dates whose now is the clock's. */
function datesOf(clock) {
  const day = () => Math.floor(START + clock.ask());
  const VirtualDate = new Proxy(RealDate, {
    construct: (target, given, made) => Reflect.construct(target, given.length ? given : [day()], made),
    apply: () => new RealDate(day()).toString(),
    get: (target, name) => (name === "now" ? day : Reflect.get(target, name)),
  });
  RealDate.prototype.constructor = VirtualDate;
  return VirtualDate;
}

module.exports = { Clock, datesOf };
