"""The ladder: ramps as rows of steps, the tokens of each mode as marks on them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from prism.expressions.syntax import reference_of
from prism.model.document import Axis, Document, Mode, Ramp, Token, shown_path
from prism.model.values import Expression
from prism.resolution.answers import Answer
from prism.resolution.resolver import Resolver, Theme


@dataclass(frozen=True, slots=True)
class Mark:
    """A token that stands on a step in a mode. ``mirrored`` tells that in the axis's default mode
    it stands on the opposite step of the same ramp; ``through`` names the alias between, if any."""

    token: Token
    mode: Mode | None
    name: str
    mirrored: bool
    through: str


@dataclass(frozen=True, slots=True)
class Rung:
    """A step of a ramp with the marks on it."""

    token: Token
    name: str
    answer: Answer
    marks: tuple[Mark, ...]


@dataclass(frozen=True, slots=True)
class Ladder:
    """A ramp in one mode, with its rungs in order."""

    ramp: Ramp
    mode: Mode | None
    rungs: tuple[Rung, ...]


def ladders(
    resolver: Resolver, axis: Axis | None, theme: Theme, group: str = ""
) -> list[tuple[Ramp, list[Ladder]]]:
    """For each ramp that some token of ``group`` (all without) stands on, one ladder a mode."""
    document = resolver.document
    modes: Sequence[Mode | None] = axis.modes if axis else (None,)
    where: dict[tuple[str, str], list[tuple[Token, str]]] = {}
    stands: dict[tuple[str, str], str] = {}
    step_of = {key: ramp for ramp in document.ramps for key in ramp.steps}
    for mode in modes:
        at = (
            resolver.theme(resolver.picks(theme) | {axis.key: mode.key}) if axis and mode else theme
        )
        for token in document.tokens:
            if not _has_mark(token) or (group and not token.within(group)):
                continue
            step, through = _step(resolver, token, at, step_of)
            if step:
                name = mode.key if mode else ""
                where.setdefault((step, name), []).append((token, through))
                stands[token.key, name] = step
    ladders = []
    for ramp in document.ramps:
        rows = [_ladder(resolver, ramp, axis, mode, theme, where, stands) for mode in modes]
        if any(rung.marks for row in rows for rung in row.rungs):
            ladders.append((ramp, rows))
    return ladders


def _step(
    resolver: Resolver, token: Token, theme: Theme, step_of: dict[str, Ramp]
) -> tuple[str, str]:
    """The step a token comes to by plain references, and the token it goes through; or nothing."""
    through = ""
    current = token
    for _ in range(20):
        won = resolver.winner(current.key, theme)
        path = reference_of(won[1].text) if won and isinstance(won[1], Expression) else ""
        target = resolver.document.token_at(path) if path else None
        if target is None:
            return "", ""
        if target.key in step_of:
            return target.key, through
        if target.tier == "semantic" and token.tier == "component":
            return "", ""
        through = through or shown_path(target.path)
        current = target
    return "", ""


def groups(document: Document) -> list[str]:
    """The groups that have tokens to stand on ladders, in order."""
    return list(dict.fromkeys(token.top for token in document.tokens if _has_mark(token)))


def _has_mark(token: Token) -> bool:
    return token.tier != "raw" and token.type == "color"


def _ladder(
    resolver: Resolver,
    ramp: Ramp,
    axis: Axis | None,
    mode: Mode | None,
    theme: Theme,
    where: dict[tuple[str, str], list[tuple[Token, str]]],
    stands: dict[tuple[str, str], str],
) -> Ladder:
    name = mode.key if mode else ""
    opposite = dict(zip(ramp.steps, reversed(ramp.steps), strict=True))
    default = axis.default if axis else ""
    rungs = []
    for key in ramp.steps:
        token = resolver.document.token(key)
        if token is None:
            continue
        marks = tuple(
            Mark(
                condition,
                mode,
                shown_path(condition.path),
                bool(mode)
                and name != default
                and stands.get((condition.key, default)) == opposite[key],
                through,
            )
            for condition, through in where.get((key, name), ())
        )
        leaf = token.leaf
        rungs.append(Rung(token, leaf, resolver.resolve(key, theme), marks))
    return Ladder(ramp, mode, tuple(rungs))
