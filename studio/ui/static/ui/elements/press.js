// Whether somebody is pressing a button of a pointer: a click whose element is swapped between press and release is
// lost, so what is shown waits for the release.

/** A press on a scrollbar has no end that a page hears of. */
const LONGEST = 800;
let press = null;

function begin() {
  let end;
  const over = new Promise((done) => (end = done));
  press = { over, end };
  setTimeout(end, LONGEST);
}

/** The click comes after the release, and counts first. */
function release() {
  const ended = press;
  setTimeout(() => ended?.end());
}

addEventListener("pointerdown", begin, true);
addEventListener("pointerup", release, true);
addEventListener("pointercancel", release, true);

/** Resolves when nothing is pressed. */
export const released = () => press?.over ?? Promise.resolve();
