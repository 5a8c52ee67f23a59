// <np-bar>…details.lies-open[open] | details[name=axes]…</np-bar>: a bar of parts in a row. As many of
// its details lie open as the width allows, the first ones first; the rest open on demand, one at
// a time. Without this script as many lie open as the server guessed.

export class NpBar extends HTMLElement {
  #sized = new ResizeObserver(([{ contentRect }]) => this.#fit(contentRect.width));
  #width = 0;
  #open = 0;
  #count = 0;

  connectedCallback() {
    if (this.#all.length !== this.#count) this.#width = 0; // other parts have come: they are fitted again
    this.#sized.observe(this);
    if (this.#width) this.#shut();
  }

  disconnectedCallback() {
    this.#sized.disconnect();
  }

  #fit(width) {
    if (width === this.#width) return;
    this.#width = width;
    const all = this.#all;
    for (const one of all) this.#lay(one, true);
    this.#open = this.#count = all.length;
    while (this.#open && this.#wanted > this.clientWidth) this.#lay(all[--this.#open], false);
  }

  /** Lay what the server guessed as it fitted before, and close what was opened on demand. */
  #shut() {
    this.#all.forEach((one, index) => this.#lay(one, index < this.#open));
  }

  get #all() {
    return [...this.querySelectorAll("details")];
  }

  get #wanted() {
    return [...this.children].reduce((sum, part) => sum + part.getBoundingClientRect().width, 0);
  }

  #lay(details, open) {
    details.classList.toggle("lies-open", open);
    if (open) details.removeAttribute("name");
    else details.setAttribute("name", "axes");
    details.open = open;
  }
}

customElements.define("np-bar", NpBar);
