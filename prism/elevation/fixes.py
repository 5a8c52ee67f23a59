"""What lets a surface lift off the one below it: another step, a color between two steps, a line or a shadow between
the two."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from functools import partial
from itertools import pairwise
from typing import Literal

from prism.changes.references import with_token
from prism.changes.values import set_values
from prism.contrast.nearest_step import Effect, effects
from prism.elevation.lift import DARK, Elevation, Standing, elevation_of
from prism.expressions.typed_input import reference_to, typed
from prism.model.document import Document, Token, shown_path
from prism.model.names import condition_words
from prism.model.values import BASE, Expression, Value
from prism.palette.mapping import ladder_of
from prism.palette.ramp_edits import NewKey, free_name
from prism.resolution.answer_tables import Fixed
from prism.roles import rules
from prism.roles.guess import guess
from prism.sheet.addition import add_token
from prism.solver.decisions import Deciding, Move, State
from prism.solver.nearest import Search
from prism.solver.regressions import Harm

#: A shadow where the document has none.
_SHADOW = "0 1px 4px 0 rgb(0 0 0 / 16%)"
Kind = Literal["step", "between", "line", "shadow"]


@dataclass(frozen=True, slots=True)
class Lifting:
    """What lifts a surface off another: how, in words; the document with it; how the two stand then, and the pairings
    that read otherwise."""

    kind: Kind
    words: str
    document: Document
    standings: tuple[Standing, ...]
    effects: tuple[Effect, ...] = ()


def liftings(document: Document, under: str, over: str, new_key: NewKey) -> list[Lifting]:
    """What lets ``over`` lift off ``under``, surfaces by key, in every theme; at most one of each kind. Nothing is
    offered with which a pairing falls short that did not, or two other levels get closer."""
    state = State(rules.paired(document))
    levels = elevation_of(state)
    standings = list(levels.standings(under, over))
    if (under, over) not in levels.neighbors() or not any(s.fault for s in standings):
        return []
    offered = [
        _moved(document, state, levels, under, over, "step"),
        _moved(document, state, levels, under, over, "between"),
    ]
    if not any(standing.fault == "falling" for standing in standings):
        offered.append(_lined(document, state, under, over, new_key))
        by_night = any(standing.fault and standing.low < DARK for standing in standings)
        if not by_night:
            offered.append(_shaded(document, over, under, new_key))
    return [lifting for lifting in offered if lifting is not None]


def _moved(
    document: Document, state: State, levels: Elevation, under: str, over: str, kind: Kind
) -> Lifting | None:
    """The upper surface moved, or else the lower one."""
    roles = guess(state.document, state.resolver)
    others = [pair for pair in levels.neighbors() if pair != (under, over)]

    def standing(tried: State) -> Elevation:
        return Elevation(tried.document, tried.tables, roles)  # a move changes no role

    def faults(tried: State) -> list[Fixed]:
        return standing(tried).faults(under, over)

    def harms(key: str, before: State, after: State) -> bool:
        was, now = standing(before), standing(after)
        for pair in others:
            if key in pair or before.resolver.graph.users({key}) & set(pair):
                close = [sum(map(side.tables.share, side.faults(*pair))) for side in (was, now)]
                if close[1] > close[0]:
                    return True
        return Harm(before, [key]).is_in(after)

    for key in (over, under):
        search = (
            Search(state, key, faults, partial(harms, key))
            if kind == "step"
            else Search(state, key, faults, partial(harms, key), _between)
        )
        moves = search.moves()
        if moves:
            after = set_values(document, [(m.token, m.condition, m.after) for m in moves])
            stand = standing(State(after, state)).standings(under, over)
            words = ", ".join(_words(document, moves))
            return Lifting(kind, words, after, tuple(stand), tuple(effects(state, moves)))
    return None


def _between(state: State, place: Deciding, value: Value) -> Iterator[Value]:
    """The colors halfway between two steps of the ramp that a value stands on, the nearest first."""
    ladder = ladder_of(state.document, value)
    if ladder is None:
        return
    steps, now = ladder
    ordered = sorted(pairwise(range(len(steps))), key=lambda both: abs(sum(both) / 2 - now))
    for both in ordered:
        tokens = [state.document.token(steps[step]) for step in both]
        texts = [reference_to(state.document, token).text for token in tokens if token is not None]
        yield Expression(f"color-mix(in oklab, {texts[0]} 50%, {texts[1]})")


def _words(document: Document, moves: Iterable[Move]) -> Iterator[str]:
    """What moves set, value by value: ``surface.card to ink.10 for appearance dark``."""
    for move in moves:
        token = document.token(move.token)
        assert token is not None
        where = f" for {condition_words(document, move.condition)}" if move.condition.picks else ""
        yield f"{shown_path(token.path)} to {typed(move.after, token.type).strip('{}')}{where}"


def _lined(
    document: Document, state: State, under: str, over: str, new_key: NewKey
) -> Lifting | None:
    """A line of its own around the upper surface, of the color of the first line of the document that is seen there."""
    for key, known in guess(state.document, state.resolver).items():
        line = document.token(key)
        plain = known.role.kind == "line" and not known.role.state and not known.belongs_to
        if line is None or line.tier != "semantic" or not plain:
            continue
        name = shown_path(line.path)
        words = f"draw a line of its own around it, in the color of {name}"
        after, words = _added(document, line, over, f"{{{name}}}", "line", words, new_key)
        stand = tuple(elevation_of(State(after)).standings(under, over))
        if not any(standing.fault for standing in stand):
            return Lifting("line", words, after, stand)
    return None


def _shaded(document: Document, over: str, under: str, new_key: NewKey) -> Lifting | None:
    """A shadow of its own under the upper surface, like one that is there."""
    like = next(
        (
            token
            for token in document.tokens
            if token.type == "shadow" and token.tier != "raw" and not token.belongs_to
        ),
        None,
    )
    value = f"{{{shown_path(like.path)}}}" if like is not None else _SHADOW
    words = "put a shadow of its own under it"
    words += f", as {shown_path(like.path)}" if like is not None else f", {_SHADOW}"
    after, words = _added(document, like, over, value, "shadow", words, new_key)
    stand = tuple(elevation_of(State(after)).standings(under, over))
    if any(standing.fault for standing in stand):
        return None
    return Lifting("shadow", words, after, stand)


def _added(
    document: Document,
    beside: Token | None,
    surface: str,
    value: str,
    kind: Literal["line", "shadow"],
    words: str,
    new_key: NewKey,
) -> tuple[Document, str]:
    """The document with a token more that belongs to a surface, named after it, and what was added, in words."""
    owner = document.token(surface)
    assert owner is not None
    group = beside.path.rpartition(".")[0] if beside is not None else ""
    path = free_name(document, f"{group or kind}.{shown_path(owner.path).rpartition('.')[2]}")
    after, token = add_token(
        document,
        path,
        [(BASE, value)],
        new_key,
        tier="semantic",
        type="color" if kind == "line" else "shadow",
    )
    after = with_token(after, replace(token, role=kind, belongs_to=surface))
    return after, f"{words}: {shown_path(path)}"
