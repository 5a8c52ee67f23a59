// <np-fill data-into="id"><button type="button" data-value="…">…</button></np-fill>: a button writes
// its value into the field with that id.

export class NpFill extends HTMLElement {
  connectedCallback() {
    this.addEventListener("click", this.#onClick);
  }

  disconnectedCallback() {
    this.removeEventListener("click", this.#onClick);
  }

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
