"""Many tokens at once: their paths, places, and what is said of them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from prism.changes.structure import (
    check_path,
    move_tokens,
    remove_tokens,
    rename_tokens,
    reorder_tokens,
)
from prism.derive.mapping import Done
from prism.errors import EditError
from prism.model.document import TIERS, Document, shown_path


def replace_in_paths(document: Document, keys: Sequence[str], find: str, by: str) -> Done:
    """Replace a text in the paths of tokens; references follow."""
    if not find:
        raise EditError("Nothing was given to look for.")
    moved = {}
    for key in keys:
        token = document.token(key)
        if token is not None and find in token.path:
            moved[token.path] = token.path.replace(find, by)
    if not moved:
        raise EditError(f"None of the paths holds “{find[:60]}”.")
    return Done(rename_tokens(document, moved), len(moved))


def move_to_group(document: Document, keys: Sequence[str], group: str) -> Done:
    """Put tokens into a group, under their last names; references follow."""
    group = group.strip()
    if group:
        check_path(group)
    return Done(move_tokens(document, keys, group), len(keys))


def reorder_behind(document: Document, keys: Sequence[str], after: str) -> Done:
    """Put tokens behind the token with the path ``after``, in their order; at the front without."""
    behind = document.token_at(after.strip()) if after.strip() else None
    if after.strip() and behind is None:
        raise EditError(f"There is no token “{after.strip()[:80]}”.")
    if behind is not None and behind.key in keys:
        raise EditError("A token cannot stand behind itself.")
    order = [token.key for token in document.tokens if token.key in set(keys)]
    return Done(reorder_tokens(document, order, behind.key if behind else ""), len(keys))


def delete(document: Document, keys: Sequence[str]) -> Done:
    """Take tokens out, with their pairings; refused where one that stays refers to one of them."""
    return Done(remove_tokens(document, keys), len(keys))


def mark(
    document: Document,
    keys: Sequence[str],
    *,
    private: bool | None = None,
    uses: str | None = None,
    description: str | None = None,
    tier: str | None = None,
) -> Done:
    """Set what is said of many tokens; None leaves a member as it is."""
    named = next((one for one in TIERS if one == tier), None)
    if tier is not None and named is None:
        raise EditError(f"“{tier[:40]}” is no tier.", fix="A token is raw, semantic or component.")
    wanted = set(keys)
    missing = wanted - {token.key for token in document.tokens}
    if missing:
        raise EditError("One of the tokens is no longer there.")
    parts = None if uses is None else tuple(one.strip() for one in uses.split(",") if one.strip())
    tokens = tuple(
        replace(
            token,
            private=token.private if private is None else private,
            uses=token.uses if parts is None else parts,
            description=token.description if description is None else description,
            tier=named or token.tier,
        )
        if token.key in wanted
        else token
        for token in document.tokens
    )
    return Done(replace(document, tokens=tokens), len(wanted))


def group_tier(document: Document, group: str, tier: str) -> Done:
    """Say of which tier all tokens of a group are."""
    keys = [token.key for token in document.tokens if token.within(group)]
    if not keys:
        raise EditError(f"There is no group “{group[:80]}”.")
    return mark(document, keys, tier=tier)


def skipped_words(done: Done) -> str:
    """What a bulk edit left alone, in a sentence; empty where it left nothing."""
    if not done.skipped:
        return ""
    shown = ", ".join(shown_path(one) for one in done.skipped[:6])
    more = f" and {len(done.skipped) - 6} more" if len(done.skipped) > 6 else ""
    return f"Left alone: {shown}{more}."
