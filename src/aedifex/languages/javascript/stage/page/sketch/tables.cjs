// Tables, as sketches have them: rows of texts, whose columns may have names.
"use strict";

const SIGNS = { csv: ",", tsv: "\t", ssv: ";" };
const MADE_UP = 3;

class Row {
  constructor(text = "", sign = ",") {
    this.arr = text === "" ? [] : cellsOf(text, sign);
    this.obj = {};
    this.table = null;
  }

  set(column, value) {
    const { columns } = this.table;
    const at = typeof column === "string" ? this.table.placeOf(column) : column;
    if (at < 0) throw new Error(`This table has no column named "${column}"`);
    if (at >= columns.length) throw new Error(`Column #${column} is out of the range of this table`);
    this.arr[at] = value;
    this.obj[columns[at]] = value;
  }

  setNum(column, value) {
    this.set(column, parseFloat(value));
  }

  setString(column, value) {
    this.set(column, String(value));
  }

  get(column) {
    if (typeof column !== "string") return this.arr[column];
    this.table.placeOf(column);
    return this.obj[column];
  }

  getNum(column) {
    const value = parseFloat(this.get(column));
    if (Number.isNaN(value)) throw new Error(`Error: ${this.obj[column]} is NaN (Not a Number)`);
    return value;
  }

  getString(column) {
    return this.get(column).toString();
  }
}

class Table {
  constructor(rows = []) {
    this.columns = [];
    this.rows = [];
    this.isMadeUp = false;
    for (const row of rows) this.addRow(row);
  }

  /** Where a column stands, -1 where there is none; one that was made up has whatever is asked for. */
  placeOf(column) {
    if (this.isMadeUp && !this.columns.includes(column)) {
      this.columns.push(column);
      this.rows.forEach((row, at) => row.set(column, String((at + 1) * 10 + this.columns.length)));
    }
    return this.columns.indexOf(column);
  }

  addRow(row = new Row()) {
    row.table = this;
    this.rows.push(row);
    this.columns.forEach((name, at) => (row.obj[name] ??= row.arr[at]));
    return row;
  }

  removeRow(at) {
    this.rows[at].table = null;
    this.rows.splice(at, 1);
  }

  clearRows() {
    this.rows.length = 0;
  }

  getRow(at) {
    return this.rows[at];
  }

  getRows() {
    return this.rows;
  }

  findRows(value, column) {
    return this.rows.filter((row) => row.get(column) === value);
  }

  findRow(value, column) {
    return this.findRows(value, column)[0] ?? null;
  }

  matchRows(pattern, column) {
    return this.rows.filter((row) => String(row.get(column)).search(new RegExp(pattern)) >= 0);
  }

  matchRow(pattern, column) {
    return this.matchRows(pattern, column)[0] ?? null;
  }

  addColumn(title = null) {
    this.columns.push(title);
  }

  removeColumn(column) {
    const at = typeof column === "string" ? this.placeOf(column) : column;
    const [name] = this.columns.splice(at, 1);
    for (const row of this.rows) {
      row.arr.splice(at, 1);
      delete row.obj[name];
    }
  }

  getColumn(column) {
    return this.rows.map((row) => row.get(column));
  }

  getColumnCount() {
    return this.columns.length;
  }

  getRowCount() {
    return this.rows.length;
  }

  trim(column) {
    this.change(column, (text) => text.trim());
  }

  removeTokens(signs, column) {
    this.change(column, (text) => [...text].filter((sign) => !signs.includes(sign)).join(""));
  }

  change(column, changed) {
    const names = column === undefined ? this.columns : [column];
    for (const row of this.rows)
      for (const name of names) if (typeof row.get(name) === "string") row.set(name, changed(row.get(name)));
  }

  getArray() {
    return this.rows.map((row) => row.arr);
  }

  getObject(column) {
    const named = this.rows.map((row, at) => [column === undefined ? at : row.obj[column], row.obj]);
    return Object.fromEntries(named);
  }
}

for (const name of ["set", "setNum", "setString", "get", "getNum", "getString"]) {
  Table.prototype[name] = function (row, ...given) {
    return this.rows[row][name](...given);
  };
}

/** The table that a file has; `kinds` says how its columns are set apart, and whether the first row names them. */
function tableOf(text, name, kinds) {
  const kind = kinds.find((each) => each in SIGNS) ?? (/\.tsv$/i.test(name) ? "tsv" : "csv");
  const rows = text.split(/\r?\n/).filter(Boolean).map((line) => cellsOf(line, SIGNS[kind]));
  const table = new Table();
  table.columns = kinds.includes("header") ? rows.shift() ?? [] : (rows[0] ?? []).map(() => "null");
  for (const cells of rows) table.addRow(Object.assign(new Row(), { arr: cells }));
  return table;
}

/** A table that stands for one that is not here. */
function madeUpTable(kinds) {
  const head = kinds.filter((kind) => kind === "header");
  const lines = Array.from({ length: MADE_UP }, (_, at) => [1, 2, 3].map((place) => `${at + 1}${place}`).join(","));
  const text = [...head.map(() => "first,second,third"), ...lines].join("\n");
  return Object.assign(tableOf(text, "", head), { isMadeUp: true });
}

/** The cells of a line: what stands in quotes is one, whatever it has inside. */
function cellsOf(line, sign) {
  const cells = [""];
  let isQuoted = false;
  for (const letter of line) {
    if (letter === '"') isQuoted = !isQuoted;
    else if (letter === sign && !isQuoted) cells.push("");
    else cells[cells.length - 1] += letter;
  }
  return cells;
}

module.exports = { Row, Table, madeUpTable, tableOf };
