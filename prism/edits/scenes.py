"""What can be done to the bindings of scenes: which token a slot takes."""

from __future__ import annotations

from dataclasses import dataclass, replace

from prism.edits.command import Command, command
from prism.edits.words import short, token_name
from prism.errors import EditError
from prism.model.document import Document, Scene, Token
from prism.roles.by_slot import SLOTS

_MEASURES = ("radius", "gap", "pad", "size")
_SHADOWS = ("lift",)


def type_of(slot: str) -> str:
    """The type of the tokens that a slot takes."""
    start = slot.split("-")[0]
    named = {"copy": "string", "show": "boolean", "font": "fontFamily", "lift": "shadow"}
    return named.get(start, "dimension" if start in _MEASURES else "color")


@command("bind-slot")
@dataclass(frozen=True, slots=True)
class BindSlot(Command):
    """Let a slot of the scenes take a token, by key or path; without a token what it is guessed to take. ``key`` is
    that of the scenes where the document has none yet."""

    key: str
    slot: str
    token: str = ""

    def apply(self, document: Document) -> Document:
        if self.slot not in SLOTS and self.slot.split("-")[0] not in ("copy", "show"):
            raise EditError(f"“{self.slot[:40]}” is not a slot of the scenes.")
        scene, *others = document.scenes or (Scene(self.key, "Scenes"),)
        kept = tuple(one for one in scene.bindings if one[0] != self.slot)
        if self.token:
            token = self._named(document)
            wanted = type_of(self.slot)
            if token is None:
                raise EditError("The token is no longer there.")
            if token.type != wanted:
                raise EditError(
                    f"{token_name(document, token.key)} is a {token.type}; "
                    f"{self.slot} takes a {wanted}.",
                    fix="Choose another token.",
                )
            kept += ((self.slot, token.key),)
        if kept == scene.bindings:
            return document
        return replace(document, scenes=(replace(scene, bindings=kept), *others))

    def _named(self, document: Document) -> Token | None:
        return document.token(self.token) or token_at(document, self.token.strip())

    def sentence(self, before: Document) -> str:
        if not self.token:
            return f"Let slot {short(self.slot)} take what it is guessed to take"
        token = self._named(before)
        return f"Bound slot {short(self.slot)} to {token_name(before, token.key if token else '')}"


def token_at(document: Document, path: str) -> Token | None:
    """The token of a path as it is shown."""
    return document.token_at(path) or document.token_at(f"{path}.$root")
