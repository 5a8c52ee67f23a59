// <np-complete data-source="…"><input role="combobox"><div role="listbox" hidden></div></np-complete>
// Offers what the server finds for the text typed. Arrows choose, Enter or a click takes,
// Escape closes. data-source answers `q` with role="option" elements that have data-value.

import { Asker } from "./fragments.js";

const PAUSE = 90;

export class NpComplete extends HTMLElement {
  #asker = new Asker();
  #timer = 0;

  connectedCallback() {
    this.input = this.querySelector("input");
    this.list = this.querySelector("[role=listbox]");
    this.addEventListener("input", this.#onInput);
    this.addEventListener("keydown", this.#onKey);
    this.addEventListener("mousedown", this.#onPick);
    this.addEventListener("focusout", this.#close);
  }

  disconnectedCallback() {
    this.removeEventListener("input", this.#onInput);
    this.removeEventListener("keydown", this.#onKey);
    this.removeEventListener("mousedown", this.#onPick);
    this.removeEventListener("focusout", this.#close);
    clearTimeout(this.#timer);
    this.#asker.stop();
  }

  get active() {
    return this.list.querySelector("[aria-selected=true]");
  }

  #onInput = () => {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.#ask(), PAUSE);
  };

  async #ask() {
    const url = new URL(this.dataset.source, location.href);
    url.searchParams.set("q", this.input.value);
    const fresh = await this.#asker.ask(url);
    if (fresh === null) this.#close();
    if (!fresh) return;
    this.list.replaceChildren(...fresh.children);
    this.list.hidden = this.list.children.length === 0 || document.activeElement !== this.input;
    this.input.setAttribute("aria-expanded", String(!this.list.hidden));
    this.input.removeAttribute("aria-activedescendant");
  }

  #onKey = (event) => {
    const options = [...this.list.children];
    if (event.key === "ArrowDown" && this.list.hidden) {
      event.preventDefault();
      this.#ask();
    } else if (this.list.hidden) {
      return;
    } else if (event.key === "ArrowDown" || event.key === "ArrowUp") {
      event.preventDefault();
      const by = event.key === "ArrowDown" ? 1 : -1;
      const now = options.indexOf(this.active);
      this.#select(options[now < 0 && by < 0 ? options.length - 1 : (now + by + options.length) % options.length]);
    } else if (event.key === "Enter" && this.active) {
      event.preventDefault();
      this.#take(this.active);
    } else if (event.key === "Escape") {
      event.preventDefault();
      this.#close();
    }
  };

  #onPick = (event) => {
    const option = event.target.closest("[role=option]");
    if (!option) return;
    event.preventDefault();
    this.#take(option);
  };

  #select(option) {
    this.active?.setAttribute("aria-selected", "false");
    option.setAttribute("aria-selected", "true");
    option.scrollIntoView({ block: "nearest" });
    this.input.setAttribute("aria-activedescendant", option.id);
  }

  #take(option) {
    this.input.value = option.dataset.value;
    this.#close();
  }

  #close = () => {
    clearTimeout(this.#timer);
    this.list.hidden = true;
    this.input.setAttribute("aria-expanded", "false");
  };
}

customElements.define("np-complete", NpComplete);
