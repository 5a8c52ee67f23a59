"""Many tokens at once: their paths, places, and what is said of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from prism.changes.outcome import Outcome
from prism.changes.references import check_path
from prism.changes.structure import move_tokens, remove_tokens, rename_tokens, reorder_tokens
from prism.errors import EditError
from prism.model.document import TIERS, Document
from prism.roles.role import stored as role_text


def replace_in_paths(document: Document, keys: Sequence[str], find: str, by: str) -> Outcome:
    """Replace a text in the paths of tokens; references follow."""
    if not find:
        raise EditError("There is no text to find.")
    moved = {}
    for key in keys:
        token = document.token(key)
        if token is not None and find in token.path:
            moved[token.path] = token.path.replace(find, by)
    if not moved:
        raise EditError(f"None of the paths holds “{find[:60]}”.")
    return Outcome(rename_tokens(document, moved), len(moved))


def move_to_group(document: Document, keys: Sequence[str], group: str) -> Outcome:
    """Put tokens into a group, under their last names; references follow."""
    group = group.strip()
    if group:
        check_path(group)
    return Outcome(move_tokens(document, keys, group), len(keys))


def reorder_after(document: Document, keys: Sequence[str], after: str) -> Outcome:
    """Put tokens after the token with the path ``after``, in their order; at the front without."""
    target = document.token_at(after.strip()) if after.strip() else None
    if after.strip() and target is None:
        raise EditError(f"There is no token “{after.strip()[:80]}”.")
    if target is not None and target.key in keys:
        raise EditError("A token cannot come after itself.")
    order = [token.key for token in document.tokens if token.key in set(keys)]
    return Outcome(reorder_tokens(document, order, target.key if target else ""), len(keys))


def delete(document: Document, keys: Sequence[str]) -> Outcome:
    """Take tokens out, with their pairings; refused where one that stays refers to one of them."""
    return Outcome(remove_tokens(document, keys), len(keys))


def mark(
    document: Document,
    keys: Sequence[str],
    *,
    private: bool | None = None,
    uses: str | None = None,
    description: str | None = None,
    tier: str | None = None,
    role: str | None = None,
) -> Outcome:
    """Set what is said of many tokens; None leaves a member as it is, an empty role is guessed."""
    stored_role = None if role is None else role_text(role)
    named = next((known for known in TIERS if known == tier), None)
    if tier is not None and named is None:
        raise EditError(
            f"“{tier[:40]}” is not a tier.", fix="A token is raw, semantic or component."
        )
    wanted = set(keys)
    missing = wanted - {token.key for token in document.tokens}
    if missing:
        raise EditError("One of the tokens is no longer there.")
    parts = None if uses is None else tuple(use.strip() for use in uses.split(",") if use.strip())
    tokens = tuple(
        replace(
            token,
            private=token.private if private is None else private,
            uses=token.uses if parts is None else parts,
            description=token.description if description is None else description,
            tier=named or token.tier,
            role=token.role if stored_role is None else stored_role,
        )
        if token.key in wanted
        else token
        for token in document.tokens
    )
    return Outcome(replace(document, tokens=tokens), len(wanted))


def group_tier(document: Document, group: str, tier: str) -> Outcome:
    """Say of which tier all tokens of a group are."""
    keys = [token.key for token in document.tokens if token.within(group)]
    if not keys:
        raise EditError(f"There is no group “{group[:80]}”.")
    return mark(document, keys, tier=tier)
