// What becomes of a page's document: what it is when it has been read, and each change from then on.
"use strict";

const { shortened, shown } = require("../../page/shown.cjs");

const UNSEEN = "script, style, template";
const FIELDS = [
  [HTMLInputElement, "value"],
  [HTMLInputElement, "checked"],
  [HTMLTextAreaElement, "value"],
  [HTMLSelectElement, "value"],
];
const ALL = { subtree: true, childList: true, attributes: true, characterData: true };

/** Watch the document; what comes back writes down the changes that have not been written down yet. */
function watchDocument(world) {
  const note = (text) => world.trace.put("page", text);
  const observer = new MutationObserver((records) => records.forEach((record) => tell(record, note)));
  describe();
  world.written = watchFields(world);
  const begin = () => {
    for (const line of outlineOf(document.body)) note(line);
    observer.observe(document, ALL);
  };
  document.addEventListener("DOMContentLoaded", begin, { once: true, capture: true });
  return () => observer.takeRecords().forEach((record) => tell(record, note));
}

/** Let nodes tell what they are called, as what else is written down does. */
function describe() {
  Object.defineProperty(Node.prototype, "described", {
    configurable: true,
    get() {
      if (this === document) return "the document";
      if (!(this instanceof Element)) return this.parentNode ? `a text of ${this.parentNode.described}` : "a text";
      const names = this.getAttribute("class")?.trim();
      return this.localName + (this.id ? `#${this.id}` : names ? `.${names.split(/\s+/).join(".")}` : "");
    },
  });
}

/** A line for each element that is seen: what it is, what it is given, and its own text. */
function* outlineOf(body) {
  for (const element of body.querySelectorAll("*")) {
    if (element.matches(UNSEEN)) continue;
    const set = [...element.attributes].map(({ name, value }) => ` ${name}=${shown(value)}`).join("");
    const texts = [...element.childNodes].filter((node) => node.nodeType === Node.TEXT_NODE);
    const text = texts.map((node) => node.data.trim()).join(" ").trim();
    yield shortened(`the page has ${element.localName}${set}${text ? `: ${text}` : ""}`);
  }
}

function tell({ type, target, attributeName, addedNodes, removedNodes }, note) {
  if (type === "attributes") {
    const value = target.getAttribute(attributeName);
    if (value === null) note(`${target.described} has no ${attributeName}`);
    else note(`${attributeName} of ${target.described} is ${shown(value)}`);
    return;
  }
  if (type === "characterData") {
    note(`${target.described} is ${shown(target.data)}`);
    return;
  }
  for (const node of removedNodes) note(`${target.described} loses ${contentOf(node)}`);
  for (const node of addedNodes) note(`${target.described} gets ${contentOf(node)}`);
}

function contentOf(node) {
  return node instanceof Element ? shortened(node.outerHTML) : shown(node.data ?? "");
}

/** Write down what scripts write into fields; what comes back is how one writes there as a visitor does. */
function watchFields(world) {
  const written = new Map();
  for (const [Kind, name] of FIELDS) {
    const { get, set } = Object.getOwnPropertyDescriptor(Kind.prototype, name);
    if (name === "value") written.set(Kind, set);
    Object.defineProperty(Kind.prototype, name, {
      configurable: true,
      enumerable: true,
      get,
      set(value) {
        if (this.isConnected) world.trace.add("page", `the ${name} of ${this.described} is ${shown(value)}`);
        set.call(this, value);
      },
    });
  }
  return written;
}

module.exports = { watchDocument };
