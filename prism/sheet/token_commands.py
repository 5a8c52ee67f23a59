"""What can be done to tokens and groups: names, order, descriptions."""

from __future__ import annotations

from dataclasses import dataclass

from prism.changes import links as linking
from prism.changes import merging, structure
from prism.changes.outcome import Outcome
from prism.commands.command import Command, asked, command
from prism.commands.names import counted, short, token_name
from prism.errors import EditError
from prism.model.document import Document
from prism.sheet import addition, bulk


@command("describe-token")
@dataclass(frozen=True, slots=True)
class DescribeToken(Command):
    """Give a token another path, description, uses, export name, and say what else it is.

    ``deprecated`` is None, or a sentence that may be empty. With another ``type`` the values are read again as
    values of that.
    """

    token: str
    path: str
    description: str = ""
    uses: str = ""
    export_name: str = ""
    private: bool = False
    deprecated: str | None = None
    role: str | None = None
    belongs_to: str | None = None
    type: str = ""

    def apply(self, document: Document) -> Document:
        token = document.token(self.token)
        if self.type and token is not None and token.type != self.type:
            document = structure.change_type(document, self.token, self.type)
        return structure.describe_token(
            document,
            self.token,
            path=self.path,
            description=self.description,
            uses=self.uses,
            export_name=self.export_name,
            private=self.private,
            deprecated=self.deprecated,
            role=self.role,
            belongs_to=self.belongs_to,
        )

    def sentence(self, before: Document) -> str:
        return f"Described {token_name(before, self.token)}"


@command("rename-token")
@dataclass(frozen=True, slots=True)
class RenameToken(Command):
    """Give a token another path; references follow."""

    token: str
    path: str

    def apply(self, document: Document) -> Document:
        return structure.rename_token(document, self.token, self.path.strip())

    def sentence(self, before: Document) -> str:
        return f"Renamed {token_name(before, self.token)} to {short(self.path)}"


@command("remove-token")
@dataclass(frozen=True, slots=True)
class RemoveToken(Command):
    """Take a token out; what refers to it refers to ``into`` then, where that is given."""

    token: str
    into: str = asked("Remove; references change to", default="")

    def apply(self, document: Document) -> Document:
        return merging.drop_token(document, self.token, self.into)

    def sentence(self, before: Document) -> str:
        return f"Removed {token_name(before, self.token)}"


class _ManyTokens(Command):
    """A command over tokens by key."""

    tokens: tuple[str, ...]

    def outcome(self, document: Document) -> Outcome:
        if not self.tokens:
            raise EditError("No row is selected.", fix="Select rows, or a range of cells.")
        return self._run(document)

    def _run(self, document: Document) -> Outcome:
        raise NotImplementedError

    @property
    def _count(self) -> str:
        return counted(len(self.tokens), "token")


@command("replace-in-names")
@dataclass(frozen=True)
class ReplaceInNames(_ManyTokens):
    """Replace a text in the paths of tokens; references follow."""

    tokens: tuple[str, ...]
    find: str
    replacement: str = asked("by", default="")

    def _run(self, document: Document) -> Outcome:
        return bulk.replace_in_paths(document, self.tokens, self.find, self.replacement)

    def sentence(self, before: Document) -> str:
        return f"Replaced “{short(self.find)}” in the names of {self._count}"


@command("move-to-group")
@dataclass(frozen=True)
class MoveToGroup(_ManyTokens):
    """Put tokens into a group under their last names; references follow."""

    tokens: tuple[str, ...]
    group: str

    def _run(self, document: Document) -> Outcome:
        return bulk.move_to_group(document, self.tokens, self.group)

    def sentence(self, before: Document) -> str:
        return f"Moved {self._count} into {short(self.group)}"


@command("reorder-tokens")
@dataclass(frozen=True)
class ReorderTokens(_ManyTokens):
    """Put tokens after the token with the path ``after``; first where it is empty."""

    tokens: tuple[str, ...]
    after: str = ""

    def _run(self, document: Document) -> Outcome:
        return bulk.reorder_after(document, self.tokens, self.after)

    def sentence(self, before: Document) -> str:
        return f"Moved {self._count} in the order"


@command("delete-tokens")
@dataclass(frozen=True)
class DeleteTokens(_ManyTokens):
    """Take tokens out, with their pairings; refused where one that stays refers to one of them."""

    tokens: tuple[str, ...]

    def _run(self, document: Document) -> Outcome:
        return bulk.delete(document, self.tokens)

    def sentence(self, before: Document) -> str:
        return f"Deleted {self._count}"


@command("mark-tokens")
@dataclass(frozen=True)
class MarkTokens(_ManyTokens):
    """Set what is said of many tokens; None leaves a member as it is."""

    tokens: tuple[str, ...]
    private: bool | None = None
    uses: str | None = None
    description: str | None = None
    tier: str | None = None
    role: str | None = None

    def _run(self, document: Document) -> Outcome:
        return bulk.mark(
            document,
            self.tokens,
            private=self.private,
            uses=self.uses,
            description=self.description,
            tier=self.tier,
            role=self.role,
        )

    def sentence(self, before: Document) -> str:
        if self.role is not None:
            return f"Set the role of {self._count} to {self.role.strip() or 'what is guessed'}"
        if self.tier is not None:
            return f"Made {self._count} {self.tier}"
        if self.private is not None:
            return f"Made {self._count} {'private' if self.private else 'public'}"
        return f"{'Described' if self.uses is None else 'Set the uses of'} {self._count}"


@command("set-group-tier")
@dataclass(frozen=True, slots=True)
class SetGroupTier(Command):
    """Say of which tier all tokens of some groups are."""

    groups: tuple[str, ...]
    tier: str

    def apply(self, document: Document) -> Document:
        if not self.groups:
            raise EditError("No group is selected.")
        for group in self.groups:
            document = bulk.group_tier(document, group, self.tier).document
        return document

    def sentence(self, before: Document) -> str:
        return f"Made {short(', '.join(self.groups))} {self.tier}"


@command("rename-group")
@dataclass(frozen=True, slots=True)
class RenameGroup(Command):
    """Give every token of a group another path; references follow."""

    group: str
    path: str = asked("Rename to")

    def apply(self, document: Document) -> Document:
        return addition.rename_group(document, self.group.strip(), self.path.strip())

    def sentence(self, before: Document) -> str:
        return f"Renamed group {short(self.group)} to {short(self.path)}"


@command("link-literals")
@dataclass(frozen=True, slots=True)
class LinkLiterals(Command):
    """Replace literal colors by references to the nearest raw colors, by their places in the
    proposal for the document."""

    accepted: tuple[int, ...]

    def _links(self, document: Document) -> list[linking.Link]:
        links = linking.propose(document).links
        return [link for place, link in enumerate(links) if place in set(self.accepted)]

    def outcome(self, document: Document) -> Outcome:
        links = self._links(document)
        if not links:
            raise EditError("No link is selected.")
        sentence = f"Linked {counted(len(links), 'literal')} to the palette"
        return Outcome(linking.link(document, links), sentence=sentence)
