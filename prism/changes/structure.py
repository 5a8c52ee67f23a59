"""Edits to what tokens there are: adding, removing, renaming, moving, splitting, merging.

All are pure functions. References follow in the text of every expression, which otherwise stays
as the author wrote it; pairings, ramps and bindings follow by key.
"""

from __future__ import annotations

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import replace
from typing import TypeVar

from prism.changes.membership import position_of, refuse_unknown, without
from prism.changes.references import check_path, paths_of, token_of, with_references, with_token
from prism.changes.values import check_value, refuse_broken
from prism.errors import EditError
from prism.expressions.typed_input import read_typed, typed
from prism.expressions.values import references
from prism.model.document import TYPES, Document, Token, shown_path
from prism.model.names import is_css_name, settle_names
from prism.roles import kept_slots
from prism.roles.role import stored as role_text

_Item = TypeVar("_Item")


def moved(items: Sequence[_Item], item: _Item, by: int) -> tuple[_Item, ...]:
    """``items`` with one of them moved ``by`` places, not beyond the ends."""
    rest = [other for other in items if other != item]
    place = min(max(items.index(item) + by, 0), len(rest))
    return (*rest[:place], item, *rest[place:])


def add_tokens(document: Document, tokens: Sequence[Token], after: str = "") -> Document:
    """Put new tokens after the token with key ``after``, or at the end."""
    keys = {token.key for token in document.tokens}
    for token in tokens:
        check_path(token.path)
        if token.type not in TYPES:
            raise EditError(f"“{token.type}” is not a type.", place=token.path)
        if token.key in keys:
            raise EditError("A token with this key already exists.", place=token.path)
        keys.add(token.key)
    place = position_of(document, after) + 1 if after else len(document.tokens)
    changed = _with_tokens(document, [*document.tokens[:place], *tokens, *document.tokens[place:]])
    for token in tokens:
        for _, value in token.values:
            check_value(changed, token, value)
    refuse_broken(changed, *(token.key for token in tokens), before=document)
    return changed


def remove_tokens(document: Document, keys: Collection[str]) -> Document:
    """Take tokens out, with the pairings they stand in.

    Refused where a token that stays refers to one that goes; ``replace_reference`` first.
    """
    going = set(keys)
    refuse_unknown(document, going)
    paths = {path for key in going for path in paths_of(document, key)}
    for token in document.tokens:
        if token.key not in going:
            held = [p for _, v in token.values for p in references(v, token.type) if p in paths]
            if held:
                raise EditError(
                    f"{{{held[0]}}} is used by {shown_path(token.path)}.",
                    fix="Let them refer to another token first.",
                )
    return without(document, going)


def rename_token(document: Document, key: str, path: str) -> Document:
    """Give a token another path; every reference follows."""
    token = token_of(document, key)
    return _rename(document, {token.path: path})


def rename_tokens(document: Document, moved: Mapping[str, str]) -> Document:
    """Give tokens other paths, old path to new, all at once; every reference follows."""
    for path in moved:
        if document.token_at(path) is None:
            raise EditError(f"There is no token “{shown_path(path)}”.")
    return _rename(document, moved)


def rename_group(document: Document, old: str, new: str) -> Document:
    """Give a group another path; its tokens, inner groups and every reference follow."""
    moved = {
        token.path: new + token.path.removeprefix(old)
        for token in document.tokens
        if token.path == old or token.path.startswith(old + ".")
    }
    if not moved and all(group.path != old for group in document.groups):
        raise EditError(f"There is no group “{old}”.")
    if new == old:
        return document
    if new.startswith(old + "."):
        raise EditError("A group cannot be moved into itself.")
    changed = _rename(document, moved) if moved else document

    def turned(path: str) -> str:
        inside = path == old or path.startswith(old + ".")
        return new + path.removeprefix(old) if inside else path

    tokens = [replace(t, extends_from=turned(t.extends_from)) for t in changed.tokens]
    return replace(
        changed,
        tokens=tuple(tokens),
        groups=tuple(
            replace(g, path=turned(g.path), extends=turned(g.extends)) for g in changed.groups
        ),
        ramps=tuple(replace(ramp, name=turned(ramp.name)) for ramp in changed.ramps),
        sources=tuple(
            replace(
                source,
                entries=tuple(
                    entry if entry.token else replace(entry, path=turned(entry.path))
                    for entry in source.entries
                ),
            )
            for source in changed.sources
        ),
    )


def move_tokens(document: Document, keys: Sequence[str], group: str, after: str = "") -> Document:
    """Put tokens into another group, and after the token ``after`` where it is named."""
    refuse_unknown(document, keys)
    moved = {}
    for key in keys:
        path = token_of(document, key).path
        head = path.removesuffix(".$root")
        leaf = head.rpartition(".")[2] + path.removeprefix(head)
        moved[path] = f"{group}.{leaf}" if group else leaf
    changed = _rename(document, moved)
    return reorder_tokens(changed, keys, after) if after else changed


def reorder_tokens(document: Document, keys: Sequence[str], after: str = "") -> Document:
    """Put tokens, in the order of ``keys``, after the token ``after``; first without it."""
    refuse_unknown(document, keys)
    moving = [token_of(document, key) for key in keys]
    rest = [token for token in document.tokens if token.key not in set(keys)]
    place = 0
    if after:
        place = next((i for i, rest_item in enumerate(rest) if rest_item.key == after), -1) + 1
        if not place:
            raise EditError("The token to put them after does not exist.")
    return replace(document, tokens=(*rest[:place], *moving, *rest[place:]))


def describe_token(
    document: Document,
    key: str,
    *,
    path: str,
    description: str,
    uses: str,
    export_name: str,
    private: bool,
    deprecated: str | None,
    role: str | None = None,
    belongs_to: str | None = None,
) -> Document:
    """Change what a token says of itself; another path is a rename that references follow.

    ``uses`` is separated by commas; ``export_name`` is its custom property, empty for the derived
    one; ``deprecated`` is a sentence or None; an empty ``role`` is guessed, and so is an empty path of
    what it ``belongs_to``; None stays.
    """
    token, wanted = token_of(document, key), path.strip()
    if wanted in (token.path, shown_path(token.path)):
        wanted = token.path
    changed = rename_token(document, key, wanted) if wanted != token.path else document
    told = replace(
        token_of(changed, key),
        description=description,
        uses=tuple(use.strip() for use in uses.split(",") if use.strip()),
        export_names=_export_names(token, export_name),
        private=private,
        deprecated=deprecated,
        role=token.role if role is None else role_text(role),
        belongs_to=token.belongs_to if belongs_to is None else _owner(document, key, belongs_to),
    )
    return settle_names(with_token(changed, told))


def _export_names(token: Token, css: str) -> tuple[tuple[str, str], ...]:
    """The token's names in exports with another custom property, the derived one where empty."""
    names = tuple(name for name in token.export_names if name[0] != "css")
    plain = css.strip().removeprefix("--")
    if not plain:
        return names
    if not is_css_name(plain):
        raise EditError(
            f"“{plain[:60]}” is not a custom property.", fix="Write a name such as --text-main."
        )
    return (*names, ("css", plain))


def _owner(document: Document, key: str, path: str) -> str:
    """The key of what a token belongs to, by path; empty for an empty path."""
    plain = path.strip().strip("{}")
    owner = document.token_at(plain) if plain else None
    if plain and (owner is None or owner.key == key or owner.type != "color"):
        raise EditError(
            f"“{plain[:80]}” is not a color that it could belong to.",
            fix="Write the path of a fill, a surface or a plain state.",
        )
    return owner.key if owner is not None else ""


def change_type(document: Document, key: str, type: str) -> Document:
    """Give a token another type; each value is read again as it would be typed, and must be one of it."""
    before = token_of(document, key)
    if type not in TYPES:
        raise EditError(f"“{type[:40]}” is not a type.", place=shown_path(before.path))
    token = replace(before, type=type)
    values = tuple(
        (condition, read_typed(document, typed(value, before.type), token))
        for condition, value in before.values
    )
    token = replace(token, values=values)
    changed = with_token(document, token)
    for _, value in token.values:
        check_value(changed, token, value)
    refuse_broken(changed, key, before=document)
    for other in changed.tokens:
        if any(
            changed.token_at(p) is token for _, v in other.values for p in references(v, other.type)
        ):
            refuse_broken(changed, other.key, before=document)
    return changed


def replace_reference(
    document: Document, old: str, new: str, within: Collection[str] | None = None
) -> Document:
    """Let the tokens with keys ``within`` (all without) refer to ``new`` in place of ``old``."""
    return replace_references(document, {old: new}, within)


def replace_references(
    document: Document, turned: Mapping[str, str], within: Collection[str] | None = None
) -> Document:
    """As ``replace_reference`` for many tokens at once; ``turned`` maps old keys to new."""
    renamed = {
        path: token_of(document, new).path
        for old, new in turned.items()
        for path in paths_of(document, old)
    }
    targets = set(turned.values())
    changed_keys = []
    tokens = []
    for token in document.tokens:
        if token.key not in targets and (within is None or token.key in within):
            rewritten = with_references(token, renamed)
            if rewritten != token:
                changed_keys.append(token.key)
            token = rewritten
        tokens.append(token)
    changed = replace(document, tokens=tuple(tokens))
    refuse_broken(changed, *changed_keys, before=document)
    return changed


# Behind the scenes


def _rename(document: Document, moved: Mapping[str, str]) -> Document:
    for path in moved.values():
        check_path(path)
    renamed = dict(moved)
    for old, new in moved.items():
        short = shown_path(old)
        token = document.token_at(short)
        if short != old and token is not None and token.path == old:
            renamed[short] = shown_path(new)
    tokens = []
    for token in document.tokens:
        token = with_references(token, renamed)
        tokens.append(replace(token, path=moved[token.path]) if token.path in moved else token)
    changed = _with_tokens(document, tokens)
    _refuse_new_circles(changed, document, set(moved.values()))
    return kept_slots.kept(document, changed)


def _refuse_new_circles(changed: Document, before: Document, paths: Collection[str]) -> None:
    """Raise ``EditError`` where a reference that named nothing names one of ``paths`` now, and
    that breaks its token."""
    named = {*paths, *(shown_path(path) for path in paths)}
    named = {path for path in named if before.token_at(path) is None}
    woken = [
        token.key
        for token in before.tokens
        if any(path in named for _, value in token.values for path in references(value, token.type))
    ]
    refuse_broken(changed, *woken, before=before)


def _with_tokens(document: Document, tokens: Iterable[Token]) -> Document:
    """The document with ``tokens``; refuses two of one path, and a token that is a group too."""
    changed = replace(document, tokens=tuple(tokens))
    paths: set[str] = set()
    groups: set[str] = set()
    for token in changed.tokens:
        if token.path in paths:
            raise EditError(f"There is a token “{shown_path(token.path)}” already.")
        paths.add(token.path)
        group = token.path.rpartition(".")[0]
        while group and group not in groups:
            groups.add(group)
            group = group.rpartition(".")[0]
    both = sorted(paths & groups)
    if both:
        raise EditError(
            f"“{both[0]}” would be a token and a group.",
            fix=f"Name the token {both[0]}.$root.",
        )
    return settle_names(changed)
