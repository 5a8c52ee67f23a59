// <np-ladder>… .rungs > .rung[data-step] > button.ladder-mark[data-token][data-mode] … <form hidden>
// </np-ladder>: a mark is dragged to another step, or moved with the arrow keys and stored with Enter;
// Escape puts it back.

export class NpLadder extends HTMLElement {
  #held = null;
  #home = null;

  connectedCallback() {
    this.addEventListener("pointerdown", this.#onDown);
    this.addEventListener("pointermove", this.#onMove);
    this.addEventListener("pointerup", this.#onUp);
    this.addEventListener("keydown", this.#onKey);
  }

  disconnectedCallback() {
    this.removeEventListener("pointerdown", this.#onDown);
    this.removeEventListener("pointermove", this.#onMove);
    this.removeEventListener("pointerup", this.#onUp);
    this.removeEventListener("keydown", this.#onKey);
  }

  #take(mark) {
    if (this.#held === mark) return;
    this.#back();
    this.#held = mark;
    this.#home = mark.closest(".rung");
    mark.classList.add("held");
  }

  #back() {
    if (!this.#held) return;
    this.#home.append(this.#held);
    this.#held.classList.remove("held");
    this.#held = null;
  }

  #onDown = (event) => {
    const mark = event.target.closest?.("button.ladder-mark:enabled");
    if (!mark || event.button !== 0) return;
    this.#take(mark);
    this.setPointerCapture(event.pointerId);
  };

  #onMove = (event) => {
    if (!this.#held || !this.hasPointerCapture(event.pointerId)) return;
    const rung = document.elementsFromPoint(event.clientX, event.clientY).find((one) => one.matches(".rung"));
    if (rung && this.contains(rung)) rung.append(this.#held);
  };

  #onUp = (event) => {
    if (!this.#held || !this.hasPointerCapture(event.pointerId)) return;
    this.releasePointerCapture(event.pointerId);
    if (this.#held.closest(".rung") === this.#home) this.#back();
    else this.#store();
  };

  #onKey = (event) => {
    const mark = event.target.closest?.("button.ladder-mark:enabled");
    if (!mark || event.ctrlKey || event.metaKey || event.altKey) return;
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (by) {
      this.#take(mark);
      const rungs = [...mark.closest(".rungs").children];
      const next = rungs[rungs.indexOf(mark.closest(".rung")) + by];
      next?.append(mark);
      mark.focus();
    } else if (event.key === "Enter" && this.#held === mark && mark.closest(".rung") !== this.#home) this.#store();
    else if (event.key === "Escape" && this.#held === mark) {
      this.#back();
      mark.focus();
    } else return;
    event.preventDefault();
  };

  #store() {
    const mark = this.#held;
    const form = this.querySelector("form");
    form.dataset.back = mark.id;
    form.elements.token.value = mark.dataset.token;
    form.elements.mode.value = mark.dataset.mode;
    form.elements.step.value = mark.closest(".rung").dataset.step;
    this.#held = null;
    form.requestSubmit();
  }
}

customElements.define("np-ladder", NpLadder);
