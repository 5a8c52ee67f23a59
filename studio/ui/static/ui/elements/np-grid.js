// <np-grid><table>… a.cell in each td …</table></np-grid>: arrows, Home and End move through the
// cells; Enter follows the cell's link. One cell at a time is reached by Tab.

const MOVES = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] };

export class NpGrid extends HTMLElement {
  connectedCallback() {
    this.addEventListener("keydown", this.#onKey);
    this.addEventListener("focusin", this.#onFocus);
    this.rows = [...this.querySelectorAll("tr")].map((row) => [...row.querySelectorAll("a.cell")]).filter((row) => row.length);
    for (const row of this.rows) for (const cell of row) cell.tabIndex = -1;
    const first = this.querySelector("a.cell[aria-current]") ?? this.rows[0]?.[0];
    if (first) first.tabIndex = 0;
  }

  disconnectedCallback() {
    this.removeEventListener("keydown", this.#onKey);
    this.removeEventListener("focusin", this.#onFocus);
  }

  #onFocus = (event) => {
    if (!event.target.matches("a.cell")) return;
    for (const cell of this.querySelectorAll('a.cell[tabindex="0"]')) cell.tabIndex = -1;
    event.target.tabIndex = 0;
  };

  #onKey = (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || !event.target.matches("a.cell")) return;
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
    return down || right ? this.rows[row + down]?.[column + right] : undefined;
  }
}

customElements.define("np-grid", NpGrid);
