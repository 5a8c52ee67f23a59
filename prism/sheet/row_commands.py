"""Tokens and groups that are added, copied, moved and deleted where they stand."""

from __future__ import annotations

from dataclasses import dataclass

from prism.changes.outcome import Outcome
from prism.commands.command import Command, asked, command, keys_from
from prism.commands.names import counted, short, token_name
from prism.errors import EditError
from prism.model.document import Document
from prism.model.grouping import members
from prism.model.values import BASE, Condition
from prism.sheet import addition, paste


@command("add-token")
@dataclass(frozen=True, slots=True)
class AddToken(Command):
    """Add a token behind the last of its group. ``text`` is its base value as it is typed, ``values``
    are further ones under conditions; ``tier`` is that of its neighbors where it is empty, ``type`` that of
    its value."""

    key: str
    path: str
    text: str
    values: tuple[tuple[Condition, str], ...] = ()
    tier: str = ""
    type: str = ""

    def apply(self, document: Document) -> Document:
        typed = [(BASE, self.text), *self.values]
        new_key = keys_from(self.key)
        return addition.add_token(
            document, self.path, typed, new_key, tier=self.tier, type=self.type
        )[0]

    def sentence(self, before: Document) -> str:
        added = self.apply(before).token_at(self.path.strip().strip("."))
        return f"Added {short(self.path)}" + (f" as {added.type}" if added is not None else "")


@command("add-pasted")
@dataclass(frozen=True, slots=True)
class AddPasted(Command):
    """Add a token for each name of a pasted table that no token has."""

    key: str
    text: str
    axis: str = ""

    def outcome(self, document: Document) -> Outcome:
        fresh = paste.unknown(document, self.text, self.axis)
        if not fresh:
            raise EditError("Every name that was pasted has a token by now.")
        keys = keys_from(self.key)
        for name, values in fresh:
            document, _ = addition.add_token(document, name, values, keys)
        return Outcome(document, len(fresh))

    def sentence(self, before: Document) -> str:
        return f"Added {counted(len(paste.unknown(before, self.text, self.axis)), 'pasted token')}"


@command("duplicate-tokens")
@dataclass(frozen=True, slots=True)
class DuplicateTokens(Command):
    """Put a copy of each token behind it."""

    key: str
    tokens: tuple[str, ...]

    def outcome(self, document: Document) -> Outcome:
        if not self.tokens:
            raise EditError("No row is selected.", fix="Select rows, or a range of cells.")
        copied, made = addition.copy_tokens(document, self.tokens, keys_from(self.key))
        return Outcome(copied, len(made))

    def sentence(self, before: Document) -> str:
        if len(self.tokens) == 1:
            return f"Duplicated {token_name(before, self.tokens[0])}"
        return f"Duplicated {counted(len(self.tokens), 'token')}"


@command("duplicate-group")
@dataclass(frozen=True, slots=True)
class DuplicateGroup(Command):
    """Copy all tokens of a group under another path."""

    key: str
    group: str
    path: str = asked("Duplicate as")

    def apply(self, document: Document) -> Document:
        path = self.path.strip().strip(".")
        return addition.copy_group(document, self.group, path, keys_from(self.key))

    def sentence(self, before: Document) -> str:
        return f"Duplicated group {short(self.group)} as {short(self.path)}"


@command("delete-group")
@dataclass(frozen=True, slots=True)
class DeleteGroup(Command):
    """Take all tokens of a group out; refused where one that stays refers to one of them."""

    group: str

    def apply(self, document: Document) -> Document:
        return addition.delete_group(document, self.group)

    def sentence(self, before: Document) -> str:
        count = len(members(before.tokens, self.group))
        return f"Deleted group {short(self.group)} with {counted(count, 'token')}"


@command("move-group")
@dataclass(frozen=True, slots=True)
class MoveGroup(Command):
    """Move a group ``by`` places among those of its tier."""

    group: str
    by: int

    def apply(self, document: Document) -> Document:
        return addition.move_group(document, self.group, self.by)

    def sentence(self, before: Document) -> str:
        return f"Moved group {short(self.group)} {'up' if self.by < 0 else 'down'}"
