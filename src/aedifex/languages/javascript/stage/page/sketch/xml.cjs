// Documents of XML, as sketches have them.
"use strict";

const { decoded } = require("../html.cjs");

const TOKEN = /<!--[\s\S]*?-->|<!\[CDATA\[([\s\S]*?)\]\]>|<[?!][^>]*>|<(\/?)([\w:.-]+)((?:"[^"]*"|'[^']*'|[^>"'])*?)(\/?)>|([^<]+)/g;
const ATTRIBUTE = /([\w:.-]+)\s*=\s*(?:"([^"]*)"|'([^']*)')/g;
const MADE_UP = { parts: 3, depth: 3 };

class Xml {
  constructor(name = "") {
    this.name = name;
    this.parent = null;
    this.attributes = {};
    this.inside = []; // texts and elements, in their order
    this.madeUp = 0; // how many levels more may be made up below
  }

  get elements() {
    return this.inside.filter((each) => each instanceof Xml);
  }

  /** Make up what is asked for and is not there, in a document that stands for one that is not here. */
  learn(name) {
    if (!this.madeUp || this.elements.some((each) => name === undefined || each.name === name)) return;
    this.inside = this.elements;
    for (let at = 1; at <= MADE_UP.parts; at++) {
      const part = Object.assign(new Xml(name ?? "part"), { madeUp: this.madeUp - 1 });
      part.inside.push(String(at));
      this.addChild(part);
    }
  }

  getParent() {
    return this.parent;
  }

  getName() {
    return this.name;
  }

  setName(name) {
    this.name = name;
  }

  hasChildren() {
    this.learn();
    return this.elements.length > 0;
  }

  listChildren() {
    return this.getChildren().map((each) => each.name);
  }

  getChildren(name) {
    this.learn(name);
    return this.elements.filter((each) => name === undefined || each.name === name);
  }

  getChild(which = 0) {
    return typeof which === "string" ? this.getChildren(which)[0] : this.getChildren()[which];
  }

  addChild(child) {
    child.parent = this;
    this.inside.push(child);
  }

  removeChild(which) {
    const child = this.getChild(which);
    if (child) this.inside.splice(this.inside.indexOf(child), 1);
  }

  getAttributeCount() {
    return this.listAttributes().length;
  }

  listAttributes() {
    return Object.keys(this.attributes);
  }

  hasAttribute(name) {
    if (this.madeUp) this.attributes[name] ??= String(this.parent ? this.parent.inside.indexOf(this) + 1 : 1);
    return name in this.attributes;
  }

  getString(name, otherwise = null) {
    return this.hasAttribute(name) ? this.attributes[name] : otherwise;
  }

  getNum(name, otherwise = 0) {
    return this.hasAttribute(name) ? Number(this.attributes[name]) : otherwise;
  }

  setAttribute(name, value) {
    this.attributes[name] = String(value);
  }

  getContent(otherwise = null) {
    return this.inside.map((each) => (each instanceof Xml ? each.getContent("") : each)).join("") || otherwise;
  }

  setContent(text) {
    if (!this.elements.length) this.inside = [String(text)];
  }

  serialize() {
    const attributes = Object.entries(this.attributes).map(([name, value]) => ` ${name}="${value}"`);
    const inside = this.inside.map((each) => (each instanceof Xml ? each.serialize() : each)).join("");
    return `<${this.name}${attributes.join("")}${inside ? `>${inside}</${this.name}>` : "/>"}`;
  }
}

function xmlOf(text) {
  const open = [new Xml()];
  for (const [, raw, isEnd, name, attributes, isEmpty, words] of text.matchAll(TOKEN)) {
    const said = raw ?? (words === undefined ? undefined : decoded(words));
    if (said !== undefined) open.at(-1).inside.push(said);
    else if (isEnd) open.length = Math.max(1, open.length - 1);
    else if (name !== undefined) {
      const element = new Xml(name);
      for (const [, key, one, two] of attributes.matchAll(ATTRIBUTE)) element.attributes[key] = decoded(one ?? two);
      open.at(-1).addChild(element);
      if (!isEmpty) open.push(element);
    }
  }
  return Object.assign(open[0].elements[0] ?? new Xml(), { parent: null });
}

/** A document that stands for one that is not here. */
function madeUpXml() {
  return Object.assign(new Xml("whole"), { madeUp: MADE_UP.depth });
}

module.exports = { Xml, madeUpXml, xmlOf };
