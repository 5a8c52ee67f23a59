// <np-group-picks><table>… tr with input[data-group], tr with input[name=take], …</table></np-group-picks>: the box of
// a group picks and leaves all rows below it up to the next group, and shows whether all, some or none are picked.

export class NpGroupPicks extends HTMLElement {
  connectedCallback() {
    this.addEventListener("change", this.#onChange);
    for (const box of this.#boxes) this.#show(box);
  }

  disconnectedCallback() {
    this.removeEventListener("change", this.#onChange);
  }

  #onChange = (event) => {
    if (event.target.matches("[data-group]")) {
      for (const row of this.#rows(event.target)) row.checked = event.target.checked;
    } else if (event.target.name === "take") {
      const above = [...this.#boxes].filter((box) => box.compareDocumentPosition(event.target) & 4);
      if (above.length) this.#show(above.at(-1));
    }
  };

  get #boxes() {
    return this.querySelectorAll("[data-group]");
  }

  /** The boxes of the rows of a group. */
  #rows(box) {
    const rows = [];
    let row = box.closest("tr").nextElementSibling;
    for (; row && !row.querySelector("[data-group]"); row = row.nextElementSibling) {
      const pick = row.querySelector("input[name=take]");
      if (pick) rows.push(pick);
    }
    return rows;
  }

  #show(box) {
    const rows = this.#rows(box);
    const picked = rows.filter((row) => row.checked).length;
    box.checked = picked === rows.length;
    box.indeterminate = picked > 0 && !box.checked;
  }
}

customElements.define("np-group-picks", NpGroupPicks);
