"""Edits to axes and modes, by the rule that no theme changes that is not meant to."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from prism.changes.values import refuse_new_breaks
from prism.errors import EditError
from prism.expressions.values import references
from prism.model.document import Axis, Document, Follows, Mode, Ramp, SavedTheme, Token
from prism.model.values import Condition, Value
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver


def add_axis(document: Document, axis: Axis, position: int | None = None) -> Document:
    """A new axis, at the end or at a position; no token varies on it yet."""
    if document.axis(axis.key) is not None:
        raise EditError("An axis with this key already exists.")
    if not axis.modes or all(mode.key != axis.default for mode in axis.modes):
        raise EditError("An axis has modes, one of them its default.", place=axis.name)
    place = len(document.axes) if position is None else position
    axes = (*document.axes[:place], axis, *document.axes[place:])
    return _with_axes(document, axes)


def rename_axis(document: Document, key: str, name: str) -> Document:
    """Give an axis another name."""
    return _put(document, replace(_axis(document, key), name=name))


def rename_mode(document: Document, axis: str, mode: str, name: str) -> Document:
    """Give a mode another name."""
    return _with_mode(document, axis, mode, name=name)


def set_color_scheme(document: Document, axis: str, mode: str, scheme: str) -> Document:
    """Say whether a mode is ``light``, ``dark``, or neither (empty)."""
    if scheme not in ("", "light", "dark"):
        raise EditError("A mode is light, dark or neither.")
    return _with_mode(document, axis, mode, color_scheme=scheme)


def set_direction(document: Document, axis: str, mode: str, direction: str) -> Document:
    """Say whether a mode reads from left to right (``ltr``), from right to left (``rtl``), or neither (empty)."""
    if direction not in ("", "ltr", "rtl"):
        raise EditError("A mode reads from left to right or from right to left.")
    return _with_mode(document, axis, mode, direction=direction)


def reorder_axes(document: Document, keys: Sequence[str]) -> Document:
    """Another order of the axes; it decides between conditions on equally many axes."""
    if sorted(keys) != sorted(axis.key for axis in document.axes):
        raise EditError("The new order must name every axis once.")
    changed = replace(document, axes=tuple(_axis(document, key) for key in keys))
    return refuse_new_breaks(changed, document)


def reorder_modes(document: Document, axis: str, keys: Sequence[str]) -> Document:
    """Another order of an axis's modes; it changes no theme."""
    owner = _axis(document, axis)
    if sorted(keys) != sorted(mode.key for mode in owner.modes):
        raise EditError("The new order must name every mode once.", place=owner.name)
    return _put(document, replace(owner, modes=tuple(_mode(owner, key) for key in keys)))


def change_default(document: Document, axis: str, mode: str) -> Document:
    """Let an axis start in another mode; no value changes in any theme."""
    owner = _axis(document, axis)
    _mode(owner, mode)
    return _put(document, replace(owner, default=mode))


def follow(document: Document, axis: str, follows: Follows | None) -> Document:
    """Let an axis follow a preference, or none."""
    owner = _axis(document, axis)
    for _, mode in follows.modes if follows else ():
        _mode(owner, mode)
    return _put(document, replace(owner, follows=follows))


def add_mode(document: Document, axis: str, mode: Mode, copy_of: str = "") -> Document:
    """A new mode at the end, empty or a copy of another; no theme that was there changes.

    A copy resolves as what it is a copy of, so that nothing can break by it.
    """
    owner = _axis(document, axis)
    if any(held.key == mode.key for held in owner.modes):
        raise EditError("A mode with this key already exists.", place=owner.name)
    changed = _put(document, replace(owner, modes=(*owner.modes, mode)))
    if not copy_of:
        return refuse_new_breaks(changed, document)
    _mode(owner, copy_of)
    tokens = []
    for token in changed.tokens:
        copies = [
            (Condition.of(dict(condition.picks) | {axis: mode.key}), value)
            for condition, value in token.values
            if condition.mode_on(axis) == copy_of
        ]
        tokens.append(replace(token, values=(*token.values, *copies)) if copies else token)
    return replace(changed, tokens=tuple(tokens))


def lost_with_mode(
    document: Document, axis: str, mode: str
) -> list[tuple[Token, Condition, Value]]:
    """The values that go when a mode is removed."""
    return [
        (token, condition, value)
        for token in document.tokens
        for condition, value in token.values
        if condition.mode_on(axis) == mode
    ]


def ramps_of_mode(document: Document, axis: str, mode: str) -> list[Ramp]:
    """The ramps whose colors are referred to in a mode alone, so that nothing refers to them without it."""
    lost = lost_with_mode(document, axis, mode)
    named = _named([(token, value) for token, _, value in lost], document)
    going = {(token.key, condition) for token, condition, _ in lost}
    rest = [
        (token, value)
        for token in document.tokens
        for condition, value in token.values
        if (token.key, condition) not in going
    ]
    kept = _named(rest, document)
    kept |= {key for scene in document.scenes for _, key in scene.bindings}
    for pairing in document.pairings:
        kept |= {pairing.foreground, *pairing.backgrounds, pairing.page}
    steps = [(ramp, {*ramp.steps, ramp.base} - {""}) for ramp in document.ramps]
    return [ramp for ramp, keys in steps if keys & named and not keys & kept]


def _named(values: Iterable[tuple[Token, Value]], document: Document) -> set[str]:
    """Keys of the tokens that some values refer to."""
    return {
        target.key
        for token, value in values
        for path in references(value, token.type)
        if (target := document.token_at(path)) is not None
    }


def remove_mode(document: Document, axis: str, mode: str, default: str = "") -> Document:
    """Take a mode out, with the values that hold in it; ``default`` names a new default."""
    owner = _axis(document, axis)
    _mode(owner, mode)
    modes = tuple(held for held in owner.modes if held.key != mode)
    if not modes:
        raise EditError("It is the only mode.", place=owner.name, fix="Remove the axis.")
    new_default = owner.default if owner.default != mode else default or modes[0].key
    follows = owner.follows
    if follows is not None:
        kept = tuple(pair for pair in follows.modes if pair[1] != mode)
        follows = replace(follows, modes=kept) if kept else None
    changed = _put(document, replace(owner, modes=modes, default=new_default, follows=follows))
    _mode(_axis(changed, axis), new_default)
    tokens = tuple(
        replace(token, values=tuple(pair for pair in token.values if pair[0].mode_on(axis) != mode))
        for token in changed.tokens
    )
    themes = tuple(theme for theme in changed.themes if (axis, mode) not in theme.picks)
    layers = tuple(
        replace(layer, contexts=tuple(c for c in layer.contexts if c[0] != mode))
        if layer.axis == axis
        else layer
        for layer in changed.layers
    )
    changed = replace(changed, tokens=tokens, themes=themes, layers=layers)
    return refuse_new_breaks(changed, document)


def remove_axis(document: Document, axis: str, stays: str) -> Document:
    """Take an axis out; the mode ``stays`` is what remains.

    Conditions are rewritten so that every remaining theme is as it was in that mode.
    """
    owner = _axis(document, axis)
    _mode(owner, stays)
    resolver = resolver_of(document)
    axes = tuple(known for known in document.axes if known.key != axis)
    tokens = tuple(_without_axis(resolver, token, axis, stays) for token in document.tokens)

    def stripped(theme: SavedTheme) -> SavedTheme:
        return replace(theme, picks=tuple(pick for pick in theme.picks if pick[0] != axis))

    themes = tuple(
        stripped(theme) for theme in document.themes if dict(theme.picks).get(axis, stays) == stays
    )
    layers = tuple(layer for layer in document.layers if layer.axis != axis)
    changed = replace(document, axes=axes, tokens=tokens, themes=themes, layers=layers)
    return refuse_new_breaks(changed, document)


def _without_axis(resolver: Resolver, token: Token, axis: str, stays: str) -> Token:
    """A token whose conditions name ``axis`` no more, the same where ``stays`` held."""
    kept: dict[Condition, Value] = {}
    for condition, value in token.values:
        held = condition.mode_on(axis)
        if held in (None, stays):
            short = Condition(tuple(pick for pick in condition.picks if pick[0] != axis))
            # Of two that become one, the one that named the axis was the stronger.
            if held is not None or short not in kept:
                kept[short] = value
    changed = replace(token, values=tuple(kept.items()))
    if all(condition.mode_on(axis) is None for condition, _ in token.values):
        return token
    own = [
        a
        for a in (other.key for other in resolver.document.axes)
        if a != axis and any(c.mode_on(a) is not None for c, _ in token.values)
    ]
    after = Resolver(replace(resolver.document, tokens=(changed,)))
    for theme in resolver.themes(own, resolver.theme({axis: stays})):
        was, now = resolver.winner(token.key, theme), after.winner(token.key, theme)
        if was is not None and (now is None or now[1] != was[1]):
            picks = resolver.picks(theme)
            kept[Condition.of({key: picks[key] for key in own})] = was[1]
    return replace(token, values=tuple(kept.items()))


def _with_axes(document: Document, axes: Sequence[Axis]) -> Document:
    names = [axis.name.strip() for axis in axes]
    if any(not name for name in names):
        raise EditError("An axis needs a name.")
    if len(set(names)) != len(names):
        raise EditError("Two axes have the same name.", fix="Choose another.")
    for axis in axes:
        modes = [mode.name.strip() for mode in axis.modes]
        if any(not name for name in modes) or len(set(modes)) != len(modes):
            raise EditError("Two modes have the same name.", place=axis.name)
    return replace(document, axes=tuple(axes))


def _put(document: Document, axis: Axis) -> Document:
    return _with_axes(
        document, [axis if known.key == axis.key else known for known in document.axes]
    )


def _with_mode(document: Document, axis: str, mode: str, **changes: Any) -> Document:
    """The document in which a mode says something else of itself."""
    owner = _axis(document, axis)
    changed = replace(_mode(owner, mode), **changes)
    modes = tuple(changed if held.key == mode else held for held in owner.modes)
    return _put(document, replace(owner, modes=modes))


def _axis(document: Document, key: str) -> Axis:
    axis = document.axis(key)
    if axis is None:
        raise EditError("That axis is no longer there.")
    return axis


def _mode(axis: Axis, key: str) -> Mode:
    for mode in axis.modes:
        if mode.key == key:
            return mode
    raise EditError("That mode is no longer there.", place=axis.name)
