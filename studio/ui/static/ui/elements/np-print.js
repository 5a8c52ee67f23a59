// <np-print> holds a button that prints the page.

class NpPrint extends HTMLElement {
  connectedCallback() {
    this.addEventListener("click", this);
  }

  disconnectedCallback() {
    this.removeEventListener("click", this);
  }

  handleEvent(event) {
    if (event.target.closest("button")) window.print();
  }
}

customElements.define("np-print", NpPrint);
