"""What the colors of a picture would write, before anything is stored."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.color import space
from prism.model.document import Document, Token
from prism.resolution.current import resolver_of
from prism.resolution.resolver import Resolver, Theme

#: Themes of one token that are listed.
_LISTED = 12


@dataclass(frozen=True, slots=True)
class Change:
    """A token's color before and after in some themes, which are named by their modes."""

    modes: str
    before: str
    after: str


@dataclass(frozen=True, slots=True)
class Written:
    """What one color becomes: ``color``, ``ramp`` or ``token``, its name, and where a token changes; ``more``
    counts the themes that are not listed."""

    color: str
    kind: str
    target: str
    changes: tuple[Change, ...] = ()
    more: int = 0


def written(
    analysis: Analysis, after: Document, uses: Sequence[tuple[str, str, str]]
) -> list[Written]:
    """What each use of a color writes: its text, what it becomes, and the name of that."""
    resolver = resolver_of(after, analysis.resolver)
    rows = []
    for text, kind, target in uses:
        color = space.hex_text(space.parse(text))
        token = analysis.document.token_at(target) if kind == "token" else None
        if token is None:
            rows.append(Written(color, kind, target))
            continue
        changes = _changes(analysis, resolver, token)
        rows.append(Written(color, kind, target, tuple(changes[:_LISTED]), len(changes[_LISTED:])))
    return rows


def _changes(analysis: Analysis, after: Resolver, token: Token) -> list[Change]:
    """Where a token comes out as another color, theme by theme of the axes that it varies by."""
    before = analysis.resolver
    axes = {*before.influence(token.key), *after.influence(token.key)}
    places = [place for place, axis in enumerate(after.document.axes) if axis.key in axes]
    changes = []
    for theme in after.themes(list(axes)):
        was, now = before.resolve(token.key, theme), after.resolve(token.key, theme)
        if was != now:
            changes.append(Change(_modes(after, places, theme), was.hex, now.hex))
    return changes


def _modes(resolver: Resolver, places: Sequence[int], theme: Theme) -> str:
    axes = resolver.document.axes
    return ", ".join(axes[place].modes[theme[place]].name for place in places) or "every theme"
