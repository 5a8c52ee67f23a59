// <np-keys [off]>: the keys of the frame. Needs inside it: a np-region, a.skip, #start, links with data-key="1"…"8", an
// element with data-first-axis that holds .mode links, data-find, data-trace, data-escape, buttons with
// data-command="undo" and "redo", #chrome, and <dialog id="keys">.
// Single keys never fire in a field or in the sheet, and not at all with `off`.

const FIELDS = "input, select, textarea, [contenteditable]";

export class NpKeys extends HTMLElement {
  connectedCallback() {
    document.addEventListener("keydown", this.#onKey);
    this.addEventListener("click", this.#onClick);
  }

  disconnectedCallback() {
    document.removeEventListener("keydown", this.#onKey);
    this.removeEventListener("click", this.#onClick);
  }

  #onKey = (event) => {
    if (event.defaultPrevented || this.querySelector("dialog[open]")) return;
    const inField = event.target.matches?.(FIELDS);
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z" && !inField) {
      event.preventDefault();
      this.querySelector(`[data-command="${event.shiftKey ? "redo" : "undo"}"]:enabled`)?.click();
      return;
    }
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === "Escape") return this.querySelector("[data-escape]")?.click();
    if (inField || this.hasAttribute("off") || event.target.closest?.("np-grid")) return;
    if (!"12345678/[]ct?".includes(event.key)) return;
    event.preventDefault();
    const region = this.querySelector("np-region");
    if (region.busy) region.idle.then(() => this.#single(event.key));
    else this.#single(event.key);
  };

  #single(key) {
    const target = /^[1-8]$/.test(key)
      ? this.querySelector(`[data-key="${key}"]`)
      : {
          "/": () => this.#find(),
          "[": () => this.#step(-1),
          "]": () => this.#step(1),
          c: () => this.querySelector("#chrome"),
          t: () => this.querySelector("[data-trace]"),
          "?": () => this.#show(),
        }[key]?.();
    target?.click();
  }

  #find() {
    this.querySelector("[data-find]")?.focus();
  }

  #step(by) {
    const modes = [...this.querySelectorAll("[data-first-axis] .mode")];
    const now = modes.findIndex((mode) => mode.hasAttribute("aria-current"));
    return modes[(now + by + modes.length) % modes.length];
  }

  #show() {
    this.querySelector("#keys").showModal();
  }

  #onClick = (event) => {
    if (event.target.closest("a.skip")) {
      event.preventDefault();
      document.getElementById("start")?.focus();
    }
    if (event.target.closest("[data-keys]")) this.#show();
    const toggle = event.target.closest("[data-single-keys]");
    if (!toggle) return;
    const off = this.toggleAttribute("off");
    toggle.querySelector("span").textContent = off ? "off" : "on";
    document.cookie = `keys=${off ? "off" : "on"}; path=/; max-age=31536000; samesite=lax`;
  };
}

customElements.define("np-keys", NpKeys);
