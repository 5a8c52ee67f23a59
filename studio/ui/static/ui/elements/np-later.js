// <np-later><table>… tbody.later[data-source][data-count] …</table></np-later>: rows that are sent when
// they come into sight. Until then each such tbody is as high as its rows will be. What comes is the
// tr of a table that the source answers; its cells are reached through the grid, not by Tab.

const ROW = 29;

export class NpLater extends HTMLElement {
  #seen = null;

  connectedCallback() {
    this.#seen = new IntersectionObserver(this.#onSight, { root: this.closest(".body"), rootMargin: "400px" });
    for (const body of this.querySelectorAll("tbody.later")) {
      body.firstElementChild.style.height = `${+body.dataset.count * ROW}px`;
      this.#seen.observe(body);
    }
  }

  disconnectedCallback() {
    this.#seen.disconnect();
  }

  #onSight = async (entries) => {
    for (const { isIntersecting, target } of entries) {
      if (!isIntersecting || target.dataset.asked) continue;
      target.dataset.asked = "yes";
      const answer = await fetch(target.dataset.source).catch(() => null);
      if (!answer?.ok) continue;
      const fresh = new DOMParser().parseFromString(await answer.text(), "text/html");
      target.replaceChildren(...fresh.querySelectorAll("tr"));
      target.classList.remove("later");
      for (const cell of target.querySelectorAll("a.cell")) cell.tabIndex = -1;
      this.#seen.unobserve(target);
    }
  };
}

customElements.define("np-later", NpLater);
