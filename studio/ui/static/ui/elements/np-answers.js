// <np-answers>… <button data-key="y">…</button> <a data-key="n">…</a> …</np-answers>: while the focus is
// inside, but in no field, the key of an answer gives it. A key that is pressed while the one before is on
// its way does nothing, as the question it was meant for is gone.

const FIELDS = "input, select, textarea";

export class NpAnswers extends HTMLElement {
  connectedCallback() {
    this.addEventListener("keydown", this.#onKey);
  }

  disconnectedCallback() {
    this.removeEventListener("keydown", this.#onKey);
  }

  #onKey = (event) => {
    if (event.ctrlKey || event.metaKey || event.altKey || event.target.matches(FIELDS)) return;
    const answer = [...this.querySelectorAll("[data-key]")].find((one) => one.dataset.key === event.key);
    if (!answer) return;
    event.preventDefault();
    if (!event.repeat && !this.closest("np-region")?.busy) answer.click();
  };
}

customElements.define("np-answers", NpAnswers);
