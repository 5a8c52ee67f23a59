// <np-drop [data-paste]><input type="file"></np-drop>: files dropped on it become the field's files;
// with data-paste, files pasted anywhere on the page too. Event: np-drop-taken.

export class NpDrop extends HTMLElement {
  connectedCallback() {
    this.addEventListener("dragover", this.#onOver);
    this.addEventListener("dragleave", this.#onLeave);
    this.addEventListener("drop", this.#onDrop);
    if (this.hasAttribute("data-paste")) document.addEventListener("paste", this.#onPaste);
  }

  disconnectedCallback() {
    this.removeEventListener("dragover", this.#onOver);
    this.removeEventListener("dragleave", this.#onLeave);
    this.removeEventListener("drop", this.#onDrop);
    document.removeEventListener("paste", this.#onPaste);
  }

  #onOver = (event) => {
    event.preventDefault();
    this.classList.add("over");
  };

  #onLeave = () => this.classList.remove("over");

  #onDrop = (event) => {
    event.preventDefault();
    this.classList.remove("over");
    this.#take(event.dataTransfer.files);
  };

  #onPaste = (event) => {
    if (!event.clipboardData?.files.length) return;
    event.preventDefault();
    this.#take(event.clipboardData.files);
  };

  #take(files) {
    if (!files.length) return;
    this.querySelector("input").files = files;
    this.dispatchEvent(new CustomEvent("np-drop-taken", { bubbles: true }));
  }
}

customElements.define("np-drop", NpDrop);
