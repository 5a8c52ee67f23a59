// <np-more data-source data-rows>a link</np-more>: what stands further down, asked for when it comes into sight. What
// the source answers takes the element's place. Until then it is as high as the rows that will stand there.

import { fragment } from "./fragments.js";

const ROW = 38;
const AGAIN = 2000;

export class NpMore extends HTMLElement {
  #seen = null;

  connectedCallback() {
    this.style.height = `${+this.dataset.rows * ROW}px`;
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
