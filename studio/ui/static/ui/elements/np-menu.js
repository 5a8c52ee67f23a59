// <np-menu><details class="menu"><summary>…</summary><div>…</div></details></np-menu>: a menu that closes at Escape
// and at a click elsewhere; the arrows move through its links and buttons.

const ITEMS = "a[href], button, select";

export class NpMenu extends HTMLElement {
  connectedCallback() {
    this.addEventListener("keydown", this.#onKey);
    document.addEventListener("click", this.#onClick);
  }

  disconnectedCallback() {
    this.removeEventListener("keydown", this.#onKey);
    document.removeEventListener("click", this.#onClick);
  }

  get #details() {
    return this.querySelector("details");
  }

  #onClick = (event) => {
    if (!this.contains(event.target)) this.#details.open = false;
  };

  #onKey = (event) => {
    if (!this.#details.open) return;
    if (event.key === "Escape") {
      this.#details.open = false;
      this.querySelector("summary").focus();
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      const items = [...this.querySelectorAll(ITEMS)];
      const by = event.key === "ArrowDown" ? 1 : -1;
      const place = items.indexOf(document.activeElement);
      if (event.target.matches("select")) return;
      items[(place + by + items.length) % items.length]?.focus();
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
}

customElements.define("np-menu", NpMenu);
