// What a sketch puts beside its canvas: sliders, buttons, fields. Each is an element of the page, with the library's methods.
"use strict";

const NUMBERS = new Set(["range", "number"]);

class Widget {
  constructor(sketch, element) {
    this.elt = element;
    this.sketch = sketch;
    this.described = element.described;
    sketch.world.document.body.appendChild(element);
  }

  get width() {
    return this.elt.width;
  }

  get height() {
    return this.elt.height;
  }

  value(text) {
    if (text === undefined) return NUMBERS.has(this.elt.type) ? Number(this.elt.value) : this.elt.value;
    this.elt.value = text;
    return this;
  }

  checked(value) {
    if (value === undefined) return this.elt.checked;
    this.elt.checked = value;
    return this;
  }

  html(text) {
    if (text === undefined) return this.elt.innerHTML;
    this.elt.innerHTML = text;
    return this;
  }

  option(text, value = text) {
    const option = this.elt.ownerDocument.createElement("option");
    option.textContent = text;
    option.attributes.value = String(value);
    this.elt.appendChild(option);
    return this;
  }

  selected(value) {
    return this.value(value);
  }

  disable(value) {
    for (const option of this.elt.children) {
      if (value === undefined || option.attributes.value === String(value)) option.setAttribute("disabled", "");
    }
    return this;
  }

  addClass(name) {
    return this.class([this.class(), name].filter(Boolean).join(" "));
  }

  removeAttribute(name) {
    this.elt.removeAttribute(name);
    return this;
  }

  style(name, value) {
    if (value === undefined) return this.elt.style[name];
    this.elt.style[name] = value;
    return this;
  }

  attribute(name, value) {
    if (value === undefined) return this.elt.getAttribute(name);
    this.elt.setAttribute(name, value);
    return this;
  }

  id(name) {
    return this.attribute("id", name);
  }

  class(name) {
    return this.attribute("class", name);
  }

  position(x, y) {
    if (x === undefined) return { x: 0, y: 0 };
    return this.style("left", `${x}px`).style("top", `${y}px`);
  }

  size(width, height) {
    return this.style("width", `${width}px`).style("height", `${height}px`);
  }

  parent(other) {
    const home = typeof other === "string" ? this.elt.ownerDocument.getElementById(other) : other.elt ?? other;
    home.appendChild(this.elt);
    return this;
  }

  child(other) {
    this.elt.appendChild(other.elt ?? other);
    return this;
  }

  hide() {
    return this.style("display", "none");
  }

  show() {
    return this.style("display", "block");
  }

  remove() {
    this.elt.remove();
  }

  hears(type, call) {
    this.elt.addEventListener(type, call);
    return this;
  }
}

for (const [name, type] of Object.entries({
  mousePressed: "mousedown",
  mouseReleased: "mouseup",
  mouseClicked: "click",
  mouseOver: "mouseover",
  mouseOut: "mouseout",
  input: "input",
  changed: "change",
})) {
  Widget.prototype[name] = function (call) {
    return this.hears(type, call);
  };
}

/** The functions with which a sketch makes them. */
function widgetsOf(sketch) {
  const make = (tag, attributes = {}, text = "") => {
    const element = sketch.world.document.createElement(tag);
    for (const [name, value] of Object.entries(attributes)) {
      if (value !== undefined) element.attributes[name] = String(value);
    }
    if (text !== "") element.innerHTML = text;
    return new Widget(sketch, element);
  };
  const checkbox = (text, value) => {
    const box = make("input", { type: "checkbox", value: text });
    box.elt.isChecked = Boolean(value);
    return box;
  };
  return {
    createSlider: (min, max, value = (min + max) / 2, step = 1) =>
      make("input", { type: "range", min, max, value, step }),
    createButton: (text, value) => make("button", { value }, text),
    createInput: (value = "", type = "text") => make("input", { type, value }),
    createSelect: () => make("select"),
    createCheckbox: (text = "", value = false) => checkbox(text, value),
    createDiv: (text = "") => make("div", {}, text),
    createP: (text = "") => make("p", {}, text),
    createSpan: (text = "") => make("span", {}, text),
    createA: (href, text) => make("a", { href }, text),
    createImg: (src, alt = "") => make("img", { src, alt }),
    createElement: (tag, text = "") => make(tag, {}, text),
  };
}

module.exports = { widgetsOf };
