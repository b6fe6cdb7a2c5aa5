// What the methods of some classes were given, and what they did, in values that a text can hold.
"use strict";

const { writeSync } = require("node:fs");

const { makerOf, written } = require("../replay/values.cjs");

const MOST_OF_ONE = 200;
const LONGEST = 800;
const MOST_ANSWERS = 12;
const DEEPEST = 2;
const WAITING = new Set(["requestAnimationFrame", "setTimeout", "setInterval"]);
const PLAIN = new Set(["number", "string", "boolean"]);
const NAMES = /(?<![.\w$])[A-Za-z_$][\w$]*/g;

/** Begin to watch; the result stops and writes the calls down. A watched script calls `aedifexWatched` for each class. */
function watchCalls(plan) {
  if (!plan.calls_file) return () => {};
  const watch = new CallWatch();
  Object.defineProperty(globalThis, "aedifexWatched", { value: (kind, routines) => watch.watched(kind, routines) });
  return () => writeSync(plan.calls_file, JSON.stringify(watch.calls), 0);
}

/** Notes calls as they begin, and keeps those that end with a result. */
class CallWatch {
  constructor() {
    this.kinds = new Map();
    this.calls = [];
    this.known = new Set();
    this.counts = new Map();
    this.names = new Map();
    this.open = [];
    this.before = new Set(Object.getOwnPropertyNames(globalThis));
  }

  /** Note also what functions of the page answer to the methods that are at work. */
  listen() {
    for (const name of Object.getOwnPropertyNames(globalThis)) {
      const found = Object.getOwnPropertyDescriptor(globalThis, name);
      const real = found.value;
      const isOfPage = !this.before.has(name) && !WAITING.has(name) && found.configurable;
      if (!isOfPage || typeof real !== "function" || real.prototype) continue;
      const heard = (...given) => {
        const answer = real(...given);
        if (PLAIN.has(typeof answer))
          for (const call of this.open.filter(Boolean)) (call.answers[name] ??= []).push(written(answer));
        return answer;
      };
      Object.defineProperty(globalThis, name, { ...found, value: heard });
    }
    this.before = new Set(Object.getOwnPropertyNames(globalThis));
  }

  /** A class whose calls are noted in the place of one; `routines` has the names of what its methods are given. */
  watched(kind, routines) {
    this.listen();
    this.kinds.set(kind.prototype, { name: kind.name, text: String(kind) });
    for (const [method, names] of Object.entries(routines)) {
      const found = Object.getOwnPropertyDescriptor(kind.prototype, method);
      if (method === "constructor" || typeof found?.value !== "function") continue;
      const watch = this;
      const real = found.value;
      const text = String(real);
      const noted = {
        [method](...given) {
          if (Object.getPrototypeOf(this) !== kind.prototype) return real.apply(this, given);
          const call = quietly(() => watch.begun(this, method, names, given, text));
          return watch.during(call, () => real.apply(this, given), () => this);
        },
      }[method];
      Object.defineProperty(noted, "length", { value: real.length });
      Object.defineProperty(kind.prototype, method, { ...found, value: noted });
    }
    const names = routines.constructor ?? [];
    const construct = (target, given, maker) => {
      if (maker !== watchedKind) return Reflect.construct(target, given, maker);
      const call = quietly(() => this.begun(null, "constructor", names, given, String(kind), kind.name));
      return this.during(call, () => Reflect.construct(target, given), (made) => made);
    };
    const watchedKind = new Proxy(kind, { construct });
    return watchedKind;
  }

  begun(owner, method, names, given, text, name = this.nameOf(owner)) {
    const of = `${name}.${method}`;
    if ((this.counts.get(of) ?? 0) >= MOST_OF_ONE || /\barguments\b/.test(text)) return null;
    return {
      class: name,
      method,
      given: given.slice(0, names.length).map((value, number) => [names[number], this.given(value, names[number], text)]),
      before: owner ? this.fields(owner) : {},
      returned: this.values(text),
      answers: {},
      of,
    };
  }

  /** Carry out a call, and keep it if it ends with a result; where it promises one, when that is there. */
  during(call, carryOut, ownerOf) {
    this.open.push(call);
    let result;
    try {
      result = carryOut();
    } finally {
      this.open.pop();
    }
    const answer = call?.method === "constructor" ? undefined : result;
    const ended = (value) => call && quietly(() => this.ended(call, ownerOf(result), value));
    if (answer instanceof Promise) answer.then(ended, () => {});
    else ended(answer);
    return result;
  }

  ended(call, owner, result) {
    const { of, answers, ...kept } = call;
    for (const [name, texts] of Object.entries(answers)) {
      kept.returned[name] = texts.length > MOST_ANSWERS ? null : `answering("${name}", [${texts.join(", ")}])`;
    }
    Object.assign(kept, { result: this.textOf(result, "result"), after: this.fields(owner) });
    const key = JSON.stringify(kept);
    if (this.known.has(key)) return;
    this.known.add(key);
    this.calls.push(kept);
    this.counts.set(of, (this.counts.get(of) ?? 0) + 1);
  }

  nameOf(owner) {
    return this.kinds.get(Object.getPrototypeOf(owner)).name;
  }

  /** The plain values that the names in a text have which nobody in the script declares: those of the page. */
  values(text) {
    if (!this.names.has(text)) this.names.set(text, new Set(text.match(NAMES)));
    const found = {};
    for (const name of this.names.get(text)) {
      const there = Object.getOwnPropertyDescriptor(globalThis, name);
      if (!there?.configurable) continue;
      const value = globalThis[name];
      if (PLAIN.has(typeof value)) found[name] = written(value);
    }
    return found;
  }

  /** The fields of an object, each as a text, or null where no text can hold it; its own methods, bound, are none. */
  fields(owner, outer = []) {
    const { text } = this.kinds.get(Object.getPrototypeOf(owner));
    const found = Object.entries(owner).filter(([name, value]) => !isBound(owner, name, value));
    return Object.fromEntries(
      found.map(([name, value]) => [name, this.given(value, name, text, `this.${name}`, [...outer, owner])])
    );
  }

  /** The text of an argument or a field. Of something foreign, it holds the plain values that `text` asks it for. */
  given(value, name, text, root = name, outer = []) {
    const isForeign = typeof value === "object" && value !== null && this.textOf(value, name, outer) === outside(name);
    const parts = isForeign ? partsAskedFor(value, root, text) : new Map();
    const isPlain = [...parts.values()].some((part) => typeof part !== "function" && written(part) !== null);
    return short(isPlain ? this.ofParts(parts, name) : this.textOf(value, name, outer));
  }

  /** An object that has just the parts of another that are asked for. */
  ofParts(parts, name) {
    const tree = {};
    for (const [way, value] of parts) {
      const steps = way.split(".");
      const last = steps.pop();
      let holder = tree;
      for (const step of steps) holder = holder[step] ??= {};
      if (!(last in holder) || typeof holder[last] !== "object") holder[last] = { text: written(value) ?? outside(`${name}.${way}`) };
    }
    const shown = (part) =>
      typeof part.text === "string"
        ? part.text
        : `{ ${Object.entries(part)
            .map(([key, inner]) => `${key}: ${shown(inner)}`)
            .join(", ")} }`;
    return shown(tree);
  }

  /** A value as the text that makes it anew, or one that stands in for it; null where no text can. */
  textOf(value, name, outer = []) {
    if (typeof value?.described === "string") return outside(name); // something of the stage's own
    const text = written(value, (each) => this.textOf(each, name, outer));
    if (text !== null || (typeof value !== "object" && typeof value !== "function")) return short(text);
    if (Array.isArray(value) || (isPlainObject(value) && !doesThings(value))) return null;
    const kind = this.kinds.get(Object.getPrototypeOf(value));
    if (!kind) return typeof value === "symbol" ? null : outside(name);
    if (outer.length > DEEPEST || outer.includes(value)) return null;
    const fields = Object.entries(this.fields(value, outer));
    if (fields.some(([, each]) => each === null)) return null;
    const given = fields.map(([key, each]) => `${key}: ${each}`).join(", ");
    return short(`${makerOf(kind.name)}(${given ? `{ ${given} }` : ""})`);
  }
}

/** What comes of looking at a program's values; null where that fails, which is no business of the program. */
function quietly(look) {
  try {
    return look();
  } catch {
    return null;
  }
}

/** What stands in for something of this name. */
function outside(name) {
  return `outside.${name.replace(/^[_#]+/, "")}`;
}

function short(text) {
  return text !== null && text.length <= LONGEST ? text : null;
}

function isPlainObject(value) {
  const kind = Object.getPrototypeOf(value);
  return kind === Object.prototype || kind === null;
}

/** Whether an object has more than values: functions of its own, or what works values out. */
function doesThings(object) {
  const parts = Object.values(Object.getOwnPropertyDescriptors(object));
  return parts.some((part) => part.get || part.set || typeof part.value === "function");
}

/** Whether a field holds the method of its name, bound to the object. */
function isBound(owner, name, value) {
  return typeof value === "function" && value.name === `bound ${name}` && name in Object.getPrototypeOf(owner);
}

/** The parts of an object that a text asks it for, and does not set, by the ways that lead there from its name. */
function partsAskedFor(value, root, text) {
  const found = new Map();
  const asked = new RegExp(`(?<![.\\w$])${root.replace(/[.$]/g, "\\$&")}((?:\\.[A-Za-z_$][\\w$]*)+)(?![\\w$]|\\s*[-+*/]?=[^=])`, "g");
  for (const [, ways] of text.matchAll(asked)) {
    let here = value;
    const way = [];
    for (const step of ways.slice(1).split(".")) {
      here = here[step];
      way.push(step);
      if (here === null || typeof here !== "object" || isPlainObject(here) || Array.isArray(here)) break;
    }
    if (here === null || typeof here !== "object" || written(here) !== null) found.set(way.join("."), here);
  }
  return found;
}

module.exports = { watchCalls };
