// <np-fill data-into="id"><button type="button" data-value="…">…</button></np-fill>: a button writes
// its value into the field with that id. With data-source, the buttons are asked for when the details
// around it is opened.

import { fragment } from "./fragments.js";

export class NpFill extends HTMLElement {
  #details = null;

  connectedCallback() {
    this.#details = this.closest("details");
    this.addEventListener("click", this.#onClick);
    this.#details?.addEventListener("toggle", this.#onToggle);
  }

  disconnectedCallback() {
    this.removeEventListener("click", this.#onClick);
    this.#details?.removeEventListener("toggle", this.#onToggle);
  }

  #onToggle = async () => {
    if (!this.dataset.source || this.children.length) return;
    const fresh = await fragment(this.dataset.source);
    if (fresh) this.replaceChildren(...fresh.childNodes);
  };

  #onClick = (event) => {
    const button = event.target.closest("button[data-value]");
    const field = document.getElementById(this.dataset.into);
    if (!button || !field) return;
    field.value = button.dataset.value;
    field.dispatchEvent(new Event("input", { bubbles: true }));
    field.focus();
  };
}

customElements.define("np-fill", NpFill);
