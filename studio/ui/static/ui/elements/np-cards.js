// <np-cards data-moves="form-id">… [data-mode][draggable] …</np-cards>: cards that are put in another order by dragging,
// or with Alt and the arrows from within one. The form with that id is sent with mode and by.

export class NpCards extends HTMLElement {
  #held = null;

  connectedCallback() {
    if (!this.dataset.moves) return;
    for (const [name, handler] of this.#handlers) this.addEventListener(name, handler);
  }

  disconnectedCallback() {
    for (const [name, handler] of this.#handlers) this.removeEventListener(name, handler);
  }

  get #cards() {
    return [...this.querySelectorAll("[data-mode]")];
  }

  #onStart = (event) => {
    this.#held = event.target.closest("[data-mode]");
    event.dataTransfer.effectAllowed = "move";
    event.dataTransfer.setData("text/plain", this.#held.dataset.mode);
  };

  #onOver = (event) => {
    if (this.#held) event.preventDefault();
  };

  #onDrop = (event) => {
    const target = event.target.closest("[data-mode]");
    if (!this.#held || !target) return;
    event.preventDefault();
    const cards = this.#cards;
    this.#move(this.#held, cards.indexOf(target) - cards.indexOf(this.#held));
    this.#held = null;
  };

  #onKey = (event) => {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    const card = event.target.closest("[data-mode]");
    if (!event.altKey || !by || !card) return;
    event.preventDefault();
    this.#move(card, by);
  };

  #handlers = [
    ["dragstart", this.#onStart],
    ["dragover", this.#onOver],
    ["drop", this.#onDrop],
    ["keydown", this.#onKey],
  ];

  #move(card, by) {
    if (!by) return;
    const form = document.getElementById(this.dataset.moves);
    form.elements.mode.value = card.dataset.mode;
    form.elements.by.value = by;
    form.requestSubmit();
  }
}

customElements.define("np-cards", NpCards);
