// What a page's scripts find as variables: the document, the window, and what a browser has besides.
"use strict";

const { inspect } = require("node:util");

const { fetchOf, requestsOf } = require("./asking.cjs");
const { Document } = require("./document.cjs");
const { Element } = require("./elements.cjs");
const { PageEvent, Target, keepHandlers } = require("./events.cjs");
const HANDLERS = require("./handlers.json");
const { PageNode } = require("./nodes.cjs");
const { shown } = require("./shown.cjs");
const { soundContextOf } = require("./sounds.cjs");
const { storage } = require("./storage.cjs");
const { talkOf } = require("./talk.cjs");

const NODE_ALONE = ["Buffer", "clearImmediate", "global", "process", "setImmediate"];
const EVENTS = [
  "Event",
  "CustomEvent",
  "UIEvent",
  "MouseEvent",
  "KeyboardEvent",
  "PointerEvent",
  "WheelEvent",
].concat(["TouchEvent", "InputEvent", "FocusEvent", "StorageEvent"]);
const SIZE = { innerWidth: 1280, innerHeight: 720, outerWidth: 1280, outerHeight: 800, devicePixelRatio: 1 };
const PLACE = { scrollX: 0, scrollY: 0, pageXOffset: 0, pageYOffset: 0, screenX: 0, screenY: 0 };

/** Make the variables that all scripts of a page share those of a window. */
function installWindow(world, input) {
  const window = (world.window = globalThis);
  const outer = new Target();
  Object.assign(window, { listeners: outer.listeners, world });
  for (const name of ["addEventListener", "removeEventListener", "dispatchEvent", "hears"]) {
    Object.defineProperty(window, name, {
      configurable: true,
      writable: true,
      value: Target.prototype[name].bind(window),
    });
  }
  for (const name of ["listeners", "world"]) Object.defineProperty(window, name, { enumerable: false });
  const document = (world.document = new Document(world));
  const note = (text) => world.trace.add("page", text);
  define(window, { window, self: window, top: window, parent: window, frames: window, document, ...SIZE, ...PLACE });
  for (const name of EVENTS) define(window, { [name]: class extends PageEvent {} });
  define(window, {
    Node: PageNode,
    Element,
    HTMLElement: Element,
    HTMLCanvasElement: Element,
    HTMLImageElement: Element,
  });
  keepHandlers(window, HANDLERS);
  define(window, { [inspect.custom]: () => "Window" });
  installFrames(world, window);
  installTalk(world, window, input, note);
  installPlaces(world, window, note);
  define(window, {
    Image: imagesOf(document),
    Audio: soundsOf(document),
    Option: optionsOf(document),
    getComputedStyle: (element) => element.style,
    matchMedia: (media) => ({
      media,
      matches: false,
      addEventListener() {},
      addListener() {},
      removeEventListener() {},
    }),
    XMLHttpRequest: requestsOf(world),
    fetch: fetchOf(world),
    WebSocket: stopping(world, "the network"),
    Worker: stopping(world, "workers"),
    AudioContext: soundContextOf(world),
    webkitAudioContext: undefined,
    requestIdleCallback: (call) => window.setTimeout(() => call({ didTimeout: false, timeRemaining: () => 50 }), 1),
    cancelIdleCallback: window.clearTimeout,
    ResizeObserver: observing(),
    MutationObserver: observing(),
    IntersectionObserver: observing(),
    customElements: { define: () => world.notCovered("elements of the page's own"), get: () => undefined },
  });
  for (const name of NODE_ALONE) delete window[name];
  return document;
}

/** Give the window some variables: like those of a browser they can be set anew, and are not listed. */
function define(window, values) {
  for (const name of Reflect.ownKeys(values)) {
    const value = values[name];
    Object.defineProperty(window, name, { configurable: true, writable: true, enumerable: false, value });
  }
}

function installFrames(world, window) {
  const { clock } = world;
  define(window, {
    requestAnimationFrame: (call) => clock.addFrame(call).number,
    cancelAnimationFrame: (number) => window.clearTimeout(number),
  });
  const { setTimeout, setInterval } = window;
  define(window, {
    setTimeout: (call, ...given) => setTimeout(callable(world, call), ...given),
    setInterval: (call, ...given) => setInterval(callable(world, call), ...given),
  });
}

function callable(world, call) {
  return typeof call === "function" ? call : world.compiled(String(call));
}

function installTalk(world, window, input, note) {
  define(window, {
    ...talkOf(note, input),
    focus() {},
    blur() {},
    scrollTo: (...given) => note(`scrolls to ${given.map(shown).join(", ")}`),
    scroll: (...given) => note(`scrolls to ${given.map(shown).join(", ")}`),
    scrollBy: (...given) => note(`scrolls by ${given.map(shown).join(", ")}`),
    postMessage: (data) => window.setTimeout(() => world.happens(window, "message", { data }), 1),
    getSelection: () => ({ toString: () => "", removeAllRanges() {} }),
  });
}

function installPlaces(world, window, note) {
  const address = {
    href: "http://quay.example/",
    origin: "http://quay.example",
    protocol: "http:",
    host: "quay.example",
  };
  const location = new Proxy(
    { ...address, hostname: "quay.example", pathname: "/", search: "", hash: "", port: "" },
    {
      get: (set, name) => {
        if (name === "reload") return () => note("loads the page anew");
        if (name === "assign" || name === "replace") return (to) => note(`goes to ${shown(String(to))}`);
        return name === "toString" ? () => set.href : set[name];
      },
      set: (set, name, value) => {
        set[name] = String(value);
        note(`goes to ${name} ${shown(String(value))}`);
        return true;
      },
    }
  );
  const went = (to) => note(`the address is ${shown(to)}`);
  define(window, {
    location,
    history: {
      length: 1,
      state: null,
      back: () => note("goes back"),
      pushState: (_s, _t, to) => went(to),
      replaceState: (_s, _t, to) => went(to),
    },
    navigator: {
      userAgent: "stand-in",
      language: "en",
      languages: ["en"],
      platform: "stand-in",
      onLine: true,
      maxTouchPoints: 0,
      hardwareConcurrency: 2,
      getGamepads: () => [],
      vibrate: () => false,
    },
    screen: {
      width: 1280,
      height: 800,
      availWidth: 1280,
      availHeight: 800,
      orientation: { type: "landscape-primary" },
    },
    localStorage: storage("kept", note),
    sessionStorage: storage("kept for now", note),
  });
  world.document.location = location;
}

function imagesOf(document) {
  return function Image(width, height) {
    const image = document.createElement("img");
    if (width !== undefined) image.width = width;
    if (height !== undefined) image.height = height;
    image.complete = false;
    image.decode = () => Promise.resolve();
    return image;
  };
}

function soundsOf(document) {
  return function Audio(src) {
    const sound = document.createElement("audio");
    Object.assign(sound, { volume: 1, currentTime: 0, paused: true, load() {} });
    if (src) sound.src = src;
    return sound;
  };
}

function optionsOf(document) {
  return function Option(text = "", value = text) {
    const option = document.createElement("option");
    option.textContent = text;
    option.attributes.value = String(value);
    return option;
  };
}

function stopping(world, what) {
  return function () {
    world.notCovered(what);
  };
}

function observing() {
  return class {
    observe() {}
    unobserve() {}
    disconnect() {}
    takeRecords() {
      return [];
    }
  };
}

module.exports = { installWindow };
