// Elements of a page: what a script changes in them is written down while they are part of the page.
"use strict";

const { contextOf } = require("./canvas.cjs");
const { Target } = require("./events.cjs");
const { build, VOID } = require("./html.cjs");
const { shown } = require("./shown.cjs");

const REFLECTED = "id title href src alt type name placeholder htmlFor target rel lang dir max min step".split(" ");
const SPELLED = { htmlFor: "for", className: "class" };
const TRUTHS = ["hidden", "disabled", "readOnly", "required", "autofocus", "multiple", "selected", "contentEditable"];
const SIZES = { width: 300, height: 150 };
const BOX = { x: 0, y: 0, left: 0, top: 0 };

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
    return this.parentNode instanceof Element ? this.parentNode : null;
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
    const nodes = node instanceof Fragment ? [...node.childNodes] : [node];
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
    return this.childNodes.filter((node) => node instanceof Element);
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
    return this.siblings.slice(this.siblings.indexOf(this) + 1).find((node) => node instanceof Element) ?? null;
  }

  get previousElementSibling() {
    return this.siblings.slice(0, this.siblings.indexOf(this)).findLast((node) => node instanceof Element) ?? null;
  }

  *below() {
    for (const node of this.children) {
      yield node;
      yield* node.below();
    }
  }

  querySelectorAll(selector) {
    const ways = selector.split(",").map((one) => one.trim());
    return [...this.below()].filter((element) => ways.some((way) => element.matches(way)));
  }

  querySelector(selector) {
    return this.querySelectorAll(selector)[0] ?? null;
  }

  getElementsByTagName(name) {
    return [...this.below()].filter((element) => name === "*" || element.localName === name.toLowerCase());
  }

  getElementsByClassName(names) {
    return this.querySelectorAll(names.trim().replace(/^|\s+/g, "."));
  }
}

class Text extends PageNode {
  nodeType = 3;
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
  nodeType = 11;
  described = "a fragment";

  get outline() {
    return this.childNodes.map((node) => node.outline).join(", ");
  }

  bareCopy() {
    return new Fragment(this.ownerDocument);
  }
}

class Element extends PageNode {
  nodeType = 1;
  attributes = {};
  scrollTop = 0;
  scrollLeft = 0;

  constructor(document, name) {
    super(document);
    this.localName = name.toLowerCase();
    this.tagName = this.nodeName = name.toUpperCase();
    this.style = styleOf(this);
    this.dataset = datasetOf(this);
  }

  get described() {
    const { id, class: names } = this.attributes;
    return this.localName + (id ? `#${id}` : names ? `.${names.trim().split(/\s+/).join(".")}` : "");
  }

  get outline() {
    return this.outerHTML;
  }

  bareCopy() {
    const copy = new Element(this.ownerDocument, this.localName);
    copy.attributes = { ...this.attributes };
    return copy;
  }

  // -- attributes

  getAttribute(name) {
    return this.attributes[name.toLowerCase()] ?? null;
  }

  hasAttribute(name) {
    return name.toLowerCase() in this.attributes;
  }

  setAttribute(name, value) {
    this.attributes[name.toLowerCase()] = String(value);
    this.note(`${name} of ${this.described} is ${shown(String(value))}`);
    if (name === "src") this.world.load(this);
  }

  removeAttribute(name) {
    delete this.attributes[name.toLowerCase()];
    this.note(`${this.described} has no ${name}`);
  }

  toggleAttribute(name, isWanted = !this.hasAttribute(name)) {
    if (isWanted) this.setAttribute(name, "");
    else this.removeAttribute(name);
    return isWanted;
  }

  get className() {
    return this.attributes.class ?? "";
  }

  set className(names) {
    this.setAttribute("class", names);
  }

  get classList() {
    const names = this.className.split(/\s+/).filter(Boolean);
    const set = (wanted) => wanted.join(" ") !== this.className && this.setAttribute("class", wanted.join(" "));
    const list = Object.assign([...names], {
      contains: (name) => names.includes(name),
      add: (...more) => set([...new Set([...names, ...more])]),
      remove: (...gone) => set(names.filter((name) => !gone.includes(name))),
      replace: (one, other) => set(names.map((name) => (name === one ? other : name))),
      item: (at) => names[at] ?? null,
      toggle: (name, isWanted = !names.includes(name)) => {
        set(isWanted ? [...new Set([...names, name])] : names.filter((other) => other !== name));
        return isWanted;
      },
    });
    Object.defineProperty(list, "value", { get: () => this.className });
    return list;
  }

  get value() {
    if (this.localName === "select") return this.chosen?.value ?? "";
    return this.typed ?? this.attributes.value ?? (this.localName === "option" ? this.textContent : "");
  }

  set value(text) {
    if (this.localName === "select") this.picked = this.options.find((option) => option.value === String(text));
    else this.typed = String(text);
    this.note(`the value of ${this.described} is ${shown(String(text))}`);
  }

  get valueAsNumber() {
    return Number(this.value || NaN);
  }

  get checked() {
    return this.isChecked ?? "checked" in this.attributes;
  }

  set checked(value) {
    this.isChecked = Boolean(value);
    this.note(`${this.described} is ${value ? "checked" : "not checked"}`);
  }

  get options() {
    return this.getElementsByTagName("option");
  }

  get chosen() {
    return this.picked ?? this.options.find((option) => option.hasAttribute("selected")) ?? this.options[0];
  }

  get selectedIndex() {
    return this.options.indexOf(this.chosen);
  }

  // -- texts

  get innerText() {
    return this.textContent;
  }

  set innerText(text) {
    this.textContent = text;
  }

  get innerHTML() {
    return this.childNodes.map((node) => node.outerHTML).join("");
  }

  set innerHTML(text) {
    for (const node of this.childNodes) node.parentNode = null;
    this.childNodes = [];
    build(this.ownerDocument, this, String(text));
    this.note(`${this.described} holds ${shown(String(text))}`);
  }

  insertAdjacentHTML(where, text) {
    const holder = new Fragment(this.ownerDocument);
    build(this.ownerDocument, holder, String(text));
    this.insertAdjacentElement(where, holder);
  }

  insertAdjacentElement(where, node) {
    const ways = { beforebegin: "before", afterbegin: "prepend", beforeend: "append", afterend: "after" };
    this[ways[where.toLowerCase()]](node);
    return node;
  }

  get outerHTML() {
    const given = Object.entries(this.attributes).map(([name, value]) => ` ${name}="${escaped(value)}"`);
    const style = String(this.style) && !("style" in this.attributes) ? ` style="${this.style}"` : "";
    const head = `<${this.localName}${given.join("")}${style}>`;
    return VOID.has(this.localName) ? head : `${head}${this.innerHTML}</${this.localName}>`;
  }

  // -- looking for it

  matches(selector) {
    const parts = selector.trim().split(/\s*(>)\s*|\s+/).filter(Boolean);
    let element = this;
    if (!element.matchesOne(parts.pop())) return false;
    while (parts.length) {
      const isChild = parts.at(-1) === ">" && parts.pop();
      const wanted = parts.pop();
      element = element.parentElement;
      while (element && !isChild && !element.matchesOne(wanted)) element = element.parentElement;
      if (!element?.matchesOne(wanted)) return false;
    }
    return true;
  }

  matchesOne(selector) {
    const known = /^(?:[\w*-]+|#[\w-]+|\.[\w-]+|\[[^\]]+\]|:[\w-]+(?:\([^)]*\))?)/;
    for (let rest = selector; rest; ) {
      const part = known.exec(rest)?.[0];
      if (!part) throw new SyntaxError(`'${selector}' is not a valid selector.`);
      rest = rest.slice(part.length);
      if (!this.hasPart(part)) return false;
    }
    return true;
  }

  hasPart(part) {
    const name = part.slice(1);
    if (part[0] === "#") return this.attributes.id === name;
    if (part[0] === ".") return this.className.split(/\s+/).includes(name);
    if (part[0] === "[") {
      const [, key, value] = /^\[\s*([\w-]+)\s*(?:=\s*["']?([^"'\]]*)["']?\s*)?\]$/.exec(part) ?? [];
      return value === undefined ? key in this.attributes : this.attributes[key] === value;
    }
    if (part === ":checked") return this.checked;
    if (part === ":first-child") return !this.previousElementSibling;
    if (part === ":last-child") return !this.nextElementSibling;
    if (part[0] === ":") return this.world.notCovered(`the selector ${part}`);
    return part === "*" || this.localName === part.toLowerCase();
  }

  closest(selector) {
    for (let element = this; element; element = element.parentElement) if (element.matches(selector)) return element;
    return null;
  }

  // -- what it does

  getContext(kind) {
    if (kind !== "2d") return this.world.notCovered(`a canvas for ${kind}`);
    return (this.context ??= contextOf(this));
  }

  toDataURL() {
    return `data:image/png;base64,${this.described}`;
  }

  click() {
    this.world.click(this);
  }

  focus() {
    this.ownerDocument.activeElement = this;
    this.note(`${this.described} has the focus`);
  }

  blur() {
    this.ownerDocument.activeElement = this.ownerDocument.body;
  }

  select() {}

  scrollIntoView() {}

  setPointerCapture() {}

  releasePointerCapture() {}

  requestFullscreen() {
    this.note(`${this.described} fills the screen`);
    return Promise.resolve();
  }

  play() {
    this.world.trace.add("page", `plays ${this.described} ${shown(this.src)}`);
    return Promise.resolve();
  }

  pause() {
    this.world.trace.add("page", `stops ${this.described} ${shown(this.src)}`);
  }

  getBoundingClientRect() {
    const { width, height } = this;
    return { ...BOX, width, height, right: width, bottom: height };
  }

  get width() {
    return Number(this.attributes.width ?? SIZES.width);
  }

  set width(value) {
    this.setAttribute("width", value);
  }

  get height() {
    return Number(this.attributes.height ?? SIZES.height);
  }

  set height(value) {
    this.setAttribute("height", value);
  }

  get naturalWidth() {
    return this.width;
  }

  get naturalHeight() {
    return this.height;
  }
}

for (const name of REFLECTED) {
  const spelled = SPELLED[name] ?? name;
  Object.defineProperty(Element.prototype, name, {
    get() {
      return this.attributes[spelled] ?? "";
    },
    set(value) {
      this.setAttribute(spelled, value);
    },
  });
}
for (const name of TRUTHS) {
  Object.defineProperty(Element.prototype, name, {
    get() {
      return name.toLowerCase() in this.attributes;
    },
    set(value) {
      this.toggleAttribute(name.toLowerCase(), Boolean(value));
    },
  });
}
for (const [side, name] of [
  ["Width", "width"],
  ["Height", "height"],
]) {
  for (const kind of ["client", "offset", "scroll"]) {
    Object.defineProperty(Element.prototype, `${kind}${side}`, {
      get() {
        return this[name];
      },
    });
  }
}
for (const name of ["offsetLeft", "offsetTop"]) Object.defineProperty(Element.prototype, name, { get: () => 0 });

/** What is said of how an element looks. */
function styleOf(element) {
  const set = {};
  const methods = {
    setProperty: (name, value) => (proxy[name] = value),
    getPropertyValue: (name) => set[name] ?? "",
    removeProperty: (name) => delete set[name],
    toString: () => Object.entries(set).map(([name, value]) => `${name}: ${value}`).join("; "),
  };
  const proxy = new Proxy(set, {
    get: (_, name) => methods[name] ?? (typeof name === "symbol" ? undefined : (set[name] ?? "")),
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
    },
  );
}

function escaped(text) {
  return text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/"/g, "&quot;");
}

module.exports = { Element, Fragment, PageNode, Text };
