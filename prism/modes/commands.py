"""What can be done to axes and their modes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from prism.changes import axes
from prism.changes.axes import add_mode
from prism.changes.structure import moved, remove_tokens
from prism.changes.values import set_values
from prism.commands.command import Command, asked, command
from prism.commands.names import axis_name, counted, mode_name, short
from prism.errors import EditError
from prism.formats.css import FEATURES
from prism.model.document import Axis, Document, Follows, Mode
from prism.model.values import Composite, Condition, Expression, Listing
from prism.modes import proposal as modes


def _name(text: str, what: str) -> str:
    plain = " ".join(text.split())
    if not plain:
        raise EditError(f"{what} needs a name.")
    return plain


def _moved(keys: Sequence[str], key: str, by: int) -> tuple[str, ...]:
    if key not in keys:
        raise EditError("That is no longer there.")
    return moved(keys, key, by)


@command("add-axis")
@dataclass(frozen=True, slots=True)
class AddAxis(Command):
    """Add an axis at the end. ``modes`` are names, separated by commas or lines; the first is the
    default. Light and dark ones get their color scheme."""

    key: str
    name: str = asked("Name")
    modes: str = asked("Modes, separated by commas; the first is the default")

    def apply(self, document: Document) -> Document:
        names = [name.strip() for name in self.modes.replace("\n", ",").split(",") if name.strip()]
        if not names:
            raise EditError(
                "An axis needs at least one mode.", fix="Write them separated by commas."
            )
        made = tuple(
            Mode(f"{self.key}-{n}", name, color_scheme=modes.scheme_of(document, name))
            for n, name in enumerate(names)
        )
        axis = Axis(self.key, _name(self.name, "An axis"), made, made[0].key)
        return axes.add_axis(document, axis)

    def sentence(self, before: Document) -> str:
        return f"Added axis {short(self.name)}"


@command("rename-axis")
@dataclass(frozen=True, slots=True)
class RenameAxis(Command):
    """Give an axis another name."""

    axis: str
    name: str

    def apply(self, document: Document) -> Document:
        return axes.rename_axis(document, self.axis, _name(self.name, "An axis"))

    def sentence(self, before: Document) -> str:
        return f"Renamed axis {axis_name(before, self.axis)} to {short(self.name)}"


@command("move-axis")
@dataclass(frozen=True, slots=True)
class MoveAxis(Command):
    """Move an axis ``by`` places; later axes win between equally strong values."""

    axis: str
    by: int

    def apply(self, document: Document) -> Document:
        keys = [axis.key for axis in document.axes]
        return axes.reorder_axes(document, _moved(keys, self.axis, self.by))

    def sentence(self, before: Document) -> str:
        return f"Moved axis {axis_name(before, self.axis)} {'up' if self.by < 0 else 'down'}"


@command("remove-axis")
@dataclass(frozen=True, slots=True)
class RemoveAxis(Command):
    """Take an axis out; in the themes that remain everything stays as it is in the mode ``stays``."""

    axis: str
    stays: str

    def apply(self, document: Document) -> Document:
        return axes.remove_axis(document, self.axis, self.stays)

    def sentence(self, before: Document) -> str:
        stays = mode_name(before, self.axis, self.stays)
        return f"Removed axis {axis_name(before, self.axis)}, kept {stays}"


@command("add-mode")
@dataclass(frozen=True, slots=True)
class AddMode(Command):
    """Add a mode at the end of an axis, as a copy of the mode ``source`` where one is named. One that
    is called light or dark gets that color scheme where none is named."""

    key: str
    axis: str
    name: str
    color_scheme: str = ""
    source: str = ""

    def apply(self, document: Document) -> Document:
        scheme = self.color_scheme.strip() or modes.scheme_of(document, self.name)
        mode = Mode(self.key, _name(self.name, "A mode"), color_scheme=scheme)
        return axes.add_mode(document, self.axis, mode, self.source)

    def sentence(self, before: Document) -> str:
        return f"Added mode {short(self.name)} to {axis_name(before, self.axis)}"


@command("rename-mode")
@dataclass(frozen=True, slots=True)
class RenameMode(Command):
    """Give a mode another name."""

    axis: str
    mode: str
    name: str

    def apply(self, document: Document) -> Document:
        return axes.rename_mode(document, self.axis, self.mode, _name(self.name, "A mode"))

    def sentence(self, before: Document) -> str:
        old = mode_name(before, self.axis, self.mode)
        return f"Renamed mode {old} of {axis_name(before, self.axis)} to {short(self.name)}"


@command("move-mode")
@dataclass(frozen=True, slots=True)
class MoveMode(Command):
    """Move a mode ``by`` places; it changes no theme."""

    axis: str
    mode: str
    by: int

    def apply(self, document: Document) -> Document:
        owner = document.axis(self.axis)
        keys = [mode.key for mode in owner.modes] if owner else []
        return axes.reorder_modes(document, self.axis, _moved(keys, self.mode, self.by))

    def sentence(self, before: Document) -> str:
        name = mode_name(before, self.axis, self.mode)
        return f"Moved mode {name} of {axis_name(before, self.axis)}"


@command("change-default")
@dataclass(frozen=True, slots=True)
class ChangeDefault(Command):
    """Make another mode the default of an axis; no value changes in any theme."""

    axis: str
    mode: str

    def apply(self, document: Document) -> Document:
        return axes.change_default(document, self.axis, self.mode)

    def sentence(self, before: Document) -> str:
        name = mode_name(before, self.axis, self.mode)
        return f"Made {name} the default of {axis_name(before, self.axis)}"


@command("set-color-scheme")
@dataclass(frozen=True, slots=True)
class SetColorScheme(Command):
    """Say whether a mode is light, dark or neither."""

    axis: str
    mode: str
    color_scheme: str = ""

    def apply(self, document: Document) -> Document:
        return axes.set_color_scheme(document, self.axis, self.mode, self.color_scheme)

    def sentence(self, before: Document) -> str:
        name = mode_name(before, self.axis, self.mode)
        return f"Set the color scheme of {name} to {self.color_scheme or 'none'}"


@command("set-direction")
@dataclass(frozen=True, slots=True)
class SetDirection(Command):
    """Say whether the language of a mode reads from left to right, ``ltr``, or from right to left, ``rtl``."""

    axis: str
    mode: str
    direction: str = ""

    def apply(self, document: Document) -> Document:
        return axes.set_direction(document, self.axis, self.mode, self.direction)

    def sentence(self, before: Document) -> str:
        words = {"ltr": "from left to right", "rtl": "from right to left"}
        name = mode_name(before, self.axis, self.mode)
        return f"Let {name} read {words.get(self.direction, 'in no direction of its own')}"


@command("follow-preference")
@dataclass(frozen=True, slots=True)
class FollowPreference(Command):
    """Let an axis follow a system preference: ``preference`` is a media feature and one of its
    values, as ``prefers-contrast: more``, for which ``mode`` is shown. Empty: none."""

    axis: str
    mode: str = ""
    preference: str = asked("System preference", default="")

    def apply(self, document: Document) -> Document:
        feature, _, value = self.preference.partition(": ")
        if not feature:
            return axes.follow(document, self.axis, None)
        if value not in FEATURES.get(feature, ()):
            raise EditError("That is not one of the preferences that style sheets know.")
        owner = document.axis(self.axis)
        follows = owner.follows if owner else None
        modes = follows.modes if follows and follows.feature == feature else ()
        kept = tuple(pair for pair in modes if pair[0] != value)
        return axes.follow(document, self.axis, Follows(feature, (*kept, (value, self.mode))))

    def sentence(self, before: Document) -> str:
        name = axis_name(before, self.axis)
        if not self.preference:
            return f"Set the system preference of {name} to none"
        return f"Set the system preference of {name} to {self.preference}"


@command("remove-mode")
@dataclass(frozen=True, slots=True)
class RemoveMode(Command):
    """Take a mode out, with the values that hold in it alone; ``with_ramps`` also with the ramps that
    nothing refers to without it."""

    axis: str
    mode: str
    with_ramps: bool = False

    def apply(self, document: Document) -> Document:
        ramps = axes.ramps_of_mode(document, self.axis, self.mode) if self.with_ramps else []
        changed = axes.remove_mode(document, self.axis, self.mode)
        if not ramps:
            return changed
        keys = {ramp.key for ramp in ramps}
        colors = [key for ramp in ramps for key in (*ramp.steps, ramp.base) if key]
        changed = remove_tokens(changed, colors)
        return replace(changed, ramps=tuple(r for r in changed.ramps if r.key not in keys))

    def sentence(self, before: Document) -> str:
        name = mode_name(before, self.axis, self.mode)
        words = f"Removed mode {name} of {axis_name(before, self.axis)}"
        ramps = axes.ramps_of_mode(before, self.axis, self.mode) if self.with_ramps else []
        named = ", ".join(ramp.name for ramp in ramps[:3])
        return f"{words} with {counted(len(ramps), 'ramp')}: {named}" if ramps else words


@command("derive-mode")
@dataclass(frozen=True, slots=True)
class DeriveMode(Command):
    """Add a mode that is a copy of another but for the proposed values that were accepted, by token
    key. Without an axis one of appearances is added, whose first mode is what is there."""

    key: str
    axis: str
    source: str
    name: str
    color_scheme: str = ""
    accepted: tuple[str, ...] = ()

    def apply(self, document: Document) -> Document:
        axis, source = self.axis, self.source
        if not axis and not document.axes:
            document, axis, source = modes.with_appearance(document, self.key)
        mode = Mode(self.key, _name(self.name, "A mode"), color_scheme=self.color_scheme)
        return modes.take(document, axis, mode, source, set(self.accepted))

    def sentence(self, before: Document) -> str:
        source = mode_name(before, self.axis, self.source) if self.axis else "what is there"
        count = counted(len(self.accepted), "proposed value")
        return f"Made mode {short(self.name)} from {source} with {count}"


@command("add-proposed-mode")
@dataclass(frozen=True, slots=True)
class AddProposedMode(Command):
    """Add a mode that is a copy of another but for these values, each of a token under a condition that
    names the mode. Without an axis one of appearances is added, whose first mode is what is there."""

    key: str
    axis: str
    source: str
    name: str
    color_scheme: str = ""
    values: tuple[tuple[str, Condition, Expression | Composite | Listing], ...] = ()

    def apply(self, document: Document) -> Document:
        axis, source = self.axis, self.source
        if not axis and not document.axes:
            document, axis, source = modes.with_appearance(document, self.key)
        mode = Mode(self.key, _name(self.name, "A mode"), color_scheme=self.color_scheme)
        return set_values(add_mode(document, axis, mode, source), self.values)

    def sentence(self, before: Document) -> str:
        source = mode_name(before, self.axis, self.source) if self.axis else "what is there"
        count = counted(len({token for token, *_ in self.values}), "proposed value")
        return f"Made mode {short(self.name)} from {source} with {count}"
