// What a visitor does on a page: keys, the mouse, and what is chosen, written or touched.
"use strict";

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
const FIELDS = "input, textarea";
const NO_TEXT = ["button", "submit", "checkbox", "radio"];
const PRESSED = "button, a, option, label, summary, li, td";
const WITHIN = [5, 5];
const COMING = ["pointerover", "pointerenter", "mouseover", "mouseenter", "pointermove", "mousemove"];
const ALL_OF = ["html", "body"];
const TOUCHING = ["touchstart", "touchmove", "touchend"];
const PRESSING = ["pointerdown", "mousedown", "pointerup", "mouseup"];
const LEAVING = ["pointerout", "pointerleave", "mouseout", "mouseleave"];
const STEP = 100;

/** Does on a page what a scenario says: the page knows its document, and how things happen, and are clicked, there. */
class Visitor {
  constructor(page, events) {
    this.page = page;
    this.events = new Map();
    for (const event of events) this.events.set(event.turn, [...(this.events.get(event.turn) ?? []), event]);
    this.last = Math.max(0, ...this.events.keys());
  }

  /** Do what is to be done in a turn. */
  comes(turn) {
    for (const event of this.events.get(turn) ?? []) this.does(event);
  }

  /** Let the next turn begin where nothing else is due, as long as anything is done. */
  advance(world) {
    if (world.turn >= this.last) return false;
    world.clock.passFrame();
    world.turn += 1;
    this.comes(world.turn);
    return true;
  }

  does(event) {
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

  get at() {
    return this.page.document.activeElement;
  }

  key(name) {
    this.keyDown(name);
    this.keyUp(name);
  }

  keyDown(name) {
    const event = this.page.happens(this.at, "keydown", keyOf(name));
    if (name.length === 1 && !event.defaultPrevented) this.page.happens(this.at, "keypress", keyOf(name));
    this.page.sketch?.keyDown(keyOf(name));
  }

  keyUp(name) {
    this.page.happens(this.at, "keyup", keyOf(name));
    this.page.sketch?.keyUp(keyOf(name));
  }

  mouse(what, [x, y], button = 1) {
    const target = this.page.document.elementFromPoint(x, y) ?? this.page.document.documentElement;
    const buttons = what === "release" ? 0 : 1 << (BUTTONS[button] ?? 0);
    const given = { ...placeOf(x, y), bubbles: true, button: BUTTONS[button] ?? 0, buttons };
    const both = (name) => {
      this.page.happens(target, `pointer${name}`, { ...given, pointerId: 1, pointerType: "mouse" });
      this.page.happens(target, `mouse${name}`, given);
    };
    if (what !== "release") both("move");
    if (what === "click") both("down");
    this.page.sketch?.mouse(what, x, y);
    if (what === "drag") return;
    both("up");
    if (what === "click") this.page.happens(target, button === 3 ? "contextmenu" : "click", given);
  }

  /** Press what shows a text. */
  choose(text) {
    const shows = (element) => (element.textContent.trim() || element.value) === text;
    const found = [...this.page.found(PRESSED), ...this.page.found("input")].find(shows);
    if (!found) return;
    if (found.localName === "option") this.page.pick(found);
    else this.page.click(found);
  }

  /** Write a text into the n-th field, and finish it. */
  fill(text, number = 1) {
    const fields = this.page.found(FIELDS).filter((one) => !NO_TEXT.includes(one.type));
    const found = fields[(number - 1) % (fields.length || 1)];
    if (!found) return;
    this.page.enter(found, text);
    for (const type of ["keydown", "keyup"]) this.page.happens(found, type, keyOf("Enter"));
  }

  /** Touch, click and leave the n-th thing that listens for anything of that; a form is sent. */
  touch(number) {
    const kinds = ["click", "dblclick", "wheel", ...COMING, ...TOUCHING, ...PRESSING, ...LEAVING, "submit"];
    const hearing = this.page.hearing(...kinds);
    const inside = hearing.flatMap((one) => [...(ALL_OF.includes(one.localName) ? [] : one.children ?? [])]);
    const touched = [...new Set([...hearing, ...inside])]; // what is inside may be asked what it is
    if (!touched.length) return;
    const target = touched[(number - 1) % touched.length];
    const given = { ...placeOf(...WITHIN), bubbles: true };
    const touches = [this.page.touchOf({ identifier: 0, target, clientX: WITHIN[0], clientY: WITHIN[1] })];
    const happen = (types, more) => {
      for (const type of types)
        this.page.happens(target, type, { ...given, ...more, bubbles: !/(?:enter|leave)$/.test(type) });
    };
    happen(COMING);
    happen(TOUCHING.slice(0, -1), { touches, targetTouches: touches, changedTouches: touches });
    happen(TOUCHING.slice(-1), { touches: [], targetTouches: [], changedTouches: touches });
    happen(PRESSING);
    this.page.click(target);
    happen(["dblclick"]);
    happen(["wheel"], { deltaX: 0, deltaY: number % 2 ? STEP : -STEP });
    happen(LEAVING);
    if (this.page.hearing("submit").includes(target)) happen(["submit"]);
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

module.exports = { Visitor, WITHIN, placeOf };
