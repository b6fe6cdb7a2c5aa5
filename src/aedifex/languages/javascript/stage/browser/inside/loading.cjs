// Waiting, by the browser's own time, for what a page has asked for: pictures, texts, letters.
"use strict";

const MOST_PAUSES = 400;
const PAUSE = 5;
const PROMISING = [
  [window, "fetch"],
  [window, "createImageBitmap"],
  [Response.prototype, "arrayBuffer"],
  [Response.prototype, "blob"],
  [Response.prototype, "json"],
  [Response.prototype, "text"],
  [Blob.prototype, "text"],
  [Blob.prototype, "arrayBuffer"],
  [HTMLImageElement.prototype, "decode"],
];

/** Watch what a page waits for; what comes back waits for that, and for what follows from it. */
function watchLoading() {
  const { setTimeout } = window;
  const pictures = new Set();
  let waited = 0;
  for (const [home, name] of PROMISING) {
    const real = home[name];
    home[name] = function (...given) {
      waited += 1;
      const answer = real.apply(this, given);
      const over = () => (waited -= 1);
      answer.then(over, over);
      return answer;
    };
  }
  const { send } = XMLHttpRequest.prototype;
  XMLHttpRequest.prototype.send = function (...given) {
    waited += 1;
    EventTarget.prototype.addEventListener.call(this, "loadend", () => (waited -= 1), { once: true });
    return send.apply(this, given);
  };
  const { get, set } = Object.getOwnPropertyDescriptor(HTMLImageElement.prototype, "src");
  Object.defineProperty(HTMLImageElement.prototype, "src", {
    configurable: true,
    enumerable: true,
    get,
    set(address) {
      pictures.add(this);
      set.call(this, address);
    },
  });
  const pause = () => new Promise((done) => setTimeout(done, PAUSE));
  const moment = () =>
    new Promise((done) => {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = done;
      port2.postMessage(0);
    });
  const isIdle = () => {
    for (const picture of pictures) if (picture.complete) pictures.delete(picture);
    return !waited && !pictures.size && document.fonts.status === "loaded";
  };
  return async () => {
    await moment();
    for (let round = 0; round < MOST_PAUSES && !isIdle(); round++) await pause();
    await moment();
  };
}

module.exports = { watchLoading };
