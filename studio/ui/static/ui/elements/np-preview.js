// <np-preview data-source="…" data-target="id" [data-now]><form>…</form></np-preview>
// While the form inside is filled in, asks the source with its fields and shows the fragment that
// comes back in the element with the id data-target. data-now asks at once, before anything is typed.
// With data-parts in place of data-target, each element of the fragment takes the place of the one with
// its id, where they differ: a frame that stays the same is not loaded again. With data-post the fields are
// posted, where they are too many for an address.

import { Asker, fragmentOf } from "./fragments.js";

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
    const form = this.querySelector("form");
    if (this.hasAttribute("data-post")) {
      const { body } = await fragmentOf(this.dataset.source, { method: "POST", body: new FormData(form) });
      document.getElementById(this.dataset.target)?.replaceChildren(...body.childNodes);
      return;
    }
    const fields = [...new FormData(form)].filter(([name]) => name !== "csrfmiddlewaretoken");
    const url = new URL(this.dataset.source, location.href);
    for (const [name, value] of fields) if (typeof value === "string") url.searchParams.append(name, value);
    const fresh = await this.#asker.ask(url);
    if (!fresh) return;
    if (this.hasAttribute("data-parts")) this.#put(fresh);
    else document.getElementById(this.dataset.target)?.replaceChildren(...fresh.childNodes);
  }

  #put(fresh) {
    for (const part of [...fresh.children]) {
      const old = document.getElementById(part.id);
      if (old && !old.isEqualNode(part)) old.replaceWith(part);
    }
  }
}

customElements.define("np-preview", NpPreview);
