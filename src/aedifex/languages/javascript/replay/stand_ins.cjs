"use strict";

const { inspect } = require("node:util");

/** What was asked of others, as it would be written, in the order of asking. */
const asked = [];
const kept = new Map();
const standIns = new Map();
const state = { isLoaded: false };

/** Something that stands in for what would show, play or wait: it notes what is asked of it. */
function standIn(name) {
  if (!standIns.has(name)) {
    const target = Object.assign(function () {}, { [inspect.custom]: () => name });
    const made = new Proxy(target, {
      get(_, key) {
        if (key === Symbol.toPrimitive) return valueOf(name);
        if (typeof key === "symbol" || key === "then" || key === "toJSON") return undefined;
        return kept.has(`${name}.${key}`) ? kept.get(`${name}.${key}`) : standIn(`${name}.${key}`);
      },
      set(_, key, value) {
        asked.push(`${name}.${key} = ${shown(value)}`);
        kept.set(`${name}.${key}`, value);
        return true;
      },
      apply(_, owner, given) {
        asked.push(`${name}(${given.map(shown).join(", ")})`);
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

/** How a value is written where something is asked: a function, and what stands in for something, by its name. */
function shown(value) {
  const text = inspect(value, { breakLength: Infinity, depth: 2 });
  return text.replace(/\[Function: (?:bound )?(\w+)\]/g, "$1").replace(/\[Function \(anonymous\)\]/g, "a function");
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
