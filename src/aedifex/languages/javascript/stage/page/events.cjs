// What happens to the elements of a page, and who is told of it.
"use strict";

const { inspect } = require("node:util");

/** Something that happens: as a browser has it, it goes up from its target unless somebody stops it. */
class PageEvent {
  constructor(type, given = {}) {
    Object.assign(this, { bubbles: false, cancelable: true, detail: null, ...given });
    Object.assign(this, { type, target: null, currentTarget: null, defaultPrevented: false, isStopped: false });
    this.isTrusted = false;
    this.isStoppedAtOnce = false;
  }

  preventDefault() {
    this.defaultPrevented = true;
  }

  stopPropagation() {
    this.isStopped = true;
  }

  stopImmediatePropagation() {
    this.isStopped = this.isStoppedAtOnce = true;
  }

  composedPath() {
    return pathOf(this.target);
  }

  /** What is printed of it: a browser shows no more at first, and inside are all variables of the page. */
  [inspect.custom]() {
    return `${this.constructor.name} ${this.type}`;
  }
}

/** What can be listened to. */
class Target {
  listeners = [];

  /** What is printed of it, which is nothing of who listens. */
  [inspect.custom]() {
    return this.described ?? this.constructor.name;
  }

  addEventListener(type, call, options) {
    const capture = typeof options === "object" ? Boolean(options?.capture) : Boolean(options);
    if (!call || this.listeners.some((one) => one.type === type && one.call === call && one.capture === capture))
      return;
    this.listeners.push({ type, call, capture, once: Boolean(options?.once) });
    options?.signal?.addEventListener?.("abort", () => this.removeEventListener(type, call, options));
  }

  removeEventListener(type, call, options) {
    const capture = typeof options === "object" ? Boolean(options?.capture) : Boolean(options);
    const isIt = (one) => one.type === type && one.call === call && one.capture === capture;
    this.listeners = this.listeners.filter((one) => !isIt(one));
  }

  dispatchEvent(event) {
    event.target = this;
    const path = pathOf(this);
    for (const one of [...path].reverse()) tell(one, event, true);
    for (const one of path) {
      if (one === this || event.bubbles) tell(one, event, false);
    }
    return !event.defaultPrevented;
  }

  /** Whether anybody hears of something that happens here. */
  hears(type) {
    return this.listeners.some((one) => one.type === type) || Boolean(handlerOf(this, type));
  }
}

/** What is told of something that happens to a target: that first, the window last. */
function pathOf(target) {
  const path = [];
  for (let one = target; one; one = one.parentNode ?? one.outer) path.push(one);
  return path;
}

function tell(target, event, capture) {
  if (event.isStopped) return;
  event.currentTarget = target;
  const inLine = capture ? null : handlerOf(target, event.type);
  const own = target.listeners.filter((one) => one.type === event.type && one.capture === capture);
  for (const one of [...(inLine ? [{ call: inLine }] : []), ...own]) {
    if (event.isStoppedAtOnce) return;
    if (one.once) target.listeners = target.listeners.filter((other) => other !== one);
    try {
      const answer = typeof one.call === "function" ? one.call.call(target, event) : one.call.handleEvent(event);
      if (answer === false && one.call === inLine) event.preventDefault();
    } catch (error) {
      target.world.pageError(error);
    }
  }
}

/** What is set as `onclick` or the like: a function, or the text of an attribute. */
function handlerOf(target, type) {
  const name = `on${type}`;
  const own = kept.get(target);
  const set = own && name in own ? own[name] : target[name];
  if (typeof set === "function") return set;
  const text = target.attributes?.[`on${type}`];
  if (text === undefined || set === null) return null;
  return target.world.compiled(text);
}

const kept = new WeakMap();

/** Let a window have what it calls on events: `var` sets that, and a function declared under such a name takes its place. */
function keepHandlers(window, names) {
  const own = Object.fromEntries(names.map((name) => [name, null]));
  kept.set(window, own);
  for (const name of names) {
    Object.defineProperty(window, name, {
      configurable: true,
      enumerable: false,
      get: () => own[name],
      set(value) {
        own[name] = typeof value === "function" ? value : null;
      },
    });
  }
}

module.exports = { PageEvent, Target, keepHandlers };
