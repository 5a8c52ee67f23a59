// <np-grid [data-rows="tr"] [data-cells="a.cell"]><table>… a.cell in each td …</table></np-grid>:
// arrows, Home and End move through the cells of the rows; Enter follows the cell's link. One cell at
// a time is reached by Tab.

const MOVES = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };

export class NpGrid extends HTMLElement {
  connectedCallback() {
    this.addEventListener("keydown", this.#onKey);
    this.addEventListener("focusin", this.#onFocus);
    const rows = [...this.querySelectorAll(this.dataset.rows ?? "tr")];
    this.rows = rows.map((row) => [...row.querySelectorAll(this.cells)]).filter((row) => row.length);
    for (const row of this.rows) for (const cell of row) cell.tabIndex = -1;
    const first = this.querySelector(`${this.cells}[aria-current]`) ?? this.rows[0]?.[0];
    if (first) first.tabIndex = 0;
  }

  disconnectedCallback() {
    this.removeEventListener("keydown", this.#onKey);
    this.removeEventListener("focusin", this.#onFocus);
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
    const row = this.rows.findIndex((cells) => cells.includes(event.target));
    const column = this.rows[row]?.indexOf(event.target);
    const target = this.#target(event.key, row, column);
    if (!target) return;
    event.preventDefault();
    target.focus();
    target.scrollIntoView({ block: "nearest" });
  };

  #target(key, row, column) {
    if (key === "Home") return this.rows[row][0];
    if (key === "End") return this.rows[row].at(-1);
    const [down, right] = MOVES[key] ?? [0, 0];
    if (right) return this.rows[row][column + right];
    const next = down && this.rows[row + down];
    return next ? next[Math.min(column, next.length - 1)] : undefined;
  }
}

customElements.define("np-grid", NpGrid);
