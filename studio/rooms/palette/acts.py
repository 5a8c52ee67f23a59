"""The small acts of the palette by name: what the core does, and what the journal calls it.

Each takes the document and the form's ``on``, ``text`` and ``to``.
"""

from prism.changes.structure import drop_token, rename_token
from prism.errors import EditError
from prism.model.document import shown_path
from prism.palette import building, covering, purposes, stepping
from studio.numbers import whole
from studio.store.projects import new_key


def _step(act):
    def run(document, said):
        return act(document, said["on"], said["text"])

    return run


def _veils(document, said):
    shares = [n for one in said["text"].replace("%", "").split() if (n := whole(one)) is not None]
    group = said["to"].strip() or f"veil.{building.leaf(document, said['on'])}"
    return building.veils(document, said["on"], shares, group, new_key)


def _rename_ramp(document, said):
    return building.rename_ramp(document, said["on"], said["text"])


ACTS = {
    "cover": (lambda d, s: covering.fill(d, s["on"], new_key), "Covered {on}"),
    "release": (lambda d, s: stepping.release(d, s["on"]), "Put {token} back on its course"),
    "insert-step": (
        lambda d, s: stepping.insert_step(d, s["on"], s["text"].strip(), new_key),
        "Inserted a step behind {token}",
    ),
    "drop-step": (lambda d, s: stepping.drop_step(d, s["on"]), "Dropped {token}"),
    "rename-step": (_step(stepping.rename_step), "Renamed {token}"),
    "earlier": (lambda d, s: stepping.move_step_in_order(d, s["on"], -1), "Moved {token}"),
    "later": (lambda d, s: stepping.move_step_in_order(d, s["on"], 1), "Moved {token}"),
    "rename-color": (lambda d, s: rename_token(d, s["on"], s["text"].strip()), "Renamed {token}"),
    "remove-color": (lambda d, s: drop_token(d, s["on"], s["to"]), "Removed {token}"),
    "veils": (_veils, "Made veils of {token}"),
    "rename-steps": (_step(stepping.rename_steps), "Named the steps of {ramp}"),
    "rename-ramp": (_rename_ramp, "Renamed {ramp}"),
    "ramp-up": (lambda d, s: building.move_ramp(d, s["on"], -1), "Moved {ramp}"),
    "ramp-down": (lambda d, s: building.move_ramp(d, s["on"], 1), "Moved {ramp}"),
    "adopt": (lambda d, s: building.adopt(d, s["on"], new_key), "Made a ramp of {on}"),
    "assign": (
        lambda d, s: purposes.assign(d, s["on"], s["to"], new_key),
        "Gave {on} a purpose",
    ),
    "add-purpose": (lambda d, s: purposes.add(d, s["text"], new_key), "Added the purpose {text}"),
    "rename-purpose": (_step(purposes.rename), "Renamed a purpose to {text}"),
    "drop-purpose": (lambda d, s: purposes.drop(d, s["on"]), "Dropped a purpose"),
    "purpose-up": (lambda d, s: purposes.move(d, s["on"], -1), "Moved a purpose"),
    "purpose-down": (lambda d, s: purposes.move(d, s["on"], 1), "Moved a purpose"),
}


def act(document, said):
    """The document after an act, and the act in words. Raises ``PrismError`` where it cannot be."""
    found = ACTS.get(said["act"])
    if found is None:
        raise EditError("There is nothing of that name to do.")
    run, label = found
    token = document.token(said["on"])
    ramp = document.ramp(said["on"])
    words = label.format(
        token=shown_path(token.path) if token else "a color",
        ramp=building.shown_name(ramp) if ramp else "a ramp",
        on=said["on"] or "single colors",
        text=said["text"],
    )
    return run(document, said), words
