"""What is decided about findings: accepted with a reason, waived for a time, told apart, split by use."""

from __future__ import annotations

import datetime
from collections.abc import Collection
from dataclasses import dataclass, replace

from prism.changes import merging, values
from prism.derive import telling
from prism.derive.telling import Telling
from prism.edits.command import Command, command, keys_from
from prism.edits.pairings import judged_pairing, refuse_other, with_pairing
from prism.edits.words import counted, short, token_name
from prism.errors import EditError
from prism.expressions.typed_input import typed
from prism.model.document import Document, Mute, Pairing, TellingApart, Token, shown_path
from prism.model.names import condition_words
from prism.resolution import contrast
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess
from prism.roles.sides import READ, taken_otherwise

_LONGEST = 300


def _reason(text: str) -> str:
    reason = text.strip()
    if not reason:
        raise EditError(
            "A reason is missing.", fix="Say why this is no matter, for those who read it later."
        )
    if len(reason) > _LONGEST:
        raise EditError(f"The reason has {len(reason)} characters; at most {_LONGEST}.")
    return reason


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
    reason: str = ""
    by: str = ""

    def apply(self, document: Document) -> Document:
        if any(document.token(key) is None for key in self.tokens):
            raise EditError("What was found there is gone.")
        same = (self.check, self.tokens, self.about)
        kept = _without(document.mutes, same)
        mute = Mute(self.key, *same, _reason(self.reason), self.by)
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


@command("waive-pairing")
@dataclass(frozen=True, slots=True)
class WaivePairing(Command):
    """Accept that a pairing falls short, and say why, who did, and up to which day, as ``2026-12-31``; empty: for
    good. Without a reason the waiver ends. A pairing that a rule makes becomes one of its own with the key ``key``.
    """

    key: str
    pairing: str
    reason: str = ""
    until: str = ""
    by: str = ""

    def apply(self, document: Document) -> Document:
        pairing = judged_pairing(document, self.pairing)
        changed = replace(pairing, waiver="", waived_by="", waived_until="")
        if self.reason.strip():
            until = read_day(self.until)
            changed = replace(
                changed, waiver=_reason(self.reason), waived_by=self.by, waived_until=until
            )
        elif not pairing.waiver:
            raise EditError("A reason is missing.", fix="Say why this pairing may fall short.")
        return with_pairing(document, changed, self.key)

    def sentence(self, before: Document) -> str:
        words = contrast.summary(before, judged_pairing(before, self.pairing))
        if not self.reason.strip():
            return f"Ended the waiver of {words}"
        until = f" until {self.until.strip()}" if self.until.strip() else ""
        return f"Waived {words}{until}: {short(self.reason)}"


def read_day(text: str) -> str:
    """A day as ``2026-12-31``; empty stays so. Raises ``EditError`` for any other text."""
    if not text.strip():
        return ""
    try:
        return datetime.date.fromisoformat(text.strip()).isoformat()
    except ValueError:
        raise EditError(f"“{text[:20]}” is not a day.", fix="Write it as 2026-12-31.") from None


@command("tell-apart")
@dataclass(frozen=True, slots=True)
class TellApart(Command):
    """Keep a set of colors, by path, that must be told apart, in place of the one by the key ``members``; ``besides``
    says by what else they differ, as an icon or a word."""

    key: str
    name: str
    tokens: tuple[str, ...]
    besides: str = ""
    members: str = ""

    def apply(self, document: Document) -> Document:
        name = self.name.strip()
        if not name:
            raise EditError("A set needs a name.")
        keys = tuple(dict.fromkeys(_color(document, path).key for path in _split(self.tokens)))
        if len(keys) < 2:
            raise EditError(
                "A set needs at least two colors.", fix="Separate their paths by commas."
            )
        made = TellingApart(self.members or self.key, name, keys, self.besides.strip()[:100])
        there = {members.key for members in document.telling_apart}
        if self.members and self.members not in there:
            raise EditError("That set is no longer there.")
        if self.members:
            sets = tuple(made if m.key == self.members else m for m in document.telling_apart)
        else:
            sets = (*document.telling_apart, made)
        return replace(document, telling_apart=sets)

    def sentence(self, before: Document) -> str:
        verb = "Changed" if self.members else "Added"
        return f"{verb} the set {short(self.name)} of colors to tell apart"


def _split(paths: tuple[str, ...]) -> list[str]:
    return [path.strip() for text in paths for path in text.split(",") if path.strip()]


def _color(document: Document, path: str) -> Token:
    token = document.token_at(path.strip("{}"))
    if token is None:
        raise EditError(f"{{{path[:60]}}} does not exist.", fix="Choose a token from the list.")
    if token.type != "color":
        raise EditError(f"{shown_path(token.path)} is no color.")
    return token


@command("tell-apart-by-role")
@dataclass(frozen=True, slots=True)
class TellApartByRole(Command):
    """Keep the sets of colors that must be told apart by what they are for: statuses, and series of charts."""

    key: str

    def _sets(self, document: Document) -> list[TellingApart]:
        new_key = keys_from(self.key)
        roles = guess(document, resolver_of(document))
        return [
            TellingApart(new_key(), *members) for members in telling.sets_by_role(document, roles)
        ]

    def apply(self, document: Document) -> Document:
        added = self._sets(document)
        if not added:
            raise EditError("No other colors need to be told apart by what they are for.")
        return replace(document, telling_apart=(*document.telling_apart, *added))

    def sentence(self, before: Document) -> str:
        return f"Added {counted(len(self._sets(before)), 'set')} of colors to tell apart"


@command("remove-set")
@dataclass(frozen=True, slots=True)
class RemoveSet(Command):
    """Tell the colors of a set apart no longer."""

    members: str

    def apply(self, document: Document) -> Document:
        kept = tuple(members for members in document.telling_apart if members.key != self.members)
        if len(kept) == len(document.telling_apart):
            raise EditError("That set is no longer there.")
        return replace(document, telling_apart=kept)

    def sentence(self, before: Document) -> str:
        name = next((m.name for m in before.telling_apart if m.key == self.members), "")
        return f"Removed the set {short(name)} of colors to tell apart"


@command("move-apart")
@dataclass(frozen=True, slots=True)
class MoveApart(Command):
    """Move one of two tokens of a set, by key, to the nearest step with which they are told apart. ``shown`` is
    what was offered in words: where something else would be set by now, nothing is."""

    members: str
    first: str
    second: str
    token: str
    shown: str = ""

    def _fix(self, document: Document) -> Telling:
        members = next((m for m in document.telling_apart if m.key == self.members), None)
        if members is None or not {self.first, self.second} <= set(members.tokens):
            raise EditError("That set is no longer there.")
        offered = telling.fixes(rules.judged(document), members, self.first, self.second)
        for fix in offered:
            if fix.token == self.token:
                return fix
        raise EditError("No step of its ramp tells them apart.")

    def apply(self, document: Document) -> Document:
        fix = self._fix(document)
        words = fix_in_words(document, fix)
        refuse_other(self.shown, words)
        return values.set_values(document, fix.settings)

    def sentence(self, before: Document) -> str:
        return f"Told apart: set {short(fix_in_words(before, self._fix(before)))}"


def fix_in_words(document: Document, fix: Telling) -> str:
    """What a fix sets, in words: ``signal.stop to stop.9 in appearance light``."""
    words = []
    for move in fix.moves:
        token = document.token(move.token)
        value = typed(move.after, token.type).strip("{}") if token is not None else ""
        where = f" in {condition_words(document, move.condition)}" if move.condition.picks else ""
        words.append(f"{token_name(document, move.token)} to {value}{where}")
    return ", ".join(words)


@command("split-by-use")
@dataclass(frozen=True, slots=True)
class SplitByUse(Command):
    """Make a second token of the same values for those that take the color of ``token`` for another use, and for the
    pairings in which it is read where others are read on it. ``path`` is that of the new one."""

    key: str
    token: str
    path: str = ""

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
