// What of a browser's window would leave the page, wait for people, or depend on the hour: done as on the other stage.
"use strict";

const { shown } = require("../../page/shown.cjs");
const { soundContextOf } = require("../../page/sounds.cjs");
const { storage } = require("../../page/storage.cjs");
const { talkOf } = require("../../page/talk.cjs");

const PLAIN = { log: "out", info: "out", debug: "out", table: "out", dir: "out" };
const SAID = { ...PLAIN, warn: "err", error: "err", trace: "err" };
const ELSEWHERE = { WebSocket: "the network", EventSource: "the network", RTCPeerConnection: "the network" };
const APART = { Worker: "workers", SharedWorker: "workers" };

function installWindow(world) {
  const note = (text) => world.trace.add("page", text);
  const set = (values) => {
    for (const [name, value] of Object.entries(values))
      Object.defineProperty(window, name, { configurable: true, writable: true, value });
  };
  set({
    ...talkOf(note, world.typed),
    localStorage: storage("kept", note),
    sessionStorage: storage("kept for now", note),
    AudioContext: soundContextOf(world),
    webkitAudioContext: undefined,
  });
  for (const [name, what] of Object.entries({ ...ELSEWHERE, ...APART }))
    set({
      [name]: function () {
        world.notCovered(what);
      },
    });
  for (const [name, kind] of Object.entries(SAID))
    console[name] = (...given) => world.trace.add(kind, `${given.map(told).join(" ")}\n`);
  installSounds(world, note);
}

function told(value) {
  if (typeof value === "string") return value;
  return value instanceof Error ? `${value.name}: ${value.message}` : shown(value);
}

/** Sounds and films are asked for and played without being heard or seen; they are there a moment later. */
function installSounds(world, note) {
  const home = HTMLMediaElement.prototype;
  const sources = new WeakMap();
  const states = new WeakMap();
  const ready = (element) => {
    for (const type of ["loadedmetadata", "loadeddata", "canplay", "canplaythrough"])
      world.clock.add(() => element.dispatchEvent(new Event(type)), 1, [], false);
  };
  const name = (element) => element.getAttribute("src") ?? sources.get(element) ?? element.described;
  Object.defineProperty(home, "src", {
    configurable: true,
    get() {
      return sources.get(this) ?? "";
    },
    set(address) {
      sources.set(this, String(address));
      ready(this);
    },
  });
  Object.defineProperty(home, "paused", {
    configurable: true,
    get() {
      return states.get(this) !== "plays";
    },
  });
  home.load = function () {
    ready(this);
  };
  home.play = function () {
    states.set(this, "plays");
    note(`plays ${name(this)}`);
    return Promise.resolve();
  };
  home.pause = function () {
    states.set(this, "rests");
    note(`pauses ${name(this)}`);
  };
  window.Audio = function Audio(address) {
    const sound = document.createElement("audio");
    if (address) sound.src = address;
    return sound;
  };
}

module.exports = { installWindow };
