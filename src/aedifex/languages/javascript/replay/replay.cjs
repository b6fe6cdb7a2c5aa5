// Plays noted calls again, each on an object of its own, and prints what came of them.
//
// Runs beside the built program, with `aedifex_cases.json` in its folder: the `modules` of the program, the `classes`
// and how new objects of them are made, the `cases`, and `mistakes`, which are other texts of modules. What comes out is
// one line of JSON: an answer for each case, the numbers of some cases that together see the mistakes, and what stands
// in for others, with the values that are known.
"use strict";

const fs = require("node:fs");
const path = require("node:path");
const process = require("node:process");
const { Readable } = require("node:stream");
const { isDeepStrictEqual } = require("node:util");
const vm = require("node:vm");

const { dice } = require("./chance.cjs");
const { classesOf, codeOf } = require("./loading.cjs");
const { answering, asked, forget, standIn } = require("./stand_ins.cjs");
const { makerOf, written } = require("./values.cjs");

const PATIENCE = 300;
const SECONDS = 20;
const MOST_CALLS = 40;
const LONG = 100;
const TALKED = 1_000_000;
const ANY = "ANY";
const NOTHING = /\b(?:NaN|undefined)\b/;
const STOOD_FOR = new Set(
  "process setTimeout setInterval setImmediate clearTimeout clearInterval clearImmediate fetch navigator".split(" ")
);
const write = process.stdout.write;

class LeavingError extends Error {}

/** Listen to what is said from now on. */
function heard() {
  const texts = [];
  process.stdout.write = (text) => texts.push(String(text)) > 0;
  return () => texts.join("");
}

/** What comes of a promise; nothing if it does not come soon. */
async function soon(promise) {
  let waiting;
  const late = new Promise((done) => (waiting = setTimeout(done, PATIENCE)));
  try {
    return await Promise.race([promise, late]);
  } finally {
    clearTimeout(waiting);
  }
}

/** Do something that may come to no end. */
function patiently(done) {
  globalThis.aedifexDone = done;
  return new vm.Script("aedifexDone()").runInThisContext({ timeout: PATIENCE });
}

class Replay {
  constructor({ modules, classes, cases }) {
    this.modules = modules;
    this.classes = classes;
    this.cases = cases;
    this.values = usualValues(cases.map((one) => one.returned ?? {}));
    this.found = new Set();
  }

  /** All names that are found nowhere else: what stands in for them, or the values that they have in the page. */
  outside() {
    const own = {};
    const has = (_, name) =>
      typeof name === "string" && !["undefined", "arguments"].includes(name) && (STOOD_FOR.has(name) || !(name in globalThis));
    return new Proxy(own, {
      has,
      get: (_, name) => {
        if (typeof name === "symbol") return undefined;
        if (name in own) return own[name];
        this.found.add(name);
        return name in this.known ? this.known[name] : standIn(name);
      },
    });
  }

  /** Load the classes of the program, one module perhaps with another text. */
  load(other = {}) {
    this.kinds = {};
    this.reset({});
    const changed = other.module && path.resolve(other.module);
    const textOf = (file) => (file === changed ? other.text : fs.readFileSync(file, "utf8"));
    heard();
    try {
      patiently(() => (this.kinds = classesOf(this.files(), this.outside(), textOf)));
    } finally {
      process.stdout.write = write;
    }
  }

  /** The names of the classes by the file that they are in. */
  files() {
    const files = this.modules.map((module) => [path.resolve(module), []]);
    const named = Object.fromEntries(files);
    for (const [name, { module }] of Object.entries(this.classes)) named[path.resolve(module)].push(name);
    return named;
  }

  /** Forget what was asked, and let what is outside have these values. */
  reset(values) {
    forget();
    this.known = this.made({ ...this.values, ...values });
  }

  /** Values made anew from their texts. */
  made(texts) {
    const makers = Object.keys(this.classes).map((name) => [makerOf(name), (fields) => this.object(name, fields)]);
    const outside = new Proxy({}, { get: (_, name) => standIn(name) });
    const scope = { outside, answering, ...Object.fromEntries(makers) };
    const value = (text) => new Function(...Object.keys(scope), `return (${text});`)(...Object.values(scope));
    return Object.fromEntries(Object.entries(texts).map(([name, text]) => [name, value(text)]));
  }

  /** A new object of a class as the script makes it, with some fields otherwise. */
  object(name, fields = {}) {
    const start = Object.values(this.made(this.classes[name].start));
    return Object.assign(new this.kinds[name](...start), fields);
  }

  /** What comes of a case, or the error that it ends with. */
  async answer(one) {
    if ("lines" in one) return this.talk(one);
    const real = Math.random;
    try {
      const played = await soon(patiently(() => this.play(one)));
      if (!played) return { failed: "a wait that does not end" };
      await new Promise(setImmediate);
      return isDeepStrictEqual(played.told(), played.answer) ? played.answer : { failed: "work that is not done yet" };
    } catch (error) {
      return { failed: saidBy(error) };
    } finally {
      Math.random = real;
      process.stdout.write = write;
    }
  }

  /** Carry a case out: what comes of it when it ends, and how that is told again later. */
  play(one) {
    const isStart = one.method === "constructor";
    this.drawn = 0;
    const numbers = dice(one.seed);
    Math.random = () => (this.drawn++, numbers());
    this.reset(one.returned);
    const greeting = heard();
    const object = this.object(one.class, isStart ? {} : this.made(one.fields));
    if (isStart) return ended(() => this.told(object, undefined, {}, this.inside(object), greeting(), ""));
    const given = this.made(one.given);
    alter(object, given, this.made(one.altered));
    const before = fieldsOf(object);
    const inner = this.inside(object);
    asked.length = 0;
    this.drawn = 0;
    const said = heard();
    const result = object[one.method](...Object.values(given));
    const told = (value, waits) => ({ ...this.told(object, value, before, inner, said(), greeting()), waits });
    if (result instanceof Promise) return result.then((value) => ended(() => told(value, true)));
    return ended(() => told(result, false));
  }

  told(object, result, before, inner, said, greeting) {
    const after = fieldsOf(object);
    const changed = Object.keys(after).filter((name) => before[name] !== after[name]);
    const calls = [...asked];
    const shows = [shown(result), ...calls, ...changed.map((name) => after[name])];
    if (shows.some((text) => NOTHING.test(text) && text !== "undefined")) return { failed: "values that are not there" };
    return {
      by_chance: this.drawn > 0,
      result: this.isOwn(result) ? `...${fieldsText(result)}` : shown(result),
      after,
      changed,
      is_telling: changed.length + calls.length > 0 || said !== "" || ![undefined, false].includes(result),
      inner: Object.fromEntries(Object.entries(this.inside(object)).filter(([way, text]) => inner[way] !== text)),
      calls: calls.slice(0, MOST_CALLS),
      call_count: calls.length,
      said,
      greets: greeting !== "",
    };
  }

  /** The fields of objects of the program's own that an object holds, by the way to them. */
  inside(object) {
    const found = {};
    for (const [name, value] of Object.entries(object)) {
      if (this.isOwn(value)) found[`{ ...{}.${name} }`] = fieldsText(value);
      else if (Array.isArray(value) && value.length && value.every((each) => this.isOwn(each)))
        found[`{}.${name}.map((each) => ({ ...each }))`] = `[${value.map(fieldsText).join(", ")}]`;
    }
    return Object.fromEntries(Object.entries(found).filter(([, text]) => !text.includes(ANY)));
  }

  /** Whether a value is an object of one of the program's classes. */
  isOwn(value) {
    return typeof value === "object" && Object.values(this.kinds).some((kind) => value?.constructor === kind);
  }

  /** A conversation with the whole program, typed lines from a text. */
  async talk({ module, lines, text = fs.readFileSync(module, "utf8") }) {
    const texts = [];
    const say = (said) => texts.push(String(said)) > 0;
    const typed = Object.assign(Readable.from(lines.map((line) => `${line}\n`)), { fd: 0, isTTY: false });
    const stdin = Object.getOwnPropertyDescriptor(process, "stdin");
    const { exit } = process;
    const random = Math.random;
    let ended = "";
    let drawn = 0;
    Math.random = () => (drawn++, random());
    Object.defineProperty(process, "stdin", { configurable: true, get: () => typed });
    process.stdout.write = say;
    process.exit = () => {
      process.stdout.write = () => true;
      throw new LeavingError();
    };
    const ends = (error) => (ended ||= error instanceof LeavingError ? "" : error?.name ?? "a thrown value");
    process.on("uncaughtException", ends);
    try {
      const load = require("node:module").createRequire(path.resolve(module));
      const given = { require: load, module: { exports: {} }, exports: {}, __filename: module, __dirname: process.cwd() };
      patiently(() => vm.compileFunction(codeOf(module, text), Object.keys(given))(...Object.values(given)));
      await new Promise((done) => setTimeout(done, TALKED));
    } catch (error) {
      ends(error);
    } finally {
      process.off("uncaughtException", ends);
      process.stdout.write = write;
      process.exit = exit;
      Math.random = random;
      Object.defineProperty(process, "stdin", stdin);
    }
    return { said: texts.join(""), ended: drawn ? "chance" : ended };
  }

  /** The number of a case that comes out otherwise than it should: those named first, then those of the routine. */
  async firstThatSees(mistake, answers, first) {
    const home = (one) => ("lines" in one ? "" : this.classes[one.class].module);
    const numbers = this.cases.map((_, number) => number);
    const about = numbers.filter((number) => home(this.cases[number]) === mistake.module);
    let own = about.filter((number) => this.cases[number].method === mistake.routine);
    if (!own.length) own = [...new Map(about.map((number) => [this.cases[number].method, number])).values()];
    const again = about.filter((number) => first.includes(number));
    const talks = numbers.filter((number) => !home(this.cases[number]));
    for (const number of new Set([...again, ...own, ...talks])) {
      if ("failed" in answers[number]) continue;
      const one = this.cases[number];
      const answer = await this.answer("lines" in one ? { ...one, text: mistake.text } : one);
      if (!isDeepStrictEqual(answer, answers[number])) return number;
    }
    return null;
  }
}

/** A case that has ended. */
function ended(told) {
  return { answer: told(), told };
}

/** The values that names have most often, each as a text. */
function usualValues(all) {
  const counts = new Map();
  for (const returned of all)
    for (const [name, text] of Object.entries(returned)) {
      if (text.startsWith("answering(")) continue;
      const found = counts.get(name) ?? new Map();
      counts.set(name, found.set(text, (found.get(text) ?? 0) + 1));
    }
  const most = (found) => [...found].reduce((best, each) => (each[1] > best[1] ? each : best))[0];
  return Object.fromEntries([...counts].map(([name, found]) => [name, most(found)]));
}

/** What a thrown value says, in short. */
function saidBy(error) {
  return error instanceof Error ? `${error.name}: ${error.message}`.split("\n")[0].slice(0, LONG) : "a thrown value";
}

/** Put other values of the same types in place of arguments (`wind`) and fields (`.oil`, and `.lamp.oil` of a part). */
function alter(object, given, altered) {
  for (const [way, value] of Object.entries(altered)) {
    const [name, ...owners] = way.split(".").reverse();
    const holder = owners.length ? owners.reverse().slice(1).reduce((here, step) => here[step], object) : given;
    if (typeof holder?.[name] !== typeof value) throw new TypeError(way);
    holder[name] = value;
  }
}

/** The fields of an object as the text of a plain one. */
function fieldsText(object) {
  const fields = Object.entries(fieldsOf(object));
  return fields.length ? `{ ${fields.map(([name, text]) => `${name}: ${text}`).join(", ")} }` : "{}";
}

/** The fields of an object as texts. */
function fieldsOf(object) {
  return Object.fromEntries(Object.entries(object).map(([name, value]) => [name, shown(value)]));
}

/** The text of what a value is compared with: of a plain one what makes it anew, else anything. */
function shown(value) {
  return (typeof value === "function" ? null : written(value)) ?? ANY;
}

/** What comes of each case; where the script cannot even be loaded, that of each. */
async function answersOf(replay) {
  try {
    replay.load();
  } catch (error) {
    const reason = `${saidBy(error)}, as the script is loaded`;
    return replay.cases.map((one) => ("lines" in one ? { said: "", ended: reason } : { failed: reason }));
  }
  const answers = [];
  for (const one of replay.cases) answers.push(await replay.answer(one));
  return answers;
}

async function main() {
  process.on("unhandledRejection", () => {}); // of what a case does not wait for
  const given = JSON.parse(fs.readFileSync("aedifex_cases.json", "utf8"));
  const replay = new Replay(given);
  const answers = await answersOf(replay);
  const standIns = [...replay.found].map((name) => [name, replay.values[name] ?? ""]);
  const seen = [];
  for (const mistake of given.mistakes) {
    if (process.cpuUsage().user > SECONDS * 1e6) break;
    try {
      replay.load(mistake);
    } catch {
      continue; // whatever loads it sees that
    }
    const number = await replay.firstThatSees(mistake, answers, seen);
    if (number !== null && !seen.includes(number)) seen.push(number);
  }
  console.log(`\n${JSON.stringify({ answers, seen, stand_ins: standIns })}`);
  process.exit(); // nothing is said behind it
}

main();
