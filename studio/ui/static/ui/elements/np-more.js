// <np-more data-source data-height>a link</np-more>: what stands further down, asked for when it comes into sight. What
// the source answers takes the element's place. Until then it is as high, in pixels, as that will be.

import { fragment } from "./fragments.js";

const AGAIN = 2000;

export class NpMore extends HTMLElement {
  #seen = null;

  connectedCallback() {
    this.style.height = `${this.dataset.height}px`;
    this.#seen = new IntersectionObserver((entries) => entries.some((one) => one.isIntersecting) && this.#load(), {
      root: this.closest(".body"),
      rootMargin: "600px",
    });
    this.#seen.observe(this);
  }

  disconnectedCallback() {
    this.#seen.disconnect();
  }

  async #load() {
    this.#seen.unobserve(this);
    const came = await fragment(this.dataset.source);
    if (!this.isConnected) return;
    if (!came) setTimeout(() => this.#seen.observe(this), AGAIN);
    else {
      for (const cell of came.querySelectorAll("a.step")) cell.tabIndex = -1;
      this.replaceWith(...came.children);
    }
  }
}

customElements.define("np-more", NpMore);
