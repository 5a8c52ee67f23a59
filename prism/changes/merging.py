"""One token made two, and two made one; everything that names them follows."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import replace

from prism.changes.membership import without
from prism.changes.references import paths_of, token_of
from prism.changes.structure import add_tokens, remove_tokens, replace_reference
from prism.changes.values import refuse_broken
from prism.errors import EditError
from prism.expressions.values import references
from prism.model.document import Document, Pairing, shown_path


def split_token(
    document: Document, key: str, new_key: str, new_path: str, users: Collection[str]
) -> Document:
    """Make a second token of the same values behind the first, for ``users`` to refer to."""
    token = token_of(document, key)
    twin = replace(token, key=new_key, path=new_path, export_names=(), extends_from="")
    changed = add_tokens(document, [twin], after=key)
    return replace_reference(changed, key, new_key, users)


def merge_tokens(document: Document, keep: str, gone: str) -> Document:
    """Let everything that refers to ``gone`` refer to ``keep``, and take ``gone`` out."""
    if keep == gone:
        raise EditError("A token cannot be merged with itself.")
    kept, paths = token_of(document, keep), paths_of(document, gone)
    if any(path in paths for _, v in kept.values for path in references(v, kept.type)):
        raise EditError(
            f"{shown_path(kept.path)} itself refers to {{{paths[-1]}}}.",
            fix="Give it a value of its own first.",
        )
    changed = _renamed_parts(replace_reference(document, gone, keep), keep, gone)
    changed = without(changed, {gone})
    refuse_broken(changed, keep, before=document)
    return changed


def _renamed_parts(document: Document, keep: str, gone: str) -> Document:
    """Everything beside values that names ``gone`` names ``keep``."""
    scenes = tuple(
        replace(
            scene,
            bindings=tuple((slot, keep if key == gone else key) for slot, key in scene.bindings),
        )
        for scene in document.scenes
    )
    sets = tuple(
        replace(
            told,
            tokens=tuple(dict.fromkeys(keep if key == gone else key for key in told.tokens)),
        )
        for told in document.telling_apart
    )
    tokens = tuple(
        replace(token, belongs_to=keep if token.key != keep else "")
        if token.belongs_to == gone
        else token
        for token in document.tokens
    )
    mutes = tuple(
        replace(mute, tokens=tuple(keep if key == gone else key for key in mute.tokens))
        for mute in document.mutes
    )
    changed = replace(document, tokens=tokens, scenes=scenes, telling_apart=sets, mutes=mutes)
    return replace(changed, pairings=_renamed_pairings(document.pairings, keep, gone))


def _renamed_pairings(pairings: tuple[Pairing, ...], keep: str, gone: str) -> tuple[Pairing, ...]:
    """Pairings that name ``keep`` for ``gone``; what became a duplicate or stands on itself goes."""
    renamed = {gone: keep}
    kept = []
    seen = set()
    for pairing in pairings:
        pairing = replace(
            pairing,
            foreground=renamed.get(pairing.foreground, pairing.foreground),
            backgrounds=tuple(renamed.get(key, key) for key in pairing.backgrounds),
            page=renamed.get(pairing.page, pairing.page),
        )
        same = (pairing.foreground, pairing.backgrounds, pairing.use)
        if same not in seen and pairing.foreground not in pairing.backgrounds:
            kept.append(pairing)
        seen.add(same)
    return tuple(kept)


def drop_token(document: Document, key: str, into: str = "") -> Document:
    """Take a token out; what refers to it refers to the token ``into`` from now, where one is
    given."""
    return merge_tokens(document, into, key) if into else remove_tokens(document, [key])
