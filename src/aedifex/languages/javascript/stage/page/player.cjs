// Plays a page: its scripts in their order, and what a visitor does there.
"use strict";

const fs = require("node:fs");
const path = require("node:path");
const vm = require("node:vm");

const { codes } = require("../lines.cjs");
const { messageOf } = require("../said.cjs");
const { build } = require("./html.cjs");
const { makesUp } = require("./made_up.cjs");
const { isPage, isSketch } = require("./sorts.cjs");
const { Modules } = require("./modules.cjs");
const { installSketch } = require("./sketch/sketch.cjs");
const { Visitor, WITHIN, placeOf } = require("./visitor.cjs");
const { installWindow } = require("./window.cjs");

class Page {
  constructor(world, input) {
    this.world = world;
    this.script = world.plan.script;
    this.folder = path.dirname(this.script);
    this.missing = [];
    this.later = [];
    this.hasBegun = false;
    this.modules = new Modules(this);
    world.page = this;
    world.madeUp = new Set();
    world.notCovered = (what) => world.finish({ code: 1, uncovered: what });
    world.pageError = (error) => this.fails(error);
    world.compiled = (text) => new Function("event", text);
    world.load = (element) => this.loads(element);
    world.click = (element) => this.click(element);
    world.happens = (target, type, given) => this.happens(target, type, given);
    this.document = installWindow(world, input);
    this.visitor = new Visitor(this, world.plan.events);
  }

  /** Read the page, carrying out its scripts as they come, then those that wait for the end of it, and let it begin. */
  async open() {
    const text = fs.readFileSync(this.script, "utf8");
    if (isSketch(text)) this.sketch = installSketch(this.world);
    if (isPage(this.script)) build(this.document, this.document, text, (element, code, at) => this.meets(element, code, at, text));
    else {
      makesUp(this, text);
      this.carryOut(text, this.script);
    }
    for (const carry of this.later) {
      const end = carry();
      if (end) await end;
    }
    this.document.readyState = "interactive";
    this.happens(this.document, "DOMContentLoaded", { bubbles: true });
    this.document.readyState = "complete";
    this.happens(globalThis, "load");
    this.sketch?.begin();
    this.hasBegun = true;
  }

  /** A script of the page: written there, or in a file of its folder. */
  meets(element, code, at, page) {
    const { src, type = "", defer } = element.attributes;
    if (type === "importmap") this.modules.learn(code);
    if (type && type !== "module" && !/^(?:text|application)\/(?:java|ecma)script$/.test(type)) return;
    if (src === undefined) {
      const before = page.slice(0, at).replace(/[^\n]/g, " ");
      const known = codes.get(this.script) ?? page.replace(/[^\n]/g, " ");
      codes.set(this.script, known.slice(0, at) + code + known.slice(at + code.length));
      if (type === "module") this.later.push(() => this.carryOutModule(before + code, this.script));
      else this.run(element, () => this.carryOut(before + code, this.script));
      return;
    }
    const file = path.join(this.folder, src.split("?")[0]);
    if (src.includes("//") || !fs.existsSync(file)) {
      this.missing.push(src);
      return;
    }
    const text = fs.readFileSync(file, "utf8");
    if (!this.sketch && isSketch(text) && !("p5" in globalThis)) this.sketch = installSketch(this.world);
    const carry = () => this.run(element, () => this.carryOut(text, file));
    if (type === "module") this.later.push(() => this.carryOutModule(null, file));
    else if (defer === undefined) carry();
    else this.later.push(carry);
  }

  run(element, carry) {
    this.document.currentScript = element;
    carry();
    this.document.currentScript = null;
  }

  carryOut(text, filename) {
    try {
      new vm.Script(text, { filename }).runInThisContext();
    } catch (error) {
      this.fails(error);
    }
  }

  /** Carry out a module: a text of the page, or a file of its own. */
  async carryOutModule(text, file) {
    try {
      await (text === null ? this.modules.load(file) : this.modules.carryOut(text, file));
    } catch (error) {
      this.fails(error);
    }
  }

  /** An error that nobody catches: a page goes on. One that a library is missed for cannot be compared. */
  fails(error) {
    const name = error instanceof ReferenceError ? /^(\S+) is not defined/.exec(error.message)?.[1] : "";
    if (name && this.missing.length)
      this.world.notCovered(`what is not here (\`${name}\`, perhaps of ${this.missing[0]})`);
    if (name && this.sketch) this.world.notCovered(`\`${name}\`, perhaps of the sketch's library`);
    const said = error instanceof Error ? `${error.name}: ${messageOf(error)}` : String(error);
    this.world.trace.add("err", `Uncaught ${said}\n`);
    const { onerror } = globalThis;
    if (typeof onerror === "function") onerror(said, "", 0, 0, error);
  }

  /** An image, or a sound, is there a moment after it was asked for. */
  loads(element) {
    if (!["img", "audio", "video"].includes(element.localName)) return;
    globalThis.setTimeout(() => {
      element.complete = true;
      this.happens(element, element.localName === "img" ? "load" : "canplaythrough");
    }, 1);
  }

  // -- what a visitor does

  advance() {
    return this.visitor.advance(this.world);
  }

  turns() {
    this.visitor.comes(this.world.turn);
  }

  happens(target, type, given = {}) {
    const event = Object.assign(new globalThis.Event(type), given, {
      isTrusted: true,
      timeStamp: this.world.clock.now,
    });
    target.dispatchEvent(event);
    return event;
  }

  click(element) {
    if (element.disabled) return;
    if (element.type === "checkbox" || element.type === "radio")
      element.isChecked = element.type === "radio" || !element.checked;
    const event = this.happens(element, "click", { ...placeOf(...WITHIN), bubbles: true, button: 0, detail: 1 });
    if (element.type === "checkbox" || element.type === "radio") this.happens(element, "change", { bubbles: true });
    const form = element.closest("form");
    const submits =
      element.localName === "button" ? (element.type || "submit") === "submit" : element.type === "submit";
    if (form && submits && !event.defaultPrevented)
      this.happens(form, "submit", { bubbles: true, submitter: element });
  }

  /** Choose an option of a list. */
  pick(option) {
    const select = option.closest("select");
    select.picked = option;
    this.happens(select, "input", { bubbles: true });
    this.happens(select, "change", { bubbles: true });
  }

  /** Write a text into a field. */
  enter(field, text) {
    this.document.activeElement = field;
    field.typed = text;
    this.happens(field, "input", { bubbles: true, data: text });
    this.happens(field, "change", { bubbles: true });
  }

  /** What touches the page, at a place. */
  touchOf(given) {
    return { ...given, pageX: given.clientX, pageY: given.clientY };
  }

  /** The elements of the page that are as a selector says. */
  found(selector) {
    return this.document.found(selector);
  }

  /** The elements that hear of something that happens to them. */
  hearing(...types) {
    return [...this.document.below()].filter((one) => types.some((type) => one.hears(type)));
  }
}

module.exports = { Page };
