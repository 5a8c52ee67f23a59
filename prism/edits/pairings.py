"""What can be done to pairings."""

from __future__ import annotations

from dataclasses import dataclass, replace

from prism.changes import values
from prism.edits.command import Command, command, keys_from
from prism.edits.words import counted
from prism.errors import EditError
from prism.model.document import Document, Pairing
from prism.resolution import contrast
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess


@command("add-pairing")
@dataclass(frozen=True, slots=True)
class AddPairing(Command):
    """Add a pairing that requires what its use needs.

    ``foreground``, ``background`` and ``page`` are paths, ``enhanced`` asks for level AAA.
    """

    key: str
    foreground: str
    background: str
    use: str = "text"
    page: str = ""
    enhanced: bool = False
    reason: str = ""

    def _pairing(self, document: Document) -> Pairing:
        use = next((use for use in contrast.REQUIRED if use == self.use), None)
        if use is None:
            raise EditError(f"“{self.use[:40]}” is not a use of a pairing.")
        return contrast.pairing_for(
            self.key,
            _key_of(document, self.foreground),
            (_key_of(document, self.background),),
            use,
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


@command("pair-by-rule")
@dataclass(frozen=True, slots=True)
class PairByRule(Command):
    """Add the pairings that rules make of what each color is for; ``rules`` are ids, empty for all."""

    key: str
    rules: tuple[str, ...] = ()

    def _made(self, document: Document) -> list[Pairing]:
        guesses = guess(document, resolver_of(document))
        return [
            by_rule.pairing
            for by_rule in rules.pairings(document, guesses)
            if not self.rules or by_rule.rule in self.rules
        ]

    def apply(self, document: Document) -> Document:
        new_key = keys_from(self.key)
        made = tuple(replace(pairing, key=new_key()) for pairing in self._made(document))
        if not made:
            raise EditError(
                "The rules make no pairing that is not there.",
                fix="Add one by hand, or name tokens after what they are for.",
            )
        return replace(document, pairings=(*document.pairings, *made))

    def sentence(self, before: Document) -> str:
        return f"Added {counted(len(self._made(before)), 'pairing')} by rule"


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
