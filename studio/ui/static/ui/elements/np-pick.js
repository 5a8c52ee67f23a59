// <np-pick><input><button type="button" hidden>pick</button></np-pick>: where the browser can pick a
// color from the screen, the button shows and writes what was picked into the input.

export class NpPick extends HTMLElement {
  connectedCallback() {
    this.button = this.querySelector("button");
    this.button.hidden = !("EyeDropper" in window);
    this.button.addEventListener("click", this.#onClick);
  }

  disconnectedCallback() {
    this.button.removeEventListener("click", this.#onClick);
  }

  #onClick = async () => {
    try {
      const { sRGBHex } = await new window.EyeDropper().open();
      const input = this.querySelector("input");
      input.value = sRGBHex;
      input.dispatchEvent(new Event("input", { bubbles: true }));
    } catch (error) {
      if (error.name !== "AbortError") throw error;
    }
  };
}

customElements.define("np-pick", NpPick);
