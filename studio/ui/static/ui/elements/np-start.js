// <np-start data-colors="…"> around the form of a new project (np-preview is inside): colors that are typed
// and entered, pasted, dropped or chosen as a file become chips: <ul id="chips"><li class="chip">…. A
// [data-remove] takes its chip out; a [data-change] makes a chip of its data-name and data-value.

import { fragmentOf } from "./fragments.js";

export class NpStart extends HTMLElement {
  connectedCallback() {
    for (const [name, handler] of this.#handlers) this.addEventListener(name, handler);
  }

  disconnectedCallback() {
    for (const [name, handler] of this.#handlers) this.removeEventListener(name, handler);
  }

  get #more() {
    return this.querySelector("#id_more");
  }

  #onKey = (event) => {
    if (event.key !== "Enter" || event.target !== this.#more || !this.#more.value.trim()) return;
    event.preventDefault();
    this.#addText(this.#more.value);
  };

  #onChange = (event) => {
    if (event.target.id === "color-file" && event.target.files.length) this.#addFile(event.target.files[0]);
    else if (event.target === this.#more && this.#more.value.trim()) this.#addText(this.#more.value);
  };

  #onInput = (event) => {
    const chip = event.target.closest(".chip:not(.adds)");
    const value = event.target.value.trim();
    if (event.target.name === "color-value" && CSS.supports("color", value))
      chip.querySelector("rect").setAttribute("fill", value);
  };

  #onPaste = (event) => {
    if (event.target !== this.#more) return;
    const { files } = event.clipboardData;
    event.preventDefault();
    if (files.length) this.#addFile(files[0]);
    else this.#addText(event.clipboardData.getData("text/plain"));
  };

  #onOver = (event) => event.preventDefault();

  #onDrop = (event) => {
    event.preventDefault();
    if (event.dataTransfer.files.length) this.#addFile(event.dataTransfer.files[0]);
    else this.#addText(event.dataTransfer.getData("text/plain"));
  };

  #onClick = (event) => {
    const button = event.target.closest("[data-remove], [data-change]");
    if (!button) return;
    if (button.hasAttribute("data-remove")) {
      button.closest(".chip").remove();
      this.#more.focus();
      this.#changed();
    } else this.#change(button.dataset);
  };

  #handlers = [
    ["keydown", this.#onKey],
    ["change", this.#onChange],
    ["input", this.#onInput],
    ["paste", this.#onPaste],
    ["dragover", this.#onOver],
    ["drop", this.#onDrop],
    ["click", this.#onClick],
  ];

  /** The chip of a color in the preview, made where it has none, with its value selected. */
  async #change({ name, value }) {
    const named = [...this.querySelectorAll("[name=color-name]")].find((field) => field.value === name);
    const chip = named?.closest(".chip") ?? (await this.#addText(`${name}: ${value}`))?.[0];
    chip?.querySelector("[name=color-value]").select();
  }

  #addText(text) {
    const sent = new FormData();
    sent.set("text", text);
    return this.#add(sent);
  }

  #addFile(file) {
    const sent = new FormData();
    sent.set("file", file);
    return this.#add(sent);
  }

  /** Chips of what was sent, put before the field; what is wrong with it where there are none. */
  async #add(sent) {
    const more = this.#more;
    const before = more.value;
    more.value = "";
    sent.set("csrfmiddlewaretoken", this.querySelector("[name=csrfmiddlewaretoken]").value);
    const { body, ok } = await fragmentOf(this.dataset.colors, { method: "POST", body: sent });
    const says = this.querySelector("#more-says");
    says.textContent = ok ? "" : body?.textContent.trim() || "The server did not answer. Nothing was added.";
    if (!ok) {
      more.value = more.value || before;
      return undefined;
    }
    const chips = [...body.querySelectorAll(".chip")];
    this.querySelector(".chip.adds").before(...chips);
    this.#changed();
    return chips;
  }

  #changed() {
    this.#more.dispatchEvent(new Event("input", { bubbles: true }));
  }
}

customElements.define("np-start", NpStart);
