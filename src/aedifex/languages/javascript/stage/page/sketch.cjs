// A stand-in for the library of a sketch: it calls `setup` and `draw`, and writes down what is drawn.
"use strict";

const { fileAt } = require("./asking.cjs");
const { shown } = require("./shown.cjs");
const { CALLED, spaceOf } = require("./space.cjs");
const { widgetsOf } = require("./widgets.cjs");

const FRAME = 1000 / 60;
const DRAWN =
  `angleMode applyMatrix arc background beginShape bezier bezierVertex blend blendMode circle clear colorMode cursor
  curve curveVertex ellipse ellipseMode endShape erase fill filter frameRate fullscreen image imageMode line loadPixels noCursor
  noErase noFill noSmooth noStroke noTint pixelDensity point pop push quad quadraticVertex rect rectMode resetMatrix resizeCanvas
  rotate saveCanvas scale set shearX shearY smooth square stroke strokeCap strokeJoin strokeWeight text textAlign textFont
  textLeading textSize textStyle tint translate triangle updatePixels vertex print describe textOutput gridOutput`.split(
    /\s+/
  );
const MISSING =
  `copy createCapture createFileInput createRadio createColorPicker select selectAll
  loadTable loadXML httpGet httpPost`.split(/\s+/);
const MODES = `CENTER LEFT RIGHT TOP BOTTOM BASELINE CORNER CORNERS RADIUS CLOSE OPEN CHORD PIE RGB HSB HSL P2D ROUND SQUARE
  PROJECT MITER BEVEL POINTS LINES TRIANGLES TRIANGLE_STRIP TRIANGLE_FAN QUADS QUAD_STRIP BOLD ITALIC NORMAL BOLDITALIC BLEND
  ADD MULTIPLY SCREEN DARKEST LIGHTEST DIFFERENCE EXCLUSION OVERLAY ARROW CROSS HAND MOVE TEXT WAIT DEGREES RADIANS WORD CHAR WEBGL
  THRESHOLD GRAY OPAQUE INVERT POSTERIZE DILATE ERODE BLUR LABEL FALLBACK GRID AUTO TESS LINE_STRIP LINE_LOOP IMAGE REPEAT CLAMP
  MIRROR NEAREST LINEAR SMOOTH FLAT CONTAIN COVER RGBA UNSIGNED_BYTE FLOAT HALF_FLOAT WEBGL2 AXES`;
const CODES = {
  LEFT_ARROW: 37,
  UP_ARROW: 38,
  RIGHT_ARROW: 39,
  DOWN_ARROW: 40,
  ENTER: 13,
  RETURN: 13,
  ESCAPE: 27,
  BACKSPACE: 8,
  DELETE: 46,
  SHIFT: 16,
  CONTROL: 17,
  ALT: 18,
  TAB: 9,
};
const ANGLES = { PI: Math.PI, TWO_PI: 2 * Math.PI, TAU: 2 * Math.PI, HALF_PI: Math.PI / 2, QUARTER_PI: Math.PI / 4 };
const PLAIN = "abs ceil exp floor log max min pow round sqrt".split(" ");

class Sketch {
  constructor(world) {
    this.world = world;
    this.loops = true;
    this.frame = null;
    this.isDegrees = false;
    this.held = new Set();
    this.names = {};
    this.show({ width: 100, height: 100, frameCount: 0, deltaTime: FRAME, focused: true });
    this.show({
      mouseX: 0,
      mouseY: 0,
      pmouseX: 0,
      pmouseY: 0,
      movedX: 0,
      movedY: 0,
      mouseIsPressed: false,
      mouseButton: 0,
      touches: [],
    });
    this.show({ key: "", keyCode: 0, keyIsPressed: false, pixels: [], displayWidth: 1280, displayHeight: 800 });
    this.show({ windowWidth: 1280, windowHeight: 720, ...CODES, ...ANGLES });
    this.show(Object.fromEntries(MODES.split(/\s+/).map((name) => [name, name.toLowerCase()])));
    this.show(this.functions());
  }

  /** Let variables have values; a script may have its own under each name. */
  show(values) {
    for (const [name, value] of Object.entries(values)) {
      if (name in this.names && globalThis[name] !== this.names[name]) continue;
      this.names[name] = value;
      Object.defineProperty(globalThis, name, { configurable: true, writable: true, enumerable: false, value });
    }
  }

  note(text) {
    this.world.trace.add("draw", text);
  }

  noteCall(name, given) {
    this.note(`${name}(${given.map(shown).join(", ")})`);
  }

  functions() {
    const angle = (value) => (this.isDegrees ? (value * Math.PI) / 180 : value);
    const back = (value) => (this.isDegrees ? (value * 180) / Math.PI : value);
    const found = {
      ...widgetsOf(this),
      ...this.space(),
      createCanvas: (width, height, kind) => {
        this.note(`createCanvas(${width}, ${height}${kind ? `, ${kind}` : ""})`);
        this.show({ width, height });
        return thing("canvas", this);
      },
      noCanvas: () => this.note("noCanvas()"),
      createGraphics: (width, height) => this.graphics(width, height),
      noLoop: () => (this.loops = false),
      loop: () => {
        this.loops = true;
        this.next();
      },
      isLooping: () => this.loops,
      redraw: () => this.draw(),
      millis: () => this.world.clock.now,
      keyIsDown: (code) => this.held.has(code),
      random: (low, high) => random(low, high),
      randomGaussian: (mean = 0, spread = 1) =>
        mean + spread * Math.sqrt(-2 * Math.log(1 - Math.random())) * Math.cos(2 * Math.PI * Math.random()),
      randomSeed: () => {},
      noiseSeed: () => {},
      noiseDetail: () => {},
      noise: (x = 0, y = 0, z = 0) => noise(x, y, z),
      map: (value, a, b, c, d, within) => {
        const mapped = ((value - a) / (b - a)) * (d - c) + c;
        return within ? Math.min(Math.max(mapped, Math.min(c, d)), Math.max(c, d)) : mapped;
      },
      constrain: (value, low, high) => Math.max(Math.min(value, high), low),
      lerp: (one, two, part) => one + (two - one) * part,
      norm: (value, low, high) => (value - low) / (high - low),
      dist: (...given) =>
        given.length === 4
          ? Math.hypot(given[0] - given[2], given[1] - given[3])
          : Math.hypot(given[0] - given[3], given[1] - given[4], given[2] - given[5]),
      mag: (x, y) => Math.hypot(x, y),
      sq: (value) => value * value,
      fract: (value) => value - Math.floor(value),
      int: (value) => (Array.isArray(value) ? value.map((one) => parseInt(one, 10)) : Math.trunc(Number(value))),
      float: (value) => parseFloat(value),
      str: (value) => String(value),
      boolean: (value) => (typeof value === "string" ? value.toLowerCase() === "true" : Boolean(value)),
      char: (value) => String.fromCharCode(value),
      unchar: (value) => String(value).charCodeAt(0),
      hex: (value, digits = 8) => value.toString(16).toUpperCase().padStart(digits, "0"),
      nf: (value, left = 0, right) =>
        (right === undefined ? String(value) : value.toFixed(right)).padStart(left + (right ? right + 1 : 0), "0"),
      sin: (value) => Math.sin(angle(value)),
      cos: (value) => Math.cos(angle(value)),
      tan: (value) => Math.tan(angle(value)),
      asin: (value) => back(Math.asin(value)),
      acos: (value) => back(Math.acos(value)),
      atan: (value) => back(Math.atan(value)),
      atan2: (y, x) => back(Math.atan2(y, x)),
      radians: (value) => (value * Math.PI) / 180,
      degrees: (value) => (value * 180) / Math.PI,
      shuffle: (list) =>
        [...list]
          .map((value) => [Math.random(), value])
          .sort((a, b) => a[0] - b[0])
          .map((pair) => pair[1]),
      append: (list, value) => list.push(value) && list,
      shorten: (list) => list.pop() && list,
      reverse: (list) => list.reverse(),
      concat: (one, two) => one.concat(two),
      splitTokens: (text, signs = " \t\n") => text.split(new RegExp(`[${signs}]+`)).filter(Boolean),
      split: (text, sign) => text.split(sign),
      join: (list, sign) => list.join(sign),
      trim: (text) => text.trim(),
      textWidth: (text) => String(text).length * 6,
      textAscent: () => 9,
      textDescent: () => 3,
      createVector: (x = 0, y = 0, z = 0) => new Vector(x, y, z),
      color: (...given) => colorOf(given),
      lerpColor: (one, two, part) => colorOf(one.levels.map((level, at) => level + (two.levels[at] - level) * part)),
      red: (color) => colorOf([color]).levels[0],
      green: (color) => colorOf([color]).levels[1],
      blue: (color) => colorOf([color]).levels[2],
      alpha: (color) => colorOf([color]).levels[3],
      get: (...given) => (given.length === 2 ? [0, 0, 0, 255] : thing("a part of the canvas", this)),
      loadImage: (name, done) => loaded(this.world, "image", name, done),
      loadSound: (name, done) => loaded(this.world, "sound", name, done),
      loadFont: (name, done) => loaded(this.world, "font", name, done),
      createAudio: (name, done) => loaded(this.world, "sound", name, done),
      createVideo: (name, done) => loaded(this.world, "video", name, done),
      loadJSON: (name, ...given) => this.given(JSON.parse(this.data(name)), given),
      loadStrings: (name, ...given) => this.given(this.data(name).split(/\r?\n/), given),
      createImage: (width, height) => Object.assign(thing("an image", this), { width, height, pixels: [] }),
      year: () => 2026,
      month: () => 1,
      day: () => 1,
      hour: () => 12,
      minute: () => Math.floor(this.world.clock.now / 60000) % 60,
      second: () => Math.floor(this.world.clock.now / 1000) % 60,
    };
    for (const name of PLAIN)
      found[name] ??= (...given) => Math[name](...(Array.isArray(given[0]) ? given[0] : given));
    found.round = (value, digits = 0) => Number(value.toFixed(digits));
    for (const name of DRAWN) {
      found[name] = (...given) => {
        if (name === "angleMode") this.isDegrees = given[0] === "degrees";
        if (name === "resizeCanvas") this.show({ width: given[0], height: given[1] });
        if (name === "print") this.world.trace.add("out", `${given.map(String).join(" ")}\n`);
        else this.noteCall(name, given);
        return name === "frameRate" && !given.length ? 60 : undefined;
      };
    }
    for (const name of MISSING) found[name] = () => this.world.notCovered(`\`${name}\` of the sketch's library`);
    return found;
  }

  /** The text of a file beside the sketch. */
  data(name) {
    const found = fileAt(this.world, name);
    if (found === null) this.world.notCovered("data that is not here");
    return found.toString("utf8");
  }

  /** Data that is there at once, and handed to who waits for it. */
  given(data, given) {
    const done = given.find((each) => typeof each === "function");
    if (done) globalThis.setTimeout(() => done(data), 1);
    return data;
  }

  space() {
    return spaceOf({
      call: (name, given) => this.noteCall(name, given),
      note: (text) => this.note(text),
      thing: (name) => thing(`${name} ${(this.things = (this.things ?? 0) + 1)}`, this),
      loaded: (kind, name, given) => loaded(this.world, kind, name, given.find((each) => typeof each === "function")),
    });
  }

  /** A canvas of its own, on which all that is drawn is written down with its name. */
  graphics(width, height) {
    const name = `graphics ${(this.made = (this.made ?? 0) + 1)}`;
    const own = { described: name, width, height, remove() {} };
    for (const drawn of [...DRAWN, ...CALLED])
      own[drawn] = (...given) => this.noteCall(`${name}: ${drawn}`, given);
    this.note(`createGraphics(${width}, ${height})`);
    return own;
  }

  /** Call what the script has under a name. */
  calls(name, ...given) {
    let call;
    try {
      call = (0, eval)(`typeof ${name} === "function" ? ${name} : undefined`);
      if (call && call !== this.names[name]) return call(...given);
    } catch (error) {
      this.world.pageError(error);
    }
    return undefined;
  }

  begin() {
    this.calls("preload");
    globalThis.setTimeout(() => {
      this.calls("setup");
      this.draw();
      this.next();
    }, 1);
  }

  next() {
    if (!this.loops || this.frame) return;
    this.frame = globalThis.requestAnimationFrame(() => {
      this.frame = null;
      if (this.loops) this.draw();
      this.next();
    });
  }

  draw() {
    this.show({ frameCount: globalThis.frameCount + 1 });
    this.calls("draw");
    this.show({ pmouseX: globalThis.mouseX, pmouseY: globalThis.mouseY });
  }

  keyDown({ key, keyCode }) {
    this.held.add(keyCode);
    this.show({ key, keyCode, keyIsPressed: true });
    this.calls("keyPressed");
    if (key.length === 1) this.calls("keyTyped");
  }

  keyUp({ key, keyCode }) {
    this.held.delete(keyCode);
    this.show({ key, keyCode, keyIsPressed: this.held.size > 0 });
    this.calls("keyReleased");
  }

  mouse(what, x, y) {
    this.show({ mouseX: x, mouseY: y, mouseButton: "left", mouseIsPressed: what !== "release" });
    if (what === "click") this.calls("mousePressed");
    else this.calls(what === "drag" ? "mouseDragged" : "mouseReleased");
    if (what !== "click") return;
    this.show({ mouseIsPressed: false });
    this.calls("mouseReleased");
    this.calls("mouseClicked");
  }
}

class Vector {
  constructor(x = 0, y = 0, z = 0) {
    Object.assign(this, { x, y, z });
  }

  static fromAngle(angle, length = 1) {
    return new Vector(length * Math.cos(angle), length * Math.sin(angle));
  }

  static random2D() {
    return Vector.fromAngle(Math.random() * 2 * Math.PI);
  }

  set(x, y = 0, z = 0) {
    return Object.assign(this, x instanceof Vector ? { x: x.x, y: x.y, z: x.z } : { x, y, z });
  }

  copy() {
    return new Vector(this.x, this.y, this.z);
  }

  add(x, y = 0, z = 0) {
    const by = x instanceof Vector ? x : new Vector(x, y, z);
    return this.set(this.x + by.x, this.y + by.y, this.z + by.z);
  }

  sub(x, y = 0, z = 0) {
    const by = x instanceof Vector ? x : new Vector(x, y, z);
    return this.set(this.x - by.x, this.y - by.y, this.z - by.z);
  }

  mult(by) {
    return this.set(this.x * by, this.y * by, this.z * by);
  }

  div(by) {
    return this.mult(1 / by);
  }

  mag() {
    return Math.hypot(this.x, this.y, this.z);
  }

  magSq() {
    return this.x ** 2 + this.y ** 2 + this.z ** 2;
  }

  normalize() {
    return this.mag() ? this.div(this.mag()) : this;
  }

  setMag(length) {
    return this.normalize().mult(length);
  }

  limit(most) {
    return this.mag() > most ? this.setMag(most) : this;
  }

  heading() {
    return Math.atan2(this.y, this.x);
  }

  rotate(angle) {
    const turned = this.heading() + angle;
    return this.set(this.mag() * Math.cos(turned), this.mag() * Math.sin(turned), this.z);
  }

  dist(other) {
    return Math.hypot(this.x - other.x, this.y - other.y, this.z - other.z);
  }

  dot(other) {
    return this.x * other.x + this.y * other.y + this.z * other.z;
  }

  lerp(other, part) {
    return this.add((other.x - this.x) * part, (other.y - this.y) * part, (other.z - this.z) * part);
  }

  equals(other) {
    return this.x === other.x && this.y === other.y && this.z === other.z;
  }

  array() {
    return [this.x, this.y, this.z];
  }
}

for (const name of ["add", "sub", "mult", "div", "dist", "dot", "lerp"]) {
  Vector[name] = (one, ...given) => one.copy()[name](...given);
}

function random(low, high) {
  if (Array.isArray(low)) return low[Math.floor(Math.random() * low.length)];
  if (low === undefined) return Math.random();
  return high === undefined ? Math.random() * low : low + Math.random() * (high - low);
}

/** Something smooth between 0 and 1. */
function noise(x, y, z) {
  return (Math.sin(x * 1.7 + Math.sin(y * 2.3) + Math.sin(z * 1.1) * 2) + Math.sin(x * 0.31 + y * 0.17 + z) + 2) / 4;
}

function colorOf(given) {
  if (given[0]?.levels) return given[0];
  const [first, second, third, fourth] = given;
  const isGrey = given.length < 3 && typeof first === "number";
  const levels = isGrey ? [first, first, first, second ?? 255] : [first, second, third, fourth ?? 255];
  return { levels, described: `color(${given.map(shown).join(", ")})`, toString: () => `rgba(${levels.join(",")})` };
}

/** Something whose methods are written down, whatever they are called. */
function thing(name, sketch) {
  const own = { described: name, width: 100, height: 100, elt: {} };
  return new Proxy(own, {
    get: (set, key) => {
      if (key in set || typeof key === "symbol" || key === "then") return set[key];
      return (...given) => {
        sketch.note(`${name}: ${key}(${given.map(shown).join(", ")})`);
        return own;
      };
    },
  });
}

function loaded(world, kind, name, done) {
  const found = thing(`${kind} ${shown(name)}`, { note: (text) => world.trace.add("draw", text) });
  if (done) globalThis.setTimeout(() => done(found), 1);
  return found;
}

function installSketch(world) {
  const sketch = new Sketch(world);
  sketch.show({ p5: Object.assign(function p5() {}, { Vector }) });
  return sketch;
}

module.exports = { installSketch };
