"""The bulk acts by name: each takes a resolver, the keys, the cells and the form, and gives what was
done and a label."""

from prism.derive import bulk, mapping
from prism.errors import EditError


def _number(text, name):
    try:
        return int(text.strip().rstrip("%"))
    except ValueError:
        raise EditError(f"“{text[:20]}” is no whole number.", place=name) from None


def _by(step):
    def run(resolver, keys, cells, said):
        return mapping.shift(resolver.document, cells, step)

    return run


def _copy(resolver, keys, cells, said):
    return mapping.copy_mode(
        resolver, keys, said["axis"], said["source"], said["target"], said["theme"]
    )


ACTS = {
    "lighter": (_by(-1), "Shifted {n} towards the first step"),
    "darker": (_by(1), "Shifted {n} towards the last step"),
    "mirror": (lambda r, k, c, s: mapping.mirror(r.document, c), "Mirrored {n}"),
    "map": (lambda r, k, c, s: mapping.map_to(r.document, c, s["ramp"]), "Mapped {n} to a ramp"),
    "put": (lambda r, k, c, s: mapping.put(r.document, c, s["text"]), "Set {n} to {text}"),
    "fill": (lambda r, k, c, s: mapping.fill(r.document, c), "Filled {n} from the first row"),
    "fill-along": (
        lambda r, k, c, s: mapping.fill(r.document, c, 1),
        "Filled {n} along the ramp from the first row",
    ),
    "clear": (lambda r, k, c, s: mapping.clear(r.document, c), "Cleared {n}"),
    "opacity": (
        lambda r, k, c, s: mapping.wrap_opacity(r.document, c, _number(s["text"], "Opacity")),
        "Wrapped {n} in opacity",
    ),
    "copy": (_copy, "Copied a mode for {n}"),
    "replace": (
        lambda r, k, c, s: bulk.replace_in_paths(r.document, k, s["text"], s["replacement"]),
        "Replaced “{text}” in the paths of {n}",
    ),
    "group": (
        lambda r, k, c, s: bulk.move_to_group(r.document, k, s["text"]),
        "Moved {n} into {text}",
    ),
    "reorder": (
        lambda r, k, c, s: bulk.reorder_behind(r.document, k, s["after"]),
        "Moved {n} in the order",
    ),
    "delete": (lambda r, k, c, s: bulk.delete(r.document, k), "Deleted {n}"),
    "private": (lambda r, k, c, s: bulk.mark(r.document, k, private=True), "Made {n} private"),
    "public": (lambda r, k, c, s: bulk.mark(r.document, k, private=False), "Made {n} public"),
    "uses": (lambda r, k, c, s: bulk.mark(r.document, k, uses=s["text"]), "Set the uses of {n}"),
    "raw": (lambda r, k, c, s: bulk.mark(r.document, k, tier="raw"), "Made {n} raw"),
    "semantic": (
        lambda r, k, c, s: bulk.mark(r.document, k, tier="semantic"),
        "Made {n} semantic",
    ),
    "component": (
        lambda r, k, c, s: bulk.mark(r.document, k, tier="component"),
        "Made {n} of components",
    ),
    "describe": (
        lambda r, k, c, s: bulk.mark(r.document, k, description=s["text"]),
        "Described {n}",
    ),
}


def act(resolver, keys, cells, said):
    """What a bulk act does, and its label. Raises ``PrismError`` where it cannot be done."""
    found = ACTS.get(said["act"])
    if found is None:
        raise EditError("There is nothing of that name to do.")
    if not keys:
        raise EditError("No row is picked.", fix="Tick rows, or choose a range of cells.")
    run, label = found
    done = run(resolver, keys, cells, said)
    count = f"{len(keys)} token{'' if len(keys) == 1 else 's'}"
    return done, label.format(n=count, text=said["text"].strip()[:60])
