"""What can be done to pairings."""

from __future__ import annotations

from dataclasses import dataclass, replace
from fnmatch import fnmatchcase

from prism.changes import values
from prism.edits.command import Command, command, keys_from
from prism.edits.words import counted, short
from prism.errors import EditError
from prism.model.document import Document, Pairing, Use, shown_path
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
        return contrast.pairing_for(
            self.key,
            _key_of(document, self.foreground),
            (_key_of(document, self.background),),
            _use(self.use),
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


@command("pair-by-pattern")
@dataclass(frozen=True, slots=True)
class PairByPattern(Command):
    """Add a pairing for each color that fits ``foreground`` on each that fits ``background``: paths in
    which ``*`` stands for any characters, as ``text.*``. Pairings that are there are left out."""

    key: str
    foreground: str
    background: str
    use: str = "text"
    enhanced: bool = False

    def _made(self, document: Document) -> list[Pairing]:
        use = _use(self.use)
        there = {(p.foreground, p.backgrounds) for p in document.pairings}
        below = _fitting(document, self.background)
        return [
            contrast.pairing_for("", above, (ground,), use, enhanced=self.enhanced)
            for above in _fitting(document, self.foreground)
            for ground in below
            if above != ground and (above, (ground,)) not in there
        ]

    def apply(self, document: Document) -> Document:
        new_key = keys_from(self.key)
        made = self._made(document)
        if not made:
            raise EditError("All of these pairings are there already.")
        if len(made) > rules.MOST:
            raise EditError(
                f"That would be {len(made):,} pairings; at most {rules.MOST:,} are added at once.",
                fix="Write a narrower pattern.",
            )
        added = tuple(replace(pairing, key=new_key()) for pairing in made)
        return replace(document, pairings=(*document.pairings, *added))

    def sentence(self, before: Document) -> str:
        count = counted(len(self._made(before)), "pairing")
        return f"Added {count}, {short(self.foreground)} on {short(self.background)}"


def _use(name: str) -> Use:
    use = next((use for use in contrast.REQUIRED if use == name), None)
    if use is None:
        raise EditError(f"“{name[:40]}” is not a use of a pairing.")
    return use


def _fitting(document: Document, pattern: str) -> list[str]:
    """Keys of the colors whose path fits a pattern. Raises ``EditError`` where none does."""
    wanted = pattern.strip().strip("{}")
    keys = [
        token.key
        for token in document.tokens
        if token.type == "color" and fnmatchcase(shown_path(token.path), wanted)
    ]
    if not keys:
        raise EditError(f"No color fits “{wanted[:80]}”.", fix="Write a path such as text.*.")
    return keys


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
