// Elements that stand for those of a page that is not here: a script that comes alone asks for them all the same.
"use strict";

const { Element } = require("./elements.cjs");

const SIZE = { width: 640, height: 480 };
const OF_A_KIND = 9;
const SIMPLE = /^(?:[a-z][\w-]*)?(?:#[\w-]+|\.[\w-]+|\[[\w-]+(?:=["']?[\w-]+["']?)?\])*$/i;
const STEP = /\s*>\s*|\s+/;

/** An element of no known kind: it becomes one by what the script does with it. */
class MadeUpElement extends Element {
  get described() {
    const { id } = this.attributes;
    return id ? `#${id}` : super.described;
  }

  become(name) {
    if (this.localName !== "div") return;
    this.localName = name;
    this.tagName = this.nodeName = name.toUpperCase();
  }

  getContext(kind) {
    this.become("canvas");
    return super.getContext(kind);
  }

  get width() {
    return Number(this.attributes.width ?? SIZE.width);
  }

  set width(value) {
    super.width = value;
  }

  get height() {
    return Number(this.attributes.height ?? SIZE.height);
  }

  set height(value) {
    super.height = value;
  }

  get value() {
    this.become("input");
    return super.value;
  }

  set value(text) {
    this.become("input");
    super.value = text;
  }
}

/** Lets a page make up what its script, of this text, asks for: one element by its name, others while it begins. */
function makesUp(page, text) {
  const { document, world } = page;
  const { body } = document;
  document.makeUp = (root, selector, { isForAll = false } = {}) => {
    const steps = selector.trim().split(STEP);
    if (!steps.every((step) => SIMPLE.test(step))) return [];
    const isOne = steps.at(-1).includes("#");
    if (isOne ? isMadeBy(text, selector) : page.hasBegun) return [];
    const parent = steps.length > 1 ? root.querySelector(steps.slice(0, -1).join(" ")) : root;
    const home = parent === document ? body : parent;
    if (home !== body && !(home instanceof MadeUpElement)) return [];
    const made = Array.from({ length: isForAll && !isOne ? OF_A_KIND : 1 }, () => elementFor(document, steps.at(-1)));
    for (const element of made) home.place(element, home.childNodes.length);
    world.madeUp.add(selector.trim());
    return made;
  };
}

/** Whether the script gives an element of its own the name that it asks for. */
function isMadeBy(text, selector) {
  const [, id] = /#([\w-]+)/.exec(selector);
  return new RegExp(`\\bid\\b["']?\\s*[=:,]\\s*\\\\?["'\`]?${id}\\b`).test(text);
}

function elementFor(document, step) {
  const [tag] = /^[a-z][\w-]*/i.exec(step) ?? ["div"];
  const element = new MadeUpElement(document, tag);
  for (const [, sort, name, key, value = ""] of step.matchAll(/([#.])([\w-]+)|\[([\w-]+)(?:=["']?([\w-]+)["']?)?\]/g)) {
    if (sort === "#") element.attributes.id = name;
    else if (sort) element.attributes.class = [element.attributes.class, name].filter(Boolean).join(" ");
    else element.attributes[key] = value;
  }
  return element;
}

module.exports = { makesUp };
