// <np-bind><table> rows with a [data-token] that can be dragged and a form with a field `token` … </table></np-bind>:
// a token dropped on a row, or on a part of the scene, is bound to the slot there.

import { TOKEN } from "./pane-drop.js";

class NpBind extends HTMLElement {
  connectedCallback() {
    this.addEventListener("dragstart", this);
    this.addEventListener("dragover", this);
    this.addEventListener("drop", this);
    document.addEventListener("np-stage-drop", this);
  }

  disconnectedCallback() {
    this.removeEventListener("dragstart", this);
    this.removeEventListener("dragover", this);
    this.removeEventListener("drop", this);
    document.removeEventListener("np-stage-drop", this);
  }

  handleEvent(event) {
    if (event.type === "np-stage-drop") {
      const rows = event.detail.slots.map((slot) => this.querySelector(`tr[data-slot="${CSS.escape(slot)}"]`));
      this.#bind(rows.find(Boolean), event.detail.token);
      return;
    }
    const { dataTransfer } = event;
    if (event.type === "dragstart") {
      const { token } = event.target.closest?.("[data-token]")?.dataset ?? {};
      if (token) dataTransfer.setData(TOKEN, token);
    } else if (dataTransfer.types.includes(TOKEN)) {
      event.preventDefault();
      if (event.type === "drop") this.#bind(event.target.closest("tr[data-slot]"), dataTransfer.getData(TOKEN));
    }
  }

  #bind(row, token) {
    const form = row?.querySelector("form:has([name=token])");
    if (!form || !token) return;
    form.elements.token.value = token;
    form.requestSubmit();
  }
}

customElements.define("np-bind", NpBind);
