"""The rays of a trace: one for each distinct answer of a token."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from prism.model.document import Document, shown_path
from prism.model.values import Condition
from prism.resolution.answers import Answer
from prism.resolution.compiled import Hop
from prism.resolution.resolver import Resolver, Theme

#: So many ways to one answer are drawn.
MOST_WAYS = 4


@dataclass(frozen=True, slots=True)
class Way:
    """A path of hops to an answer; for each hop the conditions that lead on from it."""

    hops: tuple[Hop, ...]
    conditions: tuple[tuple[Condition, ...], ...]


@dataclass(frozen=True, slots=True)
class Ray:
    """One distinct answer: the ways to it, the modes in which it holds, how many themes.

    The first way is the one of the theme looked at, or else of most themes; the others go over
    other tokens. ``beside`` are the paths of further tokens that the first mixes in.
    """

    answer: Answer
    ways: tuple[Way, ...]
    words: str
    themes: int
    current: bool
    beside: tuple[str, ...] = ()

    @property
    def hops(self) -> tuple[Hop, ...]:
        """The hops of the first way."""
        return self.ways[0].hops

    @property
    def not_drawn(self) -> int:
        """How many ways the picture leaves out."""
        return max(len(self.ways) - MOST_WAYS, 0)


def rays(resolver: Resolver, key: str, theme: Theme) -> list[Ray]:
    """The distinct answers of a token over all themes, in the order they are met.

    ``theme`` is the one looked at; its ray is marked as current.
    """
    axes = resolver.influence(key)
    share = 1
    for axis in resolver.document.axes:
        share *= 1 if axis.key in axes else len(axis.modes)
    by_answer: dict[Answer, dict[tuple[Hop, ...], list[Theme]]] = {}
    for at in resolver.themes(axes):
        answer = resolver.resolve(key, at)
        by_answer.setdefault(answer, {}).setdefault(tuple(resolver.trace(key, at)), []).append(at)
    now, own = resolver.resolve(key, theme), tuple(resolver.trace(key, theme))
    made = []
    for answer, traces in by_answer.items():
        first = max(traces, key=lambda answers: (answers == own, len(traces[answers])))
        themes = [at for held in traces.values() for at in held]
        chain = _chain(first)
        made.append(
            Ray(
                answer,
                _ways([first, *traces]),
                _modes_in(resolver, axes, themes),
                len(themes) * share,
                answer == now,
                tuple(
                    path_of(resolver.document, condition.token)
                    for condition in first
                    if condition not in chain
                ),
            )
        )
    return made


def _ways(traces: Iterable[Sequence[Hop]]) -> tuple[Way, ...]:
    """Traces as ways; those over the same tokens are one."""
    ways: dict[tuple[str, ...], list[tuple[Hop, ...]]] = {}
    for trace in traces:
        chain = _chain(trace)
        ways.setdefault(tuple(hop.token for hop in chain), []).append(chain)
    return tuple(
        Way(
            same[0],
            tuple(
                tuple(dict.fromkeys(chain[place].condition for chain in same))
                for place in range(len(same[0]))
            ),
        )
        for same in ways.values()
    )


def _chain(hops: Sequence[Hop]) -> tuple[Hop, ...]:
    """The hops down the first reference of each; what else a value mixes in is left out."""
    chain: list[Hop] = []
    for hop in hops:
        if hop.depth < len(chain):
            break
        chain.append(hop)
    return tuple(chain)


def path_of(document: Document, key: str) -> str:
    token = document.token(key)
    return shown_path(token.path) if token else key


def _modes_in(resolver: Resolver, axes: Sequence[str], themes: Sequence[Theme]) -> str:
    """The modes that some themes have, axis by axis, where they are not all of them."""
    sentences = []
    for axis in resolver.document.axes:
        if axis.key not in axes:
            continue
        index = resolver.axis_index[axis.key]
        there = sorted({theme[index] for theme in themes})
        if len(there) < len(axis.modes):
            sentences.append(" or ".join(axis.modes[place].name for place in there))
    return ", ".join(sentences) or "everywhere"
