"""What can be done to pairings."""

from __future__ import annotations

from dataclasses import dataclass, replace

from prism.changes import values
from prism.changes.outcome import Outcome
from prism.commands.command import Command, asked, command, keys_from
from prism.commands.names import counted, short
from prism.contrast.nearest_step import Fix, fixes, new_color, words_of
from prism.contrast.requirements import ratio_in_words, read_ratio, read_use
from prism.contrast.separation import Parting, partings
from prism.errors import EditError
from prism.model.document import Document, Pairing
from prism.model.values import Composite, Condition, Expression, Listing
from prism.resolution import contrast
from prism.roles import rules


@command("add-pairing")
@dataclass(frozen=True, slots=True)
class AddPairing(Command):
    """Add a pairing that requires what its use needs.

    ``foreground``, ``background`` and ``page`` are paths, ``enhanced`` asks for level AAA. Layers under each other are
    ``veil.hover over surface.card``.
    """

    key: str
    foreground: str
    background: str
    use: str = "text"
    page: str = ""
    enhanced: bool = False
    reason: str = ""

    def _pairing(self, document: Document) -> Pairing:
        return contrast.pairing_for(
            self.key,
            _key_of(document, self.foreground),
            tuple(_key_of(document, path) for path in self.background.split(" over ")),
            read_use(self.use),
            enhanced=self.enhanced,
            reason=self.reason,
            page=_key_of(document, self.page) if self.page.strip() else "",
        )

    def apply(self, document: Document) -> Document:
        return values.add_pairing(document, self._pairing(document))

    def sentence(self, before: Document) -> str:
        return f"Added pairing {contrast.summary(before, self._pairing(before))}"


def _key_of(document: Document, path: str) -> str:
    path = path.strip().strip("{}")
    token = document.token_at(path)
    if token is None:
        raise EditError(f"{{{path}}} does not exist.", fix="Choose a token from the list.")
    return token.key


def counted_pairing(document: Document, key: str) -> Pairing:
    """A pairing of the document or of its rules. Raises ``EditError`` where it is gone."""
    pairing = document.pairing(key) or rules.paired(document).pairing(key)
    if pairing is None:
        raise EditError("That pairing is no longer there.")
    return pairing


def with_pairing(document: Document, changed: Pairing, key: str) -> Document:
    """The document with a pairing in place of the one of its key; one that a rule makes becomes one of its own with
    the key ``key``."""
    if document.pairing(changed.key) is None:
        return replace(document, pairings=(*document.pairings, replace(changed, key=key)))
    pairings = (changed if p.key == changed.key else p for p in document.pairings)
    return replace(document, pairings=tuple(pairings))


@command("require-of-pairing")
@dataclass(frozen=True, slots=True)
class RequireOfPairing(Command):
    """Say which ratio one pairing must reach, 0 for none, and why; ``pairing`` is a key.

    A pairing that a rule makes becomes one of its own with the key ``key``.
    """

    key: str
    pairing: str
    required: float = asked("needs at least")
    reason: str = asked("as", default="")

    def apply(self, document: Document) -> Document:
        pairing = counted_pairing(document, self.pairing)
        reason = self.reason.strip()
        changed = replace(pairing, required=read_ratio(self.required), reason=reason)
        return with_pairing(document, changed, self.key)

    def sentence(self, before: Document) -> str:
        words = contrast.summary(before, counted_pairing(before, self.pairing))
        return f"Set the ratio for {words} to {ratio_in_words(self.required)}"


@command("remove-pairing")
@dataclass(frozen=True, slots=True)
class RemovePairing(Command):
    """Take a pairing out."""

    pairing: str

    def apply(self, document: Document) -> Document:
        return values.remove_pairing(document, self.pairing)

    def sentence(self, before: Document) -> str:
        pairing = before.pairing(self.pairing)
        return f"Removed pairing {contrast.summary(before, pairing) if pairing else ''}".strip()


def refuse_other(shown: str, words: str) -> None:
    """Raise ``EditError`` where a fix was shown, and something else would be set by now."""
    if shown and shown != words:
        raise EditError(
            f"The fix is another by now: {words}.", fix="Look at it, and choose it again."
        )


@command("fix-pairing")
@dataclass(frozen=True, slots=True)
class FixPairing(Command):
    """Move the foreground or the background of a pairing to the nearest step that passes, or the foreground to a new color.

    ``pairing`` is a key, ``side`` ``foreground``, ``background`` or ``color``, ``shown`` what was offered in
    words: where something else would be set by now, nothing is.
    """

    pairing: str
    side: str = "foreground"
    shown: str = ""

    def _fix(self, document: Document) -> tuple[Fix, str]:
        paired = rules.paired(document)
        pairing = paired.pairing(self.pairing)
        if pairing is None:
            raise EditError("That pairing is no longer there.")
        if self.side == "color":
            fix = new_color(paired, pairing)
        else:
            fix = next((fix for fix in fixes(paired, pairing) if fix.side == self.side), None)
        if fix is not None:
            return fix, words_of(paired, fix)
        words = "No new color" if self.side == "color" else f"No single step of the {self.side}"
        raise EditError(f"{words} passes in every theme.")

    def outcome(self, document: Document) -> Outcome:
        fix, words = self._fix(document)
        refuse_other(self.shown, words)
        sentence = f"Fixed contrast: set {short(words)}"
        return Outcome(values.set_values(document, fix.settings), sentence=sentence)


@command("part-pairing")
@dataclass(frozen=True, slots=True)
class PartPairing(Command):
    """Let a pairing pass with neither of its colors moved: on another ``surface``, with a ``line`` around it, or with an
    ``overlay`` between the two, as ``kind`` says. The pairing, a key, needs nothing from then on; what takes its place
    does. ``shown`` is what was offered in words: where something else would be done by now, nothing is."""

    key: str
    pairing: str
    kind: str
    shown: str = ""

    def _parting(self, document: Document) -> Parting:
        pairing = counted_pairing(document, self.pairing)
        for parting in partings(document, pairing, keys_from(self.key)):
            if parting.kind == self.kind:
                return parting
        words = (
            f"No {short(self.kind)} lets {contrast.summary(document, pairing)} pass in every theme"
        )
        raise EditError(f"{words}, or it passes already.")

    def outcome(self, document: Document) -> Outcome:
        parting = self._parting(document)
        refuse_other(self.shown, parting.words)
        words = contrast.summary(document, counted_pairing(document, self.pairing))
        sentence = f"Fixed contrast of {words}: {short(parting.words)}"
        return Outcome(parting.document, sentence=sentence)


@command("fix-all")
@dataclass(frozen=True, slots=True)
class FixAll(Command):
    """Store the values with which pairings pass that fell short, each of a token under a condition."""

    values: tuple[tuple[str, Condition, Expression | Composite | Listing], ...]

    def apply(self, document: Document) -> Document:
        return values.set_values(document, self.values)

    def sentence(self, before: Document) -> str:
        count = counted(len({token for token, *_ in self.values}), "color")
        return f"Fixed contrast: moved {count}"
