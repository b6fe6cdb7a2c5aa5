// The lines of a scenario, one after the other, and those that are made up when they are all typed.
"use strict";

const ENDS_ASKED = 100;

class TypedLines {
  constructor(world, text) {
    this.world = world;
    this.lines = text.split(/(?<=\n)/).filter(Boolean);
    this.ends = 0;
  }

  /** The next line, with its end; nothing where there is none. */
  next() {
    const { trace, typist } = this.world;
    let line = this.lines.shift() ?? "";
    if (!line && typist) line = typist.made(trace.where(new Error()));
    trace.add("typed", line);
    if (!line) {
      this.world.askedForMore = true;
      if (++this.ends > ENDS_ASKED) {
        const stopped = "the scenario ends: all lines are typed, and the program keeps asking";
        this.world.finish({ code: 0, stopped });
      }
    }
    return line;
  }
}

module.exports = { TypedLines };
