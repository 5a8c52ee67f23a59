/** The range of cells that is chosen in a sheet, from an anchor to where it was extended to. */
export class RangeOfCells {
  #sheet;
  #anchor = null;
  #cells = [];
  #extends = false;
  #dragged = false;
  #whole = Promise.resolve(true);

  constructor(sheet) {
    this.#sheet = sheet;
  }

  start() {
    for (const [name, heard] of this.#heard) this.#sheet.addEventListener(name, heard, true);
    const opened = this.#sheet.querySelector("a.cell[aria-current]");
    if (opened) this.#begin(opened);
  }

  stop() {
    for (const [name, heard] of this.#heard) this.#sheet.removeEventListener(name, heard, true);
  }

  get #heard() {
    return [
      ["pointerdown", this.#onDown],
      ["pointermove", this.#onMove],
      ["dragstart", this.#onDrag],
      ["click", this.#onClick],
      ["focusin", this.#onFocus],
    ];
  }

  get anchor() {
    return this.#anchor;
  }

  get cells() {
    return this.#cells;
  }

  /** Resolves when every row between the ends is there; to false where one did not come. */
  get whole() {
    return this.#whole;
  }

  /** What the cells hold: columns separated by tabs, rows by line ends. */
  get text() {
    const rows = Map.groupBy(this.#cells, (cell) => cell.closest("tr"));
    return [...rows.values()].map((row) => row.map((cell) => cell.dataset.value).join("\t")).join("\n");
  }

  get #grid() {
    return [...this.#sheet.querySelectorAll("tr")]
      .map((row) => [...row.querySelectorAll("a.cell")])
      .filter((row) => row.length);
  }

  /** A key was pressed on a cell: the focus it moves extends the range, or begins another. */
  keyPressed(event) {
    this.#extends = event.shiftKey && /^(Arrow|Page|Home|End)/.test(event.key);
  }

  /** Every cell of the sheet, with the rows that are not there yet. */
  all() {
    const later = this.#sheet.closest("np-later");
    const from = this.#grid[0]?.[0];
    if (!from) return;
    this.#whole = later?.everything() ?? Promise.resolve(true);
    this.#whole.then(() => {
      this.#begin(from, this.#whole);
      this.#mark(this.#grid.at(-1).at(-1));
    });
  }

  /** Extend a range of one cell to as many as a pasted table takes. */
  async reach(lines) {
    if (this.#cells.length !== 1) return;
    const later = this.#sheet.closest("np-later");
    this.#whole = later?.behind(this.#anchor, lines.length - 1) ?? this.#whole;
    await this.#whole;
    const grid = this.#grid;
    const y = grid.findIndex((row) => row.includes(this.#anchor));
    const x = grid[y].indexOf(this.#anchor);
    const wide = Math.max(...lines.map((line) => line.split("\t").length));
    this.#cells = grid.slice(y, y + lines.length).flatMap((row) => row.slice(x, x + wide));
  }

  #onFocus = (event) => {
    if (!event.target.matches("a.cell")) return;
    if (this.#extends && this.#anchor?.isConnected) this.#extend(event.target);
    else this.#begin(event.target);
  };

  #onDown = (event) => {
    this.#dragged = false;
    this.#extends = event.shiftKey; // the press focuses the cell, and so begins or extends the range
  };

  #onMove = (event) => {
    if (event.buttons !== 1) return;
    const cell = event.target.closest("a.cell");
    if (!cell || !this.#anchor || (!this.#dragged && cell === this.#anchor)) return;
    this.#dragged = true;
    this.#extend(cell);
  };

  #onDrag = (event) => {
    if (event.target.closest("a.cell")) event.preventDefault(); // a range is dragged, not the link
  };

  #onClick = (event) => {
    if (!event.target.closest("a.cell") || (!event.shiftKey && !this.#dragged)) return;
    event.preventDefault();
    event.stopPropagation();
  };

  #begin(cell, whole = Promise.resolve(true)) {
    for (const one of this.#cells) one.classList.remove("in-range");
    this.#anchor = cell;
    this.#cells = [cell];
    this.#whole = whole;
  }

  #extend(cell) {
    const anchor = this.#anchor;
    this.#whole = this.#sheet.closest("np-later")?.between(anchor, cell) ?? this.#whole;
    this.#whole.then(() => this.#anchor === anchor && this.#mark(cell));
  }

  #mark(cell) {
    const grid = this.#grid;
    const where = (one) => grid.flatMap((row, y) => (row.includes(one) ? [[y, row.indexOf(one)]] : []))[0];
    const [from, to] = [where(this.#anchor), where(cell)];
    if (!from || !to) return;
    for (const one of this.#cells) one.classList.remove("in-range");
    const [top, bottom] = [from[0], to[0]].sort((a, b) => a - b);
    const [left, right] = [from[1], to[1]].sort((a, b) => a - b);
    this.#cells = grid.slice(top, bottom + 1).flatMap((row) => row.slice(left, right + 1));
    for (const one of this.#cells) one.classList.add("in-range");
  }
}
