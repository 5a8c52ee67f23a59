// Swapping a part of the page around elements that stay where they are, as frames that would load again. An element of
// data-still="name" stays as it is where both pages have it, with all that it lies in; everything else is replaced.

const STILL = "[data-still]";

const names = (element) =>
  [...(element.matches?.(STILL) ? [element] : []), ...(element.querySelectorAll?.(STILL) ?? [])].map(
    (one) => one.dataset.still,
  );

const common = (old, fresh) => names(old).filter((name) => names(fresh).includes(name));

/** Whether something stays where it is when an element is given the children of another. */
export function stands(old, fresh) {
  const kept = common(old, fresh);
  const order = names(fresh).filter((name) => kept.includes(name));
  return kept.length > 0 && kept.join() === order.join();
}

/** Give an element the children of another, around what stays. */
export const settle = (old, fresh) => around(old, fresh, new Set(common(old, fresh)));

const holds = (node, kept) => names(node).find((name) => kept.has(name));

function around(old, fresh, kept) {
  const stays = new Map();
  for (const child of [...old.childNodes]) {
    const name = holds(child, kept);
    if (name === undefined) child.remove();
    else stays.set(name, child);
  }
  let after = old.firstChild;
  for (const child of [...fresh.childNodes]) {
    const there = stays.get(holds(child, kept));
    if (!there) {
      old.insertBefore(child, after);
      continue;
    }
    if (!there.matches(STILL)) {
      attributes(there, child);
      around(there, child, kept);
    }
    after = there.nextSibling;
  }
}

function attributes(old, fresh) {
  for (const { name } of [...old.attributes]) if (!fresh.hasAttribute(name)) old.removeAttribute(name);
  for (const { name, value } of fresh.attributes) if (old.getAttribute(name) !== value) old.setAttribute(name, value);
}
