// <np-task data-source="…"><p><span data-words></span></p><progress></progress>…</np-task>: a long task that is
// not over. Asks how far it is once a second, says so, and shows the page again when it is over.

const EVERY = 1000;

export class NpTask extends HTMLElement {
  #timer = 0;
  #request = null;

  connectedCallback() {
    this.#timer = setTimeout(() => this.#look(), EVERY);
  }

  disconnectedCallback() {
    clearTimeout(this.#timer);
    this.#request?.abort();
  }

  async #look() {
    this.#request = new AbortController();
    try {
      const answer = await fetch(this.dataset.source, { signal: this.#request.signal });
      if (answer.status === 404) return this.#over();
      if (answer.ok) {
        const task = await answer.json();
        this.#say(task);
        if (task.over) return this.#over();
      }
    } catch (error) {
      if (error.name === "AbortError") return;
    }
    this.#timer = setTimeout(() => this.#look(), EVERY);
  }

  #say({ share, words }) {
    this.querySelector("progress").value = share;
    const said = this.querySelector("[data-words]");
    if (said.textContent !== words) said.textContent = words;
  }

  #over() {
    this.closest("np-region").load(location.href, { push: false });
  }
}

customElements.define("np-task", NpTask);
