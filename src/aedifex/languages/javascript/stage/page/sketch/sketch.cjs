// A stand-in for the library of a sketch: it calls `setup` and `draw`, and writes down what is drawn.
"use strict";

const { shown } = require("../shown.cjs");
const calculating = require("./calculating.cjs");
const colors = require("./colors.cjs");
const { dataOf } = require("./data.cjs");
const { CALLED, spaceOf } = require("./space.cjs");
const { Row, Table } = require("./tables.cjs");
const { thing } = require("./things.cjs");
const { Vector } = require("./vectors.cjs");
const { widgetsOf } = require("./widgets.cjs");
const { Xml } = require("./xml.cjs");

const FRAME = 1000 / 60;
const DRAWN =
  `angleMode applyMatrix arc background beginShape bezier bezierVertex blend blendMode circle clear colorMode cursor
  curve curveVertex ellipse ellipseMode endShape erase fill filter frameRate fullscreen image imageMode line loadPixels noCursor
  noErase noFill noSmooth noStroke noTint pixelDensity point pop push quad quadraticVertex rect rectMode resetMatrix resizeCanvas
  rotate saveCanvas scale set shearX shearY smooth square stroke strokeCap strokeJoin strokeWeight text textAlign textFont
  textLeading textSize textStyle tint translate triangle updatePixels vertex print describe textOutput gridOutput copy bezierDetail
  bezierOrder curveDetail curveTightness describeElement exitPointerLock removeElements requestPointerLock save saveFrames saveGif
  saveJSON saveStrings saveTable setMoveThreshold setShakeThreshold spline splineProperty splineVertex textDirection textWeight
  textWrap userStartAudio`.split(/\s+/);
const MODES = `CENTER LEFT RIGHT TOP BOTTOM BASELINE CORNER CORNERS RADIUS CLOSE OPEN CHORD PIE RGB HSB HSL P2D ROUND SQUARE
  PROJECT MITER BEVEL POINTS LINES TRIANGLES TRIANGLE_STRIP TRIANGLE_FAN QUADS QUAD_STRIP BOLD ITALIC NORMAL BOLDITALIC BLEND
  ADD MULTIPLY SCREEN DARKEST LIGHTEST DIFFERENCE EXCLUSION OVERLAY ARROW CROSS HAND MOVE TEXT WAIT DEGREES RADIANS WORD CHAR WEBGL
  THRESHOLD GRAY OPAQUE INVERT POSTERIZE DILATE ERODE BLUR LABEL FALLBACK GRID AUTO TESS LINE_STRIP LINE_LOOP IMAGE REPEAT CLAMP
  MIRROR NEAREST LINEAR SMOOTH FLAT CONTAIN COVER RGBA UNSIGNED_BYTE FLOAT HALF_FLOAT WEBGL2 AXES VIDEO AUDIO
  SOFT_LIGHT HARD_LIGHT DODGE BURN REMOVE PATH EXCLUDE JOIN SIMPLE FULL`;
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
const MOVED = "pRotationX pRotationY pRotationZ rotationX rotationY rotationZ accelerationX accelerationY accelerationZ";
const SEEN = {
  width: 100,
  height: 100,
  frameCount: 0,
  deltaTime: FRAME,
  focused: true,
  pixels: [],
  displayWidth: 1280,
  displayHeight: 800,
  windowWidth: 1280,
  windowHeight: 720,
  deviceOrientation: "landscape",
  webglVersion: "webgl2",
  turnAxis: undefined,
  ...Object.fromEntries(MOVED.split(" ").map((name) => [name, 0])),
};
const HEARD = {
  mouseX: 0,
  mouseY: 0,
  pmouseX: 0,
  pmouseY: 0,
  winMouseX: 0,
  winMouseY: 0,
  pwinMouseX: 0,
  pwinMouseY: 0,
  movedX: 0,
  movedY: 0,
  mouseIsPressed: false,
  mouseButton: 0,
  touches: [],
  key: "",
  keyCode: 0,
  keyIsPressed: false,
};

class Sketch {
  constructor(world) {
    this.world = world;
    this.loops = true;
    this.frame = null;
    this.isDegrees = false;
    this.held = new Set();
    this.names = {};
    this.show({ ...SEEN, ...HEARD, ...CODES, ...ANGLES });
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
    const found = {
      ...this.workingOut(),
      ...widgetsOf(this),
      ...dataOf(this.world, (text) => this.note(text)),
      ...this.space(),
      createCanvas: (width, height, kind) => {
        this.note(`createCanvas(${width}, ${height}${kind ? `, ${kind}` : ""})`);
        this.show({ width, height });
        return this.thing("canvas");
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
      get: (...given) => (given.length === 2 ? [0, 0, 0, 255] : this.thing("a part of the canvas")),
      createImage: (width, height) => Object.assign(this.thing("an image"), { width, height, pixels: [] }),
      createWriter: (name) => this.thing(`writer ${shown(name)}`),
      getTargetFrameRate: () => 60,
      displayDensity: () => 1,
      getURL: () => globalThis.location.href,
      getURLPath: () => [],
      getURLParams: () => ({}),
      year: () => 2026,
      month: () => 1,
      day: () => 1,
      hour: () => 12,
      minute: () => Math.floor(this.world.clock.now / 60000) % 60,
      second: () => Math.floor(this.world.clock.now / 1000) % 60,
    };
    for (const name of DRAWN) {
      found[name] = (...given) => {
        if (name === "angleMode") this.isDegrees = given[0] === "degrees";
        if (name === "resizeCanvas") this.show({ width: given[0], height: given[1] });
        if (name === "print") this.world.trace.add("out", `${given.map(String).join(" ")}\n`);
        else this.noteCall(name, given);
        return name === "frameRate" && !given.length ? 60 : undefined;
      };
    }
    return found;
  }

  /** What is worked out and changes nothing. */
  workingOut() {
    return { ...calculating.FUNCTIONS, ...calculating.anglesOf(() => this.isDegrees), ...colors.FUNCTIONS };
  }

  thing(name) {
    return thing(name, (text) => this.note(text));
  }

  space() {
    return spaceOf({
      call: (name, given) => this.noteCall(name, given),
      note: (text) => this.note(text),
      thing: (name) => this.thing(`${name} ${(this.things = (this.things ?? 0) + 1)}`),
    });
  }

  /** A canvas of its own, on which all that is drawn is written down with its name. */
  graphics(width, height) {
    const name = `graphics ${(this.made = (this.made ?? 0) + 1)}`;
    const own = { ...this.workingOut(), described: name, width, height, pixels: [], remove() {} };
    for (const drawn of [...DRAWN, ...CALLED])
      own[drawn] = (...given) => this.noteCall(`${name}: ${drawn}`, given);
    this.note(`createGraphics(${width}, ${height})`);
    return own;
  }

  /** What the script has under a name, if that is a function of its own. */
  found(name) {
    const call = (0, eval)(`typeof ${name} === "function" ? ${name} : undefined`);
    return call === this.names[name] ? undefined : call;
  }

  /** Call what the script has under a name; whether it came to its end, which is true as well where it has nothing. */
  calls(name, ...given) {
    try {
      this.found(name)?.(...given);
      return true;
    } catch (error) {
      this.world.pageError(error);
      return false;
    }
  }

  /** Begin at once; where something is loaded before, a moment later, in which a visitor may do something already. */
  begin() {
    if (!this.found("preload")) {
      this.sets();
      return;
    }
    if (this.calls("preload")) globalThis.setTimeout(() => this.sets(), 1);
  }

  /** Set up, and draw where that came to its end: the library does not go on drawing what could not be set up. */
  sets() {
    if (!this.calls("setup")) return;
    this.draw();
    this.next();
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

/** The library by its own name: what it has classes for; those without an inside here write down what is asked of them. */
function libraryOf(sketch) {
  const p5 = function p5() {
    sketch.world.notCovered("a sketch in a function of its own");
  };
  const known = { Vector, Color: colors.Color, Table, TableRow: Row, XML: Xml };
  return new Proxy(Object.assign(p5, known), {
    get: (own, name) => {
      if (name in own || typeof name === "symbol" || !/^[A-Z]/.test(name)) return own[name];
      own[name] = function () {
        return sketch.thing(name);
      };
      return own[name];
    },
  });
}

function installSketch(world) {
  const sketch = new Sketch(world);
  sketch.show({ p5: libraryOf(sketch) });
  return sketch;
}

module.exports = { installSketch };
