"""A token made ready for resolution: its candidates, the strongest first."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import TypeVar

from prism.errors import ExpressionError
from prism.expressions.syntax import reference_of
from prism.expressions.values import references
from prism.model.document import Document, Token
from prism.model.values import Condition, Expression, Value
from prism.resolution.answers import Answer


@dataclass(frozen=True, slots=True)
class Hop:
    """One step of a trace: a token, the condition that won, its value and the answer here."""

    token: str
    condition: Condition
    value: Value | None
    answer: Answer
    depth: int


@dataclass(frozen=True, slots=True)
class Candidate:
    """One conditional value: positions of axis and mode, keys of the tokens it refers to, and
    the one it is an alias of, if it is one."""

    picks: tuple[tuple[int, int], ...]
    condition: Condition
    value: Value
    targets: tuple[str, ...]
    alias: str = ""


@dataclass(slots=True)
class Compiled:
    key: str
    path: str
    type: str
    axes: tuple[int, ...]
    candidates: tuple[Candidate, ...]

    @property
    def targets(self) -> set[str]:
        return {target for candidate in self.candidates for target in candidate.targets}


class PassedOnError(ExpressionError):
    """What a token refers to has no value here."""


_Kept = TypeVar("_Kept")


def strongest(
    values: Mapping[Condition, _Kept], condition: Condition, positions: Mapping[str, int]
) -> _Kept | None:
    """What holds where exactly the modes of a condition are picked, all others default.
    ``positions`` are the places of the axes by key."""
    if 2 ** len(condition.picks) < len(values):
        subsets = (
            Condition(picks)
            for count in range(len(condition.picks) + 1)
            for picks in combinations(condition.picks, count)
        )
        held = [subset for subset in subsets if subset in values]
    else:
        picked = set(condition.picks)
        held = [known for known in values if picked.issuperset(known.picks)]
    if not held:
        return None
    return values[max(held, key=lambda c: strength([positions[axis] for axis, _ in c.picks]))]


def strength(axes: Sequence[int]) -> tuple[int, tuple[int, ...]]:
    """Sort key of a condition on these axis positions: more axes win, then later ones."""
    return len(axes), tuple(sorted(axes, reverse=True))


def compiled(
    token: Token,
    axis_index: Mapping[str, int],
    mode_index: Sequence[Mapping[str, int]],
    key_at: Mapping[str, str],
) -> Compiled:
    """A token made ready: ``axis_index`` and ``mode_index`` are the positions of axes and of modes on
    each, ``key_at`` the keys of the tokens by path."""
    candidates = []
    axes: set[int] = set()
    for condition, value in token.values:
        picks = tuple(
            sorted(
                (axis_index[axis], mode_index[axis_index[axis]][mode])
                for axis, mode in condition.picks
            )
        )
        axes.update(axis for axis, _ in picks)
        named_keys = (key_at.get(path) for path in references(value, token.type))
        targets = tuple(dict.fromkeys(key for key in named_keys if key is not None))
        whole = isinstance(value, Expression) and bool(reference_of(value.text))
        alias = targets[0] if whole and targets else ""
        candidates.append(Candidate(picks, condition, value, targets, alias))
    candidates.sort(
        key=lambda candidate: strength([axis for axis, _ in candidate.picks]), reverse=True
    )
    return Compiled(token.key, token.path, token.type, tuple(sorted(axes)), tuple(candidates))


def changed_tokens(old: Document, now: Document) -> list[Token] | None:
    """The tokens of ``now`` that are different in ``old``; None where everything may be."""
    if old.axes != now.axes or old.gamut != now.gamut or len(old.tokens) != len(now.tokens):
        return None
    changed = []
    for was, token in zip(old.tokens, now.tokens, strict=True):
        if was is not token and was != token:
            if (was.key, was.path) != (token.key, token.path):
                return None
            changed.append(token)
    return changed
