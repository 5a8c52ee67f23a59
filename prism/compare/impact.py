"""What an edit changes: tokens, themes and pairings, and which pairings break or heal."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from prism.model.document import Document, Pairing
from prism.resolution.contrast import Reading, audit
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme


@dataclass(frozen=True, slots=True)
class Impact:
    """What differs between two documents, by key.

    ``tokens`` and ``pairings`` count the themes, of all that there are afterwards, in which each
    comes out differently; ``themes`` those in which anything does. ``breaks`` and ``heals`` count
    the themes in which a pairing begins or ceases to fall short. ``added`` and ``removed`` are
    tokens that only one side has.
    """

    tokens: dict[str, int]
    themes: int
    pairings: dict[str, int]
    breaks: dict[str, int]
    heals: dict[str, int]
    added: tuple[str, ...]
    removed: tuple[str, ...]


def impact(
    before: Document,
    after: Document,
    *,
    known: Resolver | None = None,
    changed: Resolver | None = None,
) -> Impact:
    """The impact of going from ``before`` to ``after``.

    Resolvers that exist may be handed in. A theme that only one side has is compared with the
    default of the axes that the other lacks.
    """
    old, new = known or resolver_of(before), changed or resolver_of(after)
    touched = _touched(old, new)
    axes = _axes(old, new, touched)
    share = 1
    for axis in after.axes:
        share *= 1 if axis.key in axes else len(axis.modes)
    tokens: dict[str, int] = {}
    themes = 0
    seen = list(new.themes(axes))
    pairs = [(theme, _counterpart(old, new, theme)) for theme in seen]
    both = [key for key in touched if before.token(key) and after.token(key)]
    for theme, was in pairs:
        differs = False
        for key in both:
            if old.resolve(key, was) != new.resolve(key, theme):
                tokens[key] = tokens.get(key, 0) + share
                differs = True
        themes += share if differs else 0
    pairings, breaks, heals = _pairings(old, new, touched, pairs, share)
    former, latter = ([token.key for token in side.tokens] for side in (before, after))
    added = tuple(key for key in latter if before.token(key) is None)
    removed = tuple(key for key in former if after.token(key) is None)
    return Impact(tokens, themes, pairings, breaks, heals, added, removed)


def _touched(old: Resolver, new: Resolver) -> set[str]:
    """Keys of the tokens that changed, and of all that may reach one of them."""
    was = {token.key: (token.values, token.type, token.path) for token in old.document.tokens}
    now = {token.key: (token.values, token.type, token.path) for token in new.document.tokens}
    changed = {key for key in was.keys() | now.keys() if was.get(key) != now.get(key)}
    if old.document.axes != new.document.axes or old.document.gamut != new.document.gamut:
        return was.keys() | now.keys()
    return old.graph.users(changed & was.keys()) | new.graph.users(changed & now.keys()) | changed


def _axes(old: Resolver, new: Resolver, touched: Iterable[str]) -> list[str]:
    """The axes that matter to the touched tokens and to every pairing they stand in."""
    axes: set[str] = set()
    for resolver in (old, new):
        keys = set(touched)
        for pairing in resolver.document.pairings:
            members = {pairing.foreground, *pairing.backgrounds, pairing.page}
            keys |= members if members & keys else set()
        known = [key for key in keys if resolver.document.token(key) is not None]
        axes |= set(resolver.influence_of(known))
    return [axis.key for axis in new.document.axes if axis.key in axes]


def _counterpart(old: Resolver, new: Resolver, theme: Theme) -> Theme:
    """The old theme with the same modes; defaults where it lacks one."""
    if old.document.axes == new.document.axes:
        return theme
    picks = {
        axis: mode
        for axis, mode in new.picks(theme).items()
        if (known := old.document.axis(axis)) is not None
        and any(there.key == mode for there in known.modes)
    }
    return old.theme(picks)


def _pairings(
    old: Resolver,
    new: Resolver,
    touched: set[str],
    pairs: list[tuple[Theme, Theme]],
    share: int,
) -> tuple[dict[str, int], dict[str, int], dict[str, int]]:
    known = {pairing.key: pairing for pairing in old.document.pairings}

    def concerns(pairing: Pairing) -> bool:
        return bool({pairing.foreground, *pairing.backgrounds, pairing.page} & touched)

    kept = [
        (known[pairing.key], pairing)
        for pairing in new.document.pairings
        if pairing.key in known and (concerns(pairing) or known[pairing.key] != pairing)
    ]
    was = audit(old, [pairing for pairing, _ in kept], [theme for _, theme in pairs])
    now = audit(new, [pairing for _, pairing in kept], [theme for theme, _ in pairs])
    changed: dict[str, int] = {}
    breaks: dict[str, int] = {}
    heals: dict[str, int] = {}
    for first, other in zip(was, now, strict=True):
        if _look(first) != _look(other):
            changed[other.pairing] = changed.get(other.pairing, 0) + share
        if other.fails and not first.fails:
            breaks[other.pairing] = breaks.get(other.pairing, 0) + share
        if first.fails and other.passes:
            heals[other.pairing] = heals.get(other.pairing, 0) + share
    return changed, breaks, heals


def _look(reading: Reading) -> tuple[str, str, str]:
    return reading.foreground, reading.background, reading.missing
