// What a page keeps from one visit to the next.
"use strict";

const { shown } = require("./shown.cjs");

/** It can be asked by methods, and by members; what is kept anew is noted, with a word for how long. */
function storage(word, note) {
  const kept = new Map();
  const methods = {
    getItem: (name) => kept.get(String(name)) ?? null,
    setItem: (name, value) => {
      kept.set(String(name), String(value));
      note(`${word}: ${name} = ${shown(String(value))}`);
    },
    removeItem: (name) => kept.delete(String(name)) && note(`no longer ${word}: ${name}`),
    clear: () => {
      kept.clear();
      note(`nothing is ${word}`);
    },
    key: (at) => [...kept.keys()][at] ?? null,
  };
  return new Proxy(methods, {
    get: (_, name) => (name === "length" ? kept.size : methods[name] ?? kept.get(name)),
    set: (_, name, value) => methods.setItem(name, value) ?? true,
    deleteProperty: (_, name) => methods.removeItem(name) ?? true,
    has: (_, name) => kept.has(name),
    ownKeys: () => [...kept.keys()],
    getOwnPropertyDescriptor: (_, name) => ({
      value: kept.get(name),
      enumerable: true,
      configurable: true,
      writable: true,
    }),
  });
}

module.exports = { storage };
