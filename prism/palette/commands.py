"""What can be done to ramps, their steps, purposes, and what the palette lacks."""

from __future__ import annotations

from dataclasses import dataclass

from prism.changes import values
from prism.commands.command import Command, command, keys_from
from prism.commands.names import ramp_name, short, token_name
from prism.errors import EditError
from prism.expressions.typed_input import read_typed
from prism.model.document import Document
from prism.model.values import BASE
from prism.palette import purposes, ramp_edits, step_edits


@command("add-ramp")
@dataclass(frozen=True, slots=True)
class AddRamp(Command):
    """Add a ramp that a recipe makes. ``recipe`` are its fields as pairs of name and text."""

    key: str
    name: str
    recipe: tuple[tuple[str, str], ...]
    names: str = ""
    purpose: str = ""

    def apply(self, document: Document) -> Document:
        return ramp_edits.add_ramp(
            document,
            self.name,
            dict(self.recipe),
            keys_from(self.key),
            names=self.names,
            purpose=self.purpose,
        )

    def sentence(self, before: Document) -> str:
        return f"Added ramp {short(self.name)}"


@command("retune-ramp")
@dataclass(frozen=True, slots=True)
class RetuneRamp(Command):
    """Make a ramp again from another recipe."""

    key: str
    ramp: str
    recipe: tuple[tuple[str, str], ...]
    names: str = ""

    def apply(self, document: Document) -> Document:
        ramp = ramp_edits.ramp_of(document, self.ramp)
        return ramp_edits.retune(
            document, ramp.key, dict(self.recipe), keys_from(self.key), names=self.names
        )

    def sentence(self, before: Document) -> str:
        return f"Retuned {ramp_name(before, self.ramp)}"


@command("rename-ramp")
@dataclass(frozen=True, slots=True)
class RenameRamp(Command):
    """Give a ramp another name; the paths of its steps and all references follow."""

    ramp: str
    name: str

    def apply(self, document: Document) -> Document:
        return ramp_edits.rename_ramp(document, self.ramp, self.name)

    def sentence(self, before: Document) -> str:
        return f"Renamed {ramp_name(before, self.ramp)} to {short(self.name)}"


@command("move-ramp")
@dataclass(frozen=True, slots=True)
class MoveRamp(Command):
    """Move a ramp ``by`` places among those of its purpose."""

    ramp: str
    by: int

    def apply(self, document: Document) -> Document:
        return ramp_edits.move_ramp(document, self.ramp, self.by)

    def sentence(self, before: Document) -> str:
        return f"Moved {ramp_name(before, self.ramp)} {'up' if self.by < 0 else 'down'}"


@command("make-ramp")
@dataclass(frozen=True, slots=True)
class MakeRamp(Command):
    """Make a ramp of the raw colors of a group, as they are."""

    key: str
    group: str

    def apply(self, document: Document) -> Document:
        return ramp_edits.adopt(document, self.group, keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Made a ramp of {short(self.group)}"


@command("set-color")
@dataclass(frozen=True, slots=True)
class SetColor(Command):
    """Store what was typed for a raw color."""

    token: str
    text: str

    def apply(self, document: Document) -> Document:
        token = document.token(self.token)
        if token is None:
            raise EditError("That color is no longer there.")
        value = read_typed(document, self.text, token)
        return values.set_value(document, token.key, BASE, value)

    def sentence(self, before: Document) -> str:
        return f"Set {token_name(before, self.token)} to {short(self.text)}"


@command("release-step")
@dataclass(frozen=True, slots=True)
class ReleaseStep(Command):
    """Put a step that was moved by hand back where its recipe has it."""

    token: str

    def apply(self, document: Document) -> Document:
        return step_edits.release(document, self.token)

    def sentence(self, before: Document) -> str:
        return f"Reset {token_name(before, self.token)} to its ramp"


@command("insert-step")
@dataclass(frozen=True, slots=True)
class InsertStep(Command):
    """Insert a step after another, of the color half way to the next."""

    key: str
    token: str
    name: str

    def apply(self, document: Document) -> Document:
        return step_edits.insert_step(document, self.token, self.name.strip(), keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Inserted a step after {token_name(before, self.token)}"


@command("remove-step")
@dataclass(frozen=True, slots=True)
class RemoveStep(Command):
    """Take a step out; what refers to it refers to its nearest neighbor."""

    token: str

    def apply(self, document: Document) -> Document:
        return step_edits.drop_step(document, self.token)

    def sentence(self, before: Document) -> str:
        return f"Removed {token_name(before, self.token)}"


@command("rename-step")
@dataclass(frozen=True, slots=True)
class RenameStep(Command):
    """Give a step another name; references follow."""

    token: str
    name: str

    def apply(self, document: Document) -> Document:
        return step_edits.rename_step(document, self.token, self.name)

    def sentence(self, before: Document) -> str:
        return f"Renamed step {token_name(before, self.token)} to {short(self.name)}"


@command("move-step")
@dataclass(frozen=True, slots=True)
class MoveStep(Command):
    """Move a step ``by`` places along its ramp."""

    token: str
    by: int

    def apply(self, document: Document) -> Document:
        return step_edits.move_step_in_order(document, self.token, self.by)

    def sentence(self, before: Document) -> str:
        return f"Moved {token_name(before, self.token)}"


@command("rename-steps")
@dataclass(frozen=True, slots=True)
class RenameSteps(Command):
    """Name all steps of a ramp, by a list or by numbers; references follow."""

    ramp: str
    names: str = ""

    def apply(self, document: Document) -> Document:
        return step_edits.rename_steps(document, self.ramp, self.names)

    def sentence(self, before: Document) -> str:
        return f"Renamed the steps of {ramp_name(before, self.ramp)}"


@command("add-overlays")
@dataclass(frozen=True, slots=True)
class AddOverlays(Command):
    """Add translucent overlays of a color. ``percents`` are separated by blanks; without ``group``
    they are named after the color."""

    key: str
    token: str
    percents: str
    group: str = ""

    def apply(self, document: Document) -> Document:
        parts = self.percents.replace("%", " ").replace(",", " ").split()
        shares = [int(part) for part in parts if part.isascii() and part.isdigit()]
        group = self.group.strip() or f"veil.{ramp_edits.leaf(document, self.token)}"
        return ramp_edits.veils(document, self.token, shares, group, keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Added overlays of {token_name(before, self.token)}"


@command("assign-purpose")
@dataclass(frozen=True, slots=True)
class AssignPurpose(Command):
    """Give the raw colors of a group a purpose; empty takes it away."""

    key: str
    group: str
    purpose: str = ""

    def apply(self, document: Document) -> Document:
        return purposes.assign(document, self.group, self.purpose, keys_from(self.key))

    def sentence(self, before: Document) -> str:
        name = next((p.name for p in purposes.of(before) if p.key == self.purpose), "none")
        return f"Set the purpose of {short(self.group) or 'single colors'} to {name}"


@command("add-purpose")
@dataclass(frozen=True, slots=True)
class AddPurpose(Command):
    """Add a purpose at the end."""

    key: str
    name: str

    def apply(self, document: Document) -> Document:
        return purposes.add(document, self.name, keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Added purpose {short(self.name)}"


class _OfPurpose(Command):
    """A command on a purpose."""

    purpose: str

    def _name(self, document: Document) -> str:
        return next((p.name for p in purposes.of(document) if p.key == self.purpose), "a purpose")


@command("rename-purpose")
@dataclass(frozen=True)
class RenamePurpose(_OfPurpose):
    """Give a purpose another name."""

    purpose: str
    name: str

    def apply(self, document: Document) -> Document:
        return purposes.rename(document, self.purpose, self.name)

    def sentence(self, before: Document) -> str:
        return f"Renamed purpose {self._name(before)} to {short(self.name)}"


@command("remove-purpose")
@dataclass(frozen=True)
class RemovePurpose(_OfPurpose):
    """Take a purpose out; its ramps stay, without one."""

    purpose: str

    def apply(self, document: Document) -> Document:
        return purposes.drop(document, self.purpose)

    def sentence(self, before: Document) -> str:
        return f"Removed purpose {self._name(before)}"


@command("move-purpose")
@dataclass(frozen=True)
class MovePurpose(_OfPurpose):
    """Move a purpose ``by`` places."""

    purpose: str
    by: int

    def apply(self, document: Document) -> Document:
        return purposes.move(document, self.purpose, self.by)

    def sentence(self, before: Document) -> str:
        return f"Moved purpose {self._name(before)}"
