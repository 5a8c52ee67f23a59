"""What can be done to sets of colors that must be told apart."""

from __future__ import annotations

from dataclasses import dataclass, replace

from prism.changes import values
from prism.changes.outcome import Outcome
from prism.commands.command import Command, asked, command, keys_from
from prism.commands.names import counted, short, token_name
from prism.contrast.pairing_commands import refuse_other
from prism.errors import EditError
from prism.expressions.typed_input import typed
from prism.model.document import Document, TellingApart, Token, shown_path
from prism.model.names import condition_words
from prism.resolution.current import resolver_of
from prism.roles import rules
from prism.roles.guess import guess
from prism.vision import distinguishing
from prism.vision.distinguishing import Telling


@command("tell-apart")
@dataclass(frozen=True, slots=True)
class TellApart(Command):
    """Keep a set of colors, by path, that must be told apart, in place of the one by the key ``members``; ``besides``
    says by what else they differ, as an icon or a word."""

    key: str
    name: str = asked("name")
    tokens: tuple[str, ...] = asked("colors, separated by commas")
    besides: str = asked("they also differ by", default="")
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
            TellingApart(new_key(), *members)
            for members in distinguishing.sets_by_role(document, roles)
        ]

    def outcome(self, document: Document) -> Outcome:
        added = self._sets(document)
        if not added:
            raise EditError("No other colors need to be told apart by what they are for.")
        after = replace(document, telling_apart=(*document.telling_apart, *added))
        sentence = f"Added {counted(len(added), 'set')} of colors to tell apart"
        return Outcome(after, sentence=sentence)


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
        offered = distinguishing.fixes(rules.paired(document), members, self.first, self.second)
        for fix in offered:
            if fix.token == self.token:
                return fix
        raise EditError("No single step of its ramp tells them apart.")

    def outcome(self, document: Document) -> Outcome:
        fix = self._fix(document)
        words = fix_in_words(document, fix)
        refuse_other(self.shown, words)
        sentence = f"Told apart: set {short(words)}"
        return Outcome(values.set_values(document, fix.settings), sentence=sentence)


def fix_in_words(document: Document, fix: Telling) -> str:
    """What a fix sets, in words: ``signal.stop to stop.9 in appearance light``."""
    words = []
    for move in fix.moves:
        token = document.token(move.token)
        value = typed(move.after, token.type).strip("{}") if token is not None else ""
        where = f" in {condition_words(document, move.condition)}" if move.condition.picks else ""
        words.append(f"{token_name(document, move.token)} to {value}{where}")
    return ", ".join(words)
