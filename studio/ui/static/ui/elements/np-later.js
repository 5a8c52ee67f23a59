// <np-later data-of><table>… tbody.later[data-source][data-count] …</table></np-later>: rows that are sent when
// they come into sight, or when somebody needs them. Until then each such tbody is as high as its
// rows will be, or holds the rows that stood there before, where the element takes the place of
// another of the same data-of. What comes is the tr of a table that the source answers; its cells
// are reached through the grid, not by Tab.

import { fragment } from "./fragments.js";

const ROW = 29;
const AGAIN = 2000;

const follows = (one, other) => other.compareDocumentPosition(one) & Node.DOCUMENT_POSITION_FOLLOWING;

/** The rows of the element that has just gone, and where each token's is among them. */
let gone = null;

export class NpLater extends HTMLElement {
  #seen = null;
  #asked = new Map();

  connectedCallback() {
    this.#seen = new IntersectionObserver(this.#onSight, { root: this.closest(".body"), rootMargin: "400px" });
    for (const body of this.#bodies) {
      const rows = this.#stoodHere(body);
      if (rows && !body.contains(rows[0])) body.replaceChildren(...rows);
      if (!rows) body.firstElementChild.style.height = `${+body.dataset.count * ROW}px`;
      this.#seen.observe(body);
    }
  }

  disconnectedCallback() {
    this.#seen.disconnect();
    this.#asked.clear();
    const rows = [...this.querySelectorAll("tr:has(a.cell)")];
    const at = new Map(rows.map((row, index) => [row.querySelector("a.cell").dataset.token, index]));
    gone = { of: this.dataset.of, rows, at };
    queueMicrotask(() => (gone = null));
  }

  /** The rows that stood in a block's place a moment ago, where they were there. */
  #stoodHere(body) {
    if (!gone || gone.of !== this.dataset.of) return null;
    const first = gone.at.get(new URL(body.dataset.source, location.href).searchParams.get("from"));
    const rows = gone.rows.slice(first, first + +body.dataset.count);
    if (first === undefined || rows.length < +body.dataset.count) return null;
    for (const row of rows) {
      row.classList.remove("on");
      for (const pick of row.querySelectorAll("input:checked")) pick.checked = false;
      for (const cell of row.querySelectorAll("a.cell")) {
        cell.removeAttribute("aria-current");
        cell.tabIndex = -1;
      }
    }
    return rows;
  }

  get #bodies() {
    return [...this.querySelectorAll("tbody.later")];
  }

  /** Fetch what is missing between two cells. Resolves to false where something did not come. */
  between(first, last) {
    const [from, to] = follows(first, last) ? [last, first] : [first, last];
    return this.#all(this.#bodies.filter((body) => follows(body, from) && follows(to, body)));
  }

  /** Fetch what is missing of so many rows behind a cell; as `between`. */
  behind(cell, count) {
    const wanted = [];
    let rows = 0;
    for (const body of this.querySelectorAll("tbody")) {
      if (rows >= count) break;
      if (!follows(body, cell) && !body.contains(cell)) continue;
      if (body.matches(".later")) {
        wanted.push(body);
        rows += +body.dataset.count;
      } else rows += [...body.rows].filter((row) => follows(row, cell) && row.querySelector("a.cell")).length;
    }
    return this.#all(wanted);
  }

  /** Fetch every row that is missing; as `between`. */
  everything() {
    return this.#all(this.#bodies);
  }

  /** Fetch the blocks that hold the `count` rows before a cell; as `between`. */
  before(cell, count) {
    const bodies = [...this.querySelectorAll("tbody")].filter((body) => follows(cell, body) && !body.contains(cell));
    const wanted = [];
    for (let rows = 0; bodies.length && rows < count;) {
      const body = bodies.pop();
      if (body.matches(".later")) wanted.push(body);
      rows += body.matches(".later") ? +body.dataset.count : body.querySelectorAll("tr:has(a.cell)").length;
    }
    return this.#all(wanted);
  }

  /** Fetch the last rows; as `between`. */
  last() {
    const bodies = this.#bodies;
    const end = [...this.querySelectorAll("tbody")].findLast(
      (body) => body.matches(".later") || body.querySelector("a.cell"),
    );
    return this.#all(bodies.filter((body) => body === end));
  }

  /** Fetch what comes next to a cell's row, up or down, where it is missing; as `between`. */
  beside(cell, down) {
    const body = this.next(cell, down);
    return this.#all(body ? [body] : []);
  }

  /** The block that comes next to a cell's row, up or down, and is not there yet; or undefined. */
  next(cell, down) {
    const next = down ? "nextElementSibling" : "previousElementSibling";
    if (cell.closest("tr")[next]) return undefined;
    let body = cell.closest("tbody")[next];
    while (body && !body.matches(".later") && !body.querySelector("a.cell")) body = body[next];
    return body?.matches(".later") ? body : undefined;
  }

  async #all(bodies) {
    return (await Promise.all(bodies.map((body) => this.#load(body)))).every(Boolean);
  }

  #onSight = (entries) => {
    for (const { isIntersecting, target } of entries) if (isIntersecting) this.#load(target);
  };

  #load(body) {
    if (!this.#asked.has(body)) this.#asked.set(body, this.#fetch(body));
    return this.#asked.get(body);
  }

  async #fetch(body) {
    const fresh = await fragment(body.dataset.source);
    this.#seen.unobserve(body);
    if (!fresh) {
      this.#asked.delete(body);
      setTimeout(() => this.isConnected && this.#seen.observe(body), AGAIN);
      return false;
    }
    const active = body.contains(document.activeElement) ? document.activeElement.id : "";
    body.replaceChildren(...fresh.querySelectorAll("tr"));
    body.classList.remove("later");
    for (const cell of body.querySelectorAll("a.cell")) cell.tabIndex = -1;
    if (active) document.getElementById(active)?.focus({ preventScroll: true });
    this.closest("np-region")?.returnFocus();
    return true;
  }
}

customElements.define("np-later", NpLater);
