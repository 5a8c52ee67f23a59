// <np-turns>: holds frames with their address in data-src. They are loaded one after the other as they come into
// sight, so that what somebody asks for meanwhile never waits behind more than one of them, and the page itself behind
// none. A frame is led to its address, and its attributes stay as the server sent them.

/** Resolves when the page has loaded: a frame that is led anywhere before counts as a part of it. */
const loaded = () =>
  document.readyState === "complete" ? null : new Promise((done) => addEventListener("load", done, { once: true }));

export class NpTurns extends HTMLElement {
  #seen = null;
  #shown = new WeakMap();
  #wanted = new Set();
  #loading = null;

  connectedCallback() {
    this.#seen = new IntersectionObserver(this.#onSight, { root: this.closest(".body"), rootMargin: "200px" });
    for (const frame of this.querySelectorAll("iframe[data-src]"))
      if (this.#shown.get(frame) !== frame.dataset.src) this.#seen.observe(frame);
  }

  disconnectedCallback() {
    this.#seen.disconnect();
    this.#wanted.clear();
    this.#loading = null;
  }

  #onSight = (entries) => {
    for (const { isIntersecting, target } of entries)
      if (isIntersecting) this.#wanted.add(target);
      else this.#wanted.delete(target);
    this.#next();
  };

  async #next() {
    const frame = [...this.querySelectorAll("iframe")].find((one) => this.#wanted.has(one));
    if (this.#loading || !frame) return;
    this.#loading = frame;
    await loaded();
    while (this.closest("np-region")?.busy) await this.closest("np-region").idle.catch(() => null);
    if (this.#loading !== frame) return; // the page has changed meanwhile
    this.#wanted.delete(frame);
    this.#seen.unobserve(frame);
    if (frame.contentWindow) await this.#lead(frame, frame.dataset.src);
    if (this.#loading !== frame) return;
    this.#loading = null;
    this.#next();
  }

  /** Resolves when a frame shows an address. */
  #lead(frame, address) {
    this.#shown.set(frame, address);
    return new Promise((done) => {
      frame.addEventListener("load", done, { once: true });
      frame.contentWindow.location.replace(new URL(address, location.href));
    });
  }
}

customElements.define("np-turns", NpTurns);
