// The stage's part in a real page, there before any script of it: time, chance, and the writing down of what is done.
"use strict";

const { dice } = require("../../../replay/chance.cjs");
const { Clock, datesOf } = require("../../clock.cjs");
const { messageOf } = require("../../said.cjs");
const { TypedLines } = require("../../typed.cjs");
const { Typist } = require("../../typist.cjs");
const { notCovered } = require("../../uncovered.cjs");
const { Visitor } = require("../../page/visitor.cjs");
const { watchCanvases } = require("./canvases.cjs");
const { watchDocument } = require("./changes.cjs");
const { watchLoading } = require("./loading.cjs");
const { installWindow } = require("./window.cjs");

const STOP = new Error("the stage is over");
const EVENTS = [
  [/^pointer/, PointerEvent],
  [/^(?:mouse|click|dblclick|contextmenu)/, MouseEvent],
  [/^touch/, TouchEvent],
  [/^wheel/, WheelEvent],
  [/^key/, KeyboardEvent],
  [/^input$/, InputEvent],
];

/** Set up the stage in the page that begins here. */
function install(plan) {
  if (window !== window.top) return;
  const world = { plan, turn: 0, askedForMore: false, ended: null };
  world.finish = (ending) => {
    world.ended ??= ending;
    throw STOP;
  };
  world.notCovered = (what) => world.finish({ uncovered: what });
  world.trace = new Notes(world);
  const clock = (world.clock = new Clock(world));
  world.typist = plan.improvised ? new Typist(plan.improvised) : null;
  world.typed = new TypedLines(world, plan.typed);
  const rest = watchLoading();
  installTime(clock);
  installChance(plan.seed);
  world.page = new InsidePage(world);
  world.flush = watchDocument(world);
  watchCanvases(world);
  installWindow(world);
  world.page.watchErrors();
  Object.defineProperty(window, "aedifexStage", { value: new Stage(world, rest) });
}

/** What the driver asks. */
class Stage {
  constructor(world, rest) {
    Object.assign(this, { world, rest });
  }

  /** Let the next thing happen; what is written down then says whether there was any. */
  async step() {
    const goesOn = this.next();
    return { ...(await this.settle()), goesOn };
  }

  next() {
    const { clock, page } = this.world;
    try {
      const report = (error) => page.throws(error);
      return clock.runImmediates(report) || clock.runNext(report) || page.advance();
    } catch (error) {
      if (error !== STOP) throw error;
      return false;
    }
  }

  /** Come to the end. */
  end() {
    this.world.ended ??= {};
    return this.settle();
  }

  /** Let what has been asked for come; then what has been written down, and how it ended if it has. */
  async settle() {
    await this.rest();
    this.world.flush();
    const { ended, unknown = "", clock, trace, typist } = this.world;
    const { uncovered = "", ...ending } = ended ?? {};
    const heard = ended ? typist?.told({ ...ending, ranOut: this.world.askedForMore }) : undefined;
    const seconds = Math.round(clock.waited) / 1000;
    return { entries: trace.taken(), goesOn: true, ended: ended && ending, uncovered, unknown, seconds, heard };
  }
}

/** What is written down in the page until the driver takes it. */
class Notes {
  constructor(world) {
    this.world = world;
    this.left = world.plan.entries;
    this.entries = [];
  }

  add(kind, text) {
    this.world.flush?.();
    this.put(kind, text);
  }

  put(kind, text) {
    if (--this.left < 0) this.world.finish({ stopped: "stopped: it did more than is written down" });
    this.entries.push([kind, text, this.where(new Error())]);
  }

  taken() {
    return this.entries.splice(0);
  }

  /** File and line, below the page's folder, of the innermost frame of the page's own scripts. */
  where(error) {
    const folder = this.world.plan.page.replace(/[^/]*$/, "");
    for (const line of String(error.stack).split("\n")) {
      const at = line.indexOf(folder);
      const found = at < 0 ? null : /^([^\s?#)]+?):(\d+)/.exec(line.slice(at + folder.length));
      if (found) return `${found[1]}:${found[2]}`;
    }
    return "";
  }
}

class InsidePage {
  constructor(world) {
    this.world = world;
    this.visitor = new Visitor(this, world.plan.events);
    this.heard = new WeakMap();
    this.watchListening();
  }

  get document() {
    return document;
  }

  turns() {
    this.visitor.comes(this.world.turn);
  }

  advance() {
    return this.visitor.advance(this.world);
  }

  happens(target, type, given = {}) {
    const Kind = EVENTS.find(([name]) => name.test(type))?.[1] ?? Event;
    const event = new Kind(type, { cancelable: true, composed: true, ...given });
    target.dispatchEvent(event);
    return event;
  }

  click(element) {
    element.click();
  }

  pick(option) {
    option.selected = true;
    for (const type of ["input", "change"]) this.happens(option.closest("select"), type, { bubbles: true });
  }

  enter(field, text) {
    field.focus();
    const home = field instanceof HTMLTextAreaElement ? HTMLTextAreaElement : HTMLInputElement;
    this.world.written.get(home).call(field, text);
    this.happens(field, "input", { bubbles: true, data: text });
    this.happens(field, "change", { bubbles: true });
  }

  touchOf(given) {
    return new Touch(given);
  }

  /** The elements of the page that are as a selector says. */
  found(selector) {
    return [...document.querySelectorAll(selector)];
  }

  /** The elements that hear of something that happens to them. */
  hearing(...types) {
    const hears = (one, type) => this.heard.get(one)?.has(type) || typeof one[`on${type}`] === "function";
    return [...document.querySelectorAll("*")].filter((one) => types.some((type) => hears(one, type)));
  }

  watchListening() {
    const { heard } = this;
    const { addEventListener } = EventTarget.prototype;
    EventTarget.prototype.addEventListener = function (type, ...given) {
      const target = this ?? window;
      heard.set(target, (heard.get(target) ?? new Set()).add(type));
      return addEventListener.call(target, type, ...given);
    };
  }

  // -- what goes wrong

  watchErrors() {
    window.addEventListener("error", (event) => event instanceof ErrorEvent && this.fails(event, event.error), true);
    window.addEventListener("unhandledrejection", (event) => this.fails(event, event.reason), true);
  }

  /** Let an error of a timer be as any that nobody catches. */
  throws(error) {
    if (error !== STOP) window.reportError(error);
  }

  fails(event, error) {
    if (error === STOP) {
      event.stopImmediatePropagation();
      return;
    }
    const name = error instanceof ReferenceError ? /^(\S+) is not defined/.exec(error.message)?.[1] : "";
    this.world.unknown ||= name;
    const uncovered = notCovered(error);
    if (uncovered) this.world.ended ??= { uncovered };
    const said = error instanceof Error ? `${error.name}: ${messageOf(error)}` : String(error ?? event.message);
    this.world.trace.add("err", `Uncaught ${said}\n`);
  }
}

// -- time and chance

function installTime(clock) {
  const number = (timer) => timer.number;
  const callable = (call) => (typeof call === "function" ? call : () => (0, eval)(String(call)));
  const frame = (call) => number(clock.addFrame(call));
  const soon = (call) => number(clock.add(() => call({ didTimeout: false, timeRemaining: () => 50 }), 1, [], false));
  const drop = (timer) => clock.drop(timer);
  Object.assign(window, {
    Date: datesOf(clock),
    setTimeout: (call, wait, ...given) => number(clock.add(callable(call), wait, given, false)),
    setInterval: (call, wait, ...given) => number(clock.add(callable(call), wait, given, true)),
    requestAnimationFrame: frame,
    requestIdleCallback: soon,
  });
  for (const name of ["clearTimeout", "clearInterval", "cancelAnimationFrame", "cancelIdleCallback"])
    window[name] = drop;
  performance.now = () => clock.ask();
  Object.defineProperty(Event.prototype, "timeStamp", { configurable: true, get: () => clock.now });
}

function installChance(seed) {
  Math.random = dice(seed);
  const drawn = dice(seed + 1);
  Crypto.prototype.getRandomValues = (target) => {
    const bytes = new Uint8Array(target.buffer, target.byteOffset, target.byteLength);
    for (let at = 0; at < bytes.length; at++) bytes[at] = Math.floor(drawn() * 256);
    return target;
  };
  Crypto.prototype.randomUUID = () => {
    const digits = Array.from({ length: 32 }, () => Math.floor(drawn() * 16).toString(16)).join("");
    return digits.replace(/^(.{8})(.{4}).(.{3}).(.{3})(.{12})$/, "$1-$2-4$3-a$4-$5");
  };
}

module.exports = { install };
