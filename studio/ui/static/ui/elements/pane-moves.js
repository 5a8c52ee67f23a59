// Parts of a scene that stand elsewhere: at the end of another element, until they go back to where they were.

export class Moves {
  /** Where each moved element was: its parent, and a mark in its place. */
  #homes = new Map();

  /** Let the elements at some places stand in others: pairs of both places. */
  apply(elements, pairs) {
    for (const [element, mark] of this.#homes) mark.replaceWith(element);
    this.#homes.clear();
    for (const [from, into] of pairs) {
      const element = elements[from];
      const other = elements[into];
      if (!element || !other || element.contains(other)) continue;
      const mark = element.ownerDocument.createComment("");
      element.replaceWith(mark);
      this.#homes.set(element, mark);
      other.append(element);
    }
  }
}
