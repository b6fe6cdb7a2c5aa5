// Sounds that a page works out: what is asked for is written down; what comes out of a loudspeaker tells the script nothing.
"use strict";

const { shown } = require("./shown.cjs");

const RATE = 44100;

/** Part of a network of sounds, reached by a name: what is asked of it and set on it is written down. */
function part(name, note, known = {}) {
  const own = Object.assign(() => {}, known);
  return new Proxy(own, {
    get: (_, key) => {
      if (key === Symbol.toPrimitive) return () => 0;
      if (key === "described") return name;
      if (typeof key === "symbol" || key === "then" || Object.hasOwn(known, key)) return known[key];
      return (known[key] = part(`${name}.${key}`, note));
    },
    set: (_, key, value) => {
      note(`${name}.${String(key)} is ${shown(value)}`);
      known[key] = value;
      return true;
    },
    apply: (_, __, given) => {
      note(`${name}(${given.map(shown).join(", ")})`);
      return part(`${name}()`, note, { connect: (other) => (note(`${name}() to ${shown(other)}`), other) });
    },
  });
}

/** What a page makes sounds with. */
function soundContextOf(world) {
  const note = (text) => world.trace.add("page", text);
  const done = () => Promise.resolve();
  return function AudioContext() {
    const lasting = { sampleRate: RATE, state: "running", resume: done, suspend: done, close: done };
    const context = part("sounds", note, {
      ...lasting,
      createBuffer: (channels, length, rate) => {
        const data = Array.from({ length: channels }, () => new Float32Array(length));
        const told = { length, sampleRate: rate, duration: length / rate, numberOfChannels: channels };
        return part("buffer", note, { ...told, getChannelData: (at) => data[at] });
      },
      decodeAudioData: () => Promise.resolve(part("buffer", note, { duration: 1, sampleRate: RATE })),
    });
    const get = (own, key) => (key === "currentTime" ? world.clock.now / 1000 : context[key]);
    return new Proxy(context, { get });
  };
}

module.exports = { soundContextOf };
