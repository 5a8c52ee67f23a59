"""The trace of a token in all themes as a picture: one ray for each distinct answer.

Rays run from the token at the left, hop by hop, to what they land on. Hops that rays share are
drawn once; where they part, the condition that parts them is named.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

from prism.tokens.model import Condition, Document, Token, shown_path
from prism.tokens.resolve import Hop, Resolver, Theme
from prism.tokens.resolved import Answer

#: The size of the picture in its own units.
COLUMN, ROW, NODE, HEIGHT = 250.0, 40.0, 168.0, 30.0
_END = 150.0


@dataclass(frozen=True, slots=True)
class Ray:
    """One distinct answer: its path of hops, the modes in which it holds, how many themes.

    ``beside`` are the paths of further tokens that its path mixes in; ``other_ways`` counts other
    paths that come to the same answer.
    """

    answer: Answer
    hops: tuple[Hop, ...]
    words: str
    themes: int
    current: bool
    other_ways: int
    beside: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Node:
    """A hop in the picture: its place, its token, and the condition that led on from it."""

    token: Token
    x: float
    y: float
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
    """Where a ray lands: the color or value, and the modes that give it."""

    ray: Ray
    x: float
    y: float
    hex: str
    text: str


@dataclass(frozen=True, slots=True)
class Picture:
    """The whole picture in its own units."""

    width: float
    height: float
    rays: tuple[Ray, ...]
    nodes: tuple[Node, ...]
    edges: tuple[Edge, ...]
    ends: tuple[End, ...]


def rays(resolver: Resolver, key: str, theme: Theme) -> list[Ray]:
    """The distinct answers of a token over all themes, in the order they are met.

    ``theme`` is the one looked at; its ray is marked as current.
    """
    axes = resolver.influence(key)
    share = 1
    for axis in resolver.document.axes:
        share *= 1 if axis.key in axes else len(axis.modes)
    found: dict[Answer, dict[tuple[Hop, ...], list[Theme]]] = {}
    for at in resolver.themes(axes):
        answer = resolver.resolve(key, at)
        found.setdefault(answer, {}).setdefault(tuple(resolver.trace(key, at)), []).append(at)
    now = resolver.resolve(key, theme)
    made = []
    for answer, ways in found.items():
        most = max(ways.items(), key=lambda way: len(way[1]))
        if answer == now:
            own = tuple(resolver.trace(key, theme))
            most = next((way for way in ways.items() if way[0] == own), most)
        themes = [at for held in ways.values() for at in held]
        words = _modes_in(resolver, axes, themes)
        chain = _chain(most[0])
        beside = [one for one in most[0] if one not in chain]
        made.append(
            Ray(
                answer,
                chain,
                words,
                len(themes) * share,
                answer == now,
                len(ways) - 1,
                tuple(_path(resolver.document, one.token) for one in beside),
            )
        )
    return made


def _chain(hops: Sequence[Hop]) -> tuple[Hop, ...]:
    """The hops down the first reference of each; what else a value mixes in is left out."""
    chain: list[Hop] = []
    for hop in hops:
        if hop.depth < len(chain):
            break
        chain.append(hop)
    return tuple(chain)


def _path(document: Document, key: str) -> str:
    token = document.token(key)
    return shown_path(token.path) if token else key


def _modes_in(resolver: Resolver, axes: Sequence[str], themes: Sequence[Theme]) -> str:
    """The modes that some themes have, axis by axis, where they are not all of them."""
    said = []
    for axis in resolver.document.axes:
        if axis.key not in axes:
            continue
        index = resolver.axis_index[axis.key]
        there = sorted({theme[index] for theme in themes})
        if len(there) < len(axis.modes):
            said.append(" or ".join(axis.modes[place].name for place in there))
    return ", ".join(said) or "everywhere"


@dataclass(slots=True)
class _Branch:
    """A token in the tree that rays share: what follows it and the rays that end at it, each with
    the condition that led there."""

    token: str
    depth: int
    children: list[tuple[Condition, _Branch]] = field(default_factory=list)
    ends: list[tuple[Condition, int]] = field(default_factory=list)
    y: float = 0.0
    current: bool = False


def picture(resolver: Resolver, key: str, theme: Theme) -> Picture:
    """The picture of a token's rays."""
    found = rays(resolver, key, theme)
    root = _Branch(key, 0)
    for number, ray in enumerate(found):
        _grow(root, ray, number)
    ys: list[float] = [0.0] * len(found)
    rows = _place(root, 0, ys)
    depth = max((len(ray.hops) for ray in found), default=1)
    nodes: list[Node] = []
    edges: list[Edge] = []
    _draw(resolver.document, root, (depth * COLUMN, ys, found), nodes, edges)
    ends = tuple(
        End(ray, depth * COLUMN, ys[number], ray.answer.hex, _landing(ray))
        for number, ray in enumerate(found)
    )
    size = (depth * COLUMN + _END, max(rows, 1) * ROW)
    return Picture(*size, tuple(found), tuple(nodes), tuple(edges), ends)


def _landing(ray: Ray) -> str:
    answer = ray.answer
    return answer.broken or ("no value" if answer.absent else answer.hex or answer.css)


def _grow(root: _Branch, ray: Ray, number: int) -> None:
    """Add a ray to the tree."""
    branch = root
    branch.current = branch.current or ray.current
    for hop, following in zip(ray.hops, (*ray.hops[1:], None), strict=True):
        if following is None:
            branch.ends.append((hop.condition, number))
            return
        child = next(
            (
                one
                for condition, one in branch.children
                if condition == hop.condition and one.token == following.token
            ),
            None,
        )
        if child is None:
            child = _Branch(following.token, branch.depth + 1)
            branch.children.append((hop.condition, child))
        child.current = child.current or ray.current
        branch = child


def _place(branch: _Branch, row: int, ys: list[float]) -> int:
    """Give every ray a row from ``row`` on and every branch the middle of its rays; the next row."""
    inside: list[float] = []
    for _, number in branch.ends:
        ys[number] = (row + 0.5) * ROW
        inside.append(ys[number])
        row += 1
    for _, child in branch.children:
        row = _place(child, row, ys)
        inside.append(child.y)
    branch.y = sum(inside) / len(inside) if inside else (row + 0.5) * ROW
    return row


def _draw(
    document: Document,
    branch: _Branch,
    landing: tuple[float, Sequence[float], Sequence[Ray]],
    nodes: list[Node],
    edges: list[Edge],
) -> None:
    token = document.token(branch.token)
    assert token is not None
    x = branch.depth * COLUMN
    nodes.append(Node(token, x, branch.y, shown_path(token.path), branch.current))
    end, ys, found = landing
    forks = len(branch.children) + len(branch.ends) > 1
    for condition, number in branch.ends:
        edges.append(
            _edge(
                document, (x, branch.y), (end, ys[number]), condition, forks, found[number].current
            )
        )
    for condition, child in branch.children:
        to = (child.depth * COLUMN, child.y)
        edges.append(_edge(document, (x, branch.y), to, condition, forks, child.current))
        _draw(document, child, landing, nodes, edges)


def _mode_names(document: Document, condition: Condition) -> str:
    """A condition by the names of its modes alone, for narrow places."""
    return ", ".join(
        axis.mode(mode).name
        for axis in document.axes
        if (mode := condition.mode_on(axis.key)) is not None
    )


def _edge(
    document: Document,
    start: tuple[float, float],
    to: tuple[float, float],
    condition: Condition,
    forks: bool,
    current: bool,
) -> Edge:
    x1, y1 = start[0] + NODE, start[1]
    x2, y2 = to
    bend = (x1 + min(x2, start[0] + COLUMN)) / 2
    path = f"M{x1:.1f} {y1:.1f}C{bend:.1f} {y1:.1f} {bend:.1f} {y2:.1f} {min(x2, start[0] + COLUMN):.1f} {y2:.1f}H{x2:.1f}"
    words = ""
    if condition.picks or forks:
        words = _mode_names(document, condition) if condition.picks else "base"
    return Edge(path, words, x1 + 4, y2 - 5, current)
