// Plays a page: its scripts in their order, and what a visitor does there.
"use strict";

const fs = require("node:fs");
const path = require("node:path");
const vm = require("node:vm");

const { codes } = require("../lines.cjs");
const { messageOf } = require("../said.cjs");
const { build } = require("./html.cjs");
const { Modules } = require("./modules.cjs");
const { installSketch } = require("./sketch/sketch.cjs");
const { installWindow } = require("./window.cjs");

const PAGES = new Set([".html", ".htm"]);
const OF_A_PAGE = /\b(?:document|window|createCanvas|requestAnimationFrame|localStorage|addEventListener)\b/;
const OF_NODE = /\brequire\s*\(|\bprocess\.|^\s*import\b|\bmodule\.exports\b/m;
const OF_A_SKETCH =
  /(?<![.\w$])(?:create[A-Z]\w+|load[A-Z]\w+|noCanvas|background|ellipse|noStroke|noLoop|redraw|describe)\s*\(/;
const CALLED = [/\bfunction\s+setup\b|\bsetup\s*=/, /\bfunction\s+draw\b|\bdraw\s*=/];
const OF_ITS_OWN = /\bgetContext\s*\(|\bfunction\s+(?:createCanvas|background|ellipse)\b/;
const KEY_CODES = {
  ArrowLeft: 37,
  ArrowUp: 38,
  ArrowRight: 39,
  ArrowDown: 40,
  Enter: 13,
  Escape: 27,
  " ": 32,
  Tab: 9,
};
const BUTTONS = { 1: 0, 2: 1, 3: 2 };
const FRAME = 1000 / 60;
const FIELDS = "input, textarea";
const PRESSED = "button, a, option, label, summary, li, td";

/** Whether a script belongs to a page: it is one, or speaks of the document, and not of Node. */
function isOfPage(script) {
  if (PAGES.has(path.extname(script).toLowerCase())) return true;
  const text = fs.readFileSync(script, "utf8");
  return (OF_A_PAGE.test(text) || isSketch(text)) && !OF_NODE.test(text);
}

/** Whether a library for sketches calls what the script has: it draws by that, and on no canvas that it asked for itself. */
function isSketch(text) {
  return OF_A_SKETCH.test(text) && CALLED.some((name) => name.test(text)) && !OF_ITS_OWN.test(text);
}

class Page {
  constructor(world, input) {
    this.world = world;
    this.script = world.plan.script;
    this.folder = path.dirname(this.script);
    this.missing = [];
    this.later = [];
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
    this.events = new Map();
    for (const event of world.plan.events)
      this.events.set(event.turn, [...(this.events.get(event.turn) ?? []), event]);
    this.last = Math.max(0, ...this.events.keys());
  }

  /** Read the page, carrying out its scripts as they come, then those that wait for the end of it, and let it begin. */
  async open() {
    const isPage = PAGES.has(path.extname(this.script).toLowerCase());
    const text = fs.readFileSync(this.script, "utf8");
    if (isSketch(text)) this.sketch = installSketch(this.world);
    if (isPage) build(this.document, this.document, text, (element, code, at) => this.meets(element, code, at, text));
    else this.carryOut(text, this.script);
    for (const carry of this.later) {
      const end = carry();
      if (end) await end;
    }
    this.document.readyState = "interactive";
    this.happens(this.document, "DOMContentLoaded", { bubbles: true });
    this.document.readyState = "complete";
    this.happens(globalThis, "load");
    this.sketch?.begin();
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

  /** Let the next turn begin where nothing else is due, as long as a visitor does anything. */
  advance() {
    if (this.world.turn >= this.last) return false;
    this.world.clock.now += FRAME;
    this.world.turn += 1;
    this.turns();
    return true;
  }

  turns() {
    for (const event of this.events.get(this.world.turn) ?? []) this.visitor(event);
  }

  visitor(event) {
    if ("key" in event) this.key(event.key);
    else if ("press" in event) this.keyDown(event.press);
    else if ("let_go" in event) this.keyUp(event.let_go);
    else if ("type" in event) for (const sign of event.type) this.key(sign);
    else if ("choose" in event) this.choose(event.choose);
    else if ("fill" in event) this.fill(event.fill, event.field);
    else if ("touch" in event) this.touch(event.touch);
    else
      for (const what of ["click", "drag", "release"]) if (what in event) this.mouse(what, event[what], event.button);
  }

  happens(target, type, given = {}) {
    const event = Object.assign(new globalThis.Event(type), given, {
      isTrusted: true,
      timeStamp: this.world.clock.now,
    });
    target.dispatchEvent(event);
    return event;
  }

  key(name) {
    this.keyDown(name);
    this.keyUp(name);
  }

  keyDown(name) {
    const event = this.happens(this.document.activeElement, "keydown", keyOf(name));
    if (name.length === 1 && !event.defaultPrevented)
      this.happens(this.document.activeElement, "keypress", keyOf(name));
    this.sketch?.keyDown(keyOf(name));
  }

  keyUp(name) {
    this.happens(this.document.activeElement, "keyup", keyOf(name));
    this.sketch?.keyUp(keyOf(name));
  }

  mouse(what, [x, y], button = 1) {
    const target = this.document.elementFromPoint(x, y);
    const buttons = what === "release" ? 0 : 1 << (BUTTONS[button] ?? 0);
    const given = { ...placeOf(x, y), bubbles: true, button: BUTTONS[button] ?? 0, buttons };
    const both = (name) => {
      this.happens(target, `pointer${name}`, { ...given, pointerId: 1, pointerType: "mouse" });
      this.happens(target, `mouse${name}`, given);
    };
    if (what !== "release") both("move");
    if (what === "click") both("down");
    this.sketch?.mouse(what, x, y);
    if (what === "drag") return;
    both("up");
    if (what === "click") this.happens(target, button === 3 ? "contextmenu" : "click", given);
  }

  click(element) {
    if (element.disabled) return;
    if (element.type === "checkbox" || element.type === "radio")
      element.isChecked = element.type === "radio" || !element.checked;
    const event = this.happens(element, "click", { ...placeOf(5, 5), bubbles: true, button: 0, detail: 1 });
    if (element.type === "checkbox" || element.type === "radio") this.happens(element, "change", { bubbles: true });
    const form = element.closest("form");
    const submits =
      element.localName === "button" ? (element.type || "submit") === "submit" : element.type === "submit";
    if (form && submits && !event.defaultPrevented)
      this.happens(form, "submit", { bubbles: true, submitter: element });
  }

  /** Press what shows a text. */
  choose(text) {
    const shows = (element) => (element.textContent.trim() || element.value) === text;
    const found = [...this.document.querySelectorAll(PRESSED), ...this.document.querySelectorAll("input")].find(
      shows
    );
    if (!found) return;
    if (found.localName !== "option") {
      this.click(found);
      return;
    }
    const select = found.closest("select");
    select.picked = found;
    this.happens(select, "input", { bubbles: true });
    this.happens(select, "change", { bubbles: true });
  }

  fill(text, field = 1) {
    const fields = this.document
      .querySelectorAll(FIELDS)
      .filter((one) => !["button", "submit", "checkbox", "radio"].includes(one.type));
    const found = fields[(field - 1) % (fields.length || 1)];
    if (!found) return;
    this.document.activeElement = found;
    found.typed = text;
    this.happens(found, "input", { bubbles: true, data: text });
    this.happens(found, "change", { bubbles: true });
    for (const type of ["keydown", "keyup"]) this.happens(found, type, keyOf("Enter"));
  }

  /** Click on the n-th thing that listens for that. */
  touch(number) {
    const hearing = [...this.document.below()].filter((one) =>
      ["click", "mousedown", "pointerdown"].some((type) => one.hears(type))
    );
    if (!hearing.length) return;
    const target = hearing[(number - 1) % hearing.length];
    for (const type of ["pointerdown", "mousedown", "pointerup", "mouseup"])
      this.happens(target, type, { ...placeOf(5, 5), bubbles: true });
    this.click(target);
  }
}

function keyOf(name) {
  const code =
    name.length === 1
      ? /[a-z]/i.test(name)
        ? `Key${name.toUpperCase()}`
        : /\d/.test(name)
        ? `Digit${name}`
        : name
      : name;
  const keyCode = KEY_CODES[name] ?? name.toUpperCase().charCodeAt(0);
  const none = { ctrlKey: false, shiftKey: false, altKey: false, metaKey: false, repeat: false };
  return { key: name, code: name === " " ? "Space" : code, keyCode, which: keyCode, bubbles: true, ...none };
}

function placeOf(x, y) {
  return {
    clientX: x,
    clientY: y,
    offsetX: x,
    offsetY: y,
    pageX: x,
    pageY: y,
    x,
    y,
    screenX: x,
    screenY: y,
    movementX: 0,
    movementY: 0,
  };
}

module.exports = { Page, isOfPage };
