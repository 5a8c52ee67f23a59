// <np-preview data-source="…" data-target="id" [data-now]><form>…</form></np-preview>
// While the form inside is filled in, asks the source with its fields and shows the fragment that
// comes back in the element with the id data-target. data-now asks at once, before anything is typed.

const PAUSE = 160;

export class NpPreview extends HTMLElement {
  #request = null;
  #timer = 0;

  connectedCallback() {
    this.addEventListener("input", this.#onInput);
    this.addEventListener("change", this.#onInput);
    if (this.hasAttribute("data-now") && this.querySelector("[name=seed]")?.value) this.#ask();
  }

  disconnectedCallback() {
    this.removeEventListener("input", this.#onInput);
    this.removeEventListener("change", this.#onInput);
    clearTimeout(this.#timer);
    this.#request?.abort();
  }

  #onInput = () => {
    clearTimeout(this.#timer);
    this.#timer = setTimeout(() => this.#ask(), PAUSE);
  };

  async #ask() {
    this.#request?.abort();
    this.#request = new AbortController();
    const fields = [...new FormData(this.querySelector("form"))].filter(([name]) => name !== "csrfmiddlewaretoken");
    const url = new URL(this.dataset.source, location.href);
    for (const [name, value] of fields) if (typeof value === "string") url.searchParams.append(name, value);
    try {
      const answer = await fetch(url, { signal: this.#request.signal });
      if (!answer.ok) return;
      const fresh = new DOMParser().parseFromString(await answer.text(), "text/html");
      document.getElementById(this.dataset.target)?.replaceChildren(...fresh.body.childNodes);
    } catch (error) {
      if (error.name !== "AbortError") throw error;
    }
  }
}

customElements.define("np-preview", NpPreview);
