// <np-bar>…details.lies-open[open] | details[name=axes]…</np-bar>: a bar of parts in a row. As many of
// its details lie open as the width allows, the first ones first; the rest open on demand, one at
// a time. Without this script as many lie open as the server guessed.

export class NpBar extends HTMLElement {
  #sized = new ResizeObserver(() => this.#fit());
  #width = 0;

  connectedCallback() {
    this.#sized.observe(this);
    this.#fit();
  }

  disconnectedCallback() {
    this.#sized.disconnect();
  }

  #fit() {
    if (this.clientWidth === this.#width) return;
    this.#width = this.clientWidth;
    const all = [...this.querySelectorAll("details")];
    for (const one of all) this.#lay(one, true);
    for (const one of all.reverse()) {
      if (this.#wanted <= this.clientWidth) break;
      this.#lay(one, false);
    }
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
