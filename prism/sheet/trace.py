"""The trace of a token in all themes as a picture: one ray for each distinct answer.

Rays run from the token at the left, hop by hop, to what they land on. Hops that rays share are
drawn once; where they part, the condition that parts them is named.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, field
from typing import ClassVar

from prism.expressions.syntax import REFERENCE, reference_of
from prism.model.document import Document, Token
from prism.model.values import Condition, Expression
from prism.resolution.compiled import Hop
from prism.resolution.resolver import Resolver, Theme
from prism.sheet.rays import MOST_WAYS, Ray, Way, path_of, rays

#: The height of a row and the width of a swatch at the end, in the picture's own units.
ROW, _SWATCH = 28.0, 37.0
#: The width of a letter in a node and at a line.
_LETTER, _SMALL = 7.0, 5.6


@dataclass(frozen=True, slots=True)
class Node:
    """A hop in the picture: its token, its place and how wide it is."""

    token: Token
    x: float
    y: float
    width: float
    label: str
    current: bool


@dataclass(frozen=True, slots=True)
class Edge:
    """A line between two places, and what is said at it."""

    path: str
    words: str
    x: float
    y: float
    current: bool


@dataclass(frozen=True, slots=True)
class End:
    """Where a ray lands: the color or value, and the modes that give it, said from ``words_x`` on."""

    ray: Ray
    x: float
    y: float
    hex: str
    text: str
    words_x: float


@dataclass(frozen=True, slots=True)
class Picture:
    """The whole picture in its own units, and how many letters of a label, of the words at a fork,
    of a value and of the modes it holds in have room."""

    LABEL: ClassVar[int] = 24
    WORDS: ClassVar[int] = 24
    VALUE: ClassVar[int] = 18
    MODES: ClassVar[int] = 44

    width: float
    height: float
    rays: tuple[Ray, ...]
    nodes: tuple[Node, ...]
    edges: tuple[Edge, ...]
    ends: tuple[End, ...]


@dataclass(slots=True)
class _Tip:
    """Where a way leaves its last token for the ray with a number; ``y`` is its own row."""

    conditions: tuple[Condition, ...]
    number: int
    first: bool
    y: float = 0.0


@dataclass(slots=True)
class _Branch:
    """A token in the tree that ways share: what follows it, each with the conditions that lead
    there, and the ways that end at it."""

    token: str
    depth: int
    #: What is computed of the token's value, where this is that step and no token of its own.
    computed: str = ""
    children: list[tuple[tuple[Condition, ...], _Branch]] = field(default_factory=list)
    tips: list[_Tip] = field(default_factory=list)
    y: float = 0.0
    current: bool = False

    @property
    def forks(self) -> bool:
        """Whether more than one way leads on."""
        return len(self.children) + len(self.tips) > 1


def picture(resolver: Resolver, key: str, theme: Theme) -> Picture:
    """The picture of a token's rays."""
    drawn = rays(resolver, key, theme)
    root = _Branch(key, 0)
    for number, ray in enumerate(drawn):
        for way in ray.ways[:MOST_WAYS]:
            _grow(root, ray, way, number)
    ys: list[float] = [0.0] * len(drawn)
    rows = _place(root, 0, ys)
    letters: list[tuple[int, int]] = []
    _measure(resolver.document, root, letters)
    columns, end = [], 0.0
    for label, words in letters:
        width = min(label, Picture.LABEL) * _LETTER + 18
        gap = min(words, Picture.WORDS) * _SMALL + 28
        columns.append(_Column(end, width, gap))
        end += width + gap
    nodes: list[Node] = []
    edges: list[Edge] = []
    _draw(resolver.document, root, (columns, end, ys, drawn), nodes, edges)
    texts = [_landing(ray) for ray in drawn]
    words_x = (
        end + _SWATCH + max((min(len(text), Picture.VALUE) for text in texts), default=0) * _LETTER
    )
    ends = tuple(
        End(ray, end, ys[number], ray.answer.hex, texts[number], words_x + 8)
        for number, ray in enumerate(drawn)
    )
    labels = max((min(len(ray.words), Picture.MODES) for ray in drawn), default=0)
    size = (words_x + 16 + labels * _SMALL, max(rows, 1) * ROW)
    return Picture(*size, tuple(drawn), tuple(nodes), tuple(edges), ends)


@dataclass(frozen=True, slots=True)
class _Column:
    """A column of nodes: where it starts, how wide they are, and the room behind them."""

    x: float
    width: float
    gap: float


def _measure(document: Document, branch: _Branch, letters: list[tuple[int, int]]) -> None:
    """Count for each column the letters of its longest label and of what is said behind it."""
    if len(letters) == branch.depth:
        letters.append((0, 0))
    forks = branch.forks
    words = [
        _fork_words(document, conditions, forks)
        for conditions in (
            *(led for led, _ in branch.children),
            *(tip.conditions for tip in branch.tips),
        )
    ]
    label, small = letters[branch.depth]
    letters[branch.depth] = (
        max(label, len(_label(document, branch))),
        max(small, *map(len, words)),
    )
    for _, child in branch.children:
        _measure(document, child, letters)


def _label(document: Document, branch: _Branch) -> str:
    return branch.computed or path_of(document, branch.token)


def _landing(ray: Ray) -> str:
    answer = ray.answer
    return answer.broken or ("no value" if answer.absent else answer.hex or answer.css)


def _grow(root: _Branch, ray: Ray, way: Way, number: int) -> None:
    """Add a way to the tree."""
    first = way is ray.ways[0]
    branch = root
    branch.current = branch.current or ray.current
    for conditions, token, computed in _steps(way):
        child = next(
            (
                below
                for led, below in branch.children
                if (led, below.token, below.computed) == (conditions, token, computed)
            ),
            None,
        )
        if child is None:
            child = _Branch(token, branch.depth + 1, computed)
            branch.children.append((conditions, child))
        child.current = child.current or (ray.current and first)
        branch = child
    branch.tips.append(_Tip(way.conditions[-1], number, first))


def _steps(way: Way) -> Iterator[tuple[tuple[Condition, ...], str, str]]:
    """What follows the first token of a way: the conditions that lead there, its token, and what is
    computed there where that is a step of its own, with its parts."""
    for conditions, hop, following in zip(way.conditions, way.hops, way.hops[1:], strict=False):
        computed = _computed(hop)
        if computed:
            yield conditions, hop.token, computed
            conditions = ()
        yield conditions, following.token, ""


def _computed(hop: Hop) -> str:
    """A value that computes with what it refers to, as it is written; empty for a plain reference."""
    text = hop.value.text if isinstance(hop.value, Expression) else ""
    return "" if not text or reference_of(text) else REFERENCE.sub(lambda match: match[1], text)


def _place(branch: _Branch, row: int, ys: list[float]) -> int:
    """Give every way a row from ``row`` on and every branch the middle of its ways; the next row.

    ``ys`` takes the rows of the rays, which are those of their first ways.
    """
    inside: list[float] = []
    for tip in branch.tips:
        tip.y = (row + 0.5) * ROW
        if tip.first:
            ys[tip.number] = tip.y
        inside.append(tip.y)
        row += 1
    for _, child in branch.children:
        row = _place(child, row, ys)
        inside.append(child.y)
    branch.y = sum(inside) / len(inside) if inside else (row + 0.5) * ROW
    return row


def _draw(
    document: Document,
    branch: _Branch,
    frame: tuple[Sequence[_Column], float, Sequence[float], Sequence[Ray]],
    nodes: list[Node],
    edges: list[Edge],
) -> None:
    token = document.token(branch.token)
    assert token is not None
    columns, end, ys, drawn = frame
    column = columns[branch.depth]
    label = _label(document, branch)
    nodes.append(Node(token, column.x, branch.y, column.width, label, branch.current))
    start = (column.x + column.width, branch.y)
    for tip in branch.tips:
        words = _fork_words(document, tip.conditions, branch.forks)
        current = drawn[tip.number].current and tip.first
        to = (end, ys[tip.number])
        edges.append(_edge(start, tip.y, to, words, (column.gap, columns[-1].gap), current=current))
    for conditions, child in branch.children:
        words = _fork_words(document, conditions, branch.forks)
        to = (columns[child.depth].x, child.y)
        gaps = (column.gap, column.gap)
        edges.append(_edge(start, child.y, to, words, gaps, current=child.current))
        _draw(document, child, frame, nodes, edges)


def _fork_words(document: Document, conditions: Sequence[Condition], forks: bool) -> str:
    """Conditions by the names of their modes alone; nothing where there is nothing to tell."""
    if not forks and not any(condition.picks for condition in conditions):
        return ""
    return " or ".join(_mode_names(document, picks) or "base" for picks in _joined(conditions))


def _joined(conditions: Sequence[Condition]) -> list[dict[str, set[str]]]:
    """Conditions as modes by axis; those that differ on one axis alone are said as one."""
    joined: list[dict[str, set[str]]] = []
    for condition in conditions:
        picks = {axis: {mode} for axis, mode in condition.picks}
        for other in joined:
            apart = [axis for axis in picks if picks[axis] != other.get(axis)]
            if picks.keys() == other.keys() and len(apart) == 1:
                other[apart[0]] |= picks[apart[0]]
                break
        else:
            joined.append(picks)
    return joined


def _mode_names(document: Document, picks_of_each: dict[str, set[str]]) -> str:
    return ", ".join(
        " or ".join(mode.name for mode in axis.modes if mode.key in picks_of_each[axis.key])
        for axis in document.axes
        if axis.key in picks_of_each
    )


def _edge(
    start: tuple[float, float],
    row: float,
    to: tuple[float, float],
    words: str,
    gaps: tuple[float, float],
    *,
    current: bool,
) -> Edge:
    """A line that bends into its row in the gap behind its start, and out of it in the gap before
    its end."""
    path = f"M{start[0]:.1f} {start[1]:.1f}"
    at = start
    if to[0] - start[0] > sum(gaps):
        at = (start[0] + gaps[0], row)
        path += _bend(start, at) + f"H{to[0] - gaps[1]:.1f}"
        at = (to[0] - gaps[1], row)
    path += _bend(at, to)
    return Edge(path, words, start[0] + 8, (row if at != start else to[1]) - 6, current)


def _bend(start: tuple[float, float], to: tuple[float, float]) -> str:
    half = (start[0] + to[0]) / 2
    return f"C{half:.1f} {start[1]:.1f} {half:.1f} {to[1]:.1f} {to[0]:.1f} {to[1]:.1f}"
