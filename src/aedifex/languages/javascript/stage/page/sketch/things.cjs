// Things of a sketch's library that have no inside here: what is asked of them is written down.
"use strict";

const { shown } = require("../shown.cjs");

const NOT_ASKED = new Set(["then", "toJSON"]);

/** Something whose methods are written down, whatever they are called. */
function thing(name, note) {
  const own = { described: name, width: 100, height: 100, elt: {} };
  return new Proxy(own, {
    get: (set, key) => {
      if (key in set || typeof key === "symbol" || NOT_ASKED.has(key)) return set[key];
      return (...given) => {
        note(`${name}: ${key}(${given.map(shown).join(", ")})`);
        return own;
      };
    },
  });
}

module.exports = { thing };
