// <np-painted data-source>…</np-painted>: what stands on what in a scene. Reads the size and weight of its texts off the
// first pane as it is painted, and asks what follows from them.

import { fragment } from "./fragments.js";

export class NpPainted extends HTMLElement {
  async connectedCallback() {
    await customElements.whenDefined("np-stage");
    const sizes = await document.querySelector("np-stage")?.sizes();
    if (!sizes || !this.isConnected) return;
    const url = new URL(this.dataset.source, location.href);
    url.searchParams.set("sizes", sizes.join());
    const body = await fragment(url);
    if (body && this.isConnected) this.replaceChildren(...body.childNodes);
  }
}

customElements.define("np-painted", NpPainted);
