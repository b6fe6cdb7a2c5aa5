// What a page says to its visitor and asks him, and what it would do with its window.
"use strict";

const { shown } = require("./shown.cjs");

/** The functions by which a page talks; `lines` has what is typed. */
function talkOf(note, lines) {
  const asked = (text) => {
    note(`asks ${shown(text)}`);
    return lines.next().replace(/\n$/, "");
  };
  return {
    alert: (text = "") => note(`says ${shown(String(text))}`),
    confirm: (text = "") => !["", "n", "no", "0"].includes(asked(String(text)).toLowerCase()),
    prompt: (text = "", first = "") => asked(String(text)) || first || null,
    print: () => note("prints the page"),
    open: (address) => note(`opens ${shown(String(address))}`) ?? null,
    close: () => note("closes the window"),
  };
}

module.exports = { talkOf };
