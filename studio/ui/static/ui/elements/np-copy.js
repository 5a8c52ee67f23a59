// <np-copy><code>text</code><button type="button">copy</button></np-copy>: copies the text.

export class NpCopy extends HTMLElement {
  connectedCallback() {
    this.addEventListener("click", this.#onClick);
  }

  disconnectedCallback() {
    this.removeEventListener("click", this.#onClick);
  }

  #onClick = async (event) => {
    const button = event.target.closest("button");
    if (!button) return;
    await navigator.clipboard.writeText(this.querySelector("code").textContent);
    button.textContent = "copied";
  };
}

customElements.define("np-copy", NpCopy);
