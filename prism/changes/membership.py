"""Taking tokens out of everything that names them."""

from __future__ import annotations

from collections.abc import Collection, Iterable
from dataclasses import replace

from prism.changes.references import token_of
from prism.model.document import Document, Ramp, Scene


def without(document: Document, going: Collection[str]) -> Document:
    going = frozenset(going)

    def clean(scene: Scene) -> Scene:
        kept = tuple((slot, key) for slot, key in scene.bindings if key not in going)
        return replace(scene, bindings=kept)

    return replace(
        document,
        tokens=tuple(
            replace(token, belongs_to="") if token.belongs_to in going else token
            for token in document.tokens
            if token.key not in going
        ),
        pairings=tuple(
            replace(p, page="" if p.page in going else p.page)
            for p in document.pairings
            if not {p.foreground, *p.backgrounds} & set(going)
        ),
        ramps=tuple(_without_steps(ramp, going) for ramp in document.ramps),
        telling_apart=tuple(
            replace(members, tokens=tuple(key for key in members.tokens if key not in going))
            for members in document.telling_apart
        ),
        mutes=tuple(mute for mute in document.mutes if going.isdisjoint(mute.tokens)),
        scenes=tuple(clean(scene) for scene in document.scenes),
        sources=tuple(
            replace(
                source,
                entries=tuple(e for e in source.entries if e.token not in going or not e.token),
            )
            for source in document.sources
        ),
    )


def _without_steps(ramp: Ramp, going: Collection[str]) -> Ramp:
    return replace(
        ramp,
        steps=tuple(key for key in ramp.steps if key not in going),
        moved=tuple(key for key in ramp.moved if key not in going),
        base="" if ramp.base in going else ramp.base,
    )


def refuse_unknown(document: Document, keys: Iterable[str]) -> None:
    for key in keys:
        token_of(document, key)


def position_of(document: Document, key: str) -> int:
    return document.tokens.index(token_of(document, key))
