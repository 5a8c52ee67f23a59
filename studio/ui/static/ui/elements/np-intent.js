// <np-intent [data-by="name"]> around a form with a select of that name, "command" without, whose options say in data-needs which fields they need:
// [data-field="…"] that the chosen one does not need is not there.

export class NpIntent extends HTMLElement {
  connectedCallback() {
    this.addEventListener("change", this.#show);
    this.#show();
  }

  disconnectedCallback() {
    this.removeEventListener("change", this.#show);
  }

  #show = () => {
    const chosen = this.querySelector(`select[name=${this.dataset.by ?? "command"}]`)?.selectedOptions[0];
    const needs = new Set((chosen?.dataset.needs ?? "").split(" "));
    for (const part of this.querySelectorAll("[data-field]")) {
      part.hidden = !needs.has(part.dataset.field);
      for (const field of part.querySelectorAll("input, select")) field.disabled = part.hidden;
    }
  };
}

customElements.define("np-intent", NpIntent);
