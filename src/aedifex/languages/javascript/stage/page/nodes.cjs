// Nodes of a page, and how they hang together: what becomes of them is written down while they are part of the page.
"use strict";

const { Target } = require("./events.cjs");
const { escaped } = require("./html.cjs");
const { shown } = require("./shown.cjs");

const ELEMENT = 1;
const TEXT = 3;
const FRAGMENT = 11;

class PageNode extends Target {
  parentNode = null;
  childNodes = [];

  constructor(document) {
    super();
    this.ownerDocument = document;
    this.world = document.world;
  }

  get isConnected() {
    let node = this;
    while (node.parentNode) node = node.parentNode;
    return node === this.ownerDocument;
  }

  /** Write down what is done to it, if it is to be seen. */
  note(text) {
    if (this.isConnected) this.world.trace.add("page", text);
  }

  get parentElement() {
    return this.parentNode?.nodeType === ELEMENT ? this.parentNode : null;
  }

  get firstChild() {
    return this.childNodes[0] ?? null;
  }

  get lastChild() {
    return this.childNodes.at(-1) ?? null;
  }

  get nextSibling() {
    return this.siblings[this.siblings.indexOf(this) + 1] ?? null;
  }

  get previousSibling() {
    return this.siblings[this.siblings.indexOf(this) - 1] ?? null;
  }

  get siblings() {
    return this.parentNode?.childNodes ?? [this];
  }

  get textContent() {
    return this.childNodes.map((node) => node.textContent).join("");
  }

  set textContent(text) {
    for (const node of this.childNodes) node.parentNode = null;
    this.childNodes = [];
    if (String(text)) this.place(this.ownerDocument.createTextNode(text), 0);
    this.note(`${this.described} says ${shown(String(text))}`);
  }

  /** Put a node at a place, out of where it was. */
  place(node, at) {
    const nodes = node.nodeType === FRAGMENT ? [...node.childNodes] : [node];
    for (const one of nodes) {
      one.leave();
      one.parentNode = this;
    }
    this.childNodes.splice(at, 0, ...nodes);
  }

  leave() {
    if (!this.parentNode) return;
    this.parentNode.childNodes = this.parentNode.childNodes.filter((node) => node !== this);
    this.parentNode = null;
  }

  appendChild(node) {
    this.place(node, this.childNodes.length);
    this.note(`${this.described} gets ${node.outline}`);
    return node;
  }

  insertBefore(node, other) {
    const at = other ? this.childNodes.indexOf(other) : this.childNodes.length;
    this.place(node, at < 0 ? this.childNodes.length : at);
    this.note(`${this.described} gets ${node.outline} at ${this.childNodes.indexOf(node)}`);
    return node;
  }

  removeChild(node) {
    if (node.parentNode !== this) throw new Error("The node to be removed is not a child of this node.");
    this.note(`${this.described} loses ${node.outline}`);
    node.leave();
    return node;
  }

  replaceChild(node, other) {
    this.insertBefore(node, other);
    return this.removeChild(other);
  }

  append(...nodes) {
    for (const node of nodes) this.appendChild(this.asNode(node));
  }

  prepend(...nodes) {
    for (const node of nodes.reverse()) this.insertBefore(this.asNode(node), this.firstChild);
  }

  replaceChildren(...nodes) {
    this.textContent = "";
    this.append(...nodes);
  }

  before(...nodes) {
    for (const node of nodes) this.parentNode?.insertBefore(this.asNode(node), this);
  }

  after(...nodes) {
    for (const node of nodes.reverse()) this.parentNode?.insertBefore(this.asNode(node), this.nextSibling);
  }

  replaceWith(...nodes) {
    this.before(...nodes);
    this.remove();
  }

  remove() {
    this.parentNode?.removeChild(this);
  }

  asNode(value) {
    return value instanceof PageNode ? value : this.ownerDocument.createTextNode(value);
  }

  contains(other) {
    for (let node = other; node; node = node.parentNode) if (node === this) return true;
    return false;
  }

  hasChildNodes() {
    return this.childNodes.length > 0;
  }

  cloneNode(isDeep = false) {
    const copy = this.bareCopy();
    if (isDeep) for (const node of this.childNodes) copy.place(node.cloneNode(true), copy.childNodes.length);
    return copy;
  }

  get children() {
    return this.childNodes.filter((node) => node.nodeType === ELEMENT);
  }

  get firstElementChild() {
    return this.children[0] ?? null;
  }

  get lastElementChild() {
    return this.children.at(-1) ?? null;
  }

  get childElementCount() {
    return this.children.length;
  }

  get nextElementSibling() {
    return this.siblings.slice(this.siblings.indexOf(this) + 1).find((node) => node.nodeType === ELEMENT) ?? null;
  }

  get previousElementSibling() {
    return this.siblings.slice(0, this.siblings.indexOf(this)).findLast((node) => node.nodeType === ELEMENT) ?? null;
  }

  *below() {
    for (const node of this.children) {
      yield node;
      yield* node.below();
    }
  }

  /** The elements below this that are as a selector says. */
  found(selector) {
    const ways = selector.split(",").map((one) => one.trim());
    return [...this.below()].filter((element) => ways.some((way) => element.matches(way)));
  }

  querySelectorAll(selector) {
    const found = this.found(selector);
    return found.length ? found : this.ownerDocument.makeUp(this, selector, { isForAll: true });
  }

  querySelector(selector) {
    return this.found(selector)[0] ?? this.ownerDocument.makeUp(this, selector)[0] ?? null;
  }

  getElementsByTagName(name) {
    return [...this.below()].filter((element) => name === "*" || element.localName === name.toLowerCase());
  }

  getElementsByClassName(names) {
    return this.querySelectorAll(names.trim().replace(/^|\s+/g, "."));
  }
}

class Text extends PageNode {
  nodeType = TEXT;
  nodeName = "#text";

  constructor(document, text) {
    super(document);
    this.data = String(text);
  }

  get textContent() {
    return this.data;
  }

  set textContent(text) {
    this.data = String(text);
    this.note(`${this.parentNode.described} says ${shown(this.data)}`);
  }

  get nodeValue() {
    return this.data;
  }

  set nodeValue(text) {
    this.textContent = text;
  }

  get outline() {
    return shown(this.data);
  }

  get outerHTML() {
    return escaped(this.data);
  }

  bareCopy() {
    return new Text(this.ownerDocument, this.data);
  }
}

class Fragment extends PageNode {
  nodeType = FRAGMENT;
  described = "a fragment";

  get outline() {
    return this.childNodes.map((node) => node.outline).join(", ");
  }

  bareCopy() {
    return new Fragment(this.ownerDocument);
  }
}

module.exports = { ELEMENT, Fragment, PageNode, Text };
