// What a sketch loads: the files beside it; what is not there is made up, where it can be, and that is said.
"use strict";

const { fileAt } = require("../asking.cjs");
const { madeUpTable, tableOf } = require("./tables.cjs");
const { thing } = require("./things.cjs");
const { madeUpXml, xmlOf } = require("./xml.cjs");

const MADE_UP_LINES = ["first line", "second line", "third line"];
const OF_THE_NETWORK = ["httpGet", "httpPost", "httpDo"];

/** The functions with which a sketch loads; `note` writes down what is asked of images and sounds. */
function dataOf(world, note) {
  /** Hand something over later, as is usual, and at once, for who waits with `preload`. */
  const given = (found, others) => {
    const done = others.find((each) => typeof each === "function");
    if (done) globalThis.setTimeout(() => done(found), 1);
    return found;
  };
  const text = (name) => fileAt(world, name)?.toString("utf8");
  const madeUp = (name, made) => {
    world.madeUp.add(String(name));
    return made;
  };
  const load = (kind) => (name, ...others) => given(thing(`${kind} ${JSON.stringify(name)}`, note), others);
  const found = {
    loadImage: load("image"),
    loadSound: load("sound"),
    loadFont: load("font"),
    loadModel: load("model"),
    loadShader: load("shader"),
    createAudio: load("sound"),
    createVideo: load("video"),
    loadJSON: (name, ...others) => {
      const known = text(name);
      if (known === undefined) world.notCovered("data that is not here");
      return given(JSON.parse(known), others);
    },
    loadStrings: (name, ...others) => {
      const lines = text(name)?.split(/\r?\n/);
      return given(lines ?? madeUp(name, [...MADE_UP_LINES]), others);
    },
    loadTable: (name, ...others) => {
      const kinds = others.filter((each) => typeof each === "string");
      const known = text(name);
      return given(known === undefined ? madeUp(name, madeUpTable(kinds)) : tableOf(known, name, kinds), others);
    },
    loadXML: (name, ...others) => {
      const known = text(name);
      return given(known === undefined ? madeUp(name, madeUpXml()) : xmlOf(known), others);
    },
    loadBytes: (name, ...others) => {
      const known = fileAt(world, name);
      return given({ bytes: [...(known ?? madeUp(name, [1, 2, 3]))] }, others);
    },
    storeItem: (name, value) => globalThis.localStorage.setItem(name, JSON.stringify(value)),
    getItem: (name) => JSON.parse(globalThis.localStorage.getItem(name)),
    removeItem: (name) => globalThis.localStorage.removeItem(name),
    clearStorage: () => globalThis.localStorage.clear(),
  };
  for (const name of OF_THE_NETWORK) found[name] = () => world.notCovered("the network");
  return found;
}

module.exports = { dataOf };
