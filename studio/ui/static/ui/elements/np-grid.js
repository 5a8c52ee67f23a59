// <np-grid [data-rows="tr"] [data-cells="a.cell"] [data-tab]><table>… a.cell in each td …</table></np-grid>:
// arrows, Home, End, PageUp and PageDown move through the cells of the rows, Ctrl Home and Ctrl End to the
// first and the last; Enter follows the cell's link. One cell at a time is reached by Tab; with data-tab,
// Tab goes on within a row. The left arrow goes from a first cell to its group's a.fold, and an arrow goes
// back from there. Inside an np-later the keys wait for rows that are not there yet.

const MOVES = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };
const PAGES = { PageUp: -1, PageDown: 1 };

const follows = (one, other) => other.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_FOLLOWING;

export class NpGrid extends HTMLElement {
  /** Resolves when rows that a key has asked for are there and the focus has moved; undefined else. */
  moving = undefined;

  connectedCallback() {
    this.addEventListener("keydown", this.#onKey);
    this.addEventListener("focusin", this.#onFocus);
    for (const cell of this.querySelectorAll(`${this.cells}, a.fold`)) cell.tabIndex = -1;
    const first = this.querySelector(`${this.cells}[aria-current]`) ?? this.querySelector(this.cells);
    if (first) first.tabIndex = 0;
  }

  disconnectedCallback() {
    this.removeEventListener("keydown", this.#onKey);
    this.removeEventListener("focusin", this.#onFocus);
  }

  /** The cells row by row; rows may come while the grid stands. */
  get rows() {
    const rows = [...this.querySelectorAll(this.dataset.rows ?? "tr")];
    return rows.map((row) => [...row.querySelectorAll(this.cells)]).filter((row) => row.length);
  }

  get cells() {
    return this.dataset.cells ?? "a.cell";
  }

  #onFocus = (event) => {
    if (!event.target.matches(this.cells)) return;
    for (const cell of this.querySelectorAll(`${this.cells}[tabindex="0"]`)) cell.tabIndex = -1;
    event.target.tabIndex = 0;
  };

  #onKey = (event) => {
    if (event.metaKey || event.altKey) return;
    if (event.target.matches("a.fold")) this.#leaveFold(event);
    if (!event.target.matches(this.cells) || (event.ctrlKey && !["Home", "End"].includes(event.key))) return;
    const wanted = this.#missing(event);
    if (wanted) {
      event.preventDefault();
      this.moving = wanted.then((came) => {
        this.moving = undefined;
        if (came) this.#move(event);
      });
    } else this.#move(event);
  };

  /** The rows that a key needs and that are not there, as a promise; undefined where all are. */
  #missing(event) {
    const later = this.closest("np-later");
    const { target, key } = event;
    if (!later) return undefined;
    const [down] = MOVES[key] ?? [0];
    if (down) return later.next(target, down > 0) ? later.beside(target, down > 0) : undefined;
    if (key === "PageDown") return later.behind(target, this.#page + 1);
    if (key === "PageUp") return later.before(target, this.#page + 1);
    return event.ctrlKey && key === "End" ? later.last() : undefined;
  }

  /** How many rows are seen at once, but for one. */
  get #page() {
    const body = this.closest(".body");
    const height = this.querySelector(this.cells)?.closest("tr")?.offsetHeight || 29;
    return body ? Math.max(Math.floor(body.clientHeight / height) - 1, 1) : 10;
  }

  #move(event) {
    const rows = this.rows;
    const row = rows.findIndex((cells) => cells.includes(event.target));
    const target = this.#target(event, rows, row, rows[row]?.indexOf(event.target));
    if (!target) return;
    event.preventDefault();
    target.focus();
    target.scrollIntoView({ block: "nearest" });
  }

  #target(event, rows, row, column) {
    const { key, ctrlKey, shiftKey } = event;
    if (key === "Home") return (ctrlKey ? rows[0] : rows[row])[0];
    if (key === "End") return (ctrlKey ? rows.at(-1) : rows[row]).at(-1);
    if (key === "Tab" && this.hasAttribute("data-tab")) return rows[row][column + (shiftKey ? -1 : 1)];
    const [down, right] = MOVES[key] ?? [(PAGES[key] ?? 0) * this.#page, 0];
    if (right) return rows[row][column + right] ?? (right < 0 ? this.#foldOf(event.target) : undefined);
    const next = down && rows[Math.min(Math.max(row + down, 0), rows.length - 1)];
    return next && next !== rows[row] ? next[Math.min(column, next.length - 1)] : undefined;
  }

  /** The heading that folds the group a cell lies in. */
  #foldOf(cell) {
    return [...this.querySelectorAll("a.fold")].findLast((fold) => follows(cell, fold));
  }

  #leaveFold(event) {
    if (!(event.key in MOVES)) return;
    const cells = this.rows.map((row) => row[0]);
    const back = event.key === "ArrowUp";
    const cell = back
      ? cells.findLast((one) => follows(event.target, one))
      : cells.find((one) => follows(one, event.target));
    event.preventDefault();
    cell?.focus();
  }
}

customElements.define("np-grid", NpGrid);
