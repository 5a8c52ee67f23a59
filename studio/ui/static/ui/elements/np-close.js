// <np-close><button>: takes the message that it stands in away.

export class NpClose extends HTMLElement {
  connectedCallback() {
    this.addEventListener("click", this.#onClick);
  }

  disconnectedCallback() {
    this.removeEventListener("click", this.#onClick);
  }

  #onClick = () => this.closest(".says").remove();
}

customElements.define("np-close", NpClose);
