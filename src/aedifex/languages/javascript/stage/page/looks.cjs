// How an element looks, and what it keeps for scripts, as objects with members.
"use strict";

const { shown } = require("./shown.cjs");

/** What is said of how an element looks. */
function styleOf(element) {
  const set = {};
  const methods = {
    setProperty: (name, value) => (proxy[name] = value),
    getPropertyValue: (name) => set[name] ?? "",
    removeProperty: (name) => delete set[name],
    toString: () =>
      Object.entries(set)
        .map(([name, value]) => `${name}: ${value}`)
        .join("; "),
  };
  const proxy = new Proxy(set, {
    get: (_, name) => methods[name] ?? (typeof name === "symbol" ? undefined : set[name] ?? ""),
    set: (_, name, value) => {
      set[name] = String(value);
      element.note(`the style ${name} of ${element.described} is ${shown(String(value))}`);
      return true;
    },
  });
  return proxy;
}

function datasetOf(element) {
  const spelled = (name) => `data-${name.replace(/[A-Z]/g, (sign) => `-${sign.toLowerCase()}`)}`;
  return new Proxy(
    {},
    {
      get: (_, name) => (typeof name === "symbol" ? undefined : element.attributes[spelled(name)]),
      set: (_, name, value) => {
        element.setAttribute(spelled(name), value);
        return true;
      },
      has: (_, name) => spelled(String(name)) in element.attributes,
    }
  );
}

module.exports = { datasetOf, styleOf };
