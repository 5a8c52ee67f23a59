"""What is decided about findings: accepted with a reason, listed again, split by use."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, replace

from prism.changes import merging
from prism.commands.command import Command, asked, command
from prism.commands.names import short, token_name
from prism.commands.reasons import read_reason
from prism.errors import EditError
from prism.model.document import Document, Mute, Pairing, shown_path
from prism.resolution.current import resolver_of
from prism.roles.guess import guess
from prism.roles.sides import READ, taken_otherwise


def _without(
    mutes: tuple[Mute, ...], finding: tuple[str, tuple[str, ...], str]
) -> tuple[Mute, ...]:
    """Mutes of other findings than that of a check, tokens and what else tells it apart."""
    return tuple(mute for mute in mutes if (mute.check, mute.tokens, mute.about) != finding)


@command("mute-finding")
@dataclass(frozen=True, slots=True)
class MuteFinding(Command):
    """Accept what a check found of some tokens, by key, and say why and who did. ``about`` tells apart what one
    check finds of the same tokens."""

    key: str
    check: str
    tokens: tuple[str, ...] = ()
    about: str = ""
    reason: str = asked("Accept it, because", default="")
    by: str = ""

    def apply(self, document: Document) -> Document:
        if any(document.token(key) is None for key in self.tokens):
            raise EditError("What was found there is gone.")
        same = (self.check, self.tokens, self.about)
        kept = _without(document.mutes, same)
        mute = Mute(self.key, *same, read_reason(self.reason), self.by)
        return replace(document, mutes=(*kept, mute))

    def sentence(self, before: Document) -> str:
        names = ", ".join(token_name(before, key) for key in self.tokens[:2])
        return f"Accepted a finding{f' about {names}' if names else ''}: {short(self.reason)}"


@command("unmute-finding")
@dataclass(frozen=True, slots=True)
class UnmuteFinding(Command):
    """List a finding again that was accepted."""

    check: str
    tokens: tuple[str, ...] = ()
    about: str = ""

    def apply(self, document: Document) -> Document:
        kept = _without(document.mutes, (self.check, self.tokens, self.about))
        if len(kept) == len(document.mutes):
            raise EditError("This finding is not accepted.")
        return replace(document, mutes=kept)

    def sentence(self, before: Document) -> str:
        names = ", ".join(token_name(before, key) for key in self.tokens[:2])
        return f"Listed a finding{f' about {names}' if names else ''} again"


@command("split-by-use")
@dataclass(frozen=True, slots=True)
class SplitByUse(Command):
    """Make a second token of the same values for those that take the color of ``token`` for another use, and for the
    pairings in which it is read where others are read on it. ``path`` is that of the new one."""

    key: str
    token: str
    path: str = asked("name of the second", default="")

    def _users(self, document: Document) -> tuple[str, ...]:
        resolver = resolver_of(document)
        roles = guess(document, resolver)
        return taken_otherwise(document, roles, resolver.all_targets).get(self.token, ())

    def _path(self, document: Document) -> str:
        token = document.token(self.token)
        if token is None:
            raise EditError("The token is no longer there.")
        return self.path.strip() or f"{shown_path(token.path)}-other"

    def apply(self, document: Document) -> Document:
        path, users = self._path(document), self._users(document)
        split = merging.split_token(document, self.token, self.key, path, users)
        pairings = document.pairings if users else _read_by(document.pairings, self.token, self.key)
        if not users and pairings == document.pairings:
            raise EditError(f"{token_name(document, self.token)} has one use alone.")
        return replace(split, pairings=pairings)

    def sentence(self, before: Document) -> str:
        name = token_name(before, self.token)
        return f"Split {name} by use: {short(self._path(before))} for the other"


def _read_by(pairings: Collection[Pairing], token: str, other: str) -> tuple[Pairing, ...]:
    """Pairings in which another token is read in place of one that is read on too."""
    return tuple(
        replace(pairing, foreground=other)
        if pairing.foreground == token and pairing.use in READ
        else pairing
        for pairing in pairings
    )
