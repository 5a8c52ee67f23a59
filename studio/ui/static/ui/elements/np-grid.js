// <np-grid [data-rows="tr"] [data-cells="a.cell"] [data-tab]><table>… a.cell in each td …</table></np-grid>:
// arrows, Home and End move through the cells of the rows; Enter follows the cell's link. One cell at
// a time is reached by Tab; with data-tab, Tab goes on within a row. Inside an np-later the arrows wait
// for rows that are not there yet.

const MOVES = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };

export class NpGrid extends HTMLElement {
  connectedCallback() {
    this.addEventListener("keydown", this.#onKey);
    this.addEventListener("focusin", this.#onFocus);
    for (const cell of this.querySelectorAll(this.cells)) cell.tabIndex = -1;
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
    if (event.ctrlKey || event.metaKey || event.altKey || !event.target.matches(this.cells)) return;
    const [down] = MOVES[event.key] ?? [0];
    const later = this.closest("np-later");
    if (down && later?.next(event.target, down > 0)) {
      event.preventDefault();
      later.beside(event.target, down > 0).then((came) => came && this.#move(event));
    } else this.#move(event);
  };

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
    if (event.key === "Home") return rows[row][0];
    if (event.key === "End") return rows[row].at(-1);
    if (event.key === "Tab" && this.hasAttribute("data-tab")) return rows[row][column + (event.shiftKey ? -1 : 1)];
    const [down, right] = MOVES[event.key] ?? [0, 0];
    if (right) return rows[row][column + right];
    const next = down && rows[row + down];
    return next ? next[Math.min(column, next.length - 1)] : undefined;
  }
}

customElements.define("np-grid", NpGrid);
