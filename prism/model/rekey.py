"""Giving the parts of a document other keys, everywhere they are named."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from prism.model.document import Axis, Document, Pairing, Ramp, Scene, Token
from prism.model.imported import Layer, Source
from prism.model.values import Condition


@dataclass(frozen=True, slots=True)
class Rekeying:
    """Other keys by the old ones; what is not named keeps its key. Modes by axis and mode."""

    tokens: Mapping[str, str] = field(default_factory=dict)
    axes: Mapping[str, str] = field(default_factory=dict)
    modes: Mapping[tuple[str, str], str] = field(default_factory=dict)
    purposes: Mapping[str, str] = field(default_factory=dict)
    ramps: Mapping[str, str] = field(default_factory=dict)
    sets: Mapping[str, str] = field(default_factory=dict)
    scenes: Mapping[str, str] = field(default_factory=dict)

    def of(self, document: Document) -> Document:
        """The document with the other keys."""
        return replace(
            document,
            axes=tuple(self._axis(axis) for axis in document.axes),
            tokens=tuple(self._token(token) for token in document.tokens),
            purposes=tuple(
                replace(purpose, key=self.purposes.get(purpose.key, purpose.key))
                for purpose in document.purposes
            ),
            ramps=tuple(self._ramp(ramp) for ramp in document.ramps),
            themes=tuple(
                replace(theme, picks=self._picks(theme.picks)) for theme in document.themes
            ),
            pairings=tuple(self.pairing(pairing) for pairing in document.pairings),
            telling_apart=tuple(
                replace(
                    members,
                    key=self.sets.get(members.key, members.key),
                    tokens=self._keys(members.tokens),
                )
                for members in document.telling_apart
            ),
            mutes=tuple(replace(mute, tokens=self._keys(mute.tokens)) for mute in document.mutes),
            scenes=tuple(self._scene(scene) for scene in document.scenes),
            sources=tuple(self._source(source) for source in document.sources),
            layers=tuple(self._layer(layer) for layer in document.layers),
        )

    def pairing(self, pairing: Pairing) -> Pairing:
        """A pairing of the same tokens by their other keys; its own key stays."""
        return replace(
            pairing,
            foreground=self._key(pairing.foreground),
            backgrounds=self._keys(pairing.backgrounds),
            page=self._key(pairing.page),
        )

    def _key(self, token: str) -> str:
        return self.tokens.get(token, token)

    def _keys(self, tokens: tuple[str, ...]) -> tuple[str, ...]:
        return tuple(self._key(token) for token in tokens)

    def _mode(self, axis: str, mode: str) -> str:
        return self.modes.get((axis, mode), mode)

    def _picks(self, picks: tuple[tuple[str, str], ...]) -> tuple[tuple[str, str], ...]:
        return tuple((self.axes.get(axis, axis), self._mode(axis, mode)) for axis, mode in picks)

    def _axis(self, axis: Axis) -> Axis:
        follows = axis.follows
        if follows is not None:
            pairs = tuple((value, self._mode(axis.key, mode)) for value, mode in follows.modes)
            follows = replace(follows, modes=pairs)
        return replace(
            axis,
            key=self.axes.get(axis.key, axis.key),
            default=self._mode(axis.key, axis.default),
            modes=tuple(replace(m, key=self._mode(axis.key, m.key)) for m in axis.modes),
            follows=follows,
        )

    def _token(self, token: Token) -> Token:
        values = tuple(
            (Condition(tuple(sorted(self._picks(condition.picks)))), value)
            for condition, value in token.values
        )
        owner = self._key(token.belongs_to) if token.belongs_to else ""
        return replace(token, key=self._key(token.key), values=values, belongs_to=owner)

    def _ramp(self, ramp: Ramp) -> Ramp:
        return replace(
            ramp,
            key=self.ramps.get(ramp.key, ramp.key),
            steps=self._keys(ramp.steps),
            moved=self._keys(ramp.moved),
            purpose=self.purposes.get(ramp.purpose, ramp.purpose),
            base=self._key(ramp.base) if ramp.base else "",
        )

    def _scene(self, scene: Scene) -> Scene:
        bindings = tuple((slot, self._key(token)) for slot, token in scene.bindings)
        return replace(scene, key=self.scenes.get(scene.key, scene.key), bindings=bindings)

    def _source(self, source: Source) -> Source:
        entries = tuple(replace(e, token=self._key(e.token)) for e in source.entries)
        return replace(source, entries=entries)

    def _layer(self, layer: Layer) -> Layer:
        contexts = tuple((self._mode(layer.axis, mode), keys) for mode, keys in layer.contexts)
        return replace(layer, axis=self.axes.get(layer.axis, layer.axis), contexts=contexts)
