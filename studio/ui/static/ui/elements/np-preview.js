// <np-preview data-source="…" data-target="id" [data-now]><form>…</form></np-preview>
// While the form inside is filled in, asks the source with its fields and shows the fragment that
// comes back in the element with the id data-target. data-now asks at once, before anything is typed.

import { Asker } from "./fragments.js";

const PAUSE = 160;

export class NpPreview extends HTMLElement {
  #asker = new Asker();
  #timer = 0;

  connectedCallback() {
    this.addEventListener("input", this.#onInput);
    this.addEventListener("change", this.#onInput);
    if (this.hasAttribute("data-now") && this.querySelector("[name=seed]")?.value) this.#ask();
  }

  disconnectedCallback() {
    this.removeEventListener("input", this.#onInput);
    this.removeEventListener("change", this.#onInput);
    clearTimeout(this.#timer);
    this.#asker.stop();
  }

  #onInput = () => {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.#ask(), PAUSE);
  };

  async #ask() {
    const fields = [...new FormData(this.querySelector("form"))].filter(([name]) => name !== "csrfmiddlewaretoken");
    const url = new URL(this.dataset.source, location.href);
    for (const [name, value] of fields) if (typeof value === "string") url.searchParams.append(name, value);
    const fresh = await this.#asker.ask(url);
    if (fresh) document.getElementById(this.dataset.target)?.replaceChildren(...fresh.childNodes);
  }
}

customElements.define("np-preview", NpPreview);
