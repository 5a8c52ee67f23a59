// <np-chrome><button>… <span>light</span></button></np-chrome>: the chrome, one step a click.
// What is chosen is kept in the cookie `chrome`; until then it follows the system.

const CHROMES = ["light", "mid", "dark"];

export class NpChrome extends HTMLElement {
  connectedCallback() {
    this.addEventListener("click", this.#onClick);
  }

  disconnectedCallback() {
    this.removeEventListener("click", this.#onClick);
  }

  #onClick = () => {
    const root = document.documentElement;
    const dark = matchMedia("(prefers-color-scheme: dark)").matches;
    const now = root.dataset.chrome ?? (dark ? "dark" : "light");
    const next = CHROMES[(CHROMES.indexOf(now) + 1) % CHROMES.length];
    root.dataset.chrome = next;
    this.querySelector("span").textContent = next;
    document.cookie = `chrome=${next}; path=/; max-age=31536000; samesite=lax`;
  };
}

customElements.define("np-chrome", NpChrome);
