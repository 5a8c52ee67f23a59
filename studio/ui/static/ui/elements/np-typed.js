// <np-typed> around an input or a select of a form: what is typed or chosen is sent at once: at Enter, or when the
// field is left changed. Escape puts back what was there.

export class NpTyped extends HTMLElement {
  connectedCallback() {
    this.addEventListener("change", this.#onChange);
    this.addEventListener("keydown", this.#onKey);
    this.addEventListener("focusin", this.#onFocus);
  }

  disconnectedCallback() {
    this.removeEventListener("change", this.#onChange);
    this.removeEventListener("keydown", this.#onKey);
    this.removeEventListener("focusin", this.#onFocus);
  }

  get #field() {
    return this.querySelector("input, select");
  }

  #onFocus = () => this.#field.select?.();

  #onChange = () => {
    if (this.#field.form.reportValidity()) this.#field.form.requestSubmit();
  };

  #onKey = (event) => {
    if (event.key !== "Escape" || this.#field.value === this.#field.defaultValue) return;
    event.preventDefault();
    event.stopPropagation();
    this.#field.value = this.#field.defaultValue ?? this.#field.value;
  };
}

customElements.define("np-typed", NpTyped);
