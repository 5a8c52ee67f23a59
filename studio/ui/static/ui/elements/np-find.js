// <np-find><input type="search"></np-find> in a form with method="get" inside an np-region: shows what is found
// at each key. The address in the history stays that of the page before, so that Back leaves the search.

const PAUSE = 120;

export class NpFind extends HTMLElement {
  #timer = 0;

  connectedCallback() {
    this.addEventListener("input", this.#onInput);
  }

  disconnectedCallback() {
    this.removeEventListener("input", this.#onInput);
    clearTimeout(this.#timer);
  }

  #onInput = () => {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.#find(), PAUSE);
  };

  async #find() {
    const region = this.closest("np-region");
    await region.idle;
    if (!this.isConnected) return;
    const { form } = this.querySelector("input");
    const url = new URL(form.action);
    url.search = new URLSearchParams([...new FormData(form)].filter(([, value]) => value)).toString();
    region.look(url.href);
  }
}

customElements.define("np-find", NpFind);
