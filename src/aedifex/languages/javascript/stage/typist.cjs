// Making up what is typed while a program runs: words of the script, numbers near those in it, and nonsense.
"use strict";

const LETTERS = ["a", "kite", "north", "", "x", "?", "reed bed"];
const MOST_ENDS = 40;
const TRIES = 6;
const LONGEST = 30;

class Typist {
  constructor(orders) {
    this.orders = orders;
    this.state = (orders.seed * 2654435761) >>> 0;
    this.heard = orders.heard ?? {};
    this.typed = [];
    this.last = "";
  }

  /** A whole number below a limit. */
  below(limit) {
    this.state = (Math.imul(this.state, 1664525) + 1013904223) >>> 0;
    return Math.floor((this.state / 4294967296) * limit);
  }

  pick(values) {
    return values[this.below(values.length)];
  }

  heardAt(site) {
    return (this.heard[site] ??= { texts: {}, numbers: [], split: {}, least: {}, ends: [], leaves: [] });
  }

  /** The next line for a place of the program, with its end; nothing where no more is typed. */
  made(site) {
    const { most, leaves } = this.orders;
    const known = this.heardAt(site);
    if (this.typed.length >= most + (leaves && known.leaves.length ? 1 : 0)) return "";
    let line = "";
    if (this.typed.length >= most) line = this.pick(known.leaves);
    else {
      for (let round = 0; round < TRIES; round++) {
        line = this.word();
        const ending = [...known.ends, ...known.leaves];
        if (this.orders.is_bold || !(ending.includes(line) || ending.includes(commandOf(line)))) break;
      }
    }
    this.last = site;
    this.typed.push(line);
    return `${line}\n`;
  }

  /** A word, and often something behind it: what commands are given is mostly short, and mostly a number. */
  word() {
    let line = this.part(6);
    while (this.below(5) > 1 && line.length < LONGEST) line += ` ${this.part(2)}`;
    return line;
  }

  /** One part of a line; out of ten, so many are words that the script compares with something. */
  part(wordy) {
    const { words, choices, numbers } = this.orders;
    const sort = this.below(10);
    if (sort < wordy && words.length) return this.pick(words);
    if (sort < 7) return String(this.below(2) ? this.below(4) : this.below(30));
    if (sort < 8 && numbers.length) return String(this.pick(numbers) + this.below(3) - 1);
    return choices.length && this.below(3) ? this.pick(choices) : this.pick(LETTERS);
  }

  /** What was heard and typed, with how the last line that was typed ended the run. */
  told(ending) {
    if (this.typed.length && !("stopped" in ending) && !ending.ranOut) {
      const known = this.heardAt(this.last)["error" in ending ? "ends" : "leaves"];
      const last = this.typed.at(-1);
      const line = this.orders.words.includes(commandOf(last)) ? commandOf(last) : last;
      if (!known.includes(line) && known.length < MOST_ENDS) known.push(line);
    }
    return { sites: this.heard, typed: this.typed };
  }
}

/** The first word of a line: often it is that which says what is to be done. */
function commandOf(line) {
  return line.split(" ")[0];
}

module.exports = { Typist };
