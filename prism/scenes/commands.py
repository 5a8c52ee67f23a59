"""What can be done to the bindings of scenes: which token a slot takes."""

from __future__ import annotations

from dataclasses import dataclass, replace

from prism.commands.command import Command, asked, command
from prism.commands.names import short, token_name
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
        kept = tuple(binding for binding in scene.bindings if binding[0] != self.slot)
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


#: The pieces that a scene can be made of.
PIECES = ("bar", "lead", "notice", "card", "list", "table", "form", "chart", "foot")
_START = "pieces:"
_FEW = ("bar", "lead", "card", "foot")
_MOST = 24


def pieces_of(scene: Scene) -> tuple[str, ...] | None:
    """The pieces of a scene that was made of some; None for another."""
    if not scene.markup.startswith(_START):
        return None
    named = scene.markup.removeprefix(_START).split(",")
    return tuple(piece for piece in named if piece in PIECES)


@command("make-scene")
@dataclass(frozen=True, slots=True)
class MakeScene(Command):
    """Add a scene made of pieces, in order; of a few without any."""

    key: str
    name: str = asked("Name")
    pieces: tuple[str, ...] = ()

    def apply(self, document: Document) -> Document:
        name = self.name.strip()
        if not name:
            raise EditError("The scene needs a name.")
        if any(name.lower() == scene.name.lower() for scene in document.scenes):
            raise EditError(f"There is a scene “{short(name)}” already.")
        made = Scene(self.key, name, _START + ",".join(_known(self.pieces) or _FEW))
        # The first one keeps the bindings of all.
        kept = document.scenes or (Scene(f"{self.key}-bindings", "Scenes"),)
        return replace(document, scenes=(*kept, made))

    def sentence(self, before: Document) -> str:
        return f"Made scene {short(self.name)}"


@command("set-pieces")
@dataclass(frozen=True, slots=True)
class SetPieces(Command):
    """Let a scene be made of these pieces, in order."""

    own: str
    pieces: tuple[str, ...] = ()

    def apply(self, document: Document) -> Document:
        scene = _own(document, self.own)
        made = replace(scene, markup=_START + ",".join(_known(self.pieces)))
        return _put(document, made)

    def sentence(self, before: Document) -> str:
        return f"Changed the pieces of scene {short(_name(before, self.own))}"


@command("remove-scene")
@dataclass(frozen=True, slots=True)
class RemoveScene(Command):
    """Remove a scene made of pieces."""

    own: str

    def apply(self, document: Document) -> Document:
        gone = _own(document, self.own)
        return replace(
            document, scenes=tuple(scene for scene in document.scenes if scene is not gone)
        )

    def sentence(self, before: Document) -> str:
        return f"Removed scene {short(_name(before, self.own))}"


def _known(pieces: tuple[str, ...]) -> tuple[str, ...]:
    """The pieces without those left out."""
    pieces = tuple(piece for piece in pieces if piece)
    unknown = [piece for piece in pieces if piece not in PIECES]
    if unknown:
        raise EditError(
            f"“{unknown[0][:30]}” is no piece of a scene.", fix=f"Pieces: {', '.join(PIECES)}."
        )
    if len(pieces) > _MOST:
        raise EditError(f"A scene has {_MOST} pieces at most.")
    return pieces


def _own(document: Document, key: str) -> Scene:
    for scene in document.scenes:
        if scene.key == key and pieces_of(scene) is not None:
            return scene
    raise EditError("That scene is no longer there.")


def _name(document: Document, key: str) -> str:
    return next((scene.name for scene in document.scenes if scene.key == key), "a scene")


def _put(document: Document, made: Scene) -> Document:
    return replace(
        document,
        scenes=tuple(made if scene.key == made.key else scene for scene in document.scenes),
    )
