"""Tokens that are added by hand: what type and tier they are, where they stand, copies of others."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import replace

from prism.changes import structure
from prism.changes.references import check_path, with_references
from prism.changes.structure import add_tokens, remove_tokens, rename_tokens, reorder_tokens
from prism.errors import EditError, ExpressionError
from prism.expressions.syntax import reference_of
from prism.expressions.typed_input import is_path, read_typed
from prism.expressions.types import TOKEN_TYPES, font_family
from prism.expressions.values import check
from prism.model.document import TIERS, Document, Tier, Token, shown_path
from prism.model.grouping import NO_GROUP, groups, members
from prism.model.values import Condition, Expression
from prism.palette.ramp_edits import NewKey

#: Types that a value is tried as, in this order; a text is what none of them reads.
_TRIED = (
    "color", "dimension", "duration", "number", "boolean", "cubicBezier", "shadow", "border",
    "transition", "gradient", "typography",
)  # fmt: skip
_ROOT = ".$root"
#: Values of a new token: each under its condition, as typed.
Typed = Sequence[tuple[Condition, str]]


def type_of(document: Document, text: str, expected: str = "") -> str:
    """The type of a value as it is typed: that of what it refers to, ``expected`` where it can be
    read so, else the first that reads it."""
    plain = text.strip()
    target = document.token_at(reference_of(plain) or plain)
    if target is not None:
        return target.type
    if is_path(plain):
        return expected or "color"  # a reference to nothing, which is refused as such
    for name in dict.fromkeys([*([expected] if expected else []), *_TRIED]):
        if name == "string":
            continue
        try:
            check(TOKEN_TYPES[name].read_line(plain) or Expression(plain), name)
        except ExpressionError:
            continue
        return name
    return "fontFamily" if font_family.is_list(plain) else "string"


def add_token(
    document: Document,
    path: str,
    values: Typed,
    new_key: NewKey,
    *,
    tier: str = "",
    type: str = "",
) -> tuple[Document, Token]:
    """The document with a token more, behind the last of its group, and the token.

    A token that is the start of its path becomes the root of that group, and a group of its name gets
    it as its root. Without ``tier`` it is of that of its neighbors; else a reference makes it
    semantic, and a literal raw. Without ``type`` it is of that of its value. Raises ``EditError`` where it
    has no value, the path is taken, or there is no such type.
    """
    if type and type not in TOKEN_TYPES:
        raise EditError(f"There is no type “{type[:40]}”.")
    plain = path.strip().strip(".")
    check_path(plain)
    given = [(condition, text) for condition, text in values if text.strip()]
    if not given:
        raise EditError(
            "A token needs a value.",
            place=plain,
            fix="Type a color, a size or the name of a token.",
        )
    if document.token_at(plain) is not None:
        raise EditError(f"There is a token “{plain}” already.", fix="Type another name.")
    document = _with_roots(document, plain)
    stored = f"{plain}{_ROOT}" if any(token.within(plain) for token in document.tokens) else plain
    beside = _beside(document, plain)
    chosen: Tier = beside[-1].tier if beside else _tier(document, given[0][1])
    chosen = next((known for known in TIERS if known == tier), chosen)
    token = Token(new_key(), stored, type or _usual(document, given[0][1], beside), chosen)
    read = tuple((c, read_typed(document, text, token)) for c, text in given)
    token = replace(token, values=read)
    last = beside[-1].key if beside else _last_of(document, chosen)
    return add_tokens(document, [token], after=last), token


def _usual(document: Document, text: str, beside: Sequence[Token]) -> str:
    """The type of a value among its neighbors."""
    types = Counter(token.type for token in beside)
    usual = types.most_common(1)[0][0] if types else ""
    kind = type_of(document, text, usual)
    if kind == "string" and types and kind not in types and _is_one_word(text):
        raise EditError(
            f"“{text.strip()[:40]}” is no {usual}, as its neighbors are.",
            fix="Correct it, or choose the type string to add it as a text.",
        )
    return kind


def _is_one_word(text: str) -> bool:
    """Whether a text could be a slip of a value rather than words."""
    return len(text.split()) == 1 or any(mark in text for mark in "#{}()")


def _with_roots(document: Document, path: str) -> Document:
    """The document with each token that is the start of a path at the root of its group."""
    parts = path.split(".")
    starts = {".".join(parts[:end]) for end in range(1, len(parts))}
    moved = {token.path: token.path + _ROOT for token in document.tokens if token.path in starts}
    return rename_tokens(document, moved) if moved else document


def _beside(document: Document, path: str) -> list[Token]:
    """The tokens of the innermost group of a path that there is."""
    group = path.rpartition(".")[0]
    while group:
        inside = [token for token in document.tokens if token.within(group)]
        if inside:
            return inside
        group = group.rpartition(".")[0]
    if "." in path:
        return []
    placed = groups([*document.tokens, Token("new", path, "color", "raw")])
    own = placed["new"][0]
    return [t for t in document.tokens if own != NO_GROUP and placed[t.key][0] == own]


def _tier(document: Document, text: str) -> Tier:
    target = document.token_at(reference_of(text.strip()) or text.strip())
    return "raw" if target is None else "semantic"


def _last_of(document: Document, tier: Tier) -> str:
    keys = [token.key for token in document.tokens if token.tier == tier]
    return keys[-1] if keys else ""


def copy_tokens(
    document: Document, keys: Sequence[str], new_key: NewKey
) -> tuple[Document, list[Token]]:
    """The document with a copy of each token behind it, under a name that is free."""
    made = []
    for key in keys:
        token = document.token(key)
        if token is None:
            raise EditError("One of the tokens is no longer there.")
        path = _free(document, f"{shown_path(token.path)} copy")
        copy = replace(token, key=new_key(), path=path, export_names=(), extends_from="")
        document = add_tokens(document, [copy], after=key)
        made.append(copy)
    return document, made


def copy_group(document: Document, group: str, name: str, new_key: NewKey) -> Document:
    """The document with a copy of a group under another path; what refers into the group does so in
    the copy."""
    check_path(name)
    inside = _members(document, group)
    if members(document.tokens, name):
        raise EditError(f"There is a group “{name}” already.", fix="Type another name.")
    keys = {token.key: new_key() for token in inside}
    moved = {token.path: name + token.path.removeprefix(group) for token in inside}
    moved |= {shown_path(old): shown_path(new) for old, new in moved.items()}
    copies = [
        replace(
            with_references(token, moved),
            key=keys[token.key],
            path=moved[token.path],
            export_names=(),
            extends_from="",
            belongs_to=keys.get(token.belongs_to, token.belongs_to),
        )
        for token in inside
    ]
    return add_tokens(document, copies, after=inside[-1].key)


def rename_group(document: Document, group: str, name: str) -> Document:
    """The document with a group under another name; references follow."""
    if any(token.within(group) for token in document.tokens):
        return structure.rename_group(document, group, name)
    inside = _members(document, group)
    check_path(name)
    return rename_tokens(document, {t.path: name + t.path.removeprefix(group) for t in inside})


def delete_group(document: Document, group: str) -> Document:
    """The document without the tokens of a group; refused where one that stays refers into it."""
    gone = [token.key for token in _members(document, group)]
    changed = remove_tokens(document, gone)
    return replace(
        changed,
        groups=tuple(g for g in changed.groups if not f"{g.path}.".startswith(f"{group}.")),
        ramps=tuple(ramp for ramp in changed.ramps if ramp.steps),
    )


def move_group(document: Document, group: str, by: int) -> Document:
    """The document with a group ``by`` groups further up or down among those of its tier."""
    tier = _members(document, group)[0].tier
    placed = groups(document.tokens)
    listed: dict[str, list[str]] = {}
    for token in document.tokens:
        if token.tier == tier:
            listed.setdefault(placed[token.key][0], []).append(token.key)
    order = list(listed)
    own = next(name for name in order if group == name or group.startswith(name))
    target = min(max(order.index(own) + by, 0), len(order) - 1)
    if order[target] == own:
        return document
    beyond = listed[order[target]]
    if by > 0:
        return reorder_tokens(document, listed[own], beyond[-1])
    keys = [token.key for token in document.tokens if token.key not in listed[own]]
    before = keys.index(beyond[0])
    return reorder_tokens(document, listed[own], keys[before - 1] if before else "")


def _members(document: Document, group: str) -> list[Token]:
    inside = members(document.tokens, group)
    if not inside:
        raise EditError(f"There is no group “{group[:80]}”.")
    return inside


def _free(document: Document, wanted: str) -> str:
    path, number = wanted, 2
    while document.token_at(path) is not None:
        path, number = f"{wanted} {number}", number + 1
    return path
