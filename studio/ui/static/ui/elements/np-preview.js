// <np-preview data-source="…" data-target="id" [data-now]><form>…</form></np-preview>
// While the form inside is filled in, asks the source with its fields and shows the fragment that
// comes back in the element with the id data-target. data-now asks at once, before anything is typed.
// With data-parts in place of data-target, each element of the fragment takes the place of the one with
// its id, where they differ: a frame that stays the same is not loaded again. With data-post the fields are
// posted, where they are too many for an address. What is shown is marked with data-stale and aria-busy while it is
// not of the present input; with data-parts that is every element with data-part.

import { Asker, fragmentOf } from "./fragments.js";

const PAUSE = 160;

export class NpPreview extends HTMLElement {
  #asker = new Asker();
  #timer = 0;
  #number = 0;

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
    this.#mark(true);
    this.#timer = setTimeout(() => this.#ask(), PAUSE);
  };

  /** What is shown is busy from the first key on until what was typed last is answered. */
  #mark(busy) {
    const shown = this.hasAttribute("data-parts")
      ? this.querySelectorAll("[data-part]")
      : [document.getElementById(this.dataset.target)].filter(Boolean);
    for (const part of shown) part.toggleAttribute("data-stale", busy);
    for (const part of shown) part.setAttribute("aria-busy", String(busy));
  }

  async #ask() {
    const form = this.querySelector("form");
    const number = (this.#number += 1);
    const fresh = await (this.hasAttribute("data-post") ? this.#posted(form) : this.#got(form));
    if (number !== this.#number || fresh === undefined) return;
    if (fresh === null) {
      document
        .getElementById(this.dataset.target)
        ?.replaceChildren("The server does not answer; this is not of what you typed.");
      return;
    }
    if (this.hasAttribute("data-parts")) this.#put(fresh);
    else document.getElementById(this.dataset.target)?.replaceChildren(...fresh.childNodes);
    this.#mark(false);
  }

  async #posted(form) {
    const { body } = await fragmentOf(this.dataset.source, { method: "POST", body: new FormData(form) });
    return body;
  }

  #got(form) {
    const fields = [...new FormData(form)].filter(([name]) => name !== "csrfmiddlewaretoken");
    const url = new URL(this.dataset.source, location.href);
    for (const [name, value] of fields) if (typeof value === "string") url.searchParams.append(name, value);
    return this.#asker.ask(url);
  }

  #put(fresh) {
    for (const part of [...fresh.children]) {
      const old = document.getElementById(part.id);
      if (old && !old.isEqualNode(part)) old.replaceWith(part);
    }
  }
}

customElements.define("np-preview", NpPreview);
