"""What stands on what in a scene and is no pairing yet: texts with their size and weight as painted, edges of controls,
and graphics, each with the requirement of its use.

Source: WCAG 2.2, success criteria 1.4.3 (large text: 24 px, or 18.66 px bold, and up) and 1.4.11.
"""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from prism.analysis import Analysis
from prism.model.document import Token, Use
from prism.resolution.contrast import REQUIRED
from prism.scenes.markup import Element, SceneRead

#: Pixels from which a text is large, at any weight and bold, and what counts as bold.
LARGE, LARGE_BOLD, BOLD = 24.0, 18.66, 700
#: Words in the names of elements that are controls.
_CONTROLS = frozenset(("field", "button", "box", "choice", "seat", "slider"))
_GRAPHICS = ("svg", "path", "circle", "rect")
#: Sizes of texts as painted: font size in CSS pixels and weight, by the place of their element.
Sizes = Mapping[int, tuple[float, int]]


@dataclass(frozen=True, slots=True)
class ScenePair:
    """A foreground on a stack of backgrounds, down to an opaque one: its use, the ratio it needs, how often it is seen,
    and the sizes of its texts in words, empty where these are not known."""

    foreground: Token
    backgrounds: tuple[Token, ...]
    use: Use
    count: int
    sizes: str

    @property
    def required(self) -> float:
        """The ratio it needs."""
        return REQUIRED[self.use]


@dataclass(frozen=True, slots=True)
class _Seen:
    """One thing that is seen: the slots of its color and of what it stands on, its use and its size."""

    slot: str
    fills: tuple[str, ...]
    use: Use
    size: tuple[float, int] | None = None


def is_large(size: float, weight: int) -> bool:
    """Whether a text of a size in CSS pixels and a weight is large."""
    return size >= LARGE or (size >= LARGE_BOLD and weight >= BOLD)


def missing(analysis: Analysis, scene: SceneRead, sizes: Sizes | None = None) -> list[ScenePair]:
    """The pairs that are no pairing yet, those that are seen most first. A pair of small and of large texts needs what
    the small ones need."""
    bound = analysis.bindings
    known = {(p.foreground, p.backgrounds[:1]) for p in analysis.paired.pairings}
    seen_as: dict[tuple[str, tuple[str, ...]], list[_Seen]] = {}
    for seen in _seen(scene, sizes or {}):
        if seen.slot not in bound or any(slot not in bound for slot in seen.fills):
            continue
        keys = tuple(_down_to_opaque(analysis, (bound[slot].key for slot in seen.fills)))
        if keys and (bound[seen.slot].key, keys[:1]) not in known:
            seen_as.setdefault((bound[seen.slot].key, keys), []).append(seen)
    tokens = {token.key: token for token in analysis.document.tokens}
    pairs = [
        ScenePair(
            tokens[above],
            tuple(tokens[key] for key in keys),
            max((seen.use for seen in same), key=_strictness),
            len(same),
            _words([seen.size for seen in same if seen.size is not None]),
        )
        for (above, keys), same in seen_as.items()
    ]
    return sorted(pairs, key=lambda pair: -pair.count)


def _strictness(use: Use) -> tuple[float, bool]:
    return REQUIRED[use], use == "large text"


def _seen(scene: SceneRead, sizes: Sizes) -> Iterator[_Seen]:
    """Texts, edges of controls, and graphics; what is disabled needs nothing."""
    for run in scene.runs:
        if not run.exempt:
            size = sizes.get(run.element)
            use: Use = "large text" if size is not None and is_large(*size) else "text"
            yield _Seen(run.ink, run.fills, use, size)
    for element in scene.elements:
        if not element.is_disabled:
            yield from _shapes(element)


def _shapes(element: Element) -> Iterator[_Seen]:
    """What is seen of an element beside its text."""
    below = element.fills[1:] if element.own_fill else element.fills
    if not _CONTROLS.isdisjoint(element.name.replace(",", " ").split()):
        for use in element.uses:
            if use.paint == "edge" and not use.state:
                yield _Seen(use.slot, below, "control")
    if element.tag in _GRAPHICS and element.own_ink:
        yield _Seen(element.own_ink, element.fills, "graphic")
    if element.own_fill.startswith("chart-"):
        yield _Seen(element.own_fill, below, "graphic")


def _words(sizes: list[tuple[float, int]]) -> str:
    """Sizes in words: ``13 to 16 px``."""
    if not sizes:
        return ""
    least, most = (round(end(size for size, _ in sizes), 1) for end in (min, max))
    return f"{least:g} px" if least == most else f"{least:g} to {most:g} px"


def _down_to_opaque(analysis: Analysis, keys: Iterable[str]) -> Iterable[str]:
    """Layers under something down to the first that lets nothing through, in the default theme."""
    resolver = analysis.resolver
    for key in keys:
        yield key
        shown = resolver.resolve(key, resolver.default_theme).color
        if shown is None or shown.alpha >= 1:
            return


def read_sizes(written: str) -> dict[int, tuple[float, int]]:
    """Sizes as a page writes them: ``12:24:700,13:16:400``, place, pixels and weight; what is no size is left out."""
    sizes = {}
    for part in written.split(",")[:1000]:
        place, _, rest = part.partition(":")
        size, _, weight = rest.partition(":")
        plain = size.replace(".", "", 1)
        if all(
            text.isascii() and text.isdigit() and len(text) < 8 for text in (place, plain, weight)
        ):
            sizes[int(place)] = float(size), int(weight)
    return sizes
