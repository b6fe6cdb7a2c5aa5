"use strict";

const { inspect } = require("node:util");

/** What was asked of others, as it would be written, in the order of asking. */
const asked = [];
const kept = new Map();
const standIns = new Map();
const state = { isLoaded: false };

/** What a program is given when nothing is: no arguments, and no variables around it. */
const givenAtFirst = { "process.argv": () => ["node", "program"], "process.env": () => ({}) };

/** Something that stands in for what would show, play or wait: it notes what is asked of it. */
function standIn(name) {
  if (!standIns.has(name)) {
    const target = Object.assign(function () {}, { [inspect.custom]: () => name });
    const made = new Proxy(target, {
      get(_, key) {
        if (key === Symbol.toPrimitive) return valueOf(name);
        if (typeof key === "symbol" || key === "then" || key === "toJSON") return undefined;
        const whole = `${name}.${key}`;
        if (kept.has(whole)) return kept.get(whole);
        return whole in givenAtFirst ? givenAtFirst[whole]() : standIn(whole);
      },
      set(_, key, value) {
        asked.push(`${name}.${key} = ${shown(value)}`);
        kept.set(`${name}.${key}`, value);
        return true;
      },
      apply(_, owner, given) {
        asked.push(`${name}(${given.map(shown).join(", ")})`);
        if (isPromised(given[0])) given[0]();
        return standIn(`${name.split(".").pop()}()`);
      },
      construct(_, given) {
        asked.push(`new ${name}(${given.map(shown).join(", ")})`);
        return standIn(`new ${name}()`);
      },
    });
    standIns.set(name, made);
  }
  return standIns.get(name);
}

/** What is outside has no value: while the script is loaded that does not matter. */
function valueOf(name) {
  if (state.isLoaded) throw new TypeError(`${name} has no value here`);
  return () => NaN;
}

/** Whether a function is what a promise waits for: that stands in for waiting, which is over at once. */
function isPromised(value) {
  return typeof value === "function" && value.name === "" && /\{ \[native code\] \}$/.test(value);
}

/** How a value is written where something is asked: a function, and what stands in for something, by its name. */
function shown(value) {
  const text = inspect(value, { breakLength: Infinity, depth: 2 });
  const named = text.replace(/\[(?:Async)?Function: (?:bound )?(\w+)\](?: AsyncFunction)?/g, "$1");
  return named.replace(/\[(?:Async)?Function \(anonymous\)\]/g, "a function");
}

/** Something that gives these answers, one by one and the last again and again, and notes what it is asked. */
function answering(name, answers) {
  const ask = standIn(name);
  return (...given) => {
    ask(...given);
    return answers.length > 1 ? answers.shift() : answers[0];
  };
}

/** Forget what was asked. */
function forget() {
  asked.length = 0;
  kept.clear();
}

module.exports = { answering, asked, forget, standIn, state };
