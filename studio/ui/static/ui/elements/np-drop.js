// <np-drop><input type="file"></np-drop>: files dropped on it become the field's files.

export class NpDrop extends HTMLElement {
  connectedCallback() {
    this.addEventListener("dragover", this.#onOver);
    this.addEventListener("dragleave", this.#onLeave);
    this.addEventListener("drop", this.#onDrop);
  }

  disconnectedCallback() {
    this.removeEventListener("dragover", this.#onOver);
    this.removeEventListener("dragleave", this.#onLeave);
    this.removeEventListener("drop", this.#onDrop);
  }

  #onOver = (event) => {
    event.preventDefault();
    this.classList.add("over");
  };

  #onLeave = () => this.classList.remove("over");

  #onDrop = (event) => {
    event.preventDefault();
    this.classList.remove("over");
    if (event.dataTransfer.files.length) this.querySelector("input").files = event.dataTransfer.files;
  };
}

customElements.define("np-drop", NpDrop);
