// <np-find><input type="search"></np-find> in a form with method="get" inside an np-region: shows what is found
// at each key: at once, and while typing goes on at its next pause. The address in the history stays that of the page before, so that Back leaves the search.

const PAUSE = 120;

export class NpFind extends HTMLElement {
  #timer = 0;
  #asked = -PAUSE;

  connectedCallback() {
    this.addEventListener("input", this.#onInput);
  }

  disconnectedCallback() {
    this.removeEventListener("input", this.#onInput);
    clearTimeout(this.#timer);
  }

  #onInput = () => {
    clearTimeout(this.#timer);
    const goesOn = performance.now() - this.#asked < PAUSE;
    this.#timer = setTimeout(() => this.#find(), goesOn ? PAUSE : 0);
    this.#asked = performance.now();
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
