const PULSE = 2500;

/**
 * Hears of what is stored elsewhere: in other tabs at once, by other people within seconds. `heard` is
 * called for it; it is asked for while the page is seen and `quiet()` says that nothing is on its way.
 */
export class Others {
  #channel;
  #pulse;

  constructor({ project, pulse, revision, quiet, heard }) {
    this.#channel = new BroadcastChannel(`np-${project}`);
    this.#channel.onmessage = heard;
    if (!pulse) return;
    this.#pulse = setInterval(async () => {
      if (document.hidden || !quiet()) return;
      const answer = await fetch(pulse).catch(() => null);
      const told = answer?.ok ? await answer.json().catch(() => null) : null;
      if (told && quiet() && told.revision > revision()) heard();
    }, PULSE);
  }

  /** Tell the other tabs that something was stored. */
  tell() {
    this.#channel.postMessage("stored");
  }

  stop() {
    clearInterval(this.#pulse);
    this.#channel.close();
  }
}
