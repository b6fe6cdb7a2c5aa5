// Which lines of a page's scripts ran, told by the browser's engine.
"use strict";

const fs = require("node:fs");

const { isPage } = require("../page/sorts.cjs");
const { codes, writeLines } = require("../lines.cjs");

class Coverage {
  constructor(browser, plan, serving) {
    Object.assign(this, { browser, plan, serving, found: new Map() });
    browser.on("Debugger.scriptParsed", (script) => this.found.set(script.scriptId, script));
  }

  async begin() {
    if (!this.plan.lines_file) return;
    await this.browser.ask("Debugger.enable");
    await this.browser.ask("Profiler.enable");
    await this.browser.ask("Profiler.startPreciseCoverage", { callCount: true, detailed: true });
  }

  /** Write down what ran. */
  async close() {
    if (!this.plan.lines_file) return;
    const taken = await this.browser.ask("Profiler.takePreciseCoverage");
    if (taken) writeLines(this.plan, taken.result.map((script) => this.placed(script)));
  }

  /** A script by the path of its file; where it is one of a page's, its ranges are those in the page. */
  placed({ scriptId, url, functions }) {
    const file = this.serving.fileOf(url);
    if (!file || !isPage(file)) return { url: file ?? "", functions };
    const page = fs.readFileSync(file, "utf8").replace(/\r\n/g, "\n");
    const { startLine, startColumn, endLine, endColumn } = this.found.get(scriptId);
    const [from, until] = [offsetOf(page, startLine, startColumn), offsetOf(page, endLine, endColumn)];
    const known = codes.get(file) ?? page.replace(/[^\n]/g, " ");
    codes.set(file, known.slice(0, from) + page.slice(from, until) + known.slice(until));
    const moved = ({ startOffset, endOffset, count }) => ({
      startOffset: startOffset + from,
      endOffset: endOffset + from,
      count,
    });
    return { url: file, functions: functions.map(({ ranges }) => ({ ranges: ranges.map(moved) })) };
  }
}

function offsetOf(text, line, column) {
  let at = 0;
  for (let count = 0; count < line; count++) at = text.indexOf("\n", at) + 1;
  return at + column;
}

module.exports = { Coverage };
