"""The acts on axes and modes by name: what the core does, and what the journal calls it."""

from prism.changes import axes
from prism.changes.structure import moved
from prism.errors import EditError
from prism.formats.css import FEATURES
from prism.model.document import Axis, Follows, Mode
from studio.store.projects import new_key


def _name(text, what):
    plain = " ".join(text.split())
    if not plain:
        raise EditError(f"{what} needs a name.")
    return plain


def _add_axis(document, said):
    names = [one.strip() for one in said["text"].replace("\n", ",").split(",") if one.strip()]
    if not names:
        raise EditError("An axis needs at least one mode.", fix="Write them parted by commas.")
    modes = tuple(Mode(new_key(), name) for name in names)
    axis = Axis(new_key(), _name(said["name"], "An axis"), modes, modes[0].key)
    return axes.add_axis(document, axis)


def _add_mode(document, said):
    mode = Mode(new_key(), _name(said["name"], "A mode"), color_scheme=said["text"].strip())
    return axes.add_mode(document, said["axis"], mode, said["source"])


def _moved(keys, key, by):
    if key not in keys:
        raise EditError("That is no longer there.")
    return moved(keys, key, by)


def _move_axis(by):
    def run(document, said):
        keys = [axis.key for axis in document.axes]
        return axes.reorder_axes(document, _moved(keys, said["axis"], by))

    return run


def _move_mode(by):
    def run(document, said):
        owner = document.axis(said["axis"])
        keys = [mode.key for mode in owner.modes] if owner else []
        return axes.reorder_modes(document, said["axis"], _moved(keys, said["mode"], by))

    return run


def _follow(document, said):
    feature, _, value = said["text"].partition(": ")
    if not feature:
        return axes.follow(document, said["axis"], None)
    if value not in FEATURES.get(feature, ()):
        raise EditError("That preference is not one that style sheets know.")
    owner = document.axis(said["axis"])
    known = owner.follows if owner and owner.follows and owner.follows.feature == feature else None
    pairs = [pair for pair in (known.modes if known else ()) if pair[0] != value]
    pairs.append((value, said["mode"]))
    return axes.follow(document, said["axis"], Follows(feature, tuple(pairs)))


ACTS = {
    "add-axis": (_add_axis, "Added the axis {name}"),
    "rename-axis": (
        lambda d, s: axes.rename_axis(d, s["axis"], _name(s["name"], "An axis")),
        "Renamed an axis to {name}",
    ),
    "axis-up": (_move_axis(-1), "Moved the axis {axis}"),
    "axis-down": (_move_axis(1), "Moved the axis {axis}"),
    "remove-axis": (
        lambda d, s: axes.remove_axis(d, s["axis"], s["source"]),
        "Removed the axis {axis}",
    ),
    "add-mode": (_add_mode, "Added the mode {name} to {axis}"),
    "rename-mode": (
        lambda d, s: axes.rename_mode(d, s["axis"], s["mode"], _name(s["name"], "A mode")),
        "Renamed a mode of {axis} to {name}",
    ),
    "mode-up": (_move_mode(-1), "Moved a mode of {axis}"),
    "mode-down": (_move_mode(1), "Moved a mode of {axis}"),
    "default": (
        lambda d, s: axes.change_default(d, s["axis"], s["mode"]),
        "Let {axis} start in another mode",
    ),
    "scheme": (
        lambda d, s: axes.set_color_scheme(d, s["axis"], s["mode"], s["text"]),
        "Said what a mode of {axis} is",
    ),
    "follow": (_follow, "Let {axis} follow a preference"),
    "remove-mode": (
        lambda d, s: axes.remove_mode(d, s["axis"], s["mode"]),
        "Removed a mode of {axis}",
    ),
}


def act(document, said):
    """The document after an act, and the act in words. Raises ``PrismError`` where it cannot be."""
    found = ACTS.get(said["act"])
    if found is None:
        raise EditError("There is nothing of that name to do.")
    run, label = found
    owner = document.axis(said["axis"])
    return run(document, said), label.format(
        axis=owner.name if owner else "an axis", name=said["name"].strip()[:80]
    )
